// A set of readings in a frame of its own (a scanner's, a total station's, a photo's), placed in the boat by marks.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "geometry/vec.h"

namespace bevelsmith::survey {

/// A mark as it was seen from a set's own frame.
struct SeenMark {
    /// Of a mark of the boat (its id or name), or a mark that readings of another set name.
    std::string name;
    Vec3 seen = Vec3::Zero();  ///< in the set's own frame (mm); of a plane set across and up, and 0
    std::optional<Vec3> at;    ///< its place in the boat, where no mark of that name tells it
    bool disabled = false;     ///< kept, but not used
    bool operator==(const SeenMark&) const = default;
};

/// A small move of a set as a whole.
struct SmallMove {
    Vec3 turn_rad = Vec3::Zero();  ///< about this axis of the boat, through her zero, by its length
    Vec3 move_mm = Vec3::Zero();   ///< after the turn
    bool operator==(const SmallMove&) const = default;
};

/// A move on top of what the marks tell, found by laying the readings on a surface that is known.
struct Nudge : SmallMove {
    std::vector<SmallMove> doubts;  ///< how the set may still lie elsewhere: independent, one standard deviation each
    bool operator==(const Nudge&) const = default;
};

/// What is known of a set's own frame. Beside `marks` the set's own readings that name a mark are seen marks too.
struct OwnFrame {
    std::vector<SeenMark> marks;
    bool scaled = false;  ///< its lengths may be too long or short by one factor, which is found too
    std::optional<Nudge> nudge;
    bool operator==(const OwnFrame&) const = default;
};

}  // namespace bevelsmith::survey
