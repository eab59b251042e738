// Where water stands against a piece.
#pragma once

#include <vector>

#include "geometry/polygon.h"

namespace bevelsmith::piece {

/// Water that stands less deep than this needs no drain.
inline constexpr double least_pool_mm = 5;

/// The low points of an outline (v is up), the lowest first: places of its under side from which it rises to both
/// hands by more than `least_pool_mm` before it falls again. Of a level stretch its middle. The outline's ends of
/// that stretch count as rising.
std::vector<Vec2> low_points(const geometry::Ring& outline);

/// The lowest place of the outline at u; the nearest corner beside it.
Vec2 lowest_at(const geometry::Ring& outline, double u);

}  // namespace bevelsmith::piece
