// Ties from reference marks to the corners of a piece: with three of them a part goes back where it was.
#pragma once

#include <span>
#include <string>
#include <vector>

#include "piece/outline.h"

namespace bevelsmith::piece {

/// A corner of face A, where two of its edges meet.
struct Corner {
    std::string name;  ///< "hull / deck edge"
    Vec2 drawn;        ///< in the piece's drawing (mm)
    Vec3 at;           ///< in the boat (mm)
};
/// The corners in the order of the outline. Joints and limber holes make none.
std::vector<Corner> corners_of(const Outline& outline);

/// A taped distance.
struct Tie {
    int mark = 0, corner = 0;
    double distance_mm = 0;
};
/// From every mark to every corner; marks in their order, for each its corners in theirs.
std::vector<Tie> ties(std::span<const Vec3> marks, std::span<const Corner> corners);

}  // namespace bevelsmith::piece
