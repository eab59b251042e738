// Two pieces that go through one another: one by a slot in the other, or both halved.
#pragma once

#include <array>
#include <optional>

#include "piece/outline.h"

namespace bevelsmith::piece {

/// What is cut out of both faces of a piece for another that crosses it, in the piece's drawing. Its walls lie along
/// the other's faces, coverings included, the clearance off; where the planes lean they are sawn at a bevel.
struct CrossingCut {
    geometry::Polygon a, b;
    /// The walls on face A: the lines that the slot's long sides lie on, and their bevels as of straight edges.
    struct Wall {
        Vec2 from{0, 0}, to{0, 0};
        double bevel_rad = 0;
    };
    std::array<Wall, 2> walls;
};

/// Empty where the two do not meet. `face_a` is the piece's face A before any crossing is cut, the other's outline
/// likewise. Both halves of a halved crossing run in from the piece's own end and stop at the middle of the stretch
/// that both pieces share on the line of their faces A. Where the other ends within the piece's thickness it is cut
/// on both faces as where it is met.
std::optional<CrossingCut> crossing_cut(const CrossSpec& cross, const geometry::PlaneFrame& frame,
                                        double thickness_mm, const geometry::Polygon& face_a, const Neighbour& other);

}  // namespace bevelsmith::piece
