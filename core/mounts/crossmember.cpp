#include "mounts/crossmember.h"

#include "model/owner_place.h"
#include "model/reshape.h"
#include "mounts/mounts.h"
#include "mounts/section/mounts.h"

#include <algorithm>
#include <cmath>

namespace gabarit::mounts {
namespace {

using Eigen::Vector2d;
using Eigen::Vector3d;
using model::Check;
using model::Unit;

const model::HoleRow* rowOf(const model::Mounts& mounts, const std::string& id) {
    for (const model::HoleRow& row : mounts.rows)
        if (row.id == id) return &row;
    return nullptr;
}

double toSegment_mm(const Vector2d& p, const Vector2d& a, const Vector2d& b) {
    const Vector2d along = b - a;
    const double t = along.squaredNorm() > 0 ? std::clamp((p - a).dot(along) / along.squaredNorm(), 0.0, 1.0) : 0.0;
    return (a + along * t - p).norm();
}

Vector2d across(const Vector3d& v) { return {v.y(), v.z()}; }

/// Lowest of a body, above the datum, as the box round its shape's corners stands.
std::optional<double> bottomOf(const model::Body& body, const Eigen::Isometry3d& pose_vehicle_body) {
    std::vector<Vector3d> points;
    double round_mm = 0;
    const Eigen::Matrix3d turn = pose_vehicle_body.linear();
    if (const auto* box = std::get_if<model::BoxSpec>(&body.shape)) {
        for (int corner = 0; corner < 8; ++corner)
            points.push_back(Vector3d((corner & 1 ? 1 : -1) * box->size_mm.x() / 2,
                                      (corner & 2 ? 1 : -1) * box->size_mm.y() / 2,
                                      (corner & 4 ? 1 : -1) * box->size_mm.z() / 2));
    } else if (const auto* bar = std::get_if<model::CylinderSpec>(&body.shape)) {
        points = {bar->from_mm, bar->to_mm};
        const Vector3d axis = turn * (bar->to_mm - bar->from_mm).normalized();
        round_mm = bar->diameter_mm / 2 * std::sqrt(std::max(0.0, 1 - axis.z() * axis.z()));
    } else if (const auto* ball = std::get_if<model::SphereSpec>(&body.shape)) {
        points = {Vector3d::Zero()};
        round_mm = ball->diameter_mm / 2;
    } else if (const auto* tube = std::get_if<model::TubeSpec>(&body.shape)) {
        points = tube->path_mm;
        round_mm = tube->diameter_mm / 2;
    } else if (const auto* plate = std::get_if<model::PlateSpec>(&body.shape)) {
        for (const Vector2d& corner : plate->outline_mm)
            for (const double z : {0.0, plate->thickness_mm}) points.emplace_back(corner.x(), corner.y(), z);
    } else if (const auto* profile = std::get_if<model::ProfileSpec>(&body.shape)) {
        Vector3d u, v;
        const Vector3d direction = (profile->to_mm - profile->from_mm).normalized();
        model::sectionAxes(direction, u, v);
        const Eigen::AngleAxisd roll(profile->roll_deg / quantity::deg_per_rad, direction);
        std::vector<Vector2d> section;
        const auto rectangle = [&section](double width, double height) {
            for (const double x : {-0.5, 0.5})
                for (const double y : {-0.5, 0.5}) section.emplace_back(x * width, y * height);
        };
        if (const auto* r = std::get_if<model::RectTubeSection>(&profile->section))
            rectangle(r->width_mm, r->height_mm);
        if (const auto* c = std::get_if<model::CSection>(&profile->section)) rectangle(c->width_mm, c->height_mm);
        if (const auto* r = std::get_if<model::RoundTubeSection>(&profile->section))
            rectangle(r->diameter_mm, r->diameter_mm);
        if (const auto* p = std::get_if<model::PolygonSection>(&profile->section)) section = p->points_mm;
        for (const Vector3d& end : {profile->from_mm, profile->to_mm})
            for (const Vector2d& s : section) points.push_back(end + roll * (u * s.x() + v * s.y()));
    }
    if (points.empty()) return std::nullopt; // sheets: panels, not what hangs lowest
    double low = 1e9;
    for (const Vector3d& p : points) low = std::min(low, (pose_vehicle_body * p).z());
    return low - round_mm;
}

class CrossmemberJudge {
public:
    CrossmemberJudge(const model::Project& project, const model::RuleBook& book, MountsReport& report)
        : project_(project), mounts_(*project.sections.get<model::Mounts>()), book_(book), report_(report) {}

    void judge(const model::Crossmember& its) {
        CrossmemberReport r;
        r.id = its.id;
        r.name = its.name;
        r.reason = place(its, r);
        const auto add = [&](const char* what, const std::string& words, Unit unit, std::optional<double> value,
                             const char* rule) -> Check& {
            Check c;
            c.id = its.id + "/" + what;
            c.what = its.name + words;
            c.unit = unit;
            c.value = value;
            c.rule = model::ruleOf(book_, rule);
            report_.checks.push_back(std::move(c));
            return report_.checks.back();
        };
        if (!r.reason.empty()) {
            Check& c = add("place", "", Unit::Millimetres, std::nullopt, "crossmember_left_mm");
            c.reason = r.reason;
            model::judge(c);
            report_.crossmembers.push_back(std::move(r));
            return;
        }
        {
            Check& c =
                add("slot", ": travel left in its slots", Unit::Millimetres, r.slot_left_mm, "crossmember_left_mm");
            c.good_least = book_.figure("crossmember_left_mm");
            c.least = 0;
            c.accuracy = r.accuracy_mm;
            model::judge(c);
            if (!r.accuracy_mm && c.verdict == model::Verdict::Go) {
                c.verdict = model::Verdict::Unknown;
                c.reason = "how accurately its rows of holes were measured is not given";
            }
            if (c.verdict == model::Verdict::NoGo)
                c.reason = "no pair of holes reaches: make one of its own, its seat " +
                           quantity::fixed(r.own_seat_mm.x(), 0) + " mm rearward and " +
                           quantity::fixed(r.own_seat_mm.z(), 0) + " mm up from holes " + std::to_string(r.left_hole) +
                           " and " + std::to_string(r.right_hole);
        }
        for (const auto& [what, words, value] :
             {std::tuple("across", ": seat off to the side", std::abs(r.off_across_mm)),
              std::tuple("drop", r.drop_mm < 0 ? ": seat too low" : ": seat too high", std::abs(r.drop_mm))}) {
            Check& c = add(what, words, Unit::Millimetres, value, "crossmember_off_mm");
            c.good_most = book_.figure("crossmember_off_mm");
            // Too low: packed up. Too high: only another crossmember helps.
            c.most = std::string(what) == "drop" && r.drop_mm < 0 ? book_.figure("crossmember_pack_mm")
                                                                  : book_.figure("crossmember_off_mm");
            model::judge(c);
            if (c.verdict != model::Verdict::Go && std::string(what) == "drop")
                c.reason = r.drop_mm < 0 ? "pack it up with plates" : "drop the bar, or make one of its own";
        }
        if (r.bottom_mm && r.others_bottom_mm) {
            Check& c = add("lowest", ": above the lowest of unit and frame round it by", Unit::Millimetres,
                           *r.bottom_mm - *r.others_bottom_mm, "crossmember_lowest_mm");
            c.good_least = book_.figure("crossmember_lowest_mm");
            c.soft = true;
            c.at.clear();
            model::judge(c);
            c.reason = r.lowest_other;
        }
        for (const PassageReport& p : r.passages) {
            Check& c = add(("passage/" + p.name).c_str(), ": beside the way through for " + p.name, Unit::Millimetres,
                           p.gap_mm, "passage_gap_mm");
            c.good_least = book_.figure("passage_gap_mm");
            c.least = 0;
            model::judge(c);
            if (!its.depth_mm && c.verdict == model::Verdict::Go) {
                c.verdict = model::Verdict::Unknown;
                c.reason = "how high its bar is, is not given";
            }
        }
        report_.crossmembers.push_back(std::move(r));
    }

private:
    std::string place(const model::Crossmember& its, CrossmemberReport& r) const {
        const auto mount = std::find_if(mounts_.mounts.begin(), mounts_.mounts.end(),
                                        [&its](const model::Mount& m) { return m.id == its.mount; });
        if (mount == mounts_.mounts.end()) return "the mount that sits on it is not named";
        const model::Isolator* isolator = isolatorOf(project_, book_, *mount);
        if (!isolator || !isolator->height_mm) return "its mount has no isolator of a known height";
        const model::HoleRow *left = rowOf(mounts_, its.left_row), *right = rowOf(mounts_, its.right_row);
        if (!left || !right) return "a row of holes is not named for each side";
        const MountReport& placed =
            report_.mounts[static_cast<std::size_t>(std::distance(mounts_.mounts.begin(), mount))];
        const auto pad = model::ownerPlace(project_, mount->pad.owner, mount->pad.point, mount->pad.at_mm, its.name);
        if (!pad) return pad.error().what;
        // Under the unit's pad where nothing of its own lies between; else under the rubber.
        const Vector3d axial = placed.axes.col(2);
        r.wanted_mm = mount->bracket || mount->centre_mm
                          ? Vector3d(placed.at_mm - axial * *isolator->height_mm / 2)
                          : Vector3d(pad.value().vehicle_mm() - axial * *isolator->height_mm);
        const auto count = [](const model::HoleRow& row) { return std::max(1, static_cast<int>(row.count)); };
        if (const auto a = model::told(left->accuracy_mm), b = model::told(right->accuracy_mm); a && b)
            r.accuracy_mm = std::max(*a, *b);
        r.slot_mm = its.slot_mm.value_or(book_.figure("crossmember_slot_mm")) +
                    std::min(left->slot_mm.value_or(0), right->slot_mm.value_or(0)) / 2;
        // The pair of holes across from one another that needs the least sliding.
        double least = 1e18;
        for (int l = 0; l < count(*left); ++l)
            for (int k = 0; k < count(*right); ++k) {
                const Vector3d a = left->at_mm + left->step_mm * l, b = right->at_mm + right->step_mm * k;
                if (std::abs(a.x() - b.x()) > 2 * r.slot_mm + 1e-9) continue; // it would stand askew
                const Vector3d seat = (a + b) / 2 + its.seat_mm;
                const double off = std::abs(r.wanted_mm.x() - seat.x()) + std::abs(a.x() - b.x()) / 2;
                if (off >= least - 1e-9) continue;
                least = off;
                r.left_hole = l + 1;
                r.right_hole = k + 1;
                r.left_mm = a;
                r.right_mm = b;
                r.seat_mm = seat;
            }
        if (least > 1e17) return "the two rows do not stand across from one another";
        const double wants = r.wanted_mm.x() - r.seat_mm.x(), askew = std::abs(r.left_mm.x() - r.right_mm.x()) / 2;
        const double can = std::max(0.0, r.slot_mm - askew);
        r.slid_mm = std::clamp(wants, -can, can);
        r.slot_left_mm = can - std::abs(wants);
        r.reaches = r.slot_left_mm >= 0;
        r.seat_mm.x() += r.slid_mm;
        r.off_along_mm = r.wanted_mm.x() - r.seat_mm.x();
        r.off_across_mm = r.wanted_mm.y() - r.seat_mm.y();
        r.drop_mm = r.seat_mm.z() - r.wanted_mm.z();
        r.own_seat_mm = r.wanted_mm - (r.left_mm + r.right_mm) / 2;
        if (its.own) { // it is made to fit
            r.seat_mm = r.wanted_mm;
            r.off_along_mm = r.off_across_mm = r.drop_mm = r.slid_mm = 0;
            r.slot_left_mm = can;
            r.reaches = true;
        }
        const double depth = its.depth_mm.value_or(book_.figure("crossmember_depth_mm"));
        // The bar runs from hole to seat to hole, its top at the seat.
        const Vector2d a = across(r.left_mm), b = across(r.right_mm), s = across(r.seat_mm) - Vector2d(0, depth / 2);
        for (const model::Passage& passage : its.passages)
            r.passages.push_back(
                {passage.name, std::min(toSegment_mm(passage.at_mm, a, s), toSegment_mm(passage.at_mm, s, b)) -
                                   depth / 2 - passage.diameter_mm / 2});
        r.bottom_mm = std::min({r.seat_mm.z() - depth, r.left_mm.z() - depth / 2, r.right_mm.z() - depth / 2});
        lowest(its, r);
        return {};
    }

    /// Of the unit, and of frame and crossmembers within a metre: what meets the ground before it.
    void lowest(const model::Crossmember& its, CrossmemberReport& r) const {
        const double near_mm = book_.figure("crossmember_near_mm");
        const auto look = [&](const std::vector<model::Body>& bodies, const std::string& owner,
                              const Eigen::Isometry3d& pose) {
            for (const model::Body& body : bodies) {
                if (!model::stands(project_, owner, body)) continue;
                const bool vehicles = owner == model::vehicle_owner;
                if (vehicles && (body.id == its.body || (body.category != "frame" && body.category != "crossmember")))
                    continue;
                const Eigen::Isometry3d stands = pose * body.poseOwnerBody();
                const auto bottom = bottomOf(body, stands);
                if (!bottom || (r.others_bottom_mm && *bottom >= *r.others_bottom_mm)) continue;
                if (vehicles && body.category == "crossmember" &&
                    std::abs(middleX(body, stands) - r.seat_mm.x()) > near_mm)
                    continue;
                r.others_bottom_mm = bottom;
                r.lowest_other = body.name;
            }
        };
        if (project_.vehicle) look(project_.vehicle->bodies, model::vehicle_owner, Eigen::Isometry3d::Identity());
        const model::Placement* placement = model::activePlacement(project_);
        const model::Donor* donor = model::activeDonor(project_);
        if (placement && donor) look(donor->bodies, donor->id.text, model::poseVehicleDonor(*placement, *donor));
    }
    static double middleX(const model::Body& body, const Eigen::Isometry3d& pose) {
        return (pose * model::extents_mm(body.shape).center()).x();
    }

    const model::Project& project_;
    const model::Mounts& mounts_;
    const model::RuleBook& book_;
    MountsReport& report_;
};

} // namespace

void judgeCrossmembers(const model::Project& project, const model::RuleBook& book, MountsReport& report) {
    const auto* mounts = project.sections.get<model::Mounts>();
    if (!mounts || !report.usable) return;
    CrossmemberJudge judge(project, book, report);
    for (const model::Crossmember& its : mounts->crossmembers) judge.judge(its);
}

} // namespace gabarit::mounts
