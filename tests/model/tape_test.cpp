// Bodies made from tape readings, against what pencil and paper say; and what keeps them bound.
#include "model/datum.h"
#include "model/edit.h"
#include "model/reshape.h"
#include "model/tape.h"
#include "shape/solid.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::Vector3d;

namespace {

constexpr double same = 1e-9;

Reading read(const char* what, double mm, int station = 0, std::optional<double> accuracy = 2) {
    Reading reading{what, station, mm, accuracy};
    reading.measured.method = Method::Measured;
    return reading;
}

Body taken(const char* id, const char* way, std::vector<Reading> readings) {
    Body body;
    body.id.text = body.name = id;
    body.category = "body";
    body.tape.way = way;
    body.tape.readings = std::move(readings);
    return body;
}

Project with(std::vector<Body> bodies, std::vector<HardPoint> points = {}) {
    Project project;
    project.name = "T";
    project.vehicle.emplace();
    project.vehicle->name = "V";
    project.vehicle->bodies = std::move(bodies);
    project.vehicle->hard_points = std::move(points);
    return withTapeApplied(project);
}

Body crossmember() {
    return taken("crossmember", "box",
                 {read("front", -90), read("rear", 110), read("left", -300), read("right", 280), read("bottom", 400),
                  read("top", 520)});
}

/// The true extents, owner's frame.
Eigen::AlignedBox3d bounds(const Body& body) {
    const auto solid = shape::makeSolid(body.shape);
    if (!solid) qFatal("%s", solid.error().line().c_str());
    return shape::moved(shape::boundsOf(shape::makeMesh(solid.value()).value().mesh), body.poseOwnerBody());
}

void compare(const Eigen::AlignedBox3d& box, const Vector3d& low, const Vector3d& high) {
    constexpr double meshed = 1e-5;
    QVERIFY2((box.min() - low).norm() < meshed && (box.max() - high).norm() < meshed,
             qPrintable(QStringLiteral("%1 %2 %3 to %4 %5 %6")
                            .arg(box.min().x())
                            .arg(box.min().y())
                            .arg(box.min().z())
                            .arg(box.max().x())
                            .arg(box.max().y())
                            .arg(box.max().z())));
}

Body& body(Project& project, const char* id) { return *findBody(project, {vehicle_owner, {id}}); }

} // namespace

class TapeTest : public QObject {
    Q_OBJECT
private slots:
    void sixReadingsMakeABox() {
        Project project = with({crossmember()});
        const Body& made = body(project, "crossmember");
        QVERIFY((std::get<BoxSpec>(made.shape).size_mm - Vector3d(200, 580, 120)).norm() < same);
        QVERIFY((made.position_mm - Vector3d(10, -10, 460)).norm() < same);
        QCOMPARE(*made.accuracy_mm, 2.0);
        QCOMPARE(made.measured.method, Method::Measured);
    }

    void readAgainItMoves() {
        const Project project = with({crossmember()});
        auto again = withReading(project, vehicle_owner, "crossmember", false, read("top", 530, 0, 5));
        QVERIFY(again.ok());
        const Body& made = body(again.value(), "crossmember");
        QCOMPARE(std::get<BoxSpec>(made.shape).size_mm.z(), 130.0);
        QCOMPARE(made.position_mm.z(), 465.0);
        QCOMPARE(*made.accuracy_mm, 5.0); // as true as its worst reading
    }

    void oneAssumedReadingMakesItAssumed() {
        Body half = crossmember();
        half.tape.readings[2].measured.method = Method::Assumed;
        half.tape.readings[3].accuracy_mm.reset();
        Project project = with({half});
        QCOMPARE(body(project, "crossmember").measured.method, Method::Assumed);
        QVERIFY(!body(project, "crossmember").accuracy_mm);
    }

    void placesAreReadFromTheHook() {
        HardPoint hook;
        hook.id.text = hook.name = "plumb";
        hook.at_mm = {1000, 50, -20};
        Body hooked = crossmember();
        hooked.tape.hook.text = "plumb";
        Project project = with({hooked}, {hook});
        QVERIFY((body(project, "crossmember").position_mm - Vector3d(1010, 40, 440)).norm() < same);
        // The hook was measured wrong by 7 mm: all that was read from it goes along.
        Project moved = project;
        moved.vehicle->hard_points[0].at_mm.x() += 7;
        moved = withTapeKept(project, moved);
        QVERIFY((body(moved, "crossmember").position_mm - Vector3d(1017, 40, 440)).norm() < same);
    }

    void blockStandsAstride() {
        Project project = with({taken("engine", "block",
                                      {read("front", -600), read("rear", 0), read("width", 620), read("bottom", -60),
                                       read("top", 430), read("off", 15)})});
        compare(bounds(body(project, "engine")), {-600, -295, -60}, {0, 325, 430});
    }

    void railOfTwoStationsIsABoxSection() {
        Project project = with({taken("rail", "rail",
                                      {read("width", 60), read("height", 100), read("wall", 4), read("at", -500, 1),
                                       read("inner", -380, 1), read("top", 500, 1), read("at", 900, 2),
                                       read("inner", -380, 2), read("top", 500, 2)})});
        const Body& rail = body(project, "rail");
        compare(bounds(rail), {-500, -440, 400}, {900, -380, 500}); // its section lies outward of the inner face
        const double metal = 60 * 100 - 52 * 92;                    // mm², by hand
        QVERIFY(std::abs(shape::volume_mm3(shape::makeSolid(rail.shape).value()) / (1400 * metal) - 1) < 1e-6);
    }

    void railOfThreeStationsKicksUp() {
        Project project =
            with({taken("rail", "rail",
                        {read("width", 60), read("height", 100), read("at", 0, 1), read("inner", 380, 1),
                         read("top", 500, 1), read("at", 1000, 3), read("inner", 380, 3), read("top", 600, 3),
                         read("at", 600, 2), read("inner", 380, 2), read("top", 500, 2)})});
        compare(bounds(body(project, "rail")), {0, 380, 400}, {1000, 440, 600}); // sorted by where they are
    }

    void tunnelIsReadInside() {
        Project project = with({taken("tunnel", "tunnel",
                                      {read("thickness", 2), read("at", 500, 1), read("width", 400, 1),
                                       read("bottom", 450, 1), read("top", 700, 1), read("at", 1400, 2),
                                       read("width", 400, 2), read("bottom", 450, 2), read("top", 700, 2)})});
        compare(bounds(body(project, "tunnel")), {500, -202, 450}, {1400, 202, 702});
        const double metal = 2 * 250 * 2 + 404 * 2; // two walls and the roof over them, mm²
        QVERIFY(std::abs(shape::volume_mm3(shape::makeSolid(body(project, "tunnel").shape).value()) / (900 * metal) -
                         1) < 1e-6);
    }

    void firewallsMetalIsBehindItsFace() {
        std::vector<Reading> readings{read("width", 1200), read("thickness", 1.5)};
        for (const int station : {1, 2})
            for (const char* what : {"left", "centre", "right"}) readings.push_back(read(what, 450, station));
        readings.push_back(read("at", 600, 1));
        readings.push_back(read("at", 1000, 2));
        Project project = with({taken("firewall", "firewall", readings)});
        compare(bounds(body(project, "firewall")), {450, -600, 600}, {451.5, 600, 1000});
    }

    void archsMetalIsAwayFromTheBay() {
        const auto side = [](double sign) {
            std::vector<Reading> readings{read("thickness", 2)};
            for (const int station : {1, 2}) {
                readings.push_back(read("at", station == 1 ? -400 : 350, station));
                readings.push_back(read("inner", sign * 480, station));
                readings.push_back(read("outer", sign * 700, station));
                readings.push_back(read("bottom", 500, station));
                readings.push_back(read("top", 820, station));
            }
            return readings;
        };
        Project project = with({taken("left", "arch", side(-1)), taken("right", "arch", side(1))});
        compare(bounds(body(project, "left")), {-400, -700, 500}, {350, -480, 820});
        compare(bounds(body(project, "right")), {-400, 480, 500}, {350, 700, 820});
    }

    void theOtherSideFollows() {
        Project project = with({crossmember()});
        BodyId image;
        project = withBodyMirrored(project, {vehicle_owner, {"crossmember"}}, image).value();
        QCOMPARE(body(project, image.text.c_str()).tape.way, std::string("mirror"));
        const auto again = withReading(project, vehicle_owner, "crossmember", false, read("right", 200));
        Project moved = again.value();
        compare(bounds(body(moved, image.text.c_str())), {-90, -200, 400}, {110, 300, 520});
        // Without its other side it stays where it is, by itself.
        Project alone = withoutBody(moved, {vehicle_owner, {"crossmember"}});
        QVERIFY(!body(alone, image.text.c_str()).tape.bound());
        compare(bounds(body(alone, image.text.c_str())), {-90, -200, 400}, {110, 300, 520});
    }

    void whatIsMissingOrContradictsIsNamed_data() {
        QTest::addColumn<QString>("change");
        QTest::addColumn<QString>("says");
        QTest::newRow("missing") << "drop"
                                 << "its reading \"top\" is missing";
        QTest::newRow("inside out") << "swap"
                                    << "\"rear face\" is not beyond \"front face\"";
        QTest::newRow("not its own") << "stray"
                                     << "a reading \"width\" that a box from six readings does not ask for";
        QTest::newRow("twice") << "twice"
                               << "it is there twice";
        QTest::newRow("no such hook") << "hook"
                                      << "there is no point \"gone\" to hook the tape on";
        QTest::newRow("no such way") << "way"
                                     << "no way of taking a body called \"guess\"";
        QTest::newRow("not a length") << "huge"
                                      << "mm is not a length below 1 km";
    }
    void whatIsMissingOrContradictsIsNamed() {
        QFETCH(QString, change);
        QFETCH(QString, says);
        Body wrong = crossmember();
        auto& readings = wrong.tape.readings;
        if (change == "drop") readings.pop_back();
        if (change == "swap") std::swap(readings[0].mm, readings[1].mm);
        if (change == "stray") readings.push_back(read("width", 5));
        if (change == "twice") readings.push_back(readings[0]);
        if (change == "hook") wrong.tape.hook.text = "gone";
        if (change == "way") wrong.tape.way = "guess";
        if (change == "huge") readings[1].mm = 1e300;
        QString all;
        for (const Error& error : validate(with({wrong}), store::defaultRuleBook()))
            all += QString::fromStdString(error.line()) + "\n";
        QVERIFY2(all.contains(says), qPrintable(all));
    }

    void aHandMovesTheReadingsOfABox() {
        const Project before = with({crossmember()});
        Project after = before;
        body(after, "crossmember").position_mm += Vector3d(5, 0, -3);
        after = withTapeKept(before, after);
        const Tape& tape = body(after, "crossmember").tape;
        QCOMPARE(findReading(tape, "front")->mm, -85.0);
        QCOMPARE(findReading(tape, "top")->mm, 517.0);
        QCOMPARE(findReading(tape, "left")->measured.method, Method::Measured); // untouched
        QCOMPARE(findReading(tape, "top")->measured.method, Method::NotSaid);   // a hand is no tape
    }

    void aHandThatAddsAReadingLeavesTheAccuracyKnown() {
        const Project before = with(
            {taken("engine", "block",
                   {read("front", -600), read("rear", 0), read("width", 620), read("bottom", -60), read("top", 430)})});
        Project after = before;
        body(after, "engine").position_mm.y() += 8;
        after = withTapeApplied(withTapeKept(before, after));
        QCOMPARE(findReading(body(after, "engine").tape, "off")->mm, 8.0);
        QCOMPARE(*body(after, "engine").accuracy_mm, 2.0);
    }

    void whatAHandCannotSayInReadingsIsUnboundAndNamed() {
        const Project before =
            with({taken("tunnel", "tunnel",
                        {read("at", 500, 1), read("width", 400, 1), read("bottom", 450, 1), read("top", 700, 1),
                         read("at", 1400, 2), read("width", 400, 2), read("bottom", 450, 2), read("top", 700, 2)})});
        Project after = before;
        body(after, "tunnel").position_mm.z() += 4;
        std::vector<std::string> unbound;
        after = withTapeKept(before, after, &unbound);
        QVERIFY(!body(after, "tunnel").tape.bound());
        QCOMPARE(unbound, std::vector<std::string>{"tunnel"});
        QCOMPARE(body(after, "tunnel").position_mm.z(), 4.0); // as the hand left it
    }

    void anotherDatumMovesReadingsAlong() {
        HardPoint hook;
        hook.id.text = hook.name = "rail top";
        hook.at_mm = {0, 0, 500};
        Body hooked = crossmember();
        hooked.id.text = hooked.name = "hooked";
        hooked.tape.hook.text = "rail top";
        const Project before = with({crossmember(), hooked}, {hook});
        Project after = withDatumMoved(before, 500, "other", "rail top");
        for (const char* id : {"crossmember", "hooked"}) {
            Project b = before;
            QVERIFY((body(after, id).position_mm - body(b, id).position_mm - Vector3d(0, 0, -500)).norm() < same);
            QVERIFY(body(after, id).tape.bound());
        }
        QCOMPARE(findReading(body(after, "crossmember").tape, "top")->mm, 20.0);
        QCOMPARE(findReading(body(after, "hooked").tape, "top")->mm, 520.0); // the hook went down, the tape did not
        QVERIFY(validate(after, store::defaultRuleBook()).empty());
    }

    void everyWayTakesWhatAlreadyStandsThere() {
        for (const TapeWay& way : tapeWays()) {
            if (way.asks.empty() || std::string(way.id) == "point") continue;
            Body boxed;
            boxed.id.text = boxed.name = "b";
            boxed.category = "body";
            boxed.shape = BoxSpec{{300, 200, 100}};
            boxed.position_mm = {50, 400, 600};
            boxed.accuracy_mm = 3;
            Project project = with({});
            project.vehicle->bodies = {boxed};
            const auto bound = withTapeWay(project, {vehicle_owner, {"b"}}, way.id);
            QVERIFY2(bound.ok(), bound.ok() ? "" : bound.error().line().c_str());
            QVERIFY2(validate(bound.value(), store::defaultRuleBook()).empty(), way.id);
            QCOMPARE(*bound.value().vehicle->bodies[0].accuracy_mm, 3.0);
            if (std::string(way.id) == "box" || std::string(way.id) == "block")
                QCOMPARE(bound.value().vehicle->bodies[0].position_mm, boxed.position_mm);
        }
    }

    void aFileKeepsThemBound() {
        Body noted = crossmember();
        noted.tape.readings[0].note = "to the weld";
        noted.tape.readings[0].measured.who = "N.";
        const Project project = with({noted});
        const std::string text = store::projectText(project);
        auto again = store::projectFromText(text, "t.gabarit", store::defaultRuleBook());
        QVERIFY(again.ok());
        QCOMPARE(store::projectText(again.value().project), text);
        QCOMPARE(body(again.value().project, "crossmember").tape.readings[0].measured.who, std::string("N."));
        // A reading corrected in the file moves the body, whatever shape still stands there.
        std::string corrected = text;
        const std::size_t at = corrected.find("\"mm\": 520");
        QVERIFY(at != std::string::npos);
        corrected.replace(at, 9, "\"mm\": 540");
        auto moved = store::projectFromText(corrected, "t.gabarit", store::defaultRuleBook());
        QVERIFY(moved.ok());
        QCOMPARE(body(moved.value().project, "crossmember").position_mm.z(), 470.0);
    }

    void aPointIsBoundToo() {
        const Project project = with({crossmember()});
        PointId id;
        const auto made = withTapePoint(project, vehicle_owner, "Lamp corner", {-700, 600, 800}, {}, id);
        QVERIFY(made.ok());
        QCOMPARE(id.text, std::string("lamp-corner"));
        const auto again = withReading(made.value(), vehicle_owner, id.text, true, read("x", -690));
        QCOMPARE(again.value().vehicle->hard_points[0].at_mm, Vector3d(-690, 600, 800));
        // A point that hangs on a hook is no hook for others: a circle would have no beginning.
        Project chained = again.value();
        chained.vehicle->hard_points[0].tape.hook.text = "lamp-corner";
        QVERIFY(!validate(chained, store::defaultRuleBook()).empty());
    }
};

GABARIT_SUITE(TapeTest)
#include "tape_test.moc"
