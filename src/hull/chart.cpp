#include "hull/chart.h"

#include <cmath>
#include <numbers>

namespace bevelsmith::hull {
namespace {

constexpr double mm_per_m = 1000.0;

/// The boat's word for the axis nearest to a direction; `signed_words` tells ends of an axis apart.
const char* nearest_word(const Vec3& d, bool signed_words) {
    int axis = 0;
    d.cwiseAbs().maxCoeff(&axis);
    const bool positive = d[axis] >= 0;
    if (!signed_words) return axis == 0 ? "along the boat" : axis == 1 ? "across the boat" : "upright";
    if (axis == 0) return positive ? "forward" : "aft";
    if (axis == 1) return positive ? "port" : "starboard";
    return positive ? "up" : "down";
}

}  // namespace

ChartPoint Chart::to_chart(const Vec3& p_mm) const {
    const Vec3 q = (p_mm - origin) / mm_per_m;
    const double s = e_s.dot(q), y = e_v.dot(q), z = e_h.dot(q);
    if (kind == Kind::plane) return {s, y, z};
    return {s, std::atan2(z, y) * mean_radius_m, std::hypot(y, z)};
}

Vec3 Chart::to_space(const ChartPoint& c) const {
    return jet(c.s, c.v, c.height, 0, 0).position;
}

ChartJet Chart::jet(double s, double v, double h, double h_s, double h_v) const {
    if (kind == Kind::plane)
        return {origin + mm_per_m * (s * e_s + v * e_v + h * e_h), mm_per_m * (e_s + h_s * e_h),
                mm_per_m * (e_v + h_v * e_h), e_h};
    const double a = v / mean_radius_m;
    const Vec3 ray = std::cos(a) * e_v + std::sin(a) * e_h;
    const Vec3 turn = -std::sin(a) * e_v + std::cos(a) * e_h;
    return {origin + mm_per_m * (s * e_s + h * ray), mm_per_m * (e_s + h_s * ray),
            mm_per_m * (h_v * ray + h / mean_radius_m * turn), ray};
}

double Chart::half_turn_m() const {
    return std::numbers::pi * mean_radius_m;
}

std::string Chart::words() const {
    if (kind == Kind::plane) return std::string("over a plane facing ") + nearest_word(e_h, true);
    return std::string(closed ? "all around an axis " : "around an axis ") + nearest_word(e_s, false);
}

}  // namespace bevelsmith::hull
