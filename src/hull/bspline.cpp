#include "hull/bspline.h"

#include <Eigen/LU>
#include <algorithm>
#include <cmath>

namespace bevelsmith::hull {
namespace {

/// Equal intervals in each stretch between creases.
std::vector<double> breaks_between(double low, double high, int intervals, const std::vector<double>& creases) {
    std::vector<double> corners{low};
    corners.insert(corners.end(), creases.begin(), creases.end());
    corners.push_back(high);
    std::vector<double> out{low};
    for (std::size_t k = 1; k < corners.size(); ++k) {
        const double length = corners[k] - corners[k - 1];
        const int parts = creases.empty()
                              ? intervals
                              : std::max(2, static_cast<int>(std::lround(intervals * length / (high - low))));
        for (int i = 1; i < parts; ++i) out.push_back(corners[k - 1] + length * i / parts);
        out.push_back(corners[k]);
    }
    return out;
}

/// Values at x of the four cubic B-splines that live on [t[3], t[4]] (the recursion of Cox and de Boor).
Eigen::Vector4d values_on(const double* t, double x) {
    Eigen::Vector4d n(1, 0, 0, 0);
    for (int degree = 1; degree <= 3; ++degree) {
        double saved = 0;
        for (int r = 0; r < degree; ++r) {
            const double right = t[4 + r], left = t[4 + r - degree];
            const double part = n[r] / (right - left);
            n[r] = saved + (right - x) * part;
            saved = (x - left) * part;
        }
        n[degree] = saved;
    }
    return n;
}

}  // namespace

CubicBasis::CubicBasis(double low, double high, int intervals, bool periodic, const std::vector<double>& creases)
    : breaks_(breaks_between(low, high, intervals, creases)), creases_(creases), periodic_(periodic) {
    // Beyond the ends the knots go on evenly; a crease is a knot three times over.
    const double before = breaks_[1] - breaks_[0], after = breaks_.back() - breaks_[breaks_.size() - 2];
    std::vector<double> knots;
    for (int k = 3; k > 0; --k) knots.push_back(low - k * before);
    for (double b : breaks_) knots.insert(knots.end(), std::count(creases.begin(), creases.end(), b) > 0 ? 3 : 1, b);
    for (int k = 1; k <= 3; ++k) knots.push_back(high + k * after);
    for (std::size_t k = 3; k + 4 < knots.size(); ++k) {
        const double width = knots[k + 1] - knots[k];
        if (width <= 0) continue;
        Eigen::Matrix4d powers, values;
        for (int q = 0; q < 4; ++q) {
            const double x = width * q / 3;
            powers.col(q) << 1, x, x * x, x * x * x;
            values.col(q) = values_on(&knots[k - 3], knots[k] + x);
        }
        pieces_.push_back(values * powers.inverse());
        first_.push_back(static_cast<int>(k) - 3);
    }
    per_interval_ = this->intervals() / (high - low);
    count_ = periodic ? this->intervals() : static_cast<int>(knots.size()) - 4;
}

double CubicBasis::wrapped(double x) const {
    return periodic_ ? x - std::floor((x - low()) / (high() - low())) * (high() - low()) : x;
}

int CubicBasis::span_of(double x) const {
    if (creases_.empty()) {
        const int last = intervals() - 1;
        return std::clamp(static_cast<int>((x - low()) * per_interval_), 0, last);
    }
    const auto after = std::upper_bound(breaks_.begin() + 1, breaks_.end() - 1, x);
    return static_cast<int>(after - breaks_.begin()) - 1;
}

std::array<int, 4> CubicBasis::functions(int span) const {
    std::array<int, 4> out;
    for (int k = 0; k < 4; ++k) {
        const int i = first_[static_cast<std::size_t>(span)] + k;
        out[static_cast<std::size_t>(k)] = periodic_ ? i % count_ : i;
    }
    return out;
}

CubicBasis::Local CubicBasis::at(double x, int derivative) const {
    x = wrapped(x);
    const int span = span_of(x);
    const double u = x - breaks_[static_cast<std::size_t>(span)];
    Eigen::Vector4d powers;
    switch (derivative) {
        case 0: powers << 1, u, u * u, u * u * u; break;
        case 1: powers << 0, 1, 2 * u, 3 * u * u; break;
        case 2: powers << 0, 0, 2, 6 * u; break;
        default: powers << 0, 0, 0, 6;
    }
    const Eigen::Vector4d weight = pieces_[static_cast<std::size_t>(span)] * powers;
    return {span, functions(span), {weight[0], weight[1], weight[2], weight[3]}};
}

CubicBasis::Values CubicBasis::values(double x) const {
    x = wrapped(x);
    const int span = span_of(x);
    const double u = x - breaks_[static_cast<std::size_t>(span)];
    const Piece& piece = pieces_[static_cast<std::size_t>(span)];
    return {span, piece.col(0) + u * (piece.col(1) + u * (piece.col(2) + u * piece.col(3)))};
}

CubicBasis::Jet CubicBasis::jet(double x) const {
    const auto [span, weight] = values(x);
    const double u = wrapped(x) - breaks_[static_cast<std::size_t>(span)];
    const Piece& piece = pieces_[static_cast<std::size_t>(span)];
    const Eigen::Vector4d slope = piece.col(1) + u * (2 * piece.col(2) + u * 3 * piece.col(3));
    return {{span, functions(span), {weight[0], weight[1], weight[2], weight[3]}},
            {slope[0], slope[1], slope[2], slope[3]}};
}

Eigen::MatrixXd CubicBasis::gram(int derivative) const {
    static constexpr double node[] = {-0.8611363115940526, -0.3399810435848563, 0.3399810435848563,
                                      0.8611363115940526};
    static constexpr double mass[] = {0.3478548451374538, 0.6521451548625461, 0.6521451548625461, 0.3478548451374538};
    Eigen::MatrixXd out = Eigen::MatrixXd::Zero(count(), count());
    for (std::size_t span = 0; span + 1 < breaks_.size(); ++span) {
        const double width = breaks_[span + 1] - breaks_[span];
        for (int q = 0; q < 4; ++q) {
            const Local local = at(breaks_[span] + width * (0.5 + node[q] / 2), derivative);
            for (std::size_t a = 0; a < 4; ++a)
                for (std::size_t b = 0; b < 4; ++b)
                    out(local.index[a], local.index[b]) += mass[q] * width / 2 * local.weight[a] * local.weight[b];
        }
    }
    return out;
}

}  // namespace bevelsmith::hull
