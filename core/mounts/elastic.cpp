#include "mounts/elastic.h"

#include "linear/linear.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace gabarit::mounts {
namespace {

using Eigen::Matrix3d;
using Eigen::Vector3d;

constexpr int most_rounds = 200;
constexpr int most_halvings = 40;
constexpr double settled_share = 1e-9;
constexpr double rounding = 1e-12; // of an energy: what two roundings may differ by
constexpr double mm_per_m = 1000;
/// A direction whose stiffness is below this share of the stiffest one is free.
constexpr double free_share = 1e-9;
constexpr double on_a_line_mm2 = 100; // of the triangle of three supports: narrower than a tape can tell

Matrix3d cross(const Vector3d& v) {
    Matrix3d m;
    m << 0, -v.z(), v.y(), v.z(), 0, -v.x(), -v.y(), v.x(), 0;
    return m;
}

/// Displacement at the spring by the body's, own axes: 3 × 6.
Eigen::Matrix<double, 3, 6> reach(const Spring& spring, const Vector3d& about_mm) {
    Eigen::Matrix<double, 3, 6> out;
    out.leftCols<3>() = spring.axes.transpose();
    out.rightCols<3>() = -spring.axes.transpose() * cross(spring.at_mm - about_mm);
    return out;
}

/// Lengths in the units of the body: turns times its radius, so that forces and moments can be compared.
double radius_mm(const std::vector<Spring>& springs, const Vector3d& about_mm) {
    double most = 1;
    for (const Spring& s : springs) most = std::max(most, (s.at_mm - about_mm).norm());
    return most;
}

} // namespace

Vector3d Spring::force_n(const Vector3d& own_mm) const {
    Vector3d out;
    for (int i = 0; i < 3; ++i) {
        const auto k = static_cast<std::size_t>(i);
        out[i] = -rate_n_per_mm[i] * own_mm[i];
        if (own_mm[i] > stop_high_mm[k]) out[i] -= stop_rate_n_per_mm * (own_mm[i] - stop_high_mm[k]);
        if (own_mm[i] < stop_low_mm[k]) out[i] -= stop_rate_n_per_mm * (own_mm[i] - stop_low_mm[k]);
    }
    return out;
}

Vector3d Spring::tangent_n_per_mm(const Vector3d& own_mm) const {
    Vector3d out = rate_n_per_mm;
    for (int i = 0; i < 3; ++i) {
        const auto k = static_cast<std::size_t>(i);
        if (own_mm[i] > stop_high_mm[k] || own_mm[i] < stop_low_mm[k]) out[i] += stop_rate_n_per_mm;
    }
    return out;
}

double Spring::energy_nmm(const Vector3d& own_mm) const {
    double out = 0;
    for (int i = 0; i < 3; ++i) {
        const auto k = static_cast<std::size_t>(i);
        const double beyond = std::max({0.0, own_mm[i] - stop_high_mm[k], stop_low_mm[k] - own_mm[i]});
        out += 0.5 * (rate_n_per_mm[i] * own_mm[i] * own_mm[i] + stop_rate_n_per_mm * beyond * beyond);
    }
    return out;
}

Matrix6d stiffness(const std::vector<Spring>& springs, const Vector3d& about_mm) {
    Matrix6d out = Matrix6d::Zero();
    for (const Spring& s : springs) {
        const auto j = reach(s, about_mm);
        out += j.transpose() * s.rate_n_per_mm.asDiagonal() * j;
    }
    return out;
}

Result<Move> equilibrium(const RigidBody& body, const std::vector<Spring>& springs, const Load& load) {
    const double r = radius_mm(springs, body.centre_mm);
    Vector6d scale; // x = scale · y: y in mm throughout
    scale << 1, 1, 1, 1 / r, 1 / r, 1 / r;
    Vector6d wrench;
    wrench << load.force_n, load.moment_nmm;
    const Vector6d pull = scale.cwiseProduct(wrench);
    std::vector<Eigen::Matrix<double, 3, 6>> reaches;
    for (const Spring& s : springs) reaches.push_back(reach(s, body.centre_mm) * scale.asDiagonal());
    const auto energy = [&](const Vector6d& y) {
        double out = -pull.dot(y);
        for (std::size_t i = 0; i < springs.size(); ++i) out += springs[i].energy_nmm(reaches[i] * y);
        return out;
    };
    const auto held = [](const Matrix6d& k) {
        const linear::SmallVector values = linear::eigenvalues(k);
        return values[5] > 0 && values[0] > free_share * values[5];
    };
    // What only stops hold is free until it meets them: a touch of stiffness brings it there.
    double stiffest = 0;
    for (const Spring& s : springs) stiffest = std::max({stiffest, s.rate_n_per_mm.maxCoeff(), s.stop_rate_n_per_mm});
    const double touch = stiffest * 1e-7;
    Vector6d y = Vector6d::Zero();
    for (int round = 0; round < most_rounds; ++round) {
        Vector6d out_of_balance = pull;
        Matrix6d k = Matrix6d::Zero();
        for (std::size_t i = 0; i < springs.size(); ++i) {
            const Vector3d own = reaches[i] * y;
            out_of_balance += reaches[i].transpose() * springs[i].force_n(own);
            k += reaches[i].transpose() * springs[i].tangent_n_per_mm(own).asDiagonal() * reaches[i];
        }
        if (out_of_balance.norm() < settled_share * std::max(1.0, pull.norm())) {
            if (!held(k)) break;
            Vector6d x = scale.cwiseProduct(y);
            return Move{x.head<3>(), x.tail<3>()};
        }
        const Vector6d step = linear::solvedSymmetric(k + touch * Matrix6d::Identity(), out_of_balance);
        const double before = energy(y);
        double share = 1;
        for (int i = 0; i < most_halvings && energy(y + share * step) > before + rounding * std::abs(before); ++i)
            share /= 2;
        y += share * step;
        if (!y.allFinite() || y.norm() > 1e6) break;
    }
    return Error{"nothing holds the unit along some direction", "mounts",
                 "add a mount, or give its shear rate or stops"};
}

std::vector<Vector3d> forces_n(const RigidBody& body, const std::vector<Spring>& springs, const Move& move) {
    std::vector<Vector3d> out;
    for (const Spring& s : springs)
        out.push_back(s.axes * s.force_n(s.axes.transpose() * move.at(s.at_mm, body.centre_mm)));
    return out;
}

const char* word(ModeOf of) {
    static const char* const words[] = {"fore and aft", "sideways", "bounce", "roll", "pitch", "yaw"};
    return words[static_cast<std::size_t>(of)];
}

Result<std::array<Mode, 6>> modes(const RigidBody& body, const std::vector<Spring>& springs) {
    Matrix6d m = Matrix6d::Zero();
    m.topLeftCorner<3, 3>() = Matrix3d::Identity() * body.mass_kg;
    m.bottomRightCorner<3, 3>() = body.inertia_kg_m2;
    if (!linear::isPositiveDefinite(m))
        return Error{"the unit has no mass or no inertia about some axis", "mounts", "give its masses and its inertia"};
    Matrix6d k = stiffness(springs, body.centre_mm); // N/mm, N, N·mm → N/m, N, N·m
    k.topLeftCorner<3, 3>() *= mm_per_m;
    k.bottomRightCorner<3, 3>() /= mm_per_m;
    const linear::Eigenpairs eigen = linear::eigenpairs(k, m);
    std::array<Mode, 6> out;
    for (int i = 0; i < 6; ++i) {
        Mode& mode = out[static_cast<std::size_t>(i)];
        mode.frequency_hz = std::sqrt(std::max(0.0, eigen.values[i])) / (2 * M_PI);
        mode.shape = eigen.vectors.col(i); // of unit modal mass
        const Vector6d momentum = m * mode.shape;
        for (int d = 0; d < 6; ++d) mode.share[static_cast<std::size_t>(d)] = mode.shape[d] * momentum[d];
    }
    // Each name once: that assignment of names whose shares sum to most.
    std::array<std::size_t, 6> names{0, 1, 2, 3, 4, 5}, best = names;
    double most = -1e300;
    do {
        double sum = 0;
        for (std::size_t i = 0; i < 6; ++i) sum += out[i].share[names[i]];
        if (sum > most) {
            most = sum;
            best = names;
        }
    } while (std::next_permutation(names.begin(), names.end()));
    for (std::size_t i = 0; i < 6; ++i) {
        out[i].of = static_cast<ModeOf>(best[i]);
        out[i].decoupled = out[i].share[best[i]];
    }
    return out;
}

double transmissibility(double frequency_hz, double natural_hz, double damping) {
    if (natural_hz <= 0) return 0;
    const double r = frequency_hz / natural_hz, d = 2 * damping * r;
    return std::sqrt((1 + d * d) / ((1 - r * r) * (1 - r * r) + d * d));
}

std::vector<Vector3d> threeReactions_n(const RigidBody& body, const std::vector<Spring>& springs, const Load& load) {
    if (springs.size() != 3) return {};
    const Vector3d& c = body.centre_mm;
    // Along x and y by rate; what that leaves of a moment about z is taken by couples of the same rates.
    Eigen::Matrix3d flat = Eigen::Matrix3d::Zero(); // x, y, turn about z
    std::vector<Eigen::Matrix<double, 2, 3>> reaches;
    std::vector<Eigen::Matrix2d> rates;
    for (const Spring& s : springs) {
        const Matrix3d k = s.axes * s.rate_n_per_mm.asDiagonal() * s.axes.transpose();
        const Vector3d arm = s.at_mm - c;
        Eigen::Matrix<double, 2, 3> j;
        j << 1, 0, -arm.y(), 0, 1, arm.x();
        reaches.push_back(j);
        rates.push_back(k.topLeftCorner<2, 2>());
        flat += j.transpose() * rates.back() * j;
    }
    const auto held = linear::solved(flat, Vector3d(load.force_n.x(), load.force_n.y(), load.moment_nmm.z()));
    if (!held) return {};
    const Vector3d in_plane = *held;
    std::vector<Vector3d> out(3, Vector3d(0, 0, 0));
    for (std::size_t i = 0; i < 3; ++i) out[i].head<2>() = -rates[i] * (reaches[i] * in_plane);
    // Upward forces from ΣFz, ΣMx, ΣMy about the centre, with the moments that the forces in plane have by their
    // height.
    Eigen::Matrix3d up;
    Vector3d rest(-load.force_n.z(), -load.moment_nmm.x(), -load.moment_nmm.y());
    for (std::size_t i = 0; i < 3; ++i) {
        const Vector3d arm = springs[i].at_mm - c;
        up.col(static_cast<Eigen::Index>(i)) = Vector3d(1, arm.y(), -arm.x());
        rest.y() += arm.z() * out[i].y();
        rest.z() -= arm.z() * out[i].x();
    }
    if (std::abs(up.determinant()) < 2 * on_a_line_mm2) return {};
    const Vector3d z = up.inverse() * rest;
    for (std::size_t i = 0; i < 3; ++i) out[i].z() = z[static_cast<Eigen::Index>(i)];
    return out;
}

} // namespace gabarit::mounts
