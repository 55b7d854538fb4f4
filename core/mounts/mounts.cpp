#include "mounts/mounts.h"

#include "discipline/wording.h"
#include "gearing/section/gearing.h"
#include "model/describe.h"
#include "model/owner_place.h"
#include "mounts/bolts.h"
#include "mounts/section/mounts.h"
#include "quantity/tyre.h"

#include <algorithm>
#include <cmath>

namespace gabarit::mounts {

GABARIT_ONCE_DEFINED(MountsReport);

namespace {

using Eigen::Matrix3d;
using Eigen::Vector3d;
using model::Check;
using model::Unit;
using model::Verdict;

constexpr double g_m_per_s2 = 9.80665; // standard gravity, CGPM 1901
constexpr double nothing_n = 1;
constexpr double no_length_mm = 1e-6;

/// A face in the vehicle frame.
struct PlacedFace {
    Vector3d at_mm;
    Vector3d out;
};
Result<PlacedFace> placed(const model::Project& project, const model::MountFace& face, const std::string& where) {
    const auto its = model::ownerPlace(project, face.owner, face.point, face.at_mm, where);
    if (!its) return its.error();
    return PlacedFace{its.value().vehicle_mm(), its.value().pose_vehicle_owner.linear() * face.out.normalized()};
}

/// Axes of an isolator: axial towards the unit, the shear ones as near to the vehicle's as they can lie.
Matrix3d axesFor(const Vector3d& axial) {
    const Vector3d third = axial.normalized();
    const Vector3d near = std::abs(third.x()) < 0.9 ? Vector3d::UnitX() : Vector3d(Vector3d::UnitZ());
    Matrix3d out;
    out.col(0) = (near - third * third.dot(near)).normalized();
    out.col(1) = third.cross(out.col(0));
    out.col(2) = third;
    return out;
}

class Judge {
public:
    Judge(const model::Project& project, const model::RuleBook& book, const Given& given)
        : project_(project), mounts_(*project.sections.get<model::Mounts>()), book_(book), given_(given) {}

    MountsReport judged() {
        const auto unit = unitMass(project_);
        if (!unit) {
            // What bears on them is not known; where they are is.
            for (const model::Mount& mount : mounts_.mounts)
                if (auto there = placedMount(project_, book_, mount)) out_.mounts.push_back(there.value());
            return refused(unit.error());
        }
        out_.unit = unit.value();
        for (const model::Mount& mount : mounts_.mounts)
            if (const auto there = place(mount); !there) return refused(there.error());
        out_.usable = true;
        if (springs_.size() < 3) {
            Check& c = add("layout", "Mounts", Unit::Count, static_cast<double>(springs_.size()), "mounts_least_count");
            c.good_least = figure("mounts_least_count");
            c.reason = "fewer cannot hold it";
            model::judge(c);
        } else {
            rest();
            cases();
            torn();
            shake();
            movement();
        }
        unusedPads();
        for (const model::Mount& mount : mounts_.mounts) {
            bolts(mount, mount.pad, mount.pad_bolts, "pad");
            if (mount.stand) bolts(mount, *mount.stand, mount.stand_bolts, "stand");
        }
        if (given_.metal) {
            for (std::size_t i = 0; i < springs_.size(); ++i) meets(mounts_.mounts[i], i), stands(mounts_.mounts[i], i);
            judgeBrackets(project_, book_, out_);
            judgeCrossmembers(project_, book_, out_);
            judgeFrames(project_, book_, out_);
            out_.holds = holdsOf(project_);
            reopened();
            out_.handed = handedOf(project_, book_);
            out_.weld_pull_mm = weldPull_mm(project_, book_);
        }
        out_.verdict = Verdict::Go;
        for (const Check& check : out_.checks) out_.verdict = model::worse(out_.verdict, check.verdict);
        return std::move(out_);
    }

private:
    MountsReport refused(const Error& error) {
        out_.reason = error.line();
        Check c;
        c.id = "layout";
        c.what = "Mounts";
        c.reason = out_.reason;
        out_.checks.push_back(c);
        return std::move(out_);
    }
    double figure(const char* id) const { return book_.figure(id); }
    Check& add(const std::string& id, const std::string& what, Unit unit, std::optional<double> value,
               const char* rule) {
        Check c;
        c.id = id;
        c.what = what;
        c.unit = unit;
        c.value = value;
        if (*rule) c.rule = model::ruleOf(book_, rule);
        out_.checks.push_back(std::move(c));
        return out_.checks.back();
    }

    Result<void> place(const model::Mount& mount) {
        const auto there = placedMount(project_, book_, mount);
        if (!there) return there.error();
        const model::Isolator* isolator = isolatorOf(project_, book_, mount);
        MountReport report = there.value();
        Spring spring;
        spring.at_mm = report.at_mm;
        spring.axes = report.axes;
        spring.stop_rate_n_per_mm = figure("stop_rate_n_per_mm");
        if (isolator) {
            spring.rate_n_per_mm = {isolator->shear_n_per_mm,
                                    isolator->shear2_n_per_mm.value_or(isolator->shear_n_per_mm),
                                    isolator->axial_n_per_mm};
            if (isolator->stop_in_mm) spring.stop_low_mm[2] = -*isolator->stop_in_mm;
            if (isolator->stop_out_mm) spring.stop_high_mm[2] = *isolator->stop_out_mm;
            for (const std::size_t side : {0, 1})
                if (isolator->stop_side_mm) {
                    spring.stop_low_mm[side] = -*isolator->stop_side_mm;
                    spring.stop_high_mm[side] = *isolator->stop_side_mm;
                }
        } else {
            all_chosen_ = false;
            spring.rate_n_per_mm = Vector3d::Constant(1); // for statics: the rest is shared evenly
        }
        springs_.push_back(spring);
        isolators_.push_back(isolator);
        out_.mounts.push_back(std::move(report));
        return {};
    }

    Load weight(double down_g = 1) const { return {{0, 0, -down_g * out_.unit.body.mass_kg * g_m_per_s2}, {0, 0, 0}}; }
    /// The unit pressed against its mounts by its mass, in g along the vehicle's axes, on top of its weight.
    Load pressed(const Vector3d& by_g) const {
        Load out = weight();
        out.force_n += by_g * out_.unit.body.mass_kg * g_m_per_s2;
        return out;
    }

    /// Forces of the seats: by statics for three, else with their stops.
    std::vector<Vector3d> reactions(const Load& load, std::string& reason) const {
        if (out_.determinate) return threeReactions_n(out_.unit.body, springs_, load);
        if (!all_chosen_) {
            reason = "more than three share by their rates: choose an isolator for each";
            return {};
        }
        const auto move = equilibrium(out_.unit.body, springs_, load);
        if (!move) {
            reason = move.error().what;
            return {};
        }
        return forces_n(out_.unit.body, springs_, move.value());
    }

    void rest() {
        out_.determinate = !threeReactions_n(out_.unit.body, springs_, weight()).empty();
        if (all_chosen_) {
            auto at = equilibrium(out_.unit.body, springs_, weight());
            if (at) {
                rest_ = at.value();
            } else {
                Check& c = add("layout", "Mounts", Unit::Count, static_cast<double>(springs_.size()), "");
                c.verdict = Verdict::NoGo;
                c.reason = at.error().what;
            }
        }
        LoadCase c;
        c.id = "rest";
        c.name = "At rest";
        c.kind = CaseKind::Rest;
        c.how = "its weight";
        c.load = weight();
        take(std::move(c));
        const LoadCase& rest = out_.cases.front();
        for (std::size_t i = 0; i < springs_.size(); ++i) {
            MountReport& m = out_.mounts[i];
            if (!rest.on_unit_n.empty()) {
                m.rest_n = rest.on_unit_n[i].dot(m.axes.col(2));
                m.rest_shear_n = (rest.on_unit_n[i] - m.axes.col(2) * *m.rest_n).norm();
            }
            if (rest_) {
                const Vector3d own_mm = m.axes.transpose() * rest_->at(m.at_mm, out_.unit.body.centre_mm);
                m.rest_mm = -own_mm.z();
                m.rest_shear_mm = own_mm.head<2>().norm();
            }
            const model::Isolator* isolator = isolators_[i];
            if (!isolator) {
                Check& c2 = add(m.id + "/isolator", m.name + ": its isolator", Unit::Newtons, std::nullopt, "");
                c2.reason = "none is chosen";
                model::judge(c2);
                continue;
            }
            if (isolator->material != "solid") {
                rated(m, "rating", "along its axis", m.rest_n, isolator->rating_n);
                rated(m, "rating-shear", "across its axis", m.rest_shear_n, isolator->shear_rating_n);
            }
            if (isolator->stop_in_mm && m.rest_mm) {
                Check& c2 = add(m.id + "/stop", m.name + ": left to its stop at rest", Unit::Millimetres,
                                *isolator->stop_in_mm - *m.rest_mm, "rest_to_stop_mm");
                c2.good_least = figure("rest_to_stop_mm");
                c2.least = 0;
                model::judge(c2);
            }
            if (isolator->stop_side_mm && m.rest_shear_mm) {
                Check& c2 = add(m.id + "/stop-side", m.name + ": left to its stop sideways at rest", Unit::Millimetres,
                                *isolator->stop_side_mm - *m.rest_shear_mm, "rest_to_stop_mm");
                c2.good_least = figure("rest_to_stop_mm");
                c2.least = 0;
                model::judge(c2);
            }
        }
    }

    /// A rubber's load at rest in one direction against what it is rated for in that direction.
    void rated(const MountReport& m, const char* id, const char* direction, const std::optional<double>& load_n,
               const std::optional<double>& rating_n) {
        const bool loaded = load_n && std::abs(*load_n) >= nothing_n;
        if (load_n && !loaded && !rating_n) return; // nothing to hold
        Check& c =
            add(m.id + "/" + id, m.name + ": load at rest " + direction + ", share of its rating", Unit::Share,
                load_n && rating_n ? std::optional(std::abs(*load_n) / *rating_n) : std::nullopt, "rating_most_share");
        c.good_most = figure("rating_wanted_share");
        c.most = figure("rating_most_share");
        if (!rating_n)
            c.reason = "what it bears " + std::string(direction) + " is not given" +
                       (loaded ? "; " + quantity::fixed(std::abs(*load_n), 0) + " N rest on it so" : "");
        model::judge(c);
    }

    /// What was signed and no longer holds: each mount's first step, with what has changed.
    void reopened() {
        std::string before;
        for (const HoldReport& hold : out_.holds) {
            if (!hold.signed_off || hold.holds || hold.mount == before) continue;
            before = hold.mount;
            std::string name = hold.mount;
            for (const MountReport& m : out_.mounts)
                if (m.id == hold.mount) name = m.name;
            Check& c = add(hold.mount + "/hold",
                           name + ": changed since it was " + describe::said(hold.hold) +
                               (hold.date.empty() ? "" : " " + hold.date),
                           Unit::Count, static_cast<double>(hold.changed.size()), "");
            c.good_most = 0;
            c.soft = true;
            c.rule = "what a step was signed for must be as it was: fit it again and sign it again";
            for (const std::string& changed : hold.changed) c.reason += (c.reason.empty() ? "" : ", ") + changed;
            model::judge(c);
        }
    }

    /// Without a tower the rubber sits on the stand itself.
    void stands(const model::Mount& mount, std::size_t i) {
        if (!mount.stand || mount.tower || !mount.centre_mm || !isolators_[i] || !isolators_[i]->height_mm) return;
        const auto stand = placed(project_, *mount.stand, mount.name);
        if (!stand) return;
        const MountReport& m = out_.mounts[i];
        Check& c = add(m.id + "/stands", m.name + ": from the rubber to its stand", Unit::Millimetres,
                       (stand.value().at_mm - m.at_mm + m.axes.col(2) * *isolators_[i]->height_mm / 2).norm(),
                       "mount_meets_mm");
        c.good_most = figure("mount_meets_mm");
        c.soft = true;
        model::judge(c);
        if (c.verdict != Verdict::Go) c.reason = "nothing reaches there: a tower, or another place for the rubber";
    }

    /// Without a bracket the pad sits on the rubber itself.
    void meets(const model::Mount& mount, std::size_t i) {
        const bool bridged = mount.bracket || mount.made == model::MountMade::Adapter ||
                             mount.made == model::MountMade::SisterPart || (!mount.stand && !mount.centre_mm);
        if (bridged || !isolators_[i] || !isolators_[i]->height_mm) return;
        const auto pad = placed(project_, mount.pad, mount.name);
        if (!pad) return;
        const MountReport& m = out_.mounts[i];
        Check& c =
            add(m.id + "/meets", m.name + ": gap from pad to rubber", Unit::Millimetres,
                (pad.value().at_mm - m.at_mm - m.axes.col(2) * *isolators_[i]->height_mm / 2).norm(), "mount_meets_mm");
        c.good_most = figure("mount_meets_mm");
        c.soft = true;
        model::judge(c);
        if (c.verdict != Verdict::Go) c.reason = "nothing reaches there: a bracket, or another place for the rubber";
    }

    void take(LoadCase c) {
        if (c.reason.empty()) c.on_unit_n = reactions(c.load, c.reason);
        for (std::size_t i = 0; i < c.on_unit_n.size(); ++i)
            c.pulled.push_back(c.on_unit_n[i].dot(out_.mounts[i].axes.col(2)) < -nothing_n);
        if (c.reason.empty() && rest_ && all_chosen_ && c.kind != CaseKind::Strength) {
            const auto move = equilibrium(out_.unit.body, springs_, c.load);
            if (move) {
                c.from_rest = {move.value().by_mm - rest_->by_mm, move.value().turn_rad - rest_->turn_rad};
                for (std::size_t i = 0; i < springs_.size(); ++i) {
                    const Vector3d own =
                        springs_[i].axes.transpose() * move.value().at(springs_[i].at_mm, out_.unit.body.centre_mm);
                    bool stopped = false;
                    for (std::size_t k = 0; k < 3; ++k)
                        stopped = stopped || own[static_cast<int>(k)] > springs_[i].stop_high_mm[k] ||
                                  own[static_cast<int>(k)] < springs_[i].stop_low_mm[k];
                    c.at_stop.push_back(stopped);
                    c.mount_mm.push_back(springs_[i].axes.transpose() *
                                         c.from_rest.at(springs_[i].at_mm, out_.unit.body.centre_mm));
                }
            }
        }
        out_.cases.push_back(std::move(c));
    }

    /// Torque that the unit's casing takes, N·m about the shaft it drives; a reason when it is not known.
    std::optional<double> torque_nm(bool reverse, bool launch, std::string& how, std::string& reason) const {
        std::optional<double> engine = model::told(mounts_.torque_nm); // an engine without torque turns nothing
        const model::Gearing* gearing = model::gearingOf(project_);
        if (!engine && gearing)
            for (const model::TorquePoint& p : gearing->torque)
                if (p.torque_nm > 0) engine = std::max(engine.value_or(0), p.torque_nm);
        if (!engine) {
            reason = "the engine's torque is not given";
            return std::nullopt;
        }
        double ratio = 0;
        if (gearing)
            for (const model::Gear& gear : gearing->gears)
                if (gear.reverse == reverse) ratio = std::max(ratio, gear.ratio);
        if (ratio <= 0) {
            reason = reverse ? "the reverse gear's ratio is not given" : "the gears are not given";
            return std::nullopt;
        }
        double torque = *engine * ratio;
        how = quantity::fixed(*engine, 0) + " N·m × " + quantity::fixed(ratio, 2);
        const auto times = [&](double by, const char* what) {
            torque *= by;
            how += " × " + quantity::fixed(by, 2) + " (" + what + ")";
        };
        if (launch) times(figure("launch_factor"), "clutch let in, or converter");
        double onward = 1; // from the shaft in question to the wheels
        if (const double low = gearing->transfer_low.value_or(gearing->transfer_high);
            mounts_.transfer_on_unit && low != 1)
            times(low, "transfer");
        // One that stands by itself in high range: then most torque comes to the unit before the tyres slip.
        if (!mounts_.transfer_on_unit && !mounts_.reacts_axle_torque) onward *= gearing->transfer_high;
        if (mounts_.reacts_axle_torque) {
            if (!gearing->final_drive) {
                reason = "the final drive is not given";
                return std::nullopt;
            }
            times(*gearing->final_drive, "final drive");
        } else if (gearing->final_drive) {
            onward *= *gearing->final_drive;
        }
        const auto tyre = gearing->tyre.empty() ? Result<quantity::Tyre>(Error{}) : quantity::parseTyre(gearing->tyre);
        const std::optional<double> on_wheels_kg =
            mounts_.driven_axle_kg ? mounts_.driven_axle_kg : given_.driven_axle_kg;
        if (tyre.ok() && on_wheels_kg && (mounts_.reacts_axle_torque || gearing->final_drive)) {
            const double grip =
                figure("tyre_grip_factor") * *on_wheels_kg * g_m_per_s2 * tyre.value().diameter_mm / 2000 / onward;
            if (grip < torque) {
                torque = grip;
                how = "the tyres slip at " + quantity::fixed(grip, 0) + " N·m";
            }
        } else {
            how += ", not limited by grip: driven load, tyre or final drive not given";
        }
        return torque;
    }

    /// The casing's reaction, vehicle frame: against the shaft it drives.
    LoadCase torqueCase(bool reverse, CaseKind kind) const {
        LoadCase c;
        c.kind = kind;
        c.id = std::string(kind == CaseKind::Driving ? "drive-" : "") + (reverse ? "torque-reverse" : "torque-forward");
        c.name = reverse ? "Full torque in reverse" : "Full torque in the lowest gear";
        c.load = weight();
        const auto torque = torque_nm(reverse, kind == CaseKind::Strength, c.how, c.reason);
        if (!torque) return c;
        const double way = reverse ? 1 : -1;
        if (mounts_.reacts_axle_torque) {
            // Driving forward the wheels turn about −Y; the casing is turned about +Y: its front rises.
            c.load.moment_nmm = Vector3d(0, -way * *torque * 1000, 0);
        } else {
            // The crank and the shaft behind it turn clockwise seen from the unit's front, about +x'.
            const model::Placement* placement = model::activePlacement(project_);
            const auto donor = model::hangingDonor(project_);
            const Vector3d shaft = model::poseVehicleDonor(*placement, *donor).linear() * Vector3d::UnitX();
            c.load.moment_nmm = shaft * (way * *torque * 1000);
        }
        return c;
    }

    void cases() {
        const auto pressedCase = [&](const char* id, const char* name, CaseKind kind, const Vector3d& by_g,
                                     const char* what) {
            LoadCase c;
            c.id = id;
            c.name = name;
            c.kind = kind;
            c.load = pressed(by_g);
            c.how = "its weight and " + quantity::fixed(by_g.norm(), 2) + " g " + what;
            take(std::move(c));
        };
        take(torqueCase(false, CaseKind::Strength));
        take(torqueCase(true, CaseKind::Strength));
        const double bump = figure("mount_bump_g"), side = figure("mount_side_g"), brake = figure("mount_brake_g"),
                     tow = figure("mount_tow_g");
        const char *to_left = model::sideWord(project_, false), *to_right = model::sideWord(project_, true);
        pressedCase("bump", "Bump", CaseKind::Strength, {0, 0, -(bump - 1)}, "more down");
        pressedCase("corner-left", "Left-hand bend", CaseKind::Strength, {0, side, 0}, to_right);
        pressedCase("corner-right", "Right-hand bend", CaseKind::Strength, {0, -side, 0}, to_left);
        pressedCase("brake", "Braking", CaseKind::Strength, {-brake, 0, 0}, "forward");
        pressedCase("tow", "Towed off with a jerk", CaseKind::Strength, {tow, 0, 0}, "rearward");
        take(torqueCase(false, CaseKind::Driving));
        take(torqueCase(true, CaseKind::Driving));
        const double d_bump = figure("drive_bump_g"), d_brake = figure("drive_brake_g"),
                     d_side = figure("drive_corner_g");
        pressedCase("drive-bump", "Bump while driving", CaseKind::Driving, {0, 0, -(d_bump - 1)}, "more down");
        pressedCase("drive-rebound", "Dip while driving", CaseKind::Driving, {0, 0, d_bump - 1}, "less down");
        pressedCase("drive-brake", "Braking while driving", CaseKind::Driving, {-d_brake, 0, 0}, "forward");
        pressedCase("drive-left", "Left-hand bend while driving", CaseKind::Driving, {0, d_side, 0}, to_right);
        pressedCase("drive-right", "Right-hand bend while driving", CaseKind::Driving, {0, -d_side, 0}, to_left);
        // What is pulled apart must hold so.
        for (std::size_t i = 0; i < springs_.size(); ++i) {
            double most = 0;
            std::string when;
            bool known = true;
            for (const LoadCase& c : out_.cases) {
                if (c.on_unit_n.empty()) {
                    known = known && c.kind != CaseKind::Strength;
                    continue;
                }
                const double pull = -c.on_unit_n[i].dot(out_.mounts[i].axes.col(2));
                if (pull > most) {
                    most = pull;
                    when = c.name;
                }
            }
            if (most < nothing_n && known) continue;
            const model::Isolator* isolator = isolators_[i];
            Check& c = add(out_.mounts[i].id + "/pulled", out_.mounts[i].name + ": pulled apart by", Unit::Newtons,
                           most < nothing_n ? std::nullopt : std::optional(most), "");
            c.at = when;
            c.rule = "a mount that is pulled apart needs halves that hold one another, or a stop outwards";
            if (!c.value) {
                c.reason = "not every load is known";
                model::judge(c);
            } else if (!isolator) {
                c.verdict = Verdict::Unknown;
                c.reason = "its isolator is not chosen";
            } else if (isolator->captive || isolator->stop_out_mm || isolator->material == "solid") {
                c.verdict = Verdict::Go;
            } else {
                c.verdict = Verdict::NoGo;
                c.reason = "its rubber alone would tear";
            }
        }
    }

    /// With one rubber torn: its own stops hold when its halves hold one another, else nothing of it does.
    void torn() {
        if (!all_chosen_) return;
        for (std::size_t i = 0; i < springs_.size(); ++i) {
            if (isolators_[i]->material == "solid") {
                out_.mounts[i].torn_holds = true;
                continue;
            }
            std::vector<Spring> left = springs_;
            left[i].rate_n_per_mm.setZero();
            if (!isolators_[i]->captive) left[i].stop_rate_n_per_mm = 0;
            const auto move = equilibrium(out_.unit.body, left, weight());
            MountReport& m = out_.mounts[i];
            if (move && rest_)
                m.torn_mm =
                    (move.value().at(m.at_mm, out_.unit.body.centre_mm) - rest_->at(m.at_mm, out_.unit.body.centre_mm))
                        .norm();
            Check& c = add(m.id + "/torn", m.name + ": with its rubber torn the unit goes there by", Unit::Millimetres,
                           m.torn_mm, "torn_most_mm");
            c.good_most = figure("torn_most_mm");
            if (m.torn_mm) {
                model::judge(c);
            } else {
                c.verdict = Verdict::NoGo;
                c.reason = "nothing holds it then: a captive isolator, or a strap";
            }
            m.torn_holds = c.verdict != Verdict::NoGo;
        }
    }

    void shake() {
        if (!all_chosen_) {
            out_.modes_reason = "not every mount has an isolator";
            return;
        }
        const auto found = modes(out_.unit.body, springs_);
        if (!found) {
            out_.modes_reason = found.error().line();
            Check& c = add("modes", "How it shakes", Unit::Hertz, std::nullopt, "");
            c.reason = out_.modes_reason;
            model::judge(c);
            return;
        }
        out_.modes = found.value();
        const model::Running* running = mounts_.running ? &*mounts_.running : nullptr;
        const bool fires = running && running->layout != model::Cylinders::None;
        if (fires && running->idle_rpm && running->cylinders)
            out_.firing_hz = *running->idle_rpm / 60 * *running->cylinders / (running->two_stroke ? 1 : 2);
        const double hop_low = figure("wheel_hop_low_hz"), hop_high = figure("wheel_hop_high_hz"),
                     bounce_low = figure("body_bounce_low_hz"), bounce_high = figure("body_bounce_high_hz");
        for (const Mode& mode : *out_.modes) {
            const std::string id = std::string("mode-") + std::to_string(static_cast<int>(mode.of) + 1);
            const std::string name = discipline::upperFirst(word(mode.of));
            if (!running || running->layout != model::Cylinders::None) {
                Check& c = add(id + "/idle", name + " shake", Unit::Hertz, mode.frequency_hz, "isolation_least_ratio");
                if (out_.firing_hz) {
                    c.good_most = *out_.firing_hz / figure("isolation_wanted_ratio");
                    c.most = *out_.firing_hz / figure("isolation_least_ratio");
                    model::judge(c);
                } else {
                    c.verdict = Verdict::Unknown;
                    c.reason = "idle speed or cylinders not given";
                }
            }
            const auto apart = [&](double low, double high, const char* what, const char* rule) {
                if (mode.frequency_hz < low || mode.frequency_hz > high) return;
                Check& c = add(id + "/" + rule, name + " shake", Unit::Hertz, mode.frequency_hz, rule);
                c.verdict = Verdict::Close; // a nuisance, no danger
                c.reason =
                    std::string(what) + ": " + quantity::fixed(low, 0) + " to " + quantity::fixed(high, 0) + " Hz";
            };
            apart(hop_low, hop_high, "wheels hop in that range", "wheel_hop_low_hz");
            apart(bounce_low, bounce_high, "the body bounces in that range", "body_bounce_low_hz");
        }
        secondOrder(running);
    }

    /// An in-line four shakes up and down at twice the crank's speed, 4·m·r·ω²·r/l: the second orders of its four
    /// pistons add up.
    void secondOrder(const model::Running* running) {
        if (!running || running->layout != model::Cylinders::Inline || running->balance_shafts || !running->cylinders ||
            *running->cylinders != 4 || !running->idle_rpm)
            return;
        out_.second_order_hz = 2 * *running->idle_rpm / 60;
        const double omega = *running->idle_rpm * M_PI / 30;
        if (running->reciprocating_kg && running->stroke_mm && running->rod_mm) {
            const double r = *running->stroke_mm / 2000;
            out_.second_order_n = 4 * *running->reciprocating_kg * r * omega * omega * r / (*running->rod_mm / 1000);
        }
        for (const Mode& mode : *out_.modes) {
            if (mode.of != ModeOf::Bounce) continue;
            Check& c =
                add("second-order", "Of its shake at twice the crank's speed reaches the frame at idle", Unit::Share,
                    transmissibility(*out_.second_order_hz, mode.frequency_hz, damping()), "second_order_most_share");
            c.good_most = figure("second_order_most_share");
            c.most = 1;
            c.reason = "an in-line four without balance shafts";
            model::judge(c);
        }
    }
    double damping() const {
        double sum = 0;
        for (const model::Isolator* isolator : isolators_)
            sum += isolator && isolator->damping ? *isolator->damping : figure("rubber_damping_share");
        return isolators_.empty() ? 0 : sum / static_cast<double>(isolators_.size());
    }

    /// What the driving cases come to.
    void movement() {
        if (!rest_) return;
        model::Rocking rocking;
        rocking.source = "its mounts";
        for (const LoadCase& c : out_.cases) {
            if (c.kind != CaseKind::Driving || c.mount_mm.empty()) continue;
            rocking.roll_deg = std::max(rocking.roll_deg, std::abs(c.from_rest.turn_rad.x()) * quantity::deg_per_rad);
            rocking.up_mm = std::max(rocking.up_mm, c.from_rest.by_mm.z());
            rocking.down_mm = std::max(rocking.down_mm, -c.from_rest.by_mm.z());
            rocking.along_mm = std::max(rocking.along_mm, std::abs(c.from_rest.by_mm.x()));
        }
        if (rocking.any()) out_.rocking = rocking;
    }

    void bolts(const model::Mount& mount, const model::MountFace& face, const model::Bolting& bolts,
               const char* which) {
        const std::string id = mount.id + "/" + which, name = mount.name + ", " + which;
        if (face.holes_mm.empty() && !face.thread_mm && std::string(which) != "pad") return; // welded on
        BoltReport r;
        r.mount = mount.id;
        r.face = which;
        const auto holes = static_cast<double>(face.holes_mm.size());
        if (holes > 0) {
            Check& c = add(id + "/all", name + ": bolts used", Unit::Count, bolts.used.value_or(holes), "");
            c.good_least = holes;
            c.rule = "every hole that its maker provides is used";
            model::judge(c);
        }
        // A face is bolted when it has holes or a thread: what one of them says needs the other.
        const auto unknown = [&](const char* what, const char* words, const char* reason) {
            Check& c = add(id + "/" + what, name + words, Unit::Count, std::nullopt, "");
            c.rule = "what holds the unit is known bolt by bolt";
            c.reason = reason;
            model::judge(c);
        };
        if (holes == 0) unknown("all", ": bolts used", "where its holes are is not given");
        if (!face.thread_mm || *face.thread_mm <= 0) {
            unknown("thread", ": its bolts' size", "their diameter is not given");
            out_.bolts.push_back(r);
            return;
        }
        if (bolts.grade.empty()) unknown("grade", ": its bolts' grade", "their property class is not given");
        const double d = *face.thread_mm;
        if (face.through) {
            through(id, name, face, bolts, r);
        } else {
            const char* const least_rule = face.metal == model::Metal::Steel      ? "engage_steel_diameters"
                                           : face.metal == model::Metal::CastIron ? "engage_iron_diameters"
                                                                                  : "engage_aluminium_diameters";
            const double least = figure(least_rule) * d;
            if (bolts.length_mm && bolts.clamped_mm) r.engaged_mm = *bolts.length_mm - *bolts.clamped_mm;
            if (bolts.clamped_mm) r.least_length_mm = *bolts.clamped_mm + least;
            if (bolts.clamped_mm && face.depth_mm)
                r.most_length_mm = *bolts.clamped_mm + *face.depth_mm - figure("bolt_tip_clear_mm");
            Check& c = add(id + "/engaged", name + ": thread engaged", Unit::Millimetres, r.engaged_mm, least_rule);
            c.good_least = least;
            c.accuracy = 0;
            if (!r.engaged_mm)
                c.reason = bolts.length_mm ? "what lies under the head is not given" : "the bolts' length is not given";
            model::judge(c);
            if (face.metal == model::Metal::NotSaid && c.verdict == Verdict::NoGo &&
                *r.engaged_mm >= figure("engage_steel_diameters") * d) {
                c.verdict = Verdict::Unknown;
                c.reason = "enough in steel, too little in a softer metal: say which it is";
            }
            Check& deep =
                add(id + "/depth", name + ": left in the hole before the bolt bottoms", Unit::Millimetres,
                    r.engaged_mm && face.depth_mm ? std::optional(*face.depth_mm - *r.engaged_mm) : std::nullopt,
                    "bolt_tip_clear_mm");
            deep.good_least = figure("bolt_tip_clear_mm");
            deep.least = 0;
            if (!deep.value)
                deep.reason = face.depth_mm ? "how far the bolt goes in is not known" : "the hole's depth is not given";
            model::judge(deep);
        }
        const auto pitch = coarsePitch_mm(d);
        const auto proof = proofStress_mpa(bolts.grade, d);
        if (pitch && proof) {
            r.preload_n = figure("preload_share") * *proof * stressArea_mm2(d, *pitch);
            const char* const factor = bolts.treatment == model::Treatment::Dry      ? "torque_dry_factor"
                                       : bolts.treatment == model::Treatment::Oiled  ? "torque_oiled_factor"
                                       : bolts.treatment == model::Treatment::Locker ? "torque_locker_factor"
                                                                                     : "torque_anti_seize_factor";
            r.torque_nm = figure(factor) * d / 1000 * *r.preload_n;
            if (bolts.torque_nm) {
                Check& c = add(id + "/torque", name + ": tightened to", Unit::NewtonMetres, bolts.torque_nm, factor);
                c.good_least = *r.torque_nm * (1 - figure("torque_within_share"));
                c.good_most = *r.torque_nm * (1 + figure("torque_within_share"));
                c.soft = true; // its maker's own figure may differ
                model::judge(c);
            }
        }
        out_.bolts.push_back(r);
    }

    /// A bolt that goes through with a nut behind: what it clamps, that its end stands out of the nut, and that the nut
    /// does not run out of thread before it clamps.
    void through(const std::string& id, const std::string& name, const model::MountFace& face,
                 const model::Bolting& bolts, BoltReport& r) {
        const double d = *face.thread_mm;
        const auto pitch = coarsePitch_mm(d), nut = nutHeight_mm(d);
        if (bolts.clamped_mm && face.depth_mm) r.grip_mm = *bolts.clamped_mm + *face.depth_mm;
        if (r.grip_mm && bolts.length_mm) r.engaged_mm = *bolts.length_mm - *r.grip_mm;
        const double out_mm = pitch ? figure("bolt_out_of_nut_pitches") * *pitch : 0;
        std::string missing;
        for (const auto& [known, what] : {std::pair(bolts.length_mm.has_value(), "the bolts' length"),
                                          std::pair(bolts.clamped_mm.has_value(), "what lies under the head"),
                                          std::pair(face.depth_mm.has_value(), "the metal's thickness"),
                                          std::pair(pitch && nut, "a nut of that diameter")})
            if (!known) missing += (missing.empty() ? "" : ", ") + std::string(what);
        if (!missing.empty()) missing = "not given: " + missing;
        Check& c = add(id + "/nut", name + ": bolt beyond what it clamps", Unit::Millimetres,
                       pitch && nut ? r.engaged_mm : std::nullopt, "bolt_out_of_nut_pitches");
        c.good_least = nut.value_or(0) + out_mm;
        c.reason = missing;
        if (r.grip_mm && nut) {
            r.least_length_mm = *r.grip_mm + *nut + out_mm;
            // As ISO 4014 threads them up to 125 mm, where nothing is said of its own; longer ones are threaded
            // further.
            r.most_length_mm =
                *r.grip_mm - figure("bolt_thread_in_grip_mm") + bolts.threaded_mm.value_or(threadedLength_mm(d, 125));
        }
        model::judge(c);
        if (c.verdict == Verdict::NoGo) c.reason = "the nut is not filled: a longer bolt";
        std::optional<double> left;
        if (r.grip_mm && bolts.length_mm)
            left = *r.grip_mm - (*bolts.length_mm - bolts.threaded_mm.value_or(threadedLength_mm(d, *bolts.length_mm)));
        Check& grip = add(id + "/grip", name + ": thread left inside what it clamps", Unit::Millimetres, left,
                          "bolt_thread_in_grip_mm");
        grip.good_least = figure("bolt_thread_in_grip_mm");
        grip.reason = left ? "" : missing;
        model::judge(grip);
        if (grip.verdict != Verdict::NoGo) return;
        grip.reason = "the nut runs onto the shank before it clamps: a shorter bolt, or one threaded further";
        if (!bolts.threaded_mm) {
            grip.verdict = Verdict::Unknown;
            grip.reason = "a bolt with a shank (ISO 4014) would run out of thread: give how far its thread goes";
        }
    }

    /// A place of the unit that is made to be hung by, and that no mount takes.
    void unusedPads() {
        const std::optional<model::Donor> donor = model::hangingDonor(project_); // pads of options that are taken
        if (!donor) return;
        const double near_mm = figure("pad_same_mm");
        for (const model::HardPoint& point : donor->reference_points) {
            if (point.role != "front_mount" && point.role != "gearbox_mount") continue;
            const bool used = std::any_of(mounts_.mounts.begin(), mounts_.mounts.end(), [&](const model::Mount& mount) {
                if (mount.pad.owner != donor->id.text) return false;
                if (mount.pad.point == point.id) return true;
                const auto its = model::ownerPlace(project_, mount.pad.owner, mount.pad.point, mount.pad.at_mm, "");
                return its && (its.value().at_mm - point.at_mm).norm() <= near_mm;
            });
            if (used) continue;
            Check& c = add("pad/" + point.id.text, point.name + ": what the unit hangs on there", Unit::Count,
                           std::nullopt, "");
            c.rule = "every place that its maker hung it by carries its share";
            c.reason = "no mount's pad is near it: make one, or take the point's role away where it is not needed";
            model::judge(c);
        }
    }

    const model::Project& project_;
    const model::Mounts& mounts_;
    const model::RuleBook& book_;
    const Given& given_;
    MountsReport out_;
    std::vector<Spring> springs_;
    std::vector<const model::Isolator*> isolators_;
    std::optional<Move> rest_;
    bool all_chosen_ = true;
};

} // namespace

const model::Isolator* isolatorOf(const model::Project& project, const model::RuleBook& book,
                                  const model::Mount& mount) {
    if (mount.isolator.empty()) return nullptr;
    if (const auto* mounts = project.sections.get<model::Mounts>())
        for (const model::Isolator& isolator : mounts->isolators)
            if (isolator.id == mount.isolator) return &isolator;
    for (const model::Isolator& isolator : book.isolators)
        if (isolator.id == mount.isolator) return &isolator;
    return nullptr;
}

Result<MountReport> placedMount(const model::Project& project, const model::RuleBook& book, const model::Mount& mount) {
    const std::string where = "mount \"" + mount.name + "\"";
    const auto pad = placed(project, mount.pad, where + ", its pad");
    if (!pad) return pad.error();
    std::optional<PlacedFace> stand;
    if (mount.stand) {
        const auto there = placed(project, *mount.stand, where + ", its stand");
        if (!there) return there.error();
        stand = there.value();
    }
    const model::Isolator* isolator = isolatorOf(project, book, mount);
    if (!mount.isolator.empty() && !isolator)
        return Error{"there is no isolator \"" + mount.isolator + "\"", where, "choose one of the catalogue"};
    MountReport report;
    report.id = mount.id;
    report.name = mount.name;
    if (isolator) report.isolator = isolator->name;
    const Vector3d axial = mount.axis ? *mount.axis : stand ? stand->out : Vector3d(Vector3d::UnitZ());
    if (axial.norm() < no_length_mm) return Error{"its axis has no direction", where, "give the axis"};
    report.axes = axesFor(axial);
    report.at_mm = pad.value().at_mm;
    if (stand) report.at_mm = stand->at_mm;
    if (stand && isolator && isolator->height_mm) report.at_mm += stand->out * *isolator->height_mm / 2;
    if (mount.centre_mm) report.at_mm = *mount.centre_mm;
    return report;
}

Lean leanOf(const Vector3d& axis, double at_y_mm) {
    const Vector3d a = axis.normalized();
    const double side = at_y_mm < 0 ? -1 : 1;
    return {std::atan2(side * a.y(), a.z()) * quantity::deg_per_rad,
            -std::asin(std::clamp(a.x(), -1.0, 1.0)) * quantity::deg_per_rad};
}
Vector3d axisOf(const Lean& lean, double at_y_mm) {
    const double outward = lean.outward_deg / quantity::deg_per_rad, forward = lean.forward_deg / quantity::deg_per_rad;
    const double side = at_y_mm < 0 ? -1 : 1;
    return {-std::sin(forward), side * std::cos(forward) * std::sin(outward), std::cos(forward) * std::cos(outward)};
}

std::string leanWords(const Lean& lean) {
    constexpr double shown_deg = 0.5;
    std::string out;
    const auto say = [&out](double deg, const char* above, const char* below) {
        if (std::abs(deg) < shown_deg) return;
        out += (out.empty() ? "leaning " : " and ") + quantity::angleText(std::abs(deg), 0) + " " +
               (deg > 0 ? above : below);
    };
    say(lean.outward_deg, "outward", "inward");
    say(lean.forward_deg, "forward", "rearward");
    return out.empty() ? "upright" : out;
}

std::optional<MountsReport> judgeMounts(const model::Project& project, const model::RuleBook& book,
                                        const Given& given) {
    if (!project.sections.get<model::Mounts>()) return std::nullopt;
    return Judge(project, book, given).judged();
}

} // namespace gabarit::mounts
