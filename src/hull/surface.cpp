#include "hull/surface.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

namespace bevelsmith::hull {
namespace {

double evaluate(const Surface::Data& d, const Place& p, int ds, int dv) {
    const auto s = d.basis_s.at(p.s, ds), v = d.basis_v.at(p.v, dv);
    const int nv = d.basis_v.count();
    double sum = 0;
    for (std::size_t a = 0; a < 4; ++a) {
        double inner = 0;
        for (std::size_t b = 0; b < 4; ++b) inner += v.weight[b] * d.coefficients[s.index[a] * nv + v.index[b]];
        sum += s.weight[a] * inner;
    }
    return sum;
}

}  // namespace

double Surface::height_m(const Place& at) const {
    return evaluate(*data_, at, 0, 0);
}

SurfacePoint Surface::at(const Place& place) const {
    const double h = evaluate(*data_, place, 0, 0);
    const ChartJet jet =
        data_->chart.jet(place.s, place.v, h, evaluate(*data_, place, 1, 0), evaluate(*data_, place, 0, 1));
    const Vec3 normal = data_->outward * jet.along_s.cross(jet.along_v).normalized();
    return {jet.position, jet.along_s, jet.along_v, normal, std::abs(normal.dot(jet.ray))};
}

double Surface::sigma_mm(const Place& place) const {
    const auto row = prediction_row(data_->basis_s, data_->basis_v, place);
    const double variance = row_variance(*data_->covariance, row);
    return 1000.0 * std::sqrt(data_->scale * variance) * at(place).ray_cosine;
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
    const auto inside = [](const UniformCubic& b, double x) {
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

PredictionRow prediction_row(const UniformCubic& s, const UniformCubic& v, const Place& at) {
    const auto ls = s.at(at.s), lv = v.at(at.v);
    PredictionRow row;
    for (std::size_t a = 0; a < 4; ++a)
        for (std::size_t b = 0; b < 4; ++b) {
            row.index[4 * a + b] = ls.index[a] * v.count() + lv.index[b];
            row.weight[4 * a + b] = ls.weight[a] * lv.weight[b];
        }
    return row;
}

double row_variance(const BlockBand& inverse, const PredictionRow& row) {
    double sum = 0;
    for (std::size_t a = 0; a < 16; ++a) {
        sum += row.weight[a] * row.weight[a] * inverse.at(row.index[a], row.index[a]);
        for (std::size_t b = 0; b < a; ++b)
            sum += 2 * row.weight[a] * row.weight[b] * inverse.at(row.index[a], row.index[b]);
    }
    return std::max(sum, 0.0);
}

}  // namespace bevelsmith::hull
