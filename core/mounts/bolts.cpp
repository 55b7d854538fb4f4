#include "mounts/bolts.h"

#include <algorithm>
#include <cmath>

namespace gabarit::mounts {

std::optional<double> coarsePitch_mm(double thread_mm) {
    static const std::pair<double, double> coarse[] = {{4, 0.7}, {5, 0.8}, {6, 1},    {8, 1.25}, {10, 1.5}, {12, 1.75},
                                                       {14, 2},  {16, 2},  {18, 2.5}, {20, 2.5}, {22, 2.5}, {24, 3}};
    for (const auto& [d, p] : coarse)
        if (std::abs(d - thread_mm) < 0.05) return p;
    return std::nullopt;
}

double stressArea_mm2(double thread_mm, double pitch_mm) {
    const double d = thread_mm - 0.9382 * pitch_mm;
    return M_PI / 4 * d * d;
}

std::optional<double> proofStress_mpa(const std::string& grade, double thread_mm) {
    const bool thick = thread_mm > 16;
    if (grade == "4.6") return 225;
    if (grade == "5.6") return 280;
    if (grade == "8.8") return thick ? 600 : 580;
    if (grade == "9.8") return 650;
    if (grade == "10.9") return 830;
    if (grade == "12.9") return 970;
    return std::nullopt;
}

} // namespace gabarit::mounts
