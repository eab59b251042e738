#include "piece/reach.h"

#include <algorithm>
#include <cmath>

namespace bevelsmith::piece {
namespace {

/// Closer than this to the other's outline is on it.
constexpr double near_mm = 1;
constexpr double step_mm = 5;

bool on_wood(const geometry::Polygon& face, const Vec2& p) {
    if (geometry::contains(face, p)) return true;
    const auto near = [&](const geometry::Ring& r) {
        for (std::size_t i = 0; i < r.size(); ++i)
            if (geometry::distance_to_segment_mm(p, r[i], r[(i + 1) % r.size()]) < near_mm) return true;
        return false;
    };
    return near(face.outer) || std::any_of(face.holes.begin(), face.holes.end(), near);
}

double unmet(const Outline& piece, const geometry::Ring& ring, const std::vector<Edge>& edges, int wanted,
             double behind_mm, const Outline& other) {
    double out = 0;
    for (const Edge& edge : edges) {
        if (edge.source != EdgeSource::straight || edge.spec != wanted) continue;
        const std::size_t n = ring.size();
        for (std::size_t i = static_cast<std::size_t>(edge.first); i != static_cast<std::size_t>(edge.last);
             i = (i + 1) % n) {
            const Vec2 a = ring[i], b = ring[(i + 1) % n];
            const double length = (b - a).norm();
            const int steps = std::max(1, static_cast<int>(std::ceil(length / step_mm)));
            for (int k = 0; k < steps; ++k) {
                const Vec3 at =
                    piece.frame.to_space(a + (b - a) * ((k + 0.5) / steps)) + behind_mm * piece.frame.normal;
                // The faces of what it meets differ by a bevel at most: either will do.
                const Vec2 there = other.frame.to_plane(at);
                if (!on_wood(other.face_a, there) && !on_wood(other.face_b, there)) out += length / steps;
            }
        }
    }
    return out;
}

}  // namespace

double without_support_mm(const Outline& piece, int edge, const Outline& other) {
    return std::max(unmet(piece, piece.face_a.outer, piece.edges_a, edge, 0, other),
                    unmet(piece, piece.face_b.outer, piece.edges_b, edge, piece.thickness_mm, other));
}

}  // namespace bevelsmith::piece
