// A fitted surface of the boat's inside, with the uncertainty of every point of it.
#pragma once

#include <memory>
#include <vector>

#include "geometry/polygon.h"
#include "hull/block_cholesky.h"
#include "hull/bspline.h"
#include "hull/cell_blocks.h"
#include "hull/chart.h"

namespace bevelsmith::hull {

/// Where on a surface (chart coordinates, m).
struct Place {
    double s = 0, v = 0;
};

/// What is known at a place.
struct SurfacePoint {
    Vec3 position;          ///< mm
    Vec3 along_s, along_v;  ///< tangents, mm per chart metre
    Vec3 normal;            ///< unit, pointing out of the boat
    double ray_cosine = 1;  ///< cosine between the height's direction and the normal
};

/// Tensor-product cubic B-spline over a chart. Immutable and cheap to copy.
class Surface {
  public:
    struct Data {
        Chart chart;
        CubicBasis basis_s{0, 1, 1}, basis_v{0, 1, 1};
        Eigen::VectorXd coefficients;                  ///< m; index = i_s * basis_v.count() + i_v
        std::shared_ptr<const CellBlocks> covariance;  ///< of (X'WX + P)^-1 (m²), what lies near
        std::shared_ptr<const BlockCholesky> factor;   ///< of X'WX + P, for what lies apart
        double scale = 1;                              ///< factor on the covariance, from the readings' scatter
        double outward = 1;                            ///< +1 when the chart's own normal points out of the boat
        geometry::Ring surveyed;                       ///< outline of the readings in (s, v); closed: of 3 turns
    };
    explicit Surface(std::shared_ptr<const Data> data) : data_(std::move(data)) {}

    const Chart& chart() const { return data_->chart; }
    const Data& data() const { return *data_; }
    const CubicBasis& basis_s() const { return data_->basis_s; }
    const CubicBasis& basis_v() const { return data_->basis_v; }

    double height_m(const Place& at) const;
    /// Heights over a grid: rows along s, columns along v.
    Eigen::MatrixXd heights_m(const Eigen::VectorXd& s, const Eigen::VectorXd& v) const;
    SurfacePoint at(const Place& place) const;
    /// The place whose ray meets `p_mm`, and the height that p has there.
    ChartPoint locate(const Vec3& p_mm) const { return data_->chart.to_chart(p_mm); }

    /// Standard deviation of the surface's position along its normal (mm).
    double sigma_mm(const Place& place) const;
    /// False where the readings do not surround the place (their outline in the chart does not hold it).
    bool surrounded(const Place& place) const;
    /// In the fitted domain, which reaches 5 % beyond the readings.
    bool in_domain(const Place& place) const;
    /// Signed distance of a point from the surface along the normal, to first order (mm); positive outside.
    double distance_mm(const Vec3& p_mm) const;

  private:
    std::shared_ptr<const Data> data_;
};

}  // namespace bevelsmith::hull
