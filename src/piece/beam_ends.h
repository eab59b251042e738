// Whether the ends of a beam rest on anything.
#pragma once

#include <vector>

#include "piece/bearing.h"

namespace bevelsmith::piece {

/// The middles of a beam's ends (drawing, mm) that rest on nothing: no scribed edge meets a surface there (of a beam
/// that lifts out, within 3 mm), no other piece stands within 10 mm beyond the end, and none within 10 mm under its
/// last 80 mm. Precondition: the beam stands upright and runs across its drawing.
std::vector<Vec2> free_beam_ends(const PieceSpec& spec, const Outline& beam, const std::vector<Carrier>& others);

}  // namespace bevelsmith::piece
