// Surfaces whose every normal is known in closed form, and readings taken from them.
#pragma once

#include <cstdint>
#include <functional>
#include <random>
#include <vector>

#include "survey/points.h"

namespace shapes {

using bevelsmith::Vec3;

/// A surface with a signed distance to first order and an outward normal, both near it (mm).
struct Shape {
    std::function<Vec3(double, double)> at;     ///< parameters in [0,1]² to a point
    std::function<double(const Vec3&)> off_mm;  ///< how far a point is outside, along the normal
    std::function<Vec3(const Vec3&)> normal;    ///< outward unit normal at (or next to) a point
};

/// A cap of a sphere about the origin: polar angle up to `half_angle` about -z.
Shape sphere_cap(double radius_mm, double half_angle_rad);
/// A circular cylinder about the x axis, angles from `first` to `last` (0 is port, -pi/2 down).
Shape cylinder(double radius_mm, double length_mm, double first_rad, double last_rad);
/// A cone about the x axis that widens forward with half-angle `h`; radius at x = 0 given.
Shape cone(double radius_mm, double length_mm, double half_angle_rad, double first_rad, double last_rad);
/// The port side of the Wigley hull, z up from the keel's level to 0 at the waterline, away from keel and ends.
Shape wigley_side(double length_mm, double beam_mm, double draught_mm);

/// A grid of clean readings, or of noisy ones with an error of `noise_mm` along the normal.
std::vector<bevelsmith::survey::Point> readings(const Shape& shape, int across, int along, double declared_sigma_mm,
                                                double noise_mm = 0, std::uint32_t seed = 1);

/// Clean readings at random parameters, as a scanner leaves them.
std::vector<bevelsmith::survey::Point> scattered(const Shape& shape, int count, double declared_sigma_mm,
                                                 std::uint32_t seed);

}  // namespace shapes
