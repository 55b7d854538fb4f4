// A body on springs, against closed forms, energy laws and virtual work.
#include "mounts/elastic.h"
#include "support/suite.h"

#include <QtTest>

#include <random>

using namespace gabarit;
using namespace gabarit::mounts;
using Eigen::Matrix3d;
using Eigen::Vector3d;

namespace {

double hz(double rate_per_m, double mass) { return std::sqrt(rate_per_m / mass) / (2 * M_PI); }

/// Four equal mounts level with the centre, 300 ahead and behind, 200 to each side; 150 N/mm up, 40 across.
std::vector<Spring> square(double up = 150, double across = 40) {
    std::vector<Spring> out;
    for (const double x : {-300.0, 300.0})
        for (const double y : {-200.0, 200.0}) {
            Spring s;
            s.at_mm = Vector3d(500 + x, y, 600);
            s.rate_n_per_mm = {across, across, up};
            s.stop_rate_n_per_mm = 4000;
            out.push_back(s);
        }
    return out;
}
RigidBody engine() {
    RigidBody b;
    b.mass_kg = 250;
    b.centre_mm = {500, 0, 600};
    b.inertia_kg_m2 = Vector3d(9, 24, 21).asDiagonal();
    return b;
}
/// Anything: turned springs of three rates, not symmetrical in any way.
std::vector<Spring> crooked(std::mt19937& random, int count = 4) {
    std::uniform_real_distribution<double> place(-400, 400), rate(30, 300), angle(-1, 1);
    std::vector<Spring> out;
    for (int i = 0; i < count; ++i) {
        Spring s;
        s.at_mm = Vector3d(500 + place(random), place(random), 600 + place(random));
        s.axes =
            (Eigen::AngleAxisd(angle(random), Vector3d::UnitX()) * Eigen::AngleAxisd(angle(random), Vector3d::UnitY()))
                .toRotationMatrix();
        s.rate_n_per_mm = {rate(random), rate(random), rate(random)};
        s.stop_rate_n_per_mm = 3000;
        out.push_back(s);
    }
    return out;
}
RigidBody crookedBody() {
    RigidBody b = engine();
    b.inertia_kg_m2 << 9, 0.6, -1.8, 0.6, 24, 0.3, -1.8, 0.3, 21;
    return b;
}
const Mode& mode(const std::array<Mode, 6>& all, ModeOf of) {
    for (const Mode& m : all)
        if (m.of == of) return m;
    return all[0];
}
/// Moved and turned as one piece.
void carry(std::vector<Spring>& springs, RigidBody& body, const Eigen::Isometry3d& by) {
    for (Spring& s : springs) {
        s.at_mm = by * s.at_mm;
        s.axes = by.linear() * s.axes;
    }
    body.centre_mm = by * body.centre_mm;
    body.inertia_kg_m2 = by.linear() * body.inertia_kg_m2 * by.linear().transpose();
}

} // namespace

class ElasticTest : public QObject {
    Q_OBJECT
private slots:
    void symmetricModesHaveClosedForms() {
        const auto found = modes(engine(), square());
        QVERIFY(found.ok());
        const auto& all = found.value();
        // Four of 150 N/mm under 250 kg; couples of 150 N/mm at 0.2 m and 0.3 m; of 40 N/mm at both for yaw.
        const std::pair<ModeOf, double> wanted[] = {
            {ModeOf::Bounce, hz(4 * 150e3, 250)},      {ModeOf::ForeAft, hz(4 * 40e3, 250)},
            {ModeOf::Sideways, hz(4 * 40e3, 250)},     {ModeOf::Roll, hz(4 * 150e3 * 0.04, 9)},
            {ModeOf::Pitch, hz(4 * 150e3 * 0.09, 24)}, {ModeOf::Yaw, hz(4 * 40e3 * (0.04 + 0.09), 21)},
        };
        for (const auto& [of, frequency] : wanted) {
            QVERIFY2(std::abs(mode(all, of).frequency_hz - frequency) < 1e-9 * frequency, word(of));
            QVERIFY2(mode(all, of).decoupled > 0.999, word(of));
        }
    }
    // Mounts 120 below the centre couple roll with sideways: 2 × 2 by hand.
    void lowMountsCoupleRollAndSideways() {
        std::vector<Spring> low = square();
        for (Spring& s : low) s.at_mm.z() -= 120;
        const auto found = modes(engine(), low).value();
        const double m = 250, inertia = 9, k = 4 * 40e3, h = 0.12, kr = 4 * 150e3 * 0.04 + k * h * h;
        // det [k − mω², k·h; k·h, kr − Iω²] = 0
        const double a = m * inertia, b = -(k * inertia + kr * m), c = k * kr - k * h * k * h;
        const double low_w2 = (-b - std::sqrt(b * b - 4 * a * c)) / (2 * a),
                     high_w2 = (-b + std::sqrt(b * b - 4 * a * c)) / (2 * a);
        QVERIFY(std::abs(mode(found, ModeOf::Sideways).frequency_hz - std::sqrt(low_w2) / (2 * M_PI)) < 1e-9);
        QVERIFY(std::abs(mode(found, ModeOf::Roll).frequency_hz - std::sqrt(high_w2) / (2 * M_PI)) < 1e-9);
        QVERIFY(mode(found, ModeOf::Roll).decoupled < 0.999);
    }
    void energiesAndOrthogonality() {
        std::mt19937 random(7);
        for (int trial = 0; trial < 20; ++trial) {
            const RigidBody body = crookedBody();
            const auto springs = crooked(random);
            const auto all = modes(body, springs).value();
            Matrix6d m = Matrix6d::Zero(), k = stiffness(springs, body.centre_mm);
            m.topLeftCorner<3, 3>() = Matrix3d::Identity() * body.mass_kg;
            m.bottomRightCorner<3, 3>() = body.inertia_kg_m2;
            k.topLeftCorner<3, 3>() *= 1000;
            k.bottomRightCorner<3, 3>() /= 1000;
            QVERIFY((k - k.transpose()).norm() < 1e-9 * k.norm());
            std::vector<int> names(6);
            for (std::size_t i = 0; i < 6; ++i) {
                double sum = 0;
                for (const double share : all[i].share) sum += share;
                QVERIFY(std::abs(sum - 1) < 1e-9);
                ++names[static_cast<std::size_t>(all[i].of)];
                for (std::size_t j = 0; j < 6; ++j) {
                    const double mass = all[i].shape.dot(m * all[j].shape), rate = all[i].shape.dot(k * all[j].shape);
                    const double w2 = std::pow(2 * M_PI * all[i].frequency_hz, 2);
                    QVERIFY(std::abs(mass - (i == j)) < 1e-9);
                    QVERIFY(std::abs(rate - (i == j ? w2 : 0)) < 1e-7 * std::pow(2 * M_PI * all[5].frequency_hz, 2));
                }
            }
            QCOMPARE(names, std::vector<int>(6, 1)); // each name once
        }
    }
    void nothingDependsOnTheOrigin() {
        std::mt19937 random(3);
        const Eigen::Isometry3d by = Eigen::Translation3d(-1200, 340, 55) *
                                     Eigen::AngleAxisd(0.7, Vector3d(1, 2, -1).normalized()) *
                                     Eigen::Isometry3d::Identity();
        for (int trial = 0; trial < 10; ++trial) {
            RigidBody body = crookedBody();
            auto springs = crooked(random);
            const auto before = modes(body, springs).value();
            Load load{{300, -500, -4000}, {2e5, -1e5, 3e4}};
            const Move move = equilibrium(body, springs, load).value();
            const auto forces = forces_n(body, springs, move);
            carry(springs, body, by);
            const auto after = modes(body, springs).value();
            for (std::size_t i = 0; i < 6; ++i)
                QVERIFY(std::abs(before[i].frequency_hz - after[i].frequency_hz) < 1e-8);
            load = {by.linear() * load.force_n, by.linear() * load.moment_nmm};
            const Move moved = equilibrium(body, springs, load).value();
            QVERIFY((by.linear() * move.by_mm - moved.by_mm).norm() < 1e-6);
            QVERIFY((by.linear() * move.turn_rad - moved.turn_rad).norm() < 1e-9);
            const auto there = forces_n(body, springs, moved);
            for (std::size_t i = 0; i < forces.size(); ++i) QVERIFY((by.linear() * forces[i] - there[i]).norm() < 1e-4);
        }
    }
    // Whatever small move is thought of, the forces and the load do no work on it.
    void noVirtualWorkIsLeft() {
        std::mt19937 random(11);
        std::uniform_real_distribution<double> any(-1, 1);
        for (int trial = 0; trial < 30; ++trial) {
            const RigidBody body = crookedBody();
            auto springs = crooked(random, 3 + trial % 3);
            for (Spring& s : springs) {
                s.stop_low_mm = {-4, -4, -6};
                s.stop_high_mm = {4, 4, 5};
            }
            const Load load{{3000 * any(random), 4000 * any(random), -9000 * any(random)},
                            {8e5 * any(random), 4e5 * any(random), 2e5 * any(random)}};
            const auto move = equilibrium(body, springs, load);
            QVERIFY(move.ok());
            const auto forces = forces_n(body, springs, move.value());
            for (int k = 0; k < 6; ++k) {
                Move thought;
                (k < 3 ? thought.by_mm : thought.turn_rad)[k % 3] = 1;
                double work = load.force_n.dot(thought.by_mm) + load.moment_nmm.dot(thought.turn_rad);
                for (std::size_t i = 0; i < springs.size(); ++i)
                    work += forces[i].dot(thought.at(springs[i].at_mm, body.centre_mm));
                QVERIFY2(std::abs(work) < 1e-4 * (k < 3 ? 1 : 500), qPrintable(QString::number(work)));
            }
        }
    }
    void aLevelEngineSinksByItsWeight() {
        const double weight = 250 * 9.80665;
        const Move move = equilibrium(engine(), square(), {{0, 0, -weight}, {0, 0, 0}}).value();
        QVERIFY(std::abs(move.by_mm.z() + weight / 600) < 1e-9);
        QVERIFY(move.by_mm.head<2>().norm() < 1e-9 && move.turn_rad.norm() < 1e-12);
        // Torque of 600 N·m about x: 600e3 / (4 · 150 · 200²) rad.
        const Move turned = equilibrium(engine(), square(), {{0, 0, 0}, {-6e5, 0, 0}}).value();
        QVERIFY(std::abs(turned.turn_rad.x() + 6e5 / (4 * 150 * 200.0 * 200.0)) < 1e-12);
    }
    void stopsCatchIt() {
        auto springs = square();
        for (Spring& s : springs) s.stop_low_mm[2] = -3;
        // Four at −3 hold 1800 N; 8000 N more press the stops of 4000 + 150 N/mm each.
        const Move move = equilibrium(engine(), springs, {{0, 0, -9800}, {0, 0, 0}}).value();
        QVERIFY(std::abs(move.by_mm.z() + 3 + 8000.0 / (4 * 4150)) < 1e-9);
        const auto forces = forces_n(engine(), springs, move);
        for (const auto& f : forces) QVERIFY(std::abs(f.z() - 2450) < 1e-6);
        // A stop only stiffens: never a larger move than without.
        const Move free = equilibrium(engine(), square(), {{0, 0, -9800}, {0, 0, 0}}).value();
        QVERIFY(move.by_mm.norm() < free.by_mm.norm());
        // The force is the slope of the energy, on both sides of a stop.
        for (const double at : {-5.0, -3.2, -2.0, 1.0}) {
            const Vector3d own(0.3, -0.2, at);
            for (int axis = 0; axis < 3; ++axis) {
                const Vector3d h = 1e-4 * Vector3d::Unit(axis);
                const double slope = (springs[0].energy_nmm(own + h) - springs[0].energy_nmm(own - h)) / 2e-4;
                QVERIFY(std::abs(slope + springs[0].force_n(own)[axis]) < 1e-5);
            }
        }
    }
    // A rubber torn: one that is caught by its stops holds on them, one that is not lets go.
    void aTornRubberIsCaughtOrNot() {
        auto springs = square();
        springs.resize(3); // two at the front, one behind
        const Load weight{{0, 0, -2450}, {0, 0, 0}};
        for (Spring& s : springs) {
            s.stop_low_mm = {-6, -6, -8};
            s.stop_high_mm = {6, 6, 8};
        }
        springs[2].rate_n_per_mm.setZero();
        const auto caught = equilibrium(engine(), springs, weight);
        QVERIFY(caught.ok());
        QVERIFY(caught.value().at(springs[2].at_mm, engine().centre_mm).z() < -8);
        springs[2].stop_rate_n_per_mm = 0;
        for (Spring& s : springs) s.rate_n_per_mm.head<2>().setZero();
        QVERIFY(!equilibrium(engine(), springs, weight).ok());
    }
    void threeSupportsAreStatics() {
        RigidBody body = engine();
        std::vector<Spring> springs = square();
        springs.resize(3);
        springs[0].at_mm = {200, -250, 500};
        springs[1].at_mm = {200, 250, 500};
        springs[2].at_mm = {1100, 0, 450};
        // Weight 2450 N at x = 500: the rear one carries 300/900 of it, the front ones half of the rest each.
        auto reactions = threeReactions_n(body, springs, {{0, 0, -2450}, {0, 0, 0}});
        QVERIFY(std::abs(reactions[2].z() - 2450 / 3.0) < 1e-9);
        QVERIFY(std::abs(reactions[0].z() - 2450 / 3.0) < 1e-9);
        // Torque of −900 N·m about x: a couple of 1800 N over the front span of 0.5 m; the right one is pressed.
        reactions = threeReactions_n(body, springs, {{0, 0, 0}, {-9e5, 0, 0}});
        QVERIFY(std::abs(reactions[1].z() - 1800) < 1e-9 && std::abs(reactions[0].z() + 1800) < 1e-9);
        QVERIFY(std::abs(reactions[2].z()) < 1e-9);
        // Whatever the rates, the upward ones are the same; all six sums vanish for any load.
        std::mt19937 random(5);
        std::uniform_real_distribution<double> any(-1, 1);
        for (int trial = 0; trial < 20; ++trial) {
            const Load load{{2000 * any(random), 2000 * any(random), 5000 * any(random)},
                            {5e5 * any(random), 5e5 * any(random), 2e5 * any(random)}};
            for (Spring& s : springs) s.rate_n_per_mm = {100 + 50 * any(random), 100 + 50 * any(random), 200};
            const auto r = threeReactions_n(body, springs, load);
            Vector3d force = load.force_n, moment = load.moment_nmm;
            for (std::size_t i = 0; i < 3; ++i) {
                force += r[i];
                moment += (springs[i].at_mm - body.centre_mm).cross(r[i]);
            }
            QVERIFY(force.norm() < 1e-6 && moment.norm() < 1e-4);
        }
        springs[2].at_mm = {200, 100, 450}; // on a line: they cannot tell
        QVERIFY(threeReactions_n(body, springs, {{0, 0, -2450}, {0, 0, 0}}).empty());
        springs.pop_back();
        QVERIFY(threeReactions_n(body, springs, {{0, 0, -2450}, {0, 0, 0}}).empty());
    }
    void isolationBeginsAtRootTwo() {
        QVERIFY(std::abs(transmissibility(std::sqrt(2) * 10, 10, 0) - 1) < 1e-9);
        QVERIFY(std::abs(transmissibility(20, 10, 0) - 1 / 3.0) < 1e-12);
        QVERIFY(std::abs(transmissibility(std::sqrt(2) * 10, 10, 0.3) - 1) < 1e-9); // whatever the damping
        QVERIFY(transmissibility(40, 10, 0.1) > transmissibility(40, 10, 0));
        QVERIFY(!modes({}, square()).ok());
    }
};

GABARIT_SUITE(ElasticTest)
#include "elastic_test.moc"
