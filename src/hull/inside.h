// Which side of a surface is the boat's inside.
#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "hull/surface.h"
#include "survey/points.h"

namespace bevelsmith::hull {

/// What a surface is of the boat, for where nobody knows where the instrument stood.
enum class SurfacePart {
    hull,      ///< inside is towards the centre line; over a bottom above
    deckhead,  ///< inside is below
    sole,      ///< inside is above
    transom,   ///< inside is forward
    bulkhead,  ///< inside is where the rest was measured, else forward
};
inline constexpr int surface_part_count = 5;
/// "hull side or bottom".
std::string_view part_name(SurfacePart part);

/// What is known of the inside before a surface is fitted.
struct InsideRule {
    std::optional<Vec3> said;  ///< a point inside the boat, given by a person
    SurfacePart part = SurfacePart::hull;
    std::optional<Vec3> elsewhere;  ///< the middle of what was measured on other surfaces
    bool operator==(const InsideRule&) const = default;
};

/// Which side it is, and how that is known.
struct Inside {
    enum class From { said, instrument, centre_line, part, elsewhere, curvature, assumed };
    double outward = 1;  ///< 1 where the surface's own normal points out of the boat, -1 where into it
    From from = From::assumed;
    Vec3 toward = Vec3::Zero();  ///< from the surface into the boat, in the mean (unit)
    std::vector<int> against;    ///< sets whose instrument, as it was entered, stood on the other side
    bool operator==(const Inside&) const = default;
};

/// Tells the inside of `surface` from how `points` were measured: what a person said first, then where the
/// instruments stood, then the boat's centre line or what the surface is.
Inside judge_inside(const Surface& surface, std::span<const survey::Point> points, const InsideRule& rule);

/// "known from where the instruments stood".
std::string from_words(Inside::From from);
/// Where that is, in the boat's words: "to port of it", "forward of it and below it".
std::string direction_words(const Vec3& toward);

/// The way into the boat at a reading, by nothing but how it was measured and where it lies in the boat; zero where
/// that tells nothing. It does not use the fitted surface, so that it can be held against it.
Vec3 way_in(const survey::Point& point, const InsideRule& rule);

/// A point that, said to be inside, makes the other side of `surface` the inside.
Vec3 point_beyond(const Surface& surface, std::span<const survey::Point> points);

}  // namespace bevelsmith::hull
