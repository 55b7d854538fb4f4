// Pockets as solids: volumes by hand, refusals, and flat patterns folded back.
#include "quantity/quantity.h"
#include "relief/flat.h"
#include "relief/section/relief.h"
#include "shape/outline.h"
#include "shape/pocket.h"
#include "store/rule_book.h"
#include "support/suite.h"

#include <QtTest>

#include <cmath>

using namespace gabarit;
using Eigen::Vector2d;
using Eigen::Vector3d;
using Kind = shape::PocketPlate::Kind;

namespace {

constexpr double pi = EIGEN_PI;

/// Along y, top at z = 480: 100 long (x), 80 high, wall 5.
model::ProfileSpec crossmember() {
    return {model::RectTubeSection{100, 80, 5}, Vector3d(70, -337, 440), Vector3d(70, 337, 440), 0};
}

model::Pocket pocket(model::PocketForm form = model::PocketForm::Box) {
    model::Pocket p;
    p.id = p.name = "pocket";
    p.body.text = "crossmember";
    p.form = form;
    p.at_mm = {70, -40, 480};
    p.into = {0, 0, -1};
    p.along = {0, 1, 0};
    p.length_mm = 120;
    p.width_mm = 50;
    p.depth_mm = 20;
    p.plate_mm = 4;
    return p;
}

shape::PocketMade made(const model::ShapeSpec& spec, const model::Pocket& p) {
    const auto solid = shape::makeSolid(spec);
    if (!solid) qFatal("%s", solid.error().line().c_str());
    const auto out = shape::pocketed(spec, solid.value(), p);
    if (!out) qFatal("%s", out.error().line().c_str());
    return out.value();
}

std::string refusal(const model::ShapeSpec& spec, const model::Pocket& p) {
    const auto solid = shape::makeSolid(spec);
    const auto out = shape::pocketed(spec, solid.value(), p);
    return out ? "" : out.error().what;
}

model::PlateSpec plate() { return {{{0, 0}, {600, 0}, {600, 400}, {0, 400}}, 1.2}; }
/// 150 × 90 × 30 in its middle.
model::Pocket inPlate(model::PocketForm form) {
    model::Pocket p = pocket(form);
    p.at_mm = {300, 200, 0};
    p.into = {0, 0, 1};
    p.along = {1, 0, 0};
    p.length_mm = 150;
    p.width_mm = 90;
    p.depth_mm = 30;
    p.corner_mm = form == model::PocketForm::Recess ? 20 : 5;
    p.plate_mm = 1.2;
    return p;
}

bool near(double a, double b, double within) { return std::abs(a - b) <= within; }

double distance(const shape::Mesh& mesh, const Vector3d& p) {
    double least = 1e9;
    for (const shape::Triangle& t : mesh.triangles) {
        const Vector3d a = mesh.points[static_cast<std::size_t>(t.corner[0])],
                       b = mesh.points[static_cast<std::size_t>(t.corner[1])],
                       c = mesh.points[static_cast<std::size_t>(t.corner[2])];
        const Vector3d n = (b - a).cross(c - a);
        const double twice = n.norm();
        if (twice > 1e-9) {
            const Vector3d q = p - n * n.dot(p - a) / (twice * twice);
            const bool in = (b - a).cross(q - a).dot(n) >= 0 && (c - b).cross(q - b).dot(n) >= 0 &&
                            (a - c).cross(q - c).dot(n) >= 0;
            if (in) least = std::min(least, (p - q).norm());
        }
        for (const auto& [from, to] : {std::pair(a, b), std::pair(b, c), std::pair(c, a)}) {
            const Vector3d run = to - from;
            const double s = std::clamp((p - from).dot(run) / std::max(run.squaredNorm(), 1e-12), 0.0, 1.0);
            least = std::min(least, (p - from - run * s).norm());
        }
    }
    return least;
}

/// A flat strip folded up again: a point of its inner face (and `out_mm` through it), from its drawing alone. The first
/// flat lies where `begin` says.
Vector3d folded(const relief::FlatPattern& flat, const Eigen::Isometry3d& begin, const Vector2d& at, double out_mm) {
    Eigen::Isometry3d pose = begin;
    double done = 0; // of the flat, up to here
    for (const relief::BendLine& bend : flat.bends) {
        const double from = bend.from_mm.x() - bend.width_mm / 2;
        if (at.x() <= from) break;
        pose = pose * Eigen::Translation3d(from - done, 0, 0);
        const double share = std::min(1.0, (at.x() - from) / bend.width_mm);
        const double turn = share * bend.angle_deg / quantity::deg_per_rad;
        // About a line across, at the inside radius on the free room's side (−z), turning that way.
        pose = pose * Eigen::Translation3d(0, 0, -bend.inside_mm) * Eigen::AngleAxisd(turn, Vector3d::UnitY()) *
               Eigen::Translation3d(0, 0, bend.inside_mm);
        done = from + share * bend.width_mm;
        if (share < 1) break;
    }
    return pose * Vector3d(std::max(0.0, at.x() - done), at.y(), out_mm);
}

} // namespace

class PocketTest : public QObject {
    Q_OBJECT
private slots:
    void boxByHand() {
        // Square bends, the box inside the upper flange: out of 5 mm of flange come (120 + 2·4) × (50 + 2·4).
        const auto m = made(crossmember(), pocket());
        QVERIFY2(near(m.cut_volume_mm3, 128 * 58 * 5, 1), qPrintable(QString::number(m.cut_volume_mm3)));
        QCOMPARE(m.plates.size(), std::size_t(3)); // strip and two cheeks
        // Two ends, bottom, two quarter rounds outside of sharp bends; two cheeks that cover the strip's edges.
        const double corner = pi / 4 * 16;
        const double strip = (2 * 20 + 120) * 4 * 50 + 2 * corner * 50;
        const double cheek = (128 * 24 - 2 * (16 - corner)) * 4;
        QVERIFY2(near(m.plate_volume_mm3, strip + 2 * cheek, 2), qPrintable(QString::number(m.plate_volume_mm3)));
        const double before = shape::volume_mm3(shape::makeSolid(crossmember()).value());
        QVERIFY(near(shape::volume_mm3(m.closed), before - m.cut_volume_mm3 + m.plate_volume_mm3, 2));
    }

    void roomInsideIsFree() {
        model::Pocket p = pocket();
        p.flank_deg = 15;
        p.corner_mm = 10;
        const auto m = made(crossmember(), p);
        const auto mesh = shape::makeMesh(m.closed, 0.02).value().mesh;
        QVERIFY(near(shape::volume_mm3(mesh), shape::volume_mm3(m.closed), 60));
        QVERIFY(shape::contains(mesh, {70, -40, 458}));                                             // bottom plate
        QVERIFY(!shape::contains(mesh, {70, -40, 460.5}));                                          // free down to 460
        QVERIFY(!shape::contains(mesh, {94.5, -40, 465}) && shape::contains(mesh, {96, -40, 465})); // cheek at 95
        QVERIFY(shape::contains(mesh, {70, -200, 477})); // flange elsewhere as it was
        // The end leans: at half its depth it is 10·tan 15° further out than at its bottom.
        const double end = -40 + 60 + 10 * std::tan(15 / quantity::deg_per_rad);
        QVERIFY(!shape::contains(mesh, {70, end - 0.2, 470}) && shape::contains(mesh, {70, end + 0.2, 470}));
    }

    void openToOneSide() {
        // Wide enough to run out of the rear side: no cheek there, and the web is cut as well.
        model::Pocket p = pocket();
        p.at_mm.x() = 100;
        p.width_mm = 60;
        const auto m = made(crossmember(), p);
        QCOMPARE(m.plates.size(), std::size_t(2));
        // Flange: x from 66 to 115 less the rear web's 5; web: 24 deep.
        QVERIFY2(near(m.cut_volume_mm3, 128 * (54 * 5 + 5 * (24 - 5)) - 2 * (16 - pi / 4 * 16) * 5, 2),
                 qPrintable(QString::number(m.cut_volume_mm3)));
    }

    void stepAcross() {
        model::Pocket p = pocket(model::PocketForm::Step);
        p.flank_deg = 45;
        p.corner_mm = 10;
        const auto m = made(crossmember(), p);
        QCOMPARE(m.plates.size(), std::size_t(1));
        const auto box = shape::boundsOf(shape::makeMesh(m.closed).value().mesh);
        QVERIFY(near(box.min().x(), 20, 1e-6) && near(box.max().x(), 120, 1e-6)); // nothing stands out
        QVERIFY(box.max().z() < 480 + 1e-6);
    }

    void halfTube() {
        model::Pocket p = pocket(model::PocketForm::HalfRound);
        p.length_mm = 60;
        p.depth_mm = 30;
        p.width_mm = 50;
        const auto m = made(crossmember(), p);
        QVERIFY(m.plates.front().kind == Kind::HalfTube);
        // Half a ring of 30 to 34, 50 wide.
        const double ring = pi / 2 * (34 * 34 - 30 * 30) * 50;
        const double cheek = pi / 2 * 34 * 34 * 4;
        QVERIFY2(near(m.plate_volume_mm3, ring + 2 * cheek, 12), qPrintable(QString::number(m.plate_volume_mm3)));
        p.depth_mm = 31;
        QVERIFY(refusal(crossmember(), p).find("half its tube") != std::string::npos);
    }

    void strapLiesOnTheFarFace() {
        model::Pocket p = pocket();
        p.doubler_mm = 6;
        p.doubler_over_mm = 40;
        const auto m = made(crossmember(), p);
        QVERIFY(m.plates.back().kind == Kind::Strap);
        const auto box = shape::boundsOf(shape::makeMesh(m.closed).value().mesh);
        QVERIFY(near(box.min().z(), 394, 1e-6));
        const auto without = made(crossmember(), pocket());
        QVERIFY(near(m.plate_volume_mm3 - without.plate_volume_mm3, (128 + 80) * 100 * 6, 1));
    }

    void roundTube() {
        const model::ProfileSpec round{model::RoundTubeSection{76, 4}, Vector3d(0, -300, 0), Vector3d(0, 300, 0), 0};
        const double volume = shape::volume_mm3(shape::makeSolid(round).value());
        QVERIFY(near(volume, pi / 4 * (76 * 76 - 68 * 68) * 600, 1)); // exact, not a polygon's
        model::Pocket p = pocket();
        p.at_mm = {0, 0, 38};
        p.width_mm = 200; // out of both sides
        p.depth_mm = 20;
        const auto m = made(round, p);
        QCOMPARE(m.plates.size(), std::size_t(1));
        const auto mesh = shape::makeMesh(m.closed, 0.02).value().mesh;
        // Nothing stands out of the tube, and its edge is there: on the bottom plate the chord is 2·√(38² − 18²) at its
        // upper face and wider at its lower: cut square to the narrower.
        for (const Vector3d& q : mesh.points) QVERIFY(std::hypot(q.x(), q.z()) < 38.001);
        const double chord = std::sqrt(38.0 * 38 - 18.0 * 18);
        QVERIFY(shape::contains(mesh, {chord - 0.1, 0, 16}));
        QVERIFY(!shape::contains(mesh, {0, 0, 18.5}));
        // The segment of the ring above z = 14 over 128 mm of length, less the ends' rounding.
        const auto segment = [](double r, double h) { return r * r * std::acos(h / r) - h * std::sqrt(r * r - h * h); };
        const double metal = segment(38, 14) - segment(34, 14);
        QVERIFY2(near(m.cut_volume_mm3, metal * 128, metal), qPrintable(QString::number(m.cut_volume_mm3)));
    }

    void refusals() {
        model::Pocket deep = pocket(model::PocketForm::Step);
        deep.depth_mm = 90;
        QVERIFY(refusal(crossmember(), deep).find("in two") != std::string::npos);
        const model::ProfileSpec round{model::RoundTubeSection{76, 4}, Vector3d(70, -300, 442), Vector3d(70, 300, 442),
                                       0};
        deep.depth_mm = 80;
        QVERIFY(refusal(round, deep).find("in two") != std::string::npos);
        model::Pocket beside = pocket();
        beside.at_mm.z() = 600;
        QVERIFY(refusal(crossmember(), beside).find("does not meet") != std::string::npos);
        model::Pocket inside = pocket();
        inside.at_mm.z() = 470;
        QVERIFY(refusal(crossmember(), inside).find("10.0 mm inside the metal") != std::string::npos);
        model::Pocket end = pocket();
        end.at_mm.y() = 320;
        QVERIFY(refusal(crossmember(), end).find("beyond the end") != std::string::npos);
        model::Pocket across = pocket();
        across.along = {1, 0, 0};
        QVERIFY(refusal(crossmember(), across).find("does not run along") != std::string::npos);
        model::Pocket sliver = pocket();
        sliver.width_mm = 97;
        QVERIFY(refusal(crossmember(), sliver).find("1.5 mm beside") != std::string::npos);
        model::Pocket corners = pocket();
        corners.corner_mm = 25;
        QVERIFY(refusal(crossmember(), corners).find("corners are larger than its depth") != std::string::npos);
        QVERIFY(refusal(model::BoxSpec{{100, 674, 80}}, pocket()).find("filled") != std::string::npos);
    }

    void recessInASheet() {
        model::Pocket p = inPlate(model::PocketForm::Recess);
        const auto m = made(plate(), p);
        const auto area = [](double l, double w, double r) { return l * w - (4 - pi) * r * r; };
        QVERIFY(near(m.cut_volume_mm3, area(152.4, 92.4, 21.2) * 1.2, 1));
        // Walls from the sheet's back at 1.2 to 30, and the bottom.
        const double walls = (area(152.4, 92.4, 21.2) - area(150, 90, 20)) * (30 - 1.2);
        QVERIFY2(near(m.plate_volume_mm3, walls + area(152.4, 92.4, 21.2) * 1.2, 2),
                 qPrintable(QString::number(m.plate_volume_mm3)));
        p.at_mm.x() = 40;
        QVERIFY(refusal(plate(), p).find("mouth does not lie on the sheet") != std::string::npos);
    }

    void boxInASheet() {
        const model::Pocket p = inPlate(model::PocketForm::Box);
        const auto m = made(plate(), p);
        QVERIFY(m.in_sheet);
        QCOMPARE(m.plates.size(), std::size_t(1));
        QVERIFY(m.plates.front().kind == Kind::Tray);
        QVERIFY(near(m.cut_volume_mm3, 152.4 * 92.4 * 1.2, 1));
        // Sharp box outside less sharp box inside, and what the bends (inside 5, outside 6.2) take off and add along
        // the four edges of the bottom; where two meet the removed prism is that of both: ∫ of (r − √(r² − s²))².
        const auto rounded = [](double l, double w, double r) {
            const double edge = (1 - pi / 4) * r * r;             // off a square edge, a mm
            const double corner = (5.0 / 3 - pi / 2) * r * r * r; // ∫₀ʳ (r − √(r² − s²))² ds, counted twice
            return 2 * (l + w) * edge - 4 * corner;
        };
        const double walls = (152.4 * 92.4 - 150 * 90) * (30 - 1.2) + 152.4 * 92.4 * 1.2;
        const double wanted = walls - rounded(152.4, 92.4, 6.2) + rounded(150, 90, 5);
        QVERIFY2(near(m.plate_volume_mm3, wanted, 2), qPrintable(QString::number(m.plate_volume_mm3 - wanted)));
        model::Pocket leaning = p;
        leaning.flank_deg = 15;
        QVERIFY(refusal(plate(), leaning).find("stand square") != std::string::npos);
        leaning = p;
        leaning.form = model::PocketForm::Step;
        QVERIFY(refusal(plate(), leaning).find("formed recess or a box") != std::string::npos);
        leaning = p;
        leaning.at_mm.x() = 40;
        QVERIFY(refusal(plate(), leaning).find("mouth does not lie on the sheet") != std::string::npos);
    }

    /// Every point of the blank, folded about its own bend lines, lies on the tray within a tenth.
    void trayFoldsBack() {
        model::Pocket p = inPlate(model::PocketForm::Box);
        p.material = "deep-drawing";
        const auto m = made(plate(), p);
        const auto flats = relief::patternsOf(p, m, {}, store::defaultRuleBook()).value();
        QCOMPARE(flats.size(), std::size_t(1));
        const relief::FlatPattern& flat = flats.front();
        QCOMPARE(flat.bends.size(), std::size_t(4));
        const auto mesh = shape::makeMesh(m.closed, 0.02).value().mesh;
        const Vector3d bottom(300, 200, 30); // middle of its inner face; walls stand towards −z
        const auto fold = [&](const Vector2d& at, double out) {
            // Of the bend that it lies farthest beyond: a wall reaches past where the neighbouring bend begins.
            Vector3d q(at.x(), at.y(), out);
            double most = 0;
            for (const relief::BendLine& bend : flat.bends) {
                const int axis = std::abs(bend.to_mm.x() - bend.from_mm.x()) < 1e-9 ? 0 : 1;
                const double middle = bend.from_mm[axis], side = middle > 0 ? 1 : -1;
                const double begin = std::abs(middle) - bend.width_mm / 2, over = side * at[axis] - begin;
                if (over <= most) continue;
                most = over;
                const double turn = std::min(1.0, over / bend.width_mm) * pi / 2, r = bend.inside_mm;
                q = {at.x(), at.y(), (r + out) * std::cos(turn) - r - std::max(0.0, over - bend.width_mm)};
                q[axis] = side * (begin + (r + out) * std::sin(turn));
            }
            return Vector3d(bottom + q);
        };
        int points = 0, on = 0;
        for (std::size_t i = 0; i < flat.cut_mm.size(); ++i) {
            const Vector2d a = flat.cut_mm[i], b = flat.cut_mm[(i + 1) % flat.cut_mm.size()];
            for (int k = 0; k < 8; ++k)
                for (const double out : {0.0, flat.thickness_mm}) {
                    const Vector3d q = fold(a + (b - a) * k / 8, out);
                    ++points;
                    if (q.z() < 1.2) continue; // in the sheet's own thickness: its edge is welded there
                    QVERIFY2(distance(mesh, q) < 0.1, qPrintable(QString::number(distance(mesh, q))));
                    ++on;
                }
        }
        QCOMPARE(points, 28 * 8 * 2);
        QVERIFY(on > 300);
        // Over all: bottom without its radii, a bend of ¼ turn at 5 + 0.4 · 1.2 and a wall of 30 − 5 on either side.
        const double bend = pi / 2 * (5 + 0.4 * 1.2);
        const Vector2d size = flat.bounds().sizes();
        QVERIFY(near(size.x(), 140 + 2 * (bend + 25), 1e-6) && near(size.y(), 80 + 2 * (bend + 25), 1e-6));
        // Corners are cut out half a thickness beyond where the bends begin.
        const Vector2d notch(70 - 0.6, 40 - 0.6);
        QCOMPARE(std::count_if(flat.cut_mm.begin(), flat.cut_mm.end(),
                               [&](const Vector2d& q) { return (q.cwiseAbs() - notch).norm() < 1e-9; }),
                 std::ptrdiff_t(4));
        QVERIFY(std::any_of(flat.notes.begin(), flat.notes.end(),
                            [](const std::string& n) { return n.find("folder with fingers") != std::string::npos; }));
    }

    /// Sheet that leans: the wall at its low side is higher, and the blank is cut for that.
    void trayInALeaningSheet() {
        model::SheetSpec sheet;
        sheet.along = model::Axis::Y;
        sheet.thickness_mm = 1.2;
        for (const double y : {0.0, 400.0}) sheet.stations.push_back({y, {{0, 0}, {600, 60}}});
        model::Pocket p = inPlate(model::PocketForm::Box);
        p.at_mm = {300, 200, 30};
        const auto m = made(sheet, p);
        QVERIFY2(near(m.plates.front().depth_mm, 30 + 76.2 * 0.1, 1.5),
                 qPrintable(QString::number(m.plates[0].depth_mm)));
        p.depth_mm = 6;
        p.corner_mm = 2;
        QVERIFY(refusal(sheet, p).find("mouth does not lie on the sheet") != std::string::npos);
    }

    void twoPocketsInOneBody() {
        model::Pocket first = pocket(), second = pocket();
        second.at_mm.y() = 160;
        second.into = {0, 0, 1}; // from below
        second.at_mm.z() = 400;
        const auto both = shape::pocketed(crossmember(), {first, second});
        QVERIFY(both.ok());
        const double before = shape::volume_mm3(shape::makeSolid(crossmember()).value());
        const double change = shape::volume_mm3(made(crossmember(), first).closed) - before;
        QVERIFY(near(shape::volume_mm3(both.value()), before + 2 * change, 2));
        second.at_mm.z() = 600;
        const auto broken = shape::pocketed(crossmember(), {first, second});
        QVERIFY(!broken.ok());
        QVERIFY(broken.error().where.find("pocket") != std::string::npos);
    }

    void foldingBack_data() {
        QTest::addColumn<double>("flank");
        QTest::addColumn<double>("corner");
        QTest::addColumn<int>("form");
        QTest::newRow("square box") << 0.0 << 6.0 << static_cast<int>(model::PocketForm::Box);
        QTest::newRow("leaning box") << 20.0 << 10.0 << static_cast<int>(model::PocketForm::Box);
        QTest::newRow("step") << 45.0 << 8.0 << static_cast<int>(model::PocketForm::Step);
    }
    /// Every point of the flat, folded by its own bend lines, lies on the plates' surface within a tenth.
    void foldingBack() {
        QFETCH(double, flank);
        QFETCH(double, corner);
        QFETCH(int, form);
        model::Pocket p = pocket(static_cast<model::PocketForm>(form));
        p.flank_deg = flank;
        p.corner_mm = corner;
        const auto m = made(crossmember(), p);
        const auto flats = relief::patternsOf(p, m, {}, store::defaultRuleBook());
        QVERIFY(flats.ok());
        const relief::FlatPattern& flat = flats.value().front();
        QCOMPARE(flat.bends.size(), std::size_t(2));
        const auto mesh = shape::makeMesh(m.closed, 0.02).value().mesh;
        const Eigen::Isometry3d begin = m.plates.front().stretches.front().pose_body;
        int points = 0;
        for (std::size_t i = 0; i < flat.cut_mm.size(); ++i) {
            const Vector2d a = flat.cut_mm[i], b = flat.cut_mm[(i + 1) % flat.cut_mm.size()];
            for (int k = 0; k < 8; ++k)
                for (const double out : {0.0, flat.thickness_mm}) {
                    const Vector3d q = folded(flat, begin, a + (b - a) * k / 8, out);
                    QVERIFY2(distance(mesh, q) < 0.1, qPrintable(QString::number(distance(mesh, q))));
                    ++points;
                }
        }
        QVERIFY(points > 60);
        // And nothing of the plates is missing: what the flat's zones come to is the solid's volume.
        double volume = flat.area_mm2() * flat.thickness_mm;
        for (const relief::BendLine& bend : flat.bends) { // a bend's middle is at half its thickness, not at k
            const double turn = bend.angle_deg / quantity::deg_per_rad;
            volume += (turn * (bend.inside_mm + flat.thickness_mm / 2) - bend.width_mm) *
                      (bend.to_mm - bend.from_mm).norm() * flat.thickness_mm;
        }
        for (std::size_t i = 1; i < flats.value().size(); ++i)
            volume += flats.value()[i].area_mm2() * flats.value()[i].thickness_mm;
        QVERIFY2(near(volume, m.plate_volume_mm3, 20), qPrintable(QString::number(volume - m.plate_volume_mm3)));
    }

    void allowanceByHand() {
        // 90°, inside radius 6, 4 mm thick, neutral line at 0.42: 1.5708 · 7.68.
        QVERIFY(near(relief::bendAllowance_mm(pi / 2, 6, 4, 0.42), 12.0637, 1e-3));
        model::Pocket p = pocket();
        p.corner_mm = 6;
        const auto flats = relief::patternsOf(p, made(crossmember(), p), {}, store::defaultRuleBook());
        const Vector2d size = flats.value().front().bounds().sizes();
        QVERIFY2(near(size.x(), 2 * (20 - 6) + (120 - 12) + 2 * 12.0637, 1e-3), qPrintable(QString::number(size.x())));
        QVERIFY(near(size.y(), 50, 1e-6));
    }

    void oneBendInAPiece() {
        model::RuleBook book = store::defaultRuleBook();
        for (model::Figure& figure : book.figures)
            if (figure.id == "bends_per_piece") figure.value = 1;
        model::Pocket p = pocket();
        p.corner_mm = 6;
        const auto m = made(crossmember(), p);
        const auto whole = relief::patternsOf(p, m, {}, store::defaultRuleBook()).value();
        const auto parted = relief::patternsOf(p, m, {}, book).value();
        QCOMPARE(parted.size(), whole.size() + 1);
        QCOMPARE(parted[0].bends.size(), std::size_t(1));
        QVERIFY(near(parted[0].area_mm2() + parted[1].area_mm2(), whole[0].area_mm2(), 1e-6));
    }

    void drainHoleComesAgain() {
        model::KeptHole drain;
        drain.id = drain.name = "drain";
        drain.body.text = "crossmember";
        drain.at_mm = {60, -55, 480};
        drain.diameter_mm = 12;
        model::Pocket p = pocket();
        p.corner_mm = 6;
        const auto m = made(crossmember(), p);
        const auto flats = relief::patternsOf(p, m, {drain}, store::defaultRuleBook()).value();
        QCOMPARE(flats[0].holes.size(), std::size_t(1));
        // Below where it was, folded back: the same x and y.
        const Vector3d at = folded(flats[0], m.plates.front().stretches.front().pose_body, flats[0].holes[0].at_mm, 0);
        QVERIFY((at - Vector3d(60, -55, 460)).norm() < 1e-6);
        drain.at_mm.y() = 200; // not cut away: not in the plates
        QVERIFY(relief::patternsOf(p, m, {drain}, store::defaultRuleBook()).value()[0].holes.empty());
    }

    // The line to cut in a sheet runs beside its plates by the weld's gap everywhere, square to each edge.
    void theCutLineOfASheetIsAsWideAsItSays() {
        const double gap = store::defaultRuleBook().figure("weld_gap_mm");
        for (const auto form : {model::PocketForm::Recess, model::PocketForm::Box}) {
            const model::Pocket p = inPlate(form);
            const shape::PocketMade m = made(plate(), p);
            const auto line = relief::cutLineOf(p, m, plate(), store::defaultRuleBook());
            Eigen::AlignedBox2d was, is;
            for (const Vector2d& q : m.cut_outline_mm) was.extend(q);
            for (const Vector2d& q : line.cut_mm) is.extend(q);
            QVERIFY(near(is.sizes().x(), was.sizes().x() + 2 * gap, 1e-9));
            QVERIFY(near(is.sizes().y(), was.sizes().y() + 2 * gap, 1e-9));
            for (const Vector2d& q : m.cut_outline_mm) {
                double least = 1e9;
                for (std::size_t i = 0; i < line.cut_mm.size(); ++i) {
                    const Vector2d &a = line.cut_mm[i], &b = line.cut_mm[(i + 1) % line.cut_mm.size()];
                    const double at = std::clamp((q - a).dot(b - a) / (b - a).squaredNorm(), 0.0, 1.0);
                    least = std::min(least, (q - a - (b - a) * at).norm());
                }
                QVERIFY2(near(least, gap, 1e-6), qPrintable(QString::number(least)));
            }
        }
    }

    void recessIsCutOversize() {
        model::Pocket p = inPlate(model::PocketForm::Recess);
        p.material = "deep-drawing";
        const auto flats = relief::patternsOf(p, made(plate(), p), {}, store::defaultRuleBook()).value();
        const Vector2d size = flats[0].bounds().sizes();
        QVERIFY(near(size.x(), 150 + 2 * 30 * 1.03, 0.1) && near(size.y(), 90 + 2 * 30 * 1.03, 0.1));
        p.material = "gold";
        const auto none = relief::patternsOf(p, made(plate(), p), {}, store::defaultRuleBook());
        QVERIFY(!none.ok());
    }
};

GABARIT_SUITE(PocketTest)
#include "pocket_test.moc"
