// The relief in the file: written and read again, followed when bodies are renamed or go, refused when it cannot be.
#include "model/edit.h"
#include "mounts/section/mounts.h"
#include "relief/section/relief.h"
#include "support/files.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::Vector2d;
using Eigen::Vector3d;
using tests::again;

namespace {

const RuleBook& book() { return store::defaultRuleBook(); }
/// What is said of a file with this relief.
std::string said(const std::string& relief) {
    const auto read = store::projectFromText(
        R"({"format": "gabarit-project", "version": 1, "name": "P", "relief": )" + relief + "}", "p.gabarit", book());
    return read ? "" : read.error().line();
}

/// Every member away from its default.
Project full() {
    Project p;
    p.name = "P";
    p.vehicle.emplace();
    Body body;
    body.id.text = "crossmember";
    body.name = "Crossmember";
    body.category = "crossmember";
    body.shape = ProfileSpec{RoundTubeSection{76, 4}, Vector3d(0, -300, 0), Vector3d(0, 300, 0), 12};
    p.vehicle->bodies = {body};
    Donor donor;
    donor.id.text = "unit";
    donor.name = "Unit";
    Body sump;
    sump.id.text = "sump";
    sump.name = "Sump";
    sump.category = "sump";
    sump.shape = BoxSpec{{10, 10, 10}};
    donor.bodies = {sump};
    p.donors = {donor};
    p.sections.edit<Relief>();
    Pocket pocket;
    pocket.id = "pocket";
    pocket.name = "Pocket";
    pocket.body.text = "crossmember";
    pocket.form = PocketForm::HalfRound;
    pocket.intruders = {{"unit", {"sump"}}};
    pocket.at_mm = {1, 2, 38};
    pocket.along = {0, 1, 0.5};
    pocket.length_mm = 60, pocket.width_mm = 50, pocket.depth_mm = 20, pocket.flank_deg = 3, pocket.corner_mm = 4;
    pocket.plate_mm = 5, pocket.doubler_mm = 6, pocket.doubler_over_mm = 40;
    pocket.material = "stainless";
    pocket.open = pocket.set_aside = true;
    pocket.measured_length_mm = 61;
    pocket.measured_width_mm = 51;
    pocket.measured_depth_mm = 21;
    pocket.part = "plate";
    pocket.note = "from above";
    HoldSigned hold;
    hold.hold = Hold::Welded;
    hold.date = "2026-05-17";
    hold.who = "R. Oake";
    hold.basis = {{"unit/sump", "Sump", "00ff", {}}};
    pocket.holds = {hold};
    p.sections.edit<Relief>().pockets = {pocket};
    p.sections.edit<Relief>().holes = {
        {"drain", "Drain", KeptKind::Access, {"crossmember"}, {4, 5, 6}, 12, "kept", {}}};
    CutTube tube;
    tube.id = "brace";
    tube.name = "Brace";
    tube.diameter_mm = 42, tube.wall_mm = 3, tube.length_mm = 480;
    tube.first = {EndOnto::Tube, 76, 55, -8, 15, {}};
    tube.second = {EndOnto::Plate, 0, 60, 0, -20, {}};
    tube.count = 2;
    tube.material = "steel";
    tube.note = "both sides";
    p.sections.edit<Relief>().tubes = {tube};
    PatternPlate plate;
    plate.id = "blank";
    plate.name = "Blank";
    plate.use = PlateUse::Adapter;
    plate.from = "left/pad", plate.to = "left/stand";
    plate.turn_deg = 30;
    plate.to_mm = {7, -8};
    plate.holes = {{"bore", Vector2d(1, 2), 30, true, {}}};
    plate.thickness_mm = 8, plate.edge_mm = 10, plate.replaces_mm = 20, plate.seal_mm = 1, plate.bolt_mm = 45;
    plate.material = "aluminium";
    plate.count = 2;
    plate.note = "test it";
    p.sections.edit<Relief>().plates = {plate};
    return p;
}

} // namespace

class ReliefFileTest : public QObject {
    Q_OBJECT
private slots:
    void everyMemberComesBack() {
        const Project p = full();
        const Project q = again(p);
        const Pocket &a = p.sections.get<Relief>()->pockets[0], &b = q.sections.get<Relief>()->pockets[0];
        QCOMPARE(pocketKey(b), pocketKey(a));
        QVERIFY(b.intruders == a.intruders && b.body == a.body && b.open && b.set_aside);
        QCOMPARE(*b.measured_length_mm, 61.0);
        QCOMPARE(*b.measured_width_mm, 51.0);
        QCOMPARE(*b.measured_depth_mm, 21.0);
        QCOMPARE(b.part, a.part);
        QCOMPARE(b.note, a.note);
        QVERIFY(b.holds.size() == 1 && b.holds[0].hold == Hold::Welded && b.holds[0].basis[0].mark == "00ff");
        QCOMPARE(shapeKey(q.vehicle->bodies[0].shape), shapeKey(p.vehicle->bodies[0].shape));
        const KeptHole& hole = q.sections.get<Relief>()->holes[0];
        QVERIFY(hole.kind == KeptKind::Access && hole.diameter_mm == 12 && hole.at_mm == Vector3d(4, 5, 6));
        const CutTube& tube = q.sections.get<Relief>()->tubes[0];
        QVERIFY(tube.first.onto == EndOnto::Tube && tube.first.diameter_mm == 76 && tube.first.angle_deg == 55);
        QVERIFY(tube.first.offset_mm == -8 && tube.first.turn_deg == 15 && tube.second.turn_deg == -20);
        QVERIFY(tube.second.onto == EndOnto::Plate && *tube.count == 2 && tube.note == "both sides");
        const PatternPlate& plate = q.sections.get<Relief>()->plates[0];
        QVERIFY(plate.use == PlateUse::Adapter && plate.from == "left/pad" && plate.to == "left/stand");
        QVERIFY(plate.turn_deg == 30 && plate.to_mm == Vector2d(7, -8) && plate.holes[0].at_mm == Vector2d(1, 2));
        QVERIFY(plate.holes[0].tapped && *plate.replaces_mm == 20 && *plate.seal_mm == 1 && *plate.bolt_mm == 45);
        QVERIFY(*plate.edge_mm == 10 && *plate.thickness_mm == 8 && plate.material == "aluminium");
    }

    void renamedAndGone() {
        BodyId id;
        Project p = withBodyNamed(full(), {vehicle_owner, {"crossmember"}}, "Front beam", id);
        QCOMPARE(p.sections.get<Relief>()->pockets[0].body.text, id.text);
        QCOMPARE(p.sections.get<Relief>()->holes[0].body.text, id.text);
        p = withBodyNamed(p, {"unit", {"sump"}}, "Deep sump", id);
        QCOMPARE(p.sections.get<Relief>()->pockets[0].intruders[0].body.text, id.text);
        QCOMPARE(p.sections.get<Relief>()->pockets[0].holds[0].basis[0].item, "unit/" + id.text);
        DonorId donor;
        p = withDonorNamed(p, {"unit"}, "Six", donor);
        QCOMPARE(p.sections.get<Relief>()->pockets[0].intruders[0].owner, donor.text);
        p = withoutBody(p, {donor.text, id});
        QVERIFY(p.sections.get<Relief>()->pockets[0].intruders.empty());
        p = withoutBody(p, {vehicle_owner, p.sections.edit<Relief>().pockets[0].body});
        QVERIFY(p.sections.get<Relief>()->pockets.empty() && p.sections.get<Relief>()->holes.empty());
    }

    void whatCannotBeIsSaid() {
        const auto says = [](const std::function<void(Relief&)>& spoil, const char* word) {
            Project p = full();
            spoil(p.sections.edit<Relief>());
            for (const Error& error : validate(p, book()))
                if (error.line().find(word) != std::string::npos) return true;
            return false;
        };
        QVERIFY(validate(full(), book()).empty());
        QVERIFY(says([](Relief& r) { r.pockets[0].depth_mm = 0; }, "depth_mm"));
        QVERIFY(says([](Relief& r) { r.pockets[0].flank_deg = 88; }, "flank_deg"));
        QVERIFY(says([](Relief& r) { r.pockets[0].along = r.pockets[0].into; }, "along"));
        QVERIFY(says([](Relief& r) { r.pockets[0].into.setZero(); }, "into"));
        QVERIFY(says([](Relief& r) { r.holes[0].id = "pocket"; }, "used twice"));
        QVERIFY(says([](Relief& r) { r.tubes[0].wall_mm = 21; }, "half the tube"));
        QVERIFY(says([](Relief& r) { r.tubes[0].first.angle_deg = 3; }, "angle_deg"));
        QVERIFY(says([](Relief& r) { r.plates[0].holes[0].diameter_mm = -1; }, "bore"));
        Project thick = full();
        std::get<RoundTubeSection>(std::get<ProfileSpec>(thick.vehicle->bodies[0].shape).section).wall_mm = 38;
        QVERIFY(!validate(thick, book()).empty());
    }

    void wrongFilesNameThePlace() {
        QVERIFY(said(R"({"pockets": [{"id": "a", "name": "A", "body": "b", "form": "hexagon"}]})")
                    .find("relief.pockets[0].form") != std::string::npos);
        QVERIFY(said(R"({"tubes": [{"id": "a", "name": "A", "diameter_mm": "42"}]})").find("diameter_mm") !=
                std::string::npos);
        QVERIFY(said(R"({"pockets": [{"id": "a", "name": "A", "body": "b", "form": "box", "intruders": ["sump"]}]})")
                    .find("names no body") != std::string::npos);
    }
};

GABARIT_SUITE(ReliefFileTest)
#include "relief_file_test.moc"
