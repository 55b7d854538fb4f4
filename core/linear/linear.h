// The few decompositions of small matrices that rooms need, compiled once: each costs ten seconds where it is named.
#pragma once

#include <Eigen/Core>

#include <optional>

namespace gabarit::linear {

/// Of up to eight rows and columns, kept where it stands: nothing is fetched from the heap in inner loops.
using Small = Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, 0, 8, 8>;
using SmallVector = Eigen::Matrix<double, Eigen::Dynamic, 1, 0, 8, 1>;

struct Eigenpairs {
    SmallVector values; ///< ascending
    Small vectors;      ///< a column each, of unit length (of unit m-norm where there is an m)
};

/// Of a symmetric matrix; its lower triangle is read. Ascending.
SmallVector eigenvalues(const Small& symmetric);
Eigenpairs eigenpairs(const Small& symmetric);
/// k·v = λ·m·v; m symmetric, positive definite.
Eigenpairs eigenpairs(const Small& k, const Small& m);

bool isPositiveDefinite(const Small& symmetric);

/// x of a·x = b, a symmetric and not singular.
SmallVector solvedSymmetric(const Small& a, const SmallVector& b);
/// x of a·x = b; nothing when a (square) is singular.
std::optional<SmallVector> solved(const Small& a, const SmallVector& b);
/// The shortest x of those with the least |a·x − b|; what a tells of x with less than `threshold` of its most does not
/// count.
Eigen::VectorXd leastSquares(const Eigen::MatrixXd& a, const Eigen::VectorXd& b, double threshold);
/// Of a matrix that is not singular.
Small inverse(const Small& a);

/// The least turn that brings one direction onto another; lengths above zero.
Eigen::Matrix3d turnOnto(const Eigen::Vector3d& from, const Eigen::Vector3d& to);

} // namespace gabarit::linear
