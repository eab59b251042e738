#include "hull/far_off.h"

#include <algorithm>
#include <cmath>

namespace bevelsmith::hull {
namespace {

/// Where nine tenths of the readings lie, along each axis.
struct Middle {
    Vec3 low, high;
    Vec3 size() const { return high - low; }
};

Middle middle_of(std::span<const survey::Point> points) {
    Middle out;
    std::vector<double> along(points.size());
    const auto twentieth = static_cast<std::ptrdiff_t>(points.size() / 20);
    for (int axis = 0; axis < 3; ++axis) {
        std::transform(points.begin(), points.end(), along.begin(), [&](const auto& p) { return p.position[axis]; });
        std::nth_element(along.begin(), along.begin() + twentieth, along.end());
        out.low[axis] = along[static_cast<std::size_t>(twentieth)];
        std::nth_element(along.begin(), along.end() - 1 - twentieth, along.end());
        out.high[axis] = along[along.size() - 1 - static_cast<std::size_t>(twentieth)];
    }
    return out;
}

}  // namespace

std::vector<int> far_off(std::span<const survey::Point> points) {
    if (points.empty()) return {};
    const Middle middle = middle_of(points);
    const Vec3 reach = (1.5 * middle.size()).cwiseMax(0.5 * middle.size().maxCoeff());
    std::vector<int> out;
    for (std::size_t i = 0; i < points.size(); ++i) {
        const Vec3& p = points[i].position;
        if (((middle.low - reach - p).array() > 0).any() || ((p - middle.high - reach).array() > 0).any())
            out.push_back(static_cast<int>(i));
    }
    if (out.size() > points.size() / 20 + 1) return {};
    const double alone = 0.25 * middle.size().maxCoeff();
    std::erase_if(out, [&](int i) {
        const auto near = [&](const auto& other) {
            const double apart = (other.position - points[static_cast<std::size_t>(i)].position).norm();
            return &other != &points[static_cast<std::size_t>(i)] && apart < alone;
        };
        return std::any_of(points.begin(), points.end(), near);
    });
    return out;
}

}  // namespace bevelsmith::hull
