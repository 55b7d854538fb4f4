// Places and poses at random, the same each time.
#pragma once

#include <Eigen/Geometry>

#include <random>

namespace gabarit::tests {

class Dice {
public:
    explicit Dice(unsigned seed) : engine_(seed) {}
    double in(double low, double high) { return std::uniform_real_distribution<double>(low, high)(engine_); }
    Eigen::Vector3d place(double reach) { return {in(-reach, reach), in(-reach, reach), in(-reach, reach)}; }
    Eigen::Isometry3d pose(double reach) {
        Eigen::Isometry3d out = Eigen::Isometry3d::Identity();
        out.translation() = place(reach);
        out.linear() = Eigen::Quaterniond(in(-1, 1), in(-1, 1), in(-1, 1), in(-1, 1)).normalized().toRotationMatrix();
        return out;
    }

private:
    std::mt19937 engine_;
};

} // namespace gabarit::tests
