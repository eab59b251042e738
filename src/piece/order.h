// Which piece is worked out before which: one that stops at another, or stands beside it, comes after it.
#pragma once

#include <string>
#include <vector>

#include "piece/spec.h"

namespace bevelsmith::piece {

struct Order {
    std::vector<std::size_t> sequence;              ///< indices into the pieces, each after those that it depends on
    std::vector<std::vector<std::size_t>> circles;  ///< pieces that depend on each other in a ring
    /// The circle that a piece is in, null where it is in none.
    const std::vector<std::size_t>* circle_with(std::size_t piece) const;
};

/// Pieces that are not there are depended on by nobody. To cover another's end grain is no dependence: of two pieces
/// at a corner one stops and one covers.
Order order_of(const std::vector<const PieceSpec*>& pieces);

/// "'Front' stops at 'Top', 'Top' stops at 'Front': ...", and what to do.
std::string circle_words(const std::vector<const PieceSpec*>& pieces, const std::vector<std::size_t>& circle);

}  // namespace bevelsmith::piece
