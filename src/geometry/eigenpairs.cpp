#include "geometry/eigenpairs.h"

#include <Eigen/Eigenvalues>

namespace bevelsmith::geometry {

Eigenpairs eigenpairs_of(const Eigen::MatrixXd& symmetric) {
    const Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd> solver(symmetric);
    return {solver.eigenvalues(), solver.eigenvectors()};
}

}  // namespace bevelsmith::geometry
