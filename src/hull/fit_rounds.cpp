#include "hull/fit_rounds.h"

#include <Eigen/Geometry>

#include <algorithm>
#include <cmath>
#include <limits>
#include <numeric>
#include <utility>

#include "hull/parallel.h"
#include "hull/strays.h"

namespace bevelsmith::hull {
namespace {

/// Readings are never believed to be better than this, nor than a five-hundredth of what was declared.
constexpr double finest_sigma_m = 2e-6;
constexpr double finest_factor = 0.002;
/// Of a scan so many are settled first: enough for the finest knots.
constexpr std::size_t settled_share = 2000;

/// Of the readings that count, along the normal.
double rms_mm(const FitRounds& w, const Solution& solution) {
    const Surface surface = plain_surface(w.chart, w.smoother, solution.coefficients);
    double squares = 0;
    int counted = 0;
    for (int i = 0; i < w.data.count(); ++i) {
        if (w.data.weight[i] == 0) continue;
        squares += std::pow(w.off_mm(surface, i), 2);
        ++counted;
    }
    return std::sqrt(squares / std::max(counted, 1));
}

/// Two rounds: normals of a stiff fit, then of the fit itself.
bool weigh_by_cosines(FitRounds& w) {
    const Smoothing usual = w.smoother.prior().mean;
    w.smoothing = {usual.log10_s + 1, usual.log10_v + 1};
    for (int round = 0; round < 2; ++round) {
        const auto solution = w.solve();
        if (!solution) return false;
        w.feel_bevels(plain_surface(w.chart, w.smoother, solution->coefficients));
        w.take_cosines(cosine_weights(w.chart, w.smoother, solution->coefficients, w.data));
        if (const auto found = round == 0 ? w.smoother.search() : w.smoother.improve(w.smoothing))
            w.smoothing = *found;
    }
    return true;
}

/// Where the readings plainly scatter less or more than declared (by the median, which slips do not move), the
/// sigma follows them; few readings cannot be trusted to say so.
void follow_scatter(FitRounds& w) {
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
        if (const auto found = w.smoother.improve(w.smoothing)) w.smoothing = *found;
    }
}

/// What the median reading, had it been left out, would lie off the fit, in declared sigmas. Beside a ridge the
/// median says nothing of how well it is followed: there it is the worst twentieth that counts.
double left_out_scatter(const FitRounds& w) {
    const auto solution = w.solve();
    if (!solution) return std::numeric_limits<double>::infinity();
    const auto r = residuals_of(w.smoother, *solution, w.data, w.own_weight);
    const Eigen::VectorXd off = r.left_out.cwiseProduct(w.own_weight.cwiseSqrt());
    return w.sigma_factor * quantile_abs(off, w.data.weight, w.ridged ? 0.95 : 0.5);
}

/// Finer knots for as long as readings left out are then met more closely.
void refine_knots(FitRounds& w) {
    constexpr double worth = 0.98;
    constexpr int searched_first = 1000;
    double scatter = left_out_scatter(w);
    for (bool better = true; better;) {
        better = false;
        const FitRounds before = w;
        for (const Knots& finer : finer_knots(before.knots, w.data.count())) {
            FitRounds next = before;
            next.knots = finer;
            next.smoother = make_smoother(w.chart, w.data, finer);
            next.smoother.set_data(next.data);
            // Under the same penalty, finer knots show nothing that the coarser could not hold: look no further.
            if (next.data.count() >= searched_first && !(left_out_scatter(next) < worth * scatter)) continue;
            if (const auto found = next.smoother.improve(before.smoothing)) next.smoothing = *found;
            follow_scatter(next);
            const double now = left_out_scatter(next);
            if (!(now < worth * scatter)) continue;
            w = std::move(next);
            scatter = now;
            better = true;
        }
    }
}

/// n·m as a function of height and slopes at a place, to first order about a surface near the final one.
ChartData::Slope slope_of(const Surface& near, const Place& place, const survey::FeltBevel& felt, double outward) {
    const SlopeJet jet = near.slopes(place);
    const auto sine = [&](double h, double h_s, double h_v) {
        const ChartJet c = near.chart().jet(place.s, place.v, h, h_s, h_v);
        return outward * felt.plane_normal.dot(c.along_s.cross(c.along_v).normalized());
    };
    constexpr double step = 1e-5;
    const auto slope = [&](double dh, double ds, double dv) {
        return (sine(jet.height + dh, jet.along_s + ds, jet.along_v + dv) -
                sine(jet.height - dh, jet.along_s - ds, jet.along_v - dv)) /
               (2 * step);
    };
    ChartData::Slope out;
    out.s = place.s;
    out.v = place.v;
    out.of_height = slope(step, 0, 0);
    out.along_s = slope(0, step, 0);
    out.along_v = slope(0, 0, step);
    out.value = -std::sin(felt.bevel_rad) - sine(jet.height, jet.along_s, jet.along_v) + out.of_height * jet.height +
                out.along_s * jet.along_s + out.along_v * jet.along_v;
    const double sigma = felt.sigma_rad * std::max(0.1, std::cos(felt.bevel_rad));
    out.weight = 1 / (sigma * sigma);
    return out;
}

/// The smoothing scaled, both ways alike, until the residuals are as large as was allowed.
void allow_residual(FitRounds& w, double allowed_mm) {
    const Smoothing found = w.smoothing;
    double low = -6, high = 8;
    for (int round = 0; round < 24; ++round) {
        const double shift = (low + high) / 2;
        w.smoothing = {found.log10_s + shift, found.log10_v + shift};
        const auto solution = w.solve();
        (solution && rms_mm(w, *solution) < allowed_mm ? low : high) = shift;
    }
}

bool settle_weights(FitRounds& w, bool fixed_knots, bool strays) {
    if (!weigh_by_cosines(w)) return false;
    if (strays) shed_strays(w);
    follow_scatter(w);
    if (!fixed_knots) refine_knots(w);
    return true;
}

}  // namespace

double quantile_abs(const Eigen::VectorXd& t, const Eigen::VectorXd& weight, double share) {
    std::vector<double> a;
    for (int i = 0; i < t.size(); ++i)
        if (weight[i] > 0) a.push_back(std::abs(t[i]));
    if (a.empty()) return 0;
    const auto k = std::min(a.size() - 1, static_cast<std::size_t>(share * static_cast<double>(a.size())));
    std::nth_element(a.begin(), a.begin() + static_cast<std::ptrdiff_t>(k), a.end());
    return a[k];
}

double outward_sign(const Surface& surface, const FitRounds& w) {
    return judge_inside(surface, w.points, w.rule).outward;
}

double FitRounds::off_mm(const Surface& near, int reading) const {
    const SurfacePoint here = near.at({data.s[reading], data.v[reading]});
    return here.normal.dot(points[static_cast<std::size_t>(reading)].position - here.position);
}

void FitRounds::rescale_sigma(double factor) {
    sigma_factor *= factor;
    own_weight /= factor * factor;
    data.weight /= factor * factor;
    smoother.set_data(data);
}

void FitRounds::take_cosines(const Eigen::VectorXd& cosines) {
    in_parallel(data.count(), data.count() > many_at_a_time, [&](std::ptrdiff_t i) {
        const double sigma_m = sigma_factor * points[static_cast<std::size_t>(i)].sigma_mm / 1000;
        own_weight[i] = cosines[i] / (sigma_m * sigma_m);
        if (data.weight[i] > 0) data.weight[i] = own_weight[i];
    });
    smoother.set_data(data);
}

void FitRounds::feel_bevels(const Surface& near) {
    data.slopes.clear();
    if (bevels.empty()) return;
    const double outward = outward_sign(near, *this);
    for (const survey::FeltBevel& felt : bevels) {
        const ChartPoint c = chart.to_chart(felt.position);
        const Place place{c.s, c.v};
        if (!near.in_domain(place)) continue;
        data.slopes.push_back(slope_of(near, place, felt, outward));
    }
}

FitRounds begin_rounds(std::span<const survey::Point> points, const Chart& chart, const FitOptions& options,
                       const KeepGoing& keep_going) {
    ChartData data = chart_data(chart, points);
    const Knots knots = first_knots(chart, data, options);
    Smoother smoother = make_smoother(chart, data, knots);
    smoother.set_data(data);
    Eigen::VectorXd weight = data.weight;
    return {points,
            options.bevels,
            options.rule(),
            chart,
            std::move(data),
            knots,
            std::move(smoother),
            {},
            std::move(weight),
            1,
            false,
            keep_going};
}

bool settle(FitRounds& w, const FitOptions& options) {
    const bool fixed_knots = options.intervals_s > 0 || options.intervals_v > 0;
    if (!settle_weights(w, fixed_knots, options.find_slips)) return false;
    if (options.find_slips &&
        !remove_slips(w.smoother, w.smoothing, w.data, w.own_weight, w.least_slip_m()).empty()) {
        take_in_ridge(w);
        if (!settle_weights(w, fixed_knots, false)) return false;
    }
    if (options.find_slips) take_in_met(w);
    if (options.allowed_residual_mm) allow_residual(w, *options.allowed_residual_mm);
    return true;
}

std::optional<FitRounds> settle_many(std::span<const survey::Point> all, const Chart& chart,
                                     const FitOptions& options, const KeepGoing& keep_going) {
    // The golden section of the number, and without a common factor: no row of a scanner is favoured, none read
    // twice.
    const auto n = all.size();
    auto stride = static_cast<std::size_t>(static_cast<double>(n) * 0.6180339887498949);
    while (std::gcd(stride, n) != 1) ++stride;
    std::vector<survey::Point> share;
    for (std::size_t k = 0; k < settled_share; ++k) share.push_back(all[k * stride % n]);
    FitRounds first = begin_rounds(share, chart, options, keep_going);
    if (!settle(first, options)) return std::nullopt;
    const auto solution = first.solve();
    if (!solution) return std::nullopt;

    ChartData data = chart_data(chart, all);
    Smoother smoother = make_smoother(chart, data, first.knots);
    FitRounds w{all,          options.bevels,      options.rule(),  chart, std::move(data),
                first.knots,  std::move(smoother), first.smoothing, {},    first.sigma_factor,
                first.ridged, keep_going};
    w.own_weight = w.data.weight;
    const Surface surface = plain_surface(chart, first.smoother, solution->coefficients);
    const double threshold =
        options.find_slips ? alarm_threshold(w.data.count()) : std::numeric_limits<double>::infinity();
    Eigen::VectorXd cosines(w.data.count());
    in_parallel(w.data.count(), true, [&](std::ptrdiff_t i) {
        const SurfacePoint here = surface.at({w.data.s[i], w.data.v[i]});
        cosines[i] = cosine_weight(here);
        const double off_mm = here.normal.dot(all[static_cast<std::size_t>(i)].position - here.position);
        if (std::abs(off_mm) > threshold * std::max(1.0, w.sigma_factor) * all[static_cast<std::size_t>(i)].sigma_mm)
            w.data.weight[i] = 0;
    });
    w.feel_bevels(surface);
    w.take_cosines(cosines);
    if (const auto found = w.smoother.improve(w.smoothing)) w.smoothing = *found;
    if (options.find_slips) take_in_met(w);
    if (options.allowed_residual_mm) allow_residual(w, *options.allowed_residual_mm);
    return w;
}

}  // namespace bevelsmith::hull
