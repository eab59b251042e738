// Closed outlines in a plane: measures, set operations, offsets. Millimetres throughout.
//
// Set operations run on integers of 1e-5 mm (Clipper), so results are exact to that step; outlines must
// lie within 10 km of the origin. What is inside follows the non-zero rule, so an outline that crosses itself is
// cleared into ones that do not (both loops of a figure eight count), and holes must run against their outer ring:
// see `oriented`. Results are oriented, without rings of fewer than three corners.
//
// Rings of fewer than three corners, and ones without area, enclose nothing: their area is 0, they contain no point,
// and set operations leave them out. Nothing here fails; numbers that are not finite must not come in.
#pragma once

#include <span>
#include <vector>

#include "geometry/vec.h"

namespace bevelsmith::geometry {

/// An open ring (the last point is not the first).
using Ring = std::vector<Vec2>;

/// Outer ring counter-clockwise, holes clockwise.
struct Polygon {
    Ring outer;
    std::vector<Ring> holes;
    bool operator==(const Polygon&) const = default;
};

struct Box {
    Vec2 min{0, 0}, max{0, 0};
    double width() const { return max.x() - min.x(); }
    double height() const { return max.y() - min.y(); }
    Vec2 size() const { return max - min; }
    Vec2 centre() const { return (min + max) / 2; }
    bool overlaps(const Box& o) const {
        return min.x() < o.max.x() && o.min.x() < max.x() && min.y() < o.max.y() && o.min.y() < max.y();
    }
};

/// Signed: positive counter-clockwise. Of a ring that crosses itself the loops count with their turning sense.
double area_mm2(const Ring& ring);
/// Outer less holes, whatever their turning sense; below 0 where the holes are the larger.
double area_mm2(const Polygon& polygon);
/// Of the area; the first corner where there is none, the origin where there are no corners.
Vec2 centroid(const Polygon& polygon);
/// From corner to corner, and back to the first one when closed.
double length_mm(std::span<const Vec2> path, bool closed);
/// A box at the origin without corners.
Box bounding_box(const Ring& ring);

/// Makes the outer ring counter-clockwise and the holes clockwise.
Polygon oriented(Polygon polygon);
/// By crossing number; holes are outside. A point on the very edge may fall either way.
bool contains(const Ring& ring, const Vec2& p);
bool contains(const Polygon& polygon, const Vec2& p);
/// Whether the box lies wholly in the polygon; it may touch its edges. In time by the corners, without a set
/// operation.
bool holds_box(const Polygon& polygon, const Box& box);
double distance_to_segment_mm(const Vec2& p, const Vec2& a, const Vec2& b);

/// What is in either, in both, in the first alone: as separate pieces, in no order; none where nothing is left.
std::vector<Polygon> unite(const std::vector<Polygon>& a, const std::vector<Polygon>& b);
std::vector<Polygon> intersect(const std::vector<Polygon>& a, const std::vector<Polygon>& b);
std::vector<Polygon> subtract(const std::vector<Polygon>& a, const std::vector<Polygon>& b);
double total_area_mm2(const std::vector<Polygon>& polygons);
/// The one with the largest area; empty polygon when there is none.
Polygon largest(std::vector<Polygon> polygons);

enum class Corner { round, mitre };
/// Grows (positive) or shrinks (negative) by `distance_mm`, whatever the turning sense of its rings; mitred corners
/// are cut off at four times that, rounded ones have chords within 0.02 mm. None where nothing is left of it, several
/// where a waist gives way.
std::vector<Polygon> offset(const Polygon& polygon, double distance_mm, Corner corner);

/// The farthest that any corner of either lies from the other's outline: how much two like outlines differ. Much,
/// where they have not as many holes.
double farthest_mm(const Polygon& a, const Polygon& b);

/// Counter-clockwise.
Ring convex_hull(std::vector<Vec2> points);
/// A polygon with fewer points that covers the given one, nowhere more than 2·tolerance outside of it.
Polygon simplified_cover(const Polygon& polygon, double tolerance_mm);

Ring transformed(const Ring& ring, double angle_rad, const Vec2& shift);
Polygon transformed(const Polygon& polygon, double angle_rad, const Vec2& shift);
/// Turned over about the vertical axis: x becomes -x, turning sense kept.
Polygon mirrored(const Polygon& polygon);

Ring rectangle(const Box& box);
/// A rectangle with its corners rounded by `radius_mm` (limited to half the shorter side), each quarter in
/// chords that leave the true arc by at most 0.05 mm.
Ring rounded_rectangle(const Box& box, double radius_mm);

/// The smallest distance between two parallel lines that hold the ring between them (rotating calipers on the
/// convex hull), and the unit direction of those lines.
struct MinimumWidth {
    double width_mm = 0;
    double length_mm = 0;  ///< extent along the lines
    Vec2 along{1, 0};
};
MinimumWidth minimum_width(const Ring& ring);

/// Length along the path up to each point, starting with 0.
std::vector<double> arc_lengths(std::span<const Vec2> path);

}  // namespace bevelsmith::geometry
