// Two pieces that go through one another: one by a slot in the other, or both halved.
#pragma once

#include <optional>

#include "piece/outline.h"

namespace bevelsmith::piece {

/// What is cut out of a piece's face for another that crosses it, in the piece's drawing; the same on both faces, so
/// that it is sawn square and clears the other where the planes lean. Empty where the two do not meet. `own` is the
/// piece's face A before any crossing is cut, `other` the other piece likewise. Both halves of a halved crossing end
/// at the middle of the stretch that both pieces share on the line of their faces A.
std::optional<geometry::Polygon> crossing_shape(const CrossSpec& cross, const geometry::PlaneFrame& frame,
                                                double thickness_mm, const geometry::Polygon& own,
                                                const Outline& other);

}  // namespace bevelsmith::piece
