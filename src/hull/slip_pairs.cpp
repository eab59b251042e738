#include "hull/slip_pairs.h"

#include <Eigen/LU>
#include <algorithm>
#include <cmath>
#include <map>

#include "hull/parallel.h"

namespace bevelsmith::hull {
namespace {

constexpr int doubtful_readings = 10, neighbours = 3;
constexpr std::size_t pairs_fitted = 2;

/// Pairs of readings at one fit: what they are off when both are left out.
class Together {
  public:
    Together(const Smoother& smoother, const Solution& solution, const ChartData& data,
             const Eigen::VectorXd& own_weight, const Eigen::VectorXd& least_slip_m)
        : smoother_(smoother),
          solution_(solution),
          data_(data),
          own_weight_(own_weight),
          least_slip_m_(least_slip_m),
          off_(heights_off(smoother, solution, data)) {}

    /// e' V^-1 e, zero where either alone is less than `threshold` standard deviations off or too little in metres.
    /// With S the covariance of the fitted heights and W the weights in force, e = (I - S W)^-1 r and
    /// V = 1/own + S (I - W S)^-1 (derived).
    double strength(int a, int b, double threshold) {
        const Eigen::Vector2i which(a, b);
        Eigen::Matrix2d s, w = Eigen::Matrix2d::Zero(), variance = Eigen::Matrix2d::Zero();
        Eigen::Vector2d r;
        for (int i = 0; i < 2; ++i) {
            for (int j = 0; j < 2; ++j) s(i, j) = half_row(which[i]).dot(half_row(which[j]));
            w(i, i) = data_.weight[which[i]];
            variance(i, i) = 1 / own_weight_[which[i]];
            r[i] = off_[which[i]];
        }
        const Eigen::Matrix2d one = Eigen::Matrix2d::Identity();
        if ((one - s * w).determinant() < 1e-9) return 0;
        const Eigen::Vector2d e = (one - s * w).inverse() * r;
        variance += s * (one - w * s).inverse();
        for (int i = 0; i < 2; ++i)
            if (std::abs(e[i]) < least_slip_m_[which[i]] || e[i] * e[i] < threshold * threshold * variance(i, i))
                return 0;
        return e.dot(variance.inverse() * e);
    }

  private:
    /// L^-1 of the reading's row: products of two are covariances.
    const Eigen::VectorXd& half_row(int i) {
        const auto [it, fresh] = half_rows_.try_emplace(i);
        if (fresh) {
            const CellRow row = cell_row(smoother_.basis_s(), smoother_.basis_v(), data_.s[i], data_.v[i]);
            const auto index = cell_functions(smoother_.basis_s(), smoother_.basis_v(), row.cell);
            Eigen::VectorXd x = Eigen::VectorXd::Zero(smoother_.coefficient_count());
            for (std::size_t k = 0; k < 16; ++k) x[index[k]] += row.weight[static_cast<int>(k)];
            it->second = solution_.factor.half_solve(x, *std::min_element(index.begin(), index.end()));
        }
        return it->second;
    }

    const Smoother& smoother_;
    const Solution& solution_;
    const ChartData& data_;
    const Eigen::VectorXd &own_weight_, &least_slip_m_;
    Eigen::VectorXd off_;
    std::map<int, Eigen::VectorXd> half_rows_;
};

std::vector<int> nearest(const ChartData& data, int to) {
    std::vector<std::pair<double, int>> order;
    for (int i = 0; i < data.count(); ++i)
        if (i != to && data.weight[i] > 0)
            order.emplace_back(std::hypot(data.s[i] - data.s[to], data.v[i] - data.v[to]), i);
    const auto n = std::min<std::size_t>(order.size(), neighbours);
    std::partial_sort(order.begin(), order.begin() + static_cast<std::ptrdiff_t>(n), order.end());
    std::vector<int> out;
    for (std::size_t k = 0; k < n; ++k) out.push_back(order[k].second);
    return out;
}

/// Neighbours that together look wrong at the smoothing given or at a stiff one, worst first.
std::vector<SlipPair> doubtful_pairs(const Smoother& smoother, const Smoothing& smoothing, const ChartData& data,
                                     const Eigen::VectorXd& own_weight, const Eigen::VectorXd& least_slip_m,
                                     double threshold) {
    std::map<std::pair<int, int>, double> strengths;
    for (const Smoothing& at : {smoothing, stiff(smoother, smoothing)}) {
        const auto solution = smoother.solve(at);
        if (!solution) continue;
        Together together(smoother, *solution, data, own_weight, least_slip_m);
        const auto t = residuals_of(smoother, *solution, data, own_weight).studentised;
        for (int i : largest_indices(t, data.weight, doubtful_readings))
            for (int j : nearest(data, i)) {
                double& known = strengths[std::minmax(i, j)];
                known = std::max(known, together.strength(i, j, threshold));
            }
    }
    std::vector<SlipPair> out;
    for (const auto& [pair, strength] : strengths)
        if (strength > 0) out.push_back({pair.first, pair.second, strength, {}});
    std::sort(out.begin(), out.end(), [](const SlipPair& a, const SlipPair& b) { return a.strength > b.strength; });
    if (out.size() > pairs_fitted) out.resize(pairs_fitted);
    return out;
}

}  // namespace

Smoothing stiff(const Smoother& smoother, const Smoothing& smoothing) {
    const Smoothing& usual = smoother.prior().mean;
    return {std::max(smoothing.log10_s, usual.log10_s) + 1, std::max(smoothing.log10_v, usual.log10_v) + 1};
}

std::vector<int> largest_indices(const Eigen::VectorXd& t, const Eigen::VectorXd& weight, int how_many) {
    std::vector<int> order;
    for (int i = 0; i < t.size(); ++i)
        if (weight[i] > 0) order.push_back(i);
    const auto n = std::min<std::size_t>(order.size(), static_cast<std::size_t>(how_many));
    std::partial_sort(order.begin(), order.begin() + static_cast<std::ptrdiff_t>(n), order.end(),
                      [&](int a, int b) { return std::abs(t[a]) > std::abs(t[b]); });
    order.resize(n);
    return order;
}

std::optional<SlipPair> worst_pair(Smoother& smoother, const Smoothing& smoothing, const ChartData& data,
                                   const Eigen::VectorXd& own_weight, const Eigen::VectorXd& least_slip_m,
                                   double threshold) {
    smoother.set_data(data);
    auto pairs = doubtful_pairs(smoother, smoothing, data, own_weight, least_slip_m, threshold);
    in_parallel(static_cast<std::ptrdiff_t>(pairs.size()), true, [&](std::ptrdiff_t k) {
        SlipPair& pair = pairs[static_cast<std::size_t>(k)];
        pair.strength = 0;
        Smoother own = smoother;
        ChartData rest = data;
        rest.weight[pair.first] = rest.weight[pair.second] = 0;
        own.set_data(rest);
        if (const auto found = own.search())
            if (const auto solution = own.solve(*found)) {
                Together together(own, *solution, rest, own_weight, least_slip_m);
                pair.strength = together.strength(pair.first, pair.second, threshold);
                pair.smoothing = *found;
            }
    });
    std::optional<SlipPair> worst;
    for (const SlipPair& pair : pairs)
        if (pair.strength > (worst ? worst->strength : 0)) worst = pair;
    return worst;
}

}  // namespace bevelsmith::hull
