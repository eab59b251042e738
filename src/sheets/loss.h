// How much two shapes overlap, cheaply and smoothly enough that a search can pull them apart.
#pragma once

#include <cmath>
#include <vector>

#include "geometry/polygon.h"

namespace bevelsmith::sheets {

/// A straight side of a shape, or a chord of a curved one, its inside at the left.
struct Side {
    double angle_rad = 0;  ///< as side_angle() has it
    Vec2 from{0, 0}, to{0, 0};
};
/// One number an angle, from a little over -pi up: the step is not where sides along the sheet lie.
inline double side_angle(double angle_rad) {
    constexpr double begins = 0.1 - M_PI;
    const double out = std::remainder(angle_rad, 2 * M_PI);
    return out < begins ? out + 2 * M_PI : out;
}

/// A shape at one angle, ready to be moved about: its edges, and circles that lie within it ("poles", the largest
/// first) and stand for its body.
struct Body {
    std::vector<double> x0, y0, x1, y1;  ///< edges of all rings
    std::vector<float> cx, cy, r;        ///< poles, single precision: they only measure; filled up to whole eights
    float radii = 0;                     ///< of its poles, added up
    std::size_t poles = 0;               ///< how many of these are there
    geometry::Box box;
    std::vector<geometry::Box> openings;  ///< boxes of its holes
    std::vector<Side> sides;              ///< those along which others may lie flush, by their angles
    double size = 1;                      ///< fourth root of the hull's area (mm^1/2): larger shapes weigh more
    double diameter = 1;
    double least = 1;  ///< the shorter side of its box
};

/// Parts are grown by half the spacing less this, so that what only touches counts as free. Without a spacing there
/// is nothing to take it from: then they are laid by their own outlines.
double slack_mm(double spacing_mm);

Body make_body(const geometry::Polygon& shape);
/// The same body turned about the origin.
Body turned(const Body& body, double angle_rad);
/// Turned over about the upright axis: x becomes -x.
Body mirrored(const Body& body);

/// Whether they share inner points when moved by these shifts; touching is free.
bool overlap(const Body& a, const Vec2& shift_a, const Body& b, const Vec2& shift_b);

/// A measure of how deep two overlapping shapes lie in each other: pole by pole, smooth where they part.
/// After J. Gardeyn, T. Wauters, G. Vanden Berghe, 2025 (from the study's notes): sqrt(pi · sum of decayed
/// penetrations times the smaller radius) times both sizes. What comes to more than `bound` is not summed further.
double depth(const Body& a, const Vec2& shift_a, const Body& b, const Vec2& shift_b, double bound = HUGE_VAL);

}  // namespace bevelsmith::sheets
