#include "hull/smoother.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <nlopt.hpp>
#include <numeric>

#include "geometry/eigenpairs.h"
#include "hull/parallel.h"

namespace bevelsmith::hull {
namespace {

constexpr double ln10 = 2.302585092994046;
constexpr double determinant_step = 0.5;
/// So many standard deviations below what is believed before the smoothing is never sought: along s, where stations
/// stand apart, and along v, where a bilge may be sharp.
constexpr double most_below_s = 3, most_below_v = 5;
/// The criterion where the readings do not determine the surface.
constexpr double hopeless = 1e30;

/// The Kronecker product of two one-dimensional Gram matrices, rows of three as one block.
BlockBand kronecker(const Eigen::MatrixXd& s, const Eigen::MatrixXd& v) {
    const int ns = static_cast<int>(s.rows()), nv = static_cast<int>(v.rows());
    std::vector<std::vector<int>> met(static_cast<std::size_t>(nv));
    for (int j = 0; j < nv; ++j)
        for (int l = 0; l < nv; ++l)
            if (v(j, l) != 0) met[static_cast<std::size_t>(j)].push_back(l);
    BlockBand out(ns * nv, 3 * nv);
    for (int i = 0; i < ns; ++i)
        for (int j = 0; j < nv; ++j) {
            auto entry = out.row(i * nv + j);
            for (int k = std::max(0, i - 3); k <= i; ++k)
                for (int l : met[static_cast<std::size_t>(j)])
                    if (k < i || l <= j) entry(k * nv + l) += s(i, k) * v(j, l);
        }
    return out;
}

/// Six places no conic passes through (open; three more beyond each crease), or three along the axis (closed): with
/// the coefficients there held, no free polynomial is left. |P|+ equals the determinant of the rest up to a constant.
std::vector<int> pinned_coefficients(const CubicBasis& s, const CubicBasis& v) {
    const int is = s.count() - 1, iv = v.count() - 1, nv = v.count();
    const auto at = [nv](int i, int j) { return i * nv + j; };
    if (v.periodic()) return {at(0, 0), at(is / 2, 0), at(is, 0)};
    // The functions that stand at the creases and at the last end.
    std::vector<int> stops;
    for (double crease : v.creases()) stops.push_back(v.at(crease).index[0]);
    stops.push_back(iv);
    std::vector<int> out{at(0, 0), at(0, stops[0]), at(is, 0), at(is, stops[0]), at(is / 2, 0), at(0, stops[0] / 2)};
    // Beyond a crease (v - crease) (a + b s + c v) is free as well.
    for (std::size_t k = 1; k < stops.size(); ++k)
        for (int pin : {at(0, stops[k]), at(is, stops[k]), at(0, (stops[k - 1] + stops[k]) / 2)}) out.push_back(pin);
    return out;
}

}  // namespace

Smoother::Smoother(CubicBasis basis_s, CubicBasis basis_v, SmoothingPrior prior)
    : basis_s_(basis_s),
      basis_v_(basis_v),
      prior_(prior),
      pins_(pinned_coefficients(basis_s, basis_v)),
      normal_(basis_s.count() * basis_v.count(), 3 * basis_v.count()) {
    for (int k = 0; k < 4; ++k) terms_.push_back(kronecker(basis_s.gram(3 - k), basis_v.gram(k)));
}

void Smoother::set_data(const ChartData& data) {
    normal_ = BlockBand(coefficient_count(), 3 * basis_v_.count());
    right_ = Eigen::VectorXd::Zero(coefficient_count());
    const double total = data.weight.sum();
    mean_ = total > 0 ? data.weight.dot(data.height) / total : 0;
    // Always in the same shares, so that the sums do not depend on how many processors there are.
    const int shares = data.count() > many_at_a_time ? 4 : 1;
    std::vector<CellSums> sums(static_cast<std::size_t>(shares), CellSums(basis_s_, basis_v_));
    std::vector<double> squares(static_cast<std::size_t>(shares), 0.0);
    in_parallel(shares, shares > 1, [&](std::ptrdiff_t share) {
        const auto part = [&](std::ptrdiff_t k) {
            return static_cast<int>(static_cast<std::int64_t>(data.count()) * k / shares);
        };
        CellSums& sum = sums[static_cast<std::size_t>(share)];
        double square = 0;
        for (int n = part(share); n < part(share + 1); ++n) {
            const double w = data.weight[n];
            if (w == 0) continue;
            const double y = data.height[n] - mean_;
            square += w * y * y;
            sum.add(data.s[n], data.v[n], w, y);
        }
        squares[static_cast<std::size_t>(share)] = square;
    });
    sum_squares_ = std::accumulate(squares.begin(), squares.end(), 0.0);
    for (std::size_t k = 1; k < sums.size(); ++k) sums.front().add(sums[k]);
    sums.front().add_to(normal_, right_);
    add_slopes(data);
}

void Smoother::add_slopes(const ChartData& data) {
    if (data.slopes.empty()) return;
    CellBlocks sums(basis_s_, basis_v_);
    for (const ChartData::Slope& slope : data.slopes) {
        CellRow row = cell_row(basis_s_, basis_v_, slope.s, slope.v);
        row.weight = slope.of_height * row.weight +
                     slope.along_s * cell_row(basis_s_, basis_v_, slope.s, slope.v, 1, 0).weight +
                     slope.along_v * cell_row(basis_s_, basis_v_, slope.s, slope.v, 0, 1).weight;
        const double y = slope.value - slope.of_height * mean_;
        sum_squares_ += slope.weight * y * y;
        sums.add(row, slope.weight);
        const auto index = cell_functions(basis_s_, basis_v_, row.cell);
        for (std::size_t a = 0; a < 16; ++a) right_[index[a]] += slope.weight * y * row.weight[static_cast<int>(a)];
    }
    sums.add_to(normal_);
}

BlockBand Smoother::penalty(const Smoothing& at) const {
    const double ls = std::exp(ln10 * at.log10_s), lv = std::exp(ln10 * at.log10_v);
    BlockBand out(coefficient_count(), 3 * basis_v_.count());
    const std::array<double, 4> factors{ls, 3 * std::cbrt(ls * ls * lv), 3 * std::cbrt(ls * lv * lv), lv};
    out.combine(terms_, factors);
    return out;
}

/// The determinant depends on the ratio of the strengths only, and smoothly: between nodes half a power of ten apart
/// a cubic through four of them is good to a thousandth, where the likelihood is asked for a hundredth.
double Smoother::log_penalty_determinant(double log10_ratio) const {
    const double at = log10_ratio / determinant_step;
    const int k = static_cast<int>(std::floor(at));
    const double t = at - k;
    const auto node = [this](int i) {
        {
            const std::lock_guard alone(determinants_->mutex);
            if (const auto it = determinants_->at_step.find(i); it != determinants_->at_step.end()) return it->second;
        }
        const double made = exact_log_penalty_determinant(i * determinant_step);
        const std::lock_guard alone(determinants_->mutex);
        return determinants_->at_step.emplace(i, made).first->second;
    };
    const double a = node(k - 1), b = node(k), c = node(k + 1), d = node(k + 2);
    return b + t / 2 * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a)));
}

double Smoother::exact_log_penalty_determinant(double log10_ratio) const {
    BlockBand p = penalty({0, log10_ratio});
    for (int pin : pins_) p.pin(pin);
    const auto factor = BlockCholesky::factor(p);
    return factor ? factor->log_determinant() : std::numeric_limits<double>::quiet_NaN();
}

double Smoother::prior_term(const Smoothing& at) const {
    const double zs = (at.log10_s - prior_.mean.log10_s) / prior_.sd_s;
    const double zv = (at.log10_v - prior_.mean.log10_v) / prior_.sd_v;
    return zs * zs + zv * zv;
}

std::optional<Solution> Smoother::solve(const Smoothing& at) const {
    BlockBand matrix = penalty(at);
    matrix.add_scaled(normal_, 1);
    auto factor = BlockCholesky::factor(matrix);
    if (!factor) return std::nullopt;
    Eigen::VectorXd b = factor->solve(right_);
    if (!b.allFinite()) return std::nullopt;
    const double q = std::max(0.0, sum_squares_ - b.dot(right_));
    b.array() += mean_;  // the basis sums to one everywhere
    return Solution{std::move(b), std::move(*factor), q};
}

double Smoother::criterion(const Solution& solution, const Smoothing& at) const {
    const double rank = coefficient_count() - null_dimension();
    const double log_p = rank * ln10 * at.log10_s + log_penalty_determinant(at.log10_v - at.log10_s);
    return solution.penalised_sum + solution.factor.log_determinant() - log_p + prior_term(at);
}

double Smoother::criterion(const Smoothing& at) const {
    const auto solution = solve(at);
    const double value = solution ? criterion(*solution, at) : hopeless;
    return std::isfinite(value) ? value : hopeless;
}

Eigen::MatrixXd Smoother::smoothing_doubt(const Smoothing& at) const {
    // In powers of ten: wide enough for the noise of interpolated determinants, narrow beside the prior.
    constexpr double step = 0.25;
    constexpr int side = 3;
    std::array<double, side * side> value{};
    std::array<Eigen::VectorXd, side * side> height;
    std::array<bool, side * side> solved{};
    in_parallel(side * side, true, [&](std::ptrdiff_t k) {
        const auto n = static_cast<std::size_t>(k);
        const Smoothing here{at.log10_s + step * static_cast<double>(k % side - 1),
                             at.log10_v + step * static_cast<double>(k / side - 1)};
        auto solution = solve(here);
        if (!solution) return;
        value[n] = criterion(*solution, here);
        solved[n] = std::isfinite(value[n]);
        height[n] = std::move(solution->coefficients);
    });
    if (std::find(solved.begin(), solved.end(), false) != solved.end())
        return Eigen::MatrixXd(coefficient_count(), 0);
    Eigen::Matrix2d curvature;
    curvature(0, 0) = (value[3] - 2 * value[4] + value[5]) / (step * step);
    curvature(1, 1) = (value[1] - 2 * value[4] + value[7]) / (step * step);
    curvature(0, 1) = curvature(1, 0) = (value[8] - value[6] - value[2] + value[0]) / (4 * step * step);
    // The criterion is twice a negative log likelihood. In units of the prior nothing is wider than one.
    const Eigen::Vector2d prior(prior_.sd_s, prior_.sd_v);
    const auto own = geometry::eigenpairs_of(prior.asDiagonal() * curvature * prior.asDiagonal() / 2);
    const Eigen::Matrix2d spread =
        prior.asDiagonal() * own.vectors * own.values.cwiseMax(1).cwiseSqrt().cwiseInverse().asDiagonal();
    Eigen::MatrixXd by_smoothing(coefficient_count(), 2);
    by_smoothing << (height[5] - height[3]) / (2 * step), (height[7] - height[1]) / (2 * step);
    return by_smoothing * spread;
}

std::optional<Smoothing> Smoother::search() const {
    Smoothing best = prior_.mean;
    double lowest = hopeless;
    for (double ds : {-3.0, -1.0, 0.5, 2.0})
        for (double dv : {-3.0, -1.0, 0.5, 2.0}) {
            const Smoothing here{prior_.mean.log10_s + ds * prior_.sd_s, prior_.mean.log10_v + dv * prior_.sd_v};
            const double value = criterion(here);
            if (value < lowest) lowest = value, best = here;
        }
    return lowest < hopeless ? improve(best) : std::nullopt;
}

std::optional<Smoothing> Smoother::improve(const Smoothing& start) const {
    nlopt::opt search(nlopt::LN_BOBYQA, 2);
    struct Context {
        const Smoother* self;
    } context{this};
    search.set_min_objective(
        [](const std::vector<double>& x, std::vector<double>&, void* data) {
            return static_cast<Context*>(data)->self->criterion({x[0], x[1]});
        },
        &context);
    // The criterion is a log likelihood: differences below a hundredth say nothing.
    search.set_ftol_abs(0.01);
    search.set_maxeval(40);
    search.set_initial_step(0.7);
    // Weaker than this nothing holds the surface between stations: where the basis cannot follow a sharp keel, a
    // search without a bound would buy a closer fit at the stations with waves between them.
    const double least_s = prior_.mean.log10_s - most_below_s * prior_.sd_s,
                 least_v = prior_.mean.log10_v - most_below_v * prior_.sd_v;
    search.set_lower_bounds({least_s, least_v});
    search.set_upper_bounds({12.0, 12.0});
    std::vector<double> x{std::max(start.log10_s, least_s), std::max(start.log10_v, least_v)};
    double value = 0;
    try {
        search.optimize(x, value);
    } catch (const std::exception&) {
        return std::nullopt;
    }
    if (!(value < 1e30)) return std::nullopt;
    return Smoothing{x[0], x[1]};
}

}  // namespace bevelsmith::hull
