// Closed outlines out of somebody's drawing file: offcuts that were measured, parts that were drawn elsewhere.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "geometry/polygon.h"
#include "units/result.h"

namespace bevelsmith::exchange {

struct DxfRing {
    std::string layer;
    geometry::Ring ring;  ///< mm, counter-clockwise; arcs in chords within 0.02 mm
};

struct DxfOutlines {
    std::vector<DxfRing> rings;  ///< the largest first
    std::vector<std::string>
        notes;  ///< what was left out: open lines with their place, splines given only by points that they pass
    double mm_per_unit = 1;
    bool unit_stated = false;  ///< the file says its unit; else millimetres are taken
};

/// Closed polylines, circles and ellipses, and lines, arcs and splines whose ends meet within 0.1 mm, layer by layer,
/// blocks where they are put (what lies on their layer 0 on the layer they are put on). Text, points and
/// dimensions pass. Fails, with the line where one is to blame, on what is no DXF, on numbers that are none, outside
/// the range of a place or too many, and where nothing closed is in it.
Result<DxfOutlines> read_dxf_outlines(std::string_view text);

/// Layers in the order of their largest ring.
std::vector<std::string> layers_of(const DxfOutlines& outlines);
/// The rings of a layer as shapes: what lies within another on it is cut out of it, what lies within that stands by
/// itself again. Of `openings` (a layer, or empty) the rings that lie within a shape are cut out of it as well.
std::vector<geometry::Polygon> shapes_on(const DxfOutlines& outlines, const std::string& layer,
                                         const std::string& openings = {});

}  // namespace bevelsmith::exchange
