// Jobs on virtual boats: a chine that nobody entered, two sides that are not alike.
#pragma once

#include "job/job.h"

namespace practice_jobs {

using namespace bevelsmith;

/// 120 scattered readings of the port side of a chined boat, nothing said of the chine, no pieces.
job::Job unsaid_chine();
/// The port side read, the starboard side ("other") mirrored from it and checked level with the axis.
job::Job two_sides(double lopsided_mm);

}  // namespace practice_jobs
