// The region that scattered places surround.
#pragma once

#include <vector>

#include "geometry/polygon.h"

namespace bevelsmith::geometry {

/// The outline of the region that `places` surround: their convex hull, with hollows taken out where its edges
/// are longer than twice the longest gap that must be bridged to connect all places, and longer than 0.18 of the
/// extent. (Characteristic shape: M. Duckham, L. Kulik, M. Worboys, A. Galton, Pattern Recognition 41, 2008.)
/// Counter-clockwise; the convex hull when there are fewer than four places. Coordinates are resolved to a millionth
/// of the extent.
Ring surrounding_outline(const std::vector<Vec2>& places);

}  // namespace bevelsmith::geometry
