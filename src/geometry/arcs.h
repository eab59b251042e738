// Outlines with their arcs kept: for files that know arcs, from rings that do not.
#pragma once

#include "geometry/polygon.h"

namespace bevelsmith::geometry {

/// A corner, and how the line goes on to the next: straight (0), or along an arc; tan of a quarter of its angle,
/// positive to the left.
struct ArcCorner {
    Vec2 at{0, 0};
    double bulge = 0;
};

/// Runs of four corners or more that lie on one circle, evenly turned, become arcs of at most half a circle; nothing
/// else moves. A true arc in chords is met within `tolerance_mm`, and no corner that is kept leaves its place.
std::vector<ArcCorner> with_arcs(const Ring& ring, double tolerance_mm = 0.02);

}  // namespace bevelsmith::geometry
