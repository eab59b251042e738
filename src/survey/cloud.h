// Clouds of points from a scanner: the part that matters, and no more of it than a fit can use.
#pragma once

#include <optional>
#include <span>
#include <vector>

#include "geometry/vec.h"

namespace bevelsmith::survey {

/// Points in the boat's frame (mm).
using Cloud = std::vector<Vec3>;

/// A loop drawn around points, as one looks along the third axis: what lies within it is taken out.
struct CloudLoop {
    int across = 0, up = 1;  ///< the axes in which it is drawn
    std::vector<Vec2> ring;
    bool operator==(const CloudLoop&) const = default;
};

/// What is kept of a cloud, in this order: the box, the slab, what no loop encloses, then one point a cell.
struct CloudCut {
    std::optional<Vec3> low, high;         ///< crop box, each side included
    std::optional<geometry::Plane> plane;  ///< of a piece: keep what lies within `slab_mm` of it
    double slab_mm = 150;
    std::vector<CloudLoop> loops;
    double cell_mm = 0;  ///< grid for thinning; 0 keeps every point
    bool operator==(const CloudCut&) const = default;
};

struct CloudBox {
    Vec3 low = Vec3::Zero(), high = Vec3::Zero();
};
/// Smallest box around the points; zero for none.
CloudBox box_of(std::span<const Vec3> cloud);

/// The points that lie in the box and the slab, and in no loop.
Cloud cropped(std::span<const Vec3> cloud, const CloudCut& cut);
/// Of each occupied cube of a grid with edges of `cell_mm` the measured point nearest to the mean of the cube's
/// points: no point is invented, and strays stay what they are. In the order of the cubes' first points. Time grows
/// with the points. Precondition: cell_mm in units::range::cell, points within
/// units::range::place.
Cloud thinned(std::span<const Vec3> cloud, double cell_mm);
/// Both.
Cloud cut_cloud(std::span<const Vec3> cloud, const CloudCut& cut);

/// A cell that leaves about `wanted` points of this cloud, from a few tries (mm, rounded to whole ones).
double cell_for(std::span<const Vec3> cloud, std::size_t wanted);

}  // namespace bevelsmith::survey
