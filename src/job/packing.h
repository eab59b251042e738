// What is packed between ledges that stand already and a level panel.
#pragma once

#include <vector>

#include "job/job.h"
#include "piece/levels.h"

namespace bevelsmith::job {

/// From the thicknesses of the job's sheets.
std::vector<piece::ToPack> packing_under(const Job& job, const JobPiece& piece, const piece::Outline& shape);
/// Obstacles that carry level panels in the finished boat.
std::vector<piece::Obstacle> ledges_of(const Job& job);

}  // namespace bevelsmith::job
