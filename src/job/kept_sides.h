// Which side of others the pieces keep: chosen once from where they stand, then kept wherever either is moved.
#pragma once

#include "job/job.h"

namespace bevelsmith::job {

/// Chooses, for every edge that stops at another piece and has not chosen yet, the side on which its piece's own
/// point lies. Edges at pieces that are not there, and of pieces without a point, stay as they are. Of units only
/// what was changed by hand: the rest follows from their numbers.
void settle_sides(Job& job);
/// The same for one piece, as seen among the pieces of `full`.
void settle_sides(JobPiece& piece, const Job& full);

/// The side of another piece in a fitter's words: "forward of it", "under it"; empty for by_place.
std::string side_in_words(piece::KeptSide kept, const geometry::Plane& other);

}  // namespace bevelsmith::job
