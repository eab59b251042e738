// Where a piece stands in the boat, in sentences.
#pragma once

#include <string>
#include <vector>

#include "job/job.h"
#include "piece/outline.h"

namespace bevelsmith::exchange {

/// For somebody who has it in the hand and the boat before him: how it lies, which way face A looks and where, how it
/// leans, one place of it. `face_a` is the piece's or a part's.
std::vector<std::string> stands_in_words(const job::JobPiece& piece, const piece::Outline& shape,
                                         const geometry::Polygon& face_a, units::LengthUnit unit);

}  // namespace bevelsmith::exchange
