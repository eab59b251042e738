// Readings turned into points of the boat's frame, with the uncertainty they carry.
#pragma once

#include <span>
#include <vector>

#include "survey/instruments.h"
#include "units/result.h"

namespace bevelsmith::survey {

/// One point on a surface. `sigma_mm` is its standard deviation in any direction.
struct Point {
    Vec3 position = Vec3::Zero();
    double sigma_mm = 1.5;
    int set = 0;  ///< index of the set that it comes from
    int reading =
        0;  ///< index of the reading in that set, -1 in a mirrored one; for a file of points, its line number
    /// From the point to where the instrument stood (unit); zero where that is not known.
    Vec3 inboard = Vec3::Zero();
    bool operator==(const Point&) const = default;
};

/// An angle read at a spot: what it says is about the surface's direction, not its place.
struct FeltBevel {
    Vec3 position = Vec3::Zero();
    Vec3 plane_normal = Vec3::UnitX();  ///< of the plane the gauge lay on, from face A to face B
    double bevel_rad = 0;               ///< positive: open, face B reaches farther out
    double sigma_rad = 0.01;
    int set = 0, reading = 0;
    bool operator==(const FeltBevel&) const = default;
};

/// The plane in which a set is drawn: of its line and measuring direction, or of the pattern; for direct points the
/// one square to the boat's axis along which they spread least. Its normal points forward, to port or up.
geometry::Plane plane_of(const ReadingSet& set);

/// The points of all enabled readings that touch `surface_id`: one for each, both ends and the middle of a strip's
/// edge, none of named marks and bevels; mirrored sets bring those of the other surface, y turned round. Fails where
/// a set's directions are not unit vectors square to each other, or a reading cannot be (see `locate`), naming it.
Result<std::vector<Point>> points_of(std::span<const ReadingSet> sets, const std::string& surface_id);
/// The bevels felt on `surface_id`. Precondition: points_of succeeds for it.
std::vector<FeltBevel> bevels_of(std::span<const ReadingSet> sets, const std::string& surface_id);
/// The points of sets that follow hard lines (chines) of `surface_id`, set by set, and mirrored those of what it
/// mirrors. Precondition: as above.
std::vector<std::vector<Vec3>> hard_lines_of(std::span<const ReadingSet> sets, const std::string& surface_id);

/// What a wrong reading probably was. `typed_mm` is the number in the notebook, `expected_mm` the number that
/// would fit, `tolerance_mm` how near a corrected number must come (three standard deviations, say).
/// Tried: the other side (sign), 10, 50, 100 or 1000 mm misread, or 1, 2, 5, 10 or 12 inches where a rule in inches
/// was read, two neighbouring digits swapped, inches read as centimetres. Empty when nothing comes near.
std::string guess_slip(double typed_mm, double expected_mm, double tolerance_mm, bool inches = false);

}  // namespace bevelsmith::survey
