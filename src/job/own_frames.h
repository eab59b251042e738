// Sets in frames of their own: placed by marks, and laid on the surface that the other sets have made known.
#pragma once

#include <string>
#include <vector>

#include "hull/alignment.h"
#include "job/job.h"
#include "survey/placing.h"
#include "units/stop.h"

namespace bevelsmith::job {

/// All sets in the boat's frame, in their order, and how those came there that lie in frames of their own. Fails
/// where the datum is needed and cannot be.
Result<std::vector<survey::PlacedSet>> placed_readings(const Job& job);

/// How the set lies by its marks. Fails where it has no frame of its own, or as survey::place_by_marks does.
Result<survey::PlacedSet> placed_set(const Job& job, const std::string& set_id);

/// A move that would lay a set, placed by marks, on the surface through the other sets that lie on the same; the
/// marks hold it. Fails, in plain words, where it is not placed, no others make a surface, or as hull::align_to does.
/// It fits that surface, so it takes as long. Throws Stopped when `keep_going` says no.
Result<hull::Alignment> alignment_of(const Job& job, const std::string& set_id, const KeepGoing& keep_going = {});

/// The nudge that a set has, with this move on top of it.
survey::Nudge nudged_on(const std::optional<survey::Nudge>& before, const hull::Alignment& by);

}  // namespace bevelsmith::job
