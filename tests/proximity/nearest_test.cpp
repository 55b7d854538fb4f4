// The nearest triangles of two surfaces: against the library's own search, against all pairs of triangles, and both
// compiled forms against each other.
#include "proximity/collider_cache.h"
#include "proximity/collider_tree.h"
#include "support/dice.h"
#include "support/suite.h"

#include <QtTest>

#include <fcl/narrowphase/distance.h>

using namespace gabarit;
using namespace gabarit::proximity;
using Eigen::Isometry3d;
using Eigen::Vector3d;
using tests::Dice;

namespace {

/// A few triangles anywhere: slivers and points among them.
shape::Mesh scattered(Dice& dice, int count) {
    shape::Mesh mesh;
    for (int i = 0; i < count; ++i) {
        const Vector3d middle = dice.place(60);
        const double size = i % 5 == 0 ? 1e-3 : 20;
        for (int c = 0; c < 3; ++c) mesh.points.push_back(middle + dice.place(size));
        if (i % 7 == 0) mesh.points.back() = mesh.points[mesh.points.size() - 2]; // without an area
        mesh.triangles.push_back({{3 * i, 3 * i + 1, 3 * i + 2}});
    }
    return mesh;
}

std::unique_ptr<Collider> made(const model::ShapeSpec& spec) {
    auto mesh = shape::makeMesh(shape::makeSolid(spec).value()).value();
    return std::make_unique<Collider>(std::move(mesh.mesh), mesh.deflection_mm);
}

std::vector<std::unique_ptr<Collider>> shapes() {
    std::vector<std::unique_ptr<Collider>> out;
    out.push_back(made(model::BoxSpec{{300, 40, 90}}));
    out.push_back(made(model::SphereSpec{70}));
    out.push_back(made(model::CylinderSpec{{-200, 0, 0}, {150, 80, 30}, 24}));
    out.push_back(made(model::TubeSpec{{{0, 0, 0}, {200, 0, 0}, {200, 200, 0}, {200, 200, 150}}, 30, 60}));
    out.push_back(made(model::PlateSpec{{{-150, -90}, {150, -90}, {60, 120}, {-140, 30}}, 3}));
    out.push_back(made(model::SheetSpec{
        model::Axis::X,
        {{0, {{-200, 0}, {-150, 200}, {150, 200}, {200, 0}}}, {500, {{-180, 0}, {-130, 180}, {130, 180}, {180, 0}}}},
        1.2}));
    return out;
}

/// What the library says, where the surfaces do not cut.
double byLibrary(const Collider& a, const Isometry3d& pose_a, const Collider& b, const Isometry3d& pose_b) {
    fcl::DistanceRequestd ask;
    fcl::DistanceResultd result;
    fcl::distance(&a.tree().contacts(), pose_a, &b.tree().contacts(), pose_b, ask, result);
    return result.min_distance;
}

kernel::Pose plain(const Isometry3d& pose) {
    kernel::Pose out;
    for (int i = 0; i < 9; ++i) out.turn[i] = pose.linear()(i % 3, i / 3);
    for (int i = 0; i < 3; ++i) out.way[i] = pose.translation()[i];
    return out;
}

} // namespace

class NearestTest : public QObject {
    Q_OBJECT
private slots:
    void agreesWithTheLibrary() {
        const auto all = shapes();
        Dice dice(11);
        int apart = 0, cuts = 0;
        for (int round = 0; round < 400; ++round) {
            const Collider &a = *all[static_cast<std::size_t>(round) % all.size()],
                           &b = *all[static_cast<std::size_t>(round / 6) % all.size()];
            const Isometry3d pose_a = dice.pose(150), pose_b = dice.pose(150);
            const double range_mm = 400;
            const auto found = nearest(a.tree().triangles, pose_a, b.tree().triangles, pose_b, range_mm);
            const double expected = byLibrary(a, pose_a, b, pose_b);
            if (!found) {
                QVERIFY(expected > range_mm - 1e-6);
                continue;
            }
            QCOMPARE(found->meets, cut(a.tree().triangles, pose_a, b.tree().triangles, pose_b));
            if (found->meets) {
                QVERIFY(expected < 1e-6);
                ++cuts;
                continue;
            }
            QVERIFY2(std::abs(found->distance_mm - expected) < 1e-9, qPrintable(QString::number(round)));
            // The points are where they are said to be, and as far apart as is said.
            QVERIFY(std::abs((found->point_a - found->point_b).norm() - found->distance_mm) < 1e-9);
            // A seed, good or bad, changes nothing; nor does which of the two is asked first.
            const auto seeded =
                nearest(a.tree().triangles, pose_a, b.tree().triangles, pose_b, range_mm, found->witness);
            const auto misled = nearest(a.tree().triangles, pose_a, b.tree().triangles, pose_b, range_mm, {0, 0});
            const auto turned = nearest(b.tree().triangles, pose_b, a.tree().triangles, pose_a, range_mm);
            QVERIFY(std::abs(seeded->distance_mm - expected) < 1e-9);
            QVERIFY(std::abs(misled->distance_mm - expected) < 1e-9);
            QVERIFY(std::abs(turned->distance_mm - expected) < 1e-9);
            // A range that ends just before it finds nothing; one that ends just behind finds the same.
            QVERIFY(!nearest(a.tree().triangles, pose_a, b.tree().triangles, pose_b, found->distance_mm - 1e-6));
            QVERIFY(nearest(a.tree().triangles, pose_a, b.tree().triangles, pose_b, found->distance_mm + 1e-6));
            ++apart;
        }
        QVERIFY(apart > 150 && cuts > 50);
    }

    void oneTriangleAtATime() {
        Dice dice(5);
        for (int round = 0; round < 200; ++round) {
            const shape::Mesh a = scattered(dice, 1 + round % 23), b = scattered(dice, 1 + round % 17);
            const Isometry3d pose_a = dice.pose(40), pose_b = dice.pose(200);
            const TriangleTree tree_a(a), tree_b(b);
            const auto whole = nearest(tree_a, pose_a, tree_b, pose_b, 1e4);
            QVERIFY(whole);
            double least = 1e300;
            bool meets = false;
            for (const shape::Triangle& ta : a.triangles)
                for (const shape::Triangle& tb : b.triangles) {
                    const shape::Mesh one_a{a.points, {ta}}, one_b{b.points, {tb}};
                    const TriangleTree single_a(one_a), single_b(one_b);
                    const auto one = nearest(single_a, pose_a, single_b, pose_b, 1e4);
                    QVERIFY(one);
                    meets = meets || one->meets;
                    if (!one->meets) least = std::min(least, one->distance_mm);
                }
            QCOMPARE(whole->meets, meets);
            if (!meets) QVERIFY(std::abs(whole->distance_mm - least) < 1e-9);
        }
    }

    void bothFormsAgree() {
#if defined(__x86_64__)
        if (!__builtin_cpu_supports("avx2") || !__builtin_cpu_supports("fma")) QSKIP("no wide vectors here");
        const auto all = shapes();
        Dice dice(3);
        for (int round = 0; round < 200; ++round) {
            const TriangleTree &a = all[static_cast<std::size_t>(round) % all.size()]->tree().triangles,
                               &b = all[static_cast<std::size_t>(round / 6) % all.size()]->tree().triangles;
            const kernel::Pose pose = plain(dice.pose(200));
            kernel::Found narrow{1e6, -1, -1, false, false}, wide = narrow;
            kernel::searchPlain(a.view(), b.view(), pose, narrow);
            kernel::searchWide(a.view(), b.view(), pose, wide);
            QCOMPARE(wide.meets, narrow.meets);
            if (!narrow.meets) QVERIFY(std::abs(std::sqrt(wide.best2) - std::sqrt(narrow.best2)) < 1e-9);
        }
#endif
    }

    void aCutIsAnEdgeThroughAFace() {
        const auto cube = made(model::BoxSpec{{100, 100, 100}});
        const TriangleTree& t = cube->tree().triangles;
        const auto at = [](double x, double y, double z) {
            Isometry3d pose = Isometry3d::Identity();
            pose.translation() = Vector3d(x, y, z);
            return pose;
        };
        const Isometry3d here = at(0, 0, 0);
        QVERIFY(cut(t, here, t, at(50, 30, 20)));
        QVERIFY(cut(t, here, t, at(99.999, 30, 20)));
        QVERIFY(!cut(t, here, t, at(100.001, 30, 20)));
        // One inside of the other: no surface is cut.
        const auto small = made(model::BoxSpec{{10, 10, 10}});
        QVERIFY(!cut(t, here, small->tree().triangles, at(5, 5, 5)));
        const auto inner = nearest(t, here, small->tree().triangles, at(5, 5, 5), 60);
        QVERIFY(inner && !inner->meets && std::abs(inner->distance_mm - 40) < 1e-12);
        const shape::Mesh nothing;
        const TriangleTree empty(nothing);
        QVERIFY(!cut(t, here, empty, here) && !nearest(empty, here, t, here, 60));
    }
};

GABARIT_SUITE(NearestTest)
#include "nearest_test.moc"
