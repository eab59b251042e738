#include "hull/surface.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace bevelsmith::hull {
namespace {

SlopeJet evaluate(const Surface::Data& d, const Place& p) {
    const auto s = d.basis_s.jet(p.s), v = d.basis_v.jet(p.v);
    const int nv = d.basis_v.count();
    SlopeJet out;
    for (std::size_t a = 0; a < 4; ++a) {
        double inner = 0, slope = 0;
        for (std::size_t b = 0; b < 4; ++b) {
            const double c = d.coefficients[s.value.index[a] * nv + v.value.index[b]];
            inner += v.value.weight[b] * c;
            slope += v.slope[b] * c;
        }
        out.height += s.value.weight[a] * inner;
        out.along_s += s.slope[a] * inner;
        out.along_v += s.value.weight[a] * slope;
    }
    return out;
}

}  // namespace

Eigen::RowVectorXd doubt_of(const Surface::Data& data, const CellRow& row) {
    const auto index = cell_functions(data.basis_s, data.basis_v, row.cell);
    Eigen::RowVectorXd out = Eigen::RowVectorXd::Zero(data.doubt.cols());
    for (std::size_t k = 0; out.size() > 0 && k < 16; ++k)
        out += row.weight[static_cast<int>(k)] * data.doubt.row(index[k]);
    return out;
}

double Surface::height_m(const Place& at) const {
    const auto s = data_->basis_s.at(at.s), v = data_->basis_v.at(at.v);
    const int nv = data_->basis_v.count();
    double sum = 0;
    for (std::size_t a = 0; a < 4; ++a)
        for (std::size_t b = 0; b < 4; ++b)
            sum += s.weight[a] * v.weight[b] * data_->coefficients[s.index[a] * nv + v.index[b]];
    return sum;
}

SlopeJet Surface::slopes(const Place& at) const {
    return evaluate(*data_, at);
}

Eigen::Matrix3d Surface::slope_covariance(const Place& at) const {
    const CubicBasis &bs = data_->basis_s, &bv = data_->basis_v;
    const std::array<CellRow, 3> rows{cell_row(bs, bv, at.s, at.v), cell_row(bs, bv, at.s, at.v, 1, 0),
                                      cell_row(bs, bv, at.s, at.v, 0, 1)};
    Eigen::Matrix3d out;
    for (int i = 0; i < 3; ++i)
        for (int j = 0; j <= i; ++j)
            out(i, j) = out(j, i) = data_->scale * data_->covariance->between(rows[static_cast<std::size_t>(i)],
                                                                              rows[static_cast<std::size_t>(j)]);
    Eigen::Matrix<double, 3, Eigen::Dynamic> doubt(3, data_->doubt.cols());
    for (int i = 0; i < 3; ++i) doubt.row(i) = doubt_of(*data_, rows[static_cast<std::size_t>(i)]);
    return out + doubt * doubt.transpose();
}

Eigen::MatrixXd Surface::heights_m(const Eigen::VectorXd& s, const Eigen::VectorXd& v) const {
    using RowMajor = Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, Eigen::RowMajor>;
    const CubicBasis &bs = data_->basis_s, &bv = data_->basis_v;
    const Eigen::Map<const RowMajor> coefficients(data_->coefficients.data(), bs.count(), bv.count());
    const auto rows = [](const CubicBasis& basis, const Eigen::VectorXd& x) {
        Eigen::MatrixXd out = Eigen::MatrixXd::Zero(x.size(), basis.count());
        for (Eigen::Index i = 0; i < x.size(); ++i) {
            const auto local = basis.at(x[i]);
            for (std::size_t k = 0; k < 4; ++k) out(i, local.index[k]) = local.weight[k];
        }
        return out;
    };
    return rows(bs, s) * coefficients * rows(bv, v).transpose();
}

SurfacePoint Surface::at(const Place& place) const {
    SurfacePoint out = fitted(place);
    if (bare()) return out;
    const double thickness_mm = layer_thickness_mm(data_->layers, out.position);
    const auto on_top = [&](const Place& p) {
        const SurfacePoint below = fitted(p);
        return Vec3(below.position - thickness_mm * below.normal);
    };
    constexpr double step = 1e-5;
    out.position = on_top(place);
    out.along_s = (on_top({place.s + step, place.v}) - on_top({place.s - step, place.v})) / (2 * step);
    out.along_v = (on_top({place.s, place.v + step}) - on_top({place.s, place.v - step})) / (2 * step);
    return out;
}

double Surface::thickest_layers_mm() const {
    double out = 0;
    for (const Layer& layer : data_->layers) out += layer.thickness_mm;
    return out;
}

ChartPoint Surface::locate(const Vec3& p_mm) const {
    ChartPoint at = data_->chart.to_chart(p_mm);
    if (bare()) return at;
    Vec3 below = p_mm;
    for (int round = 0; round < 4; ++round) {
        const SurfacePoint here = fitted({at.s, at.v});
        below = p_mm + layer_thickness_mm(data_->layers, here.position) * here.normal;
        at = data_->chart.to_chart(below);
    }
    return at;
}

Surface Surface::with_layers(std::vector<Layer> layers, const Corners& corners) const {
    auto data = std::make_shared<Data>(*data_);
    data->layers = std::move(layers);
    data->corners = corners;
    return Surface(data);
}

SurfacePoint Surface::fitted(const Place& place) const {
    const SlopeJet h = evaluate(*data_, place);
    const ChartJet jet = data_->chart.jet(place.s, place.v, h.height, h.along_s, h.along_v);
    const Vec3 normal = data_->outward * jet.along_s.cross(jet.along_v).normalized();
    return {jet.position, jet.along_s, jet.along_v, normal, std::abs(normal.dot(jet.ray))};
}

double Surface::sigma_mm(const Place& place) const {
    const CellRow row = cell_row(data_->basis_s, data_->basis_v, place.s, place.v);
    const double variance = data_->scale * data_->covariance->variance(row) + doubt_of(*data_, row).squaredNorm();
    return std::hypot(1000 * std::sqrt(variance) * fitted(place).ray_cosine, data_->lumps_mm);
}

double Surface::lump_slope_rad() const {
    return 2 * std::numbers::pi / lump_length_mm * data_->lumps_mm;
}

bool Surface::surrounded(const Place& place) const {
    const auto& ring = data_->surveyed;
    const Vec2 p(place.s, place.v);
    if (geometry::contains(ring, p)) return true;
    // A section through the outermost readings lies on the outline: a thousandth of the size still counts.
    const double slack = 1e-3 * geometry::bounding_box(ring).size().norm();
    for (std::size_t i = 0; i < ring.size(); ++i)
        if (geometry::distance_to_segment_mm(p, ring[i], ring[(i + 1) % ring.size()]) < slack) return true;
    return false;
}

bool Surface::in_domain(const Place& p) const {
    const auto inside = [](const CubicBasis& b, double x) {
        const double slack = 1e-9 * (b.high() - b.low());
        return b.periodic() || (x >= b.low() - slack && x <= b.high() + slack);
    };
    return inside(data_->basis_s, p.s) && inside(data_->basis_v, p.v);
}

double Surface::distance_mm(const Vec3& p_mm) const {
    const ChartPoint c = locate(p_mm);
    const SurfacePoint here = at({c.s, c.v});
    return here.normal.dot(p_mm - here.position);
}

}  // namespace bevelsmith::hull
