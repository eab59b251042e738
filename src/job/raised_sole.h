// The raised part of a sole over machinery that reaches through it.
#pragma once

#include <string>
#include <vector>

#include "job/job.h"

namespace bevelsmith::job {

/// Ids of the obstacles that reach above the underside of a sole unit, between its ends. `job` is one in full.
std::vector<std::string> reaching_through(const Job& job, const JobUnit& sole);

/// Raises the sole over an obstacle: 30 mm clear of it all round and above (common practice: hands want 30 to 50),
/// the panels outside of that, in whole steps. False where one of them is not there or the unit is no sole.
bool raise_over(Job& job, const std::string& unit_id, const std::string& obstacle_id);

/// Raises the sole about its middle, 600 long and 600 wide by 150, to be changed.
void raise_middle(Job& job, const std::string& unit_id);

}  // namespace bevelsmith::job
