// Distances of points, the room round what stands still, and clouds that move in it: against formulas, against the
// exact engine, and never on the unsafe side.
#include "field/cloud.h"
#include "field/passage.h"
#include "proximity/gap.h"
#include "support/dice.h"
#include "support/suite.h"

#include <QtTest>

#include <cmath>
#include <thread>

using namespace gabarit;
using namespace gabarit::field;
using Eigen::AlignedBox3d;
using Eigen::Isometry3d;
using Eigen::Vector3d;
using tests::Dice;

namespace {

std::shared_ptr<const Surface> made(const model::ShapeSpec& spec) {
    auto mesh = shape::makeMesh(shape::makeSolid(spec).value()).value();
    return std::make_shared<const Surface>(
        std::make_shared<const proximity::Collider>(std::move(mesh.mesh), mesh.deflection_mm));
}

Isometry3d at(double x, double y, double z) { return Isometry3d(Eigen::Translation3d(x, y, z)); }

std::vector<model::ShapeSpec> zoo() {
    return {model::BoxSpec{{300, 40, 90}},
            model::SphereSpec{140},
            model::CylinderSpec{{-200, 0, 0}, {150, 80, 30}, 48},
            model::TubeSpec{{{0, 0, 0}, {200, 0, 0}, {200, 200, 0}, {200, 200, 150}}, 30, 60},
            model::PlateSpec{{{-150, -90}, {150, -90}, {60, 120}, {-140, 30}}, 3},
            model::ProfileSpec{model::CSection{50, 100, 5}, {0, 10, 0}, {300, 10, 0}, 0}};
}

/// A box whose middle is the origin, so that the room to it is a formula.
struct Block {
    Vector3d half;
    double distance(const Vector3d& p) const {
        const Vector3d off = p.cwiseAbs() - half;
        return off.cwiseMax(0).norm() + std::min(off.maxCoeff(), 0.0);
    }
};
model::BoxSpec boxOf(const Block& block) { return {2 * block.half}; }

/// Where the middle of a made box is, in its own frame: shapes stand on their own corner or face.
Isometry3d middled(const Surface& surface) { return Isometry3d(Eigen::Translation3d(-surface.bounds().center())); }

} // namespace

class FieldTest : public QObject {
    Q_OBJECT
private slots:
    void distanceToABoxIsItsFormula() {
        const Block block{{150, 20, 45}};
        const auto surface = made(boxOf(block));
        const Vector3d middle = surface->bounds().center();
        QVERIFY(surface->closed());
        Dice dice(1);
        for (int i = 0; i < 3000; ++i) {
            const Vector3d p = dice.place(220);
            const double is = *surface->distance_mm(middle + p);
            QVERIFY2(std::abs(is - block.distance(p)) < 1e-9, qPrintable(QString::number(is - block.distance(p))));
            // Within a range it is the same, beyond it nothing.
            const auto near = surface->distance_mm(middle + p, 30);
            QCOMPARE(near.has_value(), std::abs(is) <= 30);
            if (near) QCOMPARE(*near, is);
        }
        // At a corner and an edge the side is known too.
        QVERIFY(*surface->distance_mm(middle + block.half * 1.01) > 0);
        QVERIFY(*surface->distance_mm(middle + block.half * 0.99) < 0);
    }
    /// The side agrees with the winding number everywhere, on every kind of shape.
    void theSideIsTheWindingNumbers() {
        Dice dice(2);
        for (const model::ShapeSpec& spec : zoo()) {
            const auto surface = made(spec);
            const shape::Mesh& mesh = surface->body().mesh();
            int within = 0;
            for (int i = 0; i < 1500; ++i) {
                Vector3d p = surface->bounds().sample();
                if (i % 3) { // most of them next to the surface, where it matters
                    const auto& t = mesh.triangles[static_cast<std::size_t>(
                        dice.in(0, static_cast<double>(mesh.triangles.size()) - 0.01))];
                    p = mesh.points[static_cast<std::size_t>(t.corner[static_cast<std::size_t>(i) % 3])] +
                        dice.place(2);
                }
                const double d = *surface->distance_mm(p);
                if (std::abs(d) < 1e-6) continue;
                const bool inside = shape::contains(mesh, p);
                within += inside;
                QVERIFY2((d < 0) == inside, qPrintable(QString::number(d)));
            }
            QVERIFY(within > 50);
        }
    }
    void whatIsOpenHasNoInside() {
        shape::Mesh sheet;
        sheet.points = {{0, 0, 0}, {100, 0, 0}, {0, 100, 0}};
        sheet.triangles = {{{0, 1, 2}}};
        const Surface surface(std::make_shared<const proximity::Collider>(sheet, 0.1));
        QVERIFY(!surface.closed());
        QCOMPARE(*surface.distance_mm({20, 20, 7}), 7.0);
        QCOMPARE(*surface.distance_mm({20, 20, -7}), 7.0);
    }

    /// Between two walls 100 apart, 10 wanted from one and 25 from the other: the most room is in the middle of what is
    /// left, (100 − 35)/2.
    void roomBetweenTwoWalls() {
        const auto wall = made(model::BoxSpec{{20, 400, 400}});
        const double thick = wall->bounds().sizes().x();
        const Vector3d middle = wall->bounds().center();
        const auto standing = [&](double x) { return Isometry3d(Eigen::Translation3d(Vector3d(x, 0, 0) - middle)); };
        const Wanted wanted({{wall, standing(-50 - thick / 2), 10}, {wall, standing(50 + thick / 2), 25}},
                            AlignedBox3d(Vector3d(-120, -120, -120), Vector3d(120, 120, 120)));
        for (double x = -45; x <= 45; x += 0.7) {
            const double room = std::min(x + 50 - 10, 50 - x - 25);
            const auto exact = wanted.exact({x, 3, -8}, 1000);
            QVERIFY(exact && std::abs(exact->room_mm - room) < 1e-9);
            QCOMPARE(exact->obstacle, x + 40 < 25 - x ? 0 : 1);
            QVERIFY(std::abs(exact->away.x() - (exact->obstacle == 0 ? 1 : -1)) < 1e-9);
            const double told = wanted.roomWithin_mm({x, 3, -8}, 0, 1000);
            QVERIFY2(told <= room + 1e-9 && told > room - 2 * wanted.grain_mm(),
                     qPrintable(QString::number(told - room)));
        }
        QCOMPARE(wanted.exact({-7.5, 0, 0}, 33)->room_mm, 32.5);
        QVERIFY(!wanted.exact({-7.5, 0, 0}, 32.4)); // there is enough
    }
    /// Never more room than there is, anywhere, inside of things too; on a coarse grid as on a fine one.
    void neverMoreRoomThanThereIs() {
        Dice dice(3);
        std::vector<Obstacle> obstacles;
        for (const model::ShapeSpec& spec : zoo()) obstacles.push_back({made(spec), dice.pose(150), dice.in(0, 100)});
        for (const double grain : {5.0, 20.0}) {
            WantedOptions options;
            options.grain_mm = grain;
            const Wanted wanted(obstacles, AlignedBox3d(Vector3d(-300, -300, -300), Vector3d(300, 300, 300)), options);
            double most_short = 0;
            for (int i = 0; i < 4000; ++i) {
                const Vector3d p = dice.place(340); // some of it outside of the region
                double is = 1e9;
                for (const Obstacle& o : obstacles)
                    is = std::min(is, *o.surface->distance_mm(o.pose_vehicle_body.inverse() * p) - o.wanted_mm);
                const double told = wanted.roomWithin_mm(p, 0, 150);
                QVERIFY2(told <= is + 1e-6, qPrintable(QString::number(told - is)));
                if (is < 60) most_short = std::max(most_short, is - told);
                const auto exact = wanted.exact(p, 150, told);
                QVERIFY(!exact ? is > 150 - 1e-9 : std::abs(exact->room_mm - is) < 1e-9);
                // All round it too.
                const double round = wanted.roomWithin_mm(p, 12, 150);
                QVERIFY(round <= is - 12 + 1e-6);
            }
            QVERIFY2(most_short < 3 * grain, qPrintable(QString::number(most_short)));
        }
    }
    void manyThreadsFillTheSame() {
        Dice dice(4);
        std::vector<Obstacle> obstacles;
        for (const model::ShapeSpec& spec : zoo()) obstacles.push_back({made(spec), dice.pose(150), 10});
        const AlignedBox3d region(Vector3d(-200, -200, -200), Vector3d(200, 200, 200));
        const Wanted alone(obstacles, region), shared(obstacles, region);
        std::vector<Vector3d> points;
        for (int i = 0; i < 3000; ++i) points.push_back(dice.place(200));
        std::vector<std::vector<double>> seen(4, std::vector<double>(points.size()));
        std::vector<std::thread> threads;
        for (auto& its : seen)
            threads.emplace_back([&] {
                for (std::size_t i = 0; i < points.size(); ++i) its[i] = shared.roomWithin_mm(points[i], 0, 80);
            });
        for (std::thread& thread : threads) thread.join();
        for (std::size_t i = 0; i < points.size(); ++i)
            for (const auto& its : seen) QCOMPARE(its[i], alone.roomWithin_mm(points[i], 0, 80));
        QCOMPARE(shared.bricks(), alone.bricks());
        QVERIFY(shared.bytes() >= static_cast<std::size_t>(shared.bricks()) * 729 * 4);
    }
    /// What does not fit the memory is asked on a coarser grid.
    void aRegionAsLargeAsAStreet() {
        const auto post = made(model::BoxSpec{{100, 100, 1000}});
        WantedOptions options;
        options.most_bytes = 4u << 20;
        const Wanted street({{post, Isometry3d::Identity(), 10}},
                            AlignedBox3d(Vector3d(-30000, -30000, 0), Vector3d(30000, 30000, 5000)), options);
        QVERIFY(street.grain_mm() >= 40);
        QVERIFY(street.bytes() < (8u << 20));
        QVERIFY(street.roomWithin_mm(post->bounds().center() + Vector3d(0, 0, 700), 0, 100) <= 190);
        const Wanted nothing({}, AlignedBox3d());
        QVERIFY(nothing.roomWithin_mm({1, 2, 3}, 5, 100) >= 100);
        QVERIFY(!nothing.exact({1, 2, 3}, 100));
    }

    /// A cloud's least room is the gap less what is wanted, within what its points may miss, at any pose; and where it
    /// finds enough of what is wanted of points, the surface has what is wanted.
    void aCloudIsTheExactGap() {
        Dice dice(5);
        const auto shapes = zoo();
        int near = 0, inside = 0;
        constexpr double wanted_mm = 12, spread_mm = 4;
        std::vector<std::shared_ptr<const Surface>> surfaces;
        std::vector<std::unique_ptr<Cloud>> clouds;
        for (const model::ShapeSpec& spec : shapes) {
            surfaces.push_back(made(spec));
            clouds.push_back(std::make_unique<Cloud>(surfaces.back(), spread_mm));
        }
        Isometry3d stands = Isometry3d::Identity();
        std::unique_ptr<const Wanted> field; // one for all that move round it
        for (std::size_t i = 0; i < 360; ++i) {
            const auto& fixed = surfaces[i / 60];
            const auto& moves = surfaces[i % 6];
            const Cloud& cloud = *clouds[i % 6];
            if (i % 60 == 0) {
                stands = dice.pose(50);
                field = std::make_unique<const Wanted>(
                    std::vector<Obstacle>{{fixed, stands, wantedOfPoints_mm(wanted_mm, spread_mm)}},
                    AlignedBox3d(Vector3d(-700, -700, -700), Vector3d(700, 700, 700)));
            }
            const Wanted& wanted = *field;
            const Isometry3d pose = dice.pose(260);
            proximity::GapRequest ask;
            ask.range_mm = 60;
            const auto gap = proximity::gap(moves->body(), pose, fixed->body(), stands, ask);
            const auto worst = cloud.worst(wanted, pose, 0);
            QVERIFY(std::abs(cloud.leastRoom_mm(wanted, pose, 0) - (worst ? worst->room_mm : 0)) < 1e-9);
            if (!worst) {
                QVERIFY2(gap.gap_mm >= wanted_mm - 1e-9, qPrintable(QString::number(gap.gap_mm)));
                continue;
            }
            if (gap.contact == proximity::Contact::Overlap) {
                inside += worst->room_mm < -wanted_mm;
                continue;
            }
            // The other way round it gives away no more than what points are asked for beyond the surface.
            QVERIFY2(gap.gap_mm < wantedOfPoints_mm(wanted_mm, spread_mm), qPrintable(QString::number(gap.gap_mm)));
            ++near;
        }
        QVERIFY2(near > 3 && inside > 20, qPrintable(QStringLiteral("%1 %2").arg(near).arg(inside)));
        QVERIFY(std::abs(wantedOfPoints_mm(3, 4) - 5) < 1e-12);
    }
    /// What lies wholly inside of what moves is found, as deep as it lies.
    void whatIsSwallowedIsFound() {
        const auto engine = made(model::BoxSpec{{400, 400, 400}}), bolt = made(model::BoxSpec{{10, 10, 10}});
        const Isometry3d in_its_middle = middled(*engine);
        const Wanted wanted({{bolt, middled(*bolt), 5}},
                            AlignedBox3d(Vector3d(-300, -300, -300), Vector3d(300, 300, 300)));
        const Cloud cloud(engine, 4);
        const auto deep = cloud.worst(wanted, in_its_middle, 0);
        QVERIFY(deep && deep->room_mm < -150);
        // Moved to the side it comes out the near way, and there is a way out told.
        const auto beside = cloud.worst(wanted, at(150, 0, 0) * in_its_middle, 0);
        QVERIFY(beside && beside->room_mm > deep->room_mm && beside->at.away.x() > 0.99);
        QVERIFY(!cloud.worst(wanted, at(300, 0, 0) * in_its_middle, 0));
    }
    /// The points lie as close as was asked, on thin and long triangles too.
    void pointsLieAsCloseAsWasAsked() {
        Dice dice(6);
        for (const model::ShapeSpec& spec : zoo()) {
            const auto surface = made(spec);
            const Cloud cloud(surface, 6);
            const Wanted empty({}, AlignedBox3d());
            // From a point of the surface to the nearest of the cloud: asked of a tiny body there.
            const auto speck = made(model::BoxSpec{{0.1, 0.1, 0.1}});
            const shape::Mesh& mesh = surface->body().mesh();
            for (int i = 0; i < 60; ++i) {
                const auto& t = mesh.triangles[static_cast<std::size_t>(
                    dice.in(0, static_cast<double>(mesh.triangles.size()) - 0.01))];
                double u = dice.in(0, 1), v = dice.in(0, 1);
                if (u + v > 1) u = 1 - u, v = 1 - v;
                const auto corner = [&](std::size_t c) { return mesh.points[static_cast<std::size_t>(t.corner[c])]; };
                const Vector3d on = corner(0) + u * (corner(1) - corner(0)) + v * (corner(2) - corner(0));
                const Wanted spot({{speck, Isometry3d(Eigen::Translation3d(on)), 6.2}},
                                  AlignedBox3d(Vector3d(on.array() - 20), Vector3d(on.array() + 20)));
                QVERIFY(cloud.worst(spot, Isometry3d::Identity(), 0));
            }
            QVERIFY(cloud.size() < 200000 && cloud.spread_mm() == 6);
        }
    }
    /// Through a wall 10 thick with two windows the wider one is taken though the way is longer: a pipe as thick as the
    /// narrower side of the window passes.
    void theWidestWayThroughAWall() {
        const auto wall = [](double wide_half, bool both = true) {
            std::vector<Obstacle> out;
            const auto put = [&out](const Vector3d& low, const Vector3d& high) {
                const auto surface = made(model::BoxSpec{high - low});
                const Vector3d place = (low + high) / 2;
                out.push_back({surface, at(place.x(), place.y(), place.z()) * middled(*surface), 0});
            };
            // The wall fills x 0…10; a window 40 × 50 at y −3.3…36.7, one 60 × 2·wide_half at y 120…180.
            put({0, -300, -300}, {10, -3.3, 300});
            put({0, 36.7, -300}, {10, 120, 300});
            put({0, 180, -300}, {10, 400, 300});
            put({0, -3.3, 27}, {10, 36.7, 300});
            put({0, -3.3, -300}, {10, 36.7, -23});
            put({0, 120, wide_half}, {10, 180, 300});
            put({0, 120, -300}, {10, 180, -wide_half});
            if (!both) put({0, -3.3, -23}, {10, 36.7, 27});
            return out;
        };
        const AlignedBox3d box(Vector3d(-120, -200, -150), Vector3d(120, 300, 150));
        const Vector3d from(-100, 0, 0), to(100, 0, 0);
        const auto widest = [&](double wide_half, bool both = true) {
            const Wanted field(wall(wide_half, both), box);
            return widestWay(field, from, to, box);
        };
        const auto wide = widest(26); // 52 high, 60 wide: a pipe of 52
        QVERIFY(wide.has_value());
        QVERIFY2(wide->radius_mm <= 26 + 1e-6 && wide->radius_mm > 26 - 1.5,
                 qPrintable(QString::number(wide->radius_mm)));
        QVERIFY(wide->narrowest_vehicle_mm.y() > 120 && wide->narrowest_vehicle_mm.y() < 180);
        QVERIFY2(std::abs(wide->narrowest_vehicle_mm.x() - 5) < 8,
                 qPrintable(QString::number(wide->narrowest_vehicle_mm.x())));
        QVERIFY(wide->obstacle == 5 || wide->obstacle == 6);
        QCOMPARE(wide->way_vehicle_mm.front(), from);
        QCOMPARE(wide->way_vehicle_mm.back(), to);
        const auto narrow = widest(12); // now the near one: 40 wide, 50 high
        QVERIFY2(narrow->radius_mm <= 20 + 1e-6 && narrow->radius_mm > 20 - 1.5,
                 qPrintable(QString::number(narrow->radius_mm)));
        QVERIFY(narrow->narrowest_vehicle_mm.y() > -3.3 && narrow->narrowest_vehicle_mm.y() < 36.7);
        const auto length = [](const Passage& its) {
            double out = 0;
            for (std::size_t i = 0; i + 1 < its.way_vehicle_mm.size(); ++i)
                out += (its.way_vehicle_mm[i + 1] - its.way_vehicle_mm[i]).norm();
            return out;
        };
        QVERIFY(length(*narrow) < length(*wide));
        // No point of it has less than is told.
        const Wanted field(wall(12), box);
        for (const Vector3d& place : narrow->way_vehicle_mm)
            if (const auto room = field.exact(place, 300)) QVERIFY(room->room_mm >= narrow->radius_mm - 1e-6);
        // What a pipe has to stay away by counts.
        auto wanted = wall(12);
        for (Obstacle& its : wanted) its.wanted_mm = 8;
        const auto less = widestWay(Wanted(std::move(wanted), box), from, to, box);
        QVERIFY(std::abs(less->radius_mm - (narrow->radius_mm - 8)) < 1.5);
    }
    /// Without an opening it has to go through something, and says so; a stopped one, or ends outside, say nothing.
    void noWayThrough() {
        const AlignedBox3d box(Vector3d(-60, -60, -60), Vector3d(60, 60, 60));
        const auto surface = made(model::BoxSpec{{2, 400, 400}});
        const Wanted field({{surface, middled(*surface), 0}}, box);
        const auto through = widestWay(field, {-40, 0, 0}, {40, 0, 0}, box);
        QVERIFY(through && through->radius_mm <= 0);
        QVERIFY(std::abs(through->narrowest_vehicle_mm.x()) <= 1 + 1e-6);
        QVERIFY(!widestWay(field, {-400, 0, 0}, {40, 0, 0}, box));
        PassageOptions stopped;
        stopped.stop.stop();
        QVERIFY(!widestWay(field, {-40, 0, 0}, {40, 0, 0}, box, stopped));
        const auto free = widestWay(field, {-40, 0, 0}, {-40, 30, 0}, box);
        QVERIFY(free && free->radius_mm > 30);
    }
};

GABARIT_SUITE(FieldTest)
#include "field_test.moc"
