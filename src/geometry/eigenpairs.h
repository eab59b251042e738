// Eigenvalues and eigenvectors of symmetric matrices.
#pragma once

#include <Eigen/Core>

namespace bevelsmith::geometry {

/// Ascending eigenvalues, and beside them unit eigenvectors, column by column.
struct Eigenpairs {
    Eigen::VectorXd values;
    Eigen::MatrixXd vectors;
};

/// Of a symmetric matrix (its lower half is looked at), by Eigen. Compiled once: its solver takes the compiler a
/// quarter of a minute in every file and for every size.
Eigenpairs eigenpairs_of(const Eigen::MatrixXd& symmetric);

}  // namespace bevelsmith::geometry
