// Skew told from runout, and moves that null it on the thing itself.
#include "driveline/coupling.h"
#include "driveline/section/driveline.h"
#include "store/rule_book.h"
#include "support/suite.h"

#include <QtTest>

#include <random>

using namespace gabarit;
using namespace gabarit::driveline;
using Eigen::Vector2d;
using Eigen::Vector3d;

namespace {

constexpr double deg = M_PI / 180;
constexpr double radius_mm = 50;

const model::RuleBook& book() { return store::defaultRuleBook(); }

/// What a calliper shows between two flanges: skew that stays, runout that turns.
double gap(double clock_deg, double turn_deg, const Vector2d& skew_mm, const Vector2d& runout_mm) {
    const double phi = clock_deg * deg, psi = (clock_deg - turn_deg) * deg;
    return 12.4 + skew_mm[0] * std::cos(phi) + skew_mm[1] * std::sin(phi) + runout_mm[0] * std::cos(psi) +
           runout_mm[1] * std::sin(psi);
}

model::CouplingTry readings(int clocks, int turns, const Vector2d& skew, const Vector2d& runout, double noise_mm,
                            std::mt19937& random, bool rim = false) {
    model::CouplingTry out;
    out.id = "one";
    std::normal_distribution<double> noise(0, noise_mm > 0 ? noise_mm : 1);
    for (int t = 0; t < turns; ++t)
        for (int c = 0; c < clocks; ++c) {
            model::CouplingReading r;
            r.rim = rim;
            r.clock_deg = 360.0 * c / clocks;
            r.turn_deg = 360.0 * t / turns;
            r.mm = gap(r.clock_deg, r.turn_deg, skew, runout) + (noise_mm > 0 ? noise(random) : 0);
            out.readings.push_back(r);
        }
    return out;
}

model::CouplingCheck couplingOf(model::CouplingTry t) {
    model::CouplingCheck out;
    out.id = "disc";
    out.name = "Disc";
    out.radius_mm = radius_mm;
    out.to_gearbox_mount_mm = 180;
    out.to_front_mounts_mm = 930;
    out.tries.push_back(std::move(t));
    return out;
}

CouplingTryReport judged(model::CouplingTry t) {
    return judgeCoupling({}, couplingOf(std::move(t)), book()).tries.back();
}

} // namespace

class CouplingTest : public QObject {
    Q_OBJECT
private slots:
    void exactReadingsGiveExactSkew() {
        std::mt19937 random(1);
        // Opens by 0.6 mm at the top on 50 mm: 0.6875°; to the right 0.
        const CouplingTryReport t = judged(readings(6, 3, {0.6, 0}, {0.2, -0.5}, 0, random));
        QVERIFY(t.face.separated);
        QVERIFY(std::abs(*t.tilt_deg - std::atan(0.6 / 50) / deg) < 1e-9);
        QVERIFY(std::abs(std::remainder(t.open_clock_deg, 360)) < 1e-6);
        QVERIFY(std::abs(t.runout_mm - std::hypot(0.2, 0.5)) < 1e-9);
        QCOMPARE(QString::fromStdString(clockWords(90)), QStringLiteral("3 o'clock"));
        QCOMPARE(QString::fromStdString(clockWords(352)), QStringLiteral("11:30 o'clock"));
    }
    // Eight places, four turns, 0.02 mm of scatter: the tilt within 0.02° in at least 95 of 100, whatever the runout.
    void thirtyTwoReadingsFindTheTilt() {
        int found = 0, within_told = 0;
        for (int seed = 0; seed < 100; ++seed) {
            std::mt19937 random(static_cast<unsigned>(seed));
            std::uniform_real_distribution<double> part(-1, 1);
            const Vector2d skew(0.9 * part(random), 0.9 * part(random)), runout(2 * part(random), 2 * part(random));
            const CouplingTryReport t = judged(readings(8, 4, skew, runout, 0.02, random));
            const double off_deg = (t.face.standing_mm - skew).norm() / radius_mm / deg;
            found += off_deg < 0.02;
            within_told += std::abs(*t.tilt_deg - std::atan(skew.norm() / radius_mm) / deg) < t.tilt_accuracy_deg;
        }
        QVERIFY2(found >= 95, qPrintable(QString::number(found)));
        QVERIFY2(within_told >= 88, qPrintable(QString::number(within_told))); // of a told 95 %
    }
    void oneTurnGivesTheSumAndSaysSo() {
        std::mt19937 random(2);
        const CouplingTryReport t = judged(readings(8, 1, {0.5, 0.1}, {0.25, -0.4}, 0, random));
        QVERIFY(t.face.enough);
        QVERIFY(!t.face.separated);
        QVERIFY(t.face.reason.find("one turn") != std::string::npos);
        QVERIFY((t.face.standing_mm - Vector2d(0.75, -0.3)).norm() < 1e-9);
        QVERIFY(!t.gearbox_alone);
        QVERIFY(std::abs(std::remainder(t.face.next_turn_deg, 360)) > 80); // it asks for the shaft to be turned
        const CouplingReport report =
            judgeCoupling({}, couplingOf(readings(8, 1, {0.01, 0}, {0, 0}, 0, random)), book());
        QCOMPARE(report.verdict, model::Verdict::Unknown); // nearly square is no pass
    }
    void tooFewPlacesAreRefused() {
        std::mt19937 random(3);
        for (const auto& [clocks, turns] : {std::pair{1, 4}, {2, 1}, {1, 1}}) {
            const CouplingTryReport t = judged(readings(clocks, turns, {0.5, 0.1}, {0.2, 0}, 0, random));
            QVERIFY(!t.face.enough);
            QVERIFY(!t.tilt_deg);
            QVERIFY(!t.face.reason.empty());
        }
        QVERIFY(!judged({}).tilt_deg);
    }
    void aWrongReadingIsFoundAndLeftOut() {
        std::mt19937 random(4);
        model::CouplingTry t = readings(8, 4, {0.4, -0.2}, {0.3, 0.3}, 0.02, random);
        t.readings[11].mm += 1; // a slip of the tongue
        const CouplingTryReport report = judged(t);
        for (std::size_t i = 0; i < t.readings.size(); ++i) QCOMPARE(report.face.outlier[i], i == 11);
        QVERIFY(std::abs(report.face.residual_mm[11] - 1) < 0.1);
        QVERIFY((report.face.standing_mm - Vector2d(0.4, -0.2)).norm() < 0.03);
        int wrongly = 0; // sound readings are hardly ever called wrong
        for (int seed = 0; seed < 100; ++seed) {
            std::mt19937 other(static_cast<unsigned>(seed + 500));
            const auto sound = judged(readings(8, 4, {0.4, -0.2}, {0.3, 0.3}, 0.02, other)).face.outlier;
            wrongly += std::count(sound.begin(), sound.end(), true) > 0;
        }
        QVERIFY(wrongly <= 5);
    }
    void theRimsDirectionFlipsWithTheIndicator() {
        std::mt19937 random(5);
        model::CouplingTry t = readings(8, 4, {0.1, 0}, {0, 0}, 0, random);
        const model::CouplingTry rim = readings(8, 4, {0.8, 0}, {0.3, 0}, 0, random, true);
        t.readings.insert(t.readings.end(), rim.readings.begin(), rim.readings.end());
        model::CouplingCheck coupling = couplingOf(t);
        CouplingTryReport report = judgeCoupling({}, coupling, book()).tries.back();
        QVERIFY(std::abs(*report.offset_mm - 0.8) < 1e-9);       // the amplitude, half of the whole swing of 1.6
        QVERIFY(std::abs(report.offset_clock_deg - 180) < 1e-6); // the shaft is high: the unit is low
        coupling.rim_from_shaft = true;
        report = judgeCoupling({}, coupling, book()).tries.back();
        QVERIFY(std::abs(std::remainder(report.offset_clock_deg, 360)) < 1e-6);
    }
    // The moves are tried on the real geometry: a donor that hangs skew and off, read, moved, read again.
    void theMovesNullItOnTheThingItself() {
        model::Project project;
        project.vehicle.emplace();
        model::Donor donor;
        donor.id.text = "unit";
        const auto point = [&](const char* role, const Vector3d& at) {
            model::HardPoint p;
            p.id.text = p.role = role;
            p.at_mm = at;
            donor.reference_points.push_back(p);
        };
        point("front_mount", {-300, 0, -50});
        point("gearbox_mount", {450, 0, -120});
        point("output_flange", {620, 0, -20});
        project.donors.push_back(donor);
        model::Placement placement;
        placement.id.text = "p";
        placement.donor.text = "unit";
        placement.position_mm = {700, 3, 640};
        placement.angles.pitch_deg = 3.4;
        placement.angles.yaw_deg = 0.6;
        project.placements.push_back(placement);
        project.sections.edit<model::Driveline>();
        model::ShaftLine line;
        line.id = "rear";
        line.from.owner = "unit";
        line.from.point.text = "output_flange";
        project.sections.edit<model::Driveline>().lines.push_back(line);

        // The shaft's flange stands square at 3° down, its centre where the unit's should be.
        const Vector3d shaft_axis = Vector3d(1, 0, -std::tan(3 * deg)).normalized();
        const Eigen::Isometry3d first = model::poseVehicleDonor(placement, donor);
        const Vector3d wanted = first * Vector3d(620, 0, -20) + Vector3d(0, 1.2, -2.5);
        const auto read = [&](const model::Placement& at) {
            const Eigen::Isometry3d pose = model::poseVehicleDonor(at, donor);
            const Vector3d flange = pose * Vector3d(620, 0, -20), axis = pose.linear() * Vector3d::UnitX();
            model::CouplingTry t;
            t.id = "t";
            for (int turn = 0; turn < 4; ++turn)
                for (int clock = 0; clock < 8; ++clock)
                    for (const bool rim : {false, true}) {
                        const double phi = clock * 45 * deg, psi = (clock * 45 - turn * 90) * deg;
                        const Vector3d out(0, std::sin(phi), std::cos(phi)); // clockwise from the top, seen from behind
                        model::CouplingReading r;
                        r.rim = rim;
                        r.clock_deg = clock * 45;
                        r.turn_deg = turn * 90;
                        // Distance along x between the two planes over this place; or how far out the shaft's rim is.
                        const auto plane = [&](const Vector3d& n) { return -n.dot(out * radius_mm) / n.x(); };
                        r.mm = rim ? out.dot(wanted - flange) : 10 + plane(shaft_axis) - plane(axis);
                        r.mm += 0.4 * std::cos(psi); // runout
                        t.readings.push_back(r);
                    }
            return t;
        };
        model::CouplingCheck coupling;
        coupling.id = "disc";
        coupling.line = "rear";
        coupling.radius_mm = radius_mm;
        coupling.tries = {read(placement)};
        const CouplingReport report = judgeCoupling(project, coupling, book());
        const CouplingTryReport& before = report.tries.back();
        QVERIFY(std::abs(*before.tilt_deg - std::hypot(0.4, 0.6)) < 0.01);
        QVERIFY(std::abs(*before.offset_mm - std::hypot(1.2, 2.5)) < 0.05);
        QVERIFY(before.both);
        const auto moved = placementMoved(project, report, *before.both);
        QVERIFY(moved.ok());
        const CouplingTryReport after = [&] {
            model::CouplingCheck again = coupling;
            again.tries = {read(moved.value())};
            return judgeCoupling(project, again, book()).tries.back();
        }();
        QVERIFY2(*after.tilt_deg < 0.005, qPrintable(QString::number(*after.tilt_deg)));
        QVERIFY2(*after.offset_mm < 0.03, qPrintable(QString::number(*after.offset_mm)));

        // The gearbox mount alone squares the faces, and shifts the flange as it said.
        const auto alone = placementMoved(project, report, *before.gearbox_alone);
        model::CouplingCheck again = coupling;
        again.tries = {read(alone.value())};
        const CouplingTryReport squared = judgeCoupling(project, again, book()).tries.back();
        QVERIFY(*squared.tilt_deg < 0.005);
        QVERIFY(std::abs(*squared.offset_mm - *before.offset_left_mm) < 0.1);
        QVERIFY(*squared.offset_mm > 5); // it shifts a lot
    }
    void verdictsGoByAccuracy() {
        std::mt19937 random(7);
        const auto verdict = [&](double tilt_deg, double noise) {
            const double mm = radius_mm * std::tan(tilt_deg * deg);
            return judgeCoupling({}, couplingOf(readings(8, 4, {mm, 0}, {0.2, 0}, noise, random)), book())
                .checks[0]
                .verdict;
        };
        QCOMPARE(verdict(0.2, 0.005), model::Verdict::Go);
        QCOMPARE(verdict(0.7, 0.005), model::Verdict::Close);
        QCOMPARE(verdict(1.2, 0.005), model::Verdict::NoGo);
        QCOMPARE(verdict(0.45, 2.0) == model::Verdict::Go, false); // so much scatter proves nothing
    }
};

GABARIT_SUITE(CouplingTest)
#include "coupling_test.moc"
