#include "hull/fit.h"

#include <fmt/format.h>

#include <Eigen/Eigenvalues>
#include <algorithm>
#include <cmath>

#include "geometry/boundary.h"
#include "hull/fit_stages.h"

namespace bevelsmith::hull {
namespace {

/// The declared uncertainty is worth this many readings when the scatter is judged.
constexpr double prior_readings = 15;
/// Readings are never believed to be better than this, nor than a hundredth of what was declared.
constexpr double finest_sigma_m = 1e-5;
constexpr double finest_factor = 0.01;

double patch_size_m(const ChartData& d) {
    return std::hypot(d.s.maxCoeff() - d.s.minCoeff(), d.v.maxCoeff() - d.v.minCoeff());
}

/// Few readings cannot say more than the study's 7-8 knot intervals hold; many can, and then the knots must
/// not be what limits the fit.
int knot_budget(int readings) {
    if (readings < 60) return 49;
    if (readings < 200) return 64;
    return std::clamp(readings / (readings < 600 ? 3 : 2), 64, 900);
}

/// Readings on one or two stations leave the quadratics of the null space undetermined.
bool quadratics_determined(const ChartData& d, bool closed) {
    const double ls = std::max(d.s.maxCoeff() - d.s.minCoeff(), 1e-12),
                 lv = std::max(d.v.maxCoeff() - d.v.minCoeff(), 1e-12);
    const int m = closed ? 3 : 6;
    Eigen::MatrixXd gram = Eigen::MatrixXd::Zero(m, m);
    for (int i = 0; i < d.count(); ++i) {
        const double s = 2 * (d.s[i] - d.s.minCoeff()) / ls - 1, v = 2 * (d.v[i] - d.v.minCoeff()) / lv - 1;
        Eigen::VectorXd q(m);
        if (closed) q << 1, s, s * s;
        else q << 1, s, s * s, v, v * v, s * v;
        gram += q * q.transpose() / d.count();
    }
    const Eigen::VectorXd e = Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd>(gram).eigenvalues();
    return e[0] > 1e-4 * e[m - 1];
}

std::optional<Error> refuse_points(std::span<const survey::Point> points) {
    if (static_cast<int>(points.size()) < fewest_readings)
        return Error{fmt::format("{} readings are too few for a surface: take at least {}, on three stations or more",
                                 points.size(), fewest_readings)};
    Vec3 low = points.front().position, high = low;
    for (const auto& p : points) {
        if (!p.position.allFinite() || !(p.sigma_mm > 0) || p.position.cwiseAbs().maxCoeff() > 1e6)
            return Error{"a reading is not a place within a kilometre of the boat"};
        low = low.cwiseMin(p.position);
        high = high.cwiseMax(p.position);
    }
    if ((high - low).norm() < 1) return Error{"all readings lie at one place: spread them over the surface"};
    Eigen::Matrix3d scatter = Eigen::Matrix3d::Zero();
    for (const auto& p : points)
        scatter += (p.position - (low + high) / 2) * (p.position - (low + high) / 2).transpose();
    const Vec3 spread = Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d>(scatter).eigenvalues();
    if (spread[1] < 1e-6 * spread[2]) return Error{"all readings lie on one line: spread them over three stations"};
    return std::nullopt;
}

/// Everything that the rounds of a fit change.
struct Work {
    std::span<const survey::Point> points;
    Chart chart;
    ChartData data;
    Smoother smoother;
    Smoothing smoothing;
    Eigen::VectorXd own_weight;  ///< 1/sigma² with cosines, also for readings left out
    double sigma_factor = 1;     ///< on the declared sigmas

    std::optional<Solution> solve() const { return smoother.solve(smoothing); }

    /// However well the readings agree, one within 1.5 of its declared sigmas is what its taker said it is.
    Eigen::VectorXd least_slip_m() const { return 1.5 / (own_weight.array().sqrt() * std::min(sigma_factor, 1.0)); }
    void rescale_sigma(double factor) {
        sigma_factor *= factor;
        own_weight /= factor * factor;
        data.weight /= factor * factor;
        smoother.set_data(data);
    }
    void search(bool from_grid) {
        const auto found = from_grid ? smoother.search() : smoother.improve(smoothing);
        if (found) smoothing = *found;
    }
};

/// Two rounds: normals of a stiff fit, then of the fit itself.
bool weigh_by_cosines(Work& w) {
    const Smoothing usual = w.smoother.prior().mean;
    w.smoothing = {usual.log10_s + 1, usual.log10_v + 1};
    for (int round = 0; round < 2; ++round) {
        const auto solution = w.solve();
        if (!solution) return false;
        const Eigen::VectorXd cosines = cosine_weights(w.chart, w.smoother, solution->coefficients, w.data);
        for (int i = 0; i < w.data.count(); ++i) {
            const double sigma_m = w.sigma_factor * w.points[static_cast<std::size_t>(i)].sigma_mm / 1000;
            w.own_weight[i] = cosines[i] / (sigma_m * sigma_m);
            if (w.data.weight[i] > 0) w.data.weight[i] = w.own_weight[i];
        }
        w.smoother.set_data(w.data);
        w.search(round == 0);
    }
    return true;
}

double median_abs(const Eigen::VectorXd& t, const Eigen::VectorXd& weight) {
    std::vector<double> a;
    for (int i = 0; i < t.size(); ++i)
        if (weight[i] > 0) a.push_back(std::abs(t[i]));
    if (a.empty()) return 0;
    std::nth_element(a.begin(), a.begin() + static_cast<std::ptrdiff_t>(a.size() / 2), a.end());
    return a[a.size() / 2];
}

/// Where the readings plainly scatter less or more than declared (by the median, which slips do not move), the
/// sigma follows them; few readings cannot be trusted to say so.
void follow_scatter(Work& w) {
    for (int round = 0; round < 10; ++round) {
        const auto solution = w.solve();
        if (!solution) return;
        const auto r = residuals_of(w.smoother, *solution, w.data, w.own_weight);
        const double scatter = 1.4826 * median_abs(r.studentised, w.data.weight);
        const bool less = scatter < 0.6 && w.data.count() >= 60, more = scatter > 1.7 && w.data.count() >= 24;
        if (!less && !more) return;
        const double least =
            std::max(finest_sigma_m * std::sqrt(w.own_weight.maxCoeff()), finest_factor / w.sigma_factor);
        const double factor = std::max(std::clamp(scatter, 0.05, 20.0), least);
        if (factor > 0.95 && factor < 1.05) return;
        w.rescale_sigma(factor);
        w.search(false);
    }
}

/// phi = (n0 + Q) / (n0 + n - M): the covariance's factor under a scaled-inverse-chi-square prior.
double scatter_factor(const Work& w, const Solution& solution) {
    const double n = static_cast<double>((w.data.weight.array() > 0).count());
    return (prior_readings + solution.penalised_sum) / (prior_readings + n - w.smoother.null_dimension());
}

geometry::Ring surveyed_ring(const Work& w) {
    std::vector<Vec2> places;
    const double turn = 2 * w.chart.half_turn_m();
    const int step = std::max(1, w.data.count() / 4000);  // of a scan, some thousands show the outline
    for (int i = 0; i < w.data.count(); i += step) {
        if (w.data.weight[i] == 0) continue;
        places.emplace_back(w.data.s[i], w.data.v[i]);
        if (!w.chart.closed) continue;
        places.emplace_back(w.data.s[i], w.data.v[i] - turn);
        places.emplace_back(w.data.s[i], w.data.v[i] + turn);
    }
    return geometry::surrounding_outline(places);
}

double outward_sign(const Surface& surface, const Work& w, const FitOptions& options) {
    Vec3 low = w.points.front().position, high = low;
    for (const auto& p : w.points) {
        low = low.cwiseMin(p.position);
        high = high.cwiseMax(p.position);
    }
    const Vec3 inside = options.inside.value_or((low + high) / 2);
    double sum = 0;
    for (int i = 0; i < w.data.count(); ++i) {
        const SurfacePoint here = surface.at({w.data.s[i], w.data.v[i]});
        const Vec3 away = here.position - inside;
        if (away.norm() > 1e-9) sum += here.normal.dot(away.normalized());
    }
    return sum < 0 ? -1 : 1;
}

Surface assemble(const Work& w, Solution solution, const FitOptions& options) {
    auto data = std::make_shared<Surface::Data>();
    data->chart = w.chart;
    data->basis_s = w.smoother.basis_s();
    data->basis_v = w.smoother.basis_v();
    data->scale = scatter_factor(w, solution);
    data->coefficients = solution.coefficients;
    data->covariance = std::make_shared<const BlockBand>(solution.factor.band_of_inverse());
    data->surveyed = surveyed_ring(w);
    data->outward = outward_sign(Surface(data), w, options);
    return Surface(data);
}

FitReport make_report(const Work& w, const Solution& solution, const Surface& surface) {
    FitReport report;
    const double phi = scatter_factor(w, solution);
    const auto r = residuals_of(w.smoother, solution, w.data, w.own_weight);
    double squares = 0;
    int counted = 0;
    for (int i = 0; i < w.data.count(); ++i) {
        const Place place{w.data.s[i], w.data.v[i]};
        const SurfacePoint here = surface.at(place);
        const Vec3 reading = w.points[static_cast<std::size_t>(i)].position;
        const bool counts = w.data.weight[i] > 0;
        ReadingFit fit;
        fit.residual_mm =
            std::copysign(r.height[i] * 1000 * here.ray_cosine, here.normal.dot(reading - here.position));
        fit.studentised = r.studentised[i] / std::sqrt(phi);
        fit.detectable_mm =
            4.8 * 1000 * here.ray_cosine * std::sqrt(phi * (1 / w.own_weight[i] + r.prediction_variance[i]));
        fit.suspect = !counts;
        report.readings.push_back(fit);
        if (!counts) continue;
        squares += fit.residual_mm * fit.residual_mm;
        report.max_mm = std::max(report.max_mm, std::abs(fit.residual_mm));
        ++counted;
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

void add_warnings(FitReport& report, const Work& w, double steepest_deg) {
    if (report.scatter > 2)
        report.warnings.push_back(
            fmt::format("Your readings scatter {:.1f} times as much as you said.", report.scatter));
    if (report.scatter < 0.5)
        report.warnings.push_back(
            fmt::format("Your readings scatter only {:.2f} times as much as you said.", report.scatter));
    if (stations_along(w.data) == 3)
        report.warnings.push_back(
            "Three stations cannot tell how fair the surface is along its length: take a fourth.");
    if (steepest_deg > 60)
        report.warnings.push_back(
            fmt::format("Parts of the surface are seen {:.0f} degrees edge-on {}; another chart or a "
                        "surface of its own would hold them better.",
                        steepest_deg, w.chart.words()));
}

/// A chart in which the surface covers itself cannot be fitted: the residuals are then of the surface's own size.
std::optional<Error> refuse_fold(const FitReport& report, const Work& w) {
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

ChartData chart_data(const Chart& chart, std::span<const survey::Point> points) {
    const auto n = static_cast<Eigen::Index>(points.size());
    ChartData data{Eigen::VectorXd(n), Eigen::VectorXd(n), Eigen::VectorXd(n), Eigen::VectorXd(n)};
    for (Eigen::Index i = 0; i < n; ++i) {
        const auto& p = points[static_cast<std::size_t>(i)];
        const ChartPoint c = chart.to_chart(p.position);
        const double sigma_m = p.sigma_mm / 1000;
        data.s[i] = c.s;
        data.v[i] = c.v;
        data.height[i] = c.height;
        data.weight[i] = 1 / (sigma_m * sigma_m);
    }
    return data;
}

Smoother make_smoother(const Chart& chart, const ChartData& data, const FitOptions& options) {
    const double s0 = data.s.minCoeff(), s1 = data.s.maxCoeff(), v0 = data.v.minCoeff(), v1 = data.v.maxCoeff();
    const double ls = std::max(s1 - s0, 1e-3);
    const double lv = chart.closed ? 2 * chart.half_turn_m() : std::max(v1 - v0, 1e-3);
    const double cell = std::sqrt(ls * lv / knot_budget(data.count()));
    const auto intervals = [&](int wanted, double length, double widest) {
        if (wanted > 0) return wanted;
        const int most = data.count() < 200 ? 10 : 45;
        // A long narrow patch still bends across its narrow way.
        const int fewest = data.count() < 200 ? 6 : 9;
        return std::clamp(static_cast<int>(std::ceil(std::max(length / cell, length / widest))), fewest,
                          std::max(most, fewest));
    };
    const double any = 1e9;
    const int ms = intervals(options.intervals_s, ls, any);
    // A closed tube wants knots at most about a quarter metre apart, but never more than its readings support.
    const int mv = chart.closed ? std::max(8, intervals(options.intervals_v, lv, 0.25))
                                : intervals(options.intervals_v, lv, any);
    const UniformCubic basis_s(s0 - 0.05 * ls, s1 + 0.05 * ls, ms);
    const UniformCubic basis_v = chart.closed ? UniformCubic(-chart.half_turn_m(), chart.half_turn_m(), mv, true)
                                              : UniformCubic(v0 - 0.05 * lv, v1 + 0.05 * lv, mv);
    SmoothingPrior prior;
    const double size = 2 * std::log10(std::max(patch_size_m(data), 1e-3) / 3.0);
    if (size < 0) prior.mean = {prior.mean.log10_s + size, prior.mean.log10_v + size};
    return Smoother(basis_s, basis_v, prior);
}

Eigen::VectorXd cosine_weights(const Chart& chart, const Smoother& smoother, const Eigen::VectorXd& coefficients,
                               const ChartData& data) {
    auto fitted = std::make_shared<Surface::Data>();
    fitted->chart = chart;
    fitted->basis_s = smoother.basis_s();
    fitted->basis_v = smoother.basis_v();
    fitted->coefficients = coefficients;
    const Surface surface(fitted);
    Eigen::VectorXd out(data.count());
    for (int i = 0; i < data.count(); ++i) {
        const double c = surface.at({data.s[i], data.v[i]}).ray_cosine;
        out[i] = std::max(0.1, c * c);
    }
    return out;
}

Result<FittedSurface> fit_surface(std::span<const survey::Point> points, const FitOptions& options) {
    if (const auto refusal = refuse_points(points)) return *refusal;
    const auto trial = choose_chart(points, options);
    if (!trial) return trial.error();
    ChartData data = chart_data(trial->chart, points);
    if (!quadratics_determined(data, trial->chart.closed))
        return Error{
            "the readings lie on one or two lines only, so the shape between them is anyone's guess: "
            "add a third station"};
    Smoother smoother = make_smoother(trial->chart, data, options);
    smoother.set_data(data);
    Work w{points, trial->chart, data, std::move(smoother), {}, data.weight, 1};
    if (!weigh_by_cosines(w)) return Error{"the readings do not determine a surface: spread them more evenly"};
    follow_scatter(w);
    if (options.find_slips &&
        !remove_slips(w.smoother, w.smoothing, w.data, w.own_weight, w.least_slip_m()).empty()) {
        if (!weigh_by_cosines(w)) return Error{"without its wrong readings the surface is not determined"};
        follow_scatter(w);
    }
    auto solution = w.solve();
    if (!solution) return Error{"the readings do not determine a surface: spread them more evenly"};
    const Solution kept = *solution;
    Surface surface = assemble(w, std::move(*solution), options);
    FitReport report = make_report(w, kept, surface);
    if (const auto refusal = refuse_fold(report, w)) return *refusal;
    add_warnings(report, w, trial->steepest_deg);
    return FittedSurface{std::move(surface), std::move(report)};
}

}  // namespace bevelsmith::hull
