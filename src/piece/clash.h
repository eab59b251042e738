// Whether two pieces want the same place.
#pragma once

#include <optional>

#include "piece/outline.h"

namespace bevelsmith::piece {

/// Where two pieces go through one another.
struct Clash {
    double length_mm = 0;  ///< of the line along which they do; the root of the area for pieces that lie flat in one
    Vec3 at = Vec3::Zero();  ///< a place in both
};

/// Pieces that meet, cover or pass through a slot do not clash; what is shared by less than 3 mm is a joint's
/// tolerance. Looked at along the line in which the middle planes meet (derived), so that a bevel's width is not
/// seen.
std::optional<Clash> clash_of(const Outline& a, const Outline& b);

}  // namespace bevelsmith::piece
