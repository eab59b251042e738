// Which marks of a piece's edges a drawing shows.
#pragma once

#include <vector>

#include "piece/outline.h"

namespace bevelsmith::exchange {

double distance_to_ring_mm(const Vec2& p, const geometry::Ring& ring);
/// To within 0.01 mm.
bool on_ring(const Vec2& p, const geometry::Ring& ring);

/// Marks that are kept and lie on a piece's or part's outline, in their order.
std::vector<piece::EdgeMark> marks_on(const std::vector<piece::EdgeMark>& marks, const geometry::Polygon& face_a);

/// Of a trial pattern (`face_a`: as it is offered up), in the order of the outline: those of the finished edge where
/// a lipping is in it, else of the edge as cut. Both faces' places are face A's; the bevel is the piece's.
std::vector<piece::EdgeMark> pattern_marks(const piece::PieceSpec& spec, const piece::Outline& outline,
                                           const geometry::Polygon& face_a);

}  // namespace bevelsmith::exchange
