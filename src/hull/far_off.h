// Readings that lie nowhere near all the others: a figure too many, a point for a comma, another boat's.
#pragma once

#include <span>
#include <vector>

#include "survey/points.h"

namespace bevelsmith::hull {

/// The readings, by index, that lie along one of the boat's axes farther from where nine tenths of all lie than one
/// and a half times as far as those reach along it, and half of what they reach along their longest; and that have no
/// other within a quarter of their longest reach. They would stretch the chart, and bend the surface so that good
/// readings are doubted. A fit leaves them out from the start: how far they are off is told by their own sigma alone.
/// None where they are more than one in twenty: then it is no slip of the pen. (The rule is ours; a surface that is
/// read in full has no such reading.)
std::vector<int> far_off(std::span<const survey::Point> points);

}  // namespace bevelsmith::hull
