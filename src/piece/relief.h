// Edges that land in a fillet, a weld or a hinge: what comes off their arrises.
#pragma once

#include <vector>

#include "piece/outline.h"

namespace bevelsmith::piece {

/// What must be taken off the arris of a panel so that it goes home in a corner with a fillet of that radius (mm
/// along both faces of the corner; a weld counts by its leg): r / tan(angle / 2), where the circle leaves the two
/// sides. `bevel_rad` is the edge's own bevel on that face: the corner's angle is a right one and that.
double relief_mm(double fillet_mm, double bevel_rad);

/// A line on a face to which the arris of an edge is taken off.
struct Relief {
    int edge = 0;  ///< index into PieceSpec::edges
    Face face = Face::a;
    double most_mm = 0;      ///< in from the arris, where it is most
    std::vector<Vec2> line;  ///< in the piece's drawing
};
/// Of every stretch of an edge with a fillet, on both faces; by the bevel where it is.
std::vector<Relief> reliefs_of(const PieceSpec& spec, const Outline& shape);

}  // namespace bevelsmith::piece
