// What a change took away without being asked to: pieces that follow from others' places.
#pragma once

#include <string>
#include <vector>

#include "job/job.h"

namespace bevelsmith::job {

struct GonePiece {
    std::string id, name;
    bool cut = false;  ///< it, or a part of it, is cut already
};

/// Pieces of units that are in both jobs, with all their pieces (`in_full`), but not these: of units whose own
/// numbers were not touched all, of the others those that are cut already. What a person removes himself is not among
/// them.
std::vector<GonePiece> gone_pieces(const Job& before_in_full, const Job& after_in_full);

}  // namespace bevelsmith::job
