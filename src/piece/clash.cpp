#include "piece/clash.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "piece/meeting_line.h"

namespace bevelsmith::piece {
namespace {

constexpr double least_shared_mm = 3;
/// Planes nearer to parallel than this (sine) lie flat on each other.
constexpr double flat_sine = 0.02;

double middle_depth(const Outline& o) {
    return o.frame.normal.dot(o.frame.origin) + o.thickness_mm / 2;
}

std::optional<Clash> crossing(const Outline& a, const Outline& b) {
    const auto line = meeting_line(a.frame.normal, middle_depth(a), b.frame.normal, middle_depth(b), flat_sine);
    if (!line) return std::nullopt;
    Clash out;
    for (const Span& one : spans_within(a.face_a, drawn(*line, a.frame)))
        for (const Span& other : spans_within(b.face_a, drawn(*line, b.frame))) {
            const double from = std::max(one.from, other.from), to = std::min(one.to, other.to);
            if (to - from > out.length_mm) out = {to - from, line->at + (from + to) / 2 * line->way};
        }
    if (out.length_mm < least_shared_mm) return std::nullopt;
    return out;
}

/// Boards that lie in one another's thickness.
std::optional<Clash> flat(const Outline& a, const Outline& b) {
    const double apart = a.frame.normal.dot(b.frame.origin - a.frame.origin),
                 far_side = apart + (a.frame.normal.dot(b.frame.normal) > 0 ? 1 : -1) * b.thickness_mm;
    const double shared =
        std::min(a.thickness_mm, std::max(apart, far_side)) - std::max(0.0, std::min(apart, far_side));
    if (shared < least_shared_mm) return std::nullopt;
    geometry::Polygon there;
    const auto ring = [&](const geometry::Ring& r) {
        geometry::Ring out;
        for (const Vec2& p : r) out.push_back(a.frame.to_plane(b.frame.to_space(p)));
        return out;
    };
    there.outer = ring(b.face_a.outer);
    for (const auto& hole : b.face_a.holes) there.holes.push_back(ring(hole));
    const auto both = geometry::largest(geometry::intersect({a.face_a}, {geometry::oriented(there)}));
    const double area = both.outer.size() < 3 ? 0 : geometry::area_mm2(both);
    // A sliver along an edge that two panels share is a bevel.
    if (both.outer.size() < 3 || geometry::minimum_width(both.outer).width_mm < a.thickness_mm / 2)
        return std::nullopt;
    return Clash{std::sqrt(area), a.frame.to_space(geometry::centroid(both))};
}

}  // namespace

std::optional<Clash> clash_of(const Outline& a, const Outline& b) {
    return a.frame.normal.cross(b.frame.normal).norm() < flat_sine ? flat(a, b) : crossing(a, b);
}

}  // namespace bevelsmith::piece
