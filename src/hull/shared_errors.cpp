#include "hull/shared_errors.h"

#include <Eigen/Geometry>

namespace bevelsmith::hull {

Eigen::MatrixXd shared_doubt(const FitRounds& rounds, const Solution& solution, const Surface& near,
                             std::span<const SharedError> errors) {
    if (errors.empty()) return {};
    const CubicBasis &bs = near.basis_s(), &bv = near.basis_v();
    Eigen::MatrixXd right = Eigen::MatrixXd::Zero(solution.coefficients.size(), static_cast<int>(errors.size()));
    for (int i = 0; i < rounds.data.count(); ++i) {
        const double weight = rounds.data.weight[i];
        const survey::Point& point = rounds.points[static_cast<std::size_t>(i)];
        if (!(weight > 0)) continue;
        const Place place{rounds.data.s[i], rounds.data.v[i]};
        const CellRow row = cell_row(bs, bv, place.s, place.v);
        const auto index = cell_functions(bs, bv, row.cell);
        const Vec3 normal = near.fitted(place).normal;
        const SlopeJet jet = near.slopes(place);
        const double facing =
            normal.dot(near.chart().jet(place.s, place.v, jet.height, jet.along_s, jet.along_v).ray);
        for (std::size_t e = 0; e < errors.size(); ++e) {
            if (errors[e].set != point.set) continue;
            const Vec3 moved = errors[e].by.turn_rad.cross(point.position) + errors[e].by.move_mm;
            const double height_m = normal.dot(moved) / facing / 1000;
            for (std::size_t k = 0; k < 16; ++k)
                right(index[k], static_cast<int>(e)) += weight * height_m * row.weight[static_cast<int>(k)];
        }
    }
    Eigen::MatrixXd out(right.rows(), right.cols());
    for (Eigen::Index e = 0; e < right.cols(); ++e) out.col(e) = solution.factor.solve(right.col(e));
    return out;
}

}  // namespace bevelsmith::hull
