// A piece as a body with its true bevels: both faces and the ruled band between them.
#pragma once

#include <array>
#include <vector>

#include "piece/outline.h"

namespace bevelsmith::piece {

/// A closed body: two plane faces with openings, and triangles round every ring. Corners in the boat's frame (mm),
/// each face counter-clockwise as seen from outside.
struct Solid {
    using Loop = std::vector<Vec3>;
    struct Face {
        Loop outer;
        std::vector<Loop> holes;
    };
    std::vector<Face> faces;  ///< face A, face B
    std::vector<std::array<Vec3, 3>> sides;
    /// The rings that the sides lie between, outer first, both the same way round.
    struct Band {
        Loop a, b;
    };
    std::vector<Band> bands;
};

/// The body of a part, or of a whole piece (its faces as polygons in the piece's drawing). Openings of A and B are
/// paired in their order; faces must have equally many.
Solid solid_of(const Outline& outline, const geometry::Polygon& face_a, const geometry::Polygon& face_b);

/// By the divergence theorem; the faces taken as their polygons.
double volume_mm3(const Solid& solid);

}  // namespace bevelsmith::piece
