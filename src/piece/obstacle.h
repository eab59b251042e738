// What stands in the boat before the joinery does: stringers, beams, pipes, machinery. Pieces are notched around it.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "geometry/polygon.h"
#include "piece/role.h"

namespace bevelsmith::piece {

enum class Section { round, square };

/// A run of one section along a path: a pipe, a stringer, a beam; a box is a square run from end to end.
struct Obstacle {
    std::string id, name;
    Section section = Section::square;
    std::vector<Vec3> path;  ///< two points at least (boat, mm); corners are mitred by overlap
    double width_mm = 50;    ///< across, level; the diameter of a round one
    double height_mm = 50;   ///< square to the path and to the width; not of a round one
    double clearance_mm = 3;
    bool notches = true;  ///< pieces that it meets are cut around it; else a finding names them
    bool carries =
        false;  ///< its upper face carries level panels: a ledge, a rib, a rail; such a panel is not notched
    Role role = Role::made;
    bool operator==(const Obstacle&) const = default;
};

/// Whether any of it, clearance included, lies between face A's plane and the one `thickness_mm` behind it.
bool reaches(const Obstacle& obstacle, const geometry::Plane& plane, double thickness_mm);

/// What a panel must leave free for it, in the panel's drawing: all of it that lies within the panel's thickness,
/// seen square to the face, with its clearance. One polygon a stretch of its path; empty where it passes by. Round
/// ones are cut as a polygon about the circle, 0.05 mm outside of it at most.
std::vector<geometry::Polygon> room_for(const Obstacle& obstacle, const geometry::PlaneFrame& frame,
                                        double thickness_mm);

}  // namespace bevelsmith::piece
