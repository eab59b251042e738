// Jobs on virtual boats: a chine that nobody entered, two sides that are not alike, a scan with a hose in it.
#pragma once

#include "job/job.h"

namespace practice_jobs {

using namespace bevelsmith;

/// 120 scattered readings of the port side of a chined boat, nothing said of the chine, no pieces.
job::Job unsaid_chine();
/// The port side read, the starboard side ("other") mirrored from it and checked level with the axis.
job::Job two_sides(double lopsided_mm);

/// A scan of the port side of a round or a chined boat, 2000 points and `hose` more on a hose along the hull.
job::Job scanned(bool chined, int hose);

}  // namespace practice_jobs
