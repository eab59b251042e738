// What a fitter writes down at the boat: sets of readings, each taken in one school of templating.
#pragma once

#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "geometry/vec.h"

namespace bevelsmith::survey {

/// How the readings of a set were taken, and so what their numbers mean.
///  - ordinates: a straight line, string or laser line; values are {station along it, square distance to the
///    surface, -}. The distance is counted along `toward`, so that the other side is negative.
///  - strip_pattern: points on a pattern held in one plane; values are {u, v, -} in that plane.
///  - direct: values are {x, y, z} in the boat's frame.
enum class School { ordinates, strip_pattern, direct };

/// One reading; see School for what the values mean (mm).
struct Reading {
    std::array<double, 3> values{0, 0, 0};
    std::optional<double> sigma_mm;  ///< own standard deviation; the set's when absent
    bool disabled = false;           ///< kept, but not used
    std::string note;
    bool operator==(const Reading&) const = default;
};

/// Readings that share a line, a plane or an instrument.
struct ReadingSet {
    std::string id;
    std::string name;
    School school = School::direct;
    std::string surface_id;  ///< which surface of the boat was touched
    double sigma_mm = 1.5;   ///< standard deviation of one reading (common practice: hand readings 1-3 mm)

    /// ordinates: where station 0 is, which way stations run, which way distances are counted (unit vectors,
    /// square to each other). strip_pattern: the plane's origin, u and v. Unused for direct points.
    Vec3 origin = Vec3::Zero();
    Vec3 along = Vec3::UnitZ();
    Vec3 toward = Vec3::UnitY();

    std::vector<Reading> readings;
    bool operator==(const ReadingSet&) const = default;
};

/// Default standard deviation of a reading taken in `school` (common practice), mm.
double default_sigma_mm(School school);
/// The names of the numbers that a person types for one reading of `school`.
std::vector<std::string_view> value_names(School school);
std::string_view school_name(School school);

}  // namespace bevelsmith::survey
