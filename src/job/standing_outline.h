// What stands in the boat as somebody took it down: its outline by readings or by ordinates, its holes by readings.
#pragma once

#include <string>
#include <vector>

#include "job/job.h"

namespace bevelsmith::job {

/// A closed line of the piece's drawing, corner by corner, as an edge named "outline". Where `mirrored`, the corners
/// are those of one side of the centre line and the other side is their like (of a piece that stands across the boat
/// or lies level). Fails with less than three corners, or too many.
Result<piece::EdgeSpec> standing_outline(const piece::PieceSpec& piece, const std::vector<Vec2>& corners,
                                         bool mirrored);
/// The same by a set of readings of its rim, in their order.
Result<piece::EdgeSpec> outline_by_readings(const Job& job, const piece::PieceSpec& piece, const std::string& set_id,
                                            bool mirrored);
/// A pattern of holes by a set of readings of their middles, in their order, laid where they are on the piece.
Result<piece::ReadPattern> pattern_by_readings(const Job& job, const piece::PieceSpec& piece,
                                               const std::string& set_id);
/// Puts an outline in the place of all edges that the piece has, and of its joints, drains and notches.
void take_outline(piece::PieceSpec& piece, const piece::EdgeSpec& outline);

}  // namespace bevelsmith::job
