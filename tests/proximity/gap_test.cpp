#include "proximity/collider_cache.h"
#include "proximity/gap.h"
#include "support/suite.h"

#include <QtTest>

#include <random>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::AngleAxisd;
using Eigen::Isometry3d;
using Eigen::Vector3d;
using proximity::Contact;

namespace {

const double root2 = std::sqrt(2.0);
constexpr double quarter_turn = 3.14159265358979323846 / 4; // 45°

Isometry3d at(const Vector3d& place, const Eigen::Matrix3d& turn = Eigen::Matrix3d::Identity()) {
    Isometry3d pose = Isometry3d::Identity();
    pose.translation() = place;
    pose.linear() = turn;
    return pose;
}
Eigen::Matrix3d about(const Vector3d& axis, double angle) { return AngleAxisd(angle, axis).toRotationMatrix(); }

struct Case {
    const char* name;
    ShapeSpec a;
    Isometry3d pose_a;
    ShapeSpec b;
    Isometry3d pose_b;
    double gap_mm; ///< expected; negative: overlap, depth of the shortest way out
};

/// L whose foot lies in the top flange and whose leg lies in the web of a C-rail open to +y: see the case's derivation.
PolygonSection caughtL() { return {{{-28, -40}, {-18, -40}, {-18, 30}, {60, 30}, {60, 53}, {-28, 53}}}; }

std::vector<Case> cases() {
    const ShapeSpec cube = BoxSpec{{100, 100, 100}};
    const Vector3d y = Vector3d::UnitY(), z = Vector3d::UnitZ();
    const Vector3d outward = Vector3d(1, -1, 0).normalized();
    const Vector3d bend_centre(140, 60, 0);
    const ShapeSpec bent = TubeSpec{{{0, 0, 0}, {200, 0, 0}, {200, 200, 0}}, 30, 60};
    const ShapeSpec tunnel = SheetSpec{
        Axis::X,
        {{0, {{-200, 0}, {-150, 200}, {150, 200}, {200, 0}}}, {500, {{-200, 0}, {-150, 200}, {150, 200}, {200, 0}}}},
        1.2};
    return {
        {"sphere over a face", SphereSpec{40}, at({0, 0, 100}), cube, at({0, 0, 0}), 30},
        {"sphere off a corner", SphereSpec{40}, at({80, 80, 80}), cube, at({0, 0, 0}), 30 * std::sqrt(3.0) - 20},
        {"skew cylinders, gap on the side", CylinderSpec{{-200, 0, 0}, {200, 0, 0}, 60}, at({0, 0, 100}),
         CylinderSpec{{0, -200, 0}, {0, 200, 0}, 40}, at({0, 0, 0}), 50},
        {"parallel cylinders", CylinderSpec{{-200, 0, 0}, {200, 0, 0}, 60}, at({0, 0, 75}),
         CylinderSpec{{-200, 0, 0}, {200, 0, 0}, 40}, at({0, 0, 0}), 25},
        {"flat ends of cylinders", CylinderSpec{{0, 0, 0}, {100, 0, 0}, 60}, at({0, 0, 0}),
         CylinderSpec{{130, 20, 0}, {200, 20, 0}, 60}, at({0, 0, 0}), 30},
        {"bend of a tube and a ball", bent, at({0, 0, 0}), SphereSpec{20},
         at(bend_centre + outward * (60 + 15 + 10 + 25)), 25},
        {"bend of a tube and a box", bent, at({0, 0, 0}), BoxSpec{{20, 300, 60}},
         at(bend_centre + outward * (60 + 15 + 10 + 12), about(z, -quarter_turn)), 12},
        {"edge of a turned box to a face", cube, at({150, 0, 0}, about(z, quarter_turn)), cube, at({0, 0, 0}),
         150 - 50 - 50 * root2},
        {"crossed edges of turned boxes", cube, at({160, 0, 0}, about(z, quarter_turn)), cube,
         at({0, 0, 0}, about(y, quarter_turn)), 160 - 100 * root2},
        {"under a tunnel", BoxSpec{{200, 100, 100}}, at({250, 0, 130}), tunnel, at({0, 0, 0}), 20},
        {"above a tunnel", BoxSpec{{200, 100, 100}}, at({250, 0, 270}), tunnel, at({0, 0, 0}), 270 - 50 - 201.2},
        {"faces overlap", cube, at({93, 0, 0}), cube, at({0, 0, 0}), -7},
        {"ball in a box, off its middle", SphereSpec{20}, at({30, 5, 0}), cube, at({0, 0, 0}), -30},
        {"box round a ball, off its middle", cube, at({0, 0, 0}), SphereSpec{20}, at({30, 5, 0}), -30},
        // 30 mm stand out of a 1 mm sheet: it must go back by 31; the deepest point in metal says 1 mm or less.
        {"box through a thin sheet", BoxSpec{{40, 40, 100}}, at({0, 0, -20}),
         PlateSpec{{{-200, -200}, {200, -200}, {200, 200}, {-200, 200}}, 1}, at({0, 0, -1}), -31},
        // The foot stands 8 mm into the top flange and the leg 3 mm into the web. Down is closed after 5 mm by the
        // bottom flange, the mouth is 58 mm away, the ends are 300. Shortest: the leg 12 mm out through the web, the
        // foot 20 mm up over the flange, √(12² + 20²). The deepest point says 5 mm or less.
        {"L caught in a C-rail", ProfileSpec{caughtL(), {100, 0, 0}, {300, 0, 0}, 0}, at({0, 0, 0}),
         ProfileSpec{CSection{60, 100, 5}, {0, 0, 0}, {400, 0, 0}, 0}, at({0, 0, 0}), -std::hypot(12.0, 20.0)},
        {"bar along x through a web", CylinderSpec{{-15, 0, 0}, {300, 0, 0}, 20}, at({0, 0, 0}),
         BoxSpec{{10, 400, 400}}, at({0, 0, 0}), -20},
        {"touching nothing within the range", cube, at({500, 0, 0}), cube, at({0, 0, 0}), 400},
    };
}

} // namespace

class GapTest : public QObject {
    Q_OBJECT
private slots:
    /// A body of two pieces: the one that is nearest stands outside, the other one deep inside.
    void aPieceInsideIsFoundBehindANearerOne() {
        const auto meshOf = [](const ShapeSpec& spec) {
            return shape::makeMesh(shape::makeSolid(spec).value()).value().mesh;
        };
        shape::Mesh two;
        for (const Vector3d& place : {Vector3d(0, 0, 0), Vector3d(107, 0, 0)}) {
            const shape::Mesh one = meshOf(BoxSpec{{10, 10, 10}});
            const int first = static_cast<int>(two.points.size());
            for (const Vector3d& p : one.points) two.points.push_back(p + place);
            for (shape::Triangle t : one.triangles) {
                for (int& corner : t.corner) corner += first;
                two.triangles.push_back(t);
            }
        }
        const proximity::Collider pieces(two, 0), cube(meshOf(BoxSpec{{200, 200, 200}}), 0);
        const proximity::Gap found = proximity::gap(pieces, at({0, 0, 0}), cube, at({0, 0, 0}), {});
        QCOMPARE(found.contact, Contact::Overlap); // 2 mm of air at the outer piece say nothing of the inner one
        QVERIFY(proximity::overlaps(pieces, at({0, 0, 0}), cube, at({0, 0, 0})));
        QCOMPARE(proximity::gap(pieces, at({110, 0, 0}), cube, at({0, 0, 0}), {}).contact, Contact::Apart);
    }
    void known_data() {
        QTest::addColumn<int>("which");
        int i = 0;
        for (const Case& c : cases()) QTest::newRow(c.name) << i++;
    }
    /// Each case as given, with the bodies exchanged, and replayed under turned and shifted frames.
    void known() {
        QFETCH(int, which);
        const Case c = cases()[static_cast<std::size_t>(which)];
        const auto a = cache_.get(c.a), b = cache_.get(c.b);
        QVERIFY(a->collider && b->collider);
        const double deflection = a->collider->deflection_mm() + b->collider->deflection_mm();
        proximity::GapRequest request;
        request.range_mm = 300;
        std::mt19937 random(42);
        std::uniform_real_distribution<double> d(-1, 1);
        for (int replay = 0; replay < 6; ++replay) {
            Isometry3d frame = Isometry3d::Identity();
            if (replay > 0) {
                frame.linear() =
                    Eigen::Quaterniond(d(random), d(random), d(random), d(random)).normalized().toRotationMatrix();
                frame.translation() = 500 * Vector3d(d(random), d(random), d(random));
            }
            const proximity::Gap forth =
                proximity::gap(*a->collider, frame * c.pose_a, *b->collider, frame * c.pose_b, request);
            const proximity::Gap back =
                proximity::gap(*b->collider, frame * c.pose_b, *a->collider, frame * c.pose_a, request);
            for (const proximity::Gap& g : {forth, back}) {
                if (c.gap_mm > request.range_mm) {
                    QCOMPARE(g.contact, Contact::Beyond);
                    QCOMPARE(g.gap_mm, request.range_mm);
                    continue;
                }
                QCOMPARE(g.contact, c.gap_mm < 0 ? Contact::Overlap : Contact::Apart);
                // Exact for gaps; a depth is searched to 2 % and is never too small.
                const double tolerance = 0.2 + deflection + (c.gap_mm < 0 ? 0.03 * -c.gap_mm : 0);
                QVERIFY2(std::abs(g.gap_mm - c.gap_mm) <= tolerance,
                         qPrintable(QString("%1 instead of %2").arg(g.gap_mm).arg(c.gap_mm)));
                if (c.gap_mm > 0) {
                    QVERIFY(std::abs((g.point_a - g.point_b).norm() - g.gap_mm) < 1e-6);
                    QVERIFY(std::abs(g.away.norm() - 1) < 1e-9);
                }
            }
            if (c.gap_mm < 0) movedOutItIsFree(*a->collider, frame * c.pose_a, *b->collider, frame * c.pose_b, forth);
        }
    }

    void distanceIsExactUnderEveryStart() {
        // Where the search starts must not matter: a narrow range and a wide one agree.
        const auto a = cache_.get(SphereSpec{40}), b = cache_.get(BoxSpec{{100, 100, 100}});
        for (double z = 75; z < 130; z += 3.7) {
            proximity::GapRequest narrow, wide;
            narrow.range_mm = z - 70 + 1;
            wide.range_mm = 1000;
            const double n = proximity::gap(*a->collider, at({3, 4, z}), *b->collider, at({0, 0, 0}), narrow).gap_mm;
            const double w = proximity::gap(*a->collider, at({3, 4, z}), *b->collider, at({0, 0, 0}), wide).gap_mm;
            QVERIFY(std::abs(n - w) < 1e-9);
        }
    }

    void depthIsSaidToBeMissing() {
        const auto a = cache_.get(SphereSpec{20}), b = cache_.get(BoxSpec{{3000, 3000, 3000}});
        proximity::GapRequest request;
        request.deepest_mm = 100;
        const proximity::Gap deep = proximity::gap(*a->collider, at({0, 0, 0}), *b->collider, at({0, 0, 0}), request);
        QCOMPARE(deep.contact, Contact::Overlap);
        QVERIFY(!deep.depth_found);
        QCOMPARE(deep.gap_mm, -100.0);
        request.depth = false;
        const proximity::Gap skipped =
            proximity::gap(*a->collider, at({0, 0, 0}), *b->collider, at({0, 0, 0}), request);
        QVERIFY(!skipped.depth_found);
        QCOMPARE(skipped.gap_mm, 0.0);
    }

    void hintGivesAFreeMoveToo() {
        const auto a = cache_.get(BoxSpec{{100, 100, 100}});
        proximity::GapRequest request;
        request.hint = Vector3d(8, 0, 0);
        const proximity::Gap g = proximity::gap(*a->collider, at({91, 0, 0}), *a->collider, at({0, 0, 0}), request);
        QVERIFY(g.depth_found);
        QVERIFY(std::abs(g.gap_mm + 9) < 0.3);
        movedOutItIsFree(*a->collider, at({91, 0, 0}), *a->collider, at({0, 0, 0}), g);
    }

    /// Law for any pair: the move found is free; half of it, straight, is not.
    void wayOutIsFreeForAnyPair() {
        std::mt19937 random(3);
        std::uniform_real_distribution<double> d(-1, 1);
        const ShapeSpec specs[] = {BoxSpec{{120, 60, 30}}, CylinderSpec{{-60, 0, 0}, {60, 0, 0}, 50}, SphereSpec{70},
                                   ProfileSpec{CSection{60, 100, 5}, {-100, 0, 0}, {100, 0, 0}, 0}};
        int overlapping = 0;
        for (int i = 0; i < 60; ++i) {
            const auto a = cache_.get(specs[i % 4]), b = cache_.get(specs[(i / 4) % 4]);
            const auto pose = [&] {
                return at(
                    45 * Vector3d(d(random), d(random), d(random)),
                    Eigen::Quaterniond(d(random), d(random), d(random), d(random)).normalized().toRotationMatrix());
            };
            const Isometry3d pa = pose(), pb = pose();
            const proximity::Gap g = proximity::gap(*a->collider, pa, *b->collider, pb, {});
            QCOMPARE(g.contact == Contact::Overlap, proximity::overlaps(*a->collider, pa, *b->collider, pb));
            if (g.contact != Contact::Overlap) continue;
            ++overlapping;
            movedOutItIsFree(*a->collider, pa, *b->collider, pb, g);
        }
        QVERIFY(overlapping > 20);
    }

    /// The place of an overlap lies where the surfaces cut each other.
    void overlapsAreWhereTheSurfacesCut() {
        const auto bar = cache_.get(CylinderSpec{{0, 0, -100}, {0, 0, 100}, 40});
        const auto plate = cache_.get(PlateSpec{{{-200, -200}, {200, -200}, {200, 200}, {-200, 200}}, 4});
        for (const double x : {-120.0, 0.0, 75.0}) {
            const proximity::Gap g =
                proximity::gap(*bar->collider, at({x, 20, 30}), *plate->collider, at({0, 0, 0}), {});
            QCOMPARE(g.contact, Contact::Overlap);
            // The cut is a ring of 20 mm round the bar's axis, between the plate's faces.
            QVERIFY(g.point_a.z() > -0.01 && g.point_a.z() < 4.01);
            QVERIFY(std::hypot(g.point_a.x() - x, g.point_a.y() - 20) < 20.01);
        }
    }

    /// Off a flat face by hand; law for any pair: a move that is given leaves the gap that was wanted.
    void clearingMoves() {
        const auto cube = cache_.get(BoxSpec{{100, 100, 100}});
        const Isometry3d home = at({0, 0, 0});
        const proximity::Gap near = proximity::gap(*cube->collider, at({104, 0, 0}), *cube->collider, home, {});
        const auto off = proximity::clearingMove(*cube->collider, at({104, 0, 0}), *cube->collider, home, near, 15);
        QVERIFY(off && (*off - Vector3d(11, 0, 0)).norm() < 0.1);
        // Between two walls 60 apart a bar of 30 has 15 on each side at best: 20 on both is not to be had by sideways
        // moves.
        const auto slot = cache_.get(ProfileSpec{CSection{200, 70, 5}, {-200, 0, 0}, {200, 0, 0}, 0});
        const auto bar = cache_.get(BoxSpec{{600, 150, 30}});
        const proximity::Gap inside = proximity::gap(*bar->collider, at({0, 0, 10}), *slot->collider, home, {});
        QVERIFY(std::abs(inside.gap_mm - 5) < 1e-9);
        QVERIFY(proximity::clearingMove(*bar->collider, at({0, 0, 10}), *slot->collider, home, inside, 14).has_value());
        QVERIFY(!proximity::clearingMove(*bar->collider, at({0, 0, 10}), *slot->collider, home, inside, 20));
        std::mt19937 random(5);
        std::uniform_real_distribution<double> d(-1, 1);
        int moves = 0;
        for (int i = 0; i < 40; ++i) {
            const Isometry3d pose =
                at(70 * Vector3d(d(random), d(random), d(random)), about(Vector3d::UnitZ(), d(random)));
            const proximity::Gap found = proximity::gap(*cube->collider, pose, *slot->collider, home, {});
            const auto move = proximity::clearingMove(*cube->collider, pose, *slot->collider, home, found, 12);
            if (!move) continue;
            ++moves;
            Isometry3d moved = pose;
            moved.pretranslate(*move);
            QVERIFY(proximity::gap(*cube->collider, moved, *slot->collider, home, {}).gap_mm >= 12);
        }
        QVERIFY(moves > 20);
    }

    /// What is set down on something, to the last bit or a hundredth in it: gap 0, come free straight off the face, and
    /// never a search without an end.
    void touchingIsGapZero() {
        const auto cube = cache_.get(BoxSpec{{100, 100, 100}}), rail = cache_.get(BoxSpec{{1000, 80, 120}}),
                   bar = cache_.get(CylinderSpec{{-200, 0, 0}, {200, 0, 0}, 60});
        struct Set {
            const proximity::Collider& on;
            const proximity::Collider& under;
            Vector3d place;
            Vector3d away;
        };
        const Set sets[] = {{*cube->collider, *rail->collider, {100, 10, 110}, Vector3d::UnitZ()},
                            {*cube->collider, *rail->collider, {550, 0, 20}, Vector3d::UnitX()},
                            {*cube->collider, *rail->collider, {37.1, 3.3, 110 - 0.01}, Vector3d::UnitZ()},
                            {*cube->collider, *cube->collider, {0, -100, 0}, -Vector3d::UnitY()},
                            {*bar->collider, *rail->collider, {0, 0, 90}, Vector3d::UnitZ()}};
        std::mt19937 random(7);
        std::uniform_real_distribution<double> d(-1, 1);
        for (const Set& set : sets)
            for (int replay = 0; replay < 8; ++replay) {
                Isometry3d frame = Isometry3d::Identity();
                if (replay > 0) {
                    frame.linear() =
                        Eigen::Quaterniond(d(random), d(random), d(random), d(random)).normalized().toRotationMatrix();
                    frame.translation() = 500 * Vector3d(d(random), d(random), d(random));
                }
                const proximity::Gap found = proximity::gap(set.on, frame * at(set.place), set.under, frame, {});
                QCOMPARE(found.contact, Contact::Apart);
                const double meshed_mm = set.on.deflection_mm() + set.under.deflection_mm(); // 0 of flat faces
                QVERIFY2(found.gap_mm >= 0 && found.gap_mm <= meshed_mm + 1e-6,
                         qPrintable(QString::number(found.gap_mm)));
                if (found.gap_mm == 0) {
                    const Vector3d away = frame.linear() * set.away;
                    QVERIFY2(found.away.dot(away) > 0.99, qPrintable(QString("set %1 replay %2: %3 %4")
                                                                         .arg(&set - sets)
                                                                         .arg(replay)
                                                                         .arg(found.away.dot(away))
                                                                         .arg(found.away.norm())));
                    const auto move =
                        proximity::clearingMove(set.on, frame * at(set.place), set.under, frame, found, 5);
                    QVERIFY(move && std::abs(move->norm() - 5) < 0.2);
                }
            }
    }
    /// Faces that slide along each other, edges and corners that meet: whatever side tells, there is an answer.
    void touchingAlongFacesEdgesAndCorners() {
        const auto cube = cache_.get(BoxSpec{{100, 100, 100}});
        for (const double x : {-100.0, -50.0, 0.0, 100.0})
            for (const double y : {-100.0, 0.0, 33.0, 100.0})
                for (const double z : {-100.0, 0.0, 100.0}) {
                    const int touching = (std::abs(x) == 100) + (std::abs(y) == 100) + (std::abs(z) == 100);
                    const proximity::Gap found =
                        proximity::gap(*cube->collider, at({x, y, z}), *cube->collider, at({0, 0, 0}), {});
                    if (touching == 0) {
                        QVERIFY(found.gap_mm < -30);
                        continue;
                    }
                    QCOMPARE(found.contact, Contact::Apart);
                    QCOMPARE(found.gap_mm, 0.0);
                    if (found.away.norm() == 0) continue; // a corner at a corner
                    Isometry3d freed = at({x, y, z});
                    freed.pretranslate(found.away);
                    QVERIFY(proximity::gap(*cube->collider, freed, *cube->collider, at({0, 0, 0}), {}).gap_mm > 0.4);
                }
    }
    void aSearchThatWasToldToStopEnds() {
        const auto cube = cache_.get(BoxSpec{{100, 100, 100}});
        proximity::GapRequest request;
        request.stop.stop();
        const proximity::Gap found =
            proximity::gap(*cube->collider, at({50, 0, 0}), *cube->collider, at({0, 0, 0}), request);
        QCOMPARE(found.contact, Contact::Overlap);
        QVERIFY(!found.depth_found);
    }

private:
    void movedOutItIsFree(const proximity::Collider& a, const Isometry3d& pa, const proximity::Collider& b,
                          const Isometry3d& pb, const proximity::Gap& g) {
        QVERIFY(g.depth_found);
        Isometry3d out = pa;
        out.pretranslate(g.away * (-g.gap_mm + 1e-6));
        QVERIFY(!proximity::overlaps(a, out, b, pb));
    }

    proximity::ColliderCache cache_{0.05};
};

GABARIT_SUITE(GapTest)
#include "gap_test.moc"
