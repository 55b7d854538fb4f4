// Every form tried: bays in which it is known by hand which of them fits; and what else a place is held against.
#include "make/besides.h"
#include "make/choices.h"
#include "make/free_words.h"
#include "make/search.h"
#include "model/edit.h"
#include "parts/parts.h"
#include "support/dice.h"
#include "support/kept_study.h"
#include "support/small_bay.h"
#include "support/suite.h"

#include "fit/fit_report.h"
#include "store/project_file.h"

#include <QtTest>

#include <nlohmann/json.hpp>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::Vector3d;

namespace {

Body body(const char* id, const char* category, const Vector3d& size, const Vector3d& middle, const char* option = "") {
    Body out = tests::box(id, category, size, middle, 1);
    out.option = option;
    return out;
}
Choice choice(const char* id, std::vector<Option> options) {
    Choice out;
    out.id = out.name = id;
    out.options = std::move(options);
    return out;
}
Option option(const char* id) {
    Option out;
    out.id = out.name = id;
    return out;
}

/// Ten of the table and both doubts.
constexpr double good_mm = 10 + 1 + 1;
/// What the sieve, by points 4 mm apart, asks for beyond 11: √(11² + 4²) − 11.
constexpr double cautious_mm = 0.71;

/// A slot 200 wide. The unit comes 190 wide or 150, and the left wall can be let in by 40: either makes it fit.
Project slot() {
    Body wall = body("left", "frame", {240, 40, 140}, {0, -120, 0}, "wall/as-it-came");
    wall.may.be_cut = true;
    Body let_in = body("left-let-in", "frame", {240, 40, 140}, {0, -160, 0}, "wall/let-in");
    let_in.may.be_cut = true;
    Project p = tests::bayOf({wall, let_in, body("right", "frame", {240, 40, 140}, {0, 120, 0})},
                             {body("wide", "engine", {100, 190, 80}, {0, 0, 0}, "form/wide"),
                              body("narrow", "engine", {100, 150, 80}, {0, 0, 0}, "form/narrow")});
    p.vehicle->choices = {choice("wall", {option("as-it-came"), option("let-in")})};
    p.donors[0].choices = {choice("form", {option("wide"), option("narrow")})};
    p.donors[0].reference_points = {{{"m"}, "mount", "front_mount", {0, 0, 0}, {}, 1.0, {}, {}}};
    Part part; // the narrow form is dear
    part.id.text = part.name = "narrow";
    part.cost = 500;
    part.option = "unit/form/narrow";
    p.sections.edit<Parts>().push_back(part);
    return p;
}

struct Tried {
    explicit Tried(const Project& project, double most_s = 60, const std::string& held = {})
        : reports(study.run(std::make_shared<const Project>(project), {})) {
        make::ChoicesOptions options;
        options.limits = make::freeLimits(store::defaultRuleBook(), held).value();
        options.most_s = most_s;
        report = make::everyChoice(study, reports, store::defaultRuleBook(), options);
    }
    tests::KeptStudy study;
    study::Reports reports;
    make::ChoicesReport report;
};

QString madeOf(const make::ChoicePlace& place) {
    QStringList out;
    for (const make::ChoiceMade& made : place.made) out << QString::fromStdString(made.choice + "=" + made.option);
    return out.join(' ');
}

} // namespace

class ChoicesTest : public QObject {
    Q_OBJECT
private slots:
    /// What cuts nothing comes before what cuts; both at once ask for more than either.
    void eitherFormFits() {
        const Tried tried(slot());
        QVERIFY2(tried.report.complete && tried.report.reason.empty(), tried.report.reason.c_str());
        QCOMPARE(tried.report.all, 4);
        QCOMPARE(tried.report.places.size(), std::size_t(2));
        QCOMPARE(madeOf(tried.report.places[0]), QString("unit/form=narrow"));
        QCOMPARE(madeOf(tried.report.places[1]), QString("vehicle/wall=let-in"));
        QCOMPARE(tried.report.places[0].cost.value_or(-1), 500.0);
        QCOMPARE(tried.report.places[1].cost.value_or(-1), 0.0);
        QCOMPARE(tried.report.places[0].cuts, 0);
        QCOMPARE(tried.report.places[1].cuts, 1);
        QCOMPARE(tried.report.folded, 1);
        QCOMPARE(tried.report.not_tried_count, 0);
        // The narrow one has 25 on either side: it stays. The wide one goes to the left by what it lacks on the right.
        QVERIFY(tried.report.places[0].place.farthest_mm < 0.05);
        QVERIFY(std::abs(tried.report.places[1].place.by[1] + (good_mm - 5)) < 0.1);
        for (const make::ChoicePlace& place : tried.report.places) {
            QVERIFY(!place.then->with<fit::FitReport>().clearance->pairs.empty());
            for (const fit::PairGap& pair : place.then->with<fit::FitReport>().clearance->pairs)
                QCOMPARE(pair.verdict, Verdict::Go);
        }
    }
    /// What a change buys: as it is it lacks 7 on either side; narrower there is a place, and 20 more to either side.
    void whatAChangeBuys() {
        const Tried tried(slot());
        QCOMPARE(tried.report.buys.size(), std::size_t(2));
        for (const make::ChoiceBuys& buys : tried.report.buys) {
            QVERIFY2(std::abs(buys.before_mm - (good_mm - 5) - cautious_mm / 2) < cautious_mm / 2 + 0.05,
                     qPrintable(QString::number(buys.before_mm)));
            QVERIFY(buys.after_mm < 0.05);
        }
    }
    /// Only both changes together make room.
    void onlyBothFit() {
        Project p = slot();
        p.donors[0].bodies[1].shape = BoxSpec{{100, 200 - 2 * good_mm + 30, 80}}; // 30 too wide; the wall gives 40
        p.donors[0].bodies[0].shape = BoxSpec{{100, 230, 80}};                    // 54 too wide
        const Tried tried(p);
        QCOMPARE(tried.report.places.size(), std::size_t(1));
        QCOMPARE(madeOf(tried.report.places[0]), QString("vehicle/wall=let-in unit/form=narrow"));
    }
    /// Where nothing fits the least bad form is told, and what binds.
    void nothingFits() {
        Project p = slot();
        for (Body& its : p.donors[0].bodies) its.shape = BoxSpec{{100, 260, 80}};
        p.vehicle->bodies[0].may = p.vehicle->bodies[1].may = {};
        for (Body& wall : p.vehicle->bodies) wall.shape = BoxSpec{{500, 40, 400}}; // no way round them
        const Tried tried(p);
        QVERIFY(tried.report.places.empty() && tried.report.least_bad);
        // 240 between the walls let in, 260 and twice what is wanted: 22 short on either side.
        QVERIFY2(std::abs(tried.report.least_bad->place.short_mm - (260 + 2 * good_mm - 240) / 2) < 1,
                 qPrintable(QString::number(tried.report.least_bad->place.short_mm)));
        QVERIFY(!tried.report.least_bad->place.binds.empty());
    }
    /// Where it may not be moved and nothing else is offered, what may be cut gets a pocket.
    void aPocketWhereNothingElseHelps() {
        Project p = tests::smallBay(); // a hollow crossmember under a sump that stands 15 into it
        Body& crossmember = p.vehicle->bodies[0];
        crossmember.shape = ProfileSpec{RectTubeSection{100, 80, 5}, Vector3d(0, -300, 0), Vector3d(0, 300, 0), 0};
        p.donors[0].bodies[0].shape = BoxSpec{{150, 120, 100}};
        p.donors[0].bodies[0].position_mm = {70, 20, 115};
        const std::string all = "along,across,up,swing,tail,lean";
        const Tried whole(p, 60, all);
        QVERIFY(whole.report.places.empty() && whole.report.least_bad);
        crossmember.may.be_cut = true;
        const Tried tried(p, 60, all);
        QCOMPARE(tried.report.places.size(), std::size_t(1));
        QVERIFY(!tried.report.places[0].pocket.empty());
        QCOMPARE(tried.report.places[0].cuts, 1);
        QCOMPARE(tried.report.places[0].place.farthest_mm, 0.0);
        for (const fit::PairGap& pair : tried.report.places[0].then->with<fit::FitReport>().clearance->pairs)
            QCOMPARE(pair.verdict, Verdict::Go);
        crossmember.may.never = true;
        QVERIFY(Tried(p, 60, all).report.places.empty());
    }
    /// Another donor of the file hangs where this one does.
    void anotherDonorFits() {
        Project p = slot();
        p.donors[0].choices.clear();
        p.donors[0].bodies = {body("block", "engine", {100, 190, 80}, {0, 0, 0})};
        p.vehicle->choices.clear();
        p.vehicle->bodies.erase(p.vehicle->bodies.begin() + 1);
        p.vehicle->bodies[0].option.clear();
        Donor small;
        small.id.text = "small";
        small.name = "Small";
        small.bodies = {body("block", "engine", {100, 100, 80}, {0, 0, 0})};
        small.reference_points = p.donors[0].reference_points;
        p.donors.push_back(small);
        const Tried tried(p);
        QCOMPARE(tried.report.all, 2);
        QCOMPARE(tried.report.places.size(), std::size_t(1));
        QCOMPARE(tried.report.places[0].donor, std::string("Small"));
        const Project& there = *tried.report.places[0].project;
        QTemporaryDir dir;
        QCOMPARE(activeDonor(there)->id.text, std::string("small"));
        QVERIFY(store::writeProject(dir.filePath("other.gabarit").toStdString(), there).ok());
    }
    /// A form that fouls the unit itself comes last, whatever room it has.
    void whatFoulsItselfComesLast() {
        Project p = slot();
        p.donors[0].bodies.push_back(body("pump", "accessory", {40, 40, 40}, {0, 60, 70}));
        p.donors[0].bodies.push_back(body("lid", "accessory", {60, 60, 40}, {0, 60, 60}, "form/narrow"));
        const Tried tried(p);
        QCOMPARE(tried.report.places.size(), std::size_t(2));
        QCOMPARE(madeOf(tried.report.places[0]), QString("vehicle/wall=let-in"));
        QCOMPARE(tried.report.places[0].fouls, 0);
        QVERIFY(tried.report.places[1].fouls > 0);
    }
    /// For want of time what was not tried is named.
    void whatIsNotTriedIsNamed() {
        const Tried tried(slot(), 1e-6);
        QCOMPARE(tried.report.tried + tried.report.folded + tried.report.not_tried_count, 4);
        QVERIFY(tried.report.not_tried_count > 0 && !tried.report.not_tried.empty());
        QVERIFY(tried.report.places.empty());
    }
    /// Stopped at any moment it comes back, unfinished.
    void itCanBeStopped() {
        tests::KeptStudy study;
        const auto reports = study.run(std::make_shared<const Project>(slot()), {});
        for (const int after : {0, 1, 2, 3}) {
            make::ChoicesOptions options;
            options.limits = make::freeLimits(store::defaultRuleBook(), {}).value();
            int told = 0;
            options.progress = [&](int, int) {
                if (told++ == after) options.stop.stop();
            };
            if (after == 0) options.stop.stop();
            QVERIFY(!make::everyChoice(study, reports, store::defaultRuleBook(), options).complete);
        }
    }
    /// What has no price does not pass for cheap.
    void whatHasNoPriceIsNotCheap() {
        Project p = slot();
        p.sections.edit<Parts>().front().cost.reset();
        const Tried tried(p);
        QCOMPARE(tried.report.places.size(), std::size_t(2)); // the wall let in is priced, and cuts
        QCOMPARE(tried.report.places[0].unpriced, 1);
        QCOMPARE(tried.report.places[1].unpriced, 0);
    }
    void cutsAreThoseOfWhatOnlyMayBeCut() {
        const Project p = slot();
        QCOMPARE(make::cutsOf(p), 0);
        Project cut = withOption(p, "vehicle/wall", "let-in");
        QCOMPARE(make::cutsOf(cut), 1);
        cut.vehicle->bodies[0].may.be_moved = true; // taken out, then
        QCOMPARE(make::cutsOf(cut), 0);
        QCOMPARE(make::cutsOf(withOption(p, "unit/form", "narrow")), 0);
    }
    void asASearch() {
        tests::KeptStudy study;
        const auto reports = study.run(std::make_shared<const Project>(slot()), {});
        const auto look = [&](const char* id, const std::vector<std::string>& about) {
            return make::lookFor(make::searchOf(id), {study, reports}, store::defaultRuleBook(), about,
                                 quantity::Shown::Millimetres);
        };
        const auto found = look("free-choices", {"", "", "30"});
        QVERIFY(found.ok());
        QCOMPARE(found.value().answers.size(), std::size_t(2));
        QVERIFY(found.value().found && found.value().answers[0].first && found.value().answers[0].project);
        QCOMPARE((*found.value().json)["choices"].size(), std::size_t(2));
        QCOMPARE((*found.value().json)["choices"][0]["cuts"], 0);
        QCOMPARE((*found.value().json)["buys"].size(), std::size_t(2));
        for (const char* wrong : {"0", "-3", "soon", "1e999"})
            QVERIFY2(!look("free-choices", {"", "", wrong}).ok(), wrong);
        QVERIFY(!look("free-choices", {"wing", "", ""}).ok());
        QVERIFY(!look("free-choices", {"", "budget", ""}).ok() && !look("free-all", {"", "budget"}).ok());
        const auto map = look("fit-map", {"across", "up", "", "9"});
        QVERIFY(map.ok());
        QCOMPARE((*map.value().json)["points"].size(), std::size_t(81));
        for (const std::vector<std::string>& wrong : std::vector<std::vector<std::string>>{{"across", "across", "", ""},
                                                                                           {"sideways", "", "", ""},
                                                                                           {"", "", "loose", ""},
                                                                                           {"", "", "", "1"},
                                                                                           {"", "", "", "2.5"},
                                                                                           {"", "", "", "900"}})
            QVERIFY(!look("fit-map", wrong).ok());
        Project none = slot();
        none.placements.clear();
        const auto empty = study.run(std::make_shared<const Project>(none), {});
        for (const char* id : {"free-choices", "fit-map"})
            QVERIFY(!make::lookFor(make::searchOf(id), {study, empty}, store::defaultRuleBook(), {},
                                   quantity::Shown::Millimetres)
                         .ok());
    }

    /// What a check lacks is above zero just where judge() does not say go.
    void whatACheckLacks() {
        tests::Dice dice(7);
        int go = 0, not_go = 0;
        for (int i = 0; i < 2000; ++i) {
            Check check;
            const auto some = [&](std::optional<double>& its) {
                if (dice.in(0, 1) < 0.5) its = dice.in(-2, 2);
            };
            check.value = dice.in(-3, 3);
            some(check.good_least), some(check.good_most), some(check.least), some(check.most);
            if (dice.in(0, 1) < 0.5) check.accuracy = dice.in(0, 0.5);
            check.soft = dice.in(0, 1) < 0.5;
            judge(check);
            const auto lacks = make::lacks(check);
            if (!check.good_least && !check.good_most && !check.least && !check.most) {
                QVERIFY(!lacks);
                continue;
            }
            QCOMPARE(*lacks <= 0, check.verdict == Verdict::Go);
            (check.verdict == Verdict::Go ? go : not_go) += 1;
        }
        QVERIFY(go > 50 && not_go > 50);
        Check unknown;
        unknown.good_least = 1;
        QVERIFY(!make::lacks(unknown));
    }
    /// The demo's shaft has its front joint half a degree over; a move of the unit changes it.
    void shaftsAndMountsAreHeldToo() {
        auto read = store::readProject(GABARIT_SOURCE_DIR "/data/demo/harrow-tarn.gabarit", store::defaultRuleBook());
        const Project p = std::move(read).value().project;
        tests::KeptStudy study;
        const auto besides = make::besidesOf(study, p);
        const Placement placement = *activePlacement(p);
        const auto lacksOf = [](const std::vector<fit::Beside>& all, const std::string& id) {
            for (const fit::Beside& its : all)
                if (its.id == id) return its.lacks;
            return std::numeric_limits<double>::quiet_NaN();
        };
        const std::string joint = "driveline/rear/joint-1/running";
        const double now = lacksOf(besides(placement), joint);
        // 3.51° of at most 3°, and what the tape leaves open.
        QVERIFY2(now > 0.505 && now < 0.75, qPrintable(QString::number(now)));
        // 15 mm lower over a shaft of about a metre: 0.9° in a line, shared by two joints.
        const double lower = lacksOf(besides(shifted(placement, {0, 0, -15})), joint);
        QVERIFY2(now - lower > 0.3 && now - lower < 1.2, qPrintable(QString::number(lower)));
        QVERIFY(std::isnan(lacksOf(besides(placement), "clearance/none")));
        const auto mustOf = [&](make::First first) {
            std::set<std::string> out;
            for (const fit::Beside& its : make::besidesOf(study, p, first)(placement))
                if (its.must) out.insert(its.id);
            return out;
        };
        QVERIFY(mustOf(make::First::Room).empty());
        const auto shaft = mustOf(make::First::StockShaft), angles = mustOf(make::First::EqualAngles);
        QVERIFY(shaft.count("driveline/rear/shaft-1/engaged") == 1 && shaft.count(joint) == 0);
        QVERIFY(angles.count("driveline/rear/torsional") == 1 && angles.count(joint) == 0);
    }
};

GABARIT_SUITE(ChoicesTest)
#include "choices_test.moc"
