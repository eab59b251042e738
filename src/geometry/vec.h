// Vectors, points, planes and frames. Lengths in millimetres, boat frame: x forward, y to port, z up.
#pragma once

#include <Eigen/Core>
#include <vector>

namespace bevelsmith {

using Vec2 = Eigen::Vector2d;
using Vec3 = Eigen::Vector3d;

namespace geometry {

/// The plane n·p = d with a unit normal.
struct Plane {
    Vec3 normal = Vec3::UnitX();
    double d_mm = 0;

    /// Signed distance along the normal (mm).
    double distance_mm(const Vec3& p) const { return normal.dot(p) - d_mm; }
    bool operator==(const Plane&) const = default;
};

/// Where a plane stands as a fitter says it: its distance along the boat's axis (fwd, port, up) that its normal is
/// nearest to, whichever way the normal points (mm).
double place_mm(const Plane& plane);
/// The same plane moved to another such place.
Plane placed_at(const Plane& plane, double place_mm);

/// A right-handed frame for drawing in a plane: p = origin + u·x + v·y; `normal` points at the viewer's back,
/// so that the drawing shows the face that `normal` leaves from (u to the right, v up, seen along `normal`).
struct PlaneFrame {
    Vec3 origin = Vec3::Zero();
    Vec3 u = Vec3::UnitX();
    Vec3 v = Vec3::UnitZ();
    Vec3 normal = Vec3::UnitY();

    Vec2 to_plane(const Vec3& p) const { return {u.dot(p - origin), v.dot(p - origin)}; }
    Vec3 to_space(const Vec2& q) const { return origin + u * q.x() + v * q.y(); }
    /// A direction in the plane, without the origin.
    Vec3 direction(const Vec2& q) const { return u * q.x() + v * q.y(); }
};

/// The frame of `plane` with v as near to "up" as the plane allows (for a level plane: as near to forward),
/// its origin the plane's point nearest to the boat's origin.
PlaneFrame upright_frame(const Plane& plane);

}  // namespace geometry
}  // namespace bevelsmith
