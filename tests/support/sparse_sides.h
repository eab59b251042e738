// Sides of boats as people survey them by hand: a few stations of a few heights, with chines and without.
#pragma once

#include <random>

#include "hull/fit.h"

namespace sparse_sides {

using namespace bevelsmith;

struct Side {
    std::vector<survey::Point> points;
    hull::FitOptions options;
    double turn_deg = 0;      ///< of the chine; 0 where the side is smooth
    std::vector<Vec3> chine;  ///< every 100 mm
    std::vector<int> slips;   ///< readings that were made wrong
};

/// A topside and a bottom that meet at a turn of 22 to 50 degrees, either a little cambered and twisting along the
/// boat; the chine sweeps. 4 to 7 stations of 6 to 9 heights, 1 to 1.6 mm, rounded to the millimetre; `slips` of them
/// off by 20 to 60 mm.
Side chined(unsigned seed, int slips = 0);
/// The same survey of a smooth side: hollow flare, round bilge of 500 mm radius and more, superellipse, in turn.
Side smooth(unsigned seed, int slips = 0);

}  // namespace sparse_sides
