// The plain parts and layout files of `bevelsmith-cli nest` (docs/nesting-format.md).
#pragma once

#include <string>
#include <string_view>

#include "sheets/layout.h"
#include "units/result.h"

namespace bevelsmith::exchange {

/// Reads a parts file. A fault names its line.
Result<sheets::Problem> problem_from_json(std::string_view text);
std::string layout_to_json(const sheets::Problem& problem, const sheets::Layout& layout);

}  // namespace bevelsmith::exchange
