// Readings turned into points of the boat's frame, with the uncertainty they carry.
#pragma once

#include <span>
#include <vector>

#include "survey/reading.h"
#include "units/result.h"

namespace bevelsmith::survey {

/// One point on a surface. `sigma_mm` is its standard deviation in any direction.
struct Point {
    Vec3 position = Vec3::Zero();
    double sigma_mm = 1.5;
    int set = 0;      ///< index of the set that it comes from
    int reading = 0;  ///< index of the reading in that set; for a file of points, its line number
    bool operator==(const Point&) const = default;
};

/// Where one reading of `set` lies in the boat's frame.
Vec3 position_of(const ReadingSet& set, const Reading& reading);

/// The plane in which a set is drawn: of its line and measuring direction, or of the pattern; for direct points the
/// one square to the boat's axis along which they spread least. Its normal points forward, to port or up.
geometry::Plane plane_of(const ReadingSet& set);

/// The points of all enabled readings that touch `surface_id`. Fails where a set's directions are not unit
/// vectors square to each other, or a number is not finite.
Result<std::vector<Point>> points_of(std::span<const ReadingSet> sets, const std::string& surface_id);

/// What a wrong reading probably was. `typed_mm` is the number in the notebook, `expected_mm` the number that
/// would fit, `tolerance_mm` how near a corrected number must come (three standard deviations, say).
/// Tried: the other side (sign), 10, 50, 100 or 1000 mm misread, two neighbouring digits swapped, inches read
/// as centimetres. Empty when nothing comes near.
std::string guess_slip(double typed_mm, double expected_mm, double tolerance_mm);

}  // namespace bevelsmith::survey
