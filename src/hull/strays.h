// Scans: readings of hoses, frames and other things before the hull, told from the hull itself.
#pragma once

#include "hull/fit_rounds.h"

namespace bevelsmith::hull {

/// Fewer readings are judged one by one instead (remove_slips).
inline constexpr int fewest_of_a_scan = 1000;

/// Leaves out what lies far off a stiff surface, and takes a ridge in again. Nothing happens to fewer readings than
/// `fewest_of_a_scan`.
///
/// Hoses and frames lie together and outweigh the hull where they are: on the coarse knots, before anything bends
/// towards them, they are weighed down (J. Tukey's bisquare, re-weighted until it settles), and those that then lie
/// far off are left out.
void shed_strays(FitRounds& rounds);

/// A stiff surface cuts the corner of a chine and leaves out its readings, which lie beyond it: where nothing that
/// stands before the hull can. They are taken in again where they are most of what was read and hang together along
/// most of the surface, so that an open hatch or a port light stays out. True where there were any.
bool take_in_ridge(FitRounds& rounds);

/// What was left out on the way to the surface, when that was still bent or too stiff, and is met by it now, is taken
/// in again. Of fewer readings than `fewest_of_a_scan` the search for slips does the same.
void take_in_met(FitRounds& rounds);

}  // namespace bevelsmith::hull
