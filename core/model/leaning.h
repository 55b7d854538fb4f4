// A direction in words and degrees, as a square and an angle gauge give it, in place of three numbers.
#pragma once

#include <Eigen/Core>

#include <array>

namespace gabarit::model {

/// In the order of fit::Way. The six ways straight along an owner's axes (x rearward, y to its right, z up).
enum class Straight { Forward, Rearward, Left, Right, Up, Down };
constexpr std::array<Straight, 6> all_straight{Straight::Up,    Straight::Down,    Straight::Left,
                                               Straight::Right, Straight::Forward, Straight::Rearward};

/// Unit vector of it, in the owner's frame.
Eigen::Vector3d along(Straight way);
/// "up", "forward", "{to_left}"…: its sides are marks that `sided` makes words of.
const char* straightWords(Straight way);

/// A direction: the way it mostly goes, and how far it leans from it as seen along each of the other two axes.
struct Leaning {
    Straight way = Straight::Up;
    /// Towards `leansTo(way)`; below zero the other way. As seen square to the plane of the way and that lean, which
    /// is what a gauge laid on in that view reads.
    std::array<double, 2> lean_deg{0, 0};
};

/// What the leans of a way go towards: up and down lean forward and to the right, forward and rearward up and to the
/// right, left and right up and forward.
std::array<Straight, 2> leansTo(Straight way);

/// Of a direction of any length above zero: the way is that of its greatest part (of equal ones up and down before to
/// the sides before along), so no lean is above 45°.
Leaning leaningOf(const Eigen::Vector3d& direction);
/// The unit vector of it, whatever the leans are: 90° is what is leant to, more than that comes out behind.
Eigen::Vector3d directionOf(const Leaning& leaning);

} // namespace gabarit::model
