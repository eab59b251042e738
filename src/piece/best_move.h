// Which small move of a flat piece in its plane leaves the least daylight.
#pragma once

#include <vector>

#include "piece/fitting.h"

namespace bevelsmith::piece {

/// A place of an edge, the way out of the piece there (unit), and the daylight before it (mm; negative: wood too
/// much, which is shaved off).
struct Contact {
    Vec2 at{0, 0}, out{1, 0};
    double daylight_mm = 0;
};

/// Moves of up to 30 mm each way and turns of up to 0.03 rad, for which a turn's arc is straight to 0.03 mm a metre:
/// a linear program (GLPK). No move at all, with the widest daylight, where none betters it.
Move best_move(const std::vector<Contact>& contacts, const Vec2& about);

}  // namespace bevelsmith::piece
