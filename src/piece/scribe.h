// Where a piece meets the surfaces of the boat: the section of each face, moved inwards by gap and coating.
#pragma once

#include <vector>

#include "piece/outline.h"

namespace bevelsmith::piece {

/// Where one face's section runs, moved inwards by gap and coating; the gap is square to the surface, so in the
/// panel's plane it is gap / cos(bevel).
struct FaceCurve {
    std::vector<Vec2> points;
    bool closed = false;
};

/// One stretch of a scribed edge, on both faces.
struct ScribedEdge {
    int spec = 0;
    FaceCurve a, b;
    std::vector<EdgeMark> marks;
};

/// A section's lines on both faces moved square to themselves until face A's runs through the places: between two of
/// them by a curve that does not overshoot (monotone cubic: F.N. Fritsch, J. Butland 1984, from memory), beyond the
/// last as much as there, fading out over 200 mm. Places farther from the line than 80 mm belong to another stretch.
void lead_through(std::vector<Vec2>& line_a, std::vector<Vec2>& line_b, bool closed, const std::vector<Vec2>& places);

/// All stretches in which the plane meets the surfaces of the piece's scribed edges. Fails, naming the edge, when a
/// surface is missing or missed, or when nothing is scribed.
Result<std::vector<ScribedEdge>> scribed_edges(const PieceSpec& spec, double thickness_mm,
                                               const SurfaceLookup& surfaces, const geometry::PlaneFrame& frame,
                                               const KeepGoing& keep_going = {});

/// An end of the known edge that lies within the piece: there the outline stays open.
struct OpenEnd {
    int edge = 0;        ///< the scribed one
    Vec2 at{0, 0};       ///< on face A (drawing, mm)
    Vec2 way{1, 0};      ///< on which the edge would go on (unit)
    int meets = -1;      ///< the straight edge that it would meet, -1 where there is none
    double open_mm = 0;  ///< how far that is
};
/// Ends of face A's stretches that no straight edge cuts off.
std::vector<OpenEnd> open_ends(const PieceSpec& spec, const std::vector<ScribedEdge>& scribed);

}  // namespace bevelsmith::piece
