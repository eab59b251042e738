#include "hull/fit.h"

#include <fmt/format.h>

#include <algorithm>
#include <boost/math/distributions/students_t.hpp>
#include <cmath>
#include <limits>

#include "geometry/boundary.h"
#include "geometry/eigenpairs.h"
#include "hull/far_off.h"
#include "hull/fit_rounds.h"
#include "hull/parallel.h"
#include "hull/shared_errors.h"
#include "hull/strays.h"
#include "units/quantity.h"

namespace bevelsmith::hull {
namespace {

/// The declared uncertainty is worth this many readings when the scatter is judged.
constexpr double prior_readings = 15;

double patch_size_m(const ChartData& d) {
    return std::hypot(d.s.maxCoeff() - d.s.minCoeff(), d.v.maxCoeff() - d.v.minCoeff());
}

/// Readings on one or two stations leave the quadratics of the null space undetermined.
bool quadratics_determined(const ChartData& d, bool closed) {
    const double s0 = d.s.minCoeff(), v0 = d.v.minCoeff();
    const double ls = std::max(d.s.maxCoeff() - s0, 1e-12), lv = std::max(d.v.maxCoeff() - v0, 1e-12);
    const int m = closed ? 3 : 6;
    Eigen::MatrixXd gram = Eigen::MatrixXd::Zero(m, m);
    Eigen::VectorXd q(m);
    const int step = std::max(1, d.count() / some_thousands);
    for (int i = 0; i < d.count(); i += step) {
        const double s = 2 * (d.s[i] - s0) / ls - 1, v = 2 * (d.v[i] - v0) / lv - 1;
        if (closed) q << 1, s, s * s;
        else q << 1, s, s * s, v, v * v, s * v;
        gram += q * q.transpose();
    }
    const Eigen::VectorXd e = geometry::eigenpairs_of(gram).values;
    return e[0] > 1e-4 * e[m - 1];
}

/// Whether all readings lie in two thin slices of space, square to an axis of the boat or of the readings: a chart
/// that bends the slices would hide it.
bool on_two_stations(std::span<const survey::Point> points, const Eigen::Matrix3d& scatter) {
    const Eigen::Matrix3d own = geometry::eigenpairs_of(scatter).vectors;
    for (const Eigen::Matrix3d& axes : {Eigen::Matrix3d(Eigen::Matrix3d::Identity()), own})
        for (int k = 0; k < 3; ++k) {
            double low = std::numeric_limits<double>::infinity(), high = -low;
            for (const auto& p : points) {
                low = std::min(low, axes.col(k).dot(p.position));
                high = std::max(high, axes.col(k).dot(p.position));
            }
            const double thin = 0.02 * (high - low);
            if (high - low > 1 && std::all_of(points.begin(), points.end(), [&](const survey::Point& p) {
                    const double at = axes.col(k).dot(p.position);
                    return at < low + thin || at > high - thin;
                }))
                return true;
        }
    return false;
}

std::optional<Error> refuse_points(std::span<const survey::Point> points) {
    for (const auto& p : points)
        if (!p.position.allFinite() || !(p.sigma_mm > 0) || p.position.cwiseAbs().maxCoeff() > 1e6)
            return Error{"a reading is not a place within a kilometre of the boat"};
    return too_few_yet(points);
}

/// Each side of a hard line needs readings of its own.
std::optional<Error> refuse_bare_side(const ChartData& data, const Chart& chart) {
    for (std::size_t k = 0; !chart.hard_lines.empty() && k <= chart.hard_lines.size(); ++k) {
        const double low = k == 0 ? -1e9 : chart.hard_lines[k - 1].mean;
        const double high = k == chart.hard_lines.size() ? 1e9 : chart.hard_lines[k].mean;
        int count = 0;
        double from = 1e9, to = -1e9;
        for (int i = 0; i < data.count(); ++i) {
            if (data.v[i] < low + 0.015 || data.v[i] > high - 0.015) continue;
            ++count;
            from = std::min(from, data.s[i]);
            to = std::max(to, data.s[i]);
        }
        if (count < 6 || to - from < 0.4 * (data.s.maxCoeff() - data.s.minCoeff()))
            return Error{
                fmt::format("one side of the hard line has only {} readings, or they do not reach along it: "
                            "take at least 6 on each side, spread along its length",
                            count)};
    }
    return std::nullopt;
}

double weighed_readings(const FitRounds& w) {
    return static_cast<double>((w.data.weight.array() > 0).count());
}

/// phi = (n0 + Q) / (n0 + n - M): the covariance's factor under a scaled-inverse-chi-square prior.
double scatter_factor(const FitRounds& w, const Solution& solution) {
    return (prior_readings + solution.penalised_sum) /
           (prior_readings + weighed_readings(w) - w.smoother.null_dimension());
}

/// The scatter is itself known from so many readings only: with it integrated out errors follow Student's t, whose
/// 95 % reach farther than 1.96 standard deviations. The factor that makes them 1.96 again.
double students_factor(const FitRounds& w) {
    const double freedom = prior_readings + weighed_readings(w) - w.smoother.null_dimension();
    const boost::math::students_t t(std::max(1.0, freedom));
    constexpr double upper = 0.975;
    return boost::math::quantile(t, upper) / 1.96;
}

/// Of very many places those that lie outermost in each of 24 x 24 cells: an outline through them is the same.
std::vector<Vec2> outermost_of_cells(std::vector<Vec2> places) {
    constexpr int cells = 24;
    if (places.size() < 4 * cells * cells) return places;
    const geometry::Box box = geometry::bounding_box(places);
    std::array<std::vector<int>, 4> outermost;
    outermost.fill(std::vector<int>(cells * cells, -1));
    for (std::size_t i = 0; i < places.size(); ++i) {
        const Vec2 at = (cells * (places[i] - box.min)).cwiseQuotient(box.size());
        const int cell =
            std::min(cells - 1, static_cast<int>(at.x())) * cells + std::min(cells - 1, static_cast<int>(at.y()));
        const auto keep = [&](std::size_t way, double now, const auto& of) {
            int& kept = outermost[way][static_cast<std::size_t>(cell)];
            if (kept < 0 || now > of(places[static_cast<std::size_t>(kept)])) kept = static_cast<int>(i);
        };
        keep(0, places[i].x(), [](const Vec2& p) { return p.x(); });
        keep(1, -places[i].x(), [](const Vec2& p) { return -p.x(); });
        keep(2, places[i].y(), [](const Vec2& p) { return p.y(); });
        keep(3, -places[i].y(), [](const Vec2& p) { return -p.y(); });
    }
    std::vector<Vec2> out;
    for (const auto& way : outermost)
        for (int i : way)
            if (i >= 0) out.push_back(places[static_cast<std::size_t>(i)]);
    return out;
}

geometry::Ring surveyed_ring(const FitRounds& w) {
    std::vector<Vec2> places;
    for (int i = 0; i < w.data.count(); ++i)
        if (w.data.weight[i] > 0) places.emplace_back(w.data.s[i], w.data.v[i]);
    places = outermost_of_cells(std::move(places));
    if (w.chart.closed) {
        const double turn = 2 * w.chart.half_turn_m();
        const std::size_t once = places.size();
        for (std::size_t i = 0; i < once; ++i)
            for (double way : {-turn, turn}) places.emplace_back(places[i].x(), places[i].y() + way);
    }
    return geometry::surrounding_outline(places);
}

/// Lumps of the surface that the spline irons out: what readings left out scatter beyond the surface's uncertainty
/// and their own. Shrunk towards none as the scatter's factor is; a hand that is worse than declared looks the same.
double lumps_mm(const FitRounds& w, const Residuals& r) {
    double sum = 0, counted = 0;
    for (int i = 0; i < w.data.count(); ++i) {
        if (w.data.weight[i] == 0) continue;
        const auto& point = w.points[static_cast<std::size_t>(i)];
        const double own = 1e-6 * point.sigma_mm * point.sigma_mm;  // m², along the normal, as declared
        const double cosine2 = w.own_weight[i] * own * w.sigma_factor * w.sigma_factor;
        sum += cosine2 * (r.left_out[i] * r.left_out[i] - r.prediction_variance[i]) - own;
        counted += 1;
    }
    return 1000 * std::sqrt(std::max(0.0, sum / (counted + prior_readings)));
}

void add_columns(Eigen::MatrixXd& to, const Eigen::MatrixXd& more) {
    if (more.cols() == 0) return;
    const Eigen::Index before = to.cols();
    to.conservativeResize(more.rows(), before + more.cols());
    to.rightCols(more.cols()) = more;
}

Surface assemble(const FitRounds& w, Solution solution, const Residuals& residuals, const FitOptions& options,
                 Inside& inside) {
    auto data = std::make_shared<Surface::Data>();
    data->chart = w.chart;
    data->basis_s = w.smoother.basis_s();
    data->basis_v = w.smoother.basis_v();
    data->scale = scatter_factor(w, solution) * std::pow(students_factor(w), 2);
    // A smoothing that was chosen is known; so is one that very many readings tell.
    const bool smoothing_known = options.allowed_residual_mm || w.data.count() > many_at_a_time;
    if (!smoothing_known) data->doubt = w.smoother.smoothing_doubt(w.smoothing);
    data->coefficients = solution.coefficients;
    add_columns(data->doubt, shared_doubt(w, solution, Surface(data), options.shared_errors));
    data->covariance =
        std::make_shared<const CellBlocks>(data->basis_s, data->basis_v, solution.factor.band_of_inverse());
    data->factor = std::make_shared<const BlockCholesky>(std::move(solution.factor));
    data->lumps_mm = lumps_mm(w, residuals);
    data->surveyed = surveyed_ring(w);
    inside = judge_inside(Surface(data), w.points, w.rule);
    data->outward = inside.outward;
    return Surface(data);
}

FitReport make_report(const FitRounds& w, const Solution& solution, const Residuals& r, const Surface& surface) {
    FitReport report;
    const double phi = scatter_factor(w, solution);
    double squares = 0;
    int counted = 0;
    report.readings.resize(w.points.size());
    in_parallel(w.data.count(), w.data.count() > many_at_a_time, [&](std::ptrdiff_t i) {
        const Place place{w.data.s[i], w.data.v[i]};
        const SurfacePoint here = surface.at(place);
        const Vec3 reading = w.points[static_cast<std::size_t>(i)].position;
        ReadingFit& fit = report.readings[static_cast<std::size_t>(i)];
        fit.residual_mm =
            std::copysign(r.height[i] * 1000 * here.ray_cosine, here.normal.dot(reading - here.position));
        fit.studentised = r.studentised[i] / std::sqrt(phi);
        fit.detectable_mm =
            4.8 * 1000 * here.ray_cosine * std::sqrt(phi * (1 / w.own_weight[i] + r.prediction_variance[i]));
        fit.suspect = !(w.data.weight[i] > 0);
    });
    for (const ReadingFit& fit : report.readings) {
        if (fit.suspect) continue;
        squares += fit.residual_mm * fit.residual_mm;
        report.max_mm = std::max(report.max_mm, std::abs(fit.residual_mm));
        ++counted;
    }
    for (const survey::FeltBevel& felt : w.bevels) {
        const ChartPoint c = surface.locate(felt.position);
        const double bevel = -std::asin(std::clamp(felt.plane_normal.dot(surface.at({c.s, c.v}).normal), -1.0, 1.0));
        report.bevel_off_deg.push_back(units::degrees(felt.bevel_rad - bevel));
    }
    report.rms_mm = std::sqrt(squares / std::max(counted, 1));
    report.scatter = w.sigma_factor * std::sqrt(phi);
    report.log10_smoothing_s = w.smoothing.log10_s;
    report.log10_smoothing_v = w.smoothing.log10_v;
    report.coefficients = w.smoother.coefficient_count();
    return report;
}

int stations_along(const ChartData& d) {
    std::vector<double> s(d.s.data(), d.s.data() + d.s.size());
    std::sort(s.begin(), s.end());
    const double apart = 0.02 * std::max(patch_size_m(d), 1e-9);
    int stations = 1;
    for (std::size_t i = 1; i < s.size(); ++i) stations += s[i] - s[i - 1] > apart;
    return stations;
}

void add_warnings(FitReport& report, const FitRounds& w, double steepest_deg) {
    if (report.scatter > 2)
        report.warnings.push_back(
            fmt::format("Your readings scatter {:.1f} times as much as you said.", report.scatter));
    if (report.scatter < 0.5)
        report.warnings.push_back(
            fmt::format("Your readings scatter only {:.2f} times as much as you said.", report.scatter));
    if (stations_along(w.data) == 3)
        report.warnings.push_back(
            "Three stations cannot tell how fair the surface is along its length: take a fourth.");
    if (w.data.count() >= fewest_of_a_scan && report.suspects() > 0.15 * w.data.count())
        report.warnings.push_back(
            fmt::format("{} of {} readings were left out, more than hoses and frames make of a scan: look where they "
                        "lie. A chine or a knuckle must be entered; what stands before the hull is best cropped.",
                        report.suspects(), w.data.count()));
    if (w.ridged)
        report.warnings.push_back(
            "Readings along a line lie beyond any smooth surface: if there is a chine or a knuckle, enter it.");
    if (steepest_deg > 60)
        report.warnings.push_back(
            fmt::format("Parts of the surface are seen {:.0f} degrees edge-on {}; another chart or a "
                        "surface of its own would hold them better.",
                        steepest_deg, w.chart.words()));
}

/// A chart in which the surface covers itself cannot be fitted: the residuals are then of the surface's own size.
std::optional<Error> refuse_fold(const FitReport& report, const FitRounds& w) {
    const double size_mm = 1000 * patch_size_m(w.data);
    double declared = 0;
    for (const auto& p : w.points) declared += p.sigma_mm / static_cast<double>(w.points.size());
    const bool many_out = report.suspects() * 10 > w.data.count() && report.suspects() > 3;
    if (report.rms_mm < std::max(10 * declared, 0.01 * size_mm) && !(many_out && report.rms_mm > 0.01 * size_mm))
        return std::nullopt;
    return Error{
        fmt::format("the surface folds over when it is laid out {}: the readings miss any such surface by {:.0f} mm. "
                    "Choose another chart, or split the readings into surfaces of their own",
                    w.chart.words(), report.rms_mm)};
}

}  // namespace

int FitReport::suspects() const {
    return static_cast<int>(
        std::count_if(readings.begin(), readings.end(), [](const ReadingFit& r) { return r.suspect; }));
}

std::optional<Error> too_few_yet(std::span<const survey::Point> points) {
    if (static_cast<int>(points.size()) < fewest_readings)
        return Error{fmt::format("{} readings are too few for a surface: take at least {}, on three stations or more",
                                 points.size(), fewest_readings)};
    Vec3 low = points.front().position, high = low;
    for (const auto& p : points) {
        low = low.cwiseMin(p.position);
        high = high.cwiseMax(p.position);
    }
    if ((high - low).norm() < 1) return Error{"all readings lie at one place: spread them over the surface"};
    Eigen::Matrix3d scatter = Eigen::Matrix3d::Zero();
    for (const auto& p : points)
        scatter += (p.position - (low + high) / 2) * (p.position - (low + high) / 2).transpose();
    const Vec3 spread = geometry::eigenpairs_of(scatter).values;
    if (spread[1] < 1e-6 * spread[2]) return Error{"all readings lie on one line: spread them over three stations"};
    if (on_two_stations(points, scatter))
        return Error{
            "the readings lie on one or two stations only, so the shape between them is anyone's guess: "
            "add a third station"};
    return std::nullopt;
}

ChartData chart_data(const Chart& chart, std::span<const survey::Point> points) {
    const auto n = static_cast<Eigen::Index>(points.size());
    ChartData data{Eigen::VectorXd(n), Eigen::VectorXd(n), Eigen::VectorXd(n), Eigen::VectorXd(n)};
    in_parallel(n, n > many_at_a_time, [&](std::ptrdiff_t i) {
        const auto& p = points[static_cast<std::size_t>(i)];
        const ChartPoint c = chart.to_chart(p.position);
        const double sigma_m = p.sigma_mm / 1000;
        data.s[i] = c.s;
        data.v[i] = c.v;
        data.height[i] = c.height;
        data.weight[i] = 1 / (sigma_m * sigma_m);
    });
    return data;
}

namespace {

/// What is said of readings that were left out from the start, put among the others'.
void put_among(std::vector<ReadingFit>& fits, std::span<const survey::Point> points, const std::vector<int>& far,
               const Surface& surface) {
    for (int i : far) {
        const auto& p = points[static_cast<std::size_t>(i)];
        ReadingFit fit;
        const double off = surface.distance_mm(p.position);
        fit.residual_mm = std::isfinite(off) ? off : 0;
        fit.studentised = fit.residual_mm / p.sigma_mm;
        fit.detectable_mm = 4.8 * p.sigma_mm;
        fit.suspect = true;
        fits.insert(fits.begin() + i, fit);
    }
}

/// Fits the others, and says of these how far they are off.
Result<FittedSurface> fit_without(std::span<const survey::Point> points, const std::vector<int>& far,
                                  const FitOptions& options, const KeepGoing& keep_going) {
    std::vector<survey::Point> others(points.begin(), points.end());
    for (auto i = far.rbegin(); i != far.rend(); ++i) others.erase(others.begin() + *i);
    auto out = fit_surface(others, options, keep_going);
    if (out) put_among(out.value().report.readings, points, far, out->surface);
    return out;
}

}  // namespace

Result<FittedSurface> fit_surface(std::span<const survey::Point> points, const FitOptions& options,
                                  const KeepGoing& keep_going) {
    if (const auto refusal = refuse_points(points)) return *refusal;
    ask(keep_going);
    if (options.find_slips)
        if (const auto far = far_off(points); !far.empty()) return fit_without(points, far, options, keep_going);
    auto trial = choose_chart(points, options);
    ask(keep_going);
    if (!trial) return trial.error();
    auto chart = trial->chart.with_hard_lines(options.hard_lines);
    if (!chart) return chart.error();
    trial.value().chart = std::move(chart.value());
    return fit_in_chart(points, *trial, options, keep_going);
}

Result<FittedSurface> fit_in_chart(std::span<const survey::Point> points, const ChartTrial& trial,
                                   const FitOptions& options, const KeepGoing& keep_going) {
    const ChartData laid_out = chart_data(trial.chart, points);
    if (const auto refusal = refuse_bare_side(laid_out, trial.chart)) return *refusal;
    if (!quadratics_determined(laid_out, trial.chart.closed))
        return Error{
            "the readings lie on one or two lines only, so the shape between them is anyone's guess: "
            "add a third station"};
    const char* undetermined = "the readings do not determine a surface: spread them more evenly";
    std::optional<FitRounds> settled;
    if (static_cast<int>(points.size()) > most_fitted_at_once) {
        settled = settle_many(points, trial.chart, options, keep_going);
    } else {
        settled = begin_rounds(points, trial.chart, options, keep_going);
        if (!settle(*settled, options)) settled.reset();
    }
    if (!settled) return Error{undetermined};
    const FitRounds& w = *settled;
    auto solution = w.solve();
    if (!solution) return Error{undetermined};
    const Solution kept = *solution;
    const Residuals residuals = residuals_of(w.smoother, kept, w.data, w.own_weight);
    Inside inside;
    Surface surface = assemble(w, std::move(*solution), residuals, options, inside);
    FitReport report = make_report(w, kept, residuals, surface);
    report.inside = inside;
    if (const auto refusal = refuse_fold(report, w)) return *refusal;
    add_warnings(report, w, trial.steepest_deg);
    return FittedSurface{std::move(surface), std::move(report)};
}

}  // namespace bevelsmith::hull
