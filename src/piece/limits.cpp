#include "piece/limits.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "geometry/batten.h"
#include "units/quantity.h"

namespace bevelsmith::piece {
namespace {

/// A plane that meets the piece's own at less than this (sine) has no line with it that could be cut.
constexpr double least_sine = 0.02;
/// Chords leave a curve by at most this.
constexpr double chord_mm = 0.05;

/// The corner at `b` rounded: from the tangent point on ab to that on bc.
void add_rounded(std::vector<Vec2>& out, const Vec2& a, const Vec2& b, const Vec2& c, double radius) {
    const Vec2 in = (a - b).normalized(), on = (c - b).normalized();
    const double cosine = std::clamp(in.dot(on), -1.0, 1.0), half = std::acos(cosine) / 2;
    const double room = std::min((a - b).norm(), (c - b).norm()) / 2;
    double back = radius / std::tan(half);
    if (radius <= 0 || half < 1e-3 || half > 1.5707) return out.push_back(b);
    back = std::min(back, room);
    const double r = back * std::tan(half);
    const Vec2 centre = b + (in + on).normalized() * (r / std::sin(half));
    const Vec2 first = b + back * in - centre, last = b + back * on - centre;
    const double from = std::atan2(first.y(), first.x());
    double turn = std::atan2(last.y(), last.x()) - from;
    while (turn > M_PI) turn -= 2 * M_PI;
    while (turn < -M_PI) turn += 2 * M_PI;
    const double step = 2 * std::acos(std::max(0.0, 1 - chord_mm / std::max(r, chord_mm * 1.01)));
    const int n = std::max(1, static_cast<int>(std::ceil(std::abs(turn) / step)));
    for (int k = 0; k <= n; ++k) {
        const double angle = from + turn * k / n;
        out.push_back(centre + r * Vec2(std::cos(angle), std::sin(angle)));
    }
}

Error edge_fault(const PieceSpec& spec, const EdgeSpec& edge, const std::string& why) {
    return Error{fmt::format("'{}', edge '{}': {}", spec.name, edge.name, why)};
}

}  // namespace

std::vector<Vec2> free_line(const EdgeSpec& edge) {
    const auto& pins = edge.line;
    const std::size_t n = pins.size();
    std::vector<Vec2> out;
    for (std::size_t i = 0; i < n;) {
        // A run of smooth points takes in the points at its ends.
        if (i + 1 < n && pins[i + 1].smooth) {
            std::vector<Vec2> through{pins[i].at};
            std::size_t k = i + 1;
            for (; k < n && pins[k].smooth; ++k) through.push_back(pins[k].at);
            if (k < n) through.push_back(pins[k].at);
            const auto curve = geometry::batten(through);
            out.insert(out.end(), curve.begin() + (out.empty() ? 0 : 1), curve.end());
            // The end pin of the run is drawn; it begins what follows.
            if (k >= n) break;
            i = k;
            if (i + 1 < n && pins[i + 1].smooth) continue;
            ++i;
            continue;
        }
        const bool corner = edge.closed || (i > 0 && i + 1 < n);
        if (corner && pins[i].radius_mm > 0)
            add_rounded(out, pins[(i + n - 1) % n].at, pins[i].at, pins[(i + 1) % n].at, pins[i].radius_mm);
        else out.push_back(pins[i].at);
        ++i;
    }
    return out;
}

KeptSide kept_side(const PieceSpec& spec, const EdgeSpec& edge, const geometry::Plane& other,
                   double other_thickness_mm) {
    if (edge.kept != KeptSide::by_place || !spec.at) return edge.kept;
    return other.normal.dot(*spec.at) < other.d_mm + other_thickness_mm / 2 ? KeptSide::before_a : KeptSide::beyond_b;
}

Result<geometry::Plane> end_plane(const PieceSpec& spec, const EdgeSpec& edge, const PieceLookup& pieces) {
    if (edge.kind == EdgeKind::plane) return edge.plane;
    const Neighbour* other = pieces ? pieces(edge.piece_id) : nullptr;
    if (!other)
        return edge_fault(
            spec, edge,
            fmt::format("it meets the piece '{}', which there is not; choose another or make it straight",
                        edge.piece_id));
    const KeptSide kept = kept_side(spec, edge, other->plane, other->thickness_mm);
    if (kept == KeptSide::by_place)
        return edge_fault(spec, edge, "nothing says on which side of the other piece this one lies; choose one");
    const bool before = kept == KeptSide::before_a;
    const double face_a = other->plane.d_mm - other->covering_a_mm,
                 face_b = other->plane.d_mm + other->thickness_mm + other->covering_b_mm;
    const bool near = edge.meeting == Meeting::stops;
    if (before) return geometry::Plane{other->plane.normal, near ? face_a : face_b};
    return geometry::Plane{-other->plane.normal, near ? -face_b : -face_a};
}

Result<PieceSpec> as_drawn(const PieceSpec& spec, const geometry::PlaneFrame& frame, double behind_mm,
                           const PieceLookup& pieces) {
    PieceSpec out = spec;
    for (EdgeSpec& edge : out.edges) {
        if (edge.kind != EdgeKind::plane && edge.kind != EdgeKind::piece) continue;
        const auto end = end_plane(spec, edge, pieces);
        if (!end) return end.error();
        const Vec2 side(end->normal.dot(frame.u), end->normal.dot(frame.v));
        if (side.norm() < least_sine) return edge_fault(spec, edge, "it is parallel to what it should end at");
        edge.kind = EdgeKind::straight;
        edge.side = side;
        edge.at_mm = end->d_mm - edge.taken_off_mm() - end->normal.dot(frame.origin) -
                     behind_mm * end->normal.dot(frame.normal);
        edge.gap_mm = edge.coating_mm = edge.covering_mm = edge.overhang_mm = 0;
    }
    return out;
}

PieceSpec as_cut_from_sheet(const PieceSpec& spec) {
    PieceSpec out = spec;
    for (EdgeSpec& edge : out.edges) edge.gap_mm += edge.lipping_mm - edge.leave_on_mm;
    return out;
}

std::vector<Tight> too_tight(const PieceSpec& spec, const Outline& shape, double swelling_mm) {
    std::vector<Tight> out;
    const double grain = units::radians(spec.grain_deg);
    const Vec2 across(-std::sin(grain), std::cos(grain));
    const auto& ring = shape.face_a.outer;
    for (const Edge& edge : shape.edges_a) {
        if (edge.spec < 0 || (edge.source != EdgeSource::scribed && edge.source != EdgeSource::straight)) continue;
        const EdgeSpec& of = spec.edges[static_cast<std::size_t>(edge.spec)];
        // A line of the drawing or of the boat meets nothing that would hold the wood.
        if (of.kind != EdgeKind::scribed && of.kind != EdgeKind::piece) continue;
        const Vec2 along = ring[static_cast<std::size_t>(edge.last)] - ring[static_cast<std::size_t>(edge.first)];
        if (along.norm() < 1 || std::abs(across.dot(along)) > std::sqrt(0.5) * along.norm()) continue;
        if (of.gap_mm < swelling_mm / 2 - 1e-9) out.push_back({edge.spec, of.gap_mm, swelling_mm / 2});
    }
    return out;
}

double swelling_mm(double width_mm, double per_percent, double moisture_from_percent, double moisture_to_percent) {
    return width_mm * per_percent * (moisture_to_percent - moisture_from_percent);
}

}  // namespace bevelsmith::piece
