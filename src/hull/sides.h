// How unequal the boat's two sides are, along her length: readings of one side against the surface of the other.
#pragma once

#include <span>
#include <vector>

#include "hull/surface.h"
#include "survey/points.h"

namespace bevelsmith::hull {

/// A stretch of the boat's length.
struct SideDifference {
    double from_x_mm = 0, to_x_mm = 0;
    int readings = 0;
    double mean_mm = 0;     ///< positive: this side is the fuller one
    double largest_mm = 0;  ///< the one farthest from zero, with its sign
    double sigma_mm = 0;    ///< standard deviation of the mean, from the readings' own and the other surface's
};

/// `points` of this side mirrored (y turned round) and held against `other`, the surface of the other side; those
/// that fall where that surface was not surveyed are left out. Stretches of `stretch_mm`, from the aftermost reading;
/// empty ones are left out. Precondition: stretch_mm > 0.
std::vector<SideDifference> side_differences(const Surface& other, std::span<const survey::Point> points,
                                             double stretch_mm = 500);

}  // namespace bevelsmith::hull
