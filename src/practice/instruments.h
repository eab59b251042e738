// Simulated instruments on a virtual boat: what a hand of known steadiness would have written down.
#pragma once

#include <random>
#include <span>
#include <vector>

#include "practice/boat.h"
#include "survey/reading.h"

namespace bevelsmith::practice {

/// A person reading instruments: errs by `sigma_mm`, and now and then misreads a length.
struct Hand {
    double sigma_mm = 1.5;
    double slip_chance = 0;  ///< of one reading to be off by 10, 20, 30, 50 or 100 mm
    std::mt19937 random{1};

    double error_mm();
    double slip_mm();  ///< mostly zero
};

/// A place of the hull: station and angle about the axis (see VirtualBoat::radius_mm).
struct Spot {
    double x_mm = 0, angle = 0;
};

/// Distances to the hull at stations along a line; stations from which the hull is not met are left out.
survey::ReadingSet read_ordinates(const VirtualBoat& boat, const Vec3& origin, const Vec3& along, const Vec3& toward,
                                  std::span<const double> stations_mm, Hand& hand);
/// A pattern held across the boat at station x: points of its edge at `angles`, in its own plane (u to port, v up).
survey::ReadingSet read_pattern(const VirtualBoat& boat, double x_mm, std::span<const double> angles, Hand& hand);
/// Points of the hull, each off along the normal by the hand's error.
survey::ReadingSet read_points(const VirtualBoat& boat, std::span<const Spot> spots, Hand& hand);
/// A set that follows one of the lines at which the hull kinks, a point every `step_mm`. Precondition: hard_chine.
survey::ReadingSet read_line(const VirtualBoat& boat, HullLine line, double step_mm, Hand& hand);

/// Spots spread at random over a patch.
std::vector<Spot> random_spots(int count, const Spot& low, const Spot& high, std::mt19937& random);

}  // namespace bevelsmith::practice
