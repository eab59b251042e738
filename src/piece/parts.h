// Dividing a piece into the parts that are cut from one blank each.
#pragma once

#include "piece/outline.h"

namespace bevelsmith::piece {

/// Adds scarfs to `outline.joints` until every part passes, then fills `outline.parts`. Throws Stopped when
/// `keep_going` says no.
void divide(const PieceSpec& spec, const Passage& passage, Outline& outline, const KeepGoing& keep_going);

}  // namespace bevelsmith::piece
