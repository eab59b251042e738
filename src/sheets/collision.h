// Fast tests of placed shapes against each other, in double precision, erring on the side of "touching".
#pragma once

#include "geometry/polygon.h"

namespace bevelsmith::sheets {

/// A shape at one rotation, ready to be moved: all rings as one list of segments.
struct Footprint {
    geometry::Polygon shape;
    geometry::Box box;
};
Footprint make_footprint(geometry::Polygon shape);

/// Whether the shapes share inner points when moved by these shifts. Touching edges do not count. A shape inside
/// a hole of the other is free.
bool collide(const Footprint& a, const Vec2& shift_a, const Footprint& b, const Vec2& shift_b);

/// Whether `part` moved by `shift` lies within `room`, holes respected; touching its border is within.
bool within(const Footprint& part, const Vec2& shift, const Footprint& room);

}  // namespace bevelsmith::sheets
