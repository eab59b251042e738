#include "geometry/least_squares.h"

#include <Eigen/QR>

namespace bevelsmith::geometry {

Eigen::VectorXd least_squares(const Eigen::MatrixXd& a, const Eigen::VectorXd& b) {
    return a.colPivHouseholderQr().solve(b);
}

}  // namespace bevelsmith::geometry
