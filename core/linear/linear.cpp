#include "linear/linear.h"

#include <Eigen/Cholesky>
#include <Eigen/Eigenvalues>
#include <Eigen/Geometry>
#include <Eigen/LU>
#include <Eigen/QR>

namespace gabarit::linear {

using Eigen::MatrixXd;
using Eigen::VectorXd;

SmallVector eigenvalues(const Small& symmetric) {
    return Eigen::SelfAdjointEigenSolver<Small>(symmetric, Eigen::EigenvaluesOnly).eigenvalues();
}

Eigenpairs eigenpairs(const Small& symmetric) {
    const Eigen::SelfAdjointEigenSolver<Small> solver(symmetric);
    return {solver.eigenvalues(), solver.eigenvectors()};
}

Eigenpairs eigenpairs(const Small& k, const Small& m) {
    const Eigen::GeneralizedSelfAdjointEigenSolver<Small> solver(k, m);
    return {solver.eigenvalues(), solver.eigenvectors()};
}

bool isPositiveDefinite(const Small& symmetric) { return Eigen::LLT<Small>(symmetric).info() == Eigen::Success; }

SmallVector solvedSymmetric(const Small& a, const SmallVector& b) { return Eigen::LDLT<Small>(a).solve(b); }

std::optional<SmallVector> solved(const Small& a, const SmallVector& b) {
    const Eigen::FullPivLU<Small> solver(a);
    if (!solver.isInvertible()) return std::nullopt;
    return SmallVector(solver.solve(b));
}

VectorXd leastSquares(const MatrixXd& a, const VectorXd& b, double threshold) {
    Eigen::CompleteOrthogonalDecomposition<MatrixXd> solver;
    solver.setThreshold(threshold);
    return solver.compute(a).solve(b);
}

Small inverse(const Small& a) { return Eigen::PartialPivLU<Small>(a).inverse(); }

Eigen::Matrix3d turnOnto(const Eigen::Vector3d& from, const Eigen::Vector3d& to) {
    return Eigen::Quaterniond::FromTwoVectors(from, to).toRotationMatrix();
}

} // namespace gabarit::linear
