#include "hull/bspline.h"

#include <algorithm>
#include <cmath>

namespace bevelsmith::hull {
namespace {

std::array<double, 4> cubic_weights(double t, int derivative) {
    const double u = 1 - t;
    switch (derivative) {
        case 0:
            return {u * u * u / 6, (3 * t * t * t - 6 * t * t + 4) / 6, (3 * u * u * u - 6 * u * u + 4) / 6,
                    t * t * t / 6};
        case 1: return {-u * u / 2, (3 * t * t - 4 * t) / 2, (-3 * u * u + 4 * u) / 2, t * t / 2};
        case 2: return {u, 3 * t - 2, 3 * u - 2, t};
        default: return {-1, 3, -3, 1};
    }
}

}  // namespace

UniformCubic::UniformCubic(double low, double high, int intervals, bool periodic)
    : low_(low), high_(high), step_((high - low) / intervals), intervals_(intervals), periodic_(periodic) {}

UniformCubic::Local UniformCubic::at(double x, int derivative) const {
    double position = (x - low_) / step_;
    if (periodic_) position -= std::floor(position / intervals_) * intervals_;
    const int span = std::clamp(static_cast<int>(std::floor(position)), 0, intervals_ - 1);
    Local local;
    local.weight = cubic_weights(position - span, derivative);
    const double scale = std::pow(step_, -derivative);
    for (int k = 0; k < 4; ++k) {
        local.index[static_cast<std::size_t>(k)] = periodic_ ? (span + k) % intervals_ : span + k;
        local.weight[static_cast<std::size_t>(k)] *= scale;
    }
    return local;
}

Eigen::MatrixXd UniformCubic::gram(int derivative) const {
    static constexpr double node[] = {-0.8611363115940526, -0.3399810435848563, 0.3399810435848563,
                                      0.8611363115940526};
    static constexpr double mass[] = {0.3478548451374538, 0.6521451548625461, 0.6521451548625461, 0.3478548451374538};
    Eigen::MatrixXd out = Eigen::MatrixXd::Zero(count(), count());
    for (int span = 0; span < intervals_; ++span)
        for (int q = 0; q < 4; ++q) {
            const Local local = at(low_ + step_ * (span + 0.5 + node[q] / 2), derivative);
            for (std::size_t a = 0; a < 4; ++a)
                for (std::size_t b = 0; b < 4; ++b)
                    out(local.index[a], local.index[b]) += mass[q] * step_ / 2 * local.weight[a] * local.weight[b];
        }
    return out;
}

}  // namespace bevelsmith::hull
