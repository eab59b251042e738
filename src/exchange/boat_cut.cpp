#include "exchange/boat_cut.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

namespace bevelsmith::exchange {
namespace {

using geometry::Polygon;
using geometry::Ring;

/// Where a straight cut enters and leaves a face, along the line of the cut, and the places there.
struct Crossing {
    double along = 0;
    Vec3 at;
};

std::vector<Crossing> crossings(const Polygon& face, const geometry::PlaneFrame& frame, double behind_mm,
                                const geometry::Plane& plane, const Vec3& along) {
    std::vector<Crossing> out;
    const auto ring = [&](const Ring& r) {
        for (std::size_t i = 0; i < r.size(); ++i) {
            const Vec3 a = frame.to_space(r[i]) + behind_mm * frame.normal,
                       b = frame.to_space(r[(i + 1) % r.size()]) + behind_mm * frame.normal;
            const double da = plane.distance_mm(a), db = plane.distance_mm(b);
            if ((da < 0) == (db < 0)) continue;
            const Vec3 at = a + (b - a) * (da / (da - db));
            out.push_back({along.dot(at), at});
        }
    };
    ring(face.outer);
    for (const auto& hole : face.holes) ring(hole);
    std::sort(out.begin(), out.end(), [](const auto& a, const auto& b) { return a.along < b.along; });
    return out;
}

/// The wood between a cut's two lines, one on each face: entries and exits pair up.
std::vector<Polygon> between(const std::vector<Crossing>& a, const std::vector<Crossing>& b, const CutFrame& frame) {
    std::vector<Polygon> out;
    for (std::size_t k = 0; k + 1 < std::min(a.size(), b.size()); k += 2)
        out.push_back(geometry::oriented({{frame.to_drawing(a[k].at), frame.to_drawing(a[k + 1].at),
                                           frame.to_drawing(b[k + 1].at), frame.to_drawing(b[k].at)},
                                          {}}));
    return out;
}

/// The piece cut along its own plane: all of it, as far as the cut lies within its thickness.
std::vector<Polygon> flat(const piece::Outline& o, const geometry::Plane& plane, const CutFrame& frame) {
    const double a = plane.distance_mm(o.frame.origin),
                 b = plane.distance_mm(o.frame.origin + o.thickness_mm * o.frame.normal);
    if (std::min(a, b) > 0 || std::max(a, b) < 0) return {};
    const auto drawn = [&](const Ring& r) {
        Ring out;
        for (const Vec2& q : r) out.push_back(frame.to_drawing(o.frame.to_space(q)));
        return out;
    };
    Polygon out{drawn(o.face_a.outer), {}};
    for (const auto& hole : o.face_a.holes) out.holes.push_back(drawn(hole));
    return {geometry::oriented(out)};
}

/// The rings of the face that one sees, where any of it lies beyond the cut.
std::vector<Ring> seen_beyond(const piece::Outline& o, const geometry::Plane& plane, const CutFrame& frame) {
    const bool turned = o.frame.normal.dot(frame.look) < 0;
    const Polygon& face = turned ? o.face_b : o.face_a;
    const Vec3 off = turned ? Vec3(o.thickness_mm * o.frame.normal) : Vec3(Vec3::Zero());
    const double way = plane.normal.dot(frame.look);
    const bool any = std::any_of(face.outer.begin(), face.outer.end(), [&](const Vec2& q) {
        return way * plane.distance_mm(o.frame.to_space(q) + off) > 0;
    });
    if (!any) return {};
    std::vector<Ring> out;
    const auto ring = [&](const Ring& r) {
        Ring& drawn = out.emplace_back();
        for (const Vec2& q : r) drawn.push_back(frame.to_drawing(o.frame.to_space(q) + off));
    };
    ring(face.outer);
    for (const auto& hole : face.holes) ring(hole);
    return out;
}

}  // namespace

CutFrame frame_of(Cut cut) {
    if (cut == Cut::section) return {-Vec3::UnitY(), Vec3::UnitZ(), Vec3::UnitX()};
    if (cut == Cut::profile) return {Vec3::UnitX(), Vec3::UnitZ(), Vec3::UnitY()};
    return {Vec3::UnitX(), Vec3::UnitY(), -Vec3::UnitZ()};
}

geometry::Plane plane_of(Cut cut, double at_mm) {
    if (cut == Cut::section) return {Vec3::UnitX(), at_mm};
    if (cut == Cut::profile) return {Vec3::UnitY(), at_mm};
    return {Vec3::UnitZ(), at_mm};
}

std::vector<CutHull> cut_hull(const job::Results& results, Cut cut, double at_mm) {
    std::vector<CutHull> out;
    for (const auto& surface : results.surfaces) {
        if (!surface.face) continue;
        constexpr double thin_mm = 1;  // only where the line runs is wanted
        const auto runs = hull::cut_section(*surface.face, plane_of(cut, at_mm), thin_mm);
        if (runs) out.push_back({surface.id, *runs});
    }
    return out;
}

std::vector<CutPiece> cut_pieces(const job::Results& results, Cut cut, double at_mm) {
    constexpr double parallel = 0.999;
    const CutFrame frame = frame_of(cut);
    const geometry::Plane plane = plane_of(cut, at_mm);
    std::vector<CutPiece> out;
    for (std::size_t i = 0; i < results.pieces.size(); ++i) {
        const auto* o = results.pieces[i].shape();
        if (!o) continue;
        CutPiece now;
        now.piece = i;
        if (std::abs(o->frame.normal.dot(plane.normal)) > parallel) {
            now.wood = flat(*o, plane, frame);
        } else {
            const Vec3 along(o->frame.normal.cross(plane.normal).normalized());
            now.wood = between(crossings(o->face_a, o->frame, 0, plane, along),
                               crossings(o->face_b, o->frame, o->thickness_mm, plane, along), frame);
        }
        now.beyond = seen_beyond(*o, plane, frame);
        if (!now.wood.empty() || !now.beyond.empty()) out.push_back(std::move(now));
    }
    return out;
}

BoatBox extent_of(const job::Results& results) {
    BoatBox out;
    const auto take_in = [&](const Vec3& p) {
        out.low = out.empty ? p : Vec3(out.low.cwiseMin(p));
        out.high = out.empty ? p : Vec3(out.high.cwiseMax(p));
        out.empty = false;
    };
    for (const auto& s : results.surfaces)
        if (s.mesh)
            for (const auto& node : s.mesh->nodes)
                if (node.surrounded) take_in(node.position);
    for (const auto& p : results.pieces)
        if (const auto* o = p.shape())
            for (const Vec2& q : o->face_a.outer) take_in(o->frame.to_space(q));
    return out;
}

}  // namespace bevelsmith::exchange
