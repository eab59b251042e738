#include "geometry/vec.h"

#include <Eigen/Geometry>

namespace bevelsmith::geometry {

namespace {
/// -1 where the normal points against the axis that it is nearest to.
double sign_of(const Plane& plane) {
    Eigen::Index axis = 0;
    plane.normal.cwiseAbs().maxCoeff(&axis);
    return plane.normal[axis] < 0 ? -1 : 1;
}
}  // namespace

double place_mm(const Plane& plane) {
    return sign_of(plane) * plane.d_mm;
}

Plane placed_at(const Plane& plane, double place_mm) {
    return {plane.normal, sign_of(plane) * place_mm};
}

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
