#include "model/project.h"
#include "model/verdict.h"
#include "store/rule_book.h"
#include "support/suite.h"

#include <QtTest>

#include <random>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::Vector3d;

namespace {

Donor donorWithPoints() {
    Donor donor;
    donor.id.text = "unit";
    donor.name = "Unit";
    donor.reference_points = {{{"l"}, "left", "front_mount", {-640, -215, 15}, {}, 1.0, {}, {}},
                              {{"r"}, "right", "front_mount", {-640, 215, 45}, {}, 1.0, {}, {}},
                              {{"g"}, "pad", "gearbox_mount", {670, 0, -92}, {}, 1.0, {}, {}}};
    donor.masses = {{"engine", 200.0, {-300, 0, 100}, {}, false, {}, {}},
                    {"gearbox", 50.0, {400, 0, 0}, {}, false, {}, {}}};
    return donor;
}

Placement placed(const Donor& donor) {
    Placement p;
    p.id.text = "p";
    p.name = "P";
    p.donor = donor.id;
    p.position_mm = {470, -6, 672};
    p.angles = {1.5, 3, -2};
    return p;
}

Body boxBody(const char* id, const char* category) {
    Body b;
    b.id.text = id;
    b.name = id;
    b.category = category;
    b.shape = BoxSpec{{10, 10, 10}};
    b.accuracy_mm = 1;
    return b;
}

} // namespace

class ModelTest : public QObject {
    Q_OBJECT
private slots:
    // Positive pitch lowers the tail, positive roll leans the top to the left, positive yaw swings the tail
    // right.
    void anglesMeanWhatTheySay() {
        const Vector3d tail = Vector3d::UnitX(), top = Vector3d::UnitZ();
        QVERIFY((rotation(Angles{0, 5, 0}) * tail).z() < 0);
        QVERIFY((rotation(Angles{0, 0, 5}) * top).y() < 0);
        QVERIFY((rotation(Angles{5, 0, 0}) * tail).y() > 0);
        // By hand: R = Rz·Ry·Rx for 90°, 90°, 0 sends x to −z, y to −x, z to y.
        const Eigen::Matrix3d r = rotation(Angles{90, 90, 0});
        QVERIFY((r * Vector3d::UnitX() + Vector3d::UnitZ()).norm() < 1e-12);
        QVERIFY((r * Vector3d::UnitY() + Vector3d::UnitX()).norm() < 1e-12);
    }
    /// Sides are said as the driver sits; those of a thing by itself are its own.
    void sidesAreSaidAsTheDriverSits() {
        Project p;
        p.vehicle = Vehicle();
        p.donors.resize(1);
        p.donors[0].id.text = "unit";
        p.vehicle->drive_side = DriveSide::Left;
        QCOMPARE(sided(p, "{to_right} (y)"), std::string("To the passenger's side (y)"));
        QCOMPARE(sided(p, "Front, {left} side"), std::string("Front, driver's side"));
        p.vehicle->drive_side = DriveSide::Right;
        QCOMPARE(sided(p, "{to_right} (y)"), std::string("To the driver's side (y)"));
        QCOMPARE(sided(p, "tail {to_left}, {left} and {left}"),
                 std::string("tail to the passenger's side, passenger's and passenger's"));
        QCOMPARE(sided(p, "{to_right} (y)", "unit"), std::string("To its right (y)"));
        QCOMPARE(sided(p, "face on the {left} side", "unit"), std::string("face on the left side"));
        QCOMPARE(sided(p, "no mark"), std::string("no mark"));
    }
    void anglesComeBack() {
        std::mt19937 random(7);
        std::uniform_real_distribution<double> turn(-80, 80);
        for (int i = 0; i < 200; ++i) {
            const Angles a{turn(random), turn(random), turn(random)}, b = anglesOf(rotation(a));
            QVERIFY(std::abs(a.yaw_deg - b.yaw_deg) < 1e-9 && std::abs(a.pitch_deg - b.pitch_deg) < 1e-9 &&
                    std::abs(a.roll_deg - b.roll_deg) < 1e-9);
        }
    }

    void turnsLeaveThePivot_data() {
        QTest::addColumn<int>("pivot");
        QTest::newRow("front mounts") << int(Pivot::FrontMounts);
        QTest::newRow("gearbox mount") << int(Pivot::GearboxMount);
        QTest::newRow("block face") << int(Pivot::BlockFace);
        QTest::newRow("centre of gravity") << int(Pivot::CentreOfGravity);
    }
    void turnsLeaveThePivot() {
        QFETCH(int, pivot);
        const Donor donor = donorWithPoints();
        Placement before = placed(donor);
        before.pivot = Pivot(pivot);
        for (const Turn turn : {Turn::Tail, Turn::Swing, Turn::Lean}) {
            const auto after = turned(before, donor, turn, 1.7);
            QVERIFY(after.ok());
            QVERIFY((pivotVehicle_mm(before, donor).value() - pivotVehicle_mm(after.value(), donor).value()).norm() <
                    1e-9);
            const auto back = turned(after.value(), donor, turn, -1.7);
            QVERIFY((back.value().position_mm - before.position_mm).norm() < 1e-9);
        }
    }
    // One degree about a pivot lifts a point behind it by r·(sin 4° − sin 3°): here by hand for a level pivot height.
    void tailUpLiftsTheGearboxByTheLeverArm() {
        const Donor donor = donorWithPoints();
        Placement before = placed(donor);
        before.angles = {0, 3, 0};
        const Placement after = turned(before, donor, Turn::Tail, -1).value();
        const Vector3d flange(826, 0, 0);
        const double lift = (poseVehicleDonor(after, donor) * flange - poseVehicleDonor(before, donor) * flange).z();
        // lever: 826 + 640 = 1466 rearward, −30 below the mounts' mean height of 30
        const double rad = 3.14159265358979 / 180;
        const double expected =
            -1466 * (std::sin(2 * rad) - std::sin(3 * rad)) - 30 * (std::cos(2 * rad) - std::cos(3 * rad));
        QVERIFY2(std::abs(lift - expected) < 1e-9, qPrintable(QString::number(lift)));
        QVERIFY(lift > 25);
    }
    void missingPivotSaysWhatToAdd() {
        Donor donor = donorWithPoints();
        donor.reference_points.clear();
        const auto result = turned(placed(donor), donor, Turn::Tail, 1);
        QVERIFY(!result.ok());
        QVERIFY(result.error().mend.find("front_mount") != std::string::npos);
        donor.masses[0].mass_kg.reset();
        Placement p = placed(donor);
        p.pivot = Pivot::CentreOfGravity;
        QVERIFY(turned(p, donor, Turn::Tail, 1).error().what.find("engine") != std::string::npos);
    }
    void orientationComesBeforeTheAngles() {
        Donor donor = donorWithPoints();
        Placement p = placed(donor);
        p.position_mm.setZero();
        p.angles = {0, 10, 0}; // tail of the vehicle down, whatever way the unit lies
        p.orientation = Orientation::TransverseRight;
        const Eigen::Isometry3d pose = poseVehicleDonor(p, donor);
        const Vector3d crank = pose.linear() * Vector3d::UnitX();
        QVERIFY((crank - Vector3d::UnitY()).norm() < 1e-12);
        QVERIFY((pose.linear() * Vector3d(0, -1, 0)).z() < 0); // what then points rearward sinks
        p.orientation = Orientation::Turned;
        p.angles = {};
        QVERIFY((poseVehicleDonor(p, donor).linear() * Vector3d::UnitX() + Vector3d::UnitX()).norm() < 1e-12);
    }
    void centreOfMassIsTheMean() {
        const auto centre = centreOfMass(donorWithPoints());
        QCOMPARE(centre.value().mass_kg, 250.0);
        QVERIFY((centre.value().at_mm - Vector3d(-160, 0, 80)).norm() < 1e-12);
    }

    void verdicts() {
        QCOMPARE(judge(-0.1, 5.0), Verdict::NoGo);
        QCOMPARE(judge(-0.1, std::nullopt), Verdict::NoGo);
        QCOMPARE(judge(4.9, 5.0), Verdict::Close);
        QCOMPARE(judge(5.0, 5.0), Verdict::Go);
        QCOMPARE(judge(50, std::nullopt), Verdict::Unknown);
    }

    // The shipped table, figure by figure, for pairs that several rows fit: the largest counts.
    void limits_data() {
        QTest::addColumn<QString>("a");
        QTest::addColumn<QString>("b");
        QTest::addColumn<bool>("shielded");
        QTest::addColumn<QVector<double>>("certifier_shop_roomy");
        const auto row = [](const char* a, const char* b, QVector<double> figures, bool shielded = false) {
            QTest::newRow(qPrintable(QString("%1 and %2%3").arg(a, b, shielded ? " shielded" : "")))
                << a << b << shielded << figures;
        };
        row("engine", "frame", {10, 6.5, 25});
        row("gearbox", "body", {10, 6.5, 25});
        row("engine", "axle", {20, 13, 25});
        row("sump", "crossmember", {10, 6.5, 25}); // unit-fixed asks more than the sump's row in "roomy"
        row("shaft", "body", {15, 13, 20});
        row("fan", "radiator", {20, 20, 25});
        row("engine", "bonnet", {15, 10, 25});
        row("exhaust", "fuel_line", {100, 75, 150});
        row("turbo", "brake_line", {40, 25, 50}, true);
        row("manifold", "wiring", {75, 50, 100});
        row("turbo", "steering_shaft", {50, 40, 75});
        row("turbo", "steering_shaft", {25, 20, 40}, true);
        row("exhaust", "frame", {20, 13, 25});
        row("exhaust", "suspension", {25, 20, 30});
        row("hose", "steering_linkage", {25, 13, 40});
        row("sump", "ground", {120, 100, 150});
        row("hose", "frame", {3, 3, 3});
    }
    void limits() {
        QFETCH(QString, a);
        QFETCH(QString, b);
        QFETCH(bool, shielded);
        QFETCH(QVector<double>, certifier_shop_roomy);
        Body first = boxBody("a", a.toUtf8()), second = boxBody("b", b.toUtf8());
        first.shielded = shielded;
        int i = 0;
        for (const char* school : {"certifier", "shop", "roomy"}) {
            const auto limit = limitFor(store::defaultRuleBook(), school, first, second);
            const auto turned = limitFor(store::defaultRuleBook(), school, second, first);
            QVERIFY(limit && turned);
            QCOMPARE(limit->gap_mm, certifier_shop_roomy[i++]);
            QCOMPARE(turned->gap_mm, limit->gap_mm);
            QVERIFY(!limit->source.empty());
        }
    }
    void projectRowsReplaceAndAdd() {
        RuleChoice choice;
        choice.school = "shop";
        choice.rows = {RuleRow{"bonnet", "ours", {"bonnet"}, {"*"}, {{"shop", 33}}, {}, {}, false, "the owner", {}}};
        const RuleBook book = applied(store::defaultRuleBook(), choice);
        QCOMPARE(book.default_school, std::string("shop"));
        QCOMPARE(limitFor(book, "shop", boxBody("a", "engine"), boxBody("b", "bonnet"))->gap_mm, 33.0);
        QCOMPARE(book.rows.size(), store::defaultRuleBook().rows.size());
    }

    void movesInWords() {
        Project project;
        project.vehicle.emplace();
        project.vehicle->drive_side = DriveSide::Right;
        QCOMPARE(moveWords(project, {0, 0, 11.2}), std::string("12 mm up"));
        QCOMPARE(moveWords(project, {-3, 0.1, -20}), std::string("20 mm down and 3 mm forward"));
        QCOMPARE(moveWords(project, {0, 5, 0}), std::string("5 mm to the driver's side"));
        project.vehicle->drive_side = DriveSide::Left;
        QCOMPARE(moveWords(project, {0, 5, 0}), std::string("5 mm to the passenger's side"));
        QCOMPARE(moveWords(project, {0, 0, 25.4}, quantity::Shown::Inches), std::string("1.00 in up"));
    }

    void hangsADonorUnderAFreeName() {
        Project project;
        project.vehicle.emplace();
        Donor donor = donorWithPoints();
        const Project once = hung(project, donor).value();
        const Project twice = hung(once, donor).value();
        QCOMPARE(twice.donors.size(), std::size_t{2});
        QVERIFY(twice.donors[0].id != twice.donors[1].id);
        QCOMPARE(activeDonor(twice)->id, twice.donors[1].id);
        QVERIFY(validate(twice, store::defaultRuleBook()).empty());
        QVERIFY(!hung(Project{}, donor).ok());
    }

    void validationNamesPlaceAndMend() {
        Project project;
        project.vehicle.emplace();
        project.vehicle->name = "V";
        const auto says = [&](const char* words) {
            for (const Error& e : validate(project, store::defaultRuleBook()))
                if (e.line().find(words) != std::string::npos && !e.mend.empty() && !e.where.empty()) return true;
            return false;
        };
        QVERIFY(validate(project, store::defaultRuleBook()).empty());
        project.vehicle->bodies = {boxBody("a", "frame"), boxBody("a", "nonsense")};
        QVERIFY(says("used twice"));
        QVERIFY(says("\"nonsense\" is not known"));
        project.vehicle->bodies[1].shape = BoxSpec{{10, -1, 10}};
        QVERIFY(says("a size is not above zero"));
        project.vehicle->bodies[1].position_mm.x() = std::numeric_limits<double>::quiet_NaN();
        QVERIFY(says("coordinate"));
        project.joined = {{{"vehicle", {"a"}}, {"vehicle", {"ghost"}}, "", {}}};
        QVERIFY(says("no body \"vehicle/ghost\""));
        QVERIFY(says("no reason"));
        project.placements.push_back(placed(donorWithPoints()));
        QVERIFY(says("no donor \"unit\""));
        project.active_placement.text = "ghost";
        QVERIFY(says("no placement \"ghost\""));
        project.vehicle->bodies[0].may = May{true, false, false, true};
        QVERIFY(says("\"never\" stands beside"));
    }
};

GABARIT_SUITE(ModelTest)
#include "model_test.moc"
