// New pieces that are scribed to nothing: posts, brackets, wash boards.
#pragma once

#include "job/starting_piece.h"

namespace bevelsmith::job {

/// Whether a kind meets no surface.
bool is_loose(StartingKind kind);

/// Fills in plane, edges, copies and grain of a piece of such a kind: face A at `at_mm` along the boat, or where that
/// is absent where it is usual. A post 45 wide and 800 high stands on the lowest place read near the middle; brackets
/// are 120 by 120, four of them; a wash board is as wide as the passage and tapers by 30 to 300 high (common
/// practice).
void fill_loose_piece(JobPiece& piece, const Job& job, const Results& results, StartingKind kind,
                      std::optional<double> at_mm);

}  // namespace bevelsmith::job
