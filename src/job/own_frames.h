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

/// Readings of a set in a frame of its own that, by their notes, are marks of the job (a boat's mark by id or name, a
/// reading of another set that is one) or are noted once here and once in another set: the turning points of an
/// instrument that was moved. The latter are told only where there are three marks with them, and so they place.
struct NotedMarks {
    std::vector<std::string> known;   ///< marks of the job
    std::vector<std::string> shared;  ///< notes so far, here and in another set
    bool any() const { return !known.empty() || !shared.empty(); }
};
NotedMarks noted_marks(const Job& job, const std::vector<survey::Reading>& readings);
/// Makes marks of them, in `readings` and, of the shared ones, in the job's other sets.
void take_noted(Job& job, std::vector<survey::Reading>& readings, const NotedMarks& noted);

/// A move that would lay a set, placed by marks, on the surface through the other sets that lie on the same; the
/// marks hold it. Fails, in plain words, where it is not placed, no others make a surface, or as hull::align_to does.
/// It fits that surface, so it takes as long. Throws Stopped when `keep_going` says no.
Result<hull::Alignment> alignment_of(const Job& job, const std::string& set_id, const KeepGoing& keep_going = {});

/// The nudge that a set has, with this move on top of it.
survey::Nudge nudged_on(const std::optional<survey::Nudge>& before, const hull::Alignment& by);

}  // namespace bevelsmith::job
