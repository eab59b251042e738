// Offcuts that a part nearly comes out of: what it lacks, and where. An edge that is tabbed, filled or covered bears
// it.
#pragma once

#include <optional>
#include <string>

#include "sheets/layout.h"

namespace bevelsmith::sheets {

enum class SheetSide { left, right, bottom, top };
const char* word_of(SheetSide side);

struct Nearly {
    double short_mm = 0;               ///< what is lacking at its sides together, the offcut's margin taken off
    SheetSide side = SheetSide::left;  ///< of the part as it lies: where most of it is lacking
    double rotation_deg = 0;
    Vec2 shift{0, 0};  ///< of the part, after turning
};

/// The least shortfall over the part's allowed angles, found by moving it about from nine places (not the least of
/// all for offcuts of odd shapes: no more is promised than that a part laid so lacks so much). Nothing where more
/// than `most_mm` is lacking; 0 where it fits.
std::optional<Nearly> nearly_fits(const Part& part, const geometry::Polygon& offcut, double margin_mm,
                                  double most_mm);

}  // namespace bevelsmith::sheets
