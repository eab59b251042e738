// Dividing a piece into the parts that are cut from one blank each.
#pragma once

#include "piece/outline.h"

namespace bevelsmith::piece {

/// Whether its blank lies on a sheet.
bool fits_sheet(const Part& part, const SheetRoom& sheet);

/// Adds scarfs to `outline.joints` until every part passes, then fills `outline.parts`. Where parts so made, or the
/// whole, do not fit the sheet that is named, with its grain, even divisions are tried, and the fewest joints taken
/// with which every part does both; where eight are not enough it is left as it was. Nothing is added to joints that
/// a person gave for a sheet's sake, nor where PieceSpec::split_for_passage is off. Throws Stopped when `keep_going`
/// says no.
void divide(const PieceSpec& spec, const Passage& passage, const std::optional<SheetRoom>& sheet, Outline& outline,
            const KeepGoing& keep_going);

}  // namespace bevelsmith::piece
