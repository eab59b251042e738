#include "piece/outline.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>

#include "piece/cutouts.h"
#include "piece/features.h"
#include "piece/joints.h"
#include "piece/lid.h"
#include "piece/limits.h"
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
    std::string name;
    std::vector<Vec2> line;
    double bevel_rad = 0;
    bool is_wall = false;  ///< of a slot: a long side, not an end
};

/// The half-plane side·q <= at, as a large rectangle.
Polygon half_plane(const Vec2& side, double at_mm) {
    const Vec2 n = side.normalized(), t(-n.y(), n.x());
    const Vec2 on = n * at_mm / side.norm();
    return {{on - far_mm * t, on + far_mm * t, on + far_mm * t - far_mm * n, on - far_mm * t - far_mm * n}, {}};
}

double straight_at(const EdgeSpec& edge) {
    return edge.at_mm - edge.taken_off_mm() * edge.side.norm();
}

/// Where two rays cross, both within `reach`.
std::optional<Vec2> where_rays_meet(const Vec2& a, const Vec2& along_a, const Vec2& b, const Vec2& along_b,
                                    double reach) {
    const double turn = along_a.x() * along_b.y() - along_a.y() * along_b.x();
    if (std::abs(turn) < 1e-9) return std::nullopt;
    const Vec2 off = b - a;
    const double at_a = (off.x() * along_b.y() - off.y() * along_b.x()) / turn,
                 at_b = (off.x() * along_a.y() - off.y() * along_a.x()) / turn;
    if (at_a <= 0 || at_b <= 0 || at_a > reach || at_b > reach) return std::nullopt;
    return a + at_a * along_a;
}

/// Where both ends lean in, their lines cross above the boat, and what lies beyond is larger than the boat: the part
/// that lies along the curve is wanted.
Polygon beside_curve(std::vector<Polygon> parts, const std::vector<Vec2>& curve) {
    constexpr double a_little_mm = 0.5;
    for (const double share : {0.5, 0.3, 0.7}) {
        const auto i = static_cast<std::size_t>(share * static_cast<double>(curve.size() - 1));
        const Vec2 along =
            (curve[i + 1 < curve.size() ? i + 1 : i] - curve[i + 1 < curve.size() ? i : i - 1]).normalized();
        const Vec2 within = curve[i] + a_little_mm * Vec2(-along.y(), along.x());
        for (Polygon& part : parts)
            if (geometry::contains(part.outer, within)) return part;
    }
    return geometry::largest(std::move(parts));
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
    // Ends that lean in meet above the boat: beyond that there is no inside.
    const auto closed = [&curve](const Ring& around) {
        return beside_curve(geometry::unite({Polygon{around, {}}}, {}), curve.points);
    };
    if (const auto apex = where_rays_meet(ring[n - 1], last, ring[0], first, reach)) {
        ring.push_back(*apex);
        return closed(ring);
    }
    const Vec2 in_end(-last.y(), last.x()), in_start(first.y(), -first.x());
    const Vec2 far_end = end + reach * (in_end + last), far_start = start + reach * (in_start + first);
    ring.push_back(end);
    ring.push_back(far_end);
    // Under much flare the ends lean so far apart that the line between the far corners would pass near the curve, or
    // outside of it: it is led round the inside.
    const Vec2 middle = (curve.points[0] + curve.points[n - 1]) / 2, across = (far_start - far_end).normalized();
    if (Vec2(-across.y(), across.x()).dot(middle - far_end) < 0.7 * reach) {
        const Vec2 chord = (curve.points[n - 1] - curve.points[0]).normalized();
        ring.push_back(middle + 3 * reach * Vec2(-chord.y(), chord.x()));
    }
    ring.push_back(far_start);
    ring.push_back(start);
    return closed(ring);
}

/// The left of a free line, gone on straight beyond its ends; or what it goes around.
Polygon free_region(const EdgeSpec& edge) {
    std::vector<Vec2> line = free_line(edge);
    Polygon out;
    if (!edge.closed) {
        // Long enough that it ends nowhere near the piece.
        const Vec2 first = (line[0] - line[1]).normalized(),
                   last = (line.back() - line[line.size() - 2]).normalized();
        line.insert(line.begin(), line.front() + far_mm / 10 * first);
        line.push_back(line.back() + far_mm / 10 * last);
        out = inside_of({line, false});
    } else {
        out = geometry::largest(geometry::unite({Polygon{line, {}}}, {}));
    }
    const double off = edge.taken_off_mm();
    return off == 0 ? out : geometry::largest(geometry::offset(out, -off, geometry::Corner::round));
}

/// Whether a place lies on a segment. Most lie far from it: the distance itself is asked last.
bool lies_on(const Vec2& p, const Vec2& a, const Vec2& b) {
    if (p.x() < std::min(a.x(), b.x()) - on_line_mm || p.x() > std::max(a.x(), b.x()) + on_line_mm ||
        p.y() < std::min(a.y(), b.y()) - on_line_mm || p.y() > std::max(a.y(), b.y()) + on_line_mm)
        return false;
    return geometry::distance_to_segment_mm(p, a, b) <= on_line_mm;
}

bool lies_on(const Vec2& p, const std::vector<Vec2>& line) {
    for (std::size_t i = 0; i + 1 < line.size(); ++i)
        if (lies_on(p, line[i], line[i + 1])) return true;
    return false;
}

bool lies_on_ring(const Vec2& p, const Ring& ring) {
    return lies_on(p, ring) || lies_on(p, ring.back(), ring.front());
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
            if (!lies_on(middle, sources[static_cast<std::size_t>(s)].line)) continue;
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

std::vector<Edge> edges_of(Ring& ring, const std::vector<Source>& sources) {
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
            edge.name = source.name;
            edge.bevel_rad = source.bevel_rad;
        }
        out.push_back(edge);
        i = k;
    }
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

/// Set operations began with a square larger than any boat: some of it is left.
bool bounded_by_nothing(const Polygon& outline) {
    return std::any_of(outline.outer.begin(), outline.outer.end(),
                       [](const Vec2& p) { return p.cwiseAbs().maxCoeff() > far_mm / 2; });
}

/// The walls of a cut-out as lines that stretches of the outline may lie on; of a slot each by itself, for each has a
/// bevel of its own.
void add_walls(std::vector<Source>& out, const Cutout& cutout) {
    Ring ring = cutout.shape.outer;
    ring.push_back(ring.front());
    if (cutout.walls.empty()) return out.push_back({cutout.source, cutout.spec, cutout.name, ring});
    for (std::size_t i = 0; i + 1 < ring.size(); ++i) {
        Source side{cutout.source, cutout.spec, cutout.name, {ring[i], ring[i + 1]}};
        for (const auto& wall : cutout.walls)
            if (lies_on((ring[i] + ring[i + 1]) / 2, wall.from, wall.to))
                side.bevel_rad = wall.bevel_rad, side.is_wall = true;
        out.push_back(std::move(side));
    }
}

/// The walls of slots within a face: of what goes through it nothing shows at the outline.
std::vector<SlotWall> walls_within(const Polygon& face, const std::vector<Source>& sources) {
    std::vector<SlotWall> out;
    for (Ring ring : face.holes)
        for (const Edge& edge : edges_of(ring, sources)) {
            const Vec2 from = ring[static_cast<std::size_t>(edge.first)],
                       to = ring[static_cast<std::size_t>(edge.last)];
            // A slot's ends are as long as the other is thick: what is sawn are its sides.
            const bool wall = edge.source == EdgeSource::crossing && edge.spec >= 0 &&
                              std::any_of(sources.begin(), sources.end(), [&](const Source& s) {
                                  return s.kind == EdgeSource::crossing && s.spec == edge.spec && s.is_wall &&
                                         lies_on((from + to) / 2, s.line);
                              });
            if (wall) out.push_back({edge.spec, edge.name, from, to, edge.bevel_rad});
        }
    return out;
}

/// Whether a curve lies anywhere within what the other edges leave.
bool runs_through(const FaceCurve& curve, const std::vector<Polygon>& region) {
    return std::any_of(curve.points.begin(), curve.points.end(), [&](const Vec2& p) {
        return std::any_of(region.begin(), region.end(), [&](const Polygon& r) { return geometry::contains(r, p); });
    });
}

/// What all limits leave of one face, and the lines that its edges lie on.
struct Limited {
    std::vector<Polygon> region{{{{-far_mm, -far_mm}, {far_mm, -far_mm}, {far_mm, far_mm}, {-far_mm, far_mm}}, {}}};
    std::vector<Source> sources;
};

void limit_to(Limited& out, const Polygon& inside, Source source) {
    out.region = geometry::intersect(out.region, {inside});
    out.sources.push_back(std::move(source));
}

Limited limited(const PieceSpec& spec, const std::vector<ScribedEdge>& scribed, bool face_a) {
    Limited out;
    // What has few corners first: each further limit is then cut from less.
    for (int i = 0; i < static_cast<int>(spec.edges.size()); ++i) {
        const EdgeSpec& edge = spec.edges[static_cast<std::size_t>(i)];
        if (edge.kind == EdgeKind::straight) {
            const Polygon half = half_plane(edge.side, straight_at(edge));
            limit_to(out, half, {EdgeSource::straight, i, edge.name, {half.outer[0], half.outer[1]}});
        } else if (edge.kind == EdgeKind::free) {
            const Polygon inside = free_region(edge);
            std::vector<Vec2> line = inside.outer;
            if (!line.empty()) line.push_back(line.front());
            limit_to(out, inside, {EdgeSource::free, i, edge.name, line});
        }
    }
    const auto spec_of = [&](const ScribedEdge& edge) -> const EdgeSpec& {
        return spec.edges[static_cast<std::size_t>(edge.spec)];
    };
    for (const bool where_met : {false, true})
        for (const auto& edge : scribed) {
            const FaceCurve& curve = face_a ? edge.a : edge.b;
            if (spec_of(edge).where_met != where_met || (where_met && !runs_through(curve, out.region))) continue;
            limit_to(out, inside_of(curve), {EdgeSource::scribed, edge.spec, spec_of(edge).name, curve.points});
        }
    // Where two lie on one line the surface has it: it knows its bevel.
    std::stable_sort(out.sources.begin(), out.sources.end(), [](const Source& a, const Source& b) {
        return a.kind == EdgeSource::scribed && b.kind != EdgeSource::scribed;
    });
    return out;
}

struct FaceResult {
    Polygon shape, uncut;
    std::vector<Edge> edges;
    std::vector<SlotWall> slot_walls;
};

/// The outline of one face: inside of the scribed curves, cut by the straight edges, notched, opened. Of face B with
/// what face A is before anything is cut into it.
Result<FaceResult> face_outline(const PieceSpec& spec, const std::vector<ScribedEdge>& scribed,
                                const Polygon* uncut_a, const Outline& piece, const Around& around,
                                const KeepGoing& keep_going) {
    const bool face_a = !uncut_a;
    Limited limits = limited(spec, scribed, face_a);
    std::vector<Source>& sources = limits.sources;
    Polygon outline = geometry::largest(std::move(limits.region));
    if (outline.outer.size() < 3 || geometry::area_mm2(outline) < least_area_mm2)
        return Error{fmt::format("'{}': its edges leave no area between them", spec.name)};
    if (bounded_by_nothing(outline)) return open_outline(spec, scribed);
    const auto cut = [&](const std::vector<Cutout>& cutouts) -> std::optional<Error> {
        for (const Cutout& one : cutouts) {
            ask(keep_going);
            auto left = cut_out(spec, outline, one);
            if (!left) return left.error();
            outline = std::move(left.value());
            add_walls(sources, one);
        }
        return std::nullopt;
    };
    FaceResult out;
    out.uncut = outline;
    const Uncut uncut{out.uncut, face_a ? out.uncut : *uncut_a, face_a};
    if (auto fault = cut(cutouts_of(spec, piece.frame, piece.thickness_mm, uncut, around))) return *fault;
    if (auto fault = cut(drains_of(spec, outline))) return *fault;
    out.shape = outline;
    if (!spec.crossings.empty() && face_a) out.slot_walls = walls_within(outline, sources);
    out.edges = edges_of(out.shape.outer, sources);
    for (const Edge& edge : out.edges)
        if (edge.spec < 0 && edge.length_mm > 0.01) return open_outline(spec, scribed);
    return out;
}

/// How far a straight edge lies from the drawing's origin, along its own direction.
double reach_of(const EdgeSpec& edge) {
    return straight_at(edge) / edge.side.norm();
}

/// The bevel of edges that are straight on both faces.
void find_bevels(std::vector<Edge>& edges, double thickness_mm, const PieceSpec& at_a, const PieceSpec& at_b) {
    for (Edge& edge : edges) {
        if (edge.source != EdgeSource::straight || edge.spec < 0) continue;
        const auto k = static_cast<std::size_t>(edge.spec);
        edge.bevel_rad = std::atan2(reach_of(at_b.edges[k]) - reach_of(at_a.edges[k]), thickness_mm);
    }
}

/// Marks that are on the outline.
void keep_on(std::vector<EdgeMark>& marks, const Ring& ring) {
    for (EdgeMark& mark : marks) mark.kept = lies_on_ring(mark.a, ring);
}

/// Marks that the outline keeps, and what they say together.
void summarise(Outline& out) {
    out.least_bevel_rad = std::numeric_limits<double>::infinity();
    out.largest_bevel_rad = -std::numeric_limits<double>::infinity();
    keep_on(out.marks, out.face_a.outer);
    for (const EdgeMark& mark : out.marks) {
        if (!mark.kept) continue;
        out.largest_sigma_mm = std::max(out.largest_sigma_mm, mark.sigma_mm);
        out.largest_bevel_rad = std::max(out.largest_bevel_rad, mark.bevel_rad);
        out.least_bevel_rad = std::min(out.least_bevel_rad, mark.bevel_rad);
        out.all_in_survey = out.all_in_survey && mark.in_survey;
    }
    for (const Edge& e : out.edges_a)
        if (e.source == EdgeSource::scribed) out.edge_length_mm += e.length_mm;
    if (out.least_bevel_rad > out.largest_bevel_rad) out.least_bevel_rad = out.largest_bevel_rad = 0;
}

/// Lengths along the edge count from where the piece's own edge begins, not from where the readings do; a second
/// stretch goes on behind the first, with a gap that keeps the two apart.
void count_from_the_piece(std::vector<EdgeMark>& marks, const std::vector<ScribedEdge>& scribed) {
    std::size_t first = 0;
    double next = 0;
    for (const ScribedEdge& edge : scribed) {
        const auto begin = marks.begin() + static_cast<std::ptrdiff_t>(first);
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

}  // namespace

namespace {

/// Both faces of what a spec bounds, and where its edges meet surfaces.
struct Faces {
    PieceSpec at_a, at_b;  ///< with every straight limit as a line of the drawing
    std::vector<ScribedEdge> scribed;
    FaceResult a, b;
};

Result<Faces> faces_of(const PieceSpec& spec, const Outline& piece, const SurfaceLookup& surfaces,
                       const Around& around, const KeepGoing& keep_going) {
    Faces out;
    auto at_a = as_drawn(spec, piece.frame, 0, around.pieces),
         at_b = as_drawn(spec, piece.frame, piece.thickness_mm, around.pieces);
    if (!at_a) return at_a.error();
    if (!at_b) return at_b.error();
    out.at_a = std::move(at_a.value()), out.at_b = std::move(at_b.value());
    auto scribed = scribed_edges(spec, piece.thickness_mm, surfaces, piece.frame, keep_going);
    if (!scribed) return scribed.error();
    out.scribed = std::move(scribed.value());
    auto a = face_outline(out.at_a, out.scribed, nullptr, piece, around, keep_going);
    if (!a) return a.error();
    auto b = face_outline(out.at_b, out.scribed, &a->uncut, piece, around, keep_going);
    if (!b) return b.error();
    out.a = std::move(a.value()), out.b = std::move(b.value());
    return out;
}

std::vector<EdgeMark> marks_of(const std::vector<ScribedEdge>& scribed) {
    std::vector<EdgeMark> out;
    for (const auto& edge : scribed) out.insert(out.end(), edge.marks.begin(), edge.marks.end());
    return out;
}

/// Lippings and wood left on make the sheet's outline another than the finished one.
std::optional<Error> add_sheet_faces(const PieceSpec& spec, Outline& out, const SurfaceLookup& surfaces,
                                     const Around& around, const KeepGoing& keep_going) {
    out.sheet_a = out.face_a, out.sheet_b = out.face_b;
    const bool differs = std::any_of(spec.edges.begin(), spec.edges.end(),
                                     [](const EdgeSpec& e) { return e.lipping_mm != 0 || e.leave_on_mm != 0; });
    if (!differs) return std::nullopt;
    auto cut = faces_of(as_cut_from_sheet(spec), out, surfaces, around, keep_going);
    if (!cut) return cut.error();
    out.sheet_a = {cut->a.shape.outer, out.face_a.holes};
    out.sheet_b = {cut->b.shape.outer, out.face_b.holes};
    out.sheet_edges_a = std::move(cut->a.edges);
    find_bevels(out.sheet_edges_a, out.thickness_mm, cut->at_a, cut->at_b);
    out.sheet_marks = marks_of(cut->scribed);
    keep_on(out.sheet_marks, out.sheet_a.outer);
    count_from_the_piece(out.sheet_marks, cut->scribed);
    return std::nullopt;
}

}  // namespace

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

Result<Outline> compute_outline(const PieceSpec& spec, double thickness_mm, const SurfaceLookup& surfaces,
                                const Passage& passage, const KeepGoing& keep_going, const Around& around) {
    Outline out;
    out.frame = geometry::upright_frame(spec.plane);
    out.thickness_mm = thickness_mm;
    auto faces = faces_of(spec, out, surfaces, around, keep_going);
    if (!faces) return faces.error();
    const auto* scribed = &faces->scribed;
    auto *a = &faces->a, *b = &faces->b;
    auto joints = landed_joints(spec, out.frame, thickness_mm, around.pieces);
    if (!joints) return joints.error();
    out.joints = std::move(joints.value());
    if (auto fault = joint_beside(spec, out.joints, a->shape)) return *fault;
    ask(keep_going);
    out.marks = marks_of(*scribed);
    out.edges_a = std::move(a->edges);
    out.edges_b = std::move(b->edges);
    out.slot_walls = std::move(a->slot_walls);
    auto open_a = with_openings(spec, a->shape, keep_going);
    if (!open_a) return open_a.error();
    auto open_b = with_openings(spec, b->shape, keep_going);
    if (!open_b) return open_b.error();
    // Openings are holes: the outer rings, and with them the edges' indices, stay as they are.
    out.face_a = {a->shape.outer, open_a->holes};
    out.face_b = {b->shape.outer, open_b->holes};
    for (auto* edges : {&out.edges_a, &out.edges_b}) find_bevels(*edges, thickness_mm, faces->at_a, faces->at_b);
    if (auto fault = add_sheet_faces(spec, out, surfaces, around, keep_going)) return *fault;
    summarise(out);
    count_from_the_piece(out.marks, *scribed);
    out.bevel_runs = kept_bevel_runs(out.marks);
    divide(spec, passage, around.sheet, out, keep_going);
    out.lids = lids_of(spec, around.film_mm);
    for (Part& lid : lid_parts(spec, out.lids, thickness_mm, passage)) out.parts.push_back(std::move(lid));
    if (out.parts.empty()) return Error{fmt::format("'{}': its joints leave no part large enough to cut", spec.name)};
    return out;
}

}  // namespace bevelsmith::piece
