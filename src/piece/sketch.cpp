#include <algorithm>
#include <cmath>

#include "piece/cutouts.h"
#include "piece/features.h"
#include "piece/joints.h"
#include "piece/limits.h"
#include "piece/outline.h"
#include "piece/scribe.h"

namespace bevelsmith::piece {
namespace {

using geometry::Box;
using geometry::Polygon;

std::vector<Vec2> closed(const Polygon& shape) {
    std::vector<Vec2> out = shape.outer;
    if (!out.empty()) out.push_back(out.front());
    return out;
}

/// Room for straight edges to be drawn in: the other lines', and something where there are none.
Box room_of(const PieceSpec& spec, const std::vector<SketchLine>& lines) {
    Box out{{-500, -500}, {500, 500}};
    bool any = false;
    const auto take_in = [&](const Vec2& p) {
        out = any ? Box{out.min.cwiseMin(p), out.max.cwiseMax(p)} : Box{p, p};
        any = true;
    };
    for (const auto& line : lines)
        for (const Vec2& p : line.points) take_in(p);
    if (!any)
        for (const auto& o : spec.openings) {
            take_in({o.left_mm, o.bottom_mm});
            take_in({o.left_mm + o.width_mm, o.bottom_mm + o.height_mm});
        }
    const double margin = std::max(50.0, out.size().norm() / 20);
    return {out.min - Vec2::Constant(margin), out.max + Vec2::Constant(margin)};
}

/// The straight line of an edge across the room, or along its nearest side where it passes by.
std::vector<Vec2> across(const EdgeSpec& edge, const Box& room) {
    const Vec2 n = edge.side.normalized(), along(-n.y(), n.x());
    const Vec2 middle = room.centre();
    const Vec2 on = middle + (edge.at_mm / edge.side.norm() - n.dot(middle)) * n;
    const double half = room.size().norm() / 2;
    return {on - half * along, on + half * along};
}

/// The face before anything is cut out of it, by the outline of a plainer piece; empty where that fails as well.
Polygon bare_face(const PieceSpec& spec, double thickness_mm, const SurfaceLookup& surfaces) {
    PieceSpec plain = spec;
    plain.limbers.clear();
    plain.openings.clear();
    plain.rows.clear();
    plain.notches.clear();
    plain.crossings.clear();
    plain.joints.clear();
    plain.split_for_passage = false;
    const auto outline = compute_outline(plain, thickness_mm, surfaces, {});
    return outline ? outline->face_a : Polygon{};
}

/// What is cut out, each by itself, so that one that cannot be does not hide the others.
void add_features(const PieceSpec& spec, const Polygon& face, double thickness_mm, const Around& around,
                  Sketch& out) {
    const bool known = face.outer.size() >= 3;
    if (known)
        for (const auto& cutouts :
             {cutouts_of(spec, out.frame, thickness_mm, Uncut{face, face}, around), drains_of(spec, face)})
            for (const Cutout& c : cutouts)
                out.lines.push_back({c.source, c.spec, c.source == EdgeSource::limber ? c.what : c.name,
                                     closed(c.shape), !cut_out(spec, face, c).ok()});
    PieceSpec alone = spec;
    for (const OpeningSpec& o : spec.openings) {
        alone.openings = {o};
        alone.rows.clear();
        out.lines.push_back({EdgeSource::straight, -1, o.name, closed(opening_shape(o)),
                             known && !with_openings(alone, Polygon{face.outer, {}}).ok()});
    }
    alone.openings.clear();
    for (const HoleRow& row : spec.rows) {
        alone.rows = {row};
        out.lines.push_back(
            {EdgeSource::straight, -1, row.name,
             closed({geometry::rectangle(
                         {{row.left_mm, row.bottom_mm}, {row.left_mm + row.width_mm, row.bottom_mm + row.height_mm}}),
                     {}}),
             known && !with_openings(alone, Polygon{face.outer, {}}).ok()});
    }
}

/// The way on from each open end to the edge that it should meet, with readings to be taken along it.
void add_open(const PieceSpec& spec, const std::vector<ScribedEdge>& scribed, Sketch& out) {
    constexpr double shown_mm = 500;
    for (const OpenEnd& end : open_ends(spec, scribed)) {
        const double far = end.meets < 0 ? shown_mm / 2 : std::min(end.open_mm, 2 * shown_mm);
        out.open.push_back({EdgeSource::scribed,
                            end.edge,
                            spec.edges[static_cast<std::size_t>(end.edge)].name,
                            {end.at, end.at + far * end.way},
                            true});
        for (double share : {0.4, 0.8, 1.1}) out.next.push_back(end.at + share * far * end.way);
    }
}

void add_joints(const PieceSpec& spec, const Polygon& face, const Box& room, Sketch& out) {
    for (int i = 0; i < static_cast<int>(spec.joints.size()); ++i) {
        const JointSpec& j = spec.joints[static_cast<std::size_t>(i)];
        const std::vector<Vec2> line = j.upright
                                           ? std::vector<Vec2>{{j.at_mm, room.min.y()}, {j.at_mm, room.max.y()}}
                                           : std::vector<Vec2>{{room.min.x(), j.at_mm}, {room.max.x(), j.at_mm}};
        out.lines.push_back({EdgeSource::joint, i, "joint " + std::to_string(i + 1), line,
                             face.outer.size() >= 3 && joint_beside(spec, {j}, face).has_value()});
    }
}

}  // namespace

namespace {

/// Edges at planes and other pieces as lines of face A, as far as they can be told one by one.
PieceSpec with_lines(const PieceSpec& spec, const geometry::PlaneFrame& frame, const PieceLookup& pieces) {
    PieceSpec out = spec;
    for (EdgeSpec& edge : out.edges) {
        PieceSpec alone = spec;
        alone.edges = {edge};
        if (const auto drawn = as_drawn(alone, frame, 0, pieces)) edge = drawn->edges.front();
    }
    return out;
}

}  // namespace

Sketch sketch_of(const PieceSpec& given, double thickness_mm, const SurfaceLookup& surfaces, const Around& around) {
    Sketch out;
    out.frame = geometry::upright_frame(given.plane);
    const PieceSpec spec = with_lines(given, out.frame, around.pieces);
    std::vector<ScribedEdge> known;
    for (int i = 0; i < static_cast<int>(spec.edges.size()); ++i) {
        const EdgeSpec& edge = spec.edges[static_cast<std::size_t>(i)];
        if (edge.kind != EdgeKind::scribed) continue;
        // One by one: an edge whose surface is missing does not hide the others.
        PieceSpec alone = spec;
        alone.edges = {edge};
        if (const auto stretches = scribed_edges(alone, thickness_mm, surfaces, out.frame))
            for (const ScribedEdge& stretch : *stretches) {
                known.push_back(stretch);
                known.back().spec = i;
                out.lines.push_back({EdgeSource::scribed, i, edge.name, stretch.a.points, false});
            }
    }
    const Polygon face = bare_face(spec, thickness_mm, surfaces);
    const Box room = room_of(spec, out.lines);
    for (int i = 0; i < static_cast<int>(spec.edges.size()); ++i) {
        const EdgeSpec& edge = spec.edges[static_cast<std::size_t>(i)];
        if (edge.kind == EdgeKind::straight && edge.side.norm() > 1e-9)
            out.lines.push_back({EdgeSource::straight, i, edge.name, across(edge, room), false});
        if (edge.kind == EdgeKind::free && edge.line.size() > 1)
            out.lines.push_back({EdgeSource::free, i, edge.name, free_line(edge), false});
    }
    if (face.outer.empty()) add_open(spec, known, out);
    add_features(spec, face, thickness_mm, around, out);
    add_joints(spec, face, room, out);
    return out;
}

}  // namespace bevelsmith::piece
