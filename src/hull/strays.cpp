#include "hull/strays.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <utility>
#include <vector>

namespace bevelsmith::hull {
namespace {

constexpr double far_off_sigmas = 6;
constexpr int cells = 16;       ///< each way, over the readings
constexpr int long_cells = 12;  ///< what reaches over so many is no port light

/// Each reading's cell of a grid over the chart.
class HashGrid {
  public:
    explicit HashGrid(const ChartData& data)
        : s0_(data.s.minCoeff()),
          v0_(data.v.minCoeff()),
          ls_(std::max(data.s.maxCoeff() - s0_, 1e-9)),
          lv_(std::max(data.v.maxCoeff() - v0_, 1e-9)) {}
    int row(double s) const { return std::min(cells - 1, static_cast<int>(cells * (s - s0_) / ls_)); }
    int column(double v) const { return std::min(cells - 1, static_cast<int>(cells * (v - v0_) / lv_)); }

  private:
    double s0_, v0_, ls_, lv_;
};

using Counts = Eigen::Array<int, cells, cells>;
using Marks = Eigen::Array<bool, cells, cells>;

/// The cells marked, and those that touch them.
Marks with_neighbours(const Marks& marks) {
    Marks out = Marks::Constant(false);
    for (int i = 0; i < cells; ++i)
        for (int j = 0; j < cells; ++j) {
            const int i0 = std::max(0, i - 1), j0 = std::max(0, j - 1);
            out(i, j) = marks.block(i0, j0, std::min(cells, i + 2) - i0, std::min(cells, j + 2) - j0).any();
        }
    return out;
}

/// Readings left out that lie beyond the surface by many sigmas, seen from inside.
std::vector<int> left_out_beyond(const FitRounds& w, const Solution& solution) {
    const Surface surface = plain_surface(w.chart, w.smoother, solution.coefficients);
    const double outward = outward_sign(surface, w);
    std::vector<int> out;
    for (int i = 0; i < w.data.count(); ++i) {
        if (w.data.weight[i] > 0) continue;
        const double sigma_mm = w.points[static_cast<std::size_t>(i)].sigma_mm * std::min(1.0, w.sigma_factor);
        if (outward * w.off_mm(surface, i) > far_off_sigmas * sigma_mm) out.push_back(i);
    }
    return out;
}

/// The part of `marks` that hangs together with cell (i, j), taken out of it.
Marks take_patch(Marks& marks, int i, int j) {
    Marks patch = Marks::Constant(false);
    patch(i, j) = true;
    for (Eigen::Index before = 0; before != patch.count();) {
        before = patch.count();
        patch = with_neighbours(patch) && marks;
    }
    marks = marks && !patch;
    return patch;
}

/// The patches that reach along most of the surface.
Marks long_patches(Marks marks) {
    Marks out = Marks::Constant(false);
    for (int i = 0; i < cells; ++i)
        for (int j = 0; j < cells; ++j) {
            if (!marks(i, j)) continue;
            const Marks patch = take_patch(marks, i, j);
            if (std::max(patch.rowwise().any().count(), patch.colwise().any().count()) >= long_cells)
                out = out || patch;
        }
    return out;
}

}  // namespace

bool take_in_ridge(FitRounds& w) {
    if (w.data.count() < fewest_of_a_scan) return false;
    const auto solution = w.solve();
    if (!solution) return false;
    const std::vector<int> beyond = left_out_beyond(w, *solution);
    const HashGrid grid(w.data);
    Counts all = Counts::Zero(), out = Counts::Zero();
    for (int i = 0; i < w.data.count(); ++i) ++all(grid.row(w.data.s[i]), grid.column(w.data.v[i]));
    for (int i : beyond) ++out(grid.row(w.data.s[i]), grid.column(w.data.v[i]));
    const Marks ridge = long_patches(out >= 2 && 2 * out > all);
    if (!ridge.any()) return false;
    const Marks taken = with_neighbours(ridge);
    for (int i : beyond)
        if (taken(grid.row(w.data.s[i]), grid.column(w.data.v[i]))) w.data.weight[i] = w.own_weight[i];
    w.smoother.set_data(w.data);
    w.ridged = true;
    if (const auto found = w.smoother.improve(w.smoothing)) w.smoothing = *found;
    return true;
}

void shed_strays(FitRounds& w) {
    constexpr int rounds = 20;
    constexpr double reach = 4.685;
    if (w.data.count() < fewest_of_a_scan) return;
    const Eigen::VectorXd own = w.data.weight;
    const Smoothing usual = w.smoother.prior().mean;
    const Smoothing stiff{std::max(w.smoothing.log10_s, usual.log10_s), std::max(w.smoothing.log10_v, usual.log10_v)};
    Eigen::VectorXd off;
    double bound = 0;
    for (int round = 0; round < rounds; ++round) {
        const auto solution = w.smoother.solve(stiff);
        if (!solution) break;
        off = heights_off(w.smoother, *solution, w.data).cwiseProduct(w.own_weight.cwiseSqrt()).cwiseAbs();
        if (round == 0 && off.maxCoeff() < far_off_sigmas) return;
        const double before = std::exchange(bound, std::max(reach * 1.4826 * median_abs(off, own), far_off_sigmas));
        w.data.weight = own.array() * (1 - (off.array() / bound).square()).max(0.0).square();
        w.smoother.set_data(w.data);
        if (std::abs(bound - before) < 0.001 * bound && round > 5) break;
    }
    w.data.weight = off.size() > 0 ? Eigen::VectorXd((off.array() < bound).select(own, 0)) : own;
    w.smoother.set_data(w.data);
    if (!(off.array() >= bound).any()) return;
    if (const auto found = w.smoother.improve(w.smoothing)) w.smoothing = *found;
    take_in_ridge(w);
}

void take_in_met(FitRounds& w) {
    if (w.data.count() < fewest_of_a_scan || (w.data.weight.array() > 0).all()) return;
    const auto solution = w.solve();
    if (!solution) return;
    const Surface surface = plain_surface(w.chart, w.smoother, solution->coefficients);
    const double sigmas = alarm_threshold(w.data.count()) * std::max(1.0, w.sigma_factor);
    bool any = false;
    for (int i = 0; i < w.data.count(); ++i) {
        if (w.data.weight[i] > 0) continue;
        if (std::abs(w.off_mm(surface, i)) > sigmas * w.points[static_cast<std::size_t>(i)].sigma_mm) continue;
        w.data.weight[i] = w.own_weight[i];
        any = true;
    }
    if (!any) return;
    w.smoother.set_data(w.data);
    if (const auto found = w.smoother.improve(w.smoothing)) w.smoothing = *found;
}

}  // namespace bevelsmith::hull
