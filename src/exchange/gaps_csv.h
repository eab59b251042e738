// What was seen along a piece's edges when it was offered up, from plain text.
#pragma once

#include <string_view>
#include <vector>

#include "piece/fitting.h"

namespace bevelsmith::exchange {

/// A line each: `edge,along_mm,gap_mm[,sigma_mm]`, negative where wood must go; `touch` or `rocks` in place of the
/// gap or before the edge: `hull,1200,touch`, `rocks,hull,1200`. An edge is told by its name, or by its number from 0
/// as in the job's file. Separators and comments as in any table (exchange/table_text). A fault names its line.
Result<std::vector<piece::FitReading>> gaps_from_csv(std::string_view text, const piece::PieceSpec& piece);

}  // namespace bevelsmith::exchange
