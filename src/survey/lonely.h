// A scan's points that lie alone: dust, rain, reflections. They go before a scan is thinned, for thinning keeps one
// point of every cube, and a point that is alone in its own is always kept.
#pragma once

#include <span>

#include "survey/cloud.h"
#include "units/stop.h"

namespace bevelsmith::survey {

/// A cloud taken apart; each part in the order of the cloud.
struct Sorted {
    Cloud dense, lonely;
    double reach = 0;  ///< within which points are neighbours, in the cloud's own unit; 0 where none were looked for
};

/// Radius outlier removal on regions grown from what is dense. Neighbours lie within a cube of the edge `reach` or
/// one that touches it; the reach is 2.5 times the distance to the eighth nearest point that nine in ten of a sample
/// keep (nanoflann's k-d tree), so that it holds for surveys of which up to a tenth is wild. A point with fewer than
/// eight neighbours is lonely, and so is a region, joined cube to cube, of fewer than one point in a thousand. A
/// cloud of fewer than 200 points is all dense. Time grows with the points: about a second a million.
Sorted sorted_by_company(std::span<const Vec3> cloud, const KeepGoing& keep_going = {});

}  // namespace bevelsmith::survey
