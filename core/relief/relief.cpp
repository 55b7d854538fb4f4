#include "relief/apply.h"

#include "model/describe.h"
#include "quantity/number.h"
#include "quantity/quantity.h"
#include "relief/section/relief.h"
#include "shape/outline.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

namespace gabarit::relief {

GABARIT_ONCE_DEFINED(PocketReport);

namespace {

using Eigen::Vector2d;
using Eigen::Vector3d;
using model::Check;
using model::Unit;
using model::Verdict;

constexpr double off_plane_mm = 0.0137; // a section is never taken in the plane of a plate's face
constexpr double per_mm_of_seam = 100;  // the book's shrink is for each 100 mm
constexpr int most_stations = 200;
constexpr double section_deflection_mm = 0.02; // depths along a half-round are that good
constexpr double arc_step_rad = 0.01;          // of round walls: moduli are 2e-5 off
constexpr double same_share = 1e-4;            // what two meshes of one solid may differ by is no difference
constexpr double wide_open = 1e9;
constexpr double flat_mm = 1e-3; // of a face that a strap lies on
constexpr double nearly_vertical = 0.99;
constexpr std::size_t stations_for_restoring = 6;
constexpr const char* top_name = "modulus at the top";
constexpr const char* bottom_name = "modulus at the bottom";
constexpr const char* left_name = "modulus on the left of the drawing";
constexpr const char* right_name = "modulus on the right of the drawing";

/// Drawing of a beam's section: towards the viewer its length, up the vehicle's up.
shape::Viewpoint sectionView(const Eigen::Isometry3d& pose_vehicle_pocket) {
    const Vector3d along = pose_vehicle_pocket.linear().col(0);
    const Vector3d wish = std::abs(along.z()) > nearly_vertical ? Vector3d::UnitX() : Vector3d::UnitZ();
    const Vector3d up = (wish - along * along.dot(wish)).normalized();
    return {up.cross(along), up};
}

struct Meshes {
    shape::Mesh before, cut, closed;
};
Result<Meshes> meshesOf(const shape::Solid& before, const shape::PocketMade& made) {
    Meshes out;
    for (const auto& [solid, mesh] :
         {std::pair(&before, &out.before), std::pair(&made.cut, &out.cut), std::pair(&made.closed, &out.closed)}) {
        auto meshed = shape::makeMesh(*solid, section_deflection_mm);
        if (!meshed) return meshed.error();
        *mesh = std::move(meshed.value().mesh);
    }
    return out;
}

/// The circles that a round tube's section is made of, in its drawing; none of another.
struct Round {
    Vector2d middle{0, 0};
    std::vector<double> radii_mm;
};
Round roundOf(const model::ShapeSpec& spec, const Eigen::Isometry3d& pose_vehicle_body, const shape::Viewpoint& view) {
    const auto* profile = std::get_if<model::ProfileSpec>(&spec);
    const auto* tube = profile ? std::get_if<model::RoundTubeSection>(&profile->section) : nullptr;
    if (!tube) return {};
    const Vector3d from = pose_vehicle_body * profile->from_mm;
    return {{from.dot(view.right), from.dot(view.up)}, {tube->diameter_mm / 2, tube->diameter_mm / 2 - tube->wall_mm}};
}
/// The drawing with the chords that a mesh makes of those circles drawn as the arcs they stand for.
shape::Outline rounded(shape::Outline outline, const Round& round, double deflection_mm) {
    for (auto& ring : outline.rings) {
        std::vector<Vector2d> out;
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const Vector2d a = ring[i] - round.middle, b = ring[(i + 1) % ring.size()] - round.middle;
            out.push_back(ring[i]);
            for (const double radius : round.radii_mm) {
                if (radius <= deflection_mm) continue; // a solid bar has no inside
                const auto on = [&](const Vector2d& p) { return std::abs(p.norm() - radius) <= deflection_mm; };
                if (!on(a) || !on(b) || !on((a + b) / 2)) continue;
                const double turn = std::atan2(a.x() * b.y() - a.y() * b.x(), a.dot(b)),
                             begin = std::atan2(a.y(), a.x());
                const int steps = std::max(1, static_cast<int>(std::ceil(std::abs(turn) / arc_step_rad)));
                out.back() = round.middle + a * (radius / a.norm());
                for (int k = 1; k < steps; ++k) {
                    const double at = begin + turn * k / steps;
                    out.push_back(round.middle + radius * Vector2d(std::cos(at), std::sin(at)));
                }
                break;
            }
        }
        ring = std::move(out);
    }
    return outline;
}

Section at(const shape::Mesh& mesh, const Eigen::Isometry3d& pose_vehicle_body, const shape::Viewpoint& view,
           double level_mm, const Round& round) {
    return sectionOf(
        rounded(shape::cutFace(mesh, pose_vehicle_body, view, level_mm), round, 2 * section_deflection_mm));
}

/// Where nothing was cut or added the section is what it was, however its arcs were divided.
Section orSame(Section now, const Section& was) {
    const auto same = [](double a, double b) { return std::abs(a - b) <= same_share * std::abs(b); };
    const bool is = now.closed == was.closed && now.pieces == was.pieces && same(now.area_mm2, was.area_mm2) &&
                    same(now.upright_mm4, was.upright_mm4) && same(now.sideways_mm4, was.sideways_mm4) &&
                    same(now.top_mm3, was.top_mm3) && same(now.bottom_mm3, was.bottom_mm3) &&
                    same(now.left_mm3, was.left_mm3) && same(now.right_mm3, was.right_mm3) &&
                    same(now.torsion_mm4, was.torsion_mm4);
    return is ? was : now;
}

void take(Weakest& weakest, double now, double was, double along_mm, const char* what) {
    if (was <= 0) return;
    const double share = now / was;
    if (share < weakest.share) weakest = {share, along_mm, what};
}
void takeStrength(Weakest& w, const Section& now, const Section& was, double along_mm) {
    take(w, now.top_mm3, was.top_mm3, along_mm, top_name);
    take(w, now.bottom_mm3, was.bottom_mm3, along_mm, bottom_name);
    take(w, now.left_mm3, was.left_mm3, along_mm, left_name);
    take(w, now.right_mm3, was.right_mm3, along_mm, right_name);
}

/// How far a point (body frame) is from what is cut out.
double distance_mm(const shape::PocketMade& made, const Vector3d& at_body_mm) {
    const Vector3d p = made.pose_body.inverse() * at_body_mm;
    // The outline lies in (along, into) and reaches across; in a sheet in (along, across) and reaches into.
    const Vector2d flat(p.x(), made.in_sheet ? p.y() : p.z());
    const double other = made.in_sheet ? p.z() : p.y();
    bool inside = false;
    double apart = std::numeric_limits<double>::max();
    const auto& ring = made.cut_outline_mm;
    for (std::size_t i = 0, j = ring.size() - 1; i < ring.size(); j = i++) {
        const Vector2d &a = ring[j], &b = ring[i];
        if ((a.y() > flat.y()) != (b.y() > flat.y()) &&
            flat.x() < (b.x() - a.x()) * (flat.y() - a.y()) / (b.y() - a.y()) + a.x())
            inside = !inside;
        const Vector2d run = b - a;
        const double share = std::clamp((flat - a).dot(run) / std::max(run.squaredNorm(), 1e-12), 0.0, 1.0);
        apart = std::min(apart, (flat - a - run * share).norm());
    }
    const double aside = std::max({0.0, made.cut_from_mm - other, other - made.cut_to_mm});
    return std::hypot(inside ? 0 : apart, aside);
}

bool carriesSuspension(const std::string& role) {
    static const std::set<std::string> roles{"arm_pivot", "ball_joint", "spring_seat", "leaf_eye",
                                             "shackle",   "damper",     "bump_stop",   "anti_roll_bar"};
    return roles.count(role) > 0;
}

std::vector<Distance> distancesOf(const model::Project& project, const model::Body& body, const model::Pocket& pocket,
                                  const shape::PocketMade& made) {
    std::vector<Distance> out;
    const Eigen::Isometry3d pose_body_vehicle = body.poseOwnerBody().inverse();
    const Distance* nearest = nullptr;
    std::vector<Distance> suspension;
    for (const model::HardPoint& point : project.vehicle->hard_points)
        if (carriesSuspension(point.role))
            suspension.push_back({point.name, "suspension", distance_mm(made, pose_body_vehicle * point.at_mm)});
    for (const Distance& d : suspension)
        if (!nearest || *d.mm < *nearest->mm) nearest = &d;
    out.push_back(nearest ? *nearest : Distance{"the nearest pick-up of the suspension", "suspension", std::nullopt});
    for (const model::KeptHole& hole : project.sections.get<model::Relief>()->holes)
        if (hole.body == pocket.body)
            out.push_back({hole.name, hole.kind == model::KeptKind::Seam ? "seam" : "hole",
                           std::max(0.0, distance_mm(made, hole.at_mm) - hole.diameter_mm / 2)});
    return out;
}

std::string orElse(const std::string& words, const char* other) { return words.empty() ? other : words; }
/// Where it is weakest; empty when it is nowhere weaker than it was.
std::string placeWords(const Weakest& weakest) {
    return weakest.what.empty() ? "" : quantity::fixed(weakest.along_mm, 0) + " mm from its middle";
}

std::string restoringWords(const PocketReport& r) {
    if (!r.restoring) return "neither plate nor strap restores it: less deep, or narrower";
    std::string out = "a plate of " + quantity::fixed(r.restoring->plate_mm, 1) + " mm";
    if (r.restoring->strap_mm > 0)
        out += " and a strap of " + quantity::fixed(r.restoring->strap_mm, 1) + " mm on the far face restore it";
    else
        out += " restores it";
    return out;
}

Check checkOf(const model::RuleBook& book, const std::string& id, const std::string& what, Unit unit,
              std::optional<double> value, const char* figure) {
    Check check;
    check.id = id;
    check.what = what;
    check.unit = unit;
    check.value = value;
    check.rule = ruleOf(book, figure);
    return check;
}

} // namespace

std::vector<FlatPattern> ReliefReport::patterns() const {
    std::vector<FlatPattern> out;
    for (const PocketReport& pocket : pockets) out.insert(out.end(), pocket.patterns.begin(), pocket.patterns.end());
    for (const TubeReport& tube : tubes)
        if (tube.made) out.push_back(tube.made->first_wrap), out.push_back(tube.made->second_wrap);
    for (const PlateReport& plate : plates)
        if (plate.made) out.push_back(plate.made->pattern);
    return out;
}

PocketReport judgePocket(const model::Project& project, const model::RuleBook& book, const model::Pocket& pocket,
                         const Look& look) {
    PocketReport out;
    out.id = pocket.id;
    out.name = pocket.name;
    const model::Body* body = model::findBody(project, {model::vehicle_owner, pocket.body});
    if (!body) {
        out.reason = "its body \"" + pocket.body.text + "\" is not there: choose one of the vehicle's";
        return out;
    }
    out.body = body->name;
    out.pose_vehicle_body = body->poseOwnerBody();
    if (body->may.never) {
        out.reason = body->name + " is marked \"never\": it is not cut";
        return out;
    }
    if (model::isOfKind(book, "@never_cut", body->category)) {
        const model::Category* kind = book.category(body->category);
        out.reason =
            body->name + " is not cut: a " + (kind ? kind->name : body->category) + " with a pocket in it holds nobody";
        return out;
    }
    std::vector<model::Pocket> before;
    for (const model::Pocket& other : model::pocketsOf(*project.sections.get<model::Relief>(), pocket.body)) {
        if (other.id == pocket.id) break;
        before.push_back(other);
    }
    const auto solid = shape::pocketed(body->shape, before);
    if (!solid) {
        out.reason = solid.error().line();
        return out;
    }
    auto made = shape::pocketed(body->shape, solid.value(), pocket);
    if (!made) {
        out.reason = made.error().what + (made.error().mend.empty() ? "" : ": " + made.error().mend);
        return out;
    }
    out.made = made.value();
    auto patterns = patternsOf(pocket, *out.made, project.sections.get<model::Relief>()->holes, book);
    if (!patterns) {
        out.reason = patterns.error().what + ": " + patterns.error().mend;
        return out;
    }
    out.patterns = std::move(patterns).value();
    out.patterns.insert(out.patterns.begin(), cutLineOf(pocket, *out.made, body->shape, book));
    const model::SheetStock* sheet = sheetOf(book, pocket.material);
    out.cut_kg = out.made->cut_volume_mm3 / quantity::mm3_per_m3 * sheet->density_kg_m3;
    out.plates_kg = out.made->plate_volume_mm3 / quantity::mm3_per_m3 * sheet->density_kg_m3;
    out.distances = distancesOf(project, *body, pocket, *out.made);

    const auto meshes = meshesOf(solid.value(), *out.made);
    if (!meshes) {
        out.reason = meshes.error().what;
        return out;
    }
    const Eigen::Isometry3d pose_vehicle_pocket = out.pose_vehicle_body * out.made->pose_body;
    const shape::Viewpoint view = sectionView(pose_vehicle_pocket);
    const Round round = roundOf(body->shape, out.pose_vehicle_body, view);
    const double middle = pose_vehicle_pocket.translation().dot(view.towards_viewer());
    double from = wide_open, to = -wide_open, seam = 0;
    for (std::size_t i = 0; i < out.made->cut_outline_mm.size(); ++i) {
        const Vector2d& p = out.made->cut_outline_mm[i];
        from = std::min(from, p.x());
        to = std::max(to, p.x());
        if (i > 0) seam += (p - out.made->cut_outline_mm[i - 1]).norm();
    }
    out.shrink_mm = pocket.open ? 0 : seam / per_mm_of_seam * book.figure("panel_shrink_mm");
    const double rim = book.figure("pocket_rim_most_mm") + pocket.doubler_over_mm;
    double begin = from - rim, end = to + rim;
    if (const auto hull = shape::beamHull(body->shape, out.made->pose_body)) {
        begin = std::max(begin, hull.value().from_mm + off_plane_mm);
        end = std::min(end, hull.value().to_mm - off_plane_mm);
        double top = wide_open, bottom = -wide_open;
        for (const Vector2d& p : hull.value().outline) top = std::min(top, p.y()), bottom = std::max(bottom, p.y());
        out.depth_share = (pocket.depth_mm - top) / (bottom - top);
    }
    const double step = std::max(look.step_mm, (end - begin) / most_stations);
    const int steps = std::max(1, static_cast<int>(std::ceil((end - begin) / step)));
    out.cell_before = out.cell_cut = out.cell_closed = true;
    for (int i = 0; i <= steps; ++i) {
        Station station;
        station.along_mm = begin + (end - begin) * i / steps + off_plane_mm;
        const double level = middle + station.along_mm;
        station.before = at(meshes.value().before, out.pose_vehicle_body, view, level, round);
        if (station.before.empty()) continue;
        station.cut = orSame(at(meshes.value().cut, out.pose_vehicle_body, view, level, round), station.before);
        station.closed = orSame(at(meshes.value().closed, out.pose_vehicle_body, view, level, round), station.before);
        takeStrength(out.strength, station.closed, station.before, station.along_mm);
        takeStrength(out.cut_strength, station.cut, station.before, station.along_mm);
        take(out.stiffness, station.closed.upright_mm4, station.before.upright_mm4, station.along_mm,
             "second moment, up and down");
        take(out.stiffness, station.closed.sideways_mm4, station.before.sideways_mm4, station.along_mm,
             "second moment, sideways");
        take(out.torsion, station.closed.torsion_mm4, station.before.torsion_mm4, station.along_mm,
             "resistance to twisting");
        out.cell_before = out.cell_before && station.before.closed;
        out.cell_cut = out.cell_cut && station.cut.closed;
        out.cell_closed = out.cell_closed && station.closed.closed;
        out.axis_shift_mm = std::max(out.axis_shift_mm, (station.closed.centre_mm - station.before.centre_mm).norm());
        out.stations.push_back(station);
    }
    if (!look.restoring || pocket.open || out.stations.empty() || shape::isSheet(body->shape)) return out;
    // The places that are weakest now decide what would restore them.
    std::vector<std::pair<double, const Station*>> weak;
    for (const Station& station : out.stations) {
        Weakest here;
        here.share = wide_open;
        takeStrength(here, station.closed, station.before, station.along_mm);
        weak.emplace_back(here.share, &station);
    }
    std::sort(weak.begin(), weak.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    std::vector<const Station*> stations;
    for (std::size_t i = 0; i < std::min(stations_for_restoring, weak.size()); ++i) stations.push_back(weak[i].second);
    stations.push_back(&out.stations[out.stations.size() / 2]);
    const double wanted = book.figure("section_wanted_share");
    // A strap is a rectangle more on the far face: added to the drawn section, not cut out of a solid once again.
    const auto hull = shape::beamHull(body->shape, out.made->pose_body);
    double deepest = 0, low = 0, high = 0;
    if (hull) {
        deepest = -wide_open;
        for (const Vector2d& p : hull.value().outline) deepest = std::max(deepest, p.y());
        low = wide_open, high = -wide_open;
        for (const Vector2d& p : hull.value().outline)
            if (p.y() > deepest - flat_mm) low = std::min(low, p.x()), high = std::max(high, p.x());
    }
    const auto strapped = [&](shape::Outline outline, double thickness) {
        std::vector<Vector2d> ring;
        for (const Vector2d& p : {Vector2d(low, deepest), Vector2d(high, deepest), Vector2d(high, deepest + thickness),
                                  Vector2d(low, deepest + thickness)}) {
            const Vector3d at = pose_vehicle_pocket * Vector3d(0, p.x(), p.y());
            ring.emplace_back(at.dot(view.right), at.dot(view.up));
        }
        const Vector2d a = ring[1] - ring[0], b = ring[2] - ring[1];
        if (a.x() * b.y() - a.y() * b.x() < 0) std::reverse(ring.begin(), ring.end());
        outline.rings.push_back(std::move(ring));
        return outline;
    };
    std::vector<double> straps{0};
    if (high - low > flat_mm) straps.insert(straps.end(), sheet->thickness_mm.begin(), sheet->thickness_mm.end());
    for (const double plate : sheet->thickness_mm) {
        if (out.restoring && plate >= out.restoring->plate_mm + out.restoring->strap_mm) continue; // no lighter
        model::Pocket tried = pocket;
        tried.plate_mm = plate;
        tried.doubler_mm = 0;
        const auto made_so = shape::pocketed(body->shape, solid.value(), tried);
        const auto meshed = made_so ? shape::makeMesh(made_so.value().closed) : Result<shape::MeshedSolid>(Error{});
        if (!meshed) continue;
        std::vector<std::pair<const Station*, shape::Outline>> drawn;
        for (const Station* station : stations)
            drawn.emplace_back(station, rounded(shape::cutFace(meshed.value().mesh, out.pose_vehicle_body, view,
                                                               middle + station->along_mm),
                                                round, 2 * shape::default_deflection_mm));
        for (const double strap : straps) {
            if (out.restoring && plate + strap >= out.restoring->plate_mm + out.restoring->strap_mm) break;
            Weakest least;
            least.share = wide_open;
            for (const auto& [station, outline] : drawn)
                takeStrength(least, sectionOf(strap > 0 ? strapped(outline, strap) : outline), station->before,
                             station->along_mm);
            if (least.share < wanted) continue;
            out.restoring = Restoring{plate, strap};
            break;
        }
    }
    return out;
}

namespace {

/// All that a pocket's report depends on.
std::string keyOf(const model::Project& project, const model::RuleBook& book, const model::Pocket& pocket,
                  const Look& look) {
    std::string key = pocket.id + "|" + pocket.name + "|" + model::pocketKey(pocket);
    const auto put = [&key](double v) { key += " " + quantity::exactNumber(v); };
    const auto putAt = [&put](const Vector3d& v) { put(v.x()), put(v.y()), put(v.z()); };
    put(look.step_mm);
    put(look.restoring ? 1 : 0);
    if (const model::Body* body = model::findBody(project, {model::vehicle_owner, pocket.body})) {
        key += body->name + "|" + body->category + (body->may.never ? "|never|" : "|") + model::shapeKey(body->shape);
        const Eigen::Isometry3d pose = body->poseOwnerBody();
        putAt(pose.translation());
        for (int i = 0; i < 3; ++i) putAt(pose.linear().col(i));
    }
    for (const model::Pocket& other : model::pocketsOf(*project.sections.get<model::Relief>(), pocket.body)) {
        if (other.id == pocket.id) break;
        key += model::pocketKey(other);
    }
    for (const model::KeptHole& hole : project.sections.get<model::Relief>()->holes) {
        if (hole.body != pocket.body) continue;
        key += "|" + hole.name + std::to_string(static_cast<int>(hole.kind));
        putAt(hole.at_mm);
        put(hole.diameter_mm);
    }
    for (const model::HardPoint& point : project.vehicle->hard_points) {
        if (!carriesSuspension(point.role)) continue;
        key += "|" + point.name;
        putAt(point.at_mm);
    }
    for (const model::Figure& figure : book.figures) put(figure.value);
    return key;
}

} // namespace

std::optional<ReliefReport> judgeRelief(const model::Project& project, const model::RuleBook& book, const Look& look,
                                        ReliefMemo* memo) {
    const auto* relief = project.sections.get<model::Relief>();
    if (!relief) return std::nullopt;
    ReliefReport out;
    const auto add = [&out](Check check) {
        model::judge(check);
        out.verdict = model::worse(out.verdict, check.verdict);
        out.checks.push_back(std::move(check));
    };
    const auto refused = [&](const std::string& id, const std::string& what, const std::string& reason) {
        Check check;
        check.id = id + "/made";
        check.what = what;
        check.unit = Unit::Count;
        check.value = 0;
        check.least = check.good_least = 1;
        check.reason = reason;
        check.rule = "it can be made as given";
        add(std::move(check));
    };
    if (project.vehicle)
        for (const model::Pocket& pocket : relief->pockets) {
            std::shared_ptr<const PocketReport> judged;
            const std::string key = memo ? keyOf(project, book, pocket, look) : "";
            if (const auto known = memo ? memo->find(key) : std::nullopt)
                judged = *known;
            else
                judged = std::make_shared<const PocketReport>(judgePocket(project, book, pocket, look));
            out.pockets.push_back(memo ? *memo->keep(key, judged) : *judged);
            PocketReport& r = out.pockets.back();
            r.holds =
                model::holdStates(pocket.holds, [&](model::Hold hold) { return basisKnownTo(project, pocket, hold); });
            const bool fitted = std::any_of(r.holds.begin(), r.holds.end(), [](const model::HoldState& state) {
                return state.hold == model::Hold::FittedAgain && state.holds;
            });
            r.weld_pull_mm = pocket.open || fitted ? 0 : book.figure("weld_pull_mm");
            if (pocket.set_aside) continue;
            const model::Body* body = model::findBody(project, {model::vehicle_owner, pocket.body});
            if (body && !model::isTaken(project, model::vehicle_owner, body->option)) continue; // another form is taken
            for (const model::HoldState& state : r.holds) { // the first that no longer holds, with what has changed
                if (!state.signed_off || state.holds) continue;
                Check check =
                    checkOf(book, r.id + "/hold", r.name + ": changed since it was " + describe::said(state.hold),
                            Unit::Count, static_cast<double>(state.changed.size()), "");
                check.good_most = 0;
                check.soft = true;
                check.rule = "what a step was signed for must be as it was: fit it again and sign it again";
                for (const std::string& changed : state.changed)
                    check.reason += (check.reason.empty() ? "" : ", ") + changed;
                add(std::move(check));
                break;
            }
            const double within = book.figure("pocket_made_within_mm");
            const auto asMade = [&](const std::optional<double>& measured, double planned, const char* what) {
                if (!measured) return;
                Check check = checkOf(book, r.id + "/made-" + what, r.name + ": " + what + " as made, against planned",
                                      Unit::Millimetres, *measured - planned, "pocket_made_within_mm");
                check.good_least = -within;
                check.good_most = within;
                check.least = -within; // smaller takes from the gap, larger from the section
                check.most = book.figure("pocket_made_over_mm");
                add(std::move(check));
            };
            asMade(pocket.measured_length_mm, pocket.length_mm, "length");
            asMade(pocket.measured_width_mm, pocket.width_mm, "width");
            asMade(pocket.measured_depth_mm, pocket.depth_mm, "depth");
            if (!r.reason.empty()) {
                refused(r.id, r.name, r.reason);
                continue;
            }
            if (!body->may.be_cut) {
                Check may;
                may.id = r.id + "/may";
                may.what = r.name + ": may the " + body->name + " be cut?";
                may.unit = Unit::Count;
                may.least = may.good_least = 1;
                may.rule = "what is cut was looked at and marked as one that may be";
                may.reason = "not decided yet: look at it, then tick it under Survey";
                add(std::move(may));
            }
            if (!shape::isSheet(body->shape)) {
                Check strength = checkOf(book, r.id + "/strength",
                                         r.name + ": " + orElse(r.strength.what, "section moduli") + ", of what it was",
                                         Unit::Share, r.strength.share, "section_wanted_share");
                strength.good_least = strength.least = book.figure("section_wanted_share");
                strength.at = placeWords(r.strength);
                if (r.strength.share < *strength.least) strength.reason = restoringWords(r);
                add(std::move(strength));
                Check stiff = checkOf(book, r.id + "/stiffness",
                                      r.name + ": " + orElse(r.stiffness.what, "second moments") + ", of what it was",
                                      Unit::Share, r.stiffness.share, "stiffness_wanted_share");
                stiff.good_least = book.figure("stiffness_wanted_share");
                stiff.least = stiff.good_least;
                stiff.at = placeWords(r.stiffness);
                add(std::move(stiff));
                Check torsion = checkOf(book, r.id + "/torsion", r.name + ": resistance to twisting, of what it was",
                                        Unit::Share, r.torsion.share, "torsion_wanted_share");
                torsion.good_least = torsion.least = book.figure("torsion_wanted_share");
                torsion.at = placeWords(r.torsion);
                if (r.cell_before && !r.cell_closed)
                    torsion.reason = "the closed section is open there: it hardly resists twisting any more";
                add(std::move(torsion));
                const char* depth_figure = pocket.open ? "pocket_deepest_share" : "pocket_deepest_closed_share";
                Check depth = checkOf(book, r.id + "/depth", r.name + ": depth, of the section's", Unit::Share,
                                      r.depth_share, depth_figure);
                depth.good_most = depth.most = book.figure(depth_figure);
                add(std::move(depth));
            }
            const auto held = [&](const char* what, const char* words, double value_mm, const char* least,
                                  const char* most) {
                Check check =
                    checkOf(book, r.id + "/" + what, r.name + words, Unit::Millimetres, value_mm, least ? least : most);
                if (least) check.good_least = book.figure(least);
                if (most) check.good_most = book.figure(most);
                check.soft = true;
                add(std::move(check));
            };
            if (pocket.form != model::PocketForm::HalfRound)
                held("corner", ": radius of its corners", pocket.corner_mm, "pocket_corner_mm", nullptr);
            if (pocket.doubler_mm > 0)
                held("strap", ": its strap reaches beyond the mouth by", pocket.doubler_over_mm, "strap_over_mm",
                     "strap_over_most_mm");
            for (const Distance& d : r.distances) {
                const bool suspension = d.kind == "suspension", seam = d.kind == "seam";
                const char* figure = suspension ? "cut_to_pickup_mm"
                                     : seam     ? "cut_to_seam_mm"
                                                : "cut_to_hole_diameters";
                Check check =
                    checkOf(book, r.id + "/to/" + d.name, r.name + " to " + d.name, Unit::Millimetres, d.mm, figure);
                double wanted = book.figure(figure);
                if (!suspension && !seam) {
                    for (const model::KeptHole& hole : relief->holes)
                        if (hole.name == d.name) wanted = book.figure(figure) * hole.diameter_mm;
                    // A hole in what is cut out comes again in the plate.
                    const bool again = std::any_of(r.patterns.begin(), r.patterns.end(), [&](const FlatPattern& p) {
                        return std::any_of(p.holes.begin(), p.holes.end(),
                                           [&](const FlatHole& hole) { return hole.name == d.name; });
                    });
                    if (*d.mm <= 0 && again) continue;
                    if (*d.mm <= 0) check.reason = "it is cut away and not made again: move the pocket";
                }
                check.good_least = wanted;
                check.soft = !suspension && d.mm > 0;
                if (suspension) check.least = wanted;
                if (!d.mm) check.reason = "no suspension point is surveyed";
                add(std::move(check));
            }
        }
    const double bar_mm = book.figure("tube_bar_mm");
    for (const model::CutTube& tube : relief->tubes) {
        TubeReport r{tube.id, tube.name, "", std::nullopt};
        if (auto made = makeTube(tube, book)) {
            r.made = made.value();
            if (r.made->long_points_mm > bar_mm)
                refused(r.id, r.name,
                        "it is longer than a bar (" + quantity::fixed(bar_mm, 0) +
                            " mm): make it of two, or give the length of the bars you buy");
        } else {
            r.reason = made.error().what + ": " + made.error().mend;
            refused(r.id, r.name, r.reason);
        }
        out.tubes.push_back(std::move(r));
    }
    for (const model::PatternPlate& plate : relief->plates) {
        PlateReport r{plate.id, plate.name, "", std::nullopt};
        if (auto made = makePlate(project, book, plate)) {
            r.made = made.value();
        } else {
            r.reason = made.error().what + ": " + made.error().mend;
            refused(r.id, r.name, r.reason);
        }
        out.plates.push_back(std::move(r));
    }
    return out;
}

} // namespace gabarit::relief
