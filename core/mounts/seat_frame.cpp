#include "mounts/seat_frame.h"

#include "model/owner_place.h"
#include "mounts/mounts.h"
#include "mounts/section/mounts.h"

#include <algorithm>
#include <cmath>

namespace gabarit::mounts {
namespace {

using Eigen::Matrix3d;
using Eigen::Vector3d;
using model::Check;
using model::Unit;

constexpr double alike_n_per_mm = 1e4; // any rate: only that the seats' are equal counts

double lengthOf_mm(const std::vector<Vector3d>& member) {
    double sum = 0;
    for (std::size_t i = 1; i < member.size(); ++i) sum += (member[i] - member[i - 1]).norm();
    return sum;
}
/// Nearest place of a member, along it from its first corner; `off_mm` receives how far beside it.
double nearestAlong_mm(const std::vector<Vector3d>& member, const Vector3d& p, double& off_mm) {
    double best = 0, sum = 0;
    off_mm = 1e18;
    for (std::size_t i = 1; i < member.size(); ++i) {
        const Vector3d leg = member[i] - member[i - 1];
        const double t = std::clamp((p - member[i - 1]).dot(leg) / leg.squaredNorm(), 0.0, 1.0);
        const double off = (member[i - 1] + leg * t - p).norm();
        if (off < off_mm) {
            off_mm = off;
            best = sum + t * leg.norm();
        }
        sum += leg.norm();
    }
    return best;
}

class FrameJudge {
public:
    FrameJudge(const model::Project& project, const model::RuleBook& book, MountsReport& report)
        : project_(project), mounts_(*project.sections.get<model::Mounts>()), book_(book), report_(report) {}

    void judge(const model::SeatFrame& frame) {
        FrameReport r;
        r.id = frame.id;
        r.name = frame.name;
        r.members_mm = frame.members_mm;
        r.made = !frame.bodies.empty();
        std::vector<std::size_t> on_it;
        for (std::size_t i = 0; i < mounts_.mounts.size(); ++i)
            if (mounts_.mounts[i].frame == frame.id) {
                on_it.push_back(i);
                r.mounts.push_back(mounts_.mounts[i].name);
            }
        r.reason = seats(frame, r);
        for (const auto& member : frame.members_mm) r.length_mm += lengthOf_mm(member);
        const double width = frame.width_mm.value_or(book_.figure("frame_width_mm")),
                     height = frame.height_mm.value_or(book_.figure("frame_height_mm")),
                     wall = frame.wall_mm.value_or(book_.figure("frame_wall_mm"));
        r.width_mm = width, r.height_mm = height, r.wall_mm = wall;
        const double area = width * height - (width - 2 * wall) * (height - 2 * wall);
        r.mass_kg = area * r.length_mm * book_.figure("steel_density_kg_m3") / 1e9;
        {
            Check& c = add(frame, "seats", ": seats that carry it", Unit::Count, static_cast<double>(r.seats.size()),
                           "mounts_least_count");
            c.good_least = book_.figure("mounts_least_count");
            c.reason = r.reason;
            model::judge(c);
        }
        if (on_it.empty() && r.reason.empty()) r.reason = "no mount stands on it";
        if (r.reason.empty() && r.seats.size() >= 3) load(frame, r, on_it, width, height, wall);
        report_.frames.push_back(std::move(r));
    }

private:
    Check& add(const model::SeatFrame& frame, const std::string& what, const std::string& words, Unit unit,
               std::optional<double> value, const char* rule) {
        Check c;
        c.id = frame.id + "/" + what;
        c.what = frame.name + words;
        c.unit = unit;
        c.value = value;
        if (*rule) c.rule = model::ruleOf(book_, rule);
        report_.checks.push_back(std::move(c));
        return report_.checks.back();
    }

    std::string seats(const model::SeatFrame& frame, FrameReport& r) {
        for (const std::string& id : frame.seats) {
            const auto seat = std::find_if(mounts_.seats.begin(), mounts_.seats.end(),
                                           [&id](const model::OldSeat& s) { return s.id == id; });
            if (seat == mounts_.seats.end()) return "there is no seat \"" + id + "\"";
            for (const model::OldMount& old : mounts_.old_mounts)
                if (old.seat == id && old.state != model::OldState::Stays)
                    return "its seat \"" + seat->name + "\" is to go with \"" + old.name + "\"";
            const auto its =
                model::ownerPlace(project_, seat->face.owner, seat->face.point, seat->face.at_mm, seat->name);
            if (!its) return its.error().what;
            SeatLoad load;
            load.seat = id;
            load.name = seat->name;
            load.at_mm = its.value().vehicle_mm();
            outs_.push_back(its.value().pose_vehicle_owner.linear() * seat->face.out.normalized());
            r.seats.push_back(std::move(load));
        }
        return {};
    }

    void load(const model::SeatFrame& frame, FrameReport& r, const std::vector<std::size_t>& on_it, double width,
              double height, double wall) {
        std::vector<Spring> springs;
        Vector3d middle = Vector3d::Zero();
        for (const SeatLoad& seat : r.seats) {
            Spring s;
            s.at_mm = seat.at_mm;
            s.rate_n_per_mm = Vector3d::Constant(alike_n_per_mm);
            springs.push_back(s);
            middle += seat.at_mm / static_cast<double>(r.seats.size());
        }
        RigidBody body;
        body.mass_kg = 1;
        body.centre_mm = middle;
        const double i_strong =
            (width * std::pow(height, 3) - (width - 2 * wall) * std::pow(height - 2 * wall, 3)) / 12;
        const double i_weak = (height * std::pow(width, 3) - (height - 2 * wall) * std::pow(width - 2 * wall, 3)) / 12;
        const double w_mm3 = std::min(i_strong / (height / 2), i_weak / (width / 2));
        const double yield = book_.figure("bracket_yield_mpa");
        for (const LoadCase& c : report_.cases) {
            if (c.kind == CaseKind::Driving || c.on_unit_n.empty()) continue;
            Load load;
            for (const std::size_t i : on_it) {
                const Vector3d on_frame = -c.on_unit_n[i];
                load.force_n += on_frame;
                load.moment_nmm += (report_.mounts[i].at_mm - middle).cross(on_frame);
                bend(frame, r, report_.mounts[i].at_mm, on_frame.norm(), w_mm3, yield, c.name);
            }
            const auto move = equilibrium(body, springs, load);
            if (!move) {
                r.reason = "its seats lie on one line: it would swing about it";
                Check& check = add(frame, "hold", ": held by its seats", Unit::Count, std::nullopt, "");
                check.verdict = model::Verdict::NoGo;
                check.reason = r.reason;
                return;
            }
            const std::vector<Vector3d> on_body = forces_n(body, springs, move.value());
            for (std::size_t k = 0; k < r.seats.size(); ++k) {
                SeatLoad& seat = r.seats[k];
                const double pressed = on_body[k].dot(outs_[k]); // the seat pushes the frame along its out
                if (c.kind == CaseKind::Rest) seat.rest_n = pressed;
                if (on_body[k].norm() > seat.most_n) {
                    seat.most_n = on_body[k].norm();
                    seat.most_case = c.name;
                }
                if (-pressed > seat.pulled_n) {
                    seat.pulled_n = -pressed;
                    seat.pulled_case = c.name;
                }
            }
        }
        for (std::size_t k = 0; k < r.seats.size(); ++k) {
            const SeatLoad& seat = r.seats[k];
            if (seat.pulled_n < 1) continue;
            const auto face = std::find_if(mounts_.seats.begin(), mounts_.seats.end(),
                                           [&seat](const model::OldSeat& s) { return s.id == seat.seat; });
            Check& check = add(frame, "pulled/" + seat.seat, ": pulled off \"" + seat.name + "\" by", Unit::Newtons,
                               seat.pulled_n, "");
            check.at = seat.pulled_case;
            check.rule = "a seat that is pulled at needs bolts through it, not a peg";
            const bool bolted = face->face.thread_mm && !face->face.holes_mm.empty();
            check.verdict = bolted ? model::Verdict::Go : model::Verdict::Close;
            if (!bolted) check.reason = "how it is bolted is not given";
        }
        Check& check =
            add(frame, "strength", ": strength over the worst load", Unit::Factor, r.factor, "bracket_factor_wanted");
        check.good_least = book_.figure("bracket_factor_wanted");
        check.least = book_.figure("bracket_factor_least");
        check.at = r.worst_case;
        if (!r.factor) check.reason = "it has no members under its mounts";
        model::judge(check);
        for (const std::size_t i : on_it) {
            double least = 1e18;
            for (const auto& member : frame.members_mm) {
                double off = 0;
                nearestAlong_mm(member, report_.mounts[i].at_mm, off);
                least = std::min(least, off);
            }
            Check& reach = add(frame, "reach/" + mounts_.mounts[i].id, ": from a member to " + mounts_.mounts[i].name,
                               Unit::Millimetres, least < 1e17 ? std::optional(least) : std::nullopt, "frame_reach_mm");
            reach.good_most = book_.figure("frame_reach_mm");
            if (least > 1e17) reach.reason = "it has no members yet";
            model::judge(reach);
        }
        for (const SeatLoad& seat : r.seats) {
            double least = 1e18;
            for (const auto& member : frame.members_mm)
                for (const Vector3d& end : {member.front(), member.back()})
                    least = std::min(least, (end - seat.at_mm).norm());
            Check& reach = add(frame, "on/" + seat.seat, ": a member's end from \"" + seat.name + "\"",
                               Unit::Millimetres, least < 1e17 ? std::optional(least) : std::nullopt, "frame_reach_mm");
            reach.good_most = book_.figure("frame_reach_mm");
            model::judge(reach);
        }
    }

    /// The member nearest to a mount as a beam on its two ends: M = F·a·b/l.
    void bend(const model::SeatFrame& frame, FrameReport& r, const Vector3d& at_mm, double force_n, double w_mm3,
              double yield, const std::string& name) const {
        const std::vector<Vector3d>* nearest = nullptr;
        double least = 1e18, along = 0;
        for (const auto& member : frame.members_mm) {
            double off = 0;
            const double there = nearestAlong_mm(member, at_mm, off);
            if (off < least) {
                least = off;
                along = there;
                nearest = &member;
            }
        }
        if (!nearest) return;
        const double length = lengthOf_mm(*nearest);
        const double moment = force_n * along * (length - along) / length;
        if (moment <= 0) return;
        const double factor = yield * w_mm3 / moment;
        if (r.factor && factor >= *r.factor) return;
        r.factor = factor;
        r.worst_case = name;
    }

    const model::Project& project_;
    const model::Mounts& mounts_;
    const model::RuleBook& book_;
    MountsReport& report_;
    std::vector<Vector3d> outs_;
};

} // namespace

void judgeFrames(const model::Project& project, const model::RuleBook& book, MountsReport& report) {
    const auto* mounts = project.sections.get<model::Mounts>();
    if (!mounts || !report.usable) return;
    for (const model::SeatFrame& frame : mounts->frames) FrameJudge(project, book, report).judge(frame);
}

} // namespace gabarit::mounts
