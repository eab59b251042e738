// What pieces would be that are not in the job yet: to try whether they are sound, and to show where they would
// stand.
#pragma once

#include <functional>

#include "job/job.h"
#include "job/pipeline.h"

namespace bevelsmith::job {

/// The outlines of those pieces of `full` (a job with its units' pieces) that are wanted, on the surfaces of
/// `results`, in their order. Pieces without a material have none. Obstacles and crossings are not looked at.
Results tried_out(const Job& full, const Results& results, const std::function<bool(const JobPiece&)>& wanted);

}  // namespace bevelsmith::job
