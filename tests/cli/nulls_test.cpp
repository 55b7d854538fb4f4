// What is missing is null in every report, never zero.
#include "discipline/discipline.h"
#include "report_json.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/kept_study.h"
#include "support/members.h"
#include "support/suite.h"

#include <QtTest>

#include <set>

using namespace gabarit;
using tests::Json;

namespace {

/// Members whose figure was there and is zero now, their indices as *.
void nowZero(const Json& before, const Json& after, const std::string& path, std::set<std::string>& out) {
    if (after.is_object() && before.is_object()) {
        for (const auto& [key, value] : after.items())
            if (before.contains(key)) nowZero(before[key], value, path.empty() ? key : path + "/" + key, out);
    } else if (after.is_array() && before.is_array() && after.size() == before.size()) {
        for (std::size_t i = 0; i < after.size(); ++i) nowZero(before[i], after[i], path + "/*", out);
    } else if (after.is_number() && before.is_number() && after.get<double>() == 0 && before.get<double>() != 0) {
        out.insert(path);
    }
}

/// Every figure's unit, as docs/reports.md lists them.
void unitsOf(const Json& json, std::set<std::string>& out) {
    if (json.is_object())
        for (const auto& [key, value] : json.items()) {
            const std::size_t at = key.rfind('_');
            if (value.is_number() && at != std::string::npos) out.insert(key.substr(at));
            unitsOf(value, out);
        }
    if (json.is_array())
        for (const Json& each : json) unitsOf(each, out);
}

} // namespace

class NullsTest : public QObject {
    Q_OBJECT
private slots:
    void whatIsMissingIsNull_data() {
        QTest::addColumn<QString>("file");
        QTest::addColumn<QString>("placement");
        QTest::newRow("Tarn") << "harrow-tarn"
                              << "second-try";
        QTest::newRow("Skerry") << "skerry-quad"
                                << "";
        QTest::newRow("Wren") << "pell-wren"
                              << "";
    }
    void whatIsMissingIsNull() {
        QFETCH(const QString, file);
        QFETCH(const QString, placement);
        Json base = tests::demoJson(file.toStdString());
        if (!placement.isEmpty()) base["active_placement"] = placement.toStdString();
        const auto before = reported(base);
        QVERIFY(before.has_value());
        const Json excused = tests::jsonOf("/tests/law/zeros.json");
        int looked = 0;
        QStringList broken;
        for (const auto& [kind, members] : tests::membersOf(base)) {
            Json whole = base;
            const Json& value = tests::parentOf(whole, members.front())[members.front().back()];
            if (value.is_string() || value.is_boolean()) continue; // words and ticks
            const auto without = tests::changed(base, "drop", members);
            const auto after = without ? reported(*without) : std::nullopt;
            if (!after) continue;
            ++looked;
            std::set<std::string> zeros;
            nowZero(*before, *after, "", zeros);
            for (const std::string& zero : zeros) {
                bool told = false;
                for (const auto& [which, why] : excused.items()) told = told || zero.find(which) != std::string::npos;
                if (!told) broken << QString::fromStdString(kind + " missing: " + zero);
            }
        }
        for (const QString& line : broken) qWarning("%s", qPrintable(line));
        QCOMPARE(broken.size(), 0);
        QVERIFY(looked > 80);
    }

    /// A flexible disc read at one turn of the shaft: skew and runout are not told apart; with two readings nothing is.
    void aDiscThatWasHardlyRead() {
        Json project = tests::demoJson("harrow-tarn");
        const auto readings = [](int clocks) {
            Json out = Json::array();
            for (int i = 0; i < clocks; ++i) out.push_back({{"clock_deg", 90 * i}, {"mm", 12 + 0.1 * i}});
            return out;
        };
        const auto face = [&](const Json& taken) {
            project["driveline"]["couplings"] = Json::array({{{"id", "disc"},
                                                              {"name", "Disc"},
                                                              {"radius_mm", 50},
                                                              {"tries", {{{"id", "a"}, {"readings", taken}}}}}});
            return reported(project)->at("driveline").at("couplings").at(0);
        };
        Json disc = face(readings(4));
        QVERIFY(disc["to_gearbox_mount_mm"].is_null() && disc["to_front_mounts_mm"].is_null());
        Json one_turn = disc["tries"][0];
        QVERIFY(one_turn["face"]["mean_mm"].is_number() && one_turn["tilt_deg"].is_number());
        QVERIFY(std::abs(one_turn["face"]["mean_mm"].get<double>() - 12.15) < 1e-6);
        for (const char* member : {"turning_mm"}) QVERIFY(one_turn["face"][member].is_null());
        for (const char* member : {"runout_mm", "offset_mm", "offset_clock_deg", "offset_accuracy_mm"})
            QVERIFY(one_turn[member].is_null());
        Json few = face(readings(2))["tries"][0];
        for (const char* member : {"mean_mm", "standing_up_mm", "standing_right_mm", "turning_mm", "scatter_mm"})
            QVERIFY2(few["face"][member].is_null(), member);
        for (const char* member : {"tilt_deg", "tilt_accuracy_deg", "open_clock_deg", "runout_mm"})
            QVERIFY2(few[member].is_null(), member);
    }
    void loadsWithoutIsolatorsAreNull() {
        Json project = tests::demoJson("harrow-tarn");
        for (Json& mount : project["mounts"]["mounts"]) mount.erase("isolator");
        const Json mounts = reported(project)->at("mounts");
        for (const Json& load : mounts["cases"]) {
            QVERIFY(load["on_unit_n"].is_array()); // three mounts: by statics
            QVERIFY(load["moved_mm"].is_null() && load["turned_deg"].is_null() && load["at_stop"].is_null());
        }
        project["mounts"]["mounts"].push_back(project["mounts"]["mounts"][0]);
        project["mounts"]["mounts"][3]["id"] = "fourth";
        project["mounts"]["mounts"][3]["centre_mm"] = {700, 100, 600};
        const auto four = reported(project);
        for (const Json& load : four->at("mounts")["cases"]) QVERIFY(load["on_unit_n"].is_null());
    }
    /// Every figure's unit is in the list at the head of docs/reports.md, or it counts something.
    void unitsAreListed() {
        QFile file(QStringLiteral(GABARIT_SOURCE_DIR "/docs/reports.md"));
        QVERIFY(file.open(QIODevice::ReadOnly));
        const std::string head = file.readAll().left(1800).toStdString();
        const std::set<std::string> counts{"_hole", "_checked", "_out", "_back", "_spend"}; // and money
        std::set<std::string> units;
        for (const char* demo : {"harrow-tarn", "skerry-quad", "pell-wren"})
            unitsOf(*reported(tests::demoJson(demo)), units);
        for (const std::string& unit : units)
            QVERIFY2(head.find("`" + unit + "`") != std::string::npos || counts.count(unit), unit.c_str());
        QVERIFY(units.size() > 8);
    }

private:
    std::optional<Json> reported(const Json& json) {
        const auto read = store::projectFromText(json.dump(), "nulls.gabarit", store::defaultRuleBook());
        if (!read) return std::nullopt;
        study::RunOptions options;
        options.depth = discipline::Depth::Skipped;
        options.effort = discipline::Effort::None;
        options.threads = 1; // other tests run beside it
        const auto project = std::make_shared<const model::Project>(read.value().project);
        return cli::checkTree(study_.run(project, options), "nulls.gabarit");
    }

    tests::KeptStudy study_;
};

GABARIT_SUITE(NullsTest)
#include "nulls_test.moc"
