#include "geometry/polygon.h"

#include <algorithm>
#include <boost/geometry/algorithms/convex_hull.hpp>
#include <boost/geometry/algorithms/simplify.hpp>
#include <boost/geometry/geometries/linestring.hpp>
#include <boost/geometry/geometries/multi_point.hpp>
#include <boost/geometry/geometries/point_xy.hpp>
#include <boost/geometry/geometries/polygon.hpp>
#include <boost/geometry/strategies/strategies.hpp>
#include <clipper.hpp>
#include <cmath>
#include <limits>
#include <numbers>

namespace bevelsmith::geometry {
namespace {

namespace bg = boost::geometry;
using BoostPoint = bg::model::d2::point_xy<double>;

constexpr double steps_per_mm = 1e5;

ClipperLib::Path to_clipper(const Ring& ring) {
    ClipperLib::Path path;
    path.reserve(ring.size());
    for (const Vec2& p : ring)
        path.emplace_back(std::llround(p.x() * steps_per_mm), std::llround(p.y() * steps_per_mm));
    return path;
}

Ring from_clipper(const ClipperLib::Path& path) {
    Ring ring;
    ring.reserve(path.size());
    for (const auto& p : path)
        ring.emplace_back(static_cast<double>(p.X) / steps_per_mm, static_cast<double>(p.Y) / steps_per_mm);
    return ring;
}

void add_paths(ClipperLib::Clipper& clipper, const std::vector<Polygon>& polygons, ClipperLib::PolyType type) {
    for (const Polygon& raw : polygons) {
        const Polygon polygon = oriented(raw);
        clipper.AddPath(to_clipper(polygon.outer), type, true);
        for (const Ring& hole : polygon.holes) clipper.AddPath(to_clipper(hole), type, true);
    }
}

void collect(const ClipperLib::PolyNode& node, std::vector<Polygon>& out) {
    for (const auto* child : node.Childs) {
        Polygon polygon{from_clipper(child->Contour), {}};
        for (const auto* hole : child->Childs) {
            polygon.holes.push_back(from_clipper(hole->Contour));
            collect(*hole, out);
        }
        out.push_back(oriented(std::move(polygon)));
    }
}

std::vector<Polygon> combine(ClipperLib::ClipType type, const std::vector<Polygon>& a,
                             const std::vector<Polygon>& b) {
    ClipperLib::Clipper clipper;
    add_paths(clipper, a, ClipperLib::ptSubject);
    add_paths(clipper, b, ClipperLib::ptClip);
    ClipperLib::PolyTree tree;
    clipper.Execute(type, tree, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
    std::vector<Polygon> out;
    collect(tree, out);
    return out;
}

Ring simplify_ring(const Ring& ring, double tolerance_mm) {
    bg::model::linestring<BoostPoint> line, simple;
    for (const Vec2& p : ring) line.emplace_back(p.x(), p.y());
    line.push_back(line.front());
    bg::simplify(line, simple, tolerance_mm);
    Ring out;
    for (std::size_t i = 0; i + 1 < simple.size(); ++i) out.emplace_back(simple[i].x(), simple[i].y());
    return out.size() >= 3 ? out : ring;
}

}  // namespace

double area_mm2(const Ring& ring) {
    double twice = 0;
    for (std::size_t i = 0; i < ring.size(); ++i) {
        const Vec2 &a = ring[i], &b = ring[(i + 1) % ring.size()];
        twice += a.x() * b.y() - b.x() * a.y();
    }
    return twice / 2;
}

double area_mm2(const Polygon& polygon) {
    double area = std::abs(area_mm2(polygon.outer));
    for (const Ring& hole : polygon.holes) area -= std::abs(area_mm2(hole));
    return area;
}

Vec2 centroid(const Polygon& polygon) {
    // Moments about the first point, so that an outline far from the origin loses no digits.
    const Vec2 base = polygon.outer.empty() ? Vec2(0, 0) : polygon.outer.front();
    double area = 0;
    Vec2 moment(0, 0);
    auto add = [&](const Ring& ring, double sign) {
        double twice = 0;
        Vec2 m(0, 0);
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const Vec2 a = ring[i] - base, b = ring[(i + 1) % ring.size()] - base;
            const double cross = a.x() * b.y() - b.x() * a.y();
            twice += cross;
            m += (a + b) * cross;
        }
        const double turn = twice < 0 ? -sign : sign;
        area += turn * twice / 2;
        moment += turn * m / 6;
    };
    add(polygon.outer, 1);
    for (const Ring& hole : polygon.holes) add(hole, -1);
    return area == 0 ? base : Vec2(base + moment / area);
}

double length_mm(std::span<const Vec2> path, bool closed) {
    double sum = 0;
    for (std::size_t i = 0; i + 1 < path.size(); ++i) sum += (path[i + 1] - path[i]).norm();
    if (closed && path.size() > 1) sum += (path.front() - path.back()).norm();
    return sum;
}

Box bounding_box(const Ring& ring) {
    if (ring.empty()) return {};
    Box box{ring.front(), ring.front()};
    for (const Vec2& p : ring) {
        box.min = box.min.cwiseMin(p);
        box.max = box.max.cwiseMax(p);
    }
    return box;
}

Polygon oriented(Polygon polygon) {
    if (area_mm2(polygon.outer) < 0) std::reverse(polygon.outer.begin(), polygon.outer.end());
    for (Ring& hole : polygon.holes)
        if (area_mm2(hole) > 0) std::reverse(hole.begin(), hole.end());
    return polygon;
}

bool contains(const Ring& ring, const Vec2& p) {
    bool inside = false;
    for (std::size_t i = 0, j = ring.size() - 1; i < ring.size(); j = i++) {
        const Vec2 &a = ring[i], &b = ring[j];
        if ((a.y() > p.y()) == (b.y() > p.y())) continue;
        if (p.x() < (b.x() - a.x()) * (p.y() - a.y()) / (b.y() - a.y()) + a.x()) inside = !inside;
    }
    return inside;
}

bool contains(const Polygon& polygon, const Vec2& p) {
    return contains(polygon.outer, p) &&
           std::none_of(polygon.holes.begin(), polygon.holes.end(), [&](const Ring& h) { return contains(h, p); });
}

namespace {

/// Whether a segment runs through the inside of a box (Liang and Barsky's clipping, 1984, from memory).
bool runs_through(const Vec2& a, const Vec2& b, const Box& box) {
    double from = 0, to = 1;
    for (int k = 0; k < 2; ++k) {
        const double way = b[k] - a[k];
        if (way == 0) {
            if (a[k] <= box.min[k] || a[k] >= box.max[k]) return false;
            continue;
        }
        const double one = (box.min[k] - a[k]) / way, other = (box.max[k] - a[k]) / way;
        from = std::max(from, std::min(one, other));
        to = std::min(to, std::max(one, other));
        if (from >= to) return false;
    }
    return true;
}

}  // namespace

bool holds_box(const Polygon& polygon, const Box& box) {
    constexpr double hair_mm = 1e-6;
    const Box within{box.min + Vec2::Constant(hair_mm), box.max - Vec2::Constant(hair_mm)};
    const auto crossed = [&](const Ring& ring) {
        for (std::size_t i = 0; i < ring.size(); ++i)
            if (runs_through(ring[i], ring[(i + 1) % ring.size()], within)) return true;
        return false;
    };
    return contains(polygon, box.centre()) && !crossed(polygon.outer) &&
           std::none_of(polygon.holes.begin(), polygon.holes.end(), crossed);
}

double distance_to_segment_mm(const Vec2& p, const Vec2& a, const Vec2& b) {
    const Vec2 ab = b - a;
    const double len2 = ab.squaredNorm();
    const double t = len2 > 0 ? std::clamp(ab.dot(p - a) / len2, 0.0, 1.0) : 0.0;
    return (p - a - t * ab).norm();
}

namespace {

double farthest_of_corners_mm(const Polygon& corners, const Polygon& lines) {
    std::vector<const Ring*> rings{&lines.outer}, own{&corners.outer};
    for (const Ring& hole : lines.holes) rings.push_back(&hole);
    for (const Ring& hole : corners.holes) own.push_back(&hole);
    double out = 0;
    for (const Ring* ring : own)
        for (const Vec2& p : *ring) {
            double nearest = HUGE_VAL;
            for (const Ring* other : rings)
                for (std::size_t i = 0; i < other->size(); ++i)
                    nearest =
                        std::min(nearest, distance_to_segment_mm(p, (*other)[i], (*other)[(i + 1) % other->size()]));
            out = std::max(out, nearest);
        }
    return out;
}

}  // namespace

double farthest_mm(const Polygon& a, const Polygon& b) {
    if (a.holes.size() != b.holes.size()) return HUGE_VAL;
    return std::max(farthest_of_corners_mm(a, b), farthest_of_corners_mm(b, a));
}

std::vector<Polygon> unite(const std::vector<Polygon>& a, const std::vector<Polygon>& b) {
    return combine(ClipperLib::ctUnion, a, b);
}
std::vector<Polygon> intersect(const std::vector<Polygon>& a, const std::vector<Polygon>& b) {
    return combine(ClipperLib::ctIntersection, a, b);
}
std::vector<Polygon> subtract(const std::vector<Polygon>& a, const std::vector<Polygon>& b) {
    return combine(ClipperLib::ctDifference, a, b);
}

double total_area_mm2(const std::vector<Polygon>& polygons) {
    double sum = 0;
    for (const Polygon& p : polygons) sum += area_mm2(p);
    return sum;
}

Polygon largest(std::vector<Polygon> polygons) {
    if (polygons.empty()) return {};
    return *std::max_element(polygons.begin(), polygons.end(),
                             [](const Polygon& a, const Polygon& b) { return area_mm2(a) < area_mm2(b); });
}

std::vector<Polygon> offset(const Polygon& polygon, double distance_mm, Corner corner) {
    ClipperLib::ClipperOffset engine(4.0, 0.02 * steps_per_mm);
    const auto join = corner == Corner::round ? ClipperLib::jtRound : ClipperLib::jtMiter;
    const Polygon turned = oriented(polygon);
    engine.AddPath(to_clipper(turned.outer), join, ClipperLib::etClosedPolygon);
    for (const Ring& hole : turned.holes) engine.AddPath(to_clipper(hole), join, ClipperLib::etClosedPolygon);
    ClipperLib::PolyTree tree;
    engine.Execute(tree, distance_mm * steps_per_mm);
    std::vector<Polygon> out;
    collect(tree, out);
    return out;
}

Ring convex_hull(std::vector<Vec2> points) {
    bg::model::multi_point<BoostPoint> cloud;
    for (const Vec2& p : points) cloud.emplace_back(p.x(), p.y());
    bg::model::polygon<BoostPoint, false> hull;  // counter-clockwise, closed
    bg::convex_hull(cloud, hull);
    Ring ring;
    for (std::size_t i = 0; i + 1 < hull.outer().size(); ++i)
        ring.emplace_back(hull.outer()[i].x(), hull.outer()[i].y());
    return ring;
}

Polygon simplified_cover(const Polygon& polygon, double tolerance_mm) {
    auto grown = offset(polygon, tolerance_mm, Corner::mitre);
    if (grown.empty()) return polygon;
    Polygon cover = largest(std::move(grown));
    cover.outer = simplify_ring(cover.outer, tolerance_mm);
    for (Ring& hole : cover.holes) hole = simplify_ring(hole, tolerance_mm);
    return cover;
}

Ring transformed(const Ring& ring, double angle_rad, const Vec2& shift) {
    // Whole quarter turns come out exact, so that parts laid square stay square.
    const double quarters = angle_rad / (std::numbers::pi / 2);
    double c = std::cos(angle_rad), s = std::sin(angle_rad);
    if (std::abs(quarters - std::round(quarters)) < 1e-12) c = std::round(c), s = std::round(s);
    Ring out;
    out.reserve(ring.size());
    for (const Vec2& p : ring) out.emplace_back(c * p.x() - s * p.y() + shift.x(), s * p.x() + c * p.y() + shift.y());
    return out;
}

Polygon transformed(const Polygon& polygon, double angle_rad, const Vec2& shift) {
    Polygon out{transformed(polygon.outer, angle_rad, shift), {}};
    for (const Ring& hole : polygon.holes) out.holes.push_back(transformed(hole, angle_rad, shift));
    return out;
}

Polygon mirrored(const Polygon& polygon) {
    auto flip = [](Ring ring) {
        for (Vec2& p : ring) p.x() = -p.x();
        return ring;
    };
    Polygon out{flip(polygon.outer), {}};
    for (const Ring& hole : polygon.holes) out.holes.push_back(flip(hole));
    return oriented(std::move(out));
}

Ring rectangle(const Box& box) {
    return {box.min, {box.max.x(), box.min.y()}, box.max, {box.min.x(), box.max.y()}};
}

Ring rounded_rectangle(const Box& box, double radius_mm) {
    const double r = std::min({radius_mm, box.width() / 2, box.height() / 2});
    if (r <= 0) return rectangle(box);
    const double sagitta = std::min(0.05, r / 2);
    const int chords = std::max(2, static_cast<int>(std::ceil(std::numbers::pi / 4 / std::acos(1 - sagitta / r))));
    const Vec2 centres[] = {{box.max.x() - r, box.min.y() + r},
                            {box.max.x() - r, box.max.y() - r},
                            {box.min.x() + r, box.max.y() - r},
                            {box.min.x() + r, box.min.y() + r}};
    Ring ring;
    for (int corner = 0; corner < 4; ++corner)
        for (int i = 0; i <= chords; ++i) {
            const double a = std::numbers::pi / 2 * (corner - 1 + static_cast<double>(i) / chords);
            const Vec2 p = centres[corner] + r * Vec2(std::cos(a), std::sin(a));
            if (ring.empty() || (ring.back() - p).norm() > 1e-9) ring.push_back(p);
        }
    return ring;
}

MinimumWidth minimum_width(const Ring& ring) {
    const Ring hull = convex_hull(ring);
    MinimumWidth best{std::numeric_limits<double>::infinity(), 0, {1, 0}};
    for (std::size_t i = 0; i < hull.size(); ++i) {
        const Vec2 edge = hull[(i + 1) % hull.size()] - hull[i];
        if (edge.norm() < 1e-9) continue;
        const Vec2 along = edge.normalized(), across(-along.y(), along.x());
        double width = 0, low = HUGE_VAL, high = -HUGE_VAL;
        for (const Vec2& p : hull) {
            width = std::max(width, across.dot(p - hull[i]));
            low = std::min(low, along.dot(p));
            high = std::max(high, along.dot(p));
        }
        if (width < best.width_mm) best = {width, high - low, along};
    }
    if (!std::isfinite(best.width_mm)) best.width_mm = 0;
    return best;
}

std::vector<double> arc_lengths(std::span<const Vec2> path) {
    std::vector<double> out(path.size(), 0.0);
    for (std::size_t i = 1; i < path.size(); ++i) out[i] = out[i - 1] + (path[i] - path[i - 1]).norm();
    return out;
}

}  // namespace bevelsmith::geometry
