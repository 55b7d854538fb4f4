// The mounts in the file: written and read again, moved with the datum, renamed with the donor, refused when they
// cannot be.
#include "model/datum.h"
#include "model/edit.h"
#include "mounts/mounts.h"
#include "mounts/section/mounts.h"
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

Project bench() { return demo("mount-bench"); }
/// Every member away from its default.
Project full() {
    Project p = bench();
    Mounts& m = p.sections.edit<Mounts>();
    Mount& first = m.mounts[0];
    first.at = MountAt::Other;
    first.centre_mm = Vector3d(1, 2, 3);
    first.axis = Vector3d(0, 0.6, 0.8);
    first.made = MountMade::SisterPart;
    first.note = "from the estate";
    first.pad.measured.who = "R. Oake";
    first.stand->through = true;
    first.stand->metal = Metal::CastIron;
    first.stand_bolts = {3.0,  40.0, 12.0,      26.0,         "10.9", Treatment::AntiSeize, "salt", 55.0,
                         22.0, 24.0, "R. Oake", "2026-05-02", {}};
    Isolator own;
    own.id = "own";
    own.name = "Own";
    own.material = "rubber";
    own.axial_n_per_mm = 300;
    own.shear_rating_n = 410;
    own.shear_n_per_mm = 80;
    own.shear2_n_per_mm = 120;
    own.stop_in_mm = 0; // resting on it is not the same as having none
    own.captive = true;
    m.isolators = {own};
    Bracket bracket;
    bracket.form = BracketForm::Folded;
    bracket.tube_mm = 60;
    bracket.wall_mm = 5;
    bracket.plate_mm = 10;
    bracket.gusset_mm = 0; // none is not the same as the book's
    bracket.throat_mm = 4;
    bracket.slot_mm = 6;
    bracket.dowel_mm = 8;
    bracket.yield_mpa = 355;
    bracket.via_mm = {{-300, -250, 10}};
    bracket.bodies = {"left-bracket", "left-bracket-arm"};
    bracket.part = "left-bracket";
    first.bracket = bracket;
    bracket.form = BracketForm::Flat;
    bracket.via_mm = {{200, -300, 640}};
    first.tower = bracket;
    first.frame = "frame";
    first.options = {{MountMade::Kept, "As it is", 12.0, "rust", {}}};
    first.holds = {
        {Hold::FittedAgain, "2026-05-03", "R. Oake", "tight", {{"bench-four/block", "Block", "abc", {}}}, {}}};
    m.rows = {{"row", "Row", {900, -337, 455}, {50, 0, 1}, 6, 13.0, 6.0, 1.0, {}, "outer", {}}};
    Crossmember crossmember;
    crossmember.id = "bar";
    crossmember.name = "Bar";
    crossmember.mount = "rear";
    crossmember.left_row = crossmember.right_row = "row";
    crossmember.seat_mm = {3, 0, 25};
    crossmember.slot_mm = 9;
    crossmember.depth_mm = 40;
    crossmember.own = true;
    crossmember.body.text = "bar";
    crossmember.passages = {{"exhaust", {230, 380}, 70, {}}};
    m.crossmembers = {crossmember};
    OldSeat seat;
    seat.id = seat.name = "seat";
    seat.face.at_mm = {100, -300, 500};
    seat.face.thread_mm = 12;
    m.seats = {seat};
    SeatFrame frame;
    frame.id = frame.name = "frame";
    frame.seats = {"seat"};
    frame.members_mm = {{{100, -300, 500}, {100, 300, 500}}, {{100, 0, 500}, {600, 0, 400}, {700, 0, 400}}};
    frame.width_mm = 40;
    frame.height_mm = 60;
    frame.wall_mm = 3;
    frame.bodies = {"frame-1"};
    m.frames = {frame};
    m.old_mounts = {{"old", "Old", BodyId{"stub"}, "seat", OldState::Gone, "2026-05-01", "R. Oake", "drilled", {}}};
    m.inertia = Inertia{{4, 9, 8}, {0.1, 0.2, -0.3}, "swung", {}};
    m.running->layout = Cylinders::Vee;
    m.running->two_stroke = m.running->balance_shafts = true;
    m.torque_nm = 210;
    m.reacts_axle_torque = m.transfer_on_unit = true;
    return p;
}

} // namespace

class MountsFileTest : public QObject {
    Q_OBJECT
private slots:
    void everythingComesBack() {
        const Project before = full(), after = again(before);
        QCOMPARE(QString::fromStdString(store::projectText(after)), QString::fromStdString(store::projectText(before)));
        QCOMPARE(wrong(before), QString());
        const Mount& m = after.sections.get<Mounts>()->mounts[0];
        QCOMPARE(m.at, MountAt::Other);
        QCOMPARE(m.made, MountMade::SisterPart);
        QCOMPARE(m.pad.holes_mm.size(), std::size_t(4));
        QCOMPARE(m.pad.metal, Metal::Aluminium);
        QCOMPARE(m.pad.measured.who, std::string("R. Oake"));
        QVERIFY(m.stand->through && m.stand->metal == Metal::CastIron);
        QCOMPARE(m.stand_bolts.treatment, Treatment::AntiSeize);
        QCOMPARE(*m.stand_bolts.torque_nm, 55.0);
        QCOMPARE(*after.sections.get<Mounts>()->isolators[0].stop_in_mm, 0.0);
        QVERIFY(!after.sections.get<Mounts>()->isolators[0].stop_out_mm);
        QCOMPARE(after.sections.get<Mounts>()->inertia->products_kg_m2.z(), -0.3);
        QCOMPARE(*m.bracket->gusset_mm, 0.0);
        QCOMPARE(m.bracket->form, BracketForm::Folded);
        QCOMPARE(m.tower->form, BracketForm::Flat);
        QVERIFY(m.bracket->via_mm.at(0) == Vector3d(-300, -250, 10));
        QCOMPARE(m.holds.at(0).hold, Hold::FittedAgain);
        QCOMPARE(m.holds[0].basis.at(0).mark, std::string("abc"));
        QCOMPARE(after.sections.get<Mounts>()->crossmembers.at(0).passages.at(0).at_mm.y(), 380.0);
        QVERIFY(after.sections.get<Mounts>()->crossmembers[0].own);
        QCOMPARE(after.sections.get<Mounts>()->frames.at(0).members_mm.at(1).size(), std::size_t(3));
        QCOMPARE(after.sections.get<Mounts>()->old_mounts.at(0).state, OldState::Gone);
        QVERIFY(after.sections.get<Mounts>()->running->two_stroke && after.sections.get<Mounts>()->reacts_axle_torque);
    }
    void whatIsUnknownIsKept() {
        const std::string text =
            R"({"format": "gabarit-project", "version": 2, "name": "x", "mounts": {"colour": "red", "mounts": [{"id": "a",
            "name": "A", "pad": {"paint": 1}, "pad_bolts": {"washer": "wave"}}], "isolators": [{"id": "i", "name": "I",
            "axial_n_per_mm": 1, "shear_n_per_mm": 1, "shore": 45}]}})";
        const Project read = store::projectFromText(text, "text", book()).value().project;
        const std::string out = store::projectText(read);
        for (const char* member : {"\"colour\": \"red\"", "\"paint\": 1", "\"washer\": \"wave\"", "\"shore\": 45"})
            QVERIFY2(out.find(member) != std::string::npos, member);
    }
    void itFollowsDatumAndName() {
        const Project p = bench();
        const auto before = mounts::judgeMounts(p, book(), {});
        const auto after = mounts::judgeMounts(withDatumMoved(p, 214, "other", "rail"), book(), {});
        QVERIFY(before->usable && after->usable);
        for (std::size_t i = 0; i < before->mounts.size(); ++i) {
            QVERIFY((before->mounts[i].at_mm - Vector3d(0, 0, 214) - after->mounts[i].at_mm).norm() < 1e-9);
            QVERIFY(std::abs(*before->mounts[i].rest_n - *after->mounts[i].rest_n) <
                    1e-6);
        }
        DonorId id;
        const Project renamed = withDonorNamed(p, p.donors[0].id, "Second unit", id);
        QCOMPARE(renamed.sections.get<Mounts>()->mounts[0].pad.owner, id.text);
        QVERIFY(mounts::judgeMounts(renamed, book(), {})->usable);
    }
    void theCatalogueIsSound() {
        QVERIFY(book().isolators.size() >= 5);
        Project p = bench();
        p.sections.edit<Mounts>().isolators = book().isolators;
        QCOMPARE(wrong(p), QString());
        for (const Isolator& isolator : book().isolators) {
            QVERIFY2(!isolator.source.empty() && isolator.height_mm, isolator.id.c_str());
            QVERIFY(isolator.axial_n_per_mm > 0 && isolator.shear_n_per_mm > 0);
        }
    }
    void whatCannotBeIsNamed_data() {
        QTest::addColumn<int>("what");
        QTest::addColumn<QString>("words");
        const char* const words[] = {"used twice",     "no direction", "out of the face", "axial_n_per_mm",
                                     "not above zero", "together",     "thread_mm",       "idle_rpm",
                                     "below 1 km",     "damping",      "length_mm",       "driven_axle_kg",
                                     "stop_in_mm"};
        int i = 0;
        for (const char* word : words) QTest::newRow(word) << i++ << QString::fromLatin1(word);
    }
    void whatCannotBeIsNamed() {
        QFETCH(int, what);
        QFETCH(QString, words);
        Project p = full();
        Mounts& m = p.sections.edit<Mounts>();
        switch (what) {
        case 0: m.mounts[1].id = m.mounts[0].id; break;
        case 1: m.mounts[0].pad.out.setZero(); break;
        case 2: m.mounts[0].pad.mark = m.mounts[0].pad.out * 2; break;
        case 3: m.isolators[0].axial_n_per_mm = -1; break;
        case 4: m.inertia->moments_kg_m2.x() = 0; break;
        case 5: m.inertia->moments_kg_m2 = {1, 2, 9}; break;
        case 6: m.mounts[0].pad.thread_mm = 0; break;
        case 7: m.running->idle_rpm = 0; break;
        case 8: m.mounts[0].centre_mm = Vector3d(0, 1e9, 0); break;
        case 9: m.isolators[0].damping = 2; break;
        case 10: m.mounts[0].pad_bolts.length_mm = -4; break;
        case 11: m.driven_axle_kg = -1; break;
        case 12: m.isolators[0].stop_in_mm = -3; break;
        }
        QVERIFY2(wrong(p).contains(words), qPrintable(wrong(p)));
        QVERIFY(wrong(p).contains(QStringLiteral("mounts")));
    }
};

GABARIT_SUITE(MountsFileTest)
#include "mounts_file_test.moc"
