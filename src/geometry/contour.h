// An outline taken apart as a joiner marks it out: corners, straight runs, arcs, and curves that a batten takes.
#pragma once

#include <optional>

#include "geometry/polygon.h"

namespace bevelsmith::geometry {

enum class RunKind {
    straight,
    arc,    ///< of a circle that is drawn with a compass or round a tin
    steep,  ///< a curve that nowhere leans more than 60° from upright: it has one place at every height
    flat,   ///< one that nowhere leans more than 60° from level: it has one height at every place
};

/// A stretch of an outline from one corner to the next, both included.
struct Run {
    RunKind kind = RunKind::straight;
    std::vector<Vec2> points;  ///< of an arc its chords
    double radius_mm = 0;      ///< of an arc: positive where it bulges out of what lies at the outline's left
};

/// The runs of a ring in its order, each beginning where the one before ends. Arcs of a larger radius are curves;
/// those that turn by more than 95° are divided, for a radius hardly tells how far a half circle bulges.
inline constexpr double largest_compass_mm = 250;
/// Corners are where the line turns by more than 10°, and where a straight run or an arc ends; a curve is divided
/// where it turns from steep to flat. Steps of less than 1.5 mm are passed over where that moves the line by no more
/// than 0.2 mm.
std::vector<Run> runs_of(const Ring& ring);

/// Runs of two like rings (a panel's two faces) beside each other: where both go from one shared corner to the next
/// alike, together and divided alike; elsewhere one without the other.
struct RunPair {
    std::optional<Run> a, b;
    bool shares_start = true;  ///< both begin at corners that belong together
};
/// In the order of the first ring, from a shared corner on; corners farther apart than `far_mm` are not shared.
/// Nothing where fewer than two are.
std::optional<std::vector<RunPair>> paired_runs(const Ring& a, const Ring& b, double far_mm);

/// A run drawn again through its ends and places between them: a straight line, an arc, a batten.
std::vector<Vec2> drawn_again(RunKind kind, double radius_mm, const std::vector<Vec2>& through);

/// The farthest that any of these points lies from a line, and which.
struct Farthest {
    std::size_t at = 0;
    double mm = 0;
};
Farthest farthest_from_line(const std::vector<Vec2>& points, const std::vector<Vec2>& line);

/// A run divided at its point `at`, which lies within it. What has no point between its ends is straight.
std::pair<Run, Run> divided(const Run& run, std::size_t at);
/// The point within a run that lies nearest to a place; nothing where it has none.
std::optional<std::size_t> nearest_within(const Run& run, const Vec2& place);

}  // namespace bevelsmith::geometry
