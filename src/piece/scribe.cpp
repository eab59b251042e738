#include "piece/scribe.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <optional>
#include <string>

namespace bevelsmith::piece {
namespace {

/// Shorter stretches say nothing of where the edge runs.
constexpr double no_way_mm = 1e-6;

/// Square to the line, inwards, from one point to the nearest other one that way; nothing at an open end.
std::optional<Vec2> inward_beside(const std::vector<Vec2>& line, std::size_t i, bool closed, bool before) {
    const std::size_t n = line.size(), ring = n - 1;  // a closed line's first point stands again at its end
    for (std::size_t k = 1; k < n; ++k) {
        if (!closed && (before ? i < k : i + k >= n)) return std::nullopt;
        const std::size_t other = !closed ? (before ? i - k : i + k) : (i + (before ? ring - k % ring : k)) % ring;
        const Vec2 along = before ? Vec2(line[i] - line[other]) : Vec2(line[other] - line[i]);
        if (along.norm() > no_way_mm) return Vec2(-along.y(), along.x()).normalized();  // counter-clockwise
    }
    return std::nullopt;
}

/// How a point of the line moves when the line moves inwards by 1: at a corner to the mitre.
Vec2 inward(const std::vector<Vec2>& line, std::size_t i, bool closed) {
    const auto before = inward_beside(line, i, closed, true), after = inward_beside(line, i, closed, false);
    if (!before || !after) return before ? *before : after ? *after : Vec2(0, 0);
    constexpr double sharpest = 0.2;  // a mitre no longer than some three times the gap
    return (*before + *after) / std::max(sharpest, 1 + before->dot(*after));
}

/// Beyond the readings a surface may curl back over the boat: an end that has turned by more than this from where the
/// readings end is no edge any more.
constexpr double most_turn_rad = 0.7;

/// How many points of the run, counted from one end of the survey outwards, are still worth something.
std::size_t worth_keeping(const std::vector<Vec3>& outwards) {
    for (std::size_t i = 2; i < outwards.size(); ++i) {
        const Vec3 way = (outwards[1] - outwards[0]).normalized(), now = (outwards[i] - outwards[i - 1]).normalized();
        if (way.dot(now) < std::cos(most_turn_rad)) return i;
    }
    return outwards.size();
}

/// The run without ends that curl back.
hull::SectionRun uncurled(const hull::SectionRun& run) {
    const auto known = [](const hull::SectionPoint& p) { return p.in_survey; };
    const auto first = std::find_if(run.points.begin(), run.points.end(), known);
    if (run.closed || first == run.points.end()) return run;
    const auto last = std::find_if(run.points.rbegin(), run.points.rend(), known).base() - 1;
    if (last - first < 2) return run;
    std::vector<Vec3> before, after;
    for (auto it = first + 1; it != run.points.begin();) before.push_back(it->a), --it;
    before.push_back(run.points.front().a);
    for (auto it = last - 1; it != run.points.end(); ++it) after.push_back(it->a);
    // Each begins with one step within the survey, which says where the edge was going.
    const auto ahead = static_cast<std::ptrdiff_t>(worth_keeping(before)) - 2,
               behind = static_cast<std::ptrdiff_t>(worth_keeping(after)) - 2;
    hull::SectionRun out = run;
    out.points.assign(first - ahead, last + 1 + behind);
    return out;
}

/// Those of a surface that lie in the plane of face A, in its drawing; of a piece that stands elsewhere now, none.
std::vector<Vec2> places_on(const std::vector<FittedPlace>& fitted, const std::string& surface_id,
                            const geometry::PlaneFrame& frame) {
    constexpr double in_plane_mm = 1;
    std::vector<Vec2> out;
    for (const FittedPlace& place : fitted)
        if (place.surface_id == surface_id && std::abs(frame.normal.dot(place.at - frame.origin)) < in_plane_mm)
            out.push_back(frame.to_plane(place.at));
    return out;
}

ScribedEdge scribe(const hull::SectionRun& run, const geometry::PlaneFrame& frame, const EdgeSpec& edge, int spec,
                   const std::vector<FittedPlace>& fitted) {
    ScribedEdge out;
    out.spec = spec;
    out.a.closed = out.b.closed = run.closed;
    std::vector<Vec2> raw_a, raw_b;
    for (const auto& p : run.points) {
        raw_a.push_back(frame.to_plane(p.a));
        raw_b.push_back(frame.to_plane(p.b));
    }
    lead_through(raw_a, raw_b, run.closed, places_on(fitted, edge.surface_id, frame));
    for (std::size_t i = 0; i < run.points.size(); ++i) {
        const auto& p = run.points[i];
        const double taken = edge.taken_off_mm() / std::cos(p.bevel_rad);
        EdgeMark mark;
        mark.a = raw_a[i] + taken * inward(raw_a, i, run.closed);
        mark.b = raw_b[i] + taken * inward(raw_b, i, run.closed);
        mark.met_a = raw_a[i], mark.met_b = raw_b[i];
        mark.arc_mm = p.arc_mm;
        mark.bevel_rad = p.bevel_rad;
        mark.sigma_mm = p.sigma_mm;
        mark.bevel_sigma_rad = p.bevel_sigma_rad;
        mark.place = p.place;
        mark.edge = spec;
        mark.gap_mm = taken;
        mark.in_survey = p.in_survey;
        out.marks.push_back(mark);
        out.a.points.push_back(mark.a);
        out.b.points.push_back(mark.b);
    }
    return out;
}

}  // namespace

Result<std::vector<ScribedEdge>> scribed_edges(const PieceSpec& spec, double thickness_mm,
                                               const SurfaceLookup& surfaces, const geometry::PlaneFrame& frame,
                                               const KeepGoing& keep_going) {
    std::vector<ScribedEdge> out;
    for (int i = 0; i < static_cast<int>(spec.edges.size()); ++i) {
        const EdgeSpec& edge = spec.edges[static_cast<std::size_t>(i)];
        if (edge.kind != EdgeKind::scribed) continue;
        ask(keep_going);
        const hull::Surface* surface = surfaces(edge.surface_id);
        if (!surface)
            return Error{
                fmt::format("'{}': the edge '{}' meets a surface that is not known yet", spec.name, edge.name)};
        const auto runs = hull::cut_section(*surface, spec.plane, thickness_mm);
        if (!runs && edge.where_met) continue;
        if (!runs) return Error{fmt::format("'{}', edge '{}': {}", spec.name, edge.name, runs.error().message)};
        // Both sides of the boat may be met (a level panel); scraps at the rim of the survey are not an edge.
        double longest = 0;
        for (const auto& run : *runs) longest = std::max(longest, run.points.back().arc_mm);
        for (const auto& run : *runs)
            if (run.points.back().arc_mm >= longest / 10)
                out.push_back(scribe(uncurled(run), frame, edge, i, spec.fitted));
    }
    if (spec.edges.empty()) return Error{fmt::format("'{}' has no edges: say what it meets", spec.name)};
    return out;
}

namespace {

/// Where the edge, gone on straight, meets the first of the piece's straight edges.
OpenEnd gone_on(const PieceSpec& spec, int edge, const Vec2& at, const Vec2& way) {
    constexpr double no_farther_mm = 5000;
    OpenEnd out{edge, at, way, -1, 0};
    double nearest = no_farther_mm;
    for (int i = 0; i < static_cast<int>(spec.edges.size()); ++i) {
        const EdgeSpec& e = spec.edges[static_cast<std::size_t>(i)];
        if (e.kind != EdgeKind::straight || e.side.norm() < 1e-9) continue;
        const double nearing = e.side.dot(way);
        if (nearing <= 1e-6) continue;
        const double far = (e.at_mm - e.side.dot(at)) / nearing;
        if (far < nearest) nearest = out.open_mm = far, out.meets = i;
    }
    return out;
}

bool within_straight_edges(const PieceSpec& spec, const Vec2& at) {
    return std::all_of(spec.edges.begin(), spec.edges.end(), [&](const EdgeSpec& e) {
        return e.kind != EdgeKind::straight || e.side.dot(at) < e.at_mm - e.taken_off_mm() * e.side.norm();
    });
}

}  // namespace

std::vector<OpenEnd> open_ends(const PieceSpec& spec, const std::vector<ScribedEdge>& scribed) {
    std::vector<OpenEnd> out;
    for (const ScribedEdge& stretch : scribed) {
        const auto& p = stretch.a.points;
        if (stretch.a.closed || p.size() < 2) continue;
        if (within_straight_edges(spec, p.front()))
            out.push_back(gone_on(spec, stretch.spec, p.front(), (p[0] - p[1]).normalized()));
        if (within_straight_edges(spec, p.back()))
            out.push_back(gone_on(spec, stretch.spec, p.back(), (p[p.size() - 1] - p[p.size() - 2]).normalized()));
    }
    return out;
}

}  // namespace bevelsmith::piece
