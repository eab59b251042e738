#include "piece/solid.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

namespace bevelsmith::piece {
namespace {

using geometry::Ring;

/// Triangles between two rings that run the same way, one over the other: from the corners that lie nearest, on to
/// whichever side gives the shorter line across.
void add_band(const Ring& a, const Ring& b, const geometry::PlaneFrame& frame, double thickness,
              std::vector<std::array<Vec3, 3>>& out) {
    const std::size_t n = a.size(), m = b.size();
    if (n < 3 || m < 3) return;
    std::size_t first = 0;
    for (std::size_t j = 1; j < m; ++j)
        if ((b[j] - a[0]).norm() < (b[first] - a[0]).norm()) first = j;
    const auto at_a = [&](std::size_t i) { return frame.to_space(a[i % n]); };
    const auto at_b = [&](std::size_t j) -> Vec3 {
        return frame.to_space(b[(first + j) % m]) + thickness * frame.normal;
    };
    std::size_t i = 0, j = 0;
    while (i < n || j < m) {
        const double along_a = i < n ? (at_a(i + 1) - at_b(j)).norm() : HUGE_VAL;
        const double along_b = j < m ? (at_a(i) - at_b(j + 1)).norm() : HUGE_VAL;
        if (along_a <= along_b) {
            out.push_back({at_a(i + 1), at_a(i), at_b(j)});
            ++i;
        } else {
            out.push_back({at_b(j), at_b(j + 1), at_a(i)});
            ++j;
        }
    }
}

Solid::Loop loop_of(const Ring& ring, const geometry::PlaneFrame& frame, double behind, bool reversed) {
    Solid::Loop out;
    for (const Vec2& p : ring) out.push_back(frame.to_space(p) + behind * frame.normal);
    if (reversed) std::reverse(out.begin(), out.end());
    return out;
}

/// Six times the volume under a loop, seen from the origin.
double six_volumes(const Solid::Loop& loop) {
    double out = 0;
    for (std::size_t i = 1; i + 1 < loop.size(); ++i) out += loop[0].dot(loop[i].cross(loop[i + 1]));
    return out;
}

}  // namespace

Solid solid_of(const Outline& outline, const geometry::Polygon& face_a, const geometry::Polygon& face_b) {
    Solid out;
    const auto a = geometry::oriented(face_a), b = geometry::oriented(face_b);
    const auto& frame = outline.frame;
    // u x v may be the normal or against it: which way round a face runs as seen from outside follows.
    const bool right_handed = frame.u.cross(frame.v).dot(frame.normal) > 0;
    const auto face = [&](const geometry::Polygon& shape, double behind, bool reversed) {
        Solid::Face made;
        made.outer = loop_of(shape.outer, frame, behind, reversed);
        for (const auto& hole : shape.holes) made.holes.push_back(loop_of(hole, frame, behind, reversed));
        out.faces.push_back(std::move(made));
    };
    face(a, 0, right_handed);
    face(b, outline.thickness_mm, !right_handed);
    const std::size_t before = out.sides.size();
    const auto band = [&](const Ring& of_a, const Ring& of_b) {
        add_band(of_a, of_b, frame, outline.thickness_mm, out.sides);
        out.bands.push_back({loop_of(of_a, frame, 0, false), loop_of(of_b, frame, outline.thickness_mm, false)});
    };
    band(a.outer, b.outer);
    for (std::size_t k = 0; k < a.holes.size() && k < b.holes.size(); ++k) band(a.holes[k], b.holes[k]);
    if (right_handed)
        for (std::size_t k = before; k < out.sides.size(); ++k) std::swap(out.sides[k][0], out.sides[k][1]);
    return out;
}

double volume_mm3(const Solid& solid) {
    // About a corner of its own, so that large places take no digits.
    if (solid.faces.empty() || solid.faces[0].outer.empty()) return 0;
    const Vec3 origin = solid.faces[0].outer[0];
    double six = 0;
    const auto add = [&](Solid::Loop loop) {
        for (Vec3& p : loop) p -= origin;
        six += six_volumes(loop);
    };
    for (const auto& face : solid.faces) {
        add(face.outer);
        for (const auto& hole : face.holes) add(hole);
    }
    for (const auto& side : solid.sides) add({side[0], side[1], side[2]});
    return six / 6;
}

}  // namespace bevelsmith::piece
