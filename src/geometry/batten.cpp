#include "geometry/batten.h"

#include <Eigen/Dense>
#include <algorithm>

namespace bevelsmith::geometry {
namespace {

/// Straight chords of a spline between neighbours; refined alike everywhere.
constexpr int chords_between = 24;

/// Second derivatives of the natural cubic spline through `values` at `knots`.
Eigen::VectorXd bends(const std::vector<double>& knots, const Eigen::VectorXd& values) {
    const Eigen::Index n = values.size();
    Eigen::MatrixXd m = Eigen::MatrixXd::Identity(n, n);
    Eigen::VectorXd right = Eigen::VectorXd::Zero(n);
    for (Eigen::Index i = 1; i + 1 < n; ++i) {
        const auto k = static_cast<std::size_t>(i);
        const double before = knots[k] - knots[k - 1], after = knots[k + 1] - knots[k];
        m(i, i - 1) = before;
        m(i, i) = 2 * (before + after);
        m(i, i + 1) = after;
        right[i] = 6 * ((values[i + 1] - values[i]) / after - (values[i] - values[i - 1]) / before);
    }
    return m.partialPivLu().solve(right);
}

}  // namespace

std::vector<Vec2> batten(const std::vector<Vec2>& pins) {
    if (pins.size() < 3) return pins;
    std::vector<double> knots{0};
    Eigen::VectorXd x(static_cast<Eigen::Index>(pins.size())), y(x.size());
    for (std::size_t i = 0; i < pins.size(); ++i) {
        x[static_cast<Eigen::Index>(i)] = pins[i].x();
        y[static_cast<Eigen::Index>(i)] = pins[i].y();
        if (i > 0) knots.push_back(knots.back() + std::max(1e-6, (pins[i] - pins[i - 1]).norm()));
    }
    const Eigen::VectorXd bx = bends(knots, x), by = bends(knots, y);
    std::vector<Vec2> out{pins.front()};
    for (std::size_t i = 0; i + 1 < pins.size(); ++i) {
        const double h = knots[i + 1] - knots[i];
        const auto k = static_cast<Eigen::Index>(i);
        for (int c = 1; c <= chords_between; ++c) {
            const double b = static_cast<double>(c) / chords_between, a = 1 - b;
            const double p = (a * a * a - a) * h * h / 6, q = (b * b * b - b) * h * h / 6;
            out.emplace_back(a * x[k] + b * x[k + 1] + p * bx[k] + q * bx[k + 1],
                             a * y[k] + b * y[k + 1] + p * by[k] + q * by[k + 1]);
        }
    }
    return out;
}

}  // namespace bevelsmith::geometry
