#include "mounts/bracket.h"

#include "mounts/mounts.h"

#include "model/owner_place.h"
#include "mounts/section/mounts.h"
#include "quantity/quantity.h"

#include <algorithm>
#include <cmath>

namespace gabarit::mounts {
namespace {

using Eigen::Isometry3d;
using Eigen::Matrix3d;
using Eigen::Vector2d;
using Eigen::Vector3d;
using model::Bracket;
using model::BracketForm;
using model::Check;
using model::Unit;

constexpr double nothing_mm = 1e-6;
constexpr double bend_share = 0.8; // of what a leg leaves for a bend

double length_mm(const std::vector<Vector3d>& path) {
    double sum = 0;
    for (std::size_t i = 1; i < path.size(); ++i) sum += (path[i] - path[i - 1]).norm();
    return sum;
}

std::vector<Vector2d> rectangle(const Vector2d& low, const Vector2d& high) {
    return {low, {high.x(), low.y()}, high, {low.x(), high.y()}};
}

/// A plate on a face: round its holes with the book's edge, or the book's square where there are none.
std::vector<Vector2d> facePlate(const BracketEnds& ends, const model::RuleBook& book, double least_mm) {
    const double half = std::max(book.figure("bracket_base_mm"), least_mm) / 2;
    if (ends.holes_mm.empty()) return rectangle({-half, -half}, {half, half});
    Vector2d low = ends.holes_mm.front(), high = low;
    for (const Vector2d& hole : ends.holes_mm) low = low.cwiseMin(hole), high = high.cwiseMax(hole);
    const double edge = book.figure("bracket_edge_diameters") * ends.thread_mm.value_or(10);
    low.array() -= edge;
    high.array() += edge;
    // The arm has to find room on it.
    for (int i = 0; i < 2; ++i) {
        const double lacks = least_mm - (high[i] - low[i]);
        if (lacks > 0) low[i] -= lacks / 2, high[i] += lacks / 2;
    }
    return rectangle(low, high);
}

Isometry3d poseOf(const Vector3d& at_mm, const Matrix3d& axes) {
    Isometry3d out = Isometry3d::Identity();
    out.linear() = axes;
    out.translation() = at_mm;
    return out;
}

/// Axes with that third one, the first as near to the given one as it can lie.
Matrix3d axesOut(const Vector3d& out, const Vector3d& near) {
    Vector3d first = near - out * out.dot(near);
    if (first.norm() < 0.1) first = Vector3d::UnitZ() - out * out.z();
    if (first.norm() < 0.1) first = Vector3d::UnitX() - out * out.x();
    Matrix3d axes;
    axes.col(0) = first.normalized();
    axes.col(1) = out.cross(axes.col(0));
    axes.col(2) = out;
    return axes;
}

ArmSection tubeSection(double outside, double wall) {
    const double inside = outside - 2 * wall;
    const double i = M_PI / 64 * (std::pow(outside, 4) - std::pow(inside, 4));
    return {M_PI / 4 * (outside * outside - inside * inside), i / (outside / 2), i / (outside / 4), wall};
}

/// A channel bent about its weaker axis; torsion of an open section, t·(sum of lengths)·t²/3 over t.
ArmSection channelSection(double height, double width, double wall) {
    const double flange = width - wall;
    const double area = wall * (height + 2 * flange);
    const double middle = (height * wall * wall / 2 + 2 * flange * wall * (wall + flange / 2)) / area;
    const double i = height * std::pow(wall, 3) / 12 + height * wall * std::pow(middle - wall / 2, 2) +
                     2 * (wall * std::pow(flange, 3) / 12 + wall * flange * std::pow(wall + flange / 2 - middle, 2));
    return {area, i / (width - middle), wall * wall * (height + 2 * flange) / 3, wall};
}

} // namespace

const char* word(Which which) { return which == Which::Bracket ? "bracket" : "tower"; }

const Bracket* bracketOf(const model::Mount& mount, Which which) {
    const auto& its = which == Which::Bracket ? mount.bracket : mount.tower;
    return its ? &*its : nullptr;
}

Result<BracketEnds> bracketEnds(const model::Project& project, const model::RuleBook& book, const model::Mount& mount,
                                Which which) {
    const std::string where = "mount \"" + mount.name + "\", its " + word(which);
    if (which == Which::Tower && !mount.stand)
        return Error{"there is no stand that it could rise from", where, "give the stand"};
    const model::Isolator* isolator = isolatorOf(project, book, mount);
    if (!isolator || !isolator->height_mm)
        return Error{isolator ? "the isolator's height is not given" : "no isolator is chosen", where,
                     "choose one with a height"};
    const auto placed = placedMount(project, book, mount);
    if (!placed) return placed.error();
    const model::MountFace& face = which == Which::Bracket ? mount.pad : *mount.stand;
    const auto its = model::ownerPlace(project, face.owner, face.point, face.at_mm, where);
    if (!its) return its.error();
    BracketEnds out;
    out.owner = face.owner;
    out.pose_vehicle_owner = its.value().pose_vehicle_owner;
    out.face_mm = its.value().at_mm;
    out.face_axes = axesOut(face.out.normalized(), face.mark.normalized());
    out.holes_mm = face.holes_mm;
    out.thread_mm = face.thread_mm;
    const Vector3d axial = placed.value().axes.col(2) * (which == Which::Bracket ? 1 : -1);
    out.seat_mm = out.pose_vehicle_owner.inverse() * Vector3d(placed.value().at_mm + axial * *isolator->height_mm / 2);
    out.seat_out = out.pose_vehicle_owner.linear().transpose() * axial;
    out.isolator_mm = isolator->diameter_mm;
    return out;
}

namespace {

/// Two triangles at the arm's root, either side of it in the plane that it leans in: one leg on the face plate, one
/// along the arm.
void addGussets(BracketMade& made, double tube_mm, double plate_mm, double kg_per_mm3) {
    const Vector3d root = made.path_mm[0], along = (made.path_mm[1] - root).normalized();
    const Vector3d out = made.ends.face_axes.col(2);
    Vector3d lean = along - out * along.dot(out);
    if (lean.norm() < 0.05) lean = made.ends.face_axes.col(0);
    lean.normalize();
    if (along.dot(out) < 0.2) return; // it runs along the face: there is no corner to fill
    for (const double side : {1.0, -1.0}) {
        const Vector3d x = lean * side, z = x.cross(along).normalized(), y = z.cross(x);
        const Vector3d skin = along.cross(z); // out of the arm's middle, square to it
        const auto flat = [&](const Vector3d& v) { return Vector2d(v.dot(x), v.dot(y)); };
        const double half = tube_mm / 2,
                     foot = half / std::max(0.2, skin.dot(x)); // where the arm's skin meets the plate
        const Vector2d a = flat(x * foot), b = flat(x * (foot + made.gusset_mm)),
                       c = flat(along * (made.gusset_mm - half * skin.dot(out) / along.dot(out)) + skin * half);
        Piece piece;
        piece.name = "gusset";
        const double twice = (b - a).x() * (c - a).y() - (b - a).y() * (c - a).x();
        if (twice < 1) continue; // nothing left between arm and plate on that side
        piece.shape = model::PlateSpec{{a, b, c}, plate_mm};
        piece.mass_kg = twice / 2 * plate_mm * kg_per_mm3;
        piece.cut_mm = made.gusset_mm;
        Matrix3d axes;
        axes << x, y, z;
        piece.pose_owner = poseOf(root - z * plate_mm / 2, axes);
        made.pieces.push_back(std::move(piece));
    }
}

} // namespace

Result<BracketMade> makeBracket(const BracketEnds& ends, const Bracket& bracket, const model::RuleBook& book) {
    const auto sized = [&book](std::optional<double> own, const char* figure) {
        return own ? *own : book.figure(figure);
    };
    const double tube = sized(bracket.tube_mm, "bracket_tube_mm"), wall = sized(bracket.wall_mm, "bracket_wall_mm"),
                 plate = sized(bracket.plate_mm, "bracket_plate_mm");
    if (bracket.form != BracketForm::Flat && 2 * wall >= tube)
        return Error{"its wall is half its tube or more", "arm", "give a thinner wall or a larger tube"};
    const double kg_per_mm3 = book.figure("steel_density_kg_m3") / quantity::mm3_per_m3;
    const Vector3d out = ends.face_axes.col(2);
    BracketMade made;
    made.ends = ends;
    made.gusset_mm = sized(bracket.gusset_mm, "bracket_gusset_mm");
    made.throat_mm = sized(bracket.throat_mm, "bracket_throat_mm");
    made.yield_mpa = sized(bracket.yield_mpa, "bracket_yield_mpa");
    const double seat_mm = ends.isolator_mm.value_or(tube) + book.figure("bracket_seat_over_mm");
    const auto addPlate = [&](const char* name, std::vector<Vector2d> outline, const Isometry3d& pose) {
        Piece piece;
        piece.name = name;
        const Vector2d span = outline[2] - outline[0];
        piece.mass_kg = span.x() * span.y() * plate * kg_per_mm3;
        piece.cut_mm = span.maxCoeff();
        piece.shape = model::PlateSpec{std::move(outline), plate};
        piece.pose_owner = pose;
        made.pieces.push_back(std::move(piece));
    };
    if (bracket.form == BracketForm::Flat) {
        const Vector3d to = ends.seat_mm - ends.face_mm;
        if (std::abs(std::abs(ends.seat_out.dot(out)) - 1) > 0.004) // 5°
            return Error{"the isolator's end and the face do not lie in one plane", "adapter plate",
                         "take a tube or a folded plate"};
        if (std::abs(to.dot(out) - plate) > 1 && std::abs(to.dot(out)) > 1)
            return Error{"the isolator's end stands " + quantity::fixed(to.dot(out), 0) +
                             " mm out of the face: a flat plate does not reach it",
                         "adapter plate", "take a tube or a folded plate"};
        std::vector<Vector2d> outline = facePlate(ends, book, 0);
        const Vector2d seat{to.dot(ends.face_axes.col(0)), to.dot(ends.face_axes.col(1))};
        const Vector2d root = (outline[0] + outline[2]) / 2;
        const Vector2d low = outline[0].cwiseMin(Vector2d(seat.array() - seat_mm / 2)),
                       high = outline[2].cwiseMax(Vector2d(seat.array() + seat_mm / 2));
        const double across =
            (seat - root).norm() < nothing_mm ? seat_mm : std::min(high.x() - low.x(), high.y() - low.y());
        addPlate("adapter plate", rectangle(low, high), poseOf(ends.face_mm, ends.face_axes));
        made.path_mm = {ends.face_mm + ends.face_axes * Vector3d(root.x(), root.y(), plate / 2), ends.seat_mm};
        made.section = {across * plate, across * plate * plate / 6, across * plate * plate / 3, plate};
        made.welded = false;
        made.gusset_mm = 0;
    } else {
        const bool folded = bracket.form == BracketForm::Folded;
        std::vector<Vector2d> outline = facePlate(ends, book, tube * 1.1);
        const Vector2d middle = (outline[0] + outline[2]) / 2;
        const Vector3d root = ends.face_mm + ends.face_axes * Vector3d(middle.x(), middle.y(), plate);
        addPlate("face plate", std::move(outline), poseOf(ends.face_mm, ends.face_axes));
        made.path_mm.push_back(root);
        for (const Vector3d& via : bracket.via_mm) made.path_mm.push_back(via);
        made.path_mm.push_back(ends.seat_mm + ends.seat_out * plate);
        for (std::size_t i = 1; i < made.path_mm.size(); ++i)
            if ((made.path_mm[i] - made.path_mm[i - 1]).norm() < nothing_mm)
                return Error{"there is no way between face and isolator", "arm", "move the isolator or a corner"};
        if (folded) {
            const double width = tube * book.figure("channel_width_share");
            made.section = channelSection(tube, width, wall);
            for (std::size_t i = 1; i < made.path_mm.size(); ++i) {
                Piece piece;
                piece.name = "channel";
                piece.cut_mm = (made.path_mm[i] - made.path_mm[i - 1]).norm();
                piece.mass_kg = made.section.area_mm2 * piece.cut_mm * kg_per_mm3;
                piece.shape = model::ProfileSpec{model::CSection{width, tube, wall}, Vector3d::Zero(),
                                                 Vector3d(made.path_mm[i] - made.path_mm[i - 1]), 0};
                piece.pose_owner = poseOf(made.path_mm[i - 1], Matrix3d::Identity());
                made.pieces.push_back(std::move(piece));
            }
        } else {
            made.section = tubeSection(tube, wall);
            Piece piece;
            piece.name = "arm";
            piece.cut_mm = length_mm(made.path_mm);
            piece.mass_kg = made.section.area_mm2 * piece.cut_mm * kg_per_mm3;
            model::TubeSpec spec;
            spec.diameter_mm = tube;
            double radius = book.figure("tube_bend_diameters") * tube;
            for (std::size_t i = 1; i + 1 < made.path_mm.size(); ++i) {
                const Vector3d before = made.path_mm[i] - made.path_mm[i - 1],
                               after = made.path_mm[i + 1] - made.path_mm[i];
                const double turn = std::acos(std::clamp(before.normalized().dot(after.normalized()), -1.0, 1.0));
                if (turn > nothing_mm)
                    radius =
                        std::min(radius, bend_share * std::min(before.norm(), after.norm()) / 2 / std::tan(turn / 2));
            }
            spec.bend_radius_mm = made.path_mm.size() > 2 ? radius : 0;
            for (const Vector3d& corner : made.path_mm) spec.path_mm.emplace_back(corner - root);
            piece.shape = std::move(spec);
            piece.pose_owner = poseOf(root, Matrix3d::Identity());
            made.pieces.push_back(std::move(piece));
        }
        const double half = seat_mm / 2;
        addPlate("seat plate", rectangle({-half, -half}, {half, half}),
                 poseOf(ends.seat_mm, axesOut(ends.seat_out, ends.face_axes.col(0))));
    }
    if (made.gusset_mm > 0) addGussets(made, tube, plate, kg_per_mm3);
    for (const Piece& piece : made.pieces) made.mass_kg += piece.mass_kg;
    return made;
}

BracketStress stressOf(const BracketMade& made, const Vector3d& force_n) {
    BracketStress worst;
    const ArmSection& s = made.section;
    const Vector3d end = made.ends.seat_mm;
    const auto at = [&](const Vector3d& place, const Vector3d& along) {
        BracketStress out;
        const Vector3d moment = (end - place).cross(force_n);
        const double axial = force_n.dot(along), twist = moment.dot(along);
        out.at_mm = place;
        out.axial_mpa = std::abs(axial) / s.area_mm2;
        out.bending_mpa = (moment - along * twist).norm() / s.bending_mm3;
        out.shear_mpa = 2 * (force_n - along * axial).norm() / s.area_mm2 + std::abs(twist) / s.torsion_mm3;
        out.together_mpa = std::hypot(out.axial_mpa + out.bending_mpa, std::sqrt(3.0) * out.shear_mpa);
        return out;
    };
    for (std::size_t i = 0; i + 1 < made.path_mm.size(); ++i) {
        const Vector3d leg = made.path_mm[i + 1] - made.path_mm[i], along = leg.normalized();
        const double gusset = i == 0 ? std::min(made.gusset_mm, leg.norm()) : 0;
        const BracketStress here = at(made.path_mm[i] + along * gusset, along);
        if (here.together_mpa > worst.together_mpa) worst = here;
    }
    if (made.welded && made.path_mm.size() > 1) {
        // The throat as a line round the section: its figures over its wall, times the throat.
        const double throat = made.throat_mm / s.wall_mm;
        const BracketStress root = at(made.path_mm[0], (made.path_mm[1] - made.path_mm[0]).normalized());
        worst.weld_mpa = std::hypot(root.axial_mpa + root.bending_mpa, root.shear_mpa) / throat;
    }
    return worst;
}

namespace {

/// How far the bodies stand from where the pieces would be made now, by their places.
std::optional<double> offBy_mm(const model::Project& project, const BracketMade& made, const Bracket& bracket) {
    std::optional<double> off;
    for (std::size_t i = 0; i < bracket.bodies.size() && i < made.pieces.size(); ++i) {
        const model::Body* body = model::findBody(project, {made.ends.owner, model::BodyId{bracket.bodies[i]}});
        if (!body) continue;
        const Isometry3d stands = body->poseOwnerBody(), wanted = made.pieces[i].pose_owner;
        double here = (stands.translation() - wanted.translation()).norm();
        // Of the arm its far end counts too: its near one stays on the face.
        if (const auto* now = std::get_if<model::TubeSpec>(&made.pieces[i].shape))
            if (const auto* was = std::get_if<model::TubeSpec>(&body->shape); was && !was->path_mm.empty())
                here = std::max(here, (stands * was->path_mm.back() - wanted * now->path_mm.back()).norm());
        off = std::max(off.value_or(0), here);
    }
    return off;
}

} // namespace

void judgeBrackets(const model::Project& project, const model::RuleBook& book, MountsReport& report) {
    const auto* mounts = project.sections.get<model::Mounts>();
    if (!mounts || !report.usable) return;
    for (std::size_t i = 0; i < mounts->mounts.size(); ++i) {
        const model::Mount& mount = mounts->mounts[i];
        for (const Which which : {Which::Bracket, Which::Tower}) {
            const Bracket* bracket = bracketOf(mount, which);
            if (!bracket) continue;
            BracketReport b;
            b.mount = mount.id;
            b.which = which;
            const std::string id = mount.id + "/" + word(which), name = mount.name + ", " + word(which);
            const auto add = [&](const char* what, const std::string& words, Unit unit, std::optional<double> value,
                                 const char* rule) -> Check& {
                Check c;
                c.id = id + "/" + what;
                c.what = name + words;
                c.unit = unit;
                c.value = value;
                c.rule = model::ruleOf(book, rule);
                report.checks.push_back(std::move(c));
                return report.checks.back();
            };
            const auto ends = bracketEnds(project, book, mount, which);
            const auto made = ends ? makeBracket(ends.value(), *bracket, book) : Result<BracketMade>(ends.error());
            if (!made) {
                b.reason = made.error().what + ": " + made.error().mend;
                Check& c = add("made", "", Unit::Factor, std::nullopt, "bracket_factor_wanted");
                c.reason = b.reason;
                model::judge(c);
                report.brackets.push_back(std::move(b));
                continue;
            }
            b.made = made.value();
            b.off_mm = offBy_mm(project, *b.made, *bracket);
            if (b.off_mm) {
                Check& c = add("off", ": stands beside where it is wanted now by", Unit::Millimetres, b.off_mm,
                               "bracket_off_mm");
                c.good_most = book.figure("bracket_off_mm");
                c.most = book.figure("bracket_off_mm") + bracket->slot_mm.value_or(0);
                model::judge(c);
                if (c.verdict != model::Verdict::Go)
                    c.reason = "unit, rubber or face have changed since: make it again";
            }
            const double weld_limit_mpa =
                book.figure("weld_ultimate_mpa") / std::sqrt(3.0) / book.figure("weld_correlation_factor");
            bool known = false;
            double most = 0, most_weld = 0;
            for (const LoadCase& load : report.cases) {
                if (load.on_unit_n.size() <= i || load.kind == CaseKind::Driving) continue;
                known = true;
                const Vector3d force = made.value().ends.pose_vehicle_owner.linear().transpose() * load.on_unit_n[i];
                const BracketStress stress = stressOf(made.value(), force);
                most_weld = std::max(most_weld, stress.weld_mpa);
                if (stress.together_mpa <= most) continue;
                most = stress.together_mpa;
                b.worst_case = load.name;
                b.stress = stress;
            }
            if (known && most > 0) b.factor = made.value().yield_mpa / most;
            if (known && most_weld > 0) b.weld_factor = weld_limit_mpa / most_weld;
            const auto factor = [&](const char* what, const char* words, std::optional<double> value) {
                Check& c = add(what, words, Unit::Factor, value, "bracket_factor_wanted");
                c.good_least = book.figure("bracket_factor_wanted");
                c.least = book.figure("bracket_factor_least");
                c.at = b.worst_case;
                if (!value) c.reason = "its loads are not known";
                model::judge(c);
            };
            factor("strength", ": strength over the worst load", b.factor);
            if (made.value().welded) factor("weld", ": weld strength over the worst load", b.weld_factor);
            report.brackets.push_back(std::move(b));
        }
    }
}

} // namespace gabarit::mounts
