#include "piece/crossing.h"

#include <algorithm>
#include <cmath>

#include "piece/meeting_line.h"

namespace bevelsmith::piece {
namespace {

/// Planes that meet at less than this (sine) do not cross.
constexpr double least_crossing_sine = 0.1;
/// A half that runs out of the piece runs out so far.
constexpr double beyond_mm = 50;

/// From the first place of a line within a face to the last, openings or not.
std::optional<Span> reach_within(const geometry::Polygon& face, const DrawnLine& line) {
    const auto spans = spans_within({face.outer, {}}, line);
    if (spans.empty()) return std::nullopt;
    return Span{spans.front().from, spans.back().to};
}

double depth(const geometry::PlaneFrame& frame) {
    return frame.normal.dot(frame.origin);
}

/// The way in which both pieces' faces cross, in the piece's drawing: lengths along it and across it.
struct Ways {
    Vec2 along, across;
    double sine = 1;  ///< of the angle between the planes
    double lean = 0;  ///< how far the other moves across, for each mm behind face A
    Vec2 at(double s, double off) const { return s * along + off * across; }
};

/// How far along and across the other's two faces lie on one face of the piece.
struct Crossed {
    std::array<double, 2> across{0, 0};
    std::array<std::optional<Span>, 2> along;  ///< as far as the other reaches
};

Crossed crossed_at(double behind, const geometry::PlaneFrame& frame, const Ways& ways, const Neighbour& other) {
    const Outline& whole = *other.whole;
    Crossed out;
    for (const std::size_t k : {0u, 1u}) {
        const double other_behind = k ? whole.thickness_mm : 0,
                     covering = k ? other.covering_b_mm : -other.covering_a_mm;
        const auto line = meeting_line(frame.normal, depth(frame) + behind, whole.frame.normal,
                                       depth(whole.frame) + other_behind, least_crossing_sine);
        if (!line) continue;
        const DrawnLine there = drawn(*line, whole.frame), here = drawn(*line, frame);
        out.across[k] = ways.across.dot(here.at) + covering / ways.sine;
        if (const auto span = reach_within(k ? whole.face_b : whole.face_a, there)) {
            const double start = ways.along.dot(here.at);
            out.along[k] = Span{start + span->from, start + span->to};
        }
    }
    // Of a face that is not met there, as of the other.
    for (const std::size_t k : {0u, 1u})
        if (!out.along[k]) out.along[k] = out.along[1 - k];
    return out;
}

/// Where the other's faces lie, moved off by the clearance.
geometry::Polygon slot_of(const Crossed& c, const Ways& ways, double clearance) {
    const double off = clearance / ways.sine;
    const auto corner = [&](std::size_t k, bool end) {
        return ways.at(end ? c.along[k]->to + clearance : c.along[k]->from - clearance,
                       c.across[k] + (k ? off : -off));
    };
    return geometry::oriented({{corner(0, false), corner(1, false), corner(1, true), corner(0, true)}, {}});
}

/// The half of it from `middle` to beyond the piece's end: the other slides in from there.
geometry::Polygon half_of(const Crossed& c, const Ways& ways, const CrossSpec& cross, double middle,
                          const Span& own) {
    const double off = cross.clearance_mm / ways.sine, way = cross.how == Crossing::half_upper ? 1 : -1;
    const double from = middle - way * cross.clearance_mm / 2,
                 to = way > 0 ? own.to + beyond_mm : own.from - beyond_mm;
    return geometry::oriented({{ways.at(from, c.across[0] - off), ways.at(from, c.across[1] + off),
                                ways.at(to, c.across[1] + off), ways.at(to, c.across[0] - off)},
                               {}});
}

}  // namespace

std::optional<CrossingCut> crossing_cut(const CrossSpec& cross, const geometry::PlaneFrame& frame,
                                        double thickness_mm, const geometry::Polygon& face_a,
                                        const Neighbour& other) {
    if (!other.whole) return std::nullopt;
    const auto line = meeting_line(frame.normal, depth(frame), other.whole->frame.normal, depth(other.whole->frame),
                                   least_crossing_sine);
    if (!line) return std::nullopt;
    const DrawnLine here = drawn(*line, frame);
    const Vec3& facing = other.whole->frame.normal;
    Ways ways{here.way, Vec2(facing.dot(frame.u), facing.dot(frame.v)), 1, 0};
    ways.sine = ways.across.norm();
    ways.across /= ways.sine;
    ways.lean = -facing.dot(frame.normal) / ways.sine;
    Crossed a = crossed_at(0, frame, ways, other), b = crossed_at(thickness_mm, frame, ways, other);
    if (!a.along[0] && !b.along[0]) return std::nullopt;
    if (!a.along[0]) a.along = b.along;
    if (!b.along[0]) b.along = a.along;
    const auto mine = reach_within(face_a, here);
    if (!mine) return std::nullopt;
    const double start = ways.along.dot(here.at);
    const Span own{start + mine->from, start + mine->to};
    const double from = std::max(own.from, a.along[0]->from), to = std::min(own.to, a.along[0]->to);
    if (from >= to) return std::nullopt;
    const auto shape_at = [&](const Crossed& c) {
        return cross.how == Crossing::slot ? slot_of(c, ways, cross.clearance_mm)
                                           : half_of(c, ways, cross, (from + to) / 2, own);
    };
    CrossingCut out{shape_at(a), shape_at(b), {}};
    for (const std::size_t k : {0u, 1u}) {
        const double off = a.across[k] + (k ? 1 : -1) * cross.clearance_mm / ways.sine;
        // The piece lies beyond the slot's walls: where the other moves away from it face B reaches farther.
        const double reaches = (k ? -1 : 1) * ways.lean;
        out.walls[k] = {ways.at(std::min(own.from, a.along[k]->from) - 2 * beyond_mm, off),
                        ways.at(std::max(own.to, a.along[k]->to) + 2 * beyond_mm, off), std::atan(reaches)};
    }
    return out;
}

}  // namespace bevelsmith::piece
