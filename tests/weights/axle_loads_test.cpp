#include "parts/parts.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/suite.h"
#include "weights/axle_loads.h"
#include "weights/section/weights.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::Vector3d;

namespace {

Project twoAxles() {
    Project p;
    p.name = "w";
    p.vehicle.emplace();
    p.vehicle->wheelbase_mm = 2500;
    Donor donor;
    donor.id.text = "unit";
    donor.name = "Unit";
    donor.masses = {{"unit", 250.0, {0, 0, 0}, {}, false, {}, {}}};
    p.donors = {donor};
    Placement placement;
    placement.id.text = "p";
    placement.donor.text = "unit";
    placement.position_mm = {500, 0, 600};
    p.placements = {placement};
    p.sections.edit<Weights>();
    p.sections.edit<Weights>().bare = {600, 500};
    p.sections.edit<Weights>().limit = {850, 600};
    p.sections.edit<Weights>().accuracy_kg = 5;
    return p;
}

weights::AxleLoadReport loads(const Project& project) { return weights::axleLoads(project, store::defaultRuleBook()); }

Part part(const char* id, OnCar on, std::optional<double> kg, std::optional<Vector3d> at) {
    Part q;
    q.id.text = id;
    q.name = id;
    q.on_car = on;
    q.mass_kg = kg;
    q.at_mm = at;
    return q;
}

} // namespace

class AxleLoadsTest : public QObject {
    Q_OBJECT
private slots:
    /// A part that sits at a body has the middle of its extents for its place, and goes with it.
    void placesFromBodies() {
        Project p = twoAxles();
        Body tank;
        tank.id.text = "tank";
        tank.name = "Tank";
        tank.category = "fixed_part";
        tank.shape = PlateSpec{{{0, 0}, {200, 0}, {200, 100}, {0, 100}}, 40}; // its middle at (100, 50, 20)
        tank.position_mm = {1900, 0, 300};
        p.vehicle->bodies = {tank};
        p.sections.edit<Parts>() = std::vector<Part>{part("filler", OnCar::On, 25, std::nullopt)};
        p.sections.edit<Parts>().front().body = "vehicle/tank";
        // By hand: 25 kg at 2000 of 2500: 20 on the rear axle.
        QVERIFY(std::abs(*loads(p).rear.load_kg - (550 + 20)) < 1e-9);
        p.vehicle->bodies[0].position_mm.x() -= 500; // 25 · 500/2500 = 5 less
        QVERIFY(std::abs(*loads(p).rear.load_kg - (550 + 15)) < 1e-9);
        // The same body on the donor follows the pose: 100 + 500 behind the axle.
        p.donors[0].bodies = {tank};
        p.donors[0].bodies[0].position_mm = {0, 0, 0};
        p.sections.edit<Parts>().front().body = "unit/tank";
        QVERIFY(ridesOnDonor(p.sections.get<Parts>()->front()));
        QVERIFY(std::abs(*loads(p).rear.load_kg - (550 + 25 * 600 / 2500.0)) < 1e-9);
        p.sections.edit<Parts>().front().body = "unit/none";
        QCOMPARE(loads(p).left_out.size(), std::size_t(1));
        QVERIFY(!validate(p, store::defaultRuleBook()).empty());
    }
    void whatIsOffDoesNotCount() {
        Project p = twoAxles();
        p.sections.edit<Weights>().loads = {{"driver", 80.0, {1250, 0, 0}, {}, false, {}, {}}};
        QCOMPARE(*loads(p).rear.load_kg, 550 + 40.0);
        p.sections.edit<Weights>().loads[0].off = true;
        QCOMPARE(*loads(p).rear.load_kg, 550.0);
        p.donors[0].masses.push_back({"gearbox", 50.0, {0, 0, 0}, {}, true, {}, {}});
        QCOMPARE(*loads(p).rear.load_kg, 550.0);
        QCOMPARE(loads(p).lines.size(), std::size_t(1));
    }
    // 250 kg at 500 of 2500 mm: 50 kg behind, 200 kg in front.
    void donorFollowsThePose() {
        Project p = twoAxles();
        auto report = loads(p);
        QCOMPARE(*report.front.load_kg, 800.0);
        QCOMPARE(*report.rear.load_kg, 550.0);
        QCOMPARE(report.verdict, Verdict::Go);
        QVERIFY(std::abs(*report.centre.x_mm - 2500 * 550.0 / 1350) < 1e-9);
        p.placements[0].position_mm.x() += 10; // 250·10/2500 = 1 kg goes to the rear
        report = loads(p);
        QVERIFY(std::abs(*report.rear.load_kg - 551) < 1e-9 && std::abs(*report.front.load_kg - 799) < 1e-9);
        p.placements[0].orientation = Orientation::Turned;
        p.donors[0].masses[0].at_mm = {100, 0, 0}; // turned round, its mass lies forward
        report = loads(p);
        QVERIFY(std::abs(*report.rear.change_kg - 250 * 410.0 / 2500) < 1e-9);
    }
    void partsOffAndOn() {
        Project p = twoAxles();
        p.sections.edit<Parts>() = std::vector<Part>{part("off", OnCar::Off, 100, Vector3d(250, 0, 0)),
                                                     part("on", OnCar::On, 20, Vector3d(3000, 0, 0)),
                                                     part("neither", OnCar::No, 999, Vector3d(0, 0, 0))};
        p.sections.edit<Parts>().push_back(part("rides", OnCar::On, 10, Vector3d(-500, 0, 0)));
        p.sections.edit<Parts>().back().rides_on_donor =
            true; // 500 ahead of a block face that stands at 500: over the front axle
        p.sections.edit<Weights>().loads = {{"driver", 80.0, {1250, 0, 0}, {}, false, {}, {}}};
        const auto report = loads(p);
        const double rear = 50 - 10 + 24 + 0 + 40, total = 250 - 100 + 20 + 10 + 80;
        QVERIFY(std::abs(*report.rear.change_kg - rear) < 1e-9);
        QVERIFY(std::abs(*report.front.change_kg - (total - rear)) < 1e-9);
        double mass = 0, moment = 0; // the lines must add up to the same sums
        for (const auto& line : report.lines) mass += line.mass_kg, moment += line.mass_kg * line.at_vehicle_mm.x();
        QVERIFY(std::abs(mass - total) < 1e-9 && std::abs(moment / 2500 - rear) < 1e-9);
    }
    // A battery of 17 kg at 250 of 2500 goes behind the cab, to 2000, by an option. By hand: front −17 · 0.9 + 17 ·
    // 0.2.
    void whatAnOptionMovesIsALine() {
        Project p = twoAxles();
        Body bay, behind;
        bay.id.text = bay.name = "bay";
        bay.category = "battery";
        bay.shape = BoxSpec{{100, 100, 100}};
        bay.position_mm = {250, 0, 0};
        bay.mass_kg = 17;
        bay.option = "battery/bay";
        behind = bay;
        behind.id.text = behind.name = "behind";
        behind.position_mm = {2000, 0, 0};
        behind.option = "battery/behind";
        p.vehicle->bodies = {bay, behind};
        p.vehicle->choices = {{"battery", "Battery", {{"bay", "", "", {}}, {"behind", "", "", {}}}, {}}};
        const double front = *loads(p).front.load_kg, rear = *loads(p).rear.load_kg;
        QCOMPARE(front, 800.0); // as it came: in the bare weight
        p.placements[0].taken = {{"vehicle/battery", "behind", {}}};
        auto report = loads(p);
        QVERIFY(std::abs(*report.front.load_kg - (front - 17 * 0.9 + 17 * 0.2)) < 1e-9);
        QVERIFY(std::abs(*report.rear.load_kg - (rear - 17 * 0.1 + 17 * 0.8)) < 1e-9);
        int lines = 0;
        for (const auto& line : report.lines)
            lines += line.item == "body:vehicle/bay" || line.item == "body:vehicle/behind";
        QCOMPARE(lines, 2);
        // A part that stands for the body weighs in its place, once.
        p.sections.edit<Parts>() = std::vector<Part>{part("battery", OnCar::On, 17, std::nullopt)};
        p.sections.edit<Parts>().front().body = "vehicle/behind";
        const auto with_part = loads(p);
        QVERIFY(std::abs(*with_part.rear.load_kg - *report.rear.load_kg) < 1e-9);
        p.sections.drop<Parts>();
        // Moved farther, it is neither lost nor counted twice.
        p.vehicle->bodies[1].shift_mm = {250, 0, 0};
        QVERIFY(std::abs(*loads(p).rear.load_kg - (rear - 17 * 0.1 + 17 * 0.9)) < 1e-9);
        p.vehicle->bodies[1].mass_kg.reset();
        QCOMPARE(loads(p).rear.verdict, Verdict::Unknown);
    }
    void withoutAWheelbaseNothingIsZero() {
        Project p = twoAxles();
        p.vehicle->wheelbase_mm.reset();
        const auto report = loads(p);
        QVERIFY(!report.front.change_kg && !report.rear.change_kg && !report.front.load_kg);
        QVERIFY(!report.lines.empty() && !report.lines[0].front_kg && !report.lines[0].rear_kg);
        QCOMPARE(report.verdict, Verdict::Unknown);
    }
    void anAxleOfLessThanNothingNamesWhatIsWrong() {
        Project p = twoAxles();
        p.sections.edit<Parts>() = std::vector<Part>{part("old engine", OnCar::Off, 4300, Vector3d(100, 0, 0)),
                                                     part("bumper", OnCar::Off, 5, Vector3d(-500, 0, 0))};
        const auto report = loads(p);
        QCOMPARE(report.front.verdict, Verdict::NoGo);
        QVERIFY2(report.front.reason.find("\"old engine\"") != std::string::npos, report.front.reason.c_str());
        p.sections.drop<Parts>();
        p.sections.edit<Weights>().bare.front_kg = 0;
        QCOMPARE(loads(p).front.verdict, Verdict::Unknown);
    }
    // 250 kg ±10 % at 500 of 2500: 20 kg of it on the front axle, 5 on the rear; the scales ±5; by Pythagoras.
    void howMassesAreKnownMakesTheAxlesUnsure() {
        Project p = twoAxles();
        p.donors[0].masses[0].from = MassFrom::NotSaid; // as an estimate
        QVERIFY(std::abs(*loads(p).front.accuracy_kg - std::hypot(5, 20)) < 1e-9);
        QVERIFY(std::abs(*loads(p).rear.accuracy_kg - std::hypot(5, 5)) < 1e-9);
        p.donors[0].masses[0].from = MassFrom::Estimated;
        QVERIFY(std::abs(*loads(p).front.accuracy_kg - std::hypot(5, 20)) < 1e-9);
        p.donors[0].masses[0].from = MassFrom::Catalogue; // 5 %
        QVERIFY(std::abs(*loads(p).front.accuracy_kg - std::hypot(5, 10)) < 1e-9);
        p.donors[0].masses[0].from = MassFrom::Weighed; // 1 %
        QVERIFY(std::abs(*loads(p).front.accuracy_kg - std::hypot(5, 2)) < 1e-9);
        // 800 on the front axle: 10 kg to the limit is enough for a scale, not for a guess.
        p.sections.edit<Weights>().limit.front_kg = 810;
        QCOMPARE(loads(p).front.verdict, Verdict::Go);
        p.donors[0].masses[0].from = MassFrom::Estimated;
        QCOMPARE(loads(p).front.verdict, Verdict::Close);
        // Nothing is weighed exactly, and nothing weighs nothing.
        p = twoAxles();
        p.sections.edit<Weights>().accuracy_kg = 0;
        QCOMPARE(loads(p).verdict, Verdict::Unknown);
        p = twoAxles();
        p.donors[0].masses[0].mass_kg = 0;
        QCOMPARE(loads(p).verdict, Verdict::Unknown);
    }
    // A spare wheel of 20 kg at 2000 of 2500 taken out: 16 kg off the rear; a winch of 30 at −250 added: 3 off it.
    void whatIsTakenOutOrAddedByHandIsALine() {
        Project p = twoAxles();
        Body spare;
        spare.id.text = "spare";
        spare.name = "Spare wheel";
        spare.category = "fixed_part";
        spare.shape = BoxSpec{{100, 100, 100}};
        spare.position_mm = {2000, 0, 0};
        spare.mass_kg = 20;
        Body winch = spare;
        winch.id.text = "winch";
        winch.name = "Winch";
        winch.position_mm = {-250, 0, 0};
        winch.mass_kg = 30;
        p.vehicle->bodies = {spare, winch}; // found: they came with it
        QCOMPARE(*loads(p).rear.load_kg, 550.0);
        p.vehicle->bodies[0].standing = Standing::Removed;
        QVERIFY(std::abs(*loads(p).rear.load_kg - (550 - 16)) < 1e-9);
        p.vehicle->bodies[1].standing = Standing::Added;
        QVERIFY(std::abs(*loads(p).rear.load_kg - (550 - 16 - 3)) < 1e-9);
        QVERIFY(std::abs(*loads(p).front.load_kg - (800 - 4 + 33)) < 1e-9);
        // The list of parts has it too: by its body, or by its name. It weighs once.
        p.sections.edit<Parts>() = std::vector<Part>{part("winch", OnCar::On, 30, Vector3d(-250, 0, 0))};
        p.sections.edit<Parts>().front().name = "Winch";
        QVERIFY(std::abs(*loads(p).front.load_kg - (800 - 4 + 33)) < 1e-9);
        p.sections.edit<Parts>().front() = part("w", OnCar::On, 30, std::nullopt);
        p.sections.edit<Parts>().front().body = "vehicle/winch";
        QVERIFY(std::abs(*loads(p).front.load_kg - (800 - 4 + 33)) < 1e-9);
        // Moved, the part weighs where its body is now, and nothing is added twice: 250 to the rear, 30 · 250/2500 = 3.
        p.vehicle->bodies[1].mass_kg = 30;
        const double before = *loads(p).rear.load_kg;
        p.vehicle->bodies[1].shift_mm = {250, 0, 0};
        QVERIFY(std::abs(*loads(p).rear.load_kg - before - 3) < 1e-9);
        p.vehicle->bodies[1].shift_mm.setZero();
        // Taken out without a mass it still counts as there, and that is said.
        p.vehicle->bodies[0].mass_kg.reset();
        QCOMPARE(loads(p).still_counted, std::vector<std::string>{"Spare wheel"});
        QVERIFY(std::abs(*loads(p).rear.load_kg - (550 - 3)) < 1e-9);
    }
    // 600 in front: 310 left, 290 right, tracks 1400 and 1300; behind 250 and 250. The unit, 250 kg at 500, 140 to the
    // right, 600 up: in front 200 · (½ ∓ 140/1400), behind 50 · (½ ∓ 140/1300).
    void wheelsAndTheCentreOfGravity() {
        Project p = twoAxles();
        p.vehicle->front_track_mm = 1400;
        p.vehicle->rear_track_mm = 1300;
        p.sections.edit<Weights>().corners = {310, 290, 250, 250};
        p.sections.edit<Weights>().height_mm = 550;
        p.placements[0].position_mm = {500, 140, 600};
        const auto report = loads(p);
        QVERIFY(std::abs(*report.corners.front_left_kg - (310 + 80)) < 1e-9);
        QVERIFY(std::abs(*report.corners.front_right_kg - (290 + 120)) < 1e-9);
        QVERIFY(std::abs(*report.corners.rear_left_kg - (250 + 25 - 50 * 140.0 / 1300)) < 1e-9);
        QVERIFY(std::abs(*report.corners.rear_right_kg - (250 + 25 + 50 * 140.0 / 1300)) < 1e-9);
        QVERIFY(std::abs(*report.centre_before.x_mm - 2500 * 500.0 / 1100) < 1e-9);
        QVERIFY(std::abs(*report.centre_before.y_mm - -20 * 700.0 / 1100) < 1e-9);
        QVERIFY(std::abs(*report.centre.y_mm - (-20 * 700.0 + 250 * 140) / 1350) < 1e-9);
        QVERIFY(std::abs(*report.centre.z_mm - (1100 * 550.0 + 250 * 600) / 1350) < 1e-9);
        // Moved 280 aside over the front axle, 10 kg put 2 kg from its left wheel to its right one: 10 · 280/1400.
        Project aside = p;
        Body box;
        box.id.text = box.name = "box";
        box.category = "fixed_part";
        box.shape = BoxSpec{{10, 10, 10}};
        box.mass_kg = 10;
        box.shift_mm = {0, 280, 0};
        aside.vehicle->bodies = {box};
        QVERIFY(std::abs(*loads(aside).corners.front_left_kg - (310 + 80 - 2)) < 1e-9);
        QVERIFY(std::abs(*loads(aside).corners.front_right_kg - (290 + 120 + 2)) < 1e-9);
        QCOMPARE(*loads(aside).corners.rear_left_kg, *report.corners.rear_left_kg);
        QCOMPARE(loads(aside).lines.back().item, std::string("moved:vehicle/box"));
        // Added without a mass: not known.
        aside.vehicle->bodies[0].standing = Standing::Added;
        aside.vehicle->bodies[0].mass_kg.reset();
        aside.vehicle->bodies[0].shift_mm.setZero();
        QCOMPARE(loads(aside).front.verdict, Verdict::Unknown);
        // The axles from their wheels; wheels that contradict the axle are weighed again.
        p.sections.edit<Weights>().bare = {};
        QCOMPARE(*loads(p).front.before_kg, 600.0);
        p.sections.edit<Weights>().bare.front_kg = 620; // ±5
        QCOMPARE(loads(p).front.verdict, Verdict::Unknown);
        QVERIFY(loads(p).front.reason.find("weigh again") != std::string::npos);
        p.sections.edit<Weights>().height_mm.reset();
        p.sections.edit<Weights>().corners.rear_left_kg.reset();
        QVERIFY(!loads(p).centre.z_mm && !loads(p).centre.y_mm && !loads(p).corners.rear_left_kg);
    }
    void movedBodiesShiftTheirMass() {
        Project p = twoAxles();
        Body battery;
        battery.id.text = "battery";
        battery.name = "Battery";
        battery.shift_mm = {1000, 0, 0};
        battery.mass_kg = 20;
        p.vehicle->bodies = {battery};
        auto report = loads(p);
        QVERIFY(std::abs(*report.rear.load_kg - 558) < 1e-9 && std::abs(*report.front.load_kg - 792) < 1e-9);
        p.vehicle->bodies[0].mass_kg.reset();
        report = loads(p);
        QCOMPARE(report.verdict, Verdict::Unknown);
        QCOMPARE(report.left_out.size(), std::size_t{1});
    }
    void missingDataIsNeverZero() {
        Project p = twoAxles();
        p.donors[0].masses[0].mass_kg.reset();
        QCOMPARE(loads(p).front.verdict, Verdict::Unknown);
        p = twoAxles();
        p.sections.edit<Parts>() = std::vector<Part>{part("somewhere", OnCar::On, 5, std::nullopt)};
        QCOMPARE(loads(p).rear.verdict, Verdict::Unknown);
        p = twoAxles();
        p.sections.edit<Weights>().bare.front_kg.reset();
        QVERIFY(!loads(p).front.load_kg);
        p = twoAxles();
        p.sections.edit<Weights>().limit.rear_kg.reset();
        QCOMPARE(loads(p).rear.verdict, Verdict::Unknown);
        p = twoAxles();
        p.vehicle->wheelbase_mm.reset();
        QCOMPARE(loads(p).verdict, Verdict::Unknown);
        p = twoAxles();
        p.sections.edit<Weights>().accuracy_kg.reset();
        QCOMPARE(loads(p).front.verdict, Verdict::Unknown);
    }
    void closeAndOver() {
        Project p = twoAxles();
        p.sections.edit<Weights>().limit.front_kg = 803;
        QCOMPARE(loads(p).front.verdict, Verdict::Close);
        p.sections.edit<Weights>().limit.front_kg = 799;
        QCOMPARE(loads(p).front.verdict, Verdict::NoGo);
    }
    // The demo, by hand: the unit weighs 198 + 16 + 24 + 43 + 11 = 292 kg and the loom that rides on it 5 kg; 10 mm
    // rearward puts 297·10/2650 = 1.1208 kg from the front axle onto the rear.
    void tenMillimetresInTheDemo() {
        Project p = store::readProject(GABARIT_SOURCE_DIR "/data/demo/harrow-tarn.gabarit", store::defaultRuleBook())
                        .value()
                        .project;
        const auto before = loads(p);
        p.placements[0].position_mm.x() += 10;
        const auto after = loads(p);
        QVERIFY(std::abs(*after.rear.load_kg - *before.rear.load_kg - 297 * 10.0 / 2650) < 1e-9);
        QVERIFY(std::abs(*after.front.load_kg - *before.front.load_kg + 297 * 10.0 / 2650) < 1e-9);
    }
};

GABARIT_SUITE(AxleLoadsTest)
#include "axle_loads_test.moc"
