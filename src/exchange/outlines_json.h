// Outlines of a drawing as JSON, for other programs.
#pragma once

#include <string>

#include "exchange/dxf_outlines.h"

namespace bevelsmith::exchange {

/// {mm_per_unit, unit_stated, notes, outlines: [{layer, area_mm2, points_mm: [[x, y], ...]}, ...]}, the largest
/// first, each counter-clockwise.
std::string outlines_to_json(const DxfOutlines& outlines);

}  // namespace bevelsmith::exchange
