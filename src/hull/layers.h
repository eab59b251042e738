// What lies on a surface and carries the joinery: insulation, grounds, lining, planks.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "geometry/vec.h"

namespace bevelsmith::hull {

/// A layer on the inside of a surface, over all of it or between limits in the boat's frame. At a limit it ends in a
/// step, square to the surface.
struct Layer {
    std::string name;
    double thickness_mm = 0;
    std::optional<double> from_x_mm, to_x_mm, from_z_mm, to_z_mm;
    bool operator==(const Layer&) const = default;
};

/// How the layers' inner face turns at a chine or at the keel.
enum class CornerKind {
    mitred,   ///< both sides go on until they meet
    rounded,  ///< around a corner that stands into the boat, at the layers' thickness from it; others are mitred
    filled,   ///< a corner that opens into the boat is cut off straight; others are mitred
};
struct Corners {
    CornerKind kind = CornerKind::mitred;
    double fill_mm = 30;  ///< from the mitre to where the filling begins, along each side
    bool operator==(const Corners&) const = default;
};

/// All layers together at a place of the bare surface. A layer holds its lower limits and not its upper ones, so that
/// two that end at one line are never both there.
double layer_thickness_mm(const std::vector<Layer>& layers, const Vec3& at);

/// The layer that faces the boat's inside there: of those at the place the last; null where the surface is bare.
const Layer* innermost(const std::vector<Layer>& layers, const Vec3& at);

/// Every thickness that the layers may come to somewhere, rising, each once.
std::vector<double> layer_thicknesses_mm(const std::vector<Layer>& layers);

}  // namespace bevelsmith::hull
