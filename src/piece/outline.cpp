#include "piece/outline.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>

#include "piece/features.h"
#include "piece/parts.h"
#include "piece/scribe.h"
#include "units/quantity.h"

namespace bevelsmith::piece {
namespace {

using geometry::Polygon;
using geometry::Ring;

/// How far straight edges reach, and how far beyond the readings an edge may be closed: larger than any boat.
constexpr double far_mm = 1e5;
/// A stretch of outline belongs to the line it lies on to this; set operations move points by 1e-5.
constexpr double on_line_mm = 1e-3;
/// Between the lengths of two stretches of edge: more than two marks of one stretch are ever apart.
constexpr double stretch_gap_mm = 200;

/// A line that may become a stretch of outline, and whose it is.
struct Source {
    EdgeSource kind;
    int spec;
    std::vector<Vec2> line;
};

/// The half-plane side·q <= at, as a large rectangle.
Polygon half_plane(const Vec2& side, double at_mm) {
    const Vec2 n = side.normalized(), t(-n.y(), n.x());
    const Vec2 on = n * at_mm / side.norm();
    return {{on - far_mm * t, on + far_mm * t, on + far_mm * t - far_mm * n, on - far_mm * t - far_mm * n}, {}};
}

double straight_at(const EdgeSpec& edge) {
    return edge.at_mm - (edge.gap_mm + edge.coating_mm) * edge.side.norm();
}

/// The inside of a section curve: itself when closed, else closed far away beyond its ends, along the ends'
/// normals, so that straight edges have something to cut. Stretches made so belong to no edge.
Polygon inside_of(const FaceCurve& curve) {
    if (curve.closed) return geometry::largest(geometry::unite({Polygon{curve.points, {}}}, {}));
    Ring ring = curve.points;
    const double reach = 2 * geometry::bounding_box(curve.points).size().norm() + 1000;
    const std::size_t n = ring.size();
    const Vec2 last = (curve.points[n - 1] - curve.points[n - 2]).normalized();
    const Vec2 first = (curve.points[0] - curve.points[1]).normalized();
    const Vec2 end = ring[n - 1] + reach * last, start = ring[0] + reach * first;
    const Vec2 in_end(-last.y(), last.x()), in_start(first.y(), -first.x());
    ring.push_back(end);
    ring.push_back(end + reach * (in_end + last));
    ring.push_back(start + reach * (in_start + first));
    ring.push_back(start);
    return geometry::largest(geometry::unite({Polygon{ring, {}}}, {}));
}

double distance_to_line(const Vec2& p, const std::vector<Vec2>& line) {
    double best = std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i + 1 < line.size(); ++i)
        best = std::min(best, geometry::distance_to_segment_mm(p, line[i], line[i + 1]));
    return best;
}

double distance_to_ring(const Vec2& p, const Ring& ring) {
    return std::min(distance_to_line(p, ring), geometry::distance_to_segment_mm(p, ring.back(), ring.front()));
}

/// Which source each segment of the ring lies on; -1 for none.
std::vector<int> classify(const Ring& ring, const std::vector<Source>& sources) {
    std::vector<int> out(ring.size(), -1);
    int previous = 0;
    for (std::size_t i = 0; i < ring.size(); ++i) {
        const Vec2 middle = (ring[i] + ring[(i + 1) % ring.size()]) / 2;
        // Most segments lie on the same source as the one before.
        for (int k = 0; k < static_cast<int>(sources.size()); ++k) {
            const int s = (previous + k) % static_cast<int>(sources.size());
            if (distance_to_line(middle, sources[static_cast<std::size_t>(s)].line) > on_line_mm) continue;
            out[i] = previous = s;
            break;
        }
    }
    return out;
}

/// A ring turned so that it starts where an edge starts.
Ring started_at_edge(const Ring& ring, std::vector<int>& owner) {
    for (std::size_t i = 0; i < ring.size(); ++i) {
        if (owner[i] == owner[(i + ring.size() - 1) % ring.size()]) continue;
        Ring out(ring);
        std::rotate(out.begin(), out.begin() + static_cast<std::ptrdiff_t>(i), out.end());
        std::rotate(owner.begin(), owner.begin() + static_cast<std::ptrdiff_t>(i), owner.end());
        return out;
    }
    return ring;
}

std::string edge_name(const Source& s, const PieceSpec& spec) {
    if (s.kind == EdgeSource::limber) return "limber notch";
    return spec.edges[static_cast<std::size_t>(s.spec)].name;
}

std::vector<Edge> edges_of(Ring& ring, const std::vector<Source>& sources, const PieceSpec& spec) {
    std::vector<int> owner = classify(ring, sources);
    ring = started_at_edge(ring, owner);
    std::vector<Edge> out;
    const int n = static_cast<int>(ring.size());
    for (int i = 0; i < n;) {
        int k = i;
        double length = 0;
        const int who = owner[static_cast<std::size_t>(i)];
        for (; k < n && owner[static_cast<std::size_t>(k)] == who; ++k)
            length += (ring[static_cast<std::size_t>((k + 1) % n)] - ring[static_cast<std::size_t>(k)]).norm();
        Edge edge;
        edge.first = i;
        edge.last = k % n;
        edge.length_mm = length;
        if (who >= 0) {
            const Source& source = sources[static_cast<std::size_t>(who)];
            edge.source = source.kind;
            edge.spec = source.spec;
            edge.name = edge_name(source, spec);
        }
        out.push_back(edge);
        i = k;
    }
    return out;
}

std::vector<Vec2> kept_points(const std::vector<ScribedEdge>& scribed, const Polygon& region, bool face_a) {
    std::vector<Vec2> out;
    for (const auto& edge : scribed)
        for (const Vec2& p : (face_a ? edge.a : edge.b).points)
            if (geometry::contains(region.outer, p) || distance_to_ring(p, region.outer) < on_line_mm)
                out.push_back(p);
    return out;
}

/// Which edge stays open, by how much, and what to do.
Error open_outline(const PieceSpec& spec, const std::vector<ScribedEdge>& scribed) {
    const auto ends = open_ends(spec, scribed);
    if (ends.empty())
        return Error{
            fmt::format("'{}': the outline does not close. Add a straight edge on the side that is open", spec.name)};
    const OpenEnd& end = ends.front();
    const std::string& hull = spec.edges[static_cast<std::size_t>(end.edge)].name;
    if (end.meets < 0)
        return Error{
            fmt::format("'{}': the outline is open where '{}' ends, and no straight edge lies there. Add one, "
                        "or take readings farther along",
                        spec.name, hull)};
    const std::string& next = spec.edges[static_cast<std::size_t>(end.meets)].name;
    return Error{
        fmt::format("'{0}': the outline is open: '{1}' is known no farther than {2:.0f} mm short of '{3}'. Move "
                    "'{3}' in, or take readings farther along '{1}'",
                    spec.name, hull, end.open_mm, next)};
}

struct FaceResult {
    Polygon shape;
    std::vector<Edge> edges;
};

/// The outline of one face: inside of the scribed curves, cut by the straight edges, notched, opened.
Result<FaceResult> face_outline(const PieceSpec& spec, const std::vector<ScribedEdge>& scribed, bool face_a) {
    std::vector<Source> sources;
    std::vector<Polygon> region{{{{-far_mm, -far_mm}, {far_mm, -far_mm}, {far_mm, far_mm}, {-far_mm, far_mm}}, {}}};
    for (const auto& edge : scribed) {
        const FaceCurve& curve = face_a ? edge.a : edge.b;
        region = geometry::intersect(region, {inside_of(curve)});
        sources.push_back({EdgeSource::scribed, edge.spec, curve.points});
    }
    for (int i = 0; i < static_cast<int>(spec.edges.size()); ++i) {
        const EdgeSpec& edge = spec.edges[static_cast<std::size_t>(i)];
        if (edge.kind != EdgeKind::straight) continue;
        const Polygon half = half_plane(edge.side, straight_at(edge));
        region = geometry::intersect(region, {half});
        sources.push_back({EdgeSource::straight, i, {half.outer[0], half.outer[1]}});
    }
    Polygon outline = geometry::largest(std::move(region));
    if (outline.outer.size() < 3 || geometry::area_mm2(outline) < least_area_mm2)
        return Error{fmt::format("'{}': its edges leave no area between them", spec.name)};
    const auto edge_points = kept_points(scribed, outline, face_a);
    for (int i = 0; i < static_cast<int>(spec.limbers.size()) && !edge_points.empty(); ++i) {
        const Polygon notch = limber_shape(spec.limbers[static_cast<std::size_t>(i)], outline.outer, edge_points);
        auto cut = notched(spec, outline, notch, i);
        if (!cut) return cut.error();
        outline = std::move(cut.value());
        Ring closed = notch.outer;
        closed.push_back(closed.front());
        sources.push_back({EdgeSource::limber, i, closed});
    }
    FaceResult out;
    out.shape.outer = outline.outer;
    out.edges = edges_of(out.shape.outer, sources, spec);
    for (const Edge& edge : out.edges)
        if (edge.spec < 0 && edge.length_mm > 0.01) return open_outline(spec, scribed);
    return out;
}

/// Marks that the outline keeps, and what they say together.
void summarise(Outline& out) {
    out.least_bevel_rad = std::numeric_limits<double>::infinity();
    out.largest_bevel_rad = -std::numeric_limits<double>::infinity();
    for (EdgeMark& mark : out.marks) {
        mark.kept = distance_to_ring(mark.a, out.face_a.outer) < on_line_mm;
        if (!mark.kept) continue;
        out.largest_sigma_mm = std::max(out.largest_sigma_mm, mark.sigma_mm);
        out.largest_bevel_rad = std::max(out.largest_bevel_rad, mark.bevel_rad);
        out.least_bevel_rad = std::min(out.least_bevel_rad, mark.bevel_rad);
        out.all_in_survey = out.all_in_survey && mark.in_survey;
    }
    for (const Edge& e : out.edges_a)
        if (e.source == EdgeSource::scribed) out.edge_length_mm += e.length_mm;
}

/// Lengths along the edge count from where the piece's own edge begins, not from where the readings do; a second
/// stretch goes on behind the first, with a gap that keeps the two apart.
void count_from_the_piece(Outline& out, const std::vector<ScribedEdge>& scribed) {
    std::size_t first = 0;
    double next = 0;
    for (const ScribedEdge& edge : scribed) {
        const auto begin = out.marks.begin() + static_cast<std::ptrdiff_t>(first);
        const auto end = begin + static_cast<std::ptrdiff_t>(edge.marks.size());
        first += edge.marks.size();
        const auto kept = std::find_if(begin, end, [](const EdgeMark& m) { return m.kept; });
        const double shift = kept == end ? -next : kept->arc_mm - next;
        for (auto it = begin; it != end; ++it) {
            it->arc_mm -= shift;
            if (it->kept) next = it->arc_mm + stretch_gap_mm;
        }
    }
}

/// Runs of bevel over the marks that are kept, by index into `marks`.
std::vector<hull::BevelRun> kept_bevel_runs(const std::vector<EdgeMark>& marks) {
    std::vector<hull::BevelRun> out;
    for (std::size_t i = 0; i < marks.size();) {
        if (!marks[i].kept) {
            ++i;
            continue;
        }
        std::vector<hull::SectionPoint> stretch;
        std::size_t k = i;
        for (; k < marks.size() && marks[k].kept; ++k) stretch.emplace_back().bevel_rad = marks[k].bevel_rad;
        for (hull::BevelRun run : hull::bevel_runs(stretch, units::radians(saw_band_deg))) {
            run.first += static_cast<int>(i);
            run.last += static_cast<int>(i);
            out.push_back(run);
        }
        i = k;
    }
    return out;
}

}  // namespace

Result<Outline> compute_outline(const PieceSpec& spec, double thickness_mm, const SurfaceLookup& surfaces,
                                const Passage& passage, const KeepGoing& keep_going) {
    Outline out;
    out.frame = geometry::upright_frame(spec.plane);
    out.thickness_mm = thickness_mm;
    const auto scribed = scribed_edges(spec, thickness_mm, surfaces, out.frame, keep_going);
    if (!scribed) return scribed.error();
    auto a = face_outline(spec, *scribed, true);
    if (!a) return a.error();
    auto b = face_outline(spec, *scribed, false);
    if (!b) return b.error();
    if (auto fault = joint_beside(spec, a->shape)) return *fault;
    ask(keep_going);
    for (const auto& edge : *scribed) out.marks.insert(out.marks.end(), edge.marks.begin(), edge.marks.end());
    out.edges_a = std::move(a->edges);
    out.edges_b = std::move(b->edges);
    auto open_a = with_openings(spec, a->shape);
    if (!open_a) return open_a.error();
    auto open_b = with_openings(spec, b->shape);
    if (!open_b) return open_b.error();
    // Openings are holes: the outer rings, and with them the edges' indices, stay as they are.
    out.face_a = {a->shape.outer, open_a->holes};
    out.face_b = {b->shape.outer, open_b->holes};
    summarise(out);
    count_from_the_piece(out, *scribed);
    out.bevel_runs = kept_bevel_runs(out.marks);
    divide(spec, passage, out, keep_going);
    if (out.parts.empty()) return Error{fmt::format("'{}': its joints leave no part large enough to cut", spec.name)};
    return out;
}

}  // namespace bevelsmith::piece
