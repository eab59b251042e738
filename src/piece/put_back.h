// Ties from reference marks to places of a piece: with three places, each from three marks, a part goes back where it
// was.
#pragma once

#include <span>
#include <string>
#include <vector>

#include "piece/outline.h"

namespace bevelsmith::piece {

/// A corner of face A, where two of its edges meet; or another place of its outline that is found by eye.
struct Corner {
    std::string name;  ///< "hull / deck edge"; "lowest, as drawn"
    Vec2 drawn;        ///< in the piece's drawing (mm)
    Vec3 at;           ///< in the boat (mm)
};
/// The corners in the order of the outline. Joints and limber holes make none.
std::vector<Corner> corners_of(const Outline& outline);
/// What is taped: the corners; where they are fewer than three, those within one edge too (at a chine, of a typed
/// outline); and where these are fewer (round a rounded panel there is none) the outermost places of face A as it is
/// drawn, of a straight side its middle. Three or more, none within 50 mm of
/// another, of a panel that is larger than that.
std::vector<Corner> taped_places(const Outline& outline);

/// A taped distance.
struct Tie {
    int mark = 0, corner = 0;
    double distance_mm = 0;
};
/// From every mark to every corner; marks in their order, for each its corners in theirs.
std::vector<Tie> ties(std::span<const Vec3> marks, std::span<const Corner> corners);

}  // namespace bevelsmith::piece
