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

std::optional<double> nutHeight_mm(double thread_mm) {
    static const std::pair<double, double> heights[] = {{4, 3.2},   {5, 4.7},   {6, 5.2},   {8, 6.8},
                                                        {10, 8.4},  {12, 10.8}, {14, 12.8}, {16, 14.8},
                                                        {18, 15.8}, {20, 18},   {22, 19.4}, {24, 21.5}};
    for (const auto& [d, height] : heights)
        if (std::abs(d - thread_mm) < 0.05) return height;
    return std::nullopt;
}

double threadedLength_mm(double thread_mm, double length_mm) {
    const double beyond_mm = length_mm <= 125 ? 6 : length_mm <= 200 ? 12 : 25;
    return std::min(length_mm, 2 * thread_mm + beyond_mm);
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
