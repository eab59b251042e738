#include "piece/meeting_line.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

namespace bevelsmith::piece {

std::optional<Line> meeting_line(const Vec3& n1, double d1, const Vec3& n2, double d2, double least_sine) {
    Vec3 way = n1.cross(n2);
    if (way.norm() < least_sine) return std::nullopt;
    const Vec3 at = (d1 * n2.cross(way) + d2 * way.cross(n1)) / way.squaredNorm();
    way.normalize();
    for (const int axis : {2, 0, 1})
        if (std::abs(way[axis]) > 0.1) return Line{at, way[axis] > 0 ? way : Vec3(-way)};
    return Line{at, way};
}

DrawnLine drawn(const Line& line, const geometry::PlaneFrame& frame) {
    const Vec2 at = frame.to_plane(line.at);
    return {at, (frame.to_plane(line.at + line.way) - at).normalized()};
}

std::vector<Span> spans_within(const geometry::Polygon& face, const DrawnLine& line) {
    const Vec2 across(-line.way.y(), line.way.x());
    std::vector<double> crossings;
    const auto ring = [&](const geometry::Ring& r) {
        for (std::size_t i = 0; i < r.size(); ++i) {
            const Vec2 a = r[i], b = r[(i + 1) % r.size()];
            const double da = across.dot(a - line.at), db = across.dot(b - line.at);
            if ((da < 0) != (db < 0)) crossings.push_back(line.way.dot(a + (b - a) * (da / (da - db)) - line.at));
        }
    };
    ring(face.outer);
    for (const auto& hole : face.holes) ring(hole);
    std::sort(crossings.begin(), crossings.end());
    std::vector<Span> out;
    for (std::size_t k = 0; k + 1 < crossings.size(); k += 2) out.push_back({crossings[k], crossings[k + 1]});
    return out;
}

}  // namespace bevelsmith::piece
