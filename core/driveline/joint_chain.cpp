#include "driveline/joint_chain.h"

#include "driveline/golden.h"

#include <algorithm>
#include <cmath>

namespace gabarit::driveline {
namespace {

using Eigen::Vector2d;
using Eigen::Vector3d;

constexpr int samples_per_turn = 144; // a joint's ratio swings twice a turn: 72 each, then the peak is fitted
constexpr double nothing = 1e-15;
constexpr double no_plane = 1e-6;    // sine of the angle of a joint that is straight
constexpr int ratio_rounds = 40;     // of the golden section: 1e-9 of a turn and less
constexpr std::size_t most_free = 4; // shafts whose phases are searched together
constexpr int vector_rounds = 12;
constexpr double squeezed_rad = 0.02; // what second order leaves out is less than a degree
constexpr int squeeze_rounds = 20;

Vector3d turned(const Vector3d& v, const Vector3d& axis, double rad) {
    return v * std::cos(rad) + axis.cross(v) * std::sin(rad) + axis * (axis.dot(v) * (1 - std::cos(rad)));
}

/// The smallest turn that takes one axis to the next, used on a pin: a joint that passes its speed on.
Vector3d carried(const Vector3d& pin, const Vector3d& from, const Vector3d& to) {
    const Vector3d across = from.cross(to);
    const double sine = across.norm();
    if (sine < 1e-14) return pin;
    return turned(pin, across / sine, std::atan2(sine, from.dot(to)));
}

/// A direction square to an axis, the same for the same axis: where a fork's pin is counted from.
Vector3d square(const Vector3d& axis) {
    const Vector3d other = std::abs(axis.z()) < 0.9 ? Vector3d::UnitZ() : Vector3d::UnitY();
    return axis.cross(other).normalized();
}

/// How a cross hands its turn on: as its two pins stand square to each other, or as it does on the mean of a turn.
enum class Handing { Exact, Mean };

/// The pin that a joint's driving fork holds, for each joint.
template <Handing handing = Handing::Exact, class Take>
void walk(const JointChain& chain, double input_rad, Take take) {
    Vector3d pin = turned(square(chain.axes.front()), chain.axes.front(), input_rad);
    for (std::size_t i = 0; i < chain.joints.size(); ++i) {
        const Vector3d &a = chain.axes[i], &b = chain.axes[i + 1];
        take(i, pin);
        Vector3d driven;
        if (!chain.joints[i].cardan)
            driven = carried(pin, a, b);
        else if (handing == Handing::Exact)
            driven = b.cross(pin).normalized();
        else
            driven = b.cross(carried(pin, a, b));
        pin = turned(driven, b, chain.joints[i].phase_rad);
    }
}

/// What a cross does to speed: ω2/ω1, and how that changes with the input's angle.
struct Gain {
    double ratio;
    double slope;
};
Gain gainOf(const Vector3d& a, const Vector3d& b, const Vector3d& pin) {
    const double cosine = a.dot(b), lean = pin.dot(b), rest = 1 - lean * lean;
    return {cosine / rest, 2 * cosine * lean * a.cross(pin).dot(b) / (rest * rest)};
}

/// The largest of |f| at equally spaced places of a period, with a parabola through its neighbours.
double peak(const std::vector<double>& f) {
    double most = 0;
    const std::size_t n = f.size();
    for (std::size_t i = 0; i < n; ++i) {
        const double a = std::abs(f[(i + n - 1) % n]), b = std::abs(f[i]), c = std::abs(f[(i + 1) % n]);
        if (b < a || b < c) continue;
        const double bend = a - 2 * b + c;
        most = std::max(most, bend < -nothing ? b - (a - c) * (a - c) / (8 * bend) : b);
    }
    return most;
}

double wrapped(double rad, double period) { return rad - period * std::round(rad / period); }

} // namespace

double operatingAngle_rad(const JointChain& chain, std::size_t joint) {
    const Vector3d &a = chain.axes[joint], &b = chain.axes[joint + 1];
    return std::atan2(a.cross(b).norm(), a.dot(b));
}

std::vector<Turning> turningAt(const JointChain& chain, double input_rad) {
    std::vector<Turning> out(chain.axes.size());
    out.front().angle_rad = input_rad;
    walk(chain, input_rad, [&](std::size_t i, const Vector3d& pin) {
        const Turning& in = out[i];
        Turning& next = out[i + 1];
        if (!chain.joints[i].cardan) {
            next = in;
            return;
        }
        const Vector3d &a = chain.axes[i], &b = chain.axes[i + 1];
        const double cosine = a.dot(b), lean = pin.dot(b), leaning = a.cross(pin).dot(b);
        const Gain gain = gainOf(a, b, pin);
        next.speed = gain.ratio * in.speed;
        next.acceleration = gain.slope * in.speed * in.speed + gain.ratio * in.acceleration;
        // θ2 − θ1 = atan of what the ratio has gained so far; from the pin's angle to the joint plane.
        const Vector3d plane = b - cosine * a;
        if (plane.norm() < 1e-14) {
            next.angle_rad = in.angle_rad;
            return;
        }
        // tan θ2 = tan θ1 / cos β with θ1 from the plane, kept on the same branch.
        const double theta = std::atan2(leaning, lean); // cos ∝ pin·b; sin ∝ −(a×pin)·b, so this is −θ
        const double onward = std::atan2(-std::sin(theta), std::cos(theta) * cosine);
        next.angle_rad = in.angle_rad + wrapped(onward + theta, 2 * M_PI);
    });
    return out;
}

std::optional<double> planeTwist_rad(const JointChain& chain, std::size_t shaft) {
    const Vector3d& axis = chain.axes[shaft + 1];
    const Vector3d before = chain.axes[shaft].cross(axis), behind = axis.cross(chain.axes[shaft + 2]);
    if (before.norm() < no_plane || behind.norm() < no_plane) return std::nullopt;
    return wrapped(std::atan2(axis.dot(before.cross(behind)), before.dot(behind)), M_PI);
}

JointChain reversed(const JointChain& chain) {
    JointChain out;
    for (auto axis = chain.axes.rbegin(); axis != chain.axes.rend(); ++axis) out.axes.push_back(-*axis);
    const std::size_t n = chain.joints.size();
    for (std::size_t i = 0; i < n; ++i) {
        ChainJoint joint = chain.joints[n - 1 - i];
        // The fork before it on the same shaft is now the one behind; about the turned axis the angle keeps its sign.
        joint.phase_rad = i + 1 < n ? chain.joints[n - 2 - i].phase_rad : 0;
        out.joints.push_back(joint);
    }
    return out;
}

double residual_per_s2(const JointChain& chain) {
    std::vector<double> last(samples_per_turn / 2);
    for (std::size_t k = 0; k < last.size(); ++k) { // everything repeats after half a turn
        double speed = 1, acceleration = 0;
        walk(chain, 2 * M_PI * static_cast<double>(k) / samples_per_turn, [&](std::size_t i, const Vector3d& pin) {
            if (!chain.joints[i].cardan) return;
            const Vector3d &a = chain.axes[i], &b = chain.axes[i + 1];
            const Gain gain = gainOf(a, b, pin);
            acceleration = gain.slope * speed * speed + gain.ratio * acceleration;
            speed *= gain.ratio;
        });
        last[k] = acceleration;
    }
    return peak(last);
}

TurnReport overATurn(const JointChain& chain) {
    TurnReport out;
    const std::size_t n = samples_per_turn / 2;
    std::vector<double> last(n);
    std::vector<std::vector<double>> between(chain.axes.size(), std::vector<double>(n));
    out.least_ratio = 1e9;
    out.most_ratio = 0;
    double least_at = 0, most_at = 0;
    const JointChain back = reversed(chain);
    for (std::size_t i = 0; i < n; ++i) {
        const double input = 2 * M_PI * static_cast<double>(i) / samples_per_turn;
        const std::vector<Turning> at = turningAt(chain, input);
        last[i] = at.back().acceleration;
        if (at.back().speed < out.least_ratio) out.least_ratio = at.back().speed, least_at = input;
        if (at.back().speed > out.most_ratio) out.most_ratio = at.back().speed, most_at = input;
        for (std::size_t s = 1; s + 1 < at.size(); ++s) between[s][i] = at[s].acceleration;
    }
    const double step = 2 * M_PI / samples_per_turn;
    const auto speed = [&chain](double input) { return turningAt(chain, input).back().speed; };
    out.least_ratio =
        std::min(out.least_ratio, goldenLeast(least_at - step, least_at + step, ratio_rounds, speed).second);
    out.most_ratio = std::max(
        out.most_ratio,
        -goldenLeast(most_at - step, most_at + step, ratio_rounds, [&](double input) { return -speed(input); }).second);
    out.residual_per_s2 = peak(last);
    for (std::size_t s = 1; s + 1 < chain.axes.size(); ++s)
        out.inertial_per_s2 = std::max(out.inertial_per_s2, peak(between[s]));
    for (std::size_t i = 0; i < n && chain.axes.size() > 2; ++i) {
        const std::vector<Turning> at = turningAt(back, 2 * M_PI * static_cast<double>(i) / samples_per_turn);
        for (std::size_t s = 1; s + 1 < at.size(); ++s) between[s][i] = at[s].acceleration;
    }
    for (std::size_t s = 1; s + 1 < chain.axes.size(); ++s)
        out.inertial_per_s2 = std::max(out.inertial_per_s2, peak(between[s]));
    out.equivalent_rad = std::sqrt(residualVector(chain).norm());
    return out;
}

Vector2d residualVector(const JointChain& chain) {
    Vector2d sum(0, 0);
    walk<Handing::Mean>(chain, 0, [&](std::size_t i, const Vector3d& pin) {
        if (!chain.joints[i].cardan) return;
        const Vector3d &a = chain.axes[i], &b = chain.axes[i + 1];
        const double beta = operatingAngle_rad(chain, i);
        if (beta < 1e-12) return;
        const double twice = 2 * std::atan2(-a.cross(pin).dot(b), pin.dot(b));
        sum += beta * beta * Vector2d(std::cos(twice), std::sin(twice));
    });
    return sum;
}

std::vector<double> bestPhases_rad(const JointChain& chain) {
    const std::size_t n = chain.joints.size();
    std::vector<std::size_t> free; // shafts from a cross to where another follows
    for (std::size_t i = 0; i + 1 < n; ++i)
        if (chain.joints[i].cardan && std::any_of(chain.joints.begin() + static_cast<std::ptrdiff_t>(i) + 1,
                                                  chain.joints.end(), [](const ChainJoint& j) { return j.cardan; }))
            free.push_back(i);
    // To the second order the residual is a sum of vectors: its valleys are looked for from each shaft in phase or a
    // quarter turned. The best of them is then squeezed by the exact figure.
    JointChain best = chain;
    double least = residualVector(chain).norm();
    for (std::size_t start = 0; start < (std::size_t(1) << free.size()) && free.size() <= most_free; ++start) {
        JointChain trial = chain;
        for (std::size_t k = 0; k < free.size(); ++k) trial.joints[free[k]].phase_rad = (start >> k & 1) ? M_PI / 2 : 0;
        for (int round = 0; round < vector_rounds; ++round)
            for (const std::size_t shaft : free) {
                JointChain before = trial; // what lies behind does not turn the pins before it
                for (std::size_t k = shaft + 1; k < n; ++k) before.joints[k].cardan = false;
                const Vector2d s1 = residualVector(before), s2 = residualVector(trial) - s1;
                if (s1.norm() < nothing || s2.norm() < nothing) continue;
                const double apart = std::atan2(-s1.y(), -s1.x()) - std::atan2(s2.y(), s2.x());
                trial.joints[shaft].phase_rad += wrapped(apart, 2 * M_PI) / 2;
            }
        if (const double residual = residualVector(trial).norm(); residual < least) {
            least = residual;
            best = trial;
        }
    }
    for (const std::size_t shaft : free) {
        const double now = best.joints[shaft].phase_rad;
        best.joints[shaft].phase_rad =
            goldenLeast(now - squeezed_rad, now + squeezed_rad, squeeze_rounds, [&](double phase) {
                JointChain trial = best;
                trial.joints[shaft].phase_rad = phase;
                return residual_per_s2(trial);
            }).first;
    }
    if (residual_per_s2(best) >= residual_per_s2(chain)) best = chain; // as it is is as good
    std::vector<double> out(n, 0.0);
    for (std::size_t i = 0; i + 1 < n; ++i) out[i] = wrapped(best.joints[i].phase_rad, M_PI);
    return out;
}

} // namespace gabarit::driveline
