#include "make/pocket_proposal.h"

#include "fit/fit_report.h"
#include "mounts/mounts.h"
#include "relief/apply.h"
#include "relief/section/relief.h"
#include "shape/section.h"

#include <algorithm>
#include <cmath>

namespace gabarit::make {
namespace {

using Eigen::Vector2d;
using Eigen::Vector3d;
using model::Pocket;
using model::PocketForm;
using model::Verdict;

constexpr int most_tries = 10;
constexpr double run_out_mm = 2;    // a side that opens is cut a little beyond the metal
constexpr double corner_room = 0.9; // of the largest corner that fits
constexpr double look_step_mm = 10; // between sections while candidates are compared
constexpr double direction_grain = 1e3;
constexpr double least_growth_mm = 0.5; // what a further try adds at least

/// Part of a polygon on one side of a plane in one coordinate.
void clip(std::vector<Vector3d>& polygon, int axis, double limit, bool keepBelow) {
    std::vector<Vector3d> out;
    for (std::size_t i = 0; i < polygon.size(); ++i) {
        const Vector3d &a = polygon[i], &b = polygon[(i + 1) % polygon.size()];
        const bool aIn = keepBelow ? a[axis] <= limit : a[axis] >= limit;
        const bool bIn = keepBelow ? b[axis] <= limit : b[axis] >= limit;
        if (aIn) out.push_back(a);
        if (aIn != bIn) out.push_back(a + (b - a) * ((limit - a[axis]) / (b[axis] - a[axis])));
    }
    polygon = std::move(out);
}

/// The extents of a mesh within a box, frame of the pose.
Eigen::AlignedBox3d extentsWithin(const shape::Mesh& mesh, const Eigen::Isometry3d& pose,
                                  const Eigen::AlignedBox3d& within) {
    Eigen::AlignedBox3d out;
    std::vector<Vector3d> polygon;
    for (const shape::Triangle& t : mesh.triangles) {
        polygon.clear();
        for (const int i : t.corner) polygon.push_back(pose * mesh.points[static_cast<std::size_t>(i)]);
        for (int axis = 0; axis < 3 && !polygon.empty(); ++axis) {
            clip(polygon, axis, within.min()[axis], false);
            if (!polygon.empty()) clip(polygon, axis, within.max()[axis], true);
        }
        for (const Vector3d& p : polygon) out.extend(p);
    }
    return out;
}

const fit::PairGap* pairOf(const std::vector<fit::PairGap>& pairs, const model::BodyRef& a, const model::BodyRef& b) {
    for (const fit::PairGap& pair : pairs)
        if ((pair.a == a && pair.b == b) || (pair.a == b && pair.b == a)) return &pair;
    return nullptr;
}

double rounded(double mm, double grain) { return std::ceil(mm / grain - 1e-6) * grain; }

/// What a body is closed with when nothing else is said: plate as thick as its own wall.
double wallOf(const model::ShapeSpec& spec, const model::RuleBook& book) {
    if (const auto* profile = std::get_if<model::ProfileSpec>(&spec)) {
        if (const auto* s = std::get_if<model::RectTubeSection>(&profile->section)) return s->wall_mm;
        if (const auto* s = std::get_if<model::CSection>(&profile->section)) return s->wall_mm;
        if (const auto* s = std::get_if<model::RoundTubeSection>(&profile->section)) return s->wall_mm;
    }
    if (const auto* sheet = std::get_if<model::SheetSpec>(&spec)) return sheet->thickness_mm;
    if (const auto* plate = std::get_if<model::PlateSpec>(&spec)) return plate->thickness_mm;
    return book.figure("pocket_plate_mm");
}

struct Intruder {
    const placed::PlacedBody* body = nullptr;
    double wanted_mm = 0;
};

class Proposer {
public:
    Proposer(const study::Reports& reports, const model::RuleBook& book, const placed::PlacedBody& body,
             std::vector<Intruder> intruders)
        : reports_(reports), book_(book), body_(body), intruders_(std::move(intruders)) {}

    /// One for each face that something stands at, the shallowest first. `why` receives the last refusal.
    std::vector<std::pair<Pocket, relief::PocketReport>> candidates(std::string& why) const {
        std::vector<std::pair<Pocket, relief::PocketReport>> out;
        for (const Pocket& pocket : shape::isSheet(body_.body.shape) ? inSheet() : inBeam()) {
            relief::PocketReport report = relief::judgePocket(with(pocket), book_, pocket, {look_step_mm, false});
            if (report.reason.empty())
                out.emplace_back(pocket, std::move(report));
            else
                why = report.reason;
        }
        // The same corner can be cut out from two faces: from the one that it is shallower from.
        std::stable_sort(out.begin(), out.end(),
                         [](const auto& a, const auto& b) { return a.second.depth_share < b.second.depth_share; });
        return out;
    }
    model::Project with(const Pocket& pocket) const {
        model::Project out = *reports_.project;
        auto& pockets = out.sections.edit<model::Relief>().pockets;
        const auto same =
            std::find_if(pockets.begin(), pockets.end(), [&pocket](const Pocket& p) { return p.id == pocket.id; });
        if (same == pockets.end())
            pockets.push_back(pocket);
        else
            *same = pocket;
        return out;
    }

private:
    Pocket begun(const Vector3d& at_body, const Vector3d& into_body, const Vector3d& along_body) const {
        Pocket out;
        std::vector<std::string> taken;
        if (const auto* relief = reports_.project->sections.get<model::Relief>())
            for (const Pocket& pocket : relief->pockets) taken.push_back(pocket.id);
        out.name = body_.body.name + " pocket";
        for (int i = 1;; ++i) {
            out.id = body_.ref.body.text + "-pocket" + (i > 1 ? "-" + std::to_string(i) : "");
            if (std::find(taken.begin(), taken.end(), out.id) == taken.end()) break;
            out.name = body_.body.name + " pocket " + std::to_string(i + 1);
        }
        out.body = body_.ref.body;
        for (const Intruder& intruder : intruders_) out.intruders.push_back(intruder.body->ref);
        out.at_mm = at_body;
        out.into = into_body;
        out.along = along_body;
        const double wall = wallOf(body_.body.shape, book_);
        out.plate_mm = wall;
        for (const model::SheetStock& sheet : book_.sheets) { // the first that is sold so thick
            const auto stock = std::find_if(sheet.thickness_mm.begin(), sheet.thickness_mm.end(),
                                            [wall](double t) { return t >= wall - 1e-9; });
            if (stock == sheet.thickness_mm.end()) continue;
            if (shape::isSheet(body_.body.shape) && *stock > wall + 1e-9) continue;
            out.material = sheet.id;
            out.plate_mm = *stock;
            break;
        }
        return out;
    }

    /// Its extents near the body, with the wanted gap round them. Empty: nothing of it is near.
    Eigen::AlignedBox3d wanted(const Eigen::Isometry3d& pose_vehicle_pocket, const Eigen::AlignedBox3d& metal) const {
        Eigen::AlignedBox3d out;
        for (const Intruder& intruder : intruders_) {
            const Vector3d gap = Vector3d::Constant(intruder.wanted_mm);
            const Eigen::AlignedBox3d near = extentsWithin(
                intruder.body->made->collider->mesh(), pose_vehicle_pocket.inverse() * intruder.body->pose_vehicle_body,
                {metal.min() - gap, metal.max() + gap});
            if (near.isEmpty()) continue;
            out.extend(Eigen::AlignedBox3d(near.min() - gap, near.max() + gap));
        }
        return out;
    }

    std::vector<Pocket> inBeam() const {
        std::vector<Pocket> out;
        const auto* profile = std::get_if<model::ProfileSpec>(&body_.body.shape);
        if (!profile) {
            Pocket refused = begun(Vector3d::Zero(), Vector3d::UnitZ(), Vector3d::UnitX());
            refused.length_mm = refused.width_mm = refused.depth_mm = 1; // said by its report
            return {refused};
        }
        const Vector3d run = (profile->to_mm - profile->from_mm).normalized();
        Vector3d u, v;
        shape::sectionAxes(run, u, v);
        const Eigen::AngleAxisd roll(profile->roll_deg * EIGEN_PI / 180, run);
        const double grain = book_.figure("pocket_round_mm"), land = book_.figure("pocket_land_mm");
        for (const Vector3d& into :
             {Vector3d(-(roll * v)), Vector3d(roll * v), Vector3d(-(roll * u)), Vector3d(roll * u)}) {
            Pocket pocket = begun(profile->from_mm, into, run);
            Eigen::Isometry3d pose_body_pocket = shape::pocketPose(pocket);
            const auto hull = shape::beamHull(body_.body.shape, pose_body_pocket);
            if (!hull) continue;
            Eigen::AlignedBox2d section;
            for (const Vector2d& p : hull.value().outline) section.extend(p);
            const Eigen::AlignedBox3d metal(Vector3d(hull.value().from_mm, section.min().x(), section.min().y()),
                                            Vector3d(hull.value().to_mm, section.max().x(), section.max().y()));
            const Eigen::AlignedBox3d room = wanted(body_.pose_vehicle_body * pose_body_pocket, metal);
            if (room.isEmpty() || room.max().z() <= metal.min().z()) continue;
            double low = room.min().y(), high = room.max().y();
            const bool openLow = low - metal.min().y() < land, openHigh = metal.max().y() - high < land;
            if (openLow) low = metal.min().y() - run_out_mm;
            if (openHigh) high = metal.max().y() + run_out_mm;
            if (high - low < land) continue;
            pocket.form = openLow && openHigh ? PocketForm::Step : PocketForm::Box;
            pocket.flank_deg =
                book_.figure(pocket.form == PocketForm::Step ? "pocket_step_flank_deg" : "pocket_flank_deg");
            pocket.depth_mm = rounded(room.max().z() - metal.min().z(), grain);
            pocket.length_mm = rounded(room.max().x() - room.min().x(), grain);
            pocket.width_mm = rounded(high - low, grain);
            const double lean = pocket.flank_deg * EIGEN_PI / 180, tangent = std::tan((EIGEN_PI / 2 - lean) / 2);
            pocket.corner_mm =
                std::min({book_.figure("pocket_corner_mm"), corner_room * pocket.depth_mm / std::cos(lean) / tangent,
                          corner_room * pocket.length_mm / 2 / tangent});
            pocket.at_mm =
                pose_body_pocket * Vector3d((room.min().x() + room.max().x()) / 2, (low + high) / 2, metal.min().z());
            out.push_back(pocket);
        }
        return out;
    }

    std::vector<Pocket> inSheet() const {
        // Into the sheet: away from what stands before it, square to the metal that lies nearest.
        const shape::Mesh& mesh = body_.made->collider->mesh();
        const Eigen::Isometry3d pose_body_vehicle = body_.pose_vehicle_body.inverse();
        Eigen::AlignedBox3d box;
        Vector3d middle = Vector3d::Zero();
        for (const Intruder& intruder : intruders_) {
            const Eigen::AlignedBox3d its = shape::moved(intruder.body->made->collider->bounds(),
                                                         pose_body_vehicle * intruder.body->pose_vehicle_body);
            const Vector3d gap = Vector3d::Constant(intruder.wanted_mm);
            box.extend(Eigen::AlignedBox3d(its.min() - gap, its.max() + gap));
            middle += its.center() / static_cast<double>(intruders_.size());
        }
        Vector3d normal = Vector3d::Zero(), at = Vector3d::Zero();
        double weight = 0;
        for (const shape::Triangle& t : mesh.triangles) {
            std::vector<Vector3d> polygon;
            for (const int i : t.corner) polygon.push_back(mesh.points[static_cast<std::size_t>(i)]);
            const Vector3d n = (polygon[1] - polygon[0]).cross(polygon[2] - polygon[0]);
            for (int axis = 0; axis < 3 && !polygon.empty(); ++axis) {
                clip(polygon, axis, box.min()[axis], false);
                if (!polygon.empty()) clip(polygon, axis, box.max()[axis], true);
            }
            if (polygon.size() < 3) continue;
            Vector3d centre = Vector3d::Zero(), area = Vector3d::Zero();
            for (std::size_t i = 0; i < polygon.size(); ++i) {
                centre += polygon[i] / static_cast<double>(polygon.size());
                area += polygon[i].cross(polygon[(i + 1) % polygon.size()]) / 2;
            }
            if (n.dot(middle - centre) <= 0) continue; // the far face
            normal += area;
            at += centre * area.norm();
            weight += area.norm();
        }
        if (weight <= 0 || normal.norm() <= 0) return {};
        // A direction as a hand would write it.
        const Vector3d into = (-normal.normalized() * direction_grain).array().round().matrix() / direction_grain;
        // The length lies level, or along the vehicle in a floor.
        const Vector3d level = std::abs(into.z()) > 0.9 ? Vector3d::UnitX() : Vector3d::UnitZ().cross(into);
        Pocket pocket = begun(at / weight, into, level);
        const Eigen::Isometry3d pose_body_pocket = shape::pocketPose(pocket);
        Eigen::AlignedBox3d metal;
        for (const Vector3d& p : mesh.points) metal.extend(pose_body_pocket.inverse() * p);
        const Eigen::AlignedBox3d room = wanted(body_.pose_vehicle_body * pose_body_pocket, metal);
        if (room.isEmpty() || room.max().z() <= 0) return {};
        const double grain = book_.figure("pocket_round_mm");
        pocket.form = PocketForm::Recess;
        pocket.length_mm = rounded(room.sizes().x(), grain);
        pocket.width_mm = rounded(room.sizes().y(), grain);
        pocket.depth_mm = rounded(room.max().z(), grain);
        pocket.corner_mm =
            std::min(book_.figure("pocket_corner_mm"), corner_room * std::min(pocket.length_mm, pocket.width_mm) / 2);
        pocket.at_mm = pose_body_pocket * Vector3d(room.center().x(), room.center().y(), 0);
        return {pocket};
    }

    const study::Reports& reports_;
    const model::RuleBook& book_;
    const placed::PlacedBody& body_;
    std::vector<Intruder> intruders_;
};

/// How much larger a pocket gets towards each of its sides, where intruders still come too near.
class Growth {
public:
    Growth(const Pocket& pocket, const Eigen::Isometry3d& pose_vehicle_body)
        : pocket_(pocket), pose_body_pocket_(shape::pocketPose(pocket)),
          pose_pocket_vehicle_((pose_vehicle_body * pose_body_pocket_).inverse()) {}

    void take(const fit::PairGap& pair) {
        const double by_mm = std::max(pair.accuracy_mm.value_or(0) - pair.decidingMargin_mm(), least_growth_mm);
        const fit::Moment* moment = pair.moment();
        const proximity::Gap& gap = moment && !moment->bound ? moment->gap : pair.gap;
        // From the metal to the intruder, and the place on the metal.
        const bool bodyIsA = pair.a.inVehicle() && pair.a.body == pocket_.body;
        const Vector3d metal = pose_pocket_vehicle_ * (bodyIsA ? gap.point_a : gap.point_b);
        const Vector3d way = pose_pocket_vehicle_.linear() * gap.away;
        const Vector3d size = way.cwiseAbs();
        double& side = size.z() >= size.x() && size.z() >= size.y() ? depth_
                       : size.x() >= size.y()                       ? along_[metal.x() > 0 ? 1 : 0]
                                                                    : across_[metal.y() > 0 ? 1 : 0];
        side = std::max(side, by_mm);
    }
    Pocket grown(double grain_mm) const {
        Pocket out = pocket_;
        const auto up = [grain_mm](double mm) { return mm > 0 ? rounded(mm, grain_mm) : 0; };
        out.depth_mm += up(depth_);
        out.length_mm += up(along_[0]) + up(along_[1]);
        out.width_mm += up(across_[0]) + up(across_[1]);
        out.at_mm += pose_body_pocket_.linear().col(0) * (up(along_[1]) - up(along_[0])) / 2 +
                     pose_body_pocket_.linear().col(1) * (up(across_[1]) - up(across_[0])) / 2;
        return out;
    }

private:
    const Pocket& pocket_;
    Eigen::Isometry3d pose_body_pocket_, pose_pocket_vehicle_;
    double depth_ = 0, along_[2] = {0, 0}, across_[2] = {0, 0};
};

} // namespace

std::vector<model::BodyRef> intrudersOf(const study::Reports& reports, const model::BodyId& body) {
    std::vector<model::BodyRef> out;
    if (!reports.with<fit::FitReport>().clearance) return out;
    const model::BodyRef ref{model::vehicle_owner, body};
    for (const fit::PairGap& pair : reports.with<fit::FitReport>().clearance->pairs)
        if ((pair.a == ref || pair.b == ref) && (pair.verdict == Verdict::NoGo || pair.verdict == Verdict::Close))
            out.push_back(pair.a == ref ? pair.b : pair.a);
    return out;
}

Result<PocketProposed> proposedPocket(const study::Reports& reports, const model::RuleBook& given,
                                      const model::BodyId& id, const std::vector<model::BodyRef>& refs,
                                      proximity::ColliderCache& cache, fit::GapMemo& memo, const StopToken& stop) {
    const fit::FitReport& fitted = reports.with<fit::FitReport>();
    const model::RuleBook book = study::bookOf(reports, given);
    const model::BodyRef ref{model::vehicle_owner, id};
    const placed::PlacedBody* body = reports.scene->find(ref);
    if (!body)
        return Error{"it is not in the bay", "vehicle/" + id.text, "choose a body of the vehicle that stands there"};
    if (body->body.may.never)
        return Error{body->body.name + " is marked \"never\": it is not cut", "",
                     "move the unit, or take another variant"};
    if (!body->body.may.be_cut)
        return Error{body->body.name + " is not marked as one that may be cut", "",
                     "decide it under Survey (\"may be cut\") first"};
    if (!body->solid()) return Error{body->body.name + " cannot be made solid", "", "mend its measurements first"};
    std::vector<Intruder> intruders;
    const std::string school = fitted.clearance ? fitted.clearance->school : book.default_school;
    for (const model::BodyRef& other : refs) {
        const placed::PlacedBody* its = reports.scene->find(other);
        if (!its || !its->solid()) continue;
        const auto limit = model::limitFor(book, school, its->body, body->body);
        if (!limit) continue;
        const double accuracy = its->body.accuracy_mm.value_or(0) + body->body.accuracy_mm.value_or(0) +
                                its->made->collider->deflection_mm() + cache.deflection_mm();
        intruders.push_back({its, model::withWeldPull(*limit, book).gap_mm + accuracy});
    }
    if (intruders.empty()) return Error{"nothing is in its way", body->body.name, "name what comes too near to it"};

    const Proposer proposer(reports, book, *body, intruders);
    std::string why = "no face of it lies towards what is in the way";
    auto candidates = proposer.candidates(why);
    if (candidates.empty()) return Error{why, body->body.name, "move the unit, or take another variant"};

    std::optional<PocketProposed> best;
    for (auto& [pocket, report] : candidates) {
        PocketProposed tried;
        tried.pocket = pocket;
        bool good = false;
        for (; tried.tries < most_tries && !stop.stopped(); ++tried.tries) {
            tried.project = proposer.with(tried.pocket);
            tried.report = relief::judgePocket(tried.project, book, tried.pocket, {look_step_mm, false});
            if (!tried.report.reason.empty()) {
                why = tried.report.reason;
                break;
            }
            model::Project moving = tried.project; // with the movement that the reports were held by
            moving.placements = reports.moving->placements;
            // Only the body and what is in its way: the other gaps are looked at by the study.
            placed::Scene scene;
            for (const placed::PlacedBody& placed : reports.scene->bodies) {
                const bool its = std::find(refs.begin(), refs.end(), placed.ref) != refs.end();
                if (!its && placed.ref != ref) continue;
                scene.bodies.push_back(placed);
                if (placed.ref == ref)
                    scene.bodies.back().made =
                        cache.get(placed.body.shape,
                                  model::pocketsOf(*tried.project.sections.get<model::Relief>(), placed.ref.body));
            }
            fit::ClearanceOptions options;
            options.stop = stop;
            if (fitted.clearance) options.sag = fitted.clearance->sag;
            const fit::ClearanceReport clearance = fit::clearance(moving, scene, book, &memo, options);
            tried.pairs.clear();
            good = true;
            Growth growth(tried.pocket, body->pose_vehicle_body);
            for (const Intruder& intruder : intruders) {
                const fit::PairGap* pair = pairOf(clearance.pairs, intruder.body->ref, ref);
                if (!pair) continue;
                tried.pairs.push_back(*pair);
                if (pair->verdict == Verdict::Go) continue;
                good = false;
                growth.take(*pair);
            }
            if (good) break;
            tried.pocket = growth.grown(book.figure("pocket_round_mm"));
        }
        if (!good) continue;
        best = std::move(tried);
        break;
    }
    if (stop.stopped()) return Error{"stopped", body->body.name, ""};
    if (!best)
        return Error{"no pocket in it brings the gaps to what is wanted (" + why + ")", body->body.name,
                     "move the unit, or take another variant"};
    // What brings the section back: a thicker plate, else a strap.
    best->report = relief::judgePocket(best->project, book, best->pocket);
    relief::Look without_restoring;
    without_restoring.restoring = false;
    const double wanted = book.figure("section_wanted_share");
    if (best->report.strength.share < wanted && !shape::isSheet(body->body.shape)) {
        if (best->report.restoring) {
            best->pocket.plate_mm = best->report.restoring->plate_mm;
            best->pocket.doubler_mm = best->report.restoring->strap_mm;
            if (best->pocket.doubler_mm > 0) best->pocket.doubler_over_mm = book.figure("strap_over_mm");
        }
        const auto restoring = best->report.restoring; // as found: looking again would find the same
        best->project = proposer.with(best->pocket);
        best->report = relief::judgePocket(best->project, book, best->pocket, without_restoring);
        best->report.restoring = restoring;
    }
    best->project = relief::withPocket(best->project, book, best->pocket, &best->report);
    return std::move(*best);
}

} // namespace gabarit::make
