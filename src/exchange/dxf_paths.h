// What is drawn in a DXF, as chains of corners: lines, polylines with arcs, circles, ellipses, splines and blocks, of
// files as R12 to R2018 write them. Everything else of such a file (classes, materials, plot settings) is passed over
// before the library sees it.
#pragma once

#include <map>
#include <string>
#include <string_view>
#include <vector>

#include "geometry/polygon.h"
#include "units/result.h"

namespace bevelsmith::exchange {

/// One entity. Curves are in chords within `chord_mm`.
struct DxfPath {
    std::string layer;
    geometry::Ring points;  ///< mm
    bool closed = false;
};

struct DxfPaths {
    std::vector<DxfPath> paths;
    std::map<std::string, int> left_out;  ///< what cannot be read, and how often
    double mm_per_unit = 1;
    bool unit_stated = false;
};

inline constexpr double chord_mm = 0.02;

/// Fails, with the line where one is to blame, on what is no DXF, on numbers that are none or outside the range of a
/// place, and on more corners than may stand in a drawing.
Result<DxfPaths> read_dxf_paths(std::string_view text);

}  // namespace bevelsmith::exchange
