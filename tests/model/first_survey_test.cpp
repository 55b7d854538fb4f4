// The first survey: every question makes sound bodies, twenty readings give a verdict that paper agrees with.
#include "fit/fit_report.h"
#include "model/datum.h"
#include "model/edit.h"
#include "model/first_survey.h"
#include "store/first_survey.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "study/study.h"
#include "support/kept_study.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::model;

namespace {

Project bare() {
    Project project;
    project.name = "Van";
    project.vehicle.emplace();
    project.vehicle->name = "Van";
    return project;
}

Project answered(const Project& project, const std::string& entry, std::optional<double> value, double accuracy = 3) {
    Provenance measured;
    measured.date = "2026-05-17";
    const auto made = withAnswer(project, store::firstSurvey(), entry, value, accuracy, measured);
    if (!made) qFatal("%s: %s", entry.c_str(), made.error().line().c_str());
    const auto wrong = validate(made.value(), store::defaultRuleBook());
    if (!wrong.empty()) qFatal("%s: %s", entry.c_str(), wrong.front().line().c_str());
    return made.value();
}

/// A small van and a four-cylinder with its gearbox, as a sheet of twenty readings has them.
Project van() {
    Project project = bare();
    const std::pair<const char*, double> sheet[] = {
        {"firewall_x", 520}, {"rail_gap", 760},  {"rail_top", 480},   {"rail_width", 55},    {"rail_height", 90},
        {"cross_front", 80}, {"cross_rear", 60}, {"cross_top", 470},  {"bonnet_z", 1010},    {"eng_length", 540},
        {"eng_height", 390}, {"eng_width", 560}, {"sump_depth", 210}, {"sump_front", 200},   {"box_length", 640},
        {"pad_across", 380}, {"place_x", 380},   {"place_z", 700},    {"tunnel_width", 420}, {"tunnel_top", 760}};
    for (const auto& reading : sheet) project = answered(project, reading.first, reading.second);
    return project;
}

const fit::PairGap* pairOf(const study::Reports& reports, const std::string& a, const std::string& b) {
    for (const fit::PairGap& pair : reports.with<fit::FitReport>().clearance->pairs)
        if ((pair.name_a == a && pair.name_b == b) || (pair.name_a == b && pair.name_b == a)) return &pair;
    return nullptr;
}

study::Reports studied(const Project& project) {
    tests::KeptStudy study;
    return study.run(std::make_shared<const Project>(project), {});
}

} // namespace

class FirstSurveyTest : public QObject {
    Q_OBJECT
private slots:
    void everyAnswerAloneIsSound() {
        // Whatever is answered first, what it makes can be made: the rest is assumed.
        const FirstSurvey& survey = store::firstSurvey();
        for (const SurveyQuestion& question : survey.questions)
            for (const SurveyEntryRule& entry : question.entries) {
                if (entry.thing.compare(0, 7, "@place_") == 0) continue; // asked once something hangs
                const double value = surveyValue(bare(), survey, entry.id).value;
                const Project project = answered(bare(), entry.id, value);
                const SurveyValue now = surveyValue(project, survey, entry.id);
                QVERIFY2(now.answered, entry.id.c_str());
                QVERIFY2(std::abs(now.value - value) < 1e-9, entry.id.c_str());
            }
    }

    void aDozenReadingsAreNeeded() {
        const auto open = stillNeeded(bare(), store::firstSurvey());
        QCOMPARE(open.size(), std::size_t(12));
        QVERIFY(stillNeeded(van(), store::firstSurvey()).empty());
    }

    void twentyReadingsGiveAVerdict() {
        const Project project = van();
        const study::Reports reports = studied(project);
        QVERIFY(reports.with<fit::FitReport>().clearance && reports.asked);
        QVERIFY(reports.with<fit::FitReport>().clearance->reason.empty());
        // By hand: crank at 700, sump's bottom 210 below it at 490, crossmember's top at 470: 20 mm. The deep part
        // reaches from 380 − 200 = 180 to 380 − 20 = 360 behind the axle, the crossmember ends at 60: 120 mm away, so
        // the two are √(120² + 20²) apart, farther than is looked for this row.
        const fit::PairGap* sump = pairOf(reports, "Sump", "Front crossmember");
        QVERIFY(sump && sump->beyond());
        // Engine 560 wide between rails 760 apart: 100 mm each side in plan; its bottom is 60 below the crank at 640,
        // the rails' top at 480: 160 higher. Beyond as well.
        QVERIFY(pairOf(reports, "Engine block and heads", "Left rail")->beyond());
        // Top of the engine at 700 + 390 = 1090, bonnet's underside at 1010: 80 mm into it. The bonnet is 25 thick and
        // the engine goes through: no-go.
        const fit::PairGap* bonnet = pairOf(reports, "Engine block and heads", "Bonnet");
        QVERIFY(bonnet && bonnet->overlap());
        QCOMPARE(bonnet->verdict, Verdict::NoGo);
        QCOMPARE(reports.verdict, Verdict::NoGo);
        // The bellhousing ends at 380 + 180 = 560, behind the firewall's face at 520, under the tunnel's roof at 760:
        // its top is 700 + 200 = 900, so it fouls the firewall.
        QVERIFY(pairOf(reports, "Bellhousing", "Firewall")->overlap());
    }

    void lowerAndForwardItFits() {
        // 100 mm lower and 160 forward: top at 990, 20 under the bonnet; the bellhousing ends at 400, 120 ahead of the
        // firewall. What is assumed to ±40 cannot be a plain go where it is near.
        Project project = answered(answered(van(), "place_z", 600), "place_x", 220);
        const study::Reports reports = studied(project);
        const fit::PairGap* bonnet = pairOf(reports, "Engine block and heads", "Bonnet");
        QVERIFY(std::abs(bonnet->gap.gap_mm - 20) < 0.01);
        QCOMPARE(bonnet->verdict, Verdict::Close);
        // Sump's bottom at 390, below the crossmember's top at 470 and its assumed underside at 390; its deep part
        // begins 220 − 200 = 20 behind the axle, inside of the crossmember (to 60).
        QVERIFY(pairOf(reports, "Sump", "Front crossmember")->overlap());
    }

    void whatIsAssumedFollowsWhatIsRead() {
        Project project = answered(bare(), "rail_gap", 760);
        project = answered(project, "rail_top", 480);
        const Body* right = findBody(project, {vehicle_owner, {"right-rail"}});
        QVERIFY(right);
        const auto& spec = std::get<ProfileSpec>(right->shape);
        QCOMPARE(spec.from_mm.y(), 380.0 + 30);     // inner face at half of 760, half of the assumed 60 outward
        QCOMPARE(spec.from_mm.z(), 480.0 - 50);     // half of the assumed 100 below its top
        QCOMPARE(spec.to_mm.y(), spec.from_mm.y()); // assumed to run parallel
        project = answered(project, "rail_gap_rear", 800);
        project = answered(project, "rail_gap", 740);
        const auto& later = std::get<ProfileSpec>(findBody(project, {vehicle_owner, {"right-rail"}})->shape);
        QCOMPARE(later.from_mm.y(), 370.0 + 30);
        QCOMPARE(later.to_mm.y(), 400.0 + 30); // read by itself, it does not follow
        QCOMPARE(findBody(project, {vehicle_owner, {"right-rail"}})->measured.method, Method::Assumed);
    }

    void aTakenBackAnswerIsAssumedAgain() {
        const FirstSurvey& survey = store::firstSurvey();
        Project project = answered(van(), "rail_top", std::nullopt);
        const SurveyValue now = surveyValue(project, survey, "rail_top");
        QVERIFY(!now.answered);
        QCOMPARE(now.value, survey.entry("rail_top")->assumed);
        QCOMPARE(stillNeeded(project, survey), std::vector<std::string>{"rail_top"});
    }

    void theDonorHangsWhereItIsAssumedUntilAHandMovesIt() {
        Project project = answered(bare(), "eng_length", 540);
        QCOMPARE(project.donors.size(), std::size_t(1));
        QCOMPARE(project.placements.size(), std::size_t(1));
        // firewall 450 − bellhousing 180 − 20; crossmember's top 500 + sump 220 + 20, all assumed.
        QCOMPARE(project.placements[0].position_mm, Eigen::Vector3d(250, 0, 740));
        project = answered(project, "firewall_x", 600);
        QCOMPARE(project.placements[0].position_mm.x(), 400.0);
        project.placements[0].position_mm.x() = 390; // by hand
        project = answered(project, "firewall_x", 650);
        QCOMPARE(project.placements[0].position_mm.x(), 390.0);
    }

    void aMassStandsInTheMiddleOfItsBody() {
        // Weighed before anything of it is measured: 650 long and 450 over 60 high are assumed, then it is read 540.
        Project project = answered(bare(), "engine_kg", 180);
        QCOMPARE(project.donors[0].masses[0].at_mm, Eigen::Vector3d(-325, 0, 195));
        project = answered(project, "eng_length", 540);
        QCOMPARE(project.donors[0].masses[0].at_mm, Eigen::Vector3d(-270, 0, 195));
        project.donors[0].masses[0].at_mm.y() = 12; // by hand: it stays there
        project = answered(project, "eng_length", 500);
        QCOMPARE(project.donors[0].masses[0].at_mm, Eigen::Vector3d(-270, 12, 195));
    }

    void readAgainKeepsItsPicture() {
        Project project = answered(bare(), "firewall_x", 500);
        Body& firewall = *findBody(project, {vehicle_owner, {"firewall"}});
        findReading(firewall.tape, "centre", 1)->measured.picture = "a.jpg";
        project = answered(project, "firewall_x", 505);
        const Reading* again = findReading(findBody(project, {vehicle_owner, {"firewall"}})->tape, "centre", 1);
        QCOMPARE(again->mm, 505.0);
        QCOMPARE(again->measured.picture, std::string("a.jpg"));
    }

    void anotherDatumInBetweenDoesNoHarm() {
        // Heights from the rail's top instead of the ground, then one more answer: what was assumed stays where it is.
        Project project = answered(answered(bare(), "rail_top", 480), "firewall_x", 500);
        const double bottom_mm = findBody(project, {vehicle_owner, {"left-toe-board"}})->position_mm.z();
        project = withDatumMoved(project, 480, "frame_rail_top", "rails");
        const Body* ground = findBody(project, {vehicle_owner, {"ground"}});
        QCOMPARE(ground->position_mm.z(), -480.0 - 25); // 50 thick, its top at −480
        QCOMPARE(surveyValue(project, store::firstSurvey(), "ground_down").value, 480.0);
        project = answered(project, "rail_gap", 760);
        QCOMPARE(findBody(project, {vehicle_owner, {"ground"}})->position_mm.z(), -505.0);
        QCOMPARE(findBody(project, {vehicle_owner, {"left-toe-board"}})->position_mm.z(), bottom_mm - 480);
        project = answered(project, "rail_top", 10); // read again from the new plane: what hangs on it comes along
        QCOMPARE(findBody(project, {vehicle_owner, {"left-toe-board"}})->position_mm.z(), bottom_mm - 470);
    }

    void anImpossibleAnswerIsRefusedInWords() {
        Project project = answered(bare(), "cross_front", 80);
        const auto refused = withAnswer(project, store::firstSurvey(), "cross_rear", -200, 3, {});
        QVERIFY(!refused.ok());
        QVERIFY2(QString::fromStdString(refused.error().line()).contains("rear face"), refused.error().line().c_str());
        QVERIFY(!withAnswer(project, store::firstSurvey(), "no such", 1, 3, {}).ok());
    }

    void drawingsAreInProportionToTheReadings() {
        const FirstSurvey& survey = store::firstSurvey();
        Project project = answered(answered(bare(), "firewall_x", 500), "rail_top", 480);
        project = answered(project, "rail_height", 120);
        const SurveyProportion side(project, survey, survey.drawing("bay_side"));
        // The axle's line is where x starts; the firewall lies as far behind it as was read, the floor at nothing.
        QCOMPARE(side.at_mm({30, 56}), Eigen::Vector2d(0, 0));
        QCOMPARE(side.at_mm({62, 34}), Eigen::Vector2d(500, -480));
        QCOMPARE(side.at_mm({62, 40}), Eigen::Vector2d(500, -360));
        // Half way between two known places, half way in millimetres: the rail's depth.
        QCOMPARE(side.at_mm({30, 50.5}).x(), 0.0);
        const double wheel_mm = side.at_mm({30, 46}).y(); // its middle, then half way down to the floor
        QVERIFY(std::abs(side.at_mm({30, 51}).y() - wheel_mm / 2) < 1e-9);
        // A rail read to lie higher is drawn higher, to scale.
        project = answered(project, "rail_top", 700);
        const SurveyProportion higher(project, survey, survey.drawing("bay_side"));
        QCOMPARE(higher.at_mm({62, 34}).y(), -700.0);
        // Without a scale nothing is stretched.
        QCOMPARE(SurveyProportion(project, survey, nullptr).at_mm({12, 7}), Eigen::Vector2d(12, 7));
    }

    void farFromUsualIsToldFromTheFloor() {
        const FirstSurvey& survey = store::firstSurvey();
        const SurveyEntryRule& top = *survey.entry("rail_top");
        Project project = answered(bare(), "rail_top", 480);
        QVERIFY(!farFromUsual(project, survey, top, 480));
        QVERIFY(farFromUsual(project, survey, top, 4800));
        QVERIFY(farFromUsual(project, survey, top, 0.5));
        // Heights from the rail's top: nothing is then as usual as 480 was from the floor.
        project = withDatumMoved(project, 480, "frame_rail_top", "rails");
        QVERIFY(!farFromUsual(project, survey, top, 0));
        QVERIFY(farFromUsual(project, survey, top, 480));
    }

    void oneByOneTheNeededComeFirst() {
        const FirstSurvey& survey = store::firstSurvey();
        const auto order = survey.oneByOne();
        std::size_t all = 0;
        for (const SurveyQuestion& question : survey.questions) all += question.entries.size();
        QCOMPARE(order.size(), all);
        for (std::size_t i = 1; i < order.size(); ++i) QVERIFY(order[i - 1]->needed || !order[i]->needed);
        QCOMPARE(order.front()->id, std::string("firewall_x"));
        QCOMPARE(survey.questionOf("rail_gap")->id, std::string("rails"));
    }

    void aSurveyFileIsChecked() {
        const auto wrong = [](const char* text) {
            const auto read = store::firstSurveyFromText(text, "mine.json");
            return read.ok() ? QString() : QString::fromStdString(read.error().line());
        };
        QVERIFY(wrong("{").contains("mine.json"));
        QVERIFY(wrong("{\"tape_accuracy_mm\": 3, \"assumed_accuracy_mm\": 40, \"source\": \"s\", \"things\": [{\"id\": "
                      "\"a\", \"name\": \"A\", \"way\": \"guess\"}]}")
                    .contains("guess"));
        QVERIFY(wrong("{\"tape_accuracy_mm\": 3, \"assumed_accuracy_mm\": 40, \"source\": \"s\", \"questions\": "
                      "[{\"id\": \"q\", \"title\": \"Q\", \"hook\": \"h\", \"drawing\": \"d\", \"entries\": [{\"id\": "
                      "\"e\", \"label\": \"E\", \"thing\": \"gone\"}]}]}")
                    .contains("gone"));
    }
};

GABARIT_SUITE(FirstSurveyTest)
#include "first_survey_test.moc"
