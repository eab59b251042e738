// Readings that the others contradict.
#include <algorithm>
#include <boost/math/distributions/normal.hpp>
#include <cmath>

#include "hull/fit_stages.h"
#include "hull/parallel.h"
#include "hull/slip_pairs.h"

namespace bevelsmith::hull {
namespace {

/// Most jobs with more readings than this are scans: there slips are dropped in groups without a new search.
constexpr int searched_readings = 400;
/// No job is believed to have more wrong readings than this share.
constexpr double most_slips = 0.15;

double fitted_height(const CellRow& row, const CubicBasis& bs, const CubicBasis& bv, const Solution& solution) {
    const auto index = cell_functions(bs, bv, row.cell);
    double out = 0;
    for (std::size_t k = 0; k < 16; ++k) out += row.weight[static_cast<int>(k)] * solution.coefficients[index[k]];
    return out;
}

/// What the search needs to know of the readings, apart from the weights in force.
struct Judging {
    const Eigen::VectorXd& own_weight;
    const Eigen::VectorXd& least_slip_m;

    /// Studentised residuals, zero where a residual is too small to be a slip.
    Eigen::VectorXd doubts(const Smoother& smoother, const Solution& solution, const ChartData& data) const {
        const Residuals r = residuals_of(smoother, solution, data, own_weight);
        return (r.left_out.array().abs() < least_slip_m.array()).select(0, r.studentised);
    }
};

struct Candidate {
    int index = -1;
    double t = 0;
    Smoothing smoothing;
};

/// Leaves reading `index` out, searches the smoothing anew, and says how far the reading then is off. On a copy of
/// the smoother, so that several can be tried at once.
Candidate try_without(Smoother smoother, ChartData data, const Judging& judging, int index) {
    data.weight[index] = 0;
    smoother.set_data(data);
    Candidate out{index, 0, {}};
    if (const auto smoothing = smoother.search())
        if (const auto solution = smoother.solve(*smoothing)) {
            out.t = judging.doubts(smoother, *solution, data)[index];
            out.smoothing = *smoothing;
        }
    return out;
}

/// Candidates come from the fit and from a stiff one.
std::vector<int> candidates(Smoother& smoother, const Smoothing& smoothing, const ChartData& data,
                            const Judging& judging) {
    std::vector<int> out;
    smoother.set_data(data);
    for (const Smoothing& s : {smoothing, stiff(smoother, smoothing)})
        if (const auto solution = smoother.solve(s)) {
            const auto t = judging.doubts(smoother, *solution, data);
            for (int i : largest_indices(t, data.weight, 4))
                if (std::abs(t[i]) > 2.5 && std::find(out.begin(), out.end(), i) == out.end()) out.push_back(i);
        }
    return out;
}

/// A gross slip bends the fit, so that good readings beside it were doubted before it was found: those that the fit
/// without all of them meets are taken in again.
void take_in_again(Smoother& smoother, Smoothing& smoothing, ChartData& data, const Judging& judging,
                   std::vector<int>& removed) {
    if (removed.size() < 2) return;
    const double threshold = alarm_threshold(data.count());
    for (int round = 0; round < 3; ++round) {
        smoother.set_data(data);
        const auto solution = smoother.solve(smoothing);
        if (!solution) return;
        const Eigen::VectorXd t = judging.doubts(smoother, *solution, data);
        const auto restored = std::erase_if(removed, [&](int i) {
            if (std::abs(t[i]) >= threshold) return false;
            data.weight[i] = judging.own_weight[i];
            return true;
        });
        if (restored == 0) return;
        smoother.set_data(data);
        if (const auto better = smoother.search()) smoothing = *better;
    }
}

std::vector<int> remove_one_by_one(Smoother& smoother, Smoothing& smoothing, ChartData& data,
                                   const Judging& judging) {
    std::vector<int> removed;
    const int limit = std::max(2, static_cast<int>(most_slips * data.count()));
    const double threshold = alarm_threshold(data.count());
    while (static_cast<int>(removed.size()) < limit) {
        const auto doubted = candidates(smoother, smoothing, data, judging);
        std::vector<Candidate> tried(doubted.size());
        in_parallel(static_cast<std::ptrdiff_t>(tried.size()), true, [&](std::ptrdiff_t k) {
            const auto n = static_cast<std::size_t>(k);
            tried[n] = try_without(smoother, data, judging, doubted[n]);
        });
        Candidate worst;
        for (const Candidate& c : tried)
            if (std::abs(c.t) > std::abs(worst.t)) worst = c;
        // Two side by side explain what one cannot, when the second is as far off as a slip alone must be.
        const auto pair = worst_pair(smoother, smoothing, data, judging.own_weight, judging.least_slip_m, threshold);
        if (pair && pair->strength > worst.t * worst.t + threshold * threshold) {
            for (int i : {pair->first, pair->second}) {
                data.weight[i] = 0;
                removed.push_back(i);
            }
            smoothing = pair->smoothing;
            continue;
        }
        if (worst.index < 0 || std::abs(worst.t) < threshold) break;
        data.weight[worst.index] = 0;
        smoothing = worst.smoothing;
        removed.push_back(worst.index);
    }
    take_in_again(smoother, smoothing, data, judging, removed);
    smoother.set_data(data);
    return removed;
}

std::vector<int> remove_in_groups(Smoother& smoother, Smoothing& smoothing, ChartData& data, const Judging& judging) {
    std::vector<int> removed;
    const auto limit = static_cast<std::size_t>(most_slips * data.count());
    const double threshold = alarm_threshold(data.count());
    for (int round = 0; round < 40 && removed.size() < limit; ++round) {
        const auto solution = smoother.solve(smoothing);
        if (!solution) break;
        const Eigen::VectorXd t = judging.doubts(smoother, *solution, data);
        double worst = 0;
        for (int i = 0; i < t.size(); ++i)
            if (data.weight[i] > 0) worst = std::max(worst, std::abs(t[i]));
        if (worst < threshold) break;
        for (int i = 0; i < t.size(); ++i)  // neighbours of a gross slip look wrong too: only the worst go
            if (data.weight[i] > 0 && std::abs(t[i]) > std::max(threshold, 0.6 * worst)) {
                data.weight[i] = 0;
                removed.push_back(i);
            }
        smoother.set_data(data);
    }
    if (!removed.empty())
        if (const auto better = smoother.improve(smoothing)) smoothing = *better;
    return removed;
}

}  // namespace

double alarm_threshold(int readings) {
    const double tail = 0.01 / std::max(readings, 1);
    return std::max(3.5, boost::math::quantile(boost::math::normal(), 1 - std::min(tail, 0.1)));
}

Eigen::VectorXd heights_off(const Smoother& smoother, const Solution& solution, const ChartData& data) {
    const CubicBasis &bs = smoother.basis_s(), &bv = smoother.basis_v();
    Eigen::VectorXd out(data.count());
    for (int i = 0; i < data.count(); ++i)
        out[i] = data.height[i] - fitted_height(cell_row(bs, bv, data.s[i], data.v[i]), bs, bv, solution);
    return out;
}

Residuals residuals_of(const Smoother& smoother, const Solution& solution, const ChartData& data,
                       const Eigen::VectorXd& own_weight) {
    const int n = data.count();
    const CubicBasis &bs = smoother.basis_s(), &bv = smoother.basis_v();
    const CellBlocks covariance(bs, bv, solution.factor.band_of_inverse());
    Residuals out{Eigen::VectorXd(n), Eigen::VectorXd(n), Eigen::VectorXd(n), Eigen::VectorXd(n)};
    in_parallel(n, n > many_at_a_time, [&](std::ptrdiff_t i) {
        const CellRow row = cell_row(bs, bv, data.s[i], data.v[i]);
        const double variance = covariance.variance(row);
        // Leverage from the weight in force: zero for a reading that is already out.
        const double left = std::max(1e-9, 1 - data.weight[i] * variance);
        out.height[i] = data.height[i] - fitted_height(row, bs, bv, solution);
        out.left_out[i] = out.height[i] / left;
        out.prediction_variance[i] = variance / left;
        out.studentised[i] = out.left_out[i] / std::sqrt(1 / own_weight[i] + out.prediction_variance[i]);
    });
    return out;
}

std::vector<int> remove_slips(Smoother& smoother, Smoothing& smoothing, ChartData& data,
                              const Eigen::VectorXd& own_weight, const Eigen::VectorXd& least_slip_m) {
    const Judging judging{own_weight, least_slip_m};
    return data.count() <= searched_readings ? remove_one_by_one(smoother, smoothing, data, judging)
                                             : remove_in_groups(smoother, smoothing, data, judging);
}

}  // namespace bevelsmith::hull
