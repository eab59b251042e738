// libnest2d on a parts file: what our layouts are held against.
#pragma once

#include <optional>

#include "sheets/layout.h"

/// One layout by libnest2d's no-fit polygons and first fit, the parts as their convex hulls (its placer overlaps
/// others), in the order of their areas, shuffled a little by the seed. None where a layout of its own is not valid.
std::optional<bevelsmith::sheets::Layout> library_nest(const bevelsmith::sheets::Problem& problem, unsigned seed);
