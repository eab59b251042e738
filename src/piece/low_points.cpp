#include "piece/low_points.h"

#include <algorithm>
#include <cmath>

namespace bevelsmith::piece {
namespace {

constexpr double level_mm = 0.01;

/// A level run of the ring's corners that lies below what is on both sides of it.
struct Low {
    std::size_t first, last;
    Vec2 at;
};

bool bends_up(const Vec2& before, const Vec2& from, const Vec2& to, const Vec2& after) {
    const Vec2 in = from - before, out = after - to;
    return in.x() * out.y() - in.y() * out.x() > 0;
}

std::vector<Low> local_lows(const geometry::Ring& ring) {
    std::vector<Low> out;
    const std::size_t n = ring.size();
    for (std::size_t i = 0; i < n; ++i) {
        const Vec2& before = ring[(i + n - 1) % n];
        if (before.y() <= ring[i].y() + level_mm) continue;
        std::size_t k = i;
        while (std::abs(ring[(k + 1) % n].y() - ring[i].y()) <= level_mm && (k + 1) % n != i) k = (k + 1) % n;
        const Vec2& after = ring[(k + 1) % n];
        if (after.y() < ring[i].y() || !bends_up(before, ring[i], ring[k], after)) continue;
        out.push_back({i, k, (ring[i] + ring[k]) / 2});
    }
    return out;
}

/// The highest place of the ring between two of its corners, going on.
double highest_between(const geometry::Ring& ring, std::size_t from, std::size_t to) {
    double out = -HUGE_VAL;
    for (std::size_t i = from; i != to; i = (i + 1) % ring.size()) out = std::max(out, ring[i].y());
    return out;
}

}  // namespace

std::vector<Vec2> low_points(const geometry::Ring& ring) {
    std::vector<Low> lows = local_lows(ring);
    std::sort(lows.begin(), lows.end(), [](const Low& a, const Low& b) { return a.at.y() < b.at.y(); });
    std::vector<Low> kept;
    for (const Low& low : lows) {
        const bool apart = std::all_of(kept.begin(), kept.end(), [&](const Low& other) {
            const double ridge =
                std::min(highest_between(ring, low.last, other.first), highest_between(ring, other.last, low.first));
            return ridge - low.at.y() > least_pool_mm;
        });
        if (apart) kept.push_back(low);
    }
    std::vector<Vec2> out;
    for (const Low& low : kept) out.push_back(low.at);
    return out;
}

Vec2 lowest_at(const geometry::Ring& ring, double u) {
    Vec2 best(u, HUGE_VAL), nearest = ring.front();
    for (std::size_t i = 0; i < ring.size(); ++i) {
        const Vec2 a = ring[i], b = ring[(i + 1) % ring.size()];
        if (std::abs(a.x() - u) < std::abs(nearest.x() - u)) nearest = a;
        if ((a.x() > u) == (b.x() > u)) continue;
        const double v = a.y() + (b.y() - a.y()) * (u - a.x()) / (b.x() - a.x());
        if (v < best.y()) best.y() = v;
    }
    return std::isfinite(best.y()) ? best : nearest;
}

}  // namespace bevelsmith::piece
