#include "piece/obstacle.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

namespace bevelsmith::piece {
namespace {

constexpr double outside_mm = 0.05;

/// Corners of the section about the path, clearance included, as (across, up).
std::vector<Vec2> section_of(const Obstacle& o) {
    const double w = o.width_mm / 2 + o.clearance_mm, h = o.height_mm / 2 + o.clearance_mm;
    if (o.section == Section::square) return {{-w, -h}, {w, -h}, {w, h}, {-w, h}};
    // A polygon about the circle whose corners stand out by no more than that.
    const double half = std::acos(w / (w + outside_mm));
    const int n = std::max(8, static_cast<int>(std::ceil(M_PI / half)));
    const double corner = w / std::cos(M_PI / n);
    std::vector<Vec2> out;
    for (int k = 0; k < n; ++k)
        out.emplace_back(corner * std::cos(2 * M_PI * k / n), corner * std::sin(2 * M_PI * k / n));
    return out;
}

/// A stretch of the path as the corners of a prism: those of one end, then those of the other.
struct Prism {
    std::vector<Vec3> first, last;
};

Prism prism_of(const Obstacle& o, const Vec3& from, const Vec3& to) {
    const Vec3 way = (to - from).normalized();
    // Upright runs have no level direction of their own: athwartships then.
    Vec3 across = Vec3::UnitZ().cross(way);
    if (across.norm() < 0.05) across = Vec3::UnitY();
    across.normalize();
    const Vec3 up = way.cross(across);
    Prism out;
    for (const Vec2& corner : section_of(o)) {
        const Vec3 off = corner.x() * across + corner.y() * up;
        out.first.push_back(from - o.clearance_mm * way + off);
        out.last.push_back(to + o.clearance_mm * way + off);
    }
    return out;
}

/// Where an edge of the prism lies within the slab 0..thickness behind the frame, as drawn.
void add_within(std::vector<Vec2>& out, const geometry::PlaneFrame& frame, double thickness, const Vec3& a,
                const Vec3& b) {
    const double da = frame.normal.dot(a - frame.origin), db = frame.normal.dot(b - frame.origin);
    const auto place = [&](double share) { out.push_back(frame.to_plane(a + share * (b - a))); };
    if (da >= 0 && da <= thickness) place(0);
    if (db >= 0 && db <= thickness) place(1);
    for (const double at : {0.0, thickness})
        if ((da - at) * (db - at) < 0) place((at - da) / (db - da));
}

}  // namespace

bool reaches(const Obstacle& o, const geometry::Plane& plane, double thickness_mm) {
    const double around =
        std::hypot(o.width_mm, o.section == Section::round ? 0 : o.height_mm) / 2 + 2 * o.clearance_mm + outside_mm;
    double least = HUGE_VAL, most = -HUGE_VAL;
    for (const Vec3& p : o.path) {
        const double d = plane.normal.dot(p) - plane.d_mm;
        least = std::min(least, d), most = std::max(most, d);
    }
    return least - around <= thickness_mm && most + around >= 0;
}

std::vector<geometry::Polygon> room_for(const Obstacle& o, const geometry::PlaneFrame& frame, double thickness_mm) {
    std::vector<geometry::Polygon> out;
    for (std::size_t i = 0; i + 1 < o.path.size(); ++i) {
        if ((o.path[i + 1] - o.path[i]).norm() < 1e-6) continue;
        const Prism prism = prism_of(o, o.path[i], o.path[i + 1]);
        std::vector<Vec2> within;
        const std::size_t n = prism.first.size();
        for (std::size_t k = 0; k < n; ++k) {
            add_within(within, frame, thickness_mm, prism.first[k], prism.last[k]);
            add_within(within, frame, thickness_mm, prism.first[k], prism.first[(k + 1) % n]);
            add_within(within, frame, thickness_mm, prism.last[k], prism.last[(k + 1) % n]);
        }
        if (within.size() < 3) continue;
        const geometry::Ring hull = geometry::convex_hull(within);
        if (hull.size() >= 3 && std::abs(geometry::area_mm2(hull)) > 1) out.push_back({hull, {}});
    }
    return out;
}

}  // namespace bevelsmith::piece
