// The schools of templating: what is typed for one reading of each, and where in the boat it then lies.
#pragma once

#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "survey/reading.h"
#include "units/result.h"

namespace bevelsmith::survey {

/// One number of a reading.
struct Column {
    enum class Kind {
        length,  ///< mm
        angle,   ///< degrees
        number,  ///< a count: 1, 2, ...
    };
    std::string_view name;
    Kind kind = Kind::length;
    bool optional = false;  ///< zero means: not taken
};

/// What a person types for one reading of `set`, in order.
std::vector<Column> columns_of(const ReadingSet& set);
/// In a few words, for lists and headings: "ordinates from a line".
std::string_view school_name(School school);
/// In files; they never change.
inline constexpr std::array school_ids{
    "ordinates",    "strip",          "direct", "strip edges", "tick stick",  "tick stick angle",
    "fixed points", "compass scribe", "traced", "laser meter", "bevel gauge", "mirrored",
    "scan"};
inline const char* school_id(School school) {
    return school_ids[static_cast<std::size_t>(school)];
}
/// Empty where no school has that id.
std::optional<School> school_with_id(std::string_view id);
/// What the instrument is and how it is held, in one or two plain sentences.
std::string_view school_words(School school);
/// Default standard deviation of a length read in `school` (common practice), mm.
double default_sigma_mm(School school);
/// Default standard deviation of an angle read in `school` (common practice), degrees.
double default_angle_sigma_deg(School school);
/// A set of `school` as it would be held by default, without readings.
ReadingSet usual_set(School school);
/// Whether the set's line or plane is used.
bool has_frame(School school);

/// Where a reading lies.
struct Located {
    Vec3 position = Vec3::Zero();
    double sigma_mm = 1.5;   ///< its standard deviation in the worst direction
    double residual_mm = 0;  ///< more distances than needed: root mean square of what they disagree by
    double spread_mm = 0;    ///< taken more than once: largest distance from the mean
    int taken = 1;           ///< how often
};

/// The place of one reading, the mean where it was taken again. Fails, in plain words, where the numbers cannot be:
/// a mark that is not on the stick, distances that do not meet.
/// bevel_gauge: the spot. strip_edges: the middle of the edge.
Result<Located> locate(const ReadingSet& set, const Reading& reading);

/// What was typed for a reading, in its school's own terms: "along 300 mm, distance 814 mm", "mark 3".
std::string reading_terms(const ReadingSet& set, const Reading& reading);

/// From a reading at `position` to where the instrument stood, in the boat: to the line, board, pins, pencil, stand
/// point; where the school does not tell it, to `stood` or to the marks named on the pattern. Zero where that is not
/// known, or nearer than a millimetre.
Vec3 toward_instrument(const ReadingSet& set, const Reading& reading, const Vec3& position);

/// strip_edges: both ends of the edge in the plane.
std::pair<Vec2, Vec2> edge_of(const Reading& reading);
/// strip_edges: where each edge, extended, meets the next (in the plane); none where two run parallel within a
/// degree.
std::vector<Vec2> corners_of(const ReadingSet& set);

}  // namespace bevelsmith::survey
