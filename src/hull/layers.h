// What lies on a surface and carries the joinery: insulation, grounds, lining, planks.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "geometry/vec.h"

namespace bevelsmith::hull {

/// A layer on the inside of a surface, over all of it or between limits in the boat's frame.
struct Layer {
    std::string name;
    double thickness_mm = 0;
    std::optional<double> from_x_mm, to_x_mm, from_z_mm, to_z_mm;
    bool operator==(const Layer&) const = default;
};

/// Layers end in a ramp this long: a step would have no edge to scribe to.
inline constexpr double layer_ramp_mm = 20;

/// All layers together at a place of the bare surface.
double layer_thickness_mm(const std::vector<Layer>& layers, const Vec3& at);

}  // namespace bevelsmith::hull
