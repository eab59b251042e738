// Rows of round holes for air or fingers, laid out to a wanted free area.
#pragma once

#include <vector>

#include "piece/spec.h"
#include "units/result.h"

namespace bevelsmith::piece {

/// A finger lifts by a hole of this diameter (common practice).
inline constexpr double finger_hole_mm = 25;

struct HoleLayout {
    std::vector<Vec2> centres;  ///< in the drawing, row by row from below
    int rows = 0, columns = 0;
    double free_cm2 = 0;  ///< of all holes together
};

/// Full rows of equal holes within the row's rectangle, evenly spread, as much wood between two as a hole is wide at
/// least (common practice). Fails, with the area that would fit, where the rectangle does not hold them.
Result<HoleLayout> laid_out(const HoleRow& row);

/// The holes as openings of the drawing.
std::vector<OpeningSpec> holes_of(const HoleRow& row, const HoleLayout& layout);

}  // namespace bevelsmith::piece
