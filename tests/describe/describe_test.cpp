// Every member of every structure, by what its description says: written and read back, marked, checked, followed.
#include "describe/check.h"
#include "describe/outline.h"
#include "describe/walks.h"
#include "driveline/section/driveline.h"
#include "gearing/section/gearing.h"
#include "model/datum.h"
#include "model/describe.h"
#include "model/edit.h"
#include "model/holds.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/suite.h"
#include "weights/section/weights.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::model;
using describe::Gone;
using describe::Member;
using describe::Target;

namespace {

const char* const demos[] = {"harrow-tarn", "mount-bench", "pell-wren", "relief-bench", "shaft-bench", "skerry-quad"};

Project demo(const std::string& name) {
    return store::readProject(GABARIT_SOURCE_DIR "/data/demo/" + name + ".gabarit", store::defaultRuleBook())
        .value()
        .project;
}

/// Gives every member a value of its own, every list two entries, every choice its last word.
class Filler : public describe::Visitor {
public:
    bool fills() const override { return true; }
    void onText(const Member& m, std::string& value) override {
        const std::string n = std::to_string(++count);
        value = m.words ? m.words->back().file : m.target == Target::BodyPath ? "o" + n + "/b" + n : "t" + n;
    }
    void onNumber(const Member& m, double& value) override { value = m.whole ? 3 : 0.25 + ++count; }
    void onOptional(const Member& m, std::optional<double>& value) override { onNumber(m, value.emplace()); }
    void onFlag(const Member&, bool& value) override { value = true, ++count; }
    void onPoint(const Member&, Eigen::Vector3d& value) override {
        ++count;
        value = {count + 0.5, count + 0.25, -1.0 * count};
    }
    void onOptional(const Member& m, std::optional<Eigen::Vector3d>& value) override { onPoint(m, value.emplace()); }
    void onPoints(const Member& m, std::vector<Eigen::Vector3d>& value) override {
        value.resize(2);
        for (Eigen::Vector3d& v : value) onPoint(m, v);
    }
    void onPoints(const Member&, std::vector<Eigen::Vector2d>& value) override {
        ++count;
        value.assign(2, {count + 0.5, count + 0.25});
    }
    void onTexts(const Member& m, std::vector<std::string>& value) override {
        value.resize(1);
        onText(m, value[0]);
    }
    void onFigures(const Member&, std::map<std::string, double>& value) override { value["s"] = ++count; }
    void onChoice(const Member&, const describe::Words& words, int& place) override {
        place = static_cast<int>(words.size()) - 1, ++count;
    }
    void onObject(const Member&, describe::Object& value) override {
        value.make();
        value.describe(*this);
    }
    void onList(const Member&, describe::List& value) override {
        value.make();
        for (std::size_t i = 0; i < 2; ++i) {
            value.add();
            value.describe(*this, i);
        }
    }
    void onForms(const Member&, const describe::Words& words, describe::Forms& value) override {
        value.become(form++ % words.size());
        value.describe(*this);
    }
    void onExtras(describe::Extras& value) override { value["x_" + std::to_string(++count)] = "[1,{\"y\":2}]"; }

    int count = 0;
    std::size_t form = 0;
};

/// Changes the leaf of a number, counted as they are met.
class Changer : public describe::Walker {
public:
    explicit Changer(int which) : which_(which) {}
    int met = 0;
    std::string key;

    void onText(const Member& m, std::string& value) override {
        if (mine(m)) value += value.empty() && m.target == Target::BodyPath ? "a/b" : "x";
    }
    using Walker::onOptional;
    void onNumber(const Member& m, double& value) override {
        if (mine(m)) value += 1;
    }
    void onFlag(const Member& m, bool& value) override {
        if (mine(m)) value = !value;
    }
    void onPoint(const Member& m, Eigen::Vector3d& value) override {
        if (mine(m)) value.y() += 1;
    }
    void onPoints(const Member& m, std::vector<Eigen::Vector3d>& value) override {
        if (mine(m)) value.push_back({1, 2, 3});
    }
    void onPoints(const Member& m, std::vector<Eigen::Vector2d>& value) override {
        if (mine(m)) value.push_back({1, 2});
    }
    void onChoice(const Member& m, const describe::Words& words, int& place) override {
        if (place >= 0 && mine(m)) place = (place + 1) % static_cast<int>(words.size());
    }

private:
    bool mine(const Member& m) {
        if (met++ != which_) return false;
        key = m.key;
        return true;
    }
    int which_;
};

std::vector<Error> wrongIn(const Project& project) { return validate(project, store::defaultRuleBook()); }

/// Puts the value of a number, counted among those with a range, beyond it.
class Exceeder : public describe::Walker {
public:
    explicit Exceeder(int which) : which_(which) {}
    int met = 0;
    std::string key;
    void onNumber(const Member& m, double& value) override {
        if (!m.high || m.whole || met++ != which_) return;
        key = m.key;
        value = 2 * *m.high + 1;
    }

private:
    int which_;
};

} // namespace

class DescribeTest : public QObject {
    Q_OBJECT
private slots:
    void aMirrorTurnsPlacesWaysAndSidesRound() {
        ServicedBolt bolt;
        bolt.at_mm = {10, 20, 30};
        bolt.along = {0, -1, 1};
        Body body;
        body.position_mm = {1, -2, 3};
        body.angles = {4, 5, 6};
        body.shape = BoxSpec{{7, 8, 9}};
        describe::Mirrorer mirror;
        describe::visit(static_cast<describe::Visitor&>(mirror), bolt);
        describe::visit(static_cast<describe::Visitor&>(mirror), body);
        QCOMPARE(bolt.at_mm, Eigen::Vector3d(10, -20, 30));
        QCOMPARE(bolt.along, Eigen::Vector3d(0, 1, 1));
        QCOMPARE(body.position_mm, Eigen::Vector3d(1, 2, 3));
        QCOMPARE(body.angles.yaw_deg, -4.0); // the turn that stays is the one in the mirror's own plane
        QCOMPARE(body.angles.pitch_deg, 5.0);
        QCOMPARE(body.angles.roll_deg, -6.0);
        QCOMPARE(std::get<BoxSpec>(body.shape).size_mm, Eigen::Vector3d(7, 8, 9)); // no side of it is below zero
    }

    void everyWordOfAChoiceIsSaid() {
        QCOMPARE(describe::said(Hold::FittedAgain), std::string("fitted again after welding"));
        QCOMPARE(describe::said(OutgoingMark::OutputFlange), std::string("output flange")); // as the file has it
        QCOMPARE(std::string(describe::inFile(OutgoingMark::OutputFlange)), std::string("output_flange"));
        QCOMPARE(describe::said(ConditionKind::Thread), std::string("damaged thread"));
    }

    void everyMemberIsWrittenAndRead() {
        for (std::size_t form = 0; form < 28; ++form) { // each shape, and each section of a profile
            Project full;
            Filler filler;
            filler.form = form;
            describe::visit(filler, full);
            QVERIFY(filler.count > 800);
            const std::string text = store::projectText(full);
            const auto back = store::projectAsWritten(text);
            QVERIFY2(back, back ? "" : back.error().line().c_str());
            QCOMPARE(store::projectText(back.value()), text);
            QVERIFY(describe::markOf(back.value()) == describe::markOf(full));
        }
    }
    void aMarkTellsEveryChange() {
        const Project before = demo("harrow-tarn");
        const std::uint64_t mark = describe::markOf(before);
        QVERIFY(describe::markOf(Project(before)) == mark);
        Changer counter(-1);
        Project counted = before;
        describe::visit(counter, counted);
        QVERIFY(counter.met > 2000);
        QVERIFY(describe::markOf(counted) == mark);
        for (int i = 0; i < counter.met; i += 7) {
            Project changed = before;
            Changer changer(i);
            describe::visit(changer, changed);
            QVERIFY2(describe::markOf(changed) != mark, changer.key.c_str());
        }
        Project noted = before;
        noted.extras["x_note"] = "1";
        QVERIFY(describe::markOf(noted) != mark);
    }
    void readingAndWritingKeepsTheMark() {
        for (const char* name : demos) {
            const Project before = demo(name);
            const auto after = store::projectAsWritten(store::projectText(before));
            QVERIFY(after);
            QVERIFY2(describe::markOf(after.value()) == describe::markOf(before), name);
        }
    }
    void whatIsBeyondItsRangeIsRefused() {
        int refused = 0;
        for (const char* name : demos) {
            const Project before = demo(name);
            QVERIFY2(wrongIn(before).empty(), name);
            Exceeder counter(-1);
            Project counted = before;
            describe::visit(counter, counted);
            for (int i = 0; i < counter.met; i += name == std::string("harrow-tarn") ? 5 : 1) {
                Project changed = before;
                Exceeder exceeder(i);
                describe::visit(exceeder, changed);
                const auto wrong = wrongIn(changed);
                const bool told = std::any_of(wrong.begin(), wrong.end(), [&](const Error& e) {
                    return e.what.find(exceeder.key) == 0 && !e.where.empty() && !e.mend.empty();
                });
                QVERIFY2(told, (std::string(name) + ": " + exceeder.key).c_str());
                ++refused;
            }
        }
        QVERIFY(refused > 200);
    }
    void aRangeIsSaidInWords() {
        const auto said = [](const Member& m, double value) { return describe::outOfRange(m, value).value_or("good"); };
        QCOMPARE(said(Member("wall_mm").size(), 2), std::string("good"));
        QCOMPARE(said(Member("wall_mm").size(), 0), std::string("wall_mm is not above zero"));
        QCOMPARE(said(Member("wall_mm").size(), 2e6), std::string("wall_mm is not a length below 1 km"));
        QCOMPARE(said(Member("slot_mm").length(), -0.5), std::string("slot_mm is below zero"));
        QCOMPARE(said(Member("mm").offset(), -2e6), std::string("mm is not a length below 1 km"));
        QCOMPARE(said(Member("loss").within(0, 0.9), 1), std::string("loss is not between 0 and 0.9"));
        QCOMPARE(said(Member("max_deg").within(0, 90), 91), std::string("max_deg is not between 0 and 90 °"));
        QCOMPARE(said(Member("axial_n_per_mm").within(0, 5), NAN), std::string("axial_n_per_mm is not a number"));
        QCOMPARE(describe::unitOf("yield_mpa"), std::string("N/mm²"));
        QCOMPARE(describe::unitOf("name"), std::string());
        QCOMPARE(describe::unitOf("mm"), std::string("mm"));
    }
    void aNewNameIsFollowedEverywhere() {
        const Project before = demo("harrow-tarn");
        const auto naming = [](const Project& project, const std::string& owner, const std::string& id) {
            int count = 0;
            Project walked = project;
            describe::References all([&](const describe::Reference& one) {
                const auto& m = one.member;
                const bool body = m.target == Target::Body && m.owner == owner && one.text == id;
                const bool path =
                    (m.target == Target::BodyPath || m.target == Target::ItemPath) && one.text == owner + "/" + id;
                count += body || path;
            });
            describe::visit(all, walked);
            return count;
        };
        int followed = 0;
        const auto each = [&](const std::string& owner, const std::vector<Body>& bodies) {
            for (const Body& body : bodies) {
                const int was = naming(before, owner, body.id.text);
                BodyId now;
                const Project renamed = withBodyNamed(before, {owner, body.id}, "Quite another", now);
                if (now == body.id) continue; // an id of its own is kept
                QCOMPARE(naming(renamed, owner, body.id.text), 0);
                QCOMPARE(naming(renamed, owner, now.text), was);
                QVERIFY(wrongIn(renamed).empty());
                followed += was;
                const Project without = withoutBody(before, {owner, body.id});
                Project walked = without;
                describe::References stale([&](const describe::Reference& one) {
                    if (one.member.gone == Gone::Stays) return;
                    QVERIFY(
                        !(one.member.target == Target::Body && one.member.owner == owner && one.text == body.id.text));
                    QVERIFY(!(one.member.target == Target::BodyPath && one.text == owner + "/" + body.id.text));
                });
                describe::visit(stale, walked);
            }
        };
        each(vehicle_owner, before.vehicle->bodies);
        for (const Donor& donor : before.donors) each(donor.id.text, donor.bodies);
        QVERIFY(followed > 20);
    }
    void copiesShareASectionUntilOneChangesIt() {
        Project first;
        QVERIFY(!first.sections.own<Weights>() && !first.sections.get<Weights>()); // asking makes none
        first.sections.edit<Weights>().height_mm = 500;
        const Weights* its = first.sections.get<Weights>();
        QVERIFY(&first.sections.edit<Weights>() == its); // nobody else has it
        {
            Project second = first;
            QVERIFY(second.sections.get<Weights>() == its);
            second.sections.own<Weights>()->height_mm = 600;
            QVERIFY(second.sections.get<Weights>() != its);
            QCOMPARE(*second.sections.get<Weights>()->height_mm, 600.0);
            QCOMPARE(*first.sections.get<Weights>()->height_mm, 500.0);
            const Project third = first;
            first.sections.drop<Weights>();
            QCOMPARE(*third.sections.get<Weights>()->height_mm, 500.0);
            // Looked at, it stays shared; a change to all (the datum) takes one's own.
            const Project fourth = third;
            (void)describe::markOf(fourth);
            QVERIFY(fourth.sections.get<Weights>() == third.sections.get<Weights>());
        }
        QVERIFY(!first.sections.get<Weights>());
    }
    void whatIsOfNoDonorYetIsTheOnlyOnesWhenAnotherComes() {
        Project one = demo("harrow-tarn");
        one.sections.edit<Gearing>().donor.clear();
        one.sections.edit<Driveline>().bell.emplace();
        const std::string only = one.donors.front().id.text;
        const auto two = hung(one, one.donors.front());
        QVERIFY(two && two.value().donors.size() == 2);
        QCOMPARE(two.value().sections.get<Gearing>()->donor, only);
        QCOMPARE(two.value().sections.get<Driveline>()->bell->donor, only);
        QVERIFY(one.sections.get<Gearing>()->donor.empty());
    }
    void aDonorsNewNameReachesTheGearingToo() {
        Project before = demo("harrow-tarn");
        const DonorId old = before.donors.front().id;
        before.sections.edit<Gearing>().donor = old.text;
        before.sections.edit<Driveline>().bell.emplace().donor = old.text;
        DonorId now;
        const Project renamed = withDonorNamed(before, old, "Quite another", now);
        QVERIFY(now != old);
        QCOMPARE(renamed.sections.get<Gearing>()->donor, now.text);
        QCOMPARE(renamed.sections.get<Driveline>()->bell->donor, now.text);
        QCOMPARE(activePlacement(renamed)->donor, now);
        QVERIFY(wrongIn(renamed).empty());
    }
    void theDatumMovesHeightsOnly() {
        Project before = demo("harrow-tarn");
        before.sections.edit<Weights>().height_mm = 620;
        const Project after = withDatumMoved(before, 100, "other", "a bench");
        QCOMPARE(*after.sections.get<Weights>()->height_mm, 520.0); // by hand: the bench lies 100 above the old datum
        QCOMPARE(after.donors.front().bodies.front().position_mm, before.donors.front().bodies.front().position_mm);
        for (std::size_t i = 0; i < before.vehicle->hard_points.size(); ++i)
            QCOMPARE(Eigen::Vector3d(before.vehicle->hard_points[i].at_mm - after.vehicle->hard_points[i].at_mm),
                     Eigen::Vector3d(0, 0, 100));
    }
    void aTableReplacesNothingUnseen() {
        const RuleBook& book = store::defaultRuleBook();
        const auto added = store::withTable(
            book, "{\"figures\": [{\"id\": \"new_mm\", \"value\": 3, \"source\": \"a test\"}]}", "new.json");
        QVERIFY(added);
        QCOMPARE(added.value().figure("new_mm"), 3.0);
        QCOMPARE(added.value().isolators.size(), book.isolators.size());
        const std::string known = book.figures.front().id;
        const std::pair<std::string, std::string> wrong[] = {
            {"{\"figures\": [{\"id\": \"" + known + "\", \"value\": 3}]}", known},
            {"{\"tubes\": [{\"outside_mm\": 30, \"wall_mm\": 2}]}", "tubes"},
            {"{\"isolators\": [{\"id\": \"i\", \"name\": \"I\", \"axial_n_per_mm\": 1, \"shear_n_per_mm\": 1}]}",
             "isolators"}};
        for (const auto& [text, named] : wrong) {
            const auto refused = store::withTable(book, text, "second.json");
            QVERIFY2(!refused, text.c_str());
            QVERIFY2(refused.error().line().find(named) != std::string::npos, refused.error().line().c_str());
            QVERIFY(refused.error().where.find("second.json") == 0);
        }
    }
    void anOutlineHoldsEveryMember() {
        const describe::Outline outline = describe::outlineOf<Project>("project");
        QVERIFY(outline.types.count("shaft_line") && outline.types.count("mount_face"));
        const auto& body = outline.types.at("body");
        const auto line = std::find_if(body.begin(), body.end(),
                                       [](const describe::Line& l) { return l.member.key == std::string("shape"); });
        QVERIFY(line != body.end() && line->of == "shape" && line->kind == describe::Kind::Object);
        QCOMPARE(outline.types.at("shape").front().forms.size(), std::size_t(7));
        for (const auto& [name, lines] : outline.types) {
            std::set<std::string> keys;
            for (const describe::Line& one : lines)
                QVERIFY2(keys.insert(one.member.key).second, (name + "." + one.member.key).c_str());
        }
    }
};

GABARIT_SUITE(DescribeTest)
#include "describe_test.moc"
