// A first layout in no time: parts by their bounding boxes in rows across the sheets. Valid by construction; what a
// search cannot reach in its time is laid out so.
#pragma once

#include <vector>

#include "sheets/layout.h"

namespace bevelsmith::sheets {

/// A copy of a part that is still to be placed.
struct Wanted {
    int part = 0, copy = 0;
};

/// Adds what is wanted to `layout`, on sheets of its own behind those that it has; of each stock that is limited,
/// what the layout uses already is counted. Rows are laid in the largest rectangle about the middle of a sheet that
/// is free of its holes and border, so that an L-shaped offcut is used in part. What finds no room is unplaced, with
/// the reason. Precondition: fault_of(problem) is empty.
void add_in_rows(const Problem& problem, const std::vector<Wanted>& wanted, Layout& layout);

}  // namespace bevelsmith::sheets
