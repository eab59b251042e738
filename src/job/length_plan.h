// Lengths to be cut from bars: what somebody wants, what follows from the pieces, and the cheapest way to cut them.
#pragma once

#include <string>
#include <vector>

#include "job/pipeline.h"

namespace bevelsmith::job {

/// Lippings along edges that have one, and the blocks of pieces that are held by blocks.
std::vector<DerivedLength> derived_lengths(const Job& job, const Results& results);

/// The smallest section among the bars in stock that holds a width and a depth; null where none does.
const JobBar* bar_for(const Job& job, double width_mm, double depth_mm);

/// What a job wants of lengths, one result a section, not yet planned; `without_bar` is what no bar serves.
std::vector<LengthResult> wanted_lengths(const Job& job, const Results& results,
                                         std::vector<DerivedLength>& without_bar);

}  // namespace bevelsmith::job
