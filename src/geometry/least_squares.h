// Small systems of equations, more of them than unknowns.
#pragma once

#include <Eigen/Core>

namespace bevelsmith::geometry {

/// The x that makes |a x - b| least, by Eigen's pivoting Householder QR; compiled once, as `eigenpairs_of` is.
Eigen::VectorXd least_squares(const Eigen::MatrixXd& a, const Eigen::VectorXd& b);

}  // namespace bevelsmith::geometry
