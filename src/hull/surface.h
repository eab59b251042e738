// A fitted surface of the boat's inside, with the uncertainty of every point of it.
#pragma once

#include <memory>
#include <vector>

#include "geometry/polygon.h"
#include "hull/block_cholesky.h"
#include "hull/bspline.h"
#include "hull/cell_blocks.h"
#include "hull/chart.h"
#include "hull/layers.h"

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

/// Lumps that no reading resolves are taken to be about this long, crest to crest (common practice).
inline constexpr double lump_length_mm = 400;

/// The height and its slopes at a place.
struct SlopeJet {
    double height = 0, along_s = 0, along_v = 0;
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
        /// What the coefficients may be off together, because the smoothing is not known and because sets as a whole
        /// may lie elsewhere: columns whose squares come on top.
        Eigen::MatrixXd doubt;
        double outward = 1;         ///< +1 when the chart's own normal points out of the boat
        double lumps_mm = 0;        ///< what the readings' scatter tells of lumps that the surface irons out
        std::vector<Layer> layers;  ///< on the inside, counted from the fitted surface
        Corners corners;            ///< how they turn at creases
        geometry::Ring surveyed;    ///< outline of the readings in (s, v); closed: of 3 turns
    };
    explicit Surface(std::shared_ptr<const Data> data) : data_(std::move(data)) {}

    const Chart& chart() const { return data_->chart; }
    const Data& data() const { return *data_; }
    const CubicBasis& basis_s() const { return data_->basis_s; }
    const CubicBasis& basis_v() const { return data_->basis_v; }

    double height_m(const Place& at) const;
    SlopeJet slopes(const Place& at) const;
    /// Covariance of height and slopes at a place (m, 1, 1).
    Eigen::Matrix3d slope_covariance(const Place& at) const;
    /// Heights over a grid: rows along s, columns along v.
    Eigen::MatrixXd heights_m(const Eigen::VectorXd& s, const Eigen::VectorXd& v) const;
    /// Of the bare surface, as fitted.
    SurfacePoint fitted(const Place& place) const;
    /// Of the face that joinery meets, layers included: away from its corners (`inner_face` has those as well).
    SurfacePoint at(const Place& place) const;
    /// The place below which `p_mm` lies, and the height that the point of the bare surface has there.
    ChartPoint locate(const Vec3& p_mm) const;
    /// The same surface with other layers on it.
    Surface with_layers(std::vector<Layer> layers, const Corners& corners = {}) const;
    /// Standard deviation of the lumps that the fitted surface irons out (mm), and of the slope that they have (rad).
    double lumps_mm() const { return data_->lumps_mm; }
    double lump_slope_rad() const;
    bool bare() const { return data_->layers.empty(); }
    /// All layers that may lie on one place (mm).
    double thickest_layers_mm() const;

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

/// Of one height, slope or felt angle: what it may be off by Surface::Data::doubt, column by column (m, 1).
Eigen::RowVectorXd doubt_of(const Surface::Data& data, const CellRow& row);

}  // namespace bevelsmith::hull
