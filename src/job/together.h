// Several pieces and units at once: moved, copied, turned to the other side, put into one group.
#pragma once

#include <string>
#include <vector>

#include "job/job.h"

namespace bevelsmith::job {

/// What is acted on, by the ids of pieces; a unit's panel stands for its whole unit. All of these take ids that are
/// not there to be nothing.
using Ids = std::vector<std::string>;

/// Whatever stands in the same group as a piece: in its unit, or under the same place.
Ids group_of(const Job& job, const std::string& piece_id);

/// Moves them with all that is drawn on them, edges at planes of the boat included; edges at surfaces and at pieces
/// that stay are worked out anew where they come to lie. Of a unit its numbers; where it ends at a bulkhead that
/// stays it goes on ending there. Pieces beside others stay beside them; those that go through marks stay where they
/// are.
void move_together(Job& job, const Ids& ids, const Vec3& by_mm);

/// Copies under ids of their own, moved by so much. What met one another meets the copies; what met others meets
/// those. The copies' pieces and, of units, the first panels: as one chooses them.
Ids copy_together(Job& job, const Ids& ids, const Vec3& by_mm);

/// Their like on the other side, scribed anew there. What met one another does so there as well; edges at other
/// pieces end at planes where these would be. Units without a side (a whole sole, an engine box) are left out.
Ids mirror_together(Job& job, const Ids& ids);

/// Puts plain pieces under one place; units are groups of their own and stay so.
void put_under(Job& job, const Ids& ids, const std::string& place);

/// The same unit on the other side, by its numbers; what was changed of single panels by hand is not taken along. Its
/// id; empty where the unit has no side.
std::string mirror_unit(Job& job, const std::string& unit_id);

}  // namespace bevelsmith::job
