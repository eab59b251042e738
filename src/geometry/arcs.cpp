#include "geometry/arcs.h"

#include <cmath>
#include <optional>

namespace bevelsmith::geometry {
namespace {

struct Circle {
    Vec2 centre{0, 0};
    double radius = 0;
};

std::optional<Circle> through(const Vec2& a, const Vec2& b, const Vec2& c) {
    const Vec2 u = b - a, v = c - a;
    const double cross = u.x() * v.y() - u.y() * v.x();
    if (std::abs(cross) < 1e-9 * u.norm() * v.norm() || u.norm() < 1e-9) return std::nullopt;
    const Vec2 middle =
        Vec2(v.y() * u.squaredNorm() - u.y() * v.squaredNorm(), u.x() * v.squaredNorm() - v.x() * u.squaredNorm()) /
        (2 * cross);
    return Circle{a + middle, middle.norm()};
}

/// How far a run on one circle goes from a corner on: the number of chords.
std::size_t run_from(const Ring& ring, std::size_t first, std::size_t most, double tolerance_mm) {
    const auto at = [&](std::size_t k) -> const Vec2& { return ring[(first + k) % ring.size()]; };
    if (most < 3) return 0;
    const auto circle = through(at(0), at(1), at(2));
    constexpr double largest_radius_mm = 20'000;
    if (!circle || circle->radius > largest_radius_mm) return 0;
    const auto turn = [&](std::size_t k) {
        const Vec2 a = at(k) - circle->centre, b = at(k + 1) - circle->centre;
        return std::atan2(a.x() * b.y() - a.y() * b.x(), a.dot(b));
    };
    const double one = turn(0);
    double sum = one;
    std::size_t n = 1;
    for (; n < most; ++n) {
        const double next = turn(n);
        const bool on_circle = std::abs((at(n + 1) - circle->centre).norm() - circle->radius) <= tolerance_mm;
        // A chord that is no share of the circle like the others is a line that happens to end on it.
        const bool like =
            next * one > 0 && std::abs(next) < 2.1 * std::abs(one) && std::abs(next) > std::abs(one) / 2.1;
        if (!on_circle || !like || std::abs(sum + next) > M_PI + 1e-9) break;
        sum += next;
    }
    // A batten's curve is a circle nowhere for long.
    constexpr double least_turn_rad = 0.35;
    return std::abs(sum) >= least_turn_rad ? n : 0;
}

}  // namespace

std::vector<ArcCorner> with_arcs(const Ring& ring, double tolerance_mm) {
    std::vector<ArcCorner> out;
    constexpr std::size_t least_chords = 3;
    for (std::size_t i = 0; i < ring.size();) {
        const std::size_t chords = run_from(ring, i, ring.size() - i, tolerance_mm);
        if (chords < least_chords) {
            out.push_back({ring[i], 0});
            ++i;
            continue;
        }
        const Vec2 &a = ring[i], &b = ring[(i + chords / 2) % ring.size()], &c = ring[(i + chords) % ring.size()];
        const auto circle = through(a, b, c);
        const Vec2 u = a - circle->centre, v = c - circle->centre, half = b - circle->centre;
        double angle = std::atan2(u.x() * v.y() - u.y() * v.x(), u.dot(v));
        // Which way round it goes, its middle tells.
        const double to_half = std::atan2(u.x() * half.y() - u.y() * half.x(), u.dot(half));
        if (angle * to_half < 0) angle += to_half > 0 ? 2 * M_PI : -2 * M_PI;
        out.push_back({a, std::tan(angle / 4)});
        i += chords;
    }
    return out;
}

}  // namespace bevelsmith::geometry
