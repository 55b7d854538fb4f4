// Fields made of descriptions: what they show, take and refuse, and that every form of the demos gives back what it
// shows.
#include "driveline/section/driveline.h"
#include "fields/described.h"
#include "fields/part_fields.h"
#include "fields/survey_forms.h"
#include "forms/tones.h"
#include "mounts/section/mounts.h"
#include "parts/parts.h"
#include "relief/section/relief.h"
#include "session/lookout.h"
#include "stages/driveline/driveline_fields.h"
#include "stages/mounts/mounts_fields.h"
#include "stages/relief/relief_fields.h"
#include "support/suite.h"

#include "describe/walks.h"
#include "model/describe.h"
#include "store/project_file.h"

#include <QTranslator>
#include <QtTest>

using namespace gabarit;
using namespace gabarit::app;
using describe::Member;

namespace thing {

enum class Colour { Red, DarkBlue };
const describe::Words& words(Colour) {
    static const describe::Words all{"red", {"dark_blue", "as dark as blue can be"}};
    return all;
}

struct Step {
    std::string name;
    double at_mm = 0;
    double factor = 1;
    std::string kept;
};
void describe(describe::Visitor& v, Step& s) {
    v.text(Member("name").must(), s.name);
    v.number(Member("at_mm").said("at"), s.at_mm);
    v.number(Member("factor").leftOut(1).said("factor"), s.factor);
    v.text(Member("kept"), s.kept);
}
struct Inside {
    std::optional<double> width_mm;
};
void describe(describe::Visitor& v, Inside& i) { v.number(Member("width_mm").said("Width"), i.width_mm); }

struct Thing {
    std::string owner = model::vehicle_owner, point = "old";
    double rate_n_per_mm = 5, faces = 2;
    std::optional<double> length_mm;
    Colour colour = Colour::Red;
    Eigen::Vector3d at_mm{1, 2, 3};
    std::optional<Eigen::Vector3d> opening_mm, size_mm;
    std::vector<Step> steps;
    std::vector<Eigen::Vector2d> holes_mm;
    std::optional<Inside> inside;
    std::vector<Inside> ways;
    bool hidden = false;
};
void describe(describe::Visitor& v, Thing& t) {
    v.number(Member("last_mm").said("Last").order(300), t.length_mm);
    v.text(Member("owner").names(describe::Target::Owner).said("On"), t.owner);
    v.text(Member("point").names(describe::Target::Point, describe::Gone::Stays, t.owner), t.point);
    v.number(Member("rate_n_per_mm", "of `both`").said("Rate"), t.rate_n_per_mm);
    v.number(Member("faces", "that rub").leftOut(2).said("Faces"), t.faces);
    v.choice(Member("colour").said("Colour").heading("Looks"), t.colour);
    v.point(Member("at_mm").place("vehicle").eachSaid("Rearward", "Right", "Up"), t.at_mm);
    v.point(Member("opening_mm").is(describe::Vector::Extent).eachSaid("Long", "Wide", "High"), t.opening_mm);
    v.point(Member("size_mm").is(describe::Vector::Size).eachSaid("Long", "Wide", "High"), t.size_mm);
    v.object(Member("inside").said("Inside").asked("Is hollow"), t.inside);
    v.list(Member("ways").said("Way"), t.ways);
    v.list(Member("steps").each("step").inRows().said("Steps"), t.steps);
    v.points(Member("holes_mm").is(describe::Vector::Shift).said("Holes").columns("along", "across"), t.holes_mm);
    v.flag(Member("hidden"), t.hidden);
}

} // namespace thing

class DescribedTest : public QObject {
    Q_OBJECT

    thing::Thing thing_;
    model::Project project_;

    std::vector<Field> fields() {
        std::vector<Field> out;
        describedFields(
            out, project_, [this](describe::Visitor& v) { describe::show(v, thing_); },
            [this](const std::string& path, const FieldValue& value, const QString&) {
                putMember([this](describe::Visitor& v) { thing::describe(v, thing_); }, path, value);
                return true;
            });
        return out;
    }
    Field field(const char* name) {
        std::vector<Field> all = fields();
        return fieldNamed(all, QLatin1String(name));
    }
    void number(const char* name, std::optional<double> value) { QVERIFY(field(name).set_value(value)); }

private slots:
    void init() { thing_ = {}; }

    void aFormHasWhatHasALabelInItsOrder() {
        QStringList names, labels;
        for (const Field& f : fields()) names << f.name, labels << f.label;
        const QStringList expected{"owner",
                                   "rate_n_per_mm",
                                   "faces",
                                   "",
                                   "colour",
                                   "at_mm_x",
                                   "at_mm_y",
                                   "at_mm_z",
                                   "opening_mm_x",
                                   "opening_mm_y",
                                   "opening_mm_z",
                                   "size_mm_x",
                                   "size_mm_y",
                                   "size_mm_z",
                                   "steps",
                                   "holes_mm",
                                   "",
                                   "has_inside",
                                   "last_mm"};
        QCOMPARE(names, expected);
        QCOMPARE(labels[1].remove(QChar(0x2060)), QStringLiteral("Rate, N/mm")); // no unit of the shop's for it
        QCOMPARE(labels[3], QStringLiteral("Looks"));
        QCOMPARE(field("faces").tip, QStringLiteral("that rub"));
        QVERIFY(field("rate_n_per_mm").tip.isEmpty()); // said to who writes files
    }
    void aChoiceIsSaidInAPersonsWords() {
        const Field colour = field("colour");
        QCOMPARE(colour.choices[1].first, QStringLiteral("dark_blue"));
        QCOMPARE(colour.choices[1].second, QStringLiteral("as dark as blue can be"));
        QCOMPARE(describe::said(thing::Colour::Red), std::string("red"));
        QVERIFY(colour.set_text(QStringLiteral("dark_blue")));
        QCOMPARE(int(thing_.colour), int(thing::Colour::DarkBlue));
    }
    void anEmptiedNumberIsTheUsualOneOrStays() {
        number("faces", 4);
        QCOMPARE(thing_.faces, 4.0);
        number("faces", std::nullopt);
        QCOMPARE(thing_.faces, 2.0);
        QVERIFY(!field("rate_n_per_mm").may_be_empty);
        number("rate_n_per_mm", std::nullopt);
        QCOMPARE(thing_.rate_n_per_mm, 5.0);
        number("last_mm", 7);
        number("last_mm", std::nullopt);
        QVERIFY(!thing_.length_mm);
    }
    void aPointIsItsOwners() {
        for (const auto& [id, words] : field("owner").choices) QVERIFY2(!id.isEmpty(), qPrintable(words));
        QVERIFY(field("owner").set_text(QStringLiteral("vehicle")));
        QCOMPARE(thing_.point, std::string("old"));
        QVERIFY(field("owner").set_text(QStringLiteral("unit")));
        QVERIFY(thing_.point.empty());
    }
    void coordinatesAreFieldsOfTheirOwn() {
        number("at_mm_y", -8);
        QCOMPARE(thing_.at_mm, Eigen::Vector3d(1, -8, 3));
        number("opening_mm_z", 5); // one side of an opening may be nothing
        QCOMPARE(*thing_.opening_mm, Eigen::Vector3d(0, 0, 5));
        number("opening_mm_z", std::nullopt);
        QVERIFY(!thing_.opening_mm);
        number("size_mm_x", 40); // the first that is known stands for the others
        QCOMPARE(*thing_.size_mm, Eigen::Vector3d(40, 40, 40));
        number("size_mm_y", std::nullopt);
        QVERIFY(!thing_.size_mm);
    }
    void whatMayNotBeThereIsAskedAndMade() {
        QVERIFY(field("has_inside").set_on(true));
        number("inside_width_mm", 12);
        QCOMPARE(*thing_.inside->width_mm, 12.0);
        QVERIFY(field("has_inside").set_on(true)); // it is there already, and stays
        QCOMPARE(*thing_.inside->width_mm, 12.0);
        QVERIFY(field("has_inside").set_on(false));
        QVERIFY(!thing_.inside);
    }
    /// A section is round or square: the fields are those of what it is, and stand among the others.
    void whatHasSeveralFormsHasTheFieldsOfOne() {
        model::ShapeSpec shape = model::ProfileSpec{};
        auto& profile = std::get<model::ProfileSpec>(shape);
        profile.section = model::RoundTubeSection{50, 3};
        const auto names = [&](std::vector<Field>& out) {
            describedFields(
                out, project_, [&](describe::Visitor& v) { describe::show(v, shape); },
                [&](const std::string& path, const FieldValue& value, const QString&) {
                    putMember([&](describe::Visitor& v) { model::describe(v, shape); }, path, value);
                    return true;
                });
            QStringList all;
            for (const Field& f : out) all << f.name;
            return all;
        };
        std::vector<Field> round, square;
        QCOMPARE(names(round), QStringList({"section_diameter_mm", "section_wall_mm", "roll_deg"}));
        QVERIFY(fieldNamed(round, QStringLiteral("section_diameter_mm")).set_value(60.0));
        const auto& tube = std::get<model::RoundTubeSection>(profile.section);
        QCOMPARE(tube.diameter_mm, 60.0);
        QCOMPARE(tube.wall_mm, 3.0);
        profile.section = model::RectTubeSection{60, 40, 3};
        QCOMPARE(names(square), QStringList({"section_width_mm", "section_height_mm", "section_wall_mm", "roll_deg"}));
        QVERIFY(fieldNamed(square, QStringLiteral("roll_deg")).set_value(5.0));
        QCOMPARE(profile.roll_deg, 5.0);
        // What it is not any more has no place to be put.
        QVERIFY(fieldNamed(round, QStringLiteral("section_diameter_mm")).set_value(70.0));
        QCOMPARE(std::get<model::RectTubeSection>(profile.section).width_mm, 60.0);
    }
    void entriesOfAListHaveTheirFields() {
        thing_.ways.resize(2);
        number("ways_1_width_mm", 3);
        QVERIFY(!thing_.ways[0].width_mm);
        QCOMPARE(*thing_.ways[1].width_mm, 3.0);
    }
    void rowsKeepWhatTheyDoNotShow() {
        thing_.steps = {{"first", 1, 2, "a"}, {"second", 3, 4, "b"}};
        Field steps = field("steps");
        QCOMPARE(steps.heads, QStringList({"at", "factor"}));
        QVERIFY(!steps.dimension); // a factor is no length
        QCOMPARE(steps.when_empty[1], std::optional<double>(1));
        QVERIFY(steps.set_rows({{10, 2}, {30, 4}, {50, 6}}));
        QCOMPARE(thing_.steps.size(), std::size_t(3));
        QCOMPARE(thing_.steps[1].name, std::string("second"));
        QCOMPARE(thing_.steps[1].kept, std::string("b"));
        QCOMPARE(thing_.steps[1].at_mm, 30.0);
        QCOMPARE(thing_.steps[2].name, std::string("step 3"));
        QVERIFY(field("steps").set_rows({{10, 2}}));
        QCOMPARE(thing_.steps.size(), std::size_t(1));
        const Field holes = field("holes_mm");
        QCOMPARE(holes.heads, QStringList({"along", "across"}));
        QCOMPARE(holes.dimension, std::optional(Dimension::Length));
        QVERIFY(holes.set_rows({{1, 2}, {3, 4}}));
        QCOMPARE(thing_.holes_mm[1], Eigen::Vector2d(3, 4));
    }
    /// Another language reaches what comes from the descriptions too: labels and choices' words.
    void anotherLanguage() {
        class Angled : public QTranslator {
        public:
            bool isEmpty() const override { return false; }
            QString translate(const char*, const char* source, const char*, int) const override {
                return QLatin1Char('<') + QString::fromUtf8(source) + QLatin1Char('>');
            }
        } language;
        const QString plain = field("colour").label, word = field("colour").choices.front().second;
        QVERIFY(!plain.isEmpty() && !word.isEmpty());
        QCoreApplication::installTranslator(&language);
        const Field colour = field("colour");
        QCoreApplication::removeTranslator(&language);
        QCOMPARE(colour.label, QLatin1Char('<') + plain + QLatin1Char('>'));
        QCOMPARE(colour.choices.front().second, QLatin1Char('<') + word + QLatin1Char('>'));
    }
    void aPathThatIsNotThereChangesNothing() {
        thing_.ways.resize(1);
        for (const char* path : {"nothing", "ways.7.width_mm", "ways.0", "inside", "at_mm.0.0", "colour.x"})
            putMember([this](describe::Visitor& v) { thing::describe(v, thing_); }, path, FieldValue(std::string("x")));
        QVERIFY(!thing_.inside);
        QCOMPARE(thing_.at_mm, Eigen::Vector3d(1, 2, 3));
    }

    /// Typing what stands there already changes nothing, in every field of every form.
    void everyFormGivesBackWhatItShows() {
        Lookout lookout;
        int tried = 0;
        for (const char* demo : {"harrow-tarn", "skerry-quad", "mount-bench", "relief-bench", "shaft-bench"}) {
            Session session(lookout);
            QVERIFY(
                session.openFile(QStringLiteral(GABARIT_SOURCE_DIR "/data/demo/%1.gabarit").arg(QLatin1String(demo))));
            std::uint64_t before = describe::markOf(*session.project());
            const auto giveBack = [&](const std::vector<Field>& form) {
                if (QTest::currentTestFailed()) return;
                for (const Field& f : form) {
                    // A button is pressed, not filled in; and what a tape tells is read anew when it is typed, a
                    // rubber's lean is told in angles and kept as a direction, links stand where they usually do when
                    // they are chosen, a coupling's readings are put in the tables' order.
                    static const QStringList deeds{"tape_way", "datum_point", "stations", "path_led",
                                                   "outward",  "forward",     "face",     "rim"};
                    const bool deed = f.kind == Field::Kind::Button || deeds.contains(f.name) ||
                                      f.name.startsWith(QLatin1String("reading_"));
                    if (deed) continue;
                    if (f.set_text && !f.text.isNull()) QVERIFY2(f.set_text(f.text), qPrintable(f.name));
                    if (f.set_value && (f.value || f.may_be_empty)) QVERIFY2(f.set_value(f.value), qPrintable(f.name));
                    if (f.set_on) QVERIFY2(f.set_on(f.on), qPrintable(f.name));
                    if (f.set_rows) QVERIFY2(f.set_rows(f.rows), qPrintable(f.name));
                    ++tried;
                    QVERIFY2(describe::markOf(*session.project()) == before,
                             qPrintable(f.name + QStringLiteral(": ") + session.history().undoText()));
                }
            };
            const model::Project project = *session.project();
            std::vector<std::string> owners{model::vehicle_owner};
            for (const model::Donor& donor : project.donors) owners.push_back(donor.id.text);
            for (const std::string& owner : owners)
                for (int k = 0; k < survey_kind_count; ++k) {
                    const auto kind = static_cast<SurveyKind>(k);
                    if (kind == SurveyKind::Areas) continue; // answering makes its mark
                    std::vector<SurveyEntry> entries = surveyEntries(project, owner, kind);
                    if (kind >= SurveyKind::Motions)
                        entries = motionEntries(project, owner, kind);
                    else if (kind >= SurveyKind::Readings)
                        entries = notebookEntries(session, owner, kind);
                    constexpr std::size_t enough = 5; // of a kind
                    entries.resize(std::min(entries.size(), enough));
                    for (const SurveyEntry& entry : entries) giveBack(surveyFields(session, owner, kind, entry.key));
                }
            const auto keyed = [](const char* kind, const std::string& id) { return QLatin1String(kind) + q(id); };
            if (project.sections.get<model::Parts>())
                for (std::size_t i = 0; i < project.sections.get<model::Parts>()->size(); i += 4)
                    giveBack(partFields(session, (*project.sections.get<model::Parts>())[i].id));
            if (project.sections.get<model::Driveline>()) {
                for (const auto& i : project.sections.get<model::Driveline>()->lines)
                    giveBack(drivelineFields(session, keyed("line:", i.id)));
                for (const auto& i : project.sections.get<model::Driveline>()->couplings)
                    giveBack(drivelineFields(session, keyed("coupling:", i.id)));
                for (const auto& i : project.sections.get<model::Driveline>()->interfaces)
                    giveBack(drivelineFields(session, keyed("interface:", i.id)));
                for (const auto& i : project.sections.get<model::Driveline>()->readings)
                    giveBack(drivelineFields(session, keyed("reading:", i.id)));
                giveBack(drivelineFields(session, QStringLiteral("bell")));
            }
            giveBack(drivelineFields(session, QStringLiteral("gearing")));
            giveBack(mountsFields(session, QStringLiteral("unit")));
            if (project.sections.get<model::Mounts>()) {
                for (const auto& i : project.sections.get<model::Mounts>()->mounts)
                    giveBack(mountsFields(session, keyed("mount:", i.id)));
                for (const auto& i : project.sections.get<model::Mounts>()->isolators)
                    giveBack(mountsFields(session, keyed("isolator:", i.id)));
                for (const auto& i : project.sections.get<model::Mounts>()->rows)
                    giveBack(mountsFields(session, keyed("row:", i.id)));
                for (const auto& i : project.sections.get<model::Mounts>()->crossmembers)
                    giveBack(mountsFields(session, keyed("crossmember:", i.id)));
                for (const auto& i : project.sections.get<model::Mounts>()->seats)
                    giveBack(mountsFields(session, keyed("seat:", i.id)));
                for (const auto& i : project.sections.get<model::Mounts>()->frames)
                    giveBack(mountsFields(session, keyed("frame:", i.id)));
                for (const auto& i : project.sections.get<model::Mounts>()->old_mounts)
                    giveBack(mountsFields(session, keyed("old:", i.id)));
            }
            if (project.sections.get<model::Relief>()) {
                for (const auto& i : project.sections.get<model::Relief>()->pockets) {
                    // What its plates weigh is reckoned anew with any change, and may be rounded in the file.
                    std::vector<Field> form = reliefFields(session, keyed("pocket:", i.id));
                    QVERIFY(fieldNamed(form, QStringLiteral("name")).set_text(q(i.name)));
                    before = describe::markOf(*session.project());
                    giveBack(form);
                }
                for (const auto& i : project.sections.get<model::Relief>()->tubes)
                    giveBack(reliefFields(session, keyed("tube:", i.id)));
                for (const auto& i : project.sections.get<model::Relief>()->plates)
                    giveBack(reliefFields(session, keyed("plate:", i.id)));
                for (const auto& i : project.sections.get<model::Relief>()->holes)
                    giveBack(reliefFields(session, keyed("hole:", i.id)));
            }
        }
        QVERIFY2(tried > 1500, qPrintable(QString::number(tried)));
    }
};

GABARIT_WINDOW_SUITE(DescribedTest)
#include "described_test.moc"
