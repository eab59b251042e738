// A job as a few strokes: what was measured, seen from aft, to be known again in a list.
#pragma once

#include <vector>

#include "job/job.h"

namespace bevelsmith::job {

/// One stroke a set of readings, of at most 24 places, in a box of 1 x 1 with the longer side filled: starboard to
/// the right, up upwards. Where all lies in one plane across the view, it is seen from the side. Empty without
/// readings.
std::vector<std::vector<Vec2>> silhouette(const Job& job);

}  // namespace bevelsmith::job
