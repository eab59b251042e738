// Pieces as solids with their true bevels, in STEP.
#pragma once

#include <string>
#include <vector>

#include "job/pipeline.h"

namespace bevelsmith::exchange {

/// Writes these pieces, each part of them a solid in the boat's frame (mm). Atomic. The writer is a part of the
/// program that is loaded when it is first asked for (Open CASCADE); fails, saying so, where it is not
/// installed. Throws Stopped when `keep_going` says no.
Result<bool> write_step(const job::Job& job, const job::Results& results, const std::vector<std::string>& piece_ids,
                        const std::string& path, const KeepGoing& keep_going = {});

}  // namespace bevelsmith::exchange
