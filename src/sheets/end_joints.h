// How lengths lie end to end so that ends that lean off square lie in one another. For the lengths' own files.
#pragma once

#include <vector>

namespace bevelsmith::sheets {

/// What each end of a length can save at most where another lies against it, in whole steps; 0: nothing, a square
/// end.
struct EndPair {
    int left = 0, right = 0;
    bool operator==(const EndPair&) const = default;
};

/// Lengths in the order in which they lie, `turned` ones end for end (beside `order`), and what that saves.
struct EndToEnd {
    std::vector<int> order;
    std::vector<bool> turned;
    int saved = 0;
};

/// The order that saves most, when two ends that lie against each other save the lesser of what each could.
///
/// Exact, in n log n: ends sorted and paired two by two save most of all; that pairing closes lengths into rings, and
/// rings are joined by exchanging partners across the cheapest gaps between pairs (after P.C. Gilmore, R.E. Gomory,
/// Oper. Res. 12, 1964: sequencing a one state-variable machine; from memory. Here a length may also be turned, which
/// only makes every exchange possible). Its proof: where a gap is not crossed, the ends above it are paired among
/// themselves, so the crossed gaps must join all rings, and crossing one costs its width.
EndToEnd end_to_end(const std::vector<EndPair>& lengths);

}  // namespace bevelsmith::sheets
