// What the boat is told of a piece, and what she says of it, as JSON: its lines set out, a fitting and what comes of
// it.
#pragma once

#include <string>

#include "job/offering_up.h"
#include "piece/at_boat.h"

namespace bevelsmith::exchange {

/// Stations of both faces' lines with offsets, ties, diagonals, supports. Lengths mm, places in the boat's frame.
std::string setting_out_to_json(const job::JobPiece& piece, const piece::AtBoat& at_boat);

/// `outline_a`, `outline_b`: the corrected outline, what a good sheet is cut to (boat, mm); `trimmed_a`, `trimmed_b`:
/// what is left of the piece in hand when all is shaved off that can be; the guide, what no shaving saves, the best
/// move, and what to do.
std::string fitting_to_json(const job::JobPiece& piece, const job::OfferedUp& offered);

}  // namespace bevelsmith::exchange
