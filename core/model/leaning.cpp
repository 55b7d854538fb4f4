#include "model/leaning.h"

#include <algorithm>
#include <cmath>

namespace gabarit::model {

using Eigen::Vector3d;

namespace {
constexpr double deg_per_rad = 180 / M_PI;
}

Vector3d along(Straight way) {
    switch (way) {
    case Straight::Forward: return -Vector3d::UnitX();
    case Straight::Rearward: return Vector3d::UnitX();
    case Straight::Left: return -Vector3d::UnitY();
    case Straight::Right: return Vector3d::UnitY();
    case Straight::Up: return Vector3d::UnitZ();
    case Straight::Down: break;
    }
    return -Vector3d::UnitZ();
}

const char* straightWords(Straight way) {
    switch (way) {
    case Straight::Forward: return "forward";
    case Straight::Rearward: return "rearward";
    case Straight::Left: return "{to_left}";
    case Straight::Right: return "{to_right}";
    case Straight::Up: return "up";
    case Straight::Down: break;
    }
    return "down";
}

std::array<Straight, 2> leansTo(Straight way) {
    switch (way) {
    case Straight::Up:
    case Straight::Down: return {Straight::Forward, Straight::Right};
    case Straight::Left:
    case Straight::Right: return {Straight::Up, Straight::Forward};
    case Straight::Forward:
    case Straight::Rearward: break;
    }
    return {Straight::Up, Straight::Right};
}

Leaning leaningOf(const Vector3d& direction) {
    Leaning out;
    out.way = *std::max_element(all_straight.begin(), all_straight.end(), [&](Straight a, Straight b) {
        return direction.dot(along(a)) < direction.dot(along(b));
    });
    const auto to = leansTo(out.way);
    for (std::size_t i = 0; i < to.size(); ++i)
        out.lean_deg[i] = std::atan2(direction.dot(along(to[i])), direction.dot(along(out.way))) * deg_per_rad;
    return out;
}

Vector3d directionOf(const Leaning& leaning) {
    // The greater lean sets its plane, so that at 90° it is that way and beyond it comes out behind.
    const std::size_t greater = std::abs(leaning.lean_deg[0]) >= std::abs(leaning.lean_deg[1]) ? 0 : 1;
    const auto to = leansTo(leaning.way);
    const double first_rad = leaning.lean_deg[greater] / deg_per_rad;
    const double second_rad = leaning.lean_deg[1 - greater] / deg_per_rad;
    const Vector3d out = std::cos(first_rad) * (along(leaning.way) + std::tan(second_rad) * along(to[1 - greater])) +
                         std::sin(first_rad) * along(to[greater]);
    return out.normalized();
}

} // namespace gabarit::model
