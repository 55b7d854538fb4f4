// Joints in space against the geometry of their crosses, and the laws that every chain keeps.
#include "driveline/joint_chain.h"
#include "driveline/shaft_lines.h"
#include "support/suite.h"

#include <Eigen/Eigenvalues>

#include <QtTest>

#include <random>

using namespace gabarit::driveline;
using Eigen::Matrix3d;
using Eigen::Vector3d;

namespace {

constexpr double deg = M_PI / 180;

/// In the x–z plane, falling by so much.
Vector3d falling(double angle_deg, double aside_deg = 0) {
    return Vector3d(1, std::tan(aside_deg * deg), -std::tan(angle_deg * deg)).normalized();
}
JointChain chainOf(std::vector<Vector3d> axes, std::vector<double> phases_deg = {}) {
    JointChain chain;
    chain.axes = std::move(axes);
    for (std::size_t i = 0; i + 1 < chain.axes.size(); ++i)
        chain.joints.push_back({true, i < phases_deg.size() ? phases_deg[i] * deg : 0});
    return chain;
}

/// The output's angle found from the crosses alone: on every cross the two pins stand square to each other, the forks
/// on one shaft keep their angle. Nothing of the program's formulas.
double outputAngle(const JointChain& chain, double input) {
    const auto basis = [](const Vector3d& axis) {
        const Vector3d u = axis.unitOrthogonal();
        return std::make_pair(u, Vector3d(axis.cross(u)));
    };
    auto [u, v] = basis(chain.axes.front());
    Vector3d pin = std::cos(input) * u + std::sin(input) * v;
    static double before = 0;
    double angle = 0;
    for (std::size_t i = 0; i < chain.joints.size(); ++i) {
        const auto [p, q] = basis(chain.axes[i + 1]);
        // pin · (p cos a + q sin a) = 0
        angle = std::atan2(-pin.dot(p), pin.dot(q));
        const Vector3d driven = std::cos(angle) * p + std::sin(angle) * q;
        pin = Eigen::AngleAxisd(chain.joints[i].phase_rad, chain.axes[i + 1]) * driven;
    }
    angle += M_PI * std::round((before - angle) / M_PI); // a cross does not know its ends apart
    before = angle;
    return angle;
}

double brutePeak(const JointChain& chain) {
    constexpr double h = 1e-3;
    double most = 0;
    for (int i = 0; i < 2000; ++i) {
        const double at = 2 * M_PI * i / 2000;
        const double a = outputAngle(chain, at - h), b = outputAngle(chain, at), c = outputAngle(chain, at + h);
        most = std::max(most, std::abs(a - 2 * b + c) / (h * h));
    }
    return most;
}

} // namespace

class JointChainTest : public QObject {
    Q_OBJECT
private slots:
    /// One cross: the output swings between cos β and 1/cos β of the input, whatever steps a turn is looked at in.
    void theSwingIsExact() {
        for (const double beta : {1.0, 7.3, 24.1}) {
            const TurnReport turn = overATurn(chainOf({Vector3d::UnitX(), falling(beta, 0.37 * beta)}));
            const double angle = operatingAngle_rad(chainOf({Vector3d::UnitX(), falling(beta, 0.37 * beta)}), 0);
            QVERIFY(std::abs(turn.least_ratio - std::cos(angle)) < 1e-9);
            QVERIFY(std::abs(turn.most_ratio - 1 / std::cos(angle)) < 1e-9);
        }
    }
    /// Two joints of 5° whose planes are turned about the shaft by so much: as much of phase leaves nothing.
    void theTwistOfTheJointPlanes() {
        for (const double twist : {-70.0, -20.0, 0.0, 35.0, 80.0}) {
            const Vector3d shaft = Vector3d::UnitX();
            const auto leant = [&](double about_deg, double by_deg) {
                const Eigen::AngleAxisd about(about_deg * deg, shaft);
                return Vector3d(about * Vector3d(std::cos(by_deg * deg), 0, -std::sin(by_deg * deg)));
            };
            JointChain chain = chainOf({leant(0, -5), shaft, leant(twist, 5)});
            QVERIFY(std::abs(*planeTwist_rad(chain, 0) / deg - twist) < 1e-9);
            chain.joints[0].phase_rad = twist * deg;
            QVERIFY(residual_per_s2(chain) < 1e-9);
        }
        QVERIFY(!planeTwist_rad(chainOf({Vector3d::UnitX(), Vector3d::UnitX(), falling(3)}), 0)); // no plane
    }
    void oneJointTurnsByTheTextbook() {
        for (const double beta : {0.5, 3.0, 15.0, 40.0}) {
            const JointChain chain = chainOf({Vector3d::UnitX(), falling(beta)});
            QVERIFY(std::abs(operatingAngle_rad(chain, 0) - beta * deg) < 1e-12);
            double least = 9, most = 0;
            for (int i = 0; i < 360; ++i) {
                const double ratio = turningAt(chain, i * deg)[1].speed;
                least = std::min(least, ratio);
                most = std::max(most, ratio);
            }
            QVERIFY(std::abs(least - std::cos(beta * deg)) < 1e-6); // the driving pin square to the joint's plane
            QVERIFY(std::abs(most - 1 / std::cos(beta * deg)) < 1e-6);
            const TurnReport turn = overATurn(chain);
            QVERIFY(std::abs(turn.equivalent_rad - beta * deg) < 1e-9);
            if (beta <= 3) QVERIFY(std::abs(turn.residual_per_s2 / (beta * beta * deg * deg) - 1) < 0.005);
        }
    }
    void chainsFollowTheirCrosses_data() {
        QTest::addColumn<int>("seed");
        QTest::addColumn<int>("joints");
        for (int joints = 1; joints <= 4; ++joints)
            for (int seed = 1; seed <= 5; ++seed) QTest::addRow("%d joints, seed %d", joints, seed) << seed << joints;
    }
    void chainsFollowTheirCrosses() {
        QFETCH(int, seed);
        QFETCH(int, joints);
        std::mt19937 random(static_cast<unsigned>(seed * 10 + joints));
        std::uniform_real_distribution<double> angle(-14, 14), phase(-90, 90);
        std::vector<Vector3d> axes;
        std::vector<double> phases;
        for (int i = 0; i <= joints; ++i) {
            axes.push_back(falling(angle(random), angle(random)));
            phases.push_back(phase(random));
        }
        const JointChain chain = chainOf(axes, phases);
        constexpr double h = 1e-4;
        // The two count the input from different directions: find the turn between them by the first joint's ratio.
        const auto bruteSpeed = [&](double at) {
            const double a = outputAngle(chain, at - h);
            return (outputAngle(chain, at + h) - a) / (2 * h);
        };
        double least = 9, most = 0;
        for (int i = 0; i < 720; ++i) {
            least = std::min(least, bruteSpeed(i * deg / 2));
            most = std::max(most, bruteSpeed(i * deg / 2));
        }
        const TurnReport turn = overATurn(chain);
        QVERIFY(std::abs(turn.least_ratio - least) < 2e-4);
        QVERIFY(std::abs(turn.most_ratio - most) < 2e-4);
        QVERIFY2(std::abs(turn.residual_per_s2 - brutePeak(chain)) < 2e-3 * turn.residual_per_s2 + 1e-5,
                 qPrintable(QString::number(turn.residual_per_s2) + " " + QString::number(brutePeak(chain))));
        // Angle, speed and acceleration are each other's derivatives.
        for (int i = 0; i < 36; ++i) {
            const double at = i * 10 * deg;
            const Turning a = turningAt(chain, at - h).back(), b = turningAt(chain, at).back(),
                          c = turningAt(chain, at + h).back();
            QVERIFY(std::abs((c.angle_rad - a.angle_rad) / (2 * h) - b.speed) < 1e-6);
            QVERIFY(std::abs((c.speed - a.speed) / (2 * h) - b.acceleration) < 1e-6);
        }
    }
    void equalAnglesInPhaseCancel() {
        for (const double beta : {1.0, 5.0, 20.0}) {
            const JointChain parallel = chainOf({Vector3d::UnitX(), falling(beta), Vector3d::UnitX()});
            const JointChain broken = chainOf({Vector3d::UnitX(), falling(beta), falling(2 * beta)});
            for (const JointChain& chain : {parallel, broken}) {
                QVERIFY(overATurn(chain).residual_per_s2 < 1e-9);
                QVERIFY(overATurn(chain).most_ratio - overATurn(chain).least_ratio < 1e-9);
                QVERIFY(std::abs(turningAt(chain, 1.0).back().speed - 1) < 1e-9);
            }
            QVERIFY(overATurn(parallel).inertial_per_s2 >
                    0.9 * beta * beta * deg * deg); // the shaft itself still shakes
        }
    }
    void aQuarterTurnOfPhaseGivesTheSum() {
        for (const double beta : {1.0, 3.0}) {
            const JointChain chain = chainOf({Vector3d::UnitX(), falling(beta), Vector3d::UnitX()}, {90});
            const double one = beta * beta * deg * deg;
            QVERIFY(std::abs(residualVector(chain).norm() - 2 * one) < 1e-12);
            QVERIFY(std::abs(residual_per_s2(chain) / (2 * one) - 1) < 0.01);
        }
    }
    void turningTheWholeVehicleChangesNothing() {
        const JointChain chain = chainOf({falling(2, 1), falling(5, -3), falling(1, 4), falling(3, 0)}, {20, -35});
        const TurnReport before = overATurn(chain);
        for (const Vector3d& about : {Vector3d(1, 2, 3), Vector3d(-2, 0.3, 1), Vector3d(0, 1, 0)}) {
            JointChain turned = chain;
            const Matrix3d by = Eigen::AngleAxisd(1.1, about.normalized()).toRotationMatrix();
            for (Vector3d& axis : turned.axes) axis = by * axis;
            const TurnReport after = overATurn(turned);
            QVERIFY(std::abs(after.residual_per_s2 / before.residual_per_s2 - 1) < 1e-4);
            QVERIFY(std::abs(after.inertial_per_s2 / before.inertial_per_s2 - 1) < 1e-4);
            QVERIFY(std::abs(after.equivalent_rad - before.equivalent_rad) < 1e-9);
        }
    }
    void theBestPhaseIsTheTwistOfTheJointPlanes() {
        // First joint bends downwards, the second as much to the side: planes at a right angle.
        const Vector3d shaft = Vector3d::UnitX();
        const JointChain chain = chainOf({falling(-4), shaft, falling(0, 4)});
        QVERIFY(overATurn(chain).equivalent_rad > 5 * deg); // in phase they add: √2 · 4°
        const std::vector<double> best = bestPhases_rad(chain);
        QVERIFY(std::abs(std::abs(best[0]) - M_PI / 2) < 1e-3);
        JointChain phased = chain;
        phased.joints[0].phase_rad = best[0];
        QVERIFY(residual_per_s2(phased) < 1e-6);
        // Any twist between: what cancels is the twist itself.
        for (const double twist : {15.0, 40.0, -60.0}) {
            const Vector3d out(std::cos(4 * deg), std::sin(4 * deg) * std::sin(twist * deg),
                               -std::sin(4 * deg) * std::cos(twist * deg));
            JointChain skew = chainOf({falling(-4), shaft, out});
            skew.joints[0].phase_rad = bestPhases_rad(skew)[0];
            QVERIFY(residual_per_s2(skew) < 1e-6);
            QVERIFY(std::abs(std::abs(skew.joints[0].phase_rad) - std::abs(twist) * deg) < 2e-3);
        }
    }
    void threeJointsArePhasedToTheLeast() {
        const JointChain chain = chainOf({Vector3d::UnitX(), falling(3), falling(1.5), falling(3.2)});
        const std::vector<double> best = bestPhases_rad(chain);
        JointChain phased = chain;
        for (std::size_t i = 0; i < best.size(); ++i) phased.joints[i].phase_rad = best[i];
        double least = 1e9; // by brute force, every 3°
        JointChain trial = chain;
        for (int a = -90; a < 90; a += 3)
            for (int b = -90; b < 90; b += 3) {
                trial.joints[0].phase_rad = a * deg;
                trial.joints[1].phase_rad = b * deg;
                least = std::min(least, residual_per_s2(trial));
            }
        QVERIFY(residual_per_s2(phased) <= least * 1.001 + 1e-9);
    }
    void aChainTurnsTheSameFromItsOtherEnd() {
        const JointChain chain = chainOf({falling(2, 1), falling(5, -3), falling(1, 4)}, {25});
        const JointChain twice = reversed(reversed(chain));
        QVERIFY(std::abs(residual_per_s2(twice) - residual_per_s2(chain)) < 1e-9);
        QVERIFY(std::abs(residualVector(reversed(chain)).norm() - residualVector(chain).norm()) < 1e-5);
        // Forwards r, backwards 1/r: the extremes swap.
        QVERIFY(std::abs(overATurn(reversed(chain)).most_ratio - 1 / overATurn(chain).least_ratio) < 1e-5);
    }
    void whatPassesSpeedOnAddsNothing() {
        JointChain chain = chainOf({falling(0), falling(9, 3), falling(4, 1)});
        chain.joints[0].cardan = false;
        QVERIFY(std::abs(overATurn(chain).equivalent_rad - operatingAngle_rad(chain, 1)) < 1e-9);
        chain.joints[1].cardan = false;
        QCOMPARE(overATurn(chain).residual_per_s2, 0.0);
    }
    // Euler–Bernoulli by finite differences: EI·w'''' = ρA·ω²·w between pinned ends.
    void criticalSpeedIsTheBeams() {
        const TubeSize tube{76.2, 2.1};
        const double length = 1.5, e = 207e9, rho = 7850;
        const double outer = 0.0762, inner = 0.0720;
        const double area = M_PI / 4 * (outer * outer - inner * inner);
        const double inertia = M_PI / 64 * (std::pow(outer, 4) - std::pow(inner, 4));
        constexpr int n = 120;
        const double h = length / (n + 1);
        Eigen::MatrixXd second = Eigen::MatrixXd::Zero(n, n);
        for (int i = 0; i < n; ++i) {
            second(i, i) = -2;
            if (i > 0) second(i, i - 1) = 1;
            if (i + 1 < n) second(i, i + 1) = 1;
        }
        const Eigen::MatrixXd fourth = second * second / std::pow(h, 4); // pinned: w'' = 0 at the ends
        const double lowest = Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd>(fourth).eigenvalues()[0];
        const double rpm = std::sqrt(lowest * e * inertia / (rho * area)) * 30 / M_PI;
        QVERIFY(std::abs(criticalSpeed_rpm(1500, tube, 207, 7850) / rpm - 1) < 1e-3);
        // By the workshop formula, 1.21e8·√(D² + d²)/L² with millimetres: 5638.
        QVERIFY(std::abs(criticalSpeed_rpm(1500, tube, 207, 7850) / 5638 - 1) < 5e-3);
        QVERIFY(std::abs(criticalSpeed_rpm(750, tube, 207, 7850) / criticalSpeed_rpm(1500, tube, 207, 7850) - 4) <
                1e-9);
        // A wall as thick as the radius is a solid bar.
        QVERIFY(std::abs(criticalSpeed_rpm(600, {26, 13}, 207, 7850) / (1.21e8 * 26 / 360000) - 1) < 5e-3);
    }
};

GABARIT_SUITE(JointChainTest)
#include "joint_chain_test.moc"
