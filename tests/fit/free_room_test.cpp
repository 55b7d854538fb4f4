// Free volumes: which parts go in, and what stands in them.
#include "fit/free_room.h"
#include "parts/parts.h"
#include "placed/scene.h"
#include "store/rule_book.h"
#include "support/kept_colliders.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::Vector3d;

namespace {

FreeVolume room(const char* id, const Vector3d& size, std::optional<double> accuracy = 1) {
    FreeVolume volume;
    volume.id = id;
    volume.name = std::string("Room ") + id;
    volume.at_mm = {0, 0, 500};
    volume.size_mm = size;
    volume.accuracy_mm = accuracy;
    return volume;
}

Part part(const char* id, std::optional<Vector3d> size, const char* home = "") {
    Part out;
    out.id.text = id;
    out.name = id;
    out.size_mm = size;
    out.home = home;
    return out;
}

Project with(std::vector<FreeVolume> rooms, std::vector<Part> parts, std::vector<Body> bodies = {}) {
    Project project;
    project.name = "T";
    project.vehicle.emplace();
    project.vehicle->name = "V";
    project.vehicle->free_volumes = std::move(rooms);
    project.vehicle->bodies = std::move(bodies);
    project.sections.edit<Parts>() = std::move(parts);
    return project;
}

fit::FreeRoomReport searched(const Project& project) {
    tests::KeptColliders colliders;
    return fit::freeRoom(project, placed::makeScene(project, colliders), store::defaultRuleBook(), colliders);
}

} // namespace

class FreeRoomTest : public QObject {
    Q_OBJECT
private slots:
    void aPartIsTurnedTheBestWay() {
        // 300 × 120 × 200 in any order against 205 × 320 × 140: 300 in 320, 200 in 205, 120 in 140: 5 left at worst.
        const auto report = searched(with({room("a", {205, 320, 140})}, {part("battery", Vector3d(300, 120, 200))}));
        const fit::HomeOffer& offer = report.searches[0].offers[0];
        QCOMPARE(offer.spare_mm, 5.0);
        QCOMPARE(offer.verdict, Verdict::NoGo); // 5 at each side is wanted, 10 in all
        QVERIFY(!offer.reason.empty());
    }
    void theNearestFitComesFirst() {
        const auto report = searched(
            with({room("large", {900, 900, 900}), room("small", {100, 100, 100}), room("just", {330, 230, 150})},
                 {part("battery", Vector3d(300, 120, 200))}));
        QCOMPARE(report.searches[0].offers[0].volume, std::string("just"));
        QCOMPARE(report.searches[0].offers[0].verdict, Verdict::Go);
        QCOMPARE(report.searches[0].offers[1].volume, std::string("large"));
        QCOMPARE(report.searches[0].offers[2].volume, std::string("small"));
        QCOMPARE(report.searches[0].offers[2].spare_mm, -200.0);
    }
    void accuracyCounts() {
        const auto verdict = [](std::optional<double> accuracy) {
            return searched(with({room("a", {322, 222, 142}, accuracy)}, {part("b", Vector3d(300, 120, 200))}))
                .searches[0]
                .offers[0]
                .verdict;
        };
        QCOMPARE(verdict(5), Verdict::Go); // 12 beyond what is wanted
        QCOMPARE(verdict(20), Verdict::Close);
        QCOMPARE(verdict(std::nullopt), Verdict::Unknown);
    }
    void whatReachesIntoItIsNamed() {
        Body strut;
        strut.id.text = strut.name = "strut";
        strut.category = "body";
        strut.shape = BoxSpec{{20, 20, 400}};
        strut.position_mm = {90, 0, 500};
        const auto report = searched(with({room("a", {200, 400, 400})}, {part("b", Vector3d(100, 100, 100))}, {strut}));
        QCOMPARE(report.rooms[0].intruders, std::vector<std::string>{"strut"});
        QCOMPARE(report.searches[0].offers[0].verdict, Verdict::Close);
        strut.position_mm.x() = 120; // beside it
        QVERIFY(searched(with({room("a", {200, 400, 400})}, {}, {strut})).rooms[0].intruders.empty());
    }
    void aPartsOwnBodyInItsHomeIsNoIntruder() {
        Body tank;
        tank.id.text = tank.name = "tank";
        tank.category = "fixed_part";
        tank.shape = BoxSpec{{100, 100, 100}};
        tank.position_mm = {0, 0, 500};
        Part lives = part("tank", {}, "a");
        lives.body = "vehicle/tank";
        const auto report = searched(with({room("a", {200, 200, 200})}, {lives}, {tank}));
        QVERIFY(report.rooms[0].intruders.empty());
        QCOMPARE(report.searches[0].offers[0].spare_mm, 100.0); // its size is its body's
        lives.home.clear();
        QCOMPARE(searched(with({room("a", {200, 200, 200})}, {lives}, {tank})).rooms[0].intruders.size(),
                 std::size_t(1));
    }
    void onlyPartsThatNeedAHomeAreOffered() {
        Part sold = part("sold", Vector3d(1, 1, 1));
        sold.state = PartState::Sold;
        Part fitted = part("fitted", Vector3d(1, 1, 1));
        fitted.state = PartState::Fitted;
        const auto report =
            searched(with({room("a", {50, 50, 50})}, {sold, fitted, part("no size", {}), part("home", {}, "a"),
                                                      part("sized", Vector3d(10, 10, 10))}));
        QCOMPARE(report.searches.size(), std::size_t(2));
        QCOMPARE(report.searches[0].name, std::string("home"));
        QVERIFY(report.searches[0].offers.empty()); // its size is not known
        QCOMPARE(report.rooms[0].homes_of, std::vector<std::string>{"home"});
        QCOMPARE(report.searches[1].name, std::string("sized"));
    }
};

GABARIT_SUITE(FreeRoomTest)
#include "free_room_test.moc"
