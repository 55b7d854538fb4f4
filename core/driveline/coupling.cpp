#include "driveline/coupling.h"

#include "driveline/section/driveline.h"
#include "linear/linear.h"
#include "quantity/quantity.h"

#include <Eigen/Geometry>

#include <algorithm>
#include <cmath>

namespace gabarit::driveline {
namespace {

using Eigen::Matrix2d;
using Eigen::Vector2d;
using Eigen::Vector3d;
using model::Verdict;
using quantity::deg_per_rad;

using Row = Eigen::Matrix<double, 1, 5>;
using Normal = Eigen::Matrix<double, 5, 5>;
using Coefficients = Eigen::Matrix<double, 5, 1>;

constexpr double rank_share = 1e-9;    // of the largest eigenvalue: below it a direction was not measured
constexpr double in_null_space = 1e-6; // a coefficient that leans into it is not known
constexpr double two_sided_95 = 1.96;  // of the normal distribution
constexpr double most_outlier_share = 0.2;
constexpr int least_freedom_for_scatter = 4;

double rad(double deg) { return deg / deg_per_rad; }

Row rowOf(double clock_deg, double turn_deg) {
    const double phi = rad(clock_deg), psi = rad(clock_deg - turn_deg);
    Row row;
    row << 1, std::cos(phi), std::sin(phi), std::cos(psi), std::sin(psi);
    return row;
}

/// Weighted least squares by the eigenvectors of the normal matrix, so that what was not measured is known.
struct Solution {
    Coefficients at = Coefficients::Zero();
    Normal inverse = Normal::Zero(); ///< pseudo-inverse
    Normal empty = Normal::Zero();   ///< projector on what was not measured
    int rank = 0;
};

Solution solved(const Normal& normal, const Coefficients& right) {
    Solution out;
    const linear::Eigenpairs eigen = linear::eigenpairs(normal);
    const double most = eigen.values[4];
    for (int i = 0; i < 5; ++i) {
        const Coefficients v = eigen.vectors.col(i);
        if (most > 0 && eigen.values[i] > rank_share * most) {
            out.inverse += v * v.transpose() / eigen.values[i];
            ++out.rank;
        } else {
            out.empty += v * v.transpose();
        }
    }
    out.at = out.inverse * right;
    return out;
}

bool known(const Solution& s, std::initializer_list<int> which) {
    return std::all_of(which.begin(), which.end(), [&](int i) { return s.empty.col(i).norm() < in_null_space; });
}

struct Fitting {
    const std::vector<ClockSample>& samples;
    bool sum_only = false; ///< without c and d

    Row row(const ClockSample& s) const {
        Row r = rowOf(s.clock_deg, s.turn_deg);
        if (sum_only) r[3] = r[4] = 0;
        return r;
    }
    Normal normal(const std::vector<bool>& out) const {
        Normal n = Normal::Zero();
        for (std::size_t i = 0; i < samples.size(); ++i)
            if (!out[i])
                n += row(samples[i]).transpose() * row(samples[i]) / (samples[i].sigma_mm * samples[i].sigma_mm);
        return n;
    }
    Coefficients right(const std::vector<bool>& out) const {
        Coefficients r = Coefficients::Zero();
        for (std::size_t i = 0; i < samples.size(); ++i)
            if (!out[i]) r += row(samples[i]).transpose() * samples[i].mm / (samples[i].sigma_mm * samples[i].sigma_mm);
        return r;
    }
};

double clockOf(const Vector2d& up_right) {
    const double deg = std::atan2(up_right[1], up_right[0]) * deg_per_rad;
    return deg < 0 ? deg + 360 : deg;
}

/// Along the vehicle from the flange forward to the mean of a role's points.
std::optional<double> forwardTo(const model::Project& project, const model::CouplingCheck& coupling, const char* role) {
    const model::Placement* placement = model::activePlacement(project);
    const std::optional<model::Donor> donor = model::hangingDonor(project);
    const auto* driveline = project.sections.get<model::Driveline>();
    if (!placement || !donor || !driveline) return std::nullopt;
    const auto mount = model::meanPoint(*donor, role);
    if (!mount) return std::nullopt;
    for (const model::ShaftLine& line : driveline->lines) {
        if (line.id != coupling.line || line.from.owner != donor->id.text) continue;
        Vector3d flange = line.from.at_mm;
        for (const model::HardPoint& p : donor->reference_points)
            if (!line.from.point.text.empty() && p.id == line.from.point) flange = p.at_mm;
        const Eigen::Isometry3d pose = model::poseVehicleDonor(*placement, *donor);
        return (pose * flange).x() - (pose * *mount).x();
    }
    return std::nullopt;
}

} // namespace

HarmonicFit fitHarmonic(const std::vector<ClockSample>& samples, double outlier_t, double least_outlier_mm) {
    HarmonicFit fit;
    const std::size_t n = samples.size();
    fit.outlier.assign(n, false);
    fit.residual_mm.assign(n, 0);
    if (n == 0) {
        fit.reason = "no readings";
        return fit;
    }
    Fitting all{samples};
    Solution solution = solved(all.normal(fit.outlier), all.right(fit.outlier));
    fit.separated = known(solution, {1, 2});
    if (!fit.separated) {
        all.sum_only = true;
        solution = solved(all.normal(fit.outlier), all.right(fit.outlier));
        Solution own = solution;
        own.empty(3, 3) = own.empty(4, 4) = 0; // left out on purpose
        fit.enough = own.empty.col(1).norm() < in_null_space && own.empty.col(2).norm() < in_null_space;
        fit.reason = fit.enough
                         ? "the shaft stood at one turn only: skew and runout cannot be told apart; turn the shaft "
                           "and read again"
                         : "readings at three clock places at least are needed";
    } else {
        fit.enough = true;
    }
    const auto next = [&] {
        double best = 1e300;
        for (int turn = 0; turn < 4; ++turn)
            for (int hour = 0; hour < 12; ++hour) {
                const Row row = rowOf(30 * hour, 90 * turn);
                Fitting full{samples};
                double sigma = 0;
                for (const ClockSample& s : samples) sigma += s.sigma_mm;
                sigma /= static_cast<double>(n);
                Normal normal = full.normal(fit.outlier) + row.transpose() * row / (sigma * sigma);
                normal += Normal::Identity() * (1e-6 / (sigma * sigma)); // so that what is not known yet counts most
                const Normal inverse = linear::inverse(normal);
                if (const double spread = inverse(1, 1) + inverse(2, 2); spread < best * (1 - 1e-9)) {
                    best = spread;
                    fit.next_clock_deg = 30 * hour;
                    fit.next_turn_deg = 90 * turn;
                }
            }
    };
    if (!fit.enough) {
        next();
        return fit;
    }
    double chi2 = 0;
    int freedom = 0;
    const auto look = [&] {
        chi2 = 0;
        freedom = -solution.rank;
        for (std::size_t i = 0; i < n; ++i) {
            fit.residual_mm[i] = samples[i].mm - all.row(samples[i]) * solution.at;
            if (fit.outlier[i]) continue;
            chi2 += std::pow(fit.residual_mm[i] / samples[i].sigma_mm, 2);
            ++freedom;
        }
    };
    look();
    for (int taken = 0; taken < static_cast<int>(most_outlier_share * static_cast<double>(n)) && freedom >= 3;
         ++taken) {
        std::size_t worst = n;
        double most = outlier_t;
        for (std::size_t i = 0; i < n; ++i) {
            if (fit.outlier[i] || std::abs(fit.residual_mm[i]) < least_outlier_mm) continue;
            const Row row = all.row(samples[i]);
            const double weight = 1 / (samples[i].sigma_mm * samples[i].sigma_mm);
            const double lever = weight * (row * solution.inverse * row.transpose())(0, 0);
            if (lever > 1 - 1e-9) continue; // nothing else speaks of it
            const double share = fit.residual_mm[i] * fit.residual_mm[i] * weight / (1 - lever);
            const double without = std::max(chi2 - share, 1e-12 * chi2) / (freedom - 1);
            if (const double t = std::sqrt(share / without); t > most) {
                most = t;
                worst = i;
            }
        }
        if (worst == n) break;
        std::vector<bool> out = fit.outlier;
        out[worst] = true;
        const Solution without = solved(all.normal(out), all.right(out));
        if (without.rank < solution.rank) break; // it is needed
        fit.outlier = out;
        solution = without;
        look();
    }
    const double scale =
        freedom >= least_freedom_for_scatter ? chi2 / freedom : std::max(1.0, freedom > 0 ? chi2 / freedom : 0.0);
    double sigma2 = 0;
    int counted = 0;
    for (std::size_t i = 0; i < n; ++i)
        if (!fit.outlier[i]) {
            sigma2 += samples[i].sigma_mm * samples[i].sigma_mm;
            ++counted;
        }
    fit.sigma_mm = std::sqrt(scale * sigma2 / std::max(1, counted));
    fit.mean_mm = solution.at[0];
    fit.standing_mm = solution.at.segment<2>(1);
    fit.turning_mm = solution.at.segment<2>(3);
    fit.covariance_mm2 = solution.inverse.block<2, 2>(1, 1) * scale;
    next();
    return fit;
}

std::string clockWords(double clock_deg) {
    const int halves = static_cast<int>(std::lround(clock_deg / 15)) % 24;
    const int hour = (halves < 0 ? halves + 24 : halves) / 2;
    std::string out = std::to_string(hour == 0 ? 12 : hour);
    if (halves % 2 != 0) out += ":30";
    return out + " o'clock";
}

CouplingReport judgeCoupling(const model::Project& project, const model::CouplingCheck& coupling,
                             const model::RuleBook& book) {
    CouplingReport report;
    report.id = coupling.id;
    report.name = coupling.name;
    report.line = coupling.line;
    double onward = 1; // the shaft lies behind the flange; of a line to the front it lies before it
    if (const auto* driveline = project.sections.get<model::Driveline>())
        for (const model::ShaftLine& line : driveline->lines)
            if (line.id == coupling.line) {
                if (line.run == model::Run::Left || line.run == model::Run::Right)
                    report.reason = "its line runs across the vehicle: clock places are read from behind";
                if (line.run == model::Run::Forward) onward = -1;
            }
    report.to_gearbox_mount_mm =
        coupling.to_gearbox_mount_mm.value_or(forwardTo(project, coupling, "gearbox_mount").value_or(0));
    report.to_front_mounts_mm =
        coupling.to_front_mounts_mm.value_or(forwardTo(project, coupling, "front_mount").value_or(0));
    if (coupling.radius_mm <= 0) report.reason = "the radius at which the faces are measured is not given";
    const double outlier_t = book.figure("outlier_t"), least = book.figure("outlier_least_mm");
    for (const model::CouplingTry& a : coupling.tries) {
        CouplingTryReport t;
        t.id = a.id;
        t.name = a.name;
        std::vector<ClockSample> face, rim;
        for (const model::CouplingReading& r : a.readings)
            (r.rim ? rim : face)
                .push_back({r.clock_deg, r.turn_deg, r.mm, r.accuracy_mm.value_or(book.figure("reading_accuracy_mm"))});
        t.face = fitHarmonic(face, outlier_t, least);
        t.rim = fitHarmonic(rim, outlier_t, least);
        t.usable = t.face.enough && report.reason.empty();
        const auto widest = [](const Matrix2d& covariance) { // by its larger eigenvalue
            const double most =
                covariance.trace() / 2 + std::hypot((covariance(0, 0) - covariance(1, 1)) / 2, covariance(0, 1));
            return two_sided_95 * std::sqrt(std::max(0.0, most));
        };
        if (t.usable) {
            t.tilt_deg = std::atan(t.face.standing_mm.norm() / coupling.radius_mm) * deg_per_rad;
            t.open_clock_deg = clockOf(t.face.standing_mm);
            t.tilt_accuracy_deg = widest(t.face.covariance_mm2) / coupling.radius_mm * deg_per_rad;
            t.runout_mm = t.face.turning_mm.norm();
        }
        Vector2d offset(0, 0); // of the unit's flange, up and right
        if (t.rim.enough) {
            offset = coupling.rim_from_shaft ? t.rim.standing_mm : Vector2d(-t.rim.standing_mm);
            t.offset_mm = offset.norm();
            t.offset_clock_deg = clockOf(offset);
            t.offset_accuracy_mm = widest(t.rim.covariance_mm2);
        }
        const double to_gearbox = report.to_gearbox_mount_mm, to_front = report.to_front_mounts_mm;
        if (t.usable && t.face.separated && to_front != 0 && std::abs(to_front - to_gearbox) > 1) {
            // Open at the top: the unit's flange looks up, its tail must come down. Slope in mm per mm rearward.
            const Vector2d slope = -onward * t.face.standing_mm / coupling.radius_mm;
            const Vector2d at_gearbox = slope * (to_front - to_gearbox);
            t.gearbox_alone = MountMove{at_gearbox[0], at_gearbox[1], 0, 0};
            if (t.offset_mm) t.offset_left_mm = (offset + slope * to_front).norm();
            if (t.offset_mm && t.rim.separated) {
                const Vector2d gearbox = -offset - slope * to_gearbox, front = -offset - slope * to_front;
                t.both = MountMove{gearbox[0], gearbox[1], front[0], front[1]};
            }
        }
        report.tries.push_back(std::move(t));
    }
    if (report.tries.empty() && report.reason.empty()) report.reason = "no readings were taken yet";

    Check tilt;
    tilt.id = coupling.id + "/tilt";
    tilt.what = coupling.name + ": faces out of parallel by";
    tilt.good_most = book.figure("disc_wanted_deg");
    tilt.most = book.figure("disc_most_deg");
    tilt.rule = ruleOf(book, "disc_most_deg");
    Check offset;
    offset.id = coupling.id + "/offset";
    offset.what = coupling.name + ": offset between centres";
    offset.unit = Unit::Millimetres;
    offset.good_most = book.figure("disc_offset_wanted_mm");
    offset.most = book.figure("disc_offset_most_mm");
    offset.rule = ruleOf(book, "disc_offset_most_mm");
    tilt.reason = report.reason;
    if (!report.tries.empty()) {
        const CouplingTryReport& last = report.tries.back();
        if (last.tilt_deg && last.face.separated) {
            tilt.value = last.tilt_deg;
            tilt.accuracy = last.tilt_accuracy_deg;
        } else if (tilt.reason.empty()) {
            tilt.reason = last.face.reason;
        }
        if (last.offset_mm && last.rim.separated) {
            offset.value = last.offset_mm;
            offset.accuracy = last.offset_accuracy_mm;
        } else {
            offset.reason = last.rim.reason == "no readings" ? "the rim was not read" : last.rim.reason;
        }
    }
    judge(tilt);
    judge(offset);
    report.checks = {tilt, offset};
    report.verdict = model::worse(tilt.verdict, offset.verdict);
    return report;
}

Result<model::Placement> placementMoved(const model::Project& project, const CouplingReport& coupling,
                                        const MountMove& move) {
    const model::Placement* placement = model::activePlacement(project);
    const std::optional<model::Donor> donor = model::hangingDonor(project);
    if (!placement || !donor) return Error{"no donor hangs", coupling.name, "choose a placement"};
    const auto gearbox = model::meanPoint(*donor, "gearbox_mount"), front = model::meanPoint(*donor, "front_mount");
    if (!gearbox || !front)
        return Error{"the donor has no front mounts or no gearbox mount", donor->name,
                     "add reference points of those roles"};
    const Eigen::Isometry3d pose = model::poseVehicleDonor(*placement, *donor);
    const Vector3d at_gearbox = pose * *gearbox, at_front = pose * *front;
    const double apart = at_gearbox.x() - at_front.x();
    if (std::abs(apart) < 1) return Error{"its mounts lie above each other", donor->name, "check their places"};
    const double up = (move.gearbox_up_mm - move.front_up_mm) / apart;
    const double right = (move.gearbox_right_mm - move.front_right_mm) / apart;
    // About +Y what lies rearward goes down; about +Z what lies rearward goes to the right.
    const Eigen::Matrix3d turn =
        (Eigen::AngleAxisd(std::atan(right), Vector3d::UnitZ()) * Eigen::AngleAxisd(-std::atan(up), Vector3d::UnitY()))
            .toRotationMatrix();
    model::Placement out = *placement;
    const Eigen::Matrix3d lying = model::rotation(placement->orientation.value_or(donor->orientation));
    out.angles = model::anglesOf(turn * pose.linear() * lying.transpose());
    const Vector3d front_after = at_front + Vector3d(0, move.front_right_mm, move.front_up_mm);
    out.position_mm = front_after + turn * (pose.translation() - at_front);
    return out;
}

} // namespace gabarit::driveline
