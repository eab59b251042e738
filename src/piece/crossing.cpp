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

}  // namespace

std::optional<geometry::Polygon> crossing_shape(const CrossSpec& cross, const geometry::PlaneFrame& frame,
                                                double thickness_mm, const geometry::Polygon& own,
                                                const Outline& other) {
    std::vector<Vec2> met;
    Span shared;
    DrawnLine middle_line;
    for (const double behind : {0.0, thickness_mm})
        for (const double other_behind : {0.0, other.thickness_mm}) {
            const auto line = meeting_line(frame.normal, depth(frame) + behind, other.frame.normal,
                                           depth(other.frame) + other_behind, least_crossing_sine);
            if (!line) return std::nullopt;
            const DrawnLine there = drawn(*line, other.frame), here = drawn(*line, frame);
            const auto span = reach_within(other_behind > 0 ? other.face_b : other.face_a, there);
            if (!span) continue;
            met.push_back(here.at + span->from * here.way);
            met.push_back(here.at + span->to * here.way);
            if (behind > 0 || other_behind > 0) continue;
            middle_line = here;
            if (const auto mine = reach_within(own, here))
                shared = Span{std::max(mine->from, span->from), std::min(mine->to, span->to)};
        }
    if (shared.from >= shared.to || met.size() < 3) return std::nullopt;
    geometry::Polygon slot = geometry::largest(
        geometry::offset({geometry::convex_hull(met), {}}, cross.clearance_mm, geometry::Corner::mitre));
    if (slot.outer.size() < 3) return std::nullopt;
    if (cross.how == Crossing::slot) return slot;
    // The half: a band across the crossing from its middle, less the clearance, to beyond the end.
    const double half = (shared.from + shared.to) / 2, along = cross.how == Crossing::half_upper ? 1 : -1;
    const Vec2 way = along * middle_line.way, across(-way.y(), way.x());
    const Vec2 middle = middle_line.at + half * middle_line.way - cross.clearance_mm / 2 * way;
    double least = HUGE_VAL, most = -HUGE_VAL;
    for (const Vec2& p : slot.outer) {
        const double off = across.dot(p - middle);
        least = std::min(least, off), most = std::max(most, off);
    }
    const double reach = (shared.to - shared.from) / 2 + beyond_mm;
    return geometry::oriented({{middle + least * across, middle + most * across, middle + most * across + reach * way,
                                middle + least * across + reach * way},
                               {}});
}

}  // namespace bevelsmith::piece
