#include "hull/chart.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "geometry/least_squares.h"

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

/// Beyond their ends two lines may meet: the strip between them stays as wide as a pencil line there.
double width_between(const HardLine& below, const HardLine& above, double s) {
    return std::max(1e-3, above.at(s) - below.at(s));
}

/// Least squares: of third degree where there are points enough, straight through two.
Result<HardLine> hard_line(const Chart& plain, const std::vector<Vec3>& points) {
    const auto n = static_cast<Eigen::Index>(points.size());
    Eigen::VectorXd s(n), v(n);
    for (Eigen::Index i = 0; i < n; ++i) {
        const ChartPoint c = plain.to_chart(points[static_cast<std::size_t>(i)]);
        s[i] = c.s;
        v[i] = c.v;
    }
    HardLine out;
    out.from = s.minCoeff();
    out.to = s.maxCoeff();
    if (out.to - out.from < 0.5 * (v.maxCoeff() - v.minCoeff()) || out.to - out.from < 0.05)
        return Error{"a hard line must run along the surface: this one runs across it, or is too short"};
    const Eigen::Index terms = n < 3 ? 2 : n < 6 ? 3 : 4;
    Eigen::MatrixXd powers(n, terms);
    for (Eigen::Index i = 0; i < n; ++i)
        for (Eigen::Index k = 0; k < terms; ++k) powers(i, k) = std::pow(s[i] - out.from, k);
    out.v.head(terms) = geometry::least_squares(powers, v);
    out.mean = v.mean();
    const double worst = (powers * out.v.head(terms) - v).cwiseAbs().maxCoeff();
    if (worst > 0.04)
        return Error{
            fmt::format("a hard line is read in one sweep, and these points leave it by {:.0f} mm: divide it "
                        "into two surfaces, or look for a wrong reading",
                        1000 * worst)};
    return out;
}

}  // namespace

ChartPoint Chart::to_chart(const Vec3& p_mm) const {
    const Vec3 q = (p_mm - origin) / mm_per_m;
    const double s = e_s.dot(q), y = e_v.dot(q), z = e_h.dot(q);
    if (kind == Kind::plane) return {s, warped(s, y), z};
    return {s, warped(s, std::atan2(z, y) * mean_radius_m), std::hypot(y, z)};
}

double HardLine::at(double s) const {
    const double x = std::clamp(s, from, to) - from;
    return v[0] + x * (v[1] + x * (v[2] + x * v[3])) + slope(s) * (s - from - x);
}

double HardLine::slope(double s) const {
    const double x = std::clamp(s, from, to) - from;
    return v[1] + x * (2 * v[2] + x * 3 * v[3]);
}

double Chart::warped(double s, double v) const {
    if (hard_lines.empty()) return v;
    std::size_t k = 0;
    while (k < hard_lines.size() && v >= hard_lines[k].at(s)) ++k;
    if (k == 0) return v - hard_lines[0].at(s) + hard_lines[0].mean;
    const HardLine& below = hard_lines[k - 1];
    if (k == hard_lines.size()) return v - below.at(s) + below.mean;
    const HardLine& above = hard_lines[k];
    return below.mean + (v - below.at(s)) * (above.mean - below.mean) / width_between(below, above, s);
}

Chart::Laid Chart::unwarped(double s, double v) const {
    if (hard_lines.empty()) return {v, 0, 1};
    std::size_t k = 0;
    while (k < hard_lines.size() && v >= hard_lines[k].mean) ++k;
    const HardLine& one = hard_lines[k == 0 ? 0 : k - 1];
    if (k == 0 || k == hard_lines.size()) return {v - one.mean + one.at(s), one.slope(s), 1};
    const HardLine& above = hard_lines[k];
    const double share = (v - one.mean) / (above.mean - one.mean);
    const double width = width_between(one, above, s);
    return {one.at(s) + share * width, one.slope(s) + share * (above.slope(s) - one.slope(s)),
            width / (above.mean - one.mean)};
}

Result<Chart> Chart::with_hard_lines(const std::vector<std::vector<Vec3>>& lines) const {
    Chart out = *this;
    out.hard_lines.clear();
    if (lines.empty()) return out;
    if (closed) return Error{"a surface that closes around its axis cannot have a hard line: divide it in two"};
    for (const auto& points : lines) {
        const auto line = hard_line(*this, points);
        if (!line) return line.error();
        out.hard_lines.push_back(*line);
    }
    std::sort(out.hard_lines.begin(), out.hard_lines.end(),
              [](const HardLine& a, const HardLine& b) { return a.mean < b.mean; });
    for (std::size_t k = 1; k < out.hard_lines.size(); ++k)
        for (double share : {0.0, 0.25, 0.5, 0.75, 1.0}) {
            const HardLine &a = out.hard_lines[k - 1], &b = out.hard_lines[k];
            const double s = std::min(a.from, b.from) + share * (std::max(a.to, b.to) - std::min(a.from, b.from));
            if (b.at(s) - a.at(s) < 0.02)
                return Error{"two hard lines cross or nearly touch: divide the surface, or drop one of them"};
        }
    return out;
}

Vec3 Chart::to_space(const ChartPoint& c) const {
    return jet(c.s, c.v, c.height, 0, 0).position;
}

ChartJet Chart::jet(double s, double v, double h, double h_s, double h_v) const {
    const Laid laid = unwarped(s, v);
    Vec3 at, across, ray;
    if (kind == Kind::plane) {
        at = s * e_s + laid.v * e_v + h * e_h;
        across = e_v;
        ray = e_h;
    } else {
        const double a = laid.v / mean_radius_m;
        ray = std::cos(a) * e_v + std::sin(a) * e_h;
        at = s * e_s + h * ray;
        across = h / mean_radius_m * (-std::sin(a) * e_v + std::cos(a) * e_h);
    }
    return {origin + mm_per_m * at, mm_per_m * (e_s + laid.along_s * across + h_s * ray),
            mm_per_m * (laid.along_v * across + h_v * ray), ray};
}

double Chart::half_turn_m() const {
    return std::numbers::pi * mean_radius_m;
}

std::string Chart::words() const {
    if (!hard_lines.empty()) {
        Chart plain = *this;
        plain.hard_lines.clear();
        return plain.words() + (hard_lines.size() == 1 ? ", with a hard line" : ", with hard lines");
    }
    if (kind == Kind::plane) return std::string("over a plane facing ") + nearest_word(e_h, true);
    return std::string(closed ? "all around an axis " : "around an axis ") + nearest_word(e_s, false);
}

}  // namespace bevelsmith::hull
