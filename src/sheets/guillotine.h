// Layouts that a track saw cuts: every cut goes from edge to edge of what it divides.
#pragma once

#include <vector>

#include "sheets/layout.h"

namespace bevelsmith::sheets {

/// One cut through a panel (part of a sheet), from edge to edge.
struct SheetCut {
    int sheet = 0;
    geometry::Box panel;   ///< that is divided (mm, in the sheet's frame)
    bool upright = false;  ///< along y, else along x
    double at_mm = 0;      ///< where the saw's way begins; it is as wide as the spacing
};

/// Whether every part is a rectangle along the axes without openings, and every sheet plain: what a guillotine needs.
bool all_rectangles(const Problem& problem);

/// A layout of rectangles that can be cut from edge to edge: parts go, the largest first, into the free rectangle
/// that they fill best, which is then divided by one cut; many orders and ways to divide are tried and the best is
/// kept. Preconditions: all_rectangles(problem), nothing locked, fault_of(problem) is empty.
Layout nest_guillotine(const Problem& problem, const NestOptions& options);

/// The cuts of a sheet in their order, the longest first; empty where it cannot be cut from edge to edge, or has
/// fewer than two sides to cut.
std::vector<SheetCut> cuts_of(const Problem& problem, const Layout& layout, int sheet);

}  // namespace bevelsmith::sheets
