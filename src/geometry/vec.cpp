#include "geometry/vec.h"

#include <Eigen/Geometry>

namespace bevelsmith::geometry {

PlaneFrame upright_frame(const Plane& plane) {
    const Vec3& n = plane.normal;
    const Vec3 reference = std::abs(n.z()) < 0.99 ? Vec3::UnitZ() : Vec3::UnitX();
    PlaneFrame frame;
    frame.normal = n;
    frame.v = (reference - n * n.dot(reference)).normalized();
    frame.u = n.cross(frame.v);
    frame.origin = n * plane.d_mm;
    return frame;
}

}  // namespace bevelsmith::geometry
