// The face that joinery meets, taken apart: smooth stretches of a surface between its creases (chines, the keel),
// each moved inwards by what lies on it, and what fills or rounds the corners between them.
//
// A surface moved inwards by t along its normals is smooth while t is less than its least radius of curvature on that
// side (M. do Carmo, Differential Geometry of Curves and Surfaces, parallel surfaces). At a crease two such stretches
// overlap or stand apart: each is gone on straight beyond its crease, and what holds is where it lies within its
// neighbour (a corner that opens into the boat) or without it (one that stands into the boat). Both ways they meet in
// a mitre.
#pragma once

#include <memory>
#include <optional>
#include <vector>

#include "hull/surface.h"

namespace bevelsmith::hull {

/// One smooth stretch. Its places are the surface's (s, v), v also beyond the crease; those of a corner are s along
/// the crease and 0..1 across the corner.
class InnerFace {
  public:
    virtual ~InnerFace() = default;
    virtual Vec3 position(const Place& place) const = 0;  ///< mm
    /// The unit normal out of the boat.
    virtual Vec3 outward(const Place& place) const = 0;
    /// The place of the bare surface that a place lies on.
    virtual Place below(const Place& place) const = 0;
    /// Whether a place belongs to the face that joinery meets: its layers are there, and it is not cut off by what
    /// lies on the other side of a crease.
    virtual bool holds(const Place& place) const = 0;
    /// No farther outside the face's domain than a twentieth of it: beyond, a continued cubic is fiction.
    virtual bool near(const Place& place) const = 0;
    /// Positions over nodes_s() x nodes_v(), row by row.
    virtual std::vector<Vec3> grid() const;
    /// Where its contours are looked for, rising.
    virtual std::vector<double> nodes_s() const = 0;
    virtual std::vector<double> nodes_v() const = 0;
    virtual bool closed() const { return false; }
    /// The least radius of the bare surface there towards the boat, where that is no more than what lies on it (mm).
    virtual std::optional<double> folds_at_radius_mm(const Place&) const { return std::nullopt; }

    /// Position, tangents and normal.
    virtual SurfacePoint at(const Place& place) const;
};

/// What joinery meets above a place, for pictures: where a corner cuts the face off there, the nearest place of it
/// along v that is left.
Vec3 left_of_corner(const Surface& surface, const Place& place);

/// The faces of a surface with its layers. The surface outlives them.
std::vector<std::unique_ptr<InnerFace>> inner_faces(const Surface& surface);

}  // namespace bevelsmith::hull
