// Brackets: where their ends lie, what they weigh and bear by hand, what they are made as.
#include "mounts/apply.h"
#include "mounts/section/mounts.h"
#include "parts/parts.h"
#include "support/files.h"
#include "support/mounted_unit.h"
#include "support/suite.h"

#include <QtTest>

#include <cmath>

using namespace gabarit;
using namespace gabarit::mounts;
using Eigen::Vector3d;
using model::Verdict;
using tests::check;
using tests::has;
using tests::judged;
using tests::withBrackets;

namespace {

const model::RuleBook& book() { return store::defaultRuleBook(); }

const BracketReport& bracket(const MountsReport& r, Which which) {
    for (const BracketReport& b : r.brackets)
        if (b.which == which) return b;
    static const BracketReport none;
    qWarning("no such bracket");
    return none;
}

} // namespace

class BracketTest : public QObject {
    Q_OBJECT
private slots:
    void itReachesFromFaceToRubber() {
        const model::Project p = withBrackets();
        const auto ends = bracketEnds(p, book(), p.sections.get<model::Mounts>()->mounts[0], Which::Bracket);
        QVERIFY(ends);
        QCOMPARE(ends.value().owner, std::string("unit"));
        // The rubber is at z 500, 40 high; the unit hangs at 500, 0, 600.
        QVERIFY((ends.value().seat_mm - Vector3d(-250, -200, -80)).norm() < 1e-9);
        QVERIFY((ends.value().seat_out - Vector3d::UnitZ()).norm() < 1e-9);
        const auto made = makeBracket(ends.value(), *p.sections.get<model::Mounts>()->mounts[0].bracket, book());
        QVERIFY(made);
        // Face plate 8, seat plate 8: 300 − 8 − 8 between.
        QCOMPARE(made.value().pieces.size(), std::size_t(3));
        QVERIFY(std::abs(made.value().pieces[1].cut_mm - 284) < 1e-9);
        const double kg = M_PI / 4 * (50 * 50 - 42 * 42) * 284 * 7850e-9;
        QVERIFY(std::abs(made.value().pieces[1].mass_kg - kg) < 1e-9);
        // A face without holes gets the book's square, the seat the rubber and a little round it.
        QVERIFY(std::abs(made.value().pieces[0].mass_kg - 90 * 90 * 8 * 7850e-9) < 1e-9);
        QVERIFY(std::abs(made.value().pieces[2].mass_kg - 70 * 70 * 8 * 7850e-9) < 1e-9);
    }
    void aWallThatFillsTheBooksTubeIsRefused() {
        model::Project p = withBrackets();
        p.sections.edit<model::Mounts>().mounts[0].bracket->tube_mm.reset(); // the book's 42.4
        p.sections.edit<model::Mounts>().mounts[0].bracket->wall_mm = 22;
        const auto made =
            makeBracket(bracketEnds(p, book(), p.sections.edit<model::Mounts>().mounts[0], Which::Bracket).value(),
                        *p.sections.edit<model::Mounts>().mounts[0].bracket, book());
        QVERIFY(!made && made.error().what.find("wall") != std::string::npos);
    }
    void stressesByHand() {
        // A tube of 50 × 4, 284 long, and a force across it at its end: M = F·(284 + 8), W = π/32·(50⁴ − 42⁴)/50.
        const model::Project p = withBrackets();
        const auto made =
            makeBracket(bracketEnds(p, book(), p.sections.get<model::Mounts>()->mounts[0], Which::Bracket).value(),
                        *p.sections.get<model::Mounts>()->mounts[0].bracket, book());
        const double area = M_PI / 4 * (50 * 50 - 42 * 42),
                     w = M_PI / 32 * (std::pow(50.0, 4) - std::pow(42.0, 4)) / 50;
        const BracketStress across = stressOf(made.value(), {1000, 0, 0});
        QVERIFY(std::abs(across.bending_mpa - 1000.0 * 292 / w) < 1e-6);
        QVERIFY(across.axial_mpa < 1e-9);
        QVERIFY(std::abs(across.shear_mpa - 2 * 1000.0 / area) < 1e-9);
        QVERIFY(std::abs(across.together_mpa - std::hypot(across.bending_mpa, std::sqrt(3.0) * across.shear_mpa)) <
                1e-9);
        const BracketStress along = stressOf(made.value(), {0, 0, 1000});
        QVERIFY(std::abs(along.axial_mpa - 1000 / area) < 1e-9 && along.bending_mpa < 1e-6);
        // The weld's throat of 3 on a wall of 4: as the section, 4/3 times.
        QVERIFY(std::abs(along.weld_mpa - 1000 / area * 4 / 3) < 1e-9);
        // Twice the force, twice the stress; the other way round the same.
        QVERIFY(std::abs(stressOf(made.value(), {-2000, 0, 0}).together_mpa - 2 * across.together_mpa) < 1e-9);
    }
    void aGussetShortensTheArm() {
        model::Project p = withBrackets();
        p.sections.edit<model::Mounts>().mounts[0].bracket->gusset_mm = 30;
        const auto made =
            makeBracket(bracketEnds(p, book(), p.sections.edit<model::Mounts>().mounts[0], Which::Bracket).value(),
                        *p.sections.edit<model::Mounts>().mounts[0].bracket, book());
        const double w = M_PI / 32 * (std::pow(50.0, 4) - std::pow(42.0, 4)) / 50;
        QVERIFY(std::abs(stressOf(made.value(), {1000, 0, 0}).bending_mpa - 1000.0 * 262 / w) < 1e-6);
        // Two right-angled triangles beside an upright arm, each of legs of 30 and as thick as the plates.
        QCOMPARE(made.value().pieces.size(), std::size_t(5));
        for (const std::size_t i : {3, 4}) {
            const Piece& gusset = made.value().pieces[i];
            QCOMPARE(gusset.name, std::string("gusset"));
            QVERIFY(std::abs(gusset.mass_kg - 30 * 30 / 2.0 * 8 * 7850e-9) < 1e-9);
            // Its corners stand on the face plate (8 below the pad) and against the tube's skin, 25 from its middle.
            for (const auto& corner : std::get<model::PlateSpec>(gusset.shape).outline_mm) {
                const Vector3d at = gusset.pose_owner * Vector3d(corner.x(), corner.y(), 4) - made.value().path_mm[0];
                const double aside = at.head<2>().norm();
                QVERIFY(std::abs(aside - 25) < 1e-9 || (std::abs(aside - 55) < 1e-9 && std::abs(at.z()) < 1e-9));
                QVERIFY(at.z() < 1e-9 && at.z() > -30 - 1e-9); // the pad faces down
            }
        }
    }
    void aChannelBendsItsWeakerWay() {
        model::Project p = withBrackets();
        model::Bracket& b = *p.sections.edit<model::Mounts>().mounts[0].bracket;
        b.form = model::BracketForm::Folded;
        b.tube_mm = 60;
        b.wall_mm = 5;
        const auto made = makeBracket(
            bracketEnds(p, book(), p.sections.edit<model::Mounts>().mounts[0], Which::Bracket).value(), b, book());
        // 60 high, flanges 30, wall 5: web 60 × 5 and two of 25 × 5 beside it.
        const double area = 60 * 5 + 2 * 25 * 5;
        QCOMPARE(made.value().section.area_mm2, area);
        const double middle = (60.0 * 5 * 2.5 + 2 * 25.0 * 5 * 17.5) / area;
        const double i = 60 * 125.0 / 12 + 60 * 5 * std::pow(middle - 2.5, 2) +
                         2 * (5 * std::pow(25.0, 3) / 12 + 125 * std::pow(17.5 - middle, 2));
        QVERIFY(std::abs(made.value().section.bending_mm3 - i / (30 - middle)) < 1e-9);
    }
    void itsFactorIsYieldOverTheWorstLoad() {
        const model::Project p = withBrackets();
        const MountsReport r = judged(p);
        const BracketReport& b = bracket(r, Which::Bracket);
        QVERIFY(b.factor);
        double most = 0;
        for (const LoadCase& c : r.cases)
            if (c.kind != CaseKind::Driving && !c.on_unit_n.empty())
                most = std::max(most, stressOf(*b.made, c.on_unit_n[0]).together_mpa);
        QVERIFY(std::abs(*b.factor - 235 / most) < 1e-9);
        QCOMPARE(check(r, "left/bracket/strength").verdict, *b.factor >= 2     ? Verdict::Go
                                                            : *b.factor >= 1.5 ? Verdict::Close
                                                                               : Verdict::NoGo);
        // The same unit and place, only elsewhere and turned: the same factor.
        model::Project moved = p;
        moved.placements[0].position_mm += Vector3d(0, 0, 40);
        moved.sections.edit<model::Mounts>().mounts[0].centre_mm =
            *moved.sections.edit<model::Mounts>().mounts[0].centre_mm + Vector3d(0, 0, 40);
        for (std::size_t i : {1, 2})
            moved.sections.edit<model::Mounts>().mounts[i].centre_mm =
                *moved.sections.edit<model::Mounts>().mounts[i].centre_mm + Vector3d(0, 0, 40);
        QVERIFY(std::abs(*bracket(judged(moved), Which::Bracket).factor - *b.factor) < 1e-9);
    }
    void madeItIsBodiesAndAPart() {
        const model::Project p = withBrackets();
        const auto made =
            withBracket(p, book(), "left", Which::Bracket, *p.sections.get<model::Mounts>()->mounts[0].bracket);
        QVERIFY(made);
        const model::Project& out = made.value();
        QCOMPARE(out.donors[0].bodies.size(), std::size_t(3));
        QCOMPARE(tests::wrong(out), QString());
        const auto r = judged(out);
        QVERIFY(*bracket(r, Which::Bracket).off_mm < 1e-9);
        QCOMPARE(out.sections.get<model::Parts>()->size(), std::size_t(1));
        const model::Part& part = out.sections.get<model::Parts>()->front();
        QVERIFY(std::abs(*part.mass_kg - bracket(r, Which::Bracket).made->mass_kg) < 1e-12);
        QCOMPARE(part.on_car, model::OnCar::On);
        // Its mass is not the unit's: the unit hangs as it did.
        QCOMPARE(r.unit.body.mass_kg, judged(p).unit.body.mass_kg);
        QCOMPARE(out.joined.size(), std::size_t(3)); // each piece with the two others
        // Made again: not twice. Taken away: as before.
        const auto again =
            withBracket(out, book(), "left", Which::Bracket, *out.sections.get<model::Mounts>()->mounts[0].bracket);
        QCOMPARE(again.value().donors[0].bodies.size(), std::size_t(3));
        QCOMPARE(again.value().sections.get<model::Parts>()->size(), std::size_t(1));
        const auto without = withoutBracket(out, "left", Which::Bracket);
        QVERIFY(without.value().donors[0].bodies.empty() && without.value().sections.get<model::Parts>()->empty());
        QVERIFY(without.value().joined.empty() && !without.value().sections.get<model::Mounts>()->mounts[0].bracket);
        QVERIFY(!withBracket(p, book(), "nobody", Which::Bracket, {}));
        QVERIFY(!withBracket(p, book(), "right", Which::Tower, {})); // it has no stand
    }
    void aUnitThatMovedLeavesItBeside() {
        const model::Project p = withBrackets();
        model::Project out =
            withBracket(p, book(), "left", Which::Bracket, *p.sections.get<model::Mounts>()->mounts[0].bracket).value();
        out.placements[0].position_mm.x() += 4; // the rubber stays on the frame
        const auto r = judged(out);
        QVERIFY(std::abs(*bracket(r, Which::Bracket).off_mm - 4) < 1e-9);
        QCOMPARE(check(r, "left/bracket/off").verdict, Verdict::NoGo);
        out.sections.edit<model::Mounts>().mounts[0].bracket->slot_mm = 6; // that is what slots are for
        QCOMPARE(check(judged(out), "left/bracket/off").verdict, Verdict::Close);
        const auto again = judged(withBracketsAgain(out, book()));
        QVERIFY(*bracket(again, Which::Bracket).off_mm < 1e-9);
        QCOMPARE(check(again, "left/bracket/off").verdict, Verdict::Go);
    }
    void aFlatPlateNeedsItsFacesInOnePlane() {
        model::Project p = withBrackets();
        model::Mount& left = p.sections.edit<model::Mounts>().mounts[0];
        left.bracket->form = model::BracketForm::Flat;
        const auto far = makeBracket(bracketEnds(p, book(), left, Which::Bracket).value(), *left.bracket, book());
        QVERIFY(!far && far.error().what.find("does not reach") != std::string::npos);
        // Beside the pad, the rubber on the plate's other side.
        left.pad.at_mm = Vector3d(150, -200, 528) - Vector3d(500, 0, 600);
        const auto flat = makeBracket(bracketEnds(p, book(), left, Which::Bracket).value(), *left.bracket, book());
        QVERIFY(flat);
        QCOMPARE(flat.value().pieces.size(), std::size_t(1));
        QVERIFY(!flat.value().welded);
        // 1000 N up at its end, 100 out: M/W with W = 90·8²/6… the narrower of plate and seat.
        const BracketStress s = stressOf(flat.value(), {0, 0, 1000});
        const double b = std::get<model::PlateSpec>(flat.value().pieces[0].shape).outline_mm[2].y() -
                         std::get<model::PlateSpec>(flat.value().pieces[0].shape).outline_mm[0].y();
        QVERIFY(std::abs(s.bending_mpa - 1000.0 * 100 / (b * 64 / 6)) < 0.01 * s.bending_mpa);
        left.pad.out = {0, -1, 0};
        QVERIFY(!makeBracket(bracketEnds(p, book(), left, Which::Bracket).value(), *left.bracket, book()));
    }
};

GABARIT_LOOP_SUITE(BracketTest)
#include "bracket_test.moc"
