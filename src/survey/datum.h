// The boat on the hard leans: what level and plumb are in her own frame.
#pragma once

#include <array>
#include <span>
#include <string>
#include <vector>

#include "survey/reading.h"
#include "units/result.h"

namespace bevelsmith::survey {

/// How it is known that she leans, and by how much.
struct Datum {
    enum class Known {
        upright,       ///< nothing measured: the hard's level is taken for the boat's
        two_levels,    ///< a level on something that is level afloat, athwartships and fore-and-aft
        three_points,  ///< heights of three points of something that is level afloat, above a level line
        bulkhead,      ///< a plumb line against a bulkhead that stands plumb and athwartships afloat
    };
    Known known = Known::upright;
    double port_high_deg = 0;  ///< two_levels: what the level reads athwartships, positive when its port end is high
    double bow_high_deg = 0;   ///< two_levels: fore-and-aft, positive when its forward end is high
    /// three_points: fwd and port in the boat, and the height above any level line (mm).
    std::array<Vec3, 3> points{Vec3(0, 600, 0), Vec3(0, -600, 0), Vec3(2000, 0, 0)};
    double drop_mm = 1000;  ///< bulkhead: the plumb line's length
    /// bulkhead: how far its foot stands forward of the face, and to port of the upright line drawn on the face,
    /// more than its head does (mm).
    double foot_forward_mm = 0, foot_port_mm = 0;
    bool operator==(const Datum&) const = default;
};
inline constexpr int datum_kinds = 4;

/// The plumb line's upward direction in the boat's frame, a unit vector. Fails, in plain words, where the three
/// points lie in one line or the lean is more than 45 degrees.
/// Derived: a level laid along the unit vector e reads asin(e·up); heights differ by up·(p - q); a plumb line of
/// length L hangs along -up.
Result<Vec3> plumb_up(const Datum& datum);

/// How the boat leans (degrees): heel positive to starboard (port side high), pitch positive bow high.
struct Lean {
    double heel_deg = 0, pitch_deg = 0;
};
Lean lean_of(const Vec3& plumb_up);

/// What was measured along the hard's level and plumb, in the boat's frame: its columns are the boat's centre line
/// laid level, the direction square to it and level, and the plumb line.
using Turn = Eigen::Matrix3d;
Turn from_the_hard(const Vec3& plumb_up);

/// The sets with every direction and point in the boat's frame; those that are already so stay as they are.
/// Fails as plumb_up does, where a set needs it.
Result<std::vector<ReadingSet>> in_boat_frame(std::span<const ReadingSet> sets, const Datum& datum);

}  // namespace bevelsmith::survey
