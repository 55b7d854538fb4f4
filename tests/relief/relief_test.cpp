// What is left of a section, by hand; what is refused; plates that take a pattern over.
#include "driveline/section/driveline.h"
#include "mounts/section/mounts.h"
#include "parts/parts.h"
#include "quantity/quantity.h"
#include "relief/apply.h"
#include "relief/section/relief.h"
#include "store/rule_book.h"
#include "support/suite.h"

#include <QtTest>

#include <cmath>

using namespace gabarit;
using Eigen::Vector2d;
using Eigen::Vector3d;

namespace {

/// A crossmember of 100 × 80 × 5 along y, top at z = 480, and a step 20 deep in its middle.
model::Project stepped() {
    model::Project p;
    p.name = "P";
    p.vehicle.emplace();
    model::Body body;
    body.id.text = "crossmember";
    body.name = "Crossmember";
    body.category = "crossmember";
    body.may.be_cut = true;
    body.shape =
        model::ProfileSpec{model::RectTubeSection{100, 80, 5}, Vector3d(70, -337, 440), Vector3d(70, 337, 440), 0};
    p.vehicle->bodies = {body};
    model::Pocket pocket;
    pocket.id = "step";
    pocket.name = "Step";
    pocket.body.text = "crossmember";
    pocket.form = model::PocketForm::Step;
    pocket.at_mm = {70, 0, 480};
    pocket.along = {0, 1, 0};
    pocket.length_mm = 120;
    pocket.width_mm = 100;
    pocket.depth_mm = 20;
    pocket.plate_mm = 5;
    p.sections.edit<model::Relief>();
    p.sections.edit<model::Relief>().pockets = {pocket};
    return p;
}

const model::RuleBook& book() { return store::defaultRuleBook(); }

relief::PocketReport report(const model::Project& p) {
    return relief::judgePocket(p, book(), p.sections.get<model::Relief>()->pockets.front());
}

const model::Check* check(const relief::ReliefReport& r, const std::string& id) {
    for (const model::Check& c : r.checks)
        if (c.id == id) return &c;
    return nullptr;
}

bool near(double a, double b, double share) { return std::abs(a - b) <= share * std::abs(b); }

} // namespace

class ReliefTest : public QObject {
    Q_OBJECT
private slots:
    /// Plates that lie on the walls along leaning faces close the cell: grains between them are no slit.
    void leaningPlatesClose() {
        model::Project p = stepped();
        p.vehicle->bodies.front().shape =
            model::ProfileSpec{model::RectTubeSection{100, 110, 4}, Vector3d(70, -337, 425), Vector3d(70, 337, 425), 0};
        model::Pocket& pocket = p.sections.edit<model::Relief>().pockets.front();
        pocket.at_mm.y() = -71.275384232;
        pocket.length_mm = 293;
        pocket.depth_mm = 43;
        pocket.flank_deg = 45;
        pocket.corner_mm = 10;
        pocket.plate_mm = 10;
        const auto r = report(p);
        QVERIFY2(r.reason.empty(), r.reason.c_str());
        QVERIFY(r.cell_before && !r.cell_cut && r.cell_closed);
        // Twisting least in its middle: 4·A²/∮ds/t of a cell 96 × 60 (mean lines), walls 4, 4, 4 and 10, against 96 ×
        // 106 of 4.
        const double before = 4 * std::pow(96.0 * 106, 2) / (2 * (96.0 + 106) / 4);
        const double after = 4 * std::pow(96.0 * 60, 2) / ((96.0 + 2 * 60) / 4 + 96.0 / 10);
        QVERIFY2(std::abs(r.torsion.share - after / before) < 0.005, qPrintable(QString::number(r.torsion.share)));
        for (const auto& s : r.stations) QVERIFY(s.closed.closed && s.closed.pieces == 1);
    }
    /// A round rail, 76 × 4, by its formulas; where nothing is cut the section is what it was.
    void roundRailsByTheirFormulas() {
        model::Project p = stepped();
        p.vehicle->bodies.front().shape =
            model::ProfileSpec{model::RoundTubeSection{76, 4}, Vector3d(70, -337, 442), Vector3d(70, 337, 442), 0};
        model::Pocket& pocket = p.sections.edit<model::Relief>().pockets.front();
        pocket.form = model::PocketForm::HalfRound;
        pocket.length_mm = 60;
        pocket.width_mm = 90;
        pocket.depth_mm = 12;
        pocket.plate_mm = 4;
        const auto r = report(p);
        QVERIFY2(r.reason.empty(), r.reason.c_str());
        const double outer = 76, inner = 68, second = M_PI / 64 * (std::pow(outer, 4) - std::pow(inner, 4));
        QVERIFY(!r.stations.empty());
        int same = 0;
        for (const auto& s : r.stations) {
            const double area = M_PI / 4 * (outer * outer - inner * inner);
            QVERIFY2(near(s.before.area_mm2, area, 1e-4),
                     qPrintable(QString::number(s.before.area_mm2 / area, 'g', 9)));
            QVERIFY(near(s.before.upright_mm4, second, 1e-4));
            QVERIFY(near(s.before.sideways_mm4, second, 1e-4));
            for (const double modulus : {s.before.top_mm3, s.before.bottom_mm3, s.before.left_mm3, s.before.right_mm3})
                QVERIFY(near(modulus, second / 38, 1e-4));
            if (std::abs(s.along_mm) < 60 / 2 + 6) continue; // the mouth, and its plates
            ++same;
            QCOMPARE(s.cut.upright_mm4, s.before.upright_mm4);
            QCOMPARE(s.closed.top_mm3 / s.before.top_mm3, 1.0);
        }
        QVERIFY(same > 1);
        // In the middle of the cut the tube's wall is 12 deep: the outline's lowest point is there.
        double deepest = 0;
        for (const Vector2d& q : r.made->cut_outline_mm) deepest = std::max(deepest, q.y());
        QVERIFY2(std::abs(deepest - (12 + 4)) < 1e-6, qPrintable(QString::number(deepest)));
    }
    void sharpCornersAndStrapsThatDoNotReach() {
        model::Project p = stepped();
        model::HardPoint far;
        far.role = "arm_pivot";
        far.name = "Arm";
        far.at_mm = {70, 337, 300};
        const auto judged = [&p] { return *relief::judgeRelief(p, book()); };
        const auto verdict = [&](const char* id) {
            const auto r = judged();
            const model::Check* c = check(r, id);
            return c ? c->verdict : model::Verdict::NoGo;
        };
        // No suspension point is surveyed: not known, not absent.
        QCOMPARE(verdict("step/to/the nearest pick-up of the suspension"), model::Verdict::Unknown);
        p.vehicle->hard_points = {far};
        QVERIFY(!check(judged(), "step/to/the nearest pick-up of the suspension"));
        QCOMPARE(verdict("step/to/Arm"), model::Verdict::Go);
        QCOMPARE(verdict("step/corner"), model::Verdict::Close); // sharp ones crack
        p.sections.edit<model::Relief>().pockets[0].corner_mm = 10;
        p.sections.edit<model::Relief>().pockets[0].flank_deg = 45;
        QCOMPARE(verdict("step/corner"), model::Verdict::Go);
        p.sections.edit<model::Relief>().pockets[0].doubler_mm = 5;
        p.sections.edit<model::Relief>().pockets[0].doubler_over_mm = 10;
        QCOMPARE(verdict("step/strap"), model::Verdict::Close);
        p.sections.edit<model::Relief>().pockets[0].doubler_over_mm = 40;
        QCOMPARE(verdict("step/strap"), model::Verdict::Go);
        p.sections.edit<model::Relief>().pockets[0].doubler_over_mm = 250;
        QCOMPARE(verdict("step/strap"), model::Verdict::Close);
        p.sections.edit<model::Relief>().pockets[0].doubler_over_mm = 1000; // beyond the crossmember's ends
        QCOMPARE(verdict("step/made"), model::Verdict::NoGo);
    }
    /// How far a pick-up is from a pocket in a sheet, closed or left open, round or square: from its mouth's edge.
    void distanceFromAMouthInASheet() {
        for (const model::PocketForm form : {model::PocketForm::Recess, model::PocketForm::Box})
            for (const bool open : {false, true}) {
                model::Project p = stepped();
                p.vehicle->bodies.front().shape = model::PlateSpec{{{0, -400}, {600, -400}, {600, 400}, {0, 400}}, 1.2};
                model::Pocket& pocket = p.sections.edit<model::Relief>().pockets.front();
                pocket.form = form;
                pocket.at_mm = {300, 0, 0};
                pocket.into = {0, 0, 1};
                pocket.length_mm = 120, pocket.width_mm = 80, pocket.depth_mm = 30, pocket.corner_mm = 5;
                pocket.plate_mm = 1.5;
                pocket.open = open;
                model::HardPoint arm;
                arm.id.text = arm.name = "arm";
                arm.role = "arm_pivot";
                arm.at_mm = {300, 200, 10};
                p.vehicle->hard_points = {arm};
                const auto r = report(p);
                QVERIFY2(r.reason.empty(), r.reason.c_str());
                QCOMPARE(r.distances.size(), std::size_t(1));
                const double edge = 120.0 / 2 + (open ? 0 : 1.5); // its length lies along y
                QVERIFY2(std::abs(*r.distances[0].mm - (200 - edge)) < 1e-6,
                         qPrintable(QString::number(*r.distances[0].mm)));
            }
    }
    void platesAreAPartOfTheFormThatIsCut() {
        model::Project p = stepped();
        p.sections.edit<model::Parts>();
        const model::Pocket pocket = p.sections.edit<model::Relief>().pockets.front();
        QCOMPARE(relief::withPocket(p, book(), pocket).sections.get<model::Parts>()->back().option, std::string());
        p.vehicle->choices = {{"c", "Crossmember", {{"old", "old", "", {}}, {"new", "new", "", {}}}, {}}};
        p.vehicle->bodies.front().option = "c/new";
        QCOMPARE(relief::withPocket(p, book(), pocket).sections.get<model::Parts>()->back().option, std::string("vehicle/c/new"));
    }
    void ofAFormThatIsNotTaken() {
        model::Project p = stepped();
        p.vehicle->choices = {{"c", "Crossmember", {{"old", "old", "", {}}, {"new", "new", "", {}}}, {}}};
        p.sections.edit<model::Relief>().pockets.front().depth_mm = 60; // far too deep
        QVERIFY(relief::judgeRelief(p, book())->verdict == model::Verdict::NoGo);
        p.vehicle->bodies.front().option = "c/new";
        const auto r = relief::judgeRelief(p, book());
        QVERIFY(r->verdict == model::Verdict::Go && r->checks.empty());
        QCOMPARE(r->pockets.size(), std::size_t(1)); // it is told of all the same
    }
    void sectionByHand() {
        const auto r = report(stepped());
        QVERIFY2(r.reason.empty(), r.reason.c_str());
        const relief::Station* middle = nullptr;
        for (const auto& s : r.stations)
            if (!middle || std::abs(s.along_mm) < std::abs(middle->along_mm)) middle = &s;
        // Before a tube of 100 × 80 × 5, closed a tube of 100 × 60 × 5, open in between.
        const double before = (100.0 * 80 * 80 * 80 - 90.0 * 70 * 70 * 70) / 12;
        const double after = (100.0 * 60 * 60 * 60 - 90.0 * 50 * 50 * 50) / 12;
        QVERIFY(near(middle->before.upright_mm4, before, 1e-4));
        QVERIFY(near(middle->closed.upright_mm4, after, 1e-4));
        QVERIFY(near(middle->before.area_mm2, 1700, 1e-4) && near(middle->closed.area_mm2, 1500, 1e-4));
        QVERIFY(near(middle->closed.top_mm3, after / 30, 1e-4));
        QVERIFY(near(middle->closed.centre_mm.y(), 430, 1e-5) && near(middle->before.centre_mm.y(), 440, 1e-5));
        QVERIFY(middle->before.closed && !middle->cut.closed && middle->closed.closed);
        // Cut and not closed: a channel 5 + 50 high standing on its web, webs 5 less for the plate.
        const double a1 = 500, a2 = 2 * 5 * 50, y = (a1 * 2.5 + a2 * 30) / (a1 + a2);
        const double channel =
            100 * 125 / 12.0 + a1 * (y - 2.5) * (y - 2.5) + 2 * 5 * 125000 / 12.0 + a2 * (30 - y) * (30 - y);
        QVERIFY(near(middle->cut.upright_mm4, channel, 1e-3));
        QVERIFY(near(r.strength.share, (after / 30) / (before / 40), 1e-3));
        QVERIFY(near(r.depth_share, 0.25, 1e-9));
        // Bredt for both tubes.
        const double twist = (std::pow(95.0 * 55, 2) / (2 * (95 + 55))) / (std::pow(95.0 * 75, 2) / (2 * (95 + 75)));
        QVERIFY2(near(r.torsion.share, twist, 0.02), qPrintable(QString::number(r.torsion.share)));
        QVERIFY(r.cell_before && !r.cell_cut && r.cell_closed);
    }

    void massesByHand() {
        const auto r = report(stepped());
        // Out: the flange over 130, two webs 20 deep over it less the rounding of sharp bends' outside.
        const double out = (130 * 100 * 5 + 2 * 5 * (130 * 20 - 2 * 25 * (1 - EIGEN_PI / 4))) * 7850e-9;
        const double in = 100 * 5 * (120 + 2 * 20 + EIGEN_PI / 4 * 5 * 2) * 7850e-9;
        QVERIFY(near(r.cut_kg, out, 1e-3));
        QVERIFY(near(r.plates_kg, in, 1e-3));
        // Seam: along both sides of the cut, 25 + 130 + 25 or a little less round the corners; 0.3 mm for each 100.
        QVERIFY(near(r.shrink_mm, 0.3 * 1.8, 0.03));
    }

    void restoringIsTrue() {
        model::Project p = stepped();
        p.sections.edit<model::Relief>().pockets[0].depth_mm = 8;
        const auto r = report(p);
        QVERIFY(r.strength.share < 1);
        QVERIFY2(r.restoring.has_value(), "a step of 8 mm comes back");
        model::Pocket& pocket = p.sections.edit<model::Relief>().pockets[0];
        pocket.plate_mm = r.restoring->plate_mm;
        pocket.doubler_mm = r.restoring->strap_mm;
        pocket.doubler_over_mm = book().figure("strap_over_mm");
        QVERIFY(report(p).strength.share >= 1 - 1e-6);
        QVERIFY(r.restoring->strap_mm > 0); // the lower flange lies nearer to the middle now: it needs help as well
        // A step through nearly all of it does not come back.
        p.sections.edit<model::Relief>().pockets[0].depth_mm = 60;
        p.sections.edit<model::Relief>().pockets[0].doubler_mm = 0;
        QVERIFY(!report(p).restoring);
    }

    void checksAndVerdict() {
        const model::Project p = stepped();
        const auto r = relief::judgeRelief(p, book());
        QVERIFY(r.has_value());
        QVERIFY(r->verdict == model::Verdict::NoGo);
        QVERIFY(check(*r, "step/strength")->verdict == model::Verdict::NoGo);
        QVERIFY(check(*r, "step/depth")->verdict == model::Verdict::Go);
        QVERIFY(check(*r, "step/strength")->reason.find("restore") != std::string::npos);
        model::Project aside = p;
        aside.sections.edit<model::Relief>().pockets[0].set_aside = true;
        QVERIFY(relief::judgeRelief(aside, book())->verdict == model::Verdict::Go); // kept, not judged
        QVERIFY(!relief::judgeRelief(model::Project(), book()));
    }

    void openDeeperThanHalf() {
        model::Project p = stepped();
        p.sections.edit<model::Relief>().pockets[0].open = true;
        p.sections.edit<model::Relief>().pockets[0].depth_mm = 45;
        const auto r = relief::judgeRelief(p, book());
        const model::Check* depth = check(*r, "step/depth");
        QVERIFY(depth->verdict == model::Verdict::NoGo); // 45 of 80 and nothing closes it
        QVERIFY(check(*r, "step/torsion")->verdict == model::Verdict::NoGo);
        QVERIFY(check(*r, "step/torsion")->reason.find("open") != std::string::npos);
    }

    void staysAwayFromSuspension() {
        model::Project p = stepped();
        model::HardPoint pivot;
        pivot.id.text = "pivot";
        pivot.name = "Arm pivot";
        pivot.role = "arm_pivot";
        pivot.at_mm = {70, 155, 480}; // the cut ends at 65
        p.vehicle->hard_points = {pivot};
        const auto r = relief::judgeRelief(p, book());
        const model::Check* apart = check(*r, "step/to/Arm pivot");
        QVERIFY(apart && near(*apart->value, 90, 1e-6));
        QVERIFY(apart->verdict == model::Verdict::NoGo); // wanted 100
    }

    void holesAreMinded() {
        model::Project p = stepped();
        model::KeptHole drain;
        drain.id = drain.name = "drain";
        drain.body.text = "crossmember";
        drain.at_mm = {70, 75, 480}; // its edge 5 mm from the cut, 12 wide: 18 wanted
        drain.diameter_mm = 10;
        p.sections.edit<model::Relief>().holes = {drain};
        const auto r = relief::judgeRelief(p, book());
        QVERIFY(near(*check(*r, "step/to/drain")->value, 5, 1e-6));
        QVERIFY(check(*r, "step/to/drain")->verdict == model::Verdict::Close);
        p.sections.edit<model::Relief>().holes[0].at_mm.y() = 10; // within: it comes again in the bottom plate
        QVERIFY(!check(*relief::judgeRelief(p, book()), "step/to/drain"));
        p.sections.edit<model::Relief>().holes[0].at_mm.y() = 62; // in the end plate's edge: nowhere
        const auto lost = relief::judgeRelief(p, book());
        QVERIFY(check(*lost, "step/to/drain") && check(*lost, "step/to/drain")->verdict == model::Verdict::NoGo);
    }

    void refusalsAreWords() {
        model::Project p = stepped();
        p.vehicle->bodies[0].may.never = true;
        QVERIFY(report(p).reason.find("never") != std::string::npos);
        p = stepped();
        p.sections.edit<model::Relief>().pockets[0].body.text = "gone";
        QVERIFY(report(p).reason.find("gone") != std::string::npos);
        p = stepped();
        p.sections.edit<model::Relief>().pockets[0].depth_mm = 90;
        const auto r = relief::judgeRelief(p, book());
        QVERIFY(check(*r, "step/made")->verdict == model::Verdict::NoGo);
        QVERIFY(check(*r, "step/made")->reason.find("in two") != std::string::npos);
        p = stepped();
        p.sections.edit<model::Relief>().pockets[0].material = "gold";
        QVERIFY(report(p).reason.find("gold") != std::string::npos);
    }

    void sameWhereverTheBodyStands() {
        // Moved and turned about the vertical with its pocket: nothing about the section changes.
        model::Project p = stepped();
        const auto here = report(p);
        p.vehicle->bodies[0].position_mm = {900, -40, 77};
        p.vehicle->bodies[0].angles.yaw_deg = 90;
        const auto there = report(p);
        QVERIFY(near(there.strength.share, here.strength.share, 1e-4));
        QVERIFY(near(there.torsion.share, here.torsion.share, 1e-4));
        QVERIFY(near(there.plates_kg, here.plates_kg, 1e-9));
    }

    void memoTellsChanges() {
        relief::ReliefMemo memo;
        model::Project p = stepped();
        const auto first = relief::judgeRelief(p, book(), {}, &memo);
        p.sections.edit<model::Relief>().pockets[0].depth_mm = 30;
        const auto second = relief::judgeRelief(p, book(), {}, &memo);
        QVERIFY(second->pockets[0].strength.share < first->pockets[0].strength.share);
        p.sections.edit<model::Relief>().pockets[0].depth_mm = 20;
        QCOMPARE(relief::judgeRelief(p, book(), {}, &memo)->pockets[0].strength.share,
                 first->pockets[0].strength.share);
    }

    void signedInOrderAndReopened() {
        model::Project p = stepped();
        const auto state = [](const model::Project& q, model::Hold hold) {
            const auto r = relief::judgeRelief(q, book());
            for (const auto& h : r->pockets[0].holds)
                if (h.hold == hold) return h;
            return model::HoldState();
        };
        QVERIFY(!relief::withSigned(p, "step", model::Hold::Welded, "2026-05-02", "R. Oake", "").ok());
        for (const model::Hold hold : {model::Hold::Tacked, model::Hold::TestFitted, model::Hold::Welded})
            p = relief::withSigned(p, "step", hold, "2026-05-02", "R. Oake", "").value();
        QVERIFY(state(p, model::Hold::Welded).holds);
        QVERIFY(relief::judgeRelief(p, book())->pockets[0].weld_pull_mm > 0);
        QVERIFY(!relief::withSigned(p, "step", model::Hold::FittedAgain, "2026-05-03", "R. Oake", "").ok());
        model::MeasuredGap gap;
        gap.a = {"unit", {"sump"}};
        gap.b = {"vehicle", {"crossmember"}};
        gap.gap_mm = 12;
        gap.date = "2026-05-03";
        p.measured = {gap};
        p = relief::withSigned(p, "step", model::Hold::FittedAgain, "2026-05-03", "R. Oake", "").value();
        QCOMPARE(relief::judgeRelief(p, book())->pockets[0].weld_pull_mm, 0.0);
        // The pocket changed: everything it was signed for is open again, and it says why.
        p.sections.edit<model::Relief>().pockets[0].depth_mm = 21;
        QVERIFY(!state(p, model::Hold::Tacked).holds);
        const auto reopened = relief::judgeRelief(p, book());
        QVERIFY(check(*reopened, "step/hold")->verdict == model::Verdict::Close);
        QVERIFY(check(*reopened, "step/hold")->reason.find("the pocket has changed") != std::string::npos);
        p.sections.edit<model::Relief>().pockets[0].depth_mm = 20;
        QVERIFY(state(p, model::Hold::FittedAgain).holds);
        // So is a fit when another body of the vehicle goes: it was made with everything on.
        model::Project fitted = p;
        model::Body battery = p.vehicle->bodies[0];
        battery.id.text = "battery";
        battery.name = "Battery";
        fitted.vehicle->bodies.push_back(battery);
        for (const model::Hold hold : {model::Hold::TestFitted, model::Hold::Welded, model::Hold::FittedAgain})
            fitted = relief::withSigned(fitted, "step", hold, "2026-05-03", "R. Oake", "").value();
        QVERIFY(state(fitted, model::Hold::FittedAgain).holds);
        fitted.vehicle->bodies[1].shift_mm = {40, 0, 0};
        QVERIFY(!state(fitted, model::Hold::TestFitted).holds && state(fitted, model::Hold::Tacked).holds);
        QVERIFY(check(*relief::judgeRelief(fitted, book()), "step/hold")->reason.find("Battery") != std::string::npos);
        // A signature that knew of no other body stays.
        for (model::HoldSigned& step : fitted.sections.edit<model::Relief>().pockets[0].holds)
            step.basis.erase(std::remove_if(step.basis.begin(), step.basis.end(),
                                            [](const model::HoldBasis& b) { return b.item == "vehicle/battery"; }),
                             step.basis.end());
        QVERIFY(state(fitted, model::Hold::TestFitted).holds);
        p = relief::withoutSigned(p, "step", model::Hold::TestFitted);
        QVERIFY(state(p, model::Hold::Tacked).holds && !state(p, model::Hold::Welded).signed_off);
    }

    void asMadeAgainstPlanned() {
        model::Project p = stepped();
        p.sections.edit<model::Relief>().pockets[0].measured_depth_mm = 17; // three short: the gap is that much less
        p.sections.edit<model::Relief>().pockets[0].measured_length_mm = 123;
        const auto r = relief::judgeRelief(p, book());
        QVERIFY(near(*check(*r, "step/made-depth")->value, -3, 1e-9));
        QVERIFY(check(*r, "step/made-depth")->verdict == model::Verdict::NoGo);
        QVERIFY(check(*r, "step/made-length")->verdict == model::Verdict::Close); // larger: it costs section
        QVERIFY(!check(*r, "step/made-width"));
    }

    void aPartWithItsMass() {
        model::Project p = stepped();
        p.sections.edit<model::Parts>();
        p = relief::withPocket(p, book(), p.sections.edit<model::Relief>().pockets[0]);
        QCOMPARE(p.sections.get<model::Parts>()->size(), std::size_t(1));
        const model::Part part = p.sections.edit<model::Parts>().front();
        const auto r = report(p);
        QVERIFY(near(*part.mass_kg, std::abs(r.plates_kg - r.cut_kg), 1e-6));
        QVERIFY(part.on_car == (r.plates_kg > r.cut_kg ? model::OnCar::On : model::OnCar::Off));
        QVERIFY((*part.at_mm - Vector3d(70, 0, 480)).norm() < 1e-9);
        p.sections.edit<model::Parts>().front().cost = 35;
        p = relief::withPocket(p, book(),
                               p.sections.edit<model::Relief>().pockets[0]); // made again: no second one, its cost kept
        QCOMPARE(p.sections.get<model::Parts>()->size(), std::size_t(1));
        QCOMPARE(*p.sections.get<model::Parts>()->front().cost, 35.0);
        p = relief::withoutPocket(p, "step");
        QVERIFY(p.sections.get<model::Parts>()->empty() && p.sections.get<model::Relief>()->pockets.empty());
    }

    void blankingPlate() {
        model::PatternPlate plate;
        plate.id = plate.name = "pump blank";
        plate.holes = {
            {"bolt", {-40, 0}, 8.5, false, {}}, {"bolt", {40, 0}, 8.5, false, {}}, {"bore", {0, 0}, 30, false, {}}};
        plate.thickness_mm = 8;
        plate.edge_mm = 10;
        plate.replaces_mm = 20;
        plate.seal_mm = 1;
        plate.bolt_mm = 45;
        const auto made = relief::makePlate(model::Project(), book(), plate);
        QVERIFY(made.ok());
        QCOMPARE(*made.value().bolt_mm, 34.0); // 45 + 8 + 1 − 20
        const Vector2d size = made.value().pattern.bounds().max() - made.value().pattern.bounds().min();
        QVERIFY(near(size.x(), 80 + 8.5 + 20, 0.002) && near(size.y(), 50, 0.002)); // bore 30 + 2·10
        // A rounded shape between its discs: two of radius 14.25 at ±40 and one of 25 in the middle, by tangents.
        const double a = std::acos((25 - 14.25) / 40), lens = std::sqrt(40.0 * 40 - 10.75 * 10.75) * (25 + 14.25) / 2;
        const double area = 4 * lens + 25 * 25 * (EIGEN_PI - 2 * a) + 14.25 * 14.25 * 2 * a;
        QVERIFY2(near(made.value().pattern.area_mm2(), area, 0.003),
                 qPrintable(QString("%1 for %2").arg(made.value().pattern.area_mm2()).arg(area)));
        const double holes = EIGEN_PI / 4 * (2 * 8.5 * 8.5 + 900);
        QVERIFY(near(made.value().mass_kg, (area - holes) * 8 * 7850e-9, 0.004));
    }

    void adapterTakesTwoPatterns() {
        model::Project p;
        p.sections.edit<model::Mounts>();
        model::Mount mount;
        mount.id = mount.name = "left";
        mount.pad.holes_mm = {{-30, -20}, {30, -20}, {0, 35}};
        mount.pad.thread_mm = 10;
        mount.stand.emplace();
        mount.stand->holes_mm = {{-50, 0}, {50, 0}};
        mount.stand->thread_mm = 12;
        p.sections.edit<model::Mounts>().mounts = {mount};
        model::PatternPlate plate;
        plate.id = plate.name = "adapter";
        plate.use = model::PlateUse::Adapter;
        plate.from = "left/pad";
        plate.to = "left/stand";
        plate.turn_deg = 90;
        const auto made = relief::makePlate(p, book(), plate);
        QVERIFY(made.ok());
        const auto& holes = made.value().pattern.holes;
        QCOMPARE(holes.size(), std::size_t(5));
        QVERIFY(!holes[0].tapped && holes[0].diameter_mm == 11);   // M10 through
        QVERIFY(holes[3].tapped && holes[3].diameter_mm == 12);    // tapped M12
        QVERIFY((holes[4].at_mm - Vector2d(0, 50)).norm() < 1e-9); // turned by 90°
        plate.turn_deg = 0;
        plate.to_mm = {20, -20}; // one of its holes runs into the pad's
        const auto clash = relief::makePlate(p, book(), plate);
        QVERIFY(!clash.ok() && clash.error().what.find("cut into one another") != std::string::npos);
        plate.to_mm = {-20, -20};
        QVERIFY(!relief::makePlate(p, book(), plate).ok());
        plate.from = "right/pad";
        QVERIFY(relief::makePlate(p, book(), plate).error().what.find("right/pad") != std::string::npos);
        plate.from = plate.to = "";
        QVERIFY(relief::makePlate(p, book(), plate).error().what.find("no hole") != std::string::npos);
    }

    void patternsOfWhatWasRemoved() {
        model::Project p;
        p.sections.edit<model::Mounts>();
        model::OldSeat seat;
        seat.id = seat.name = "old-left";
        seat.face.holes_mm = {{-40, 0}, {40, 0}};
        seat.face.thread_mm = 12;
        p.sections.edit<model::Mounts>().seats = {seat};
        model::Interface flange;
        flange.id = flange.name = "output";
        flange.kind = model::InterfaceKind::Flange;
        flange.a = {"gearbox output", 4, 80, 57, 10, {}, {}, "", {}};
        flange.b = {"old shaft", 6, 98, 60, 8, {}, {}, "", {}};
        p.sections.edit<model::Driveline>();
        p.sections.edit<model::Driveline>().interfaces = {flange};
        model::PatternPlate plate;
        plate.id = plate.name = "plate";
        plate.from = "seat/old-left";
        const auto blank = relief::makePlate(p, book(), plate);
        QVERIFY(blank.ok() && blank.value().pattern.holes.size() == 2);
        QVERIFY(blank.value().pattern.holes[0].diameter_mm == 13); // M12 through
        // From one flange to another: four through, six tapped, one bore: the first one's.
        plate.use = model::PlateUse::Adapter;
        plate.from = "interface/output/a";
        plate.to = "interface/output/b";
        plate.turn_deg = 0; // hole against hole: 9 apart, 11 and 8 wide
        QVERIFY(!relief::makePlate(p, book(), plate).ok());
        plate.turn_deg = 15;
        const auto adapter = relief::makePlate(p, book(), plate);
        QVERIFY2(adapter.ok(), adapter.ok() ? "" : adapter.error().what.c_str());
        const auto& holes = adapter.value().pattern.holes;
        QCOMPARE(holes.size(), std::size_t(11));
        for (std::size_t i = 0; i < 4; ++i) QVERIFY(std::abs(holes[i].at_mm.norm() - 40) < 1e-9 && !holes[i].tapped);
        QVERIFY(holes[4].name == "bore" && holes[4].diameter_mm == 57);
        QVERIFY((holes[5].at_mm - 49 * Vector2d(std::cos(EIGEN_PI / 12), std::sin(EIGEN_PI / 12))).norm() < 1e-9);
        // As wide as the outer circle and the metal round its holes: 1.5 diameters from their middles.
        const Vector2d size = adapter.value().pattern.bounds().sizes();
        QVERIFY2(size.maxCoeff() < 2 * (49 + 1.5 * 11) + 1, qPrintable(QString::number(size.maxCoeff())));
        plate.to = "interface/none/b";
        QVERIFY(relief::makePlate(p, book(), plate).error().mend.find("interface") != std::string::npos);
        p.sections.edit<model::Driveline>().interfaces[0].a.count.reset(); // its bolts are not known
        plate.to.clear();
        QVERIFY(!relief::makePlate(p, book(), plate).ok());
    }
};

GABARIT_SUITE(ReliefTest)
#include "relief_test.moc"
