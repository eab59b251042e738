// Results as JSON, for other programs. Lengths mm, masses kg, angles degrees; described in docs/cli.md.
#pragma once

#include <span>
#include <string>

#include "hull/fit.h"
#include "hull/section.h"
#include "job/pipeline.h"
#include "review/review.h"

namespace bevelsmith::exchange {

/// What each holds, its units and how it is ordered: docs/cli.md. The same input gives the same text to the byte.
std::string section_to_json(std::span<const hull::SectionRun> runs, const hull::FittedSurface& fit,
                            std::span<const survey::Point> points);
std::string findings_to_json(std::span<const review::Finding> findings);
std::string report_to_json(const job::Job& job, const job::Results& results,
                           std::span<const review::Finding> findings);

}  // namespace bevelsmith::exchange
