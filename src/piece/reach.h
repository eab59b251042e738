// Whether what an edge ends at is there along all of it.
#pragma once

#include "piece/outline.h"

namespace bevelsmith::piece {

/// How much of an edge (mm of its length, on the face where it is more) stops at a place where the other piece has no
/// wood: beyond its outline or in one of its openings. `edge` names the edge by its index in PieceSpec::edges.
double without_support_mm(const Outline& piece, int edge, const Outline& other);

}  // namespace bevelsmith::piece
