// The driveline and the gearing in the file: written and read again, moved with the datum, renamed with the donor,
// refused when they cannot be.
#include "driveline/driveline.h"
#include "driveline/section/driveline.h"
#include "gearing/section/gearing.h"
#include "model/datum.h"
#include "model/edit.h"
#include "support/files.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::Vector3d;
using tests::again;
using tests::demo;
using tests::wrong;

namespace {

const RuleBook& book() { return store::defaultRuleBook(); }

/// Every member away from its default.
Project full() {
    Project p;
    p.name = "all of it";
    p.sections.edit<Driveline>();
    ShaftLine line;
    line.id = "front";
    line.name = "Front shaft";
    line.run = Run::Forward;
    line.from = {"vehicle", {}, {900, -200, 540}, 30, 2.5, -1.25, 1.5, 0.2, {}, "by the transfer case", {}};
    line.from.measured.who = "R. Oake";
    line.to.point.text = "pinion";
    line.path.kind = PathKind::Axle;
    line.path.bump_mm = 80;
    line.path.droop_mm = 70;
    line.path.centre_mm = {0, 0, 360};
    line.path.axis_a_mm = {1, 2, 3};
    line.path.axis_b_mm = {4, 5, 6};
    line.path.links = {{PathLinkKind::Arm, {500, 300, 330}, {20, 300, 320}, {}},
                       {PathLinkKind::Torque, {0, 0, 0}, {600, 0, 420}, {}}};
    line.path.windup_up_deg = 3;
    line.path.windup_down_deg = 1.5;
    line.path.windup_source = "measured";
    line.joints = {{"At the case", JointKind::DoubleCardan, 30, "marked", {}},
                   {"At the pinion", JointKind::Cardan, {}, "", {}}};
    Shaft shaft;
    shaft.name = "Shaft";
    shaft.phase_deg = 12;
    shaft.tube_mm = 50.8;
    shaft.wall_mm = 2.4;
    shaft.closed_mm = 600;
    shaft.spline_mm = 90;
    shaft.spline_diameter_mm = 35;
    shaft.accuracy_mm = 1;
    shaft.to_make = true;
    line.shafts = {shaft};
    line.half_shaft = true;
    line.top_rpm = 3100;
    line.note = "note";
    p.sections.edit<Driveline>().lines.push_back(line);
    CouplingCheck coupling;
    coupling.id = "disc";
    coupling.name = "Disc";
    coupling.line = "front";
    coupling.radius_mm = 52;
    coupling.rim_from_shaft = true;
    coupling.to_front_mounts_mm = 900;
    coupling.to_gearbox_mount_mm = 150;
    CouplingTry t;
    t.id = "one";
    t.name = "First";
    t.date = "2026-05-02";
    t.who = "T. Ash";
    t.slope_deg = 0.4;
    t.readings = {{true, 90, 180, 14.2, 0.03, "calliper", "2026-05-02T10:00:00", "called", {}}};
    coupling.tries = {t};
    p.sections.edit<Driveline>().couplings = {coupling};
    p.sections.edit<Driveline>().readings = {
        {"r", "pinion", "front", true, 3.5, 0.8, 0.1, "gauge", "2026-05-02T10:00:00", "", {}}};
    Interface interface;
    interface.id = "i";
    interface.name = "Interface";
    interface.kind = InterfaceKind::Flange;
    interface.a = {"a", 4, 80, 57, 10, 92, 40, "n", {}};
    interface.b.count = 6;
    interface.adapter = "ring";
    p.sections.edit<Driveline>().interfaces = {interface};
    p.sections.edit<Driveline>().bell.emplace();
    p.sections.edit<Driveline>().bell->adapter_plate = {0, 0};
    p.sections.edit<Driveline>().bell->pilot_mouth = {-1.5, 0.2};
    p.sections.edit<Driveline>().bell->starter_from_behind = true;
    p.sections.edit<Driveline>().bell->overhung_kg = 2;
    p.sections.edit<Driveline>().checked_rpm = 2800;
    p.sections.edit<Gearing>();
    p.sections.edit<Gearing>().gears = {{"1", 3.9, false, {}}, {"R", 3.6, true, {}}};
    p.sections.edit<Gearing>().transfer_high = 1.1;
    p.sections.edit<Gearing>().transfer_low = 2.4;
    p.sections.edit<Gearing>().final_drive = 4.1;
    p.sections.edit<Gearing>().tyre = "31x10.50R15";
    p.sections.edit<Gearing>().max_rpm = 5200;
    p.sections.edit<Gearing>().mass_kg = 1500;
    p.sections.edit<Gearing>().torque = {{2000, 250, {}}};
    p.sections.edit<Gearing>().loss = 0.18;
    p.sections.edit<Gearing>().cruise_kmh = 90;
    p.sections.edit<Gearing>().wanted_cruise_rpm = 2200;
    p.sections.edit<Gearing>().original = OriginalVehicle{"saloon", 1400, "205/65R15", 3.4, {}};
    p.sections.edit<Gearing>().speedo_tyre = "7.00-16";
    p.sections.edit<Gearing>().speedo_final_drive = 4.3;
    return p;
}

} // namespace

class DrivelineFileTest : public QObject {
    Q_OBJECT
private slots:
    void everythingComesBack() {
        const Project before = full(), after = again(before);
        QCOMPARE(QString::fromStdString(store::projectText(after)), QString::fromStdString(store::projectText(before)));
        QCOMPARE(wrong(before), QString());
        const ShaftLine& line = after.sections.get<Driveline>()->lines.front();
        QCOMPARE(line.run, Run::Forward);
        QCOMPARE(line.from.down_deg, 2.5);
        QCOMPARE(line.from.measured.who, std::string("R. Oake"));
        QCOMPARE(line.to.owner, std::string("vehicle"));
        QCOMPARE(line.path.links[1].kind, PathLinkKind::Torque);
        QVERIFY(line.path.links[1].moving_mm == Vector3d(600, 0, 420));
        QCOMPARE(*line.joints[0].max_deg, 30.0);
        QVERIFY(line.shafts[0].to_make && line.half_shaft);
        QVERIFY(after.sections.get<Driveline>()->couplings[0].tries[0].readings[0].rim);
        QVERIFY(after.sections.get<Driveline>()->readings[0].at_far_end);
        QCOMPARE(*after.sections.get<Driveline>()->bell->adapter_plate.mm, 0.0); // none is not the same as not known
        QVERIFY(!after.sections.get<Driveline>()->bell->clutch.mm);
        QCOMPARE(after.sections.get<Gearing>()->transfer_high, 1.1);
        QVERIFY(after.sections.get<Gearing>()->gears[1].reverse);
        QCOMPARE(*after.sections.get<Gearing>()->original->final_drive, 3.4);
    }
    void whatIsUnknownIsKept() {
        const std::string text =
            R"({"format": "gabarit-project", "version": 2, "name": "x", "driveline": {"colour": "red",
            "lines": [{"id": "a", "name": "A", "run": "rearward", "from": {"paint": 1}, "to": {},
            "joints": [{"kind": "cardan", "grease": "yes"}]}]}, "gearing": {"gears": [{"name": "1", "ratio": 3, "syn": true}]}})";
        const Project read = store::projectFromText(text, "text", book()).value().project;
        const std::string out = store::projectText(read);
        for (const char* member : {"\"colour\": \"red\"", "\"paint\": 1", "\"grease\": \"yes\"", "\"syn\": true"})
            QVERIFY2(out.find(member) != std::string::npos, member);
    }
    void heightsFollowTheDatum() {
        for (const char* name : {"harrow-tarn", "skerry-quad", "pell-wren", "shaft-bench"}) {
            Project p = demo(name);
            if (!p.vehicle) p.vehicle.emplace().name = "none";
            const auto before = driveline::driveline(p, book());
            const auto after = driveline::driveline(withDatumMoved(p, 214, "other", "rail"), book());
            QCOMPARE(after->lines.size(), before->lines.size());
            for (std::size_t l = 0; l < before->lines.size(); ++l) {
                QVERIFY(after->lines[l].usable);
                for (std::size_t c = 0; c < before->lines[l].checks.size(); ++c) {
                    const auto &x = before->lines[l].checks[c].value, &y = after->lines[l].checks[c].value;
                    QCOMPARE(x.has_value(), y.has_value());
                    QVERIFY2(!x || std::abs(*x - *y) < 1e-4 * std::max(1.0, std::abs(*x)),
                             before->lines[l].checks[c].id.c_str());
                }
                QVERIFY(std::abs(after->lines[l].ride.joints_mm[0].z() + 214 - before->lines[l].ride.joints_mm[0].z()) <
                        1e-9);
            }
        }
    }
    void aRenamedDonorKeepsItsLines() {
        DonorId id;
        Project made = demo("pell-wren");
        made.donors[0].id.text = freshId(made.donors[0].name, {}); // an id that was made from the name follows it
        for (ShaftLine& line : made.sections.edit<Driveline>().lines) line.from.owner = made.donors[0].id.text;
        for (Placement& placement : made.placements) placement.donor = made.donors[0].id;
        const Project renamed = withDonorNamed(made, made.donors[0].id, "Second unit", id);
        QCOMPARE(id.text, std::string("second-unit"));
        for (const ShaftLine& line : renamed.sections.get<Driveline>()->lines)
            QCOMPARE(line.from.owner, std::string("second-unit"));
        QVERIFY(driveline::driveline(renamed, book())->lines[0].usable);
    }
    void anotherDonorsLinesWait() {
        Project p = demo("harrow-tarn");
        QCOMPARE(driveline::driveline(p, book())->lines.front().id, std::string("rear"));
        activePlacement(p)->taken.push_back({"ostrel-six/gearbox", "automatic", {}});
        const auto automatic = driveline::driveline(p, book());
        QCOMPARE(automatic->lines.size(), std::size_t(1));
        QCOMPARE(automatic->lines.front().id, std::string("rear-automatic"));
        QVERIFY(automatic->lines.front().usable);
        // 50 mm longer: the shaft to make is shorter by nearly that.
        QVERIFY(automatic->lines.front().slips[0].order_closed_mm < 960);
    }
    void aLineOfAnOptionWaitsForIt() {
        Project p = demo("pell-wren");
        const std::size_t all = driveline::driveline(p, book())->lines.size();
        p.vehicle->choices.push_back({"shaft", "Shaft", {{"old", "old", "", {}}, {"made", "made", "", {}}}, {}});
        ShaftLine& line = p.sections.edit<Driveline>().lines.front();
        const std::string id = line.id;
        line.option = "vehicle/shaft/made";
        QVERIFY2(wrong(p).isEmpty(), qPrintable(wrong(p)));
        QCOMPARE(driveline::driveline(p, book())->lines.size(), all - 1);
        activePlacement(p)->taken.push_back({"vehicle/shaft", "made", {}});
        QCOMPARE(driveline::driveline(p, book())->lines.size(), all);
        line.option = "vehicle/shaft/none";
        QVERIFY(wrong(p).contains(QStringLiteral("no option")) && wrong(p).contains(QString::fromStdString(line.name)));
        line.option = "made";
        QVERIFY(wrong(p).contains(QStringLiteral("no option \"made\"")));
        line.option = p.donors[0].id.text + "/shaft/made"; // goes with its donor
        QVERIFY(withoutDonor(p, p.donors[0].id).sections.get<Driveline>()->lines.front().option.empty());
    }
    void theGearingTellsTheShaftsSpeed() {
        Project p = demo("shaft-bench");
        const ShaftLine& line = p.sections.edit<Driveline>().lines.front();
        QVERIFY(std::abs(*driveline::topSpeed_rpm(p, line) - 6200 / 0.81) < 1e-6);
        ShaftLine half = line;
        half.half_shaft = true;
        QVERIFY(std::abs(*driveline::topSpeed_rpm(p, half) - 6200 / 0.81 / 3.54) < 1e-6);
        p.sections.edit<Gearing>().max_rpm.reset();
        QVERIFY(!driveline::topSpeed_rpm(p, line));
        p.sections.edit<Driveline>().checked_rpm = 3000;
        QCOMPARE(*driveline::driveline(p, book())->lines[0].speed_rpm, 3000.0);
    }
    void whatCannotBeIsNamed_data() {
        QTest::addColumn<int>("what");
        QTest::addColumn<QString>("words");
        const char* const names[] = {
            "id used twice",    "slash in id", "steep flange",   "far away", "negative tube", "too many joints",
            "three links",      "drive",       "ratio",          "loss",     "reading",       "teeth",
            "droop below zero", "wind-up",     "try without id", "bell"};
        const char* const words[] = {"used twice", "holds a slash", "down_deg",    "below 1 km",
                                     "tube_mm",    "8 joints",      "2 links",     "0.05 and 200",
                                     "ratio",      "loss",          "clock_deg",   "count",
                                     "droop_mm",   "windup_up_deg", "id is empty", "clutch"};
        for (int i = 0; i < 16; ++i) QTest::newRow(names[i]) << i << QString::fromLatin1(words[i]);
    }
    void whatCannotBeIsNamed() {
        QFETCH(int, what);
        QFETCH(QString, words);
        Project p = full();
        ShaftLine& line = p.sections.edit<Driveline>().lines[0];
        switch (what) {
        case 0: p.sections.edit<Driveline>().couplings[0].id = "front"; break;
        case 1: line.id = "a/b"; break;
        case 2: line.from.down_deg = 89; break;
        case 3: line.to.at_mm.x() = 1e9; break;
        case 4: line.shafts[0].tube_mm = -3; break;
        case 5: line.joints.resize(12); break;
        case 6: line.path.links.resize(3); break;
        case 7: p.sections.edit<Gearing>().final_drive = 900; break;
        case 8: p.sections.edit<Gearing>().gears[0].ratio = 0; break;
        case 9: p.sections.edit<Gearing>().loss = 1.5; break;
        case 10: p.sections.edit<Driveline>().couplings[0].tries[0].readings[0].clock_deg = 1e6; break;
        case 11: p.sections.edit<Driveline>().interfaces[0].a.count = 0; break;
        case 12: line.path.droop_mm = -5; break;
        case 13: line.path.windup_up_deg = 200; break;
        case 14: p.sections.edit<Driveline>().couplings[0].tries[0].id.clear(); break;
        case 15: p.sections.edit<Driveline>().bell->clutch = {NAN, 0}; break;
        }
        QVERIFY2(wrong(p).contains(words), qPrintable(wrong(p)));
        QVERIFY(wrong(p).contains(QStringLiteral("driveline")) || wrong(p).contains(QStringLiteral("gearing")));
    }
};

GABARIT_SUITE(DrivelineFileTest)
#include "driveline_file_test.moc"
