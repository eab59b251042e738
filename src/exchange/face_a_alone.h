// A drawing of which face A alone is cut: a trial pattern's.
#pragma once

#include "exchange/drawing.h"

namespace bevelsmith::exchange {

/// Makes face B like face A, square-edged as a thin sheet is cut, in the outlines and in every table: no figure of
/// face B is left that somebody could cut by. Bevels stay where they are told: they are those of the piece.
void leave_face_a_alone(Drawing& drawing);

}  // namespace bevelsmith::exchange
