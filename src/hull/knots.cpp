// How finely a surface is divided: by the number of its readings, and by what finer knots would show.
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "hull/fit_stages.h"

namespace bevelsmith::hull {
namespace {

/// Intervals each way that many readings are tried with; the long way of a patch bends no more than the short way.
constexpr std::array ladder{9, 14, 22, 33};
/// A finer grid needs this many readings for each of its cells.
constexpr double readings_a_cell = 1.6;
constexpr int many_readings = 200;

double extent(const Eigen::VectorXd& x) {
    return std::max(x.maxCoeff() - x.minCoeff(), 1e-3);
}

/// Few readings cannot say more than the study's 7-8 intervals hold: cells about square, their number small.
Knots knots_of_few(double ls, double lv, int readings) {
    const double cell = std::sqrt(ls * lv / (readings < 60 ? 49 : 64));
    const auto intervals = [&](double length) {
        return std::clamp(static_cast<int>(std::ceil(length / cell)), 6, 10);
    };
    return {intervals(ls), intervals(lv)};
}

}  // namespace

Knots first_knots(const Chart& chart, const ChartData& data, const FitOptions& options) {
    const double ls = extent(data.s), lv = chart.closed ? 2 * chart.half_turn_m() : extent(data.v);
    Knots out = data.count() < many_readings ? knots_of_few(ls, lv, data.count()) : Knots{ladder[0], ladder[0]};
    // A closed tube wants knots at most about a quarter metre apart, but never more than its readings support.
    if (chart.closed) {
        const int most = data.count() < many_readings ? 10 : 45;
        out.v = std::clamp(static_cast<int>(std::ceil(lv / 0.25)), std::max(8, out.v), most);
    }
    if (options.intervals_s > 0) out.s = options.intervals_s;
    if (options.intervals_v > 0) out.v = options.intervals_v;
    return out;
}

std::vector<Knots> finer_knots(const Knots& knots, int readings) {
    const auto next = [](int now) {
        const auto it = std::upper_bound(ladder.begin(), ladder.end(), now);
        return it == ladder.end() ? now : *it;
    };
    const auto borne = [&](const Knots& k) {
        return !(k == knots) && readings >= many_readings && readings >= readings_a_cell * k.s * k.v;
    };
    const Knots both{next(knots.s), next(knots.v)};
    if (borne(both)) return {both};
    // A long boat read at few stations bears finer knots around them, not along her.
    std::vector<Knots> out;
    for (const Knots& one : {Knots{knots.s, both.v}, Knots{both.s, knots.v}})
        if (borne(one)) out.push_back(one);
    return out;
}

Smoother make_smoother(const Chart& chart, const ChartData& data, const Knots& knots) {
    const double s0 = data.s.minCoeff(), v0 = data.v.minCoeff(), ls = extent(data.s), lv = extent(data.v);
    std::vector<double> creases;
    for (const HardLine& line : chart.hard_lines)
        if (line.mean > v0 && line.mean < v0 + lv) creases.push_back(line.mean);
    const CubicBasis basis_s(s0 - 0.05 * ls, s0 + 1.05 * ls, knots.s);
    const CubicBasis basis_v = chart.closed ? CubicBasis(-chart.half_turn_m(), chart.half_turn_m(), knots.v, true)
                                            : CubicBasis(v0 - 0.05 * lv, v0 + 1.05 * lv, knots.v, false, creases);
    SmoothingPrior prior;
    const double size = 2 * std::log10(std::max(std::hypot(ls, lv), 1e-3) / 3.0);
    if (size < 0) prior.mean = {prior.mean.log10_s + size, prior.mean.log10_v + size};
    return Smoother(basis_s, basis_v, prior);
}

}  // namespace bevelsmith::hull
