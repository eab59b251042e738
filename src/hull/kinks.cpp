#include "hull/kinks.h"

#include <algorithm>
#include <cmath>
#include <nlopt.hpp>

#include "hull/fit_stages.h"

namespace bevelsmith::hull {
namespace {

constexpr double declared_worth = 15;    ///< that the declared uncertainty is worth
constexpr double wrong_costs = 16;       ///< see KinkModel
constexpr double most_wrong = 0.15;      ///< of the readings
constexpr int fewest_on_a_side = 6;      ///< readings on each side of a line
constexpr double beside_line_m = 0.015;  ///< what is nearer to a line than this is on neither side
constexpr double most_slant = 0.6;       ///< of a line: v over s
constexpr double most_bend = 0.15;       ///< of a line, as a share of the surface's width
constexpr int shapes_each = 3;
/// Standard deviations of the amplitudes of |v - l|, of the same growing along, of (v - l)|v - l| (1/m).
constexpr double usual_sizes[shapes_each] = {0.4, 0.15, 0.25};
constexpr double hopeless = 1e30;

/// Twice the negative log density of `n` readings' residuals, Q their weighted squares, their scale known as well as
/// `declared_worth` tell; Q itself where that were known exactly.
double scale_free(double q, double n) {
    const double whole = (declared_worth + n) / 2, half = declared_worth / 2;
    return (declared_worth + n) * std::log1p(q / declared_worth) + n * std::log(half) -
           2 * (std::lgamma(whole) - std::lgamma(half));
}

}  // namespace

struct KinkModel::Solved {
    Solution solution;
    Eigen::MatrixXd shape, open;  ///< the lines' shapes, and what the smooth surface cannot follow of them
    Eigen::LLT<Eigen::MatrixXd> precision;
    Eigen::VectorXd amplitude;
    Eigen::VectorXd residual;  ///< with the kinks in
    double squares = 0;        ///< Q, penalties included
    double determinants = 0;   ///< of the amplitudes
};

KinkModel::KinkModel(ChartData data, Smoother smoother) : data_(std::move(data)), smoother_(std::move(smoother)) {
    const double low = smoother_.basis_s().low(), high = smoother_.basis_s().high();
    along_ = (data_.s.array() - low) / (high - low);
    for (int i = 0; i < data_.count(); ++i) {
        rows_.push_back(cell_row(smoother_.basis_s(), smoother_.basis_v(), data_.s[i], data_.v[i]));
        functions_.push_back(cell_functions(smoother_.basis_s(), smoother_.basis_v(), rows_.back().cell));
    }
}

Eigen::VectorXd KinkModel::weights(const std::vector<bool>& left_out) const {
    Eigen::VectorXd out = data_.weight;
    for (std::size_t i = 0; i < left_out.size(); ++i)
        if (left_out[i]) out[static_cast<Eigen::Index>(i)] = 0;
    return out;
}

Eigen::MatrixXd KinkModel::shapes(const KinkLines& lines) const {
    Eigen::MatrixXd out(data_.count(), shapes_each * static_cast<Eigen::Index>(lines.size()));
    for (std::size_t k = 0; k < lines.size(); ++k)
        for (int i = 0; i < data_.count(); ++i) {
            const double off = data_.v[i] - lines[k].at(along_[i]);
            const auto column = shapes_each * static_cast<Eigen::Index>(k);
            out(i, column) = usual_sizes[0] * std::abs(off);
            out(i, column + 1) = usual_sizes[1] * (2 * along_[i] - 1) * std::abs(off);
            out(i, column + 2) = usual_sizes[2] * off * std::abs(off);
        }
    return out;
}

Eigen::MatrixXd KinkModel::not_followed(const Solution& solution, const Eigen::VectorXd& weight,
                                        const Eigen::MatrixXd& shape) const {
    Eigen::MatrixXd out = shape;
    for (Eigen::Index c = 0; c < shape.cols(); ++c) {
        Eigen::VectorXd right = Eigen::VectorXd::Zero(smoother_.coefficient_count());
        for (int i = 0; i < data_.count(); ++i) {
            const double w = weight[i] * shape(i, c);
            const auto k = static_cast<std::size_t>(i);
            for (std::size_t a = 0; a < 16; ++a)
                right[functions_[k][a]] += w * rows_[k].weight[static_cast<Eigen::Index>(a)];
        }
        const Eigen::VectorXd b = solution.factor.solve(right);
        for (int i = 0; i < data_.count(); ++i) {
            const auto k = static_cast<std::size_t>(i);
            for (std::size_t a = 0; a < 16; ++a)
                out(i, c) -= rows_[k].weight[static_cast<Eigen::Index>(a)] * b[functions_[k][a]];
        }
    }
    return out;
}

/// Each side of each line has readings of its own, lines do not cross, and run along the surface.
bool KinkModel::borne(const KinkLines& lines, const Eigen::VectorXd& weight) const {
    const double length = smoother_.basis_s().high() - smoother_.basis_s().low();
    for (const KinkLine& l : lines)
        if (std::abs(l.v_high - l.v_low) > most_slant * length) return false;
    KinkLines sorted = lines;
    std::sort(sorted.begin(), sorted.end(),
              [](const KinkLine& a, const KinkLine& b) { return a.at(0.5) < b.at(0.5); });
    std::vector<int> between(lines.size() + 1, 0);
    for (int i = 0; i < data_.count(); ++i) {
        if (weight[i] == 0) continue;
        std::size_t k = 0;
        bool beside = false;
        for (; k < sorted.size() && data_.v[i] > sorted[k].at(along_[i]); ++k) {}
        for (const KinkLine& l : sorted) beside = beside || std::abs(data_.v[i] - l.at(along_[i])) < beside_line_m;
        if (!beside) ++between[k];
    }
    for (std::size_t k = 1; k < sorted.size(); ++k)
        for (double along : {0.0, 0.25, 0.5, 0.75, 1.0})
            if (sorted[k].at(along) - sorted[k - 1].at(along) < 0.04) return false;
    return *std::min_element(between.begin(), between.end()) >= fewest_on_a_side;
}

std::optional<KinkModel::Solved> KinkModel::solve(const Smoother& smoother, const Eigen::VectorXd& weight,
                                                  const KinkLines& lines, const Smoothing& at) const {
    auto solution = smoother.solve(at);
    if (!solution) return std::nullopt;
    Solved out{std::move(*solution), shapes(lines), {}, {}, {}, {}, 0, 0};
    out.residual = heights_off(smoother, out.solution, data_);
    out.squares = out.solution.penalised_sum;
    if (lines.empty()) return out;
    out.open = not_followed(out.solution, weight, out.shape);
    const Eigen::MatrixXd weighed = weight.asDiagonal() * out.shape;
    Eigen::MatrixXd precision = weighed.transpose() * out.open;
    precision.diagonal().array() += 1;
    out.precision.compute(precision);
    if (out.precision.info() != Eigen::Success) return std::nullopt;
    const Eigen::VectorXd pull = weighed.transpose() * out.residual;
    out.amplitude = out.precision.solve(pull);
    out.squares = std::max(0.0, out.squares - pull.dot(out.amplitude));
    out.residual -= out.open * out.amplitude;
    out.determinants = 2 * out.precision.matrixLLT().diagonal().array().log().sum();
    return out;
}

double KinkModel::badness(const Smoother& smoother, const Eigen::VectorXd& weight, const KinkLines& lines,
                          const Smoothing& at) const {
    const auto solved = solve(smoother, weight, lines, at);
    if (!solved) return hopeless;
    const double smooth = smoother.criterion(solved->solution, at) - solved->solution.penalised_sum;
    const auto in = static_cast<double>((weight.array() > 0).count());
    const double value = smooth + solved->determinants + scale_free(solved->squares, in - smoother.null_dimension()) +
                         wrong_costs * (data_.count() - in);
    return std::isfinite(value) ? value : hopeless;
}

KinkFit KinkModel::moved(const KinkFit& start) const {
    const double width = smoother_.basis_v().high() - smoother_.basis_v().low();
    const Eigen::VectorXd weight = weights(start.left_out);
    Smoother smoother = smoother_;
    ChartData data = data_;
    data.weight = weight;
    smoother.set_data(data);
    struct Context {
        const KinkModel* self;
        const Smoother* smoother;
        const Eigen::VectorXd* weight;
        const KinkLines* start;
        KinkLines lines(const std::vector<double>& x) const {
            KinkLines out = *start;
            std::size_t k = 2;
            for (KinkLine& line : out)
                if (!line.held) line = {x[k], x[k + 1], x[k + 2]}, k += 3;
            return out;
        }
    } context{this, &smoother, &weight, &start.lines};
    std::vector<double> x{start.smoothing.log10_s, start.smoothing.log10_v}, low{-1, -5}, high{12, 12},
        step{0.7, 0.7};
    for (const KinkLine& l : start.lines) {
        if (l.held) continue;
        const double reach = 0.12 * width, bends = most_bend * width;
        for (double v : {l.v_low, l.v_high}) x.push_back(v), low.push_back(v - reach), high.push_back(v + reach);
        x.push_back(l.bend), low.push_back(std::min(l.bend, -bends)), high.push_back(std::max(l.bend, bends));
        for (int k = 0; k < 3; ++k) step.push_back(0.02 * width);
    }
    for (std::size_t k = 0; k < 2; ++k) x[k] = std::clamp(x[k], low[k], high[k]);
    nlopt::opt search(nlopt::LN_BOBYQA, static_cast<unsigned>(x.size()));
    search.set_min_objective(
        [](const std::vector<double>& at, std::vector<double>&, void* given) {
            const auto& c = *static_cast<Context*>(given);
            const KinkLines lines = c.lines(at);
            if (!c.self->borne(lines, *c.weight)) return hopeless / 1e24;
            return c.self->badness(*c.smoother, *c.weight, lines, {at[0], at[1]});
        },
        &context);
    search.set_lower_bounds(low);
    search.set_upper_bounds(high);
    search.set_initial_step(step);
    search.set_ftol_abs(0.05);
    search.set_maxeval(60 + 60 * static_cast<int>(start.lines.size()));
    KinkFit out = start;
    try {
        search.optimize(x, out.badness);
    } catch (const std::exception&) {
        out.badness = hopeless;
        return out;
    }
    out.lines = context.lines(x);
    out.smoothing = {x[0], x[1]};
    return out;
}

void KinkModel::judge_readings(KinkFit& fit) const {
    const int most = std::max(2, static_cast<int>(most_wrong * data_.count()));
    Smoother smoother = smoother_;
    ChartData data = data_;
    for (int round = 0; round < 2 * most; ++round) {
        data.weight = weights(fit.left_out);
        smoother.set_data(data);
        const auto solved = solve(smoother, data.weight, fit.lines, fit.smoothing);
        if (!solved) return;
        const Residuals plain = residuals_of(smoother, solved->solution, data, data_.weight);
        const double scale = (declared_worth + solved->squares) /
                             (declared_worth + static_cast<double>((data.weight.array() > 0).count()));
        const int out_now = static_cast<int>(std::count(fit.left_out.begin(), fit.left_out.end(), true));
        int change = -1;
        double most_gained = 0;
        for (int i = 0; i < data.count(); ++i) {
            const double pv = plain.prediction_variance[i], w = data.weight[i], own = data_.weight[i];
            double variance = w > 0 ? pv / (1 + w * pv) : pv;  // of the smooth surface, this reading in
            if (!fit.lines.empty())
                variance += solved->open.row(i).dot(solved->precision.solve(solved->open.row(i).transpose()));
            const double r = solved->residual[i];
            const bool in = w > 0;
            // What it costs to keep it, given the others: its own squared residual had it been left out, over the
            // variance of that.
            const double left = in ? r / std::max(1e-9, 1 - own * variance) : r;
            const double left_variance = in ? variance / std::max(1e-9, 1 - own * variance) : variance;
            const double square = left * left / ((1 / own + left_variance) * scale) + std::log1p(own * left_variance);
            const double gained = in ? square - wrong_costs : wrong_costs - square - 4;
            if (in && out_now >= most) continue;
            if (gained > most_gained) most_gained = gained, change = i;
        }
        if (change < 0) break;
        const auto k = static_cast<std::size_t>(change);
        fit.left_out[k] = !fit.left_out[k];
    }
    data.weight = weights(fit.left_out);
    smoother.set_data(data);
    fit.badness = borne(fit.lines, data.weight) ? badness(smoother, data.weight, fit.lines, fit.smoothing) : hopeless;
    const auto solved = solve(smoother, data.weight, fit.lines, fit.smoothing);
    const auto in = (data.weight.array() > 0);
    if (solved) fit.rms_m = std::sqrt(in.select(solved->residual.array().square(), 0).sum() / in.count());
}

std::optional<KinkFit> KinkModel::best_near(const KinkLines& start, std::vector<bool> left_out,
                                            const Smoothing& at) const {
    left_out.resize(static_cast<std::size_t>(data_.count()), false);
    KinkFit fit{start, at, std::move(left_out), 0, hopeless};
    std::optional<KinkFit> best;
    constexpr int rounds = 3;
    for (int round = 0; round < rounds; ++round) {
        const auto before = fit.left_out;
        fit = moved(fit);
        judge_readings(fit);
        if (fit.badness < 0.1 * hopeless && (!best || fit.badness < best->badness)) best = fit;
        if (fit.left_out == before) break;
    }
    return best;
}

std::vector<double> KinkModel::gains(const KinkFit& so_far, const Smoothing& at,
                                     std::span<const KinkLine> more) const {
    std::vector<double> out(more.size(), 0.0);
    ChartData data = data_;
    data.weight = weights(so_far.left_out);
    Smoother smoother = smoother_;
    smoother.set_data(data);
    const auto solved = solve(smoother, data.weight, so_far.lines, at);
    if (!solved) return out;
    for (std::size_t k = 0; k < more.size(); ++k) {
        KinkLines with = so_far.lines;
        with.push_back(more[k]);
        if (!borne(with, data.weight)) continue;
        const Eigen::MatrixXd shape = shapes({more[k]}).leftCols(1);
        Eigen::MatrixXd open = not_followed(solved->solution, data.weight, shape);
        if (!so_far.lines.empty())
            open -=
                solved->open * solved->precision.solve(solved->open.transpose() * (data.weight.asDiagonal() * shape));
        const double square = 1 + (data.weight.asDiagonal() * shape).col(0).dot(open.col(0));
        const double pull = shape.col(0).dot(data.weight.cwiseProduct(solved->residual));
        out[k] = pull * pull / square;
    }
    return out;
}

}  // namespace bevelsmith::hull
