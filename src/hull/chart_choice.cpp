// Which chart: a plane when no reading sees the surface too much edge-on, an axis otherwise.
#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "hull/parallel.h"

#include "geometry/eigenpairs.h"
#include "geometry/least_squares.h"
#include "hull/fit_stages.h"
#include "units/quantity.h"

namespace bevelsmith::hull {
namespace {

Eigen::Matrix3d principal_axes(std::span<const survey::Point> points) {
    Vec3 mean = Vec3::Zero();
    for (const auto& p : points) mean += p.position / static_cast<double>(points.size());
    Eigen::Matrix3d scatter = Eigen::Matrix3d::Zero();
    for (const auto& p : points) scatter += (p.position - mean) * (p.position - mean).transpose();
    return geometry::eigenpairs_of(scatter).vectors;  // ascending
}

/// Along the boat when the plane allows it, else forward on a transom's up.
Chart plane_chart(const Vec3& origin, const Vec3& height) {
    Chart chart;
    chart.kind = Chart::Kind::plane;
    chart.origin = origin;
    chart.e_h = height.normalized();
    const Vec3 reference = std::abs(chart.e_h.x()) < 0.9 ? Vec3::UnitX() : Vec3::UnitY();
    chart.e_s = (reference - chart.e_h * chart.e_h.dot(reference)).normalized();
    chart.e_v = chart.e_h.cross(chart.e_s);
    return chart;
}

/// Centre of the circle that best holds the points seen along `axis` (algebraic fit by I. Kasa, 1976).
Vec3 circle_centre(std::span<const survey::Point> points, const Vec3& axis, const Vec3& about) {
    const Vec3 u = axis.unitOrthogonal(), w = axis.cross(u);
    Eigen::MatrixXd a(points.size(), 3);
    Eigen::VectorXd b(points.size());
    for (std::size_t i = 0; i < points.size(); ++i) {
        const Vec3 q = points[i].position - about;
        const double x = u.dot(q), y = w.dot(q);
        a.row(static_cast<Eigen::Index>(i)) << 2 * x, 2 * y, 1;
        b[static_cast<Eigen::Index>(i)] = x * x + y * y;
    }
    const Eigen::Vector3d c = geometry::least_squares(a, b);
    return about + u * c[0] + w * c[1];
}

Chart axis_chart(const Vec3& axis, const Vec3& centre, std::span<const survey::Point> points) {
    Chart chart;
    chart.kind = Chart::Kind::axis;
    chart.origin = centre;
    chart.e_s = axis.normalized();
    chart.e_v = chart.e_s.unitOrthogonal();
    chart.e_h = chart.e_s.cross(chart.e_v);
    return settled_axis_chart(chart, points);
}

/// At most about this many readings judge a chart; more add time, not insight.
constexpr std::size_t judged_readings = 300;

std::vector<survey::Point> sampled(std::span<const survey::Point> points) {
    std::vector<survey::Point> out;
    const std::size_t step = std::max<std::size_t>(1, points.size() / judged_readings);
    for (std::size_t i = 0; i < points.size(); i += step) out.push_back(points[i]);
    return out;
}

double quantile(std::vector<double> values, double share) {
    const auto k = static_cast<std::ptrdiff_t>(share * static_cast<double>(values.size() - 1));
    std::nth_element(values.begin(), values.begin() + k, values.end());
    return values[static_cast<std::size_t>(k)];
}

struct Judged {
    ChartTrial trial;
    Vec3 mean_normal = Vec3::Zero();
    Vec3 least_normal = Vec3::UnitX();  ///< direction that the surface's normals share least: its axis
};

std::optional<Judged> judge(const Chart& chart, std::span<const survey::Point> points) {
    const ChartData data = chart_data(chart, points);
    Smoother smoother = make_smoother(chart, data, {7, chart.closed ? 8 : 7});
    smoother.set_data(data);
    const Smoothing& usual = smoother.prior().mean;
    const auto solution = smoother.solve({usual.log10_s, usual.log10_v});
    if (!solution) return std::nullopt;
    const Surface surface = plain_surface(chart, smoother, solution->coefficients);
    Judged out{{chart, 0, 0}, Vec3::Zero(), Vec3::UnitX()};
    Eigen::Matrix3d spread = Eigen::Matrix3d::Zero();
    std::vector<double> angles, misfits;
    for (int i = 0; i < data.count(); ++i) {
        const Place place{data.s[i], data.v[i]};
        const SurfacePoint here = surface.at(place);
        angles.push_back(std::acos(std::min(1.0, here.ray_cosine)));
        misfits.push_back(std::abs(data.height[i] - surface.height_m(place)) * here.ray_cosine * 1000);
        out.mean_normal += here.normal;
        spread += here.normal * here.normal.transpose();
    }
    out.trial.steepest_deg = units::degrees(quantile(angles, 0.95));
    out.trial.misfit_mm = quantile(misfits, 0.5);
    out.least_normal = geometry::eigenpairs_of(spread).vectors.col(0);
    return out;
}

/// Lower is better: degrees of steepness, with a plane preferred while it serves, an axis along the boat preferred
/// to others (hulls are fair lengthwise), and a chart in which even the median reading misses, because the
/// surface folds over in it, put last.
double score(const ChartTrial& t, double best_misfit_mm) {
    const double plane_bonus = t.chart.kind == Chart::Kind::plane && t.steepest_deg < 55 ? 35 : 0;
    const double axis_bonus = t.chart.kind == Chart::Kind::axis && std::abs(t.chart.e_s.x()) > 0.9 ? 25 : 0;
    const double folded = t.misfit_mm > 3 + 4 * best_misfit_mm ? 1000 + t.misfit_mm : 0;
    return t.steepest_deg - plane_bonus - axis_bonus + folded;
}

/// What the plane trials tell about where an axis may lie.
struct Hints {
    std::vector<Vec3> axes;
    Vec3 facing = Vec3::Zero();  ///< mean normal, out of the boat or into it: both ways are tried
};

/// How far the readings reach square to a direction (mm).
double reach_across(std::span<const survey::Point> points, const Vec3& axis, const Vec3& about) {
    double reach = 0;
    for (const auto& p : points) reach = std::max(reach, axis.cross(p.position - about).norm());
    return reach;
}

/// On the circle that fits, in the middle, and off the surface's face by its reach and twice that.
std::vector<Vec3> axis_centres(std::span<const survey::Point> points, const FitOptions& options, const Hints& hints,
                               const Vec3& axis) {
    const Vec3 about = middle(points);
    std::vector<Vec3> out{circle_centre(points, axis, about), options.inside.value_or(about)};
    const Vec3 off = hints.facing - axis * axis.dot(hints.facing);
    if (off.norm() < 0.1) return out;
    const Vec3 step = off.normalized() * reach_across(points, axis, about);
    for (double k : {-2.0, -1.0, 1.0, 2.0}) out.push_back(about + k * step);
    return out;
}

std::vector<Chart> axis_charts(std::span<const survey::Point> points, const FitOptions& options, const Hints& hints) {
    std::vector<Vec3> axes{Vec3::UnitX(), Vec3::UnitY(), Vec3::UnitZ()};
    const Eigen::Matrix3d principal = principal_axes(points);
    for (int k = 0; k < 3; ++k) axes.push_back(principal.col(k));
    axes.insert(axes.end(), hints.axes.begin(), hints.axes.end());
    std::vector<Chart> charts;
    std::vector<Vec3> used;
    for (const Vec3& axis : axes) {
        if (std::any_of(used.begin(), used.end(), [&](const Vec3& u) { return std::abs(u.dot(axis)) > 0.999; }))
            continue;
        used.push_back(axis);
        for (const Vec3& centre : axis_centres(points, options, hints, axis))
            charts.push_back(axis_chart(axis, centre, points));
    }
    return charts;
}

}  // namespace

Vec3 middle(std::span<const survey::Point> points) {
    Vec3 low = points.front().position, high = low;
    for (const auto& p : points) {
        low = low.cwiseMin(p.position);
        high = high.cwiseMax(p.position);
    }
    return (low + high) / 2;
}

Chart settled_axis_chart(Chart chart, std::span<const survey::Point> points) {
    std::vector<double> angles;
    double radius = 0;
    for (const auto& p : points) {
        const ChartPoint c = chart.to_chart(p.position);
        angles.push_back(c.v / chart.mean_radius_m);
        radius += c.height / static_cast<double>(points.size());
    }
    std::sort(angles.begin(), angles.end());
    double widest = angles.front() + 2 * std::numbers::pi - angles.back();
    double gap_middle = angles.back() + widest / 2;
    for (std::size_t i = 1; i < angles.size(); ++i)
        if (angles[i] - angles[i - 1] > widest) {
            widest = angles[i] - angles[i - 1];
            gap_middle = (angles[i] + angles[i - 1]) / 2;
        }
    // The cut goes where nothing was read: v = 0 looks the other way.
    const double facing = gap_middle + std::numbers::pi;
    const Vec3 e_v = std::cos(facing) * chart.e_v + std::sin(facing) * chart.e_h;
    chart.e_h = chart.e_s.cross(e_v).normalized();
    chart.e_v = e_v;
    chart.mean_radius_m = std::max(radius, 1e-3);
    chart.closed = widest < units::radians(60);
    return chart;
}

Surface plain_surface(const Chart& chart, const Smoother& smoother, const Eigen::VectorXd& coefficients) {
    auto data = std::make_shared<Surface::Data>();
    data->chart = chart;
    data->basis_s = smoother.basis_s();
    data->basis_v = smoother.basis_v();
    data->coefficients = coefficients;
    return Surface(data);
}

double cosine_weight(const SurfacePoint& here) {
    return std::max(0.1, here.ray_cosine * here.ray_cosine);
}

Eigen::VectorXd cosine_weights(const Chart& chart, const Smoother& smoother, const Eigen::VectorXd& coefficients,
                               const ChartData& data) {
    const Surface surface = plain_surface(chart, smoother, coefficients);
    Eigen::VectorXd out(data.count());
    for (int i = 0; i < data.count(); ++i) out[i] = cosine_weight(surface.at({data.s[i], data.v[i]}));
    return out;
}

Result<ChartTrial> choose_chart(std::span<const survey::Point> all, const FitOptions& options) {
    const std::vector<survey::Point> points = sampled(all);
    std::vector<ChartTrial> trials;
    Hints hints;
    Vec3 height = principal_axes(points).col(0);
    for (int round = 0; round < 3; ++round) {
        const auto judged = judge(plane_chart(middle(points), height), points);
        if (!judged) break;
        if (options.chart != ChartChoice::axis) trials.push_back(judged->trial);
        hints.axes.push_back(judged->least_normal);
        if (judged->mean_normal.norm() < 1e-9) break;
        const Vec3 facing = judged->mean_normal.normalized();
        const bool settled = std::abs(facing.dot(height)) > std::cos(units::radians(3));
        height = hints.facing = facing;
        if (settled) break;
    }
    if (options.chart != ChartChoice::plane &&
        (trials.empty() || trials.back().steepest_deg > 25 || trials.back().misfit_mm > 3)) {
        const std::vector<Chart> charts = axis_charts(points, options, hints);
        std::vector<std::optional<Judged>> judged(charts.size());
        in_parallel(static_cast<std::ptrdiff_t>(charts.size()), true, [&](std::ptrdiff_t k) {
            judged[static_cast<std::size_t>(k)] = judge(charts[static_cast<std::size_t>(k)], points);
        });
        for (const auto& one : judged)
            if (one) trials.push_back(one->trial);
    }
    if (trials.empty())
        return Error{"the readings do not determine a surface: spread them over at least three stations"};
    double best_misfit = trials.front().misfit_mm;
    for (const auto& t : trials) best_misfit = std::min(best_misfit, t.misfit_mm);
    return *std::min_element(trials.begin(), trials.end(), [&](const ChartTrial& a, const ChartTrial& b) {
        return score(a, best_misfit) < score(b, best_misfit);
    });
}

}  // namespace bevelsmith::hull
