// libnest2d behind an interface of plain numbers: its headers are of an older language than ours.
#pragma once

#include <utility>
#include <vector>

struct PackedPart {
    int bin = -1;  ///< -1: it has no place
    double rotation_rad = 0, x_mm = 0, y_mm = 0;
};

/// Convex outlines (counter-clockwise, mm) into bins by no-fit polygons and first fit, turned by quarters.
std::vector<PackedPart> library_pack(const std::vector<std::vector<std::pair<double, double>>>& outlines,
                                     double bin_width_mm, double bin_height_mm, double spacing_mm);
