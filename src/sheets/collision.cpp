#include "sheets/collision.h"

#include <algorithm>

namespace bevelsmith::sheets {
namespace {

using geometry::Box;
using geometry::Ring;

/// Overlaps thinner than this are touching: far below the 0.05 mm that spacing is kept to.
constexpr double touching_mm = 1e-6;

double side_of(const Vec2& a, const Vec2& b, const Vec2& p) {
    return (b.x() - a.x()) * (p.y() - a.y()) - (b.y() - a.y()) * (p.x() - a.x());
}

bool segments_cross(const Vec2& a, const Vec2& b, const Vec2& c, const Vec2& d) {
    const double scale_ab = touching_mm * (std::abs(b.x() - a.x()) + std::abs(b.y() - a.y()));
    const double scale_cd = touching_mm * (std::abs(d.x() - c.x()) + std::abs(d.y() - c.y()));
    const double c_side = side_of(a, b, c), d_side = side_of(a, b, d);
    if ((c_side > -scale_ab && d_side > -scale_ab) || (c_side < scale_ab && d_side < scale_ab)) return false;
    const double a_side = side_of(c, d, a), b_side = side_of(c, d, b);
    return !((a_side > -scale_cd && b_side > -scale_cd) || (a_side < scale_cd && b_side < scale_cd));
}

/// Calls `f` with every ring of a polygon until it returns true.
template <class F>
bool any_ring(const geometry::Polygon& p, F f) {
    return f(p.outer) || std::any_of(p.holes.begin(), p.holes.end(), f);
}

bool rings_cross(const Ring& a, const Vec2& shift, const Ring& b, const Box& window) {
    const std::size_t na = a.size(), nb = b.size();
    for (std::size_t i = 0; i < na; ++i) {
        const Vec2 p = a[i] + shift, q = a[(i + 1) % na] + shift;
        if (std::max(p.x(), q.x()) < window.min.x() || std::min(p.x(), q.x()) > window.max.x() ||
            std::max(p.y(), q.y()) < window.min.y() || std::min(p.y(), q.y()) > window.max.y())
            continue;
        for (std::size_t k = 0; k < nb; ++k) {
            const Vec2 &c = b[k], &d = b[(k + 1) % nb];
            if (std::max(c.x(), d.x()) < std::min(p.x(), q.x()) || std::min(c.x(), d.x()) > std::max(p.x(), q.x()) ||
                std::max(c.y(), d.y()) < std::min(p.y(), q.y()) || std::min(c.y(), d.y()) > std::max(p.y(), q.y()))
                continue;
            if (segments_cross(p, q, c, d)) return true;
        }
    }
    return false;
}

bool borders_cross(const geometry::Polygon& a, const Vec2& shift, const geometry::Polygon& b, const Box& window) {
    return any_ring(a, [&](const Ring& ra) {
        return any_ring(b, [&](const Ring& rb) { return rings_cross(ra, shift, rb, window); });
    });
}

/// Inside and farther than touching from every border.
bool strictly_inside(const geometry::Polygon& shape, const Vec2& p) {
    if (!geometry::contains(shape, p)) return false;
    return !any_ring(shape, [&](const Ring& ring) {
        for (std::size_t i = 0; i < ring.size(); ++i)
            if (geometry::distance_to_segment_mm(p, ring[i], ring[(i + 1) % ring.size()]) < 2 * touching_mm)
                return true;
        return false;
    });
}

/// A vertex or the middle of a side of `a` deep inside `b`: finds containment where borders do not cross, and
/// coincident borders, where crossing tests see nothing.
bool reaches_into(const geometry::Polygon& a, const Vec2& shift, const geometry::Polygon& b, const Box& window) {
    const std::size_t n = a.outer.size();
    // The window's rim counts: a side of `a` may be what bounds it.
    const auto in_window = [&](const Vec2& p) {
        return p.x() >= window.min.x() && p.x() <= window.max.x() && p.y() >= window.min.y() &&
               p.y() <= window.max.y();
    };
    for (std::size_t i = 0; i < n; ++i) {
        const Vec2 p = a.outer[i] + shift, middle = (a.outer[i] + a.outer[(i + 1) % n]) / 2 + shift;
        if (in_window(p) && strictly_inside(b, p)) return true;
        if (in_window(middle) && strictly_inside(b, middle)) return true;
    }
    return false;
}

/// A point strictly inside a polygon: the middle of the longest inner stretch of some level line.
Vec2 inner_point(const geometry::Polygon& shape) {
    const Box box = geometry::bounding_box(shape.outer);
    Vec2 best = box.centre();
    double widest = 0;
    for (double share : {0.5, 0.37, 0.63, 0.21, 0.79}) {
        const double y = box.min.y() + share * box.height();
        std::vector<double> crossings;
        any_ring(shape, [&](const Ring& ring) {
            for (std::size_t i = 0; i < ring.size(); ++i) {
                const Vec2 &a = ring[i], &b = ring[(i + 1) % ring.size()];
                if ((a.y() > y) != (b.y() > y))
                    crossings.push_back(a.x() + (b.x() - a.x()) * (y - a.y()) / (b.y() - a.y()));
            }
            return false;
        });
        std::sort(crossings.begin(), crossings.end());
        for (std::size_t i = 0; i + 1 < crossings.size(); i += 2)
            if (crossings[i + 1] - crossings[i] > widest) {
                widest = crossings[i + 1] - crossings[i];
                best = {(crossings[i] + crossings[i + 1]) / 2, y};
            }
    }
    return best;
}

}  // namespace

Footprint make_footprint(geometry::Polygon shape) {
    const Box box = geometry::bounding_box(shape.outer);
    return {std::move(shape), box};
}

bool collide(const Footprint& a, const Vec2& shift_a, const Footprint& b, const Vec2& shift_b) {
    const Vec2 shift = shift_a - shift_b;
    Box window{(a.box.min + shift).cwiseMax(b.box.min), (a.box.max + shift).cwiseMin(b.box.max)};
    if (window.width() <= touching_mm || window.height() <= touching_mm) return false;
    if (borders_cross(a.shape, shift, b.shape, window)) return true;
    if (reaches_into(a.shape, shift, b.shape, window)) return true;
    const Box moved{window.min - shift, window.max - shift};
    if (reaches_into(b.shape, -shift, a.shape, moved)) return true;
    // Equal shapes on top of each other have no corner inside: their inner points tell.
    return strictly_inside(b.shape, inner_point(a.shape) + shift) ||
           strictly_inside(a.shape, inner_point(b.shape) - shift);
}

bool within(const Footprint& part, const Vec2& shift, const Footprint& room) {
    const Vec2 low = part.box.min + shift, high = part.box.max + shift;
    if (low.x() < room.box.min.x() - touching_mm || low.y() < room.box.min.y() - touching_mm ||
        high.x() > room.box.max.x() + touching_mm || high.y() > room.box.max.y() + touching_mm)
        return false;
    const bool plain = room.shape.outer.size() == 4 && room.shape.holes.empty() &&
                       std::abs(geometry::area_mm2(room.shape.outer) - room.box.width() * room.box.height()) < 1e-6;
    if (plain) return true;
    const Box window{low, high};
    if (borders_cross(part.shape, shift, room.shape, window)) return false;
    if (!geometry::contains(room.shape, inner_point(part.shape) + shift)) return false;
    const geometry::Polygon solid{room.shape.outer, {}};
    for (const Vec2& p : part.shape.outer) {
        const Vec2 q = p + shift;
        if (geometry::contains(solid, q)) continue;
        double border = 1e30;
        for (std::size_t i = 0; i < solid.outer.size(); ++i)
            border = std::min(border, geometry::distance_to_segment_mm(q, solid.outer[i],
                                                                       solid.outer[(i + 1) % solid.outer.size()]));
        if (border > 2 * touching_mm) return false;
    }
    for (const Ring& hole : room.shape.holes)
        if (reaches_into({hole, {}}, -shift, part.shape, {window.min - shift, window.max - shift})) return false;
    return true;
}

}  // namespace bevelsmith::sheets
