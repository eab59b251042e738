// What the columns of a table are, by their headings.
#pragma once

#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "exchange/table_text.h"
#include "survey/instruments.h"

namespace bevelsmith::exchange {

/// For each of `numbers` (what one reading is made of) the column whose heading means it: "station", "height", "half
/// breadth", "offset", "x" and the like; one with no heading that fits takes the next column left over, in order. No
/// column is taken twice; -1 where there are none left, and for numbers that may be missing.
ReadingColumns guess_columns(std::span<const std::string> headings, std::span<const survey::Column> numbers);

}  // namespace bevelsmith::exchange
