// A new unit of furniture, as what is there suggests it: between the bulkheads around a place, on the sole, against
// the side that was read.
#pragma once

#include <optional>
#include <string>

#include "job/job.h"
#include "job/pipeline.h"

namespace bevelsmith::job {

/// A unit of `kind` under an id of its own, not yet in the job. It ends at the nearest plain bulkheads fore and aft
/// of `at_mm` or, where that is absent, of the middle of the survey or the nearest bay in which nothing stands yet;
/// or, where there are none, at the ends of the survey; its foot is a sole that is there, else where the boat is two
/// thirds as wide as at its widest; its front stands so far in from the hull as is usual for the kind. Heights are
/// kept under what is known of the hull.
JobUnit starting_unit(const Job& job, const Results& results, furniture::UnitKind kind,
                      std::optional<double> at_mm = std::nullopt, std::optional<furniture::Side> side = std::nullopt);

/// What follows the ends of units after an edit of `before` has made `now`: where the ends of a unit have moved (or
/// it has only just begun to follow), dividers that follow are spread anew, and a front that follows stands as far
/// from the hull as is usual. Dividers or a front that the edit itself changed were set by a person: they follow no
/// more. `results` are those known of the hull, of either.
void follow_ends(Job& now, const Job& before, const Results& results);

/// Lets a sole's beams lie in saddles: gives them a depth where they have none, and stretches the string to which the
/// saddles reach so that each has 100 mm or more of seat under its beam. False where the unit is no sole or the hull
/// is not known where its beams would meet it.
bool set_in_saddles(const Job& job, const Results& results, JobUnit& unit);

}  // namespace bevelsmith::job
