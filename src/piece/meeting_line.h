// The line in which two planes meet, and what of it lies within a face.
#pragma once

#include <optional>
#include <vector>

#include "geometry/polygon.h"

namespace bevelsmith::piece {

struct Line {
    Vec3 at = Vec3::Zero(), way = Vec3::UnitZ();  ///< way: up, else forward, else to port (unit)
};
/// Empty where the planes n·p = d meet at less than `least_sine`.
std::optional<Line> meeting_line(const Vec3& n1, double d1, const Vec3& n2, double d2, double least_sine);

/// A line of the boat in a drawing; the lengths along it stay as they are where it lies in the drawing's plane.
struct DrawnLine {
    Vec2 at{0, 0}, way{1, 0};
};
DrawnLine drawn(const Line& line, const geometry::PlaneFrame& frame);

struct Span {
    double from = 0, to = 0;  ///< along the line, from its place `at`
};
/// The stretches of a line within a face, openings left out, in their order.
std::vector<Span> spans_within(const geometry::Polygon& face, const DrawnLine& line);

}  // namespace bevelsmith::piece
