// JSON text with line numbers: what nlohmann-json parses, but errors say where.
#pragma once

#include <nlohmann/json_fwd.hpp>
#include <string>
#include <string_view>

#include "units/result.h"

namespace bevelsmith::job {

/// Parses; a syntax error carries its line.
Result<nlohmann::json> parse_json(std::string_view text);

/// The line on which the value at `pointer` (RFC 6901, "/pieces/0/name") starts; the nearest enclosing value's
/// line when it is not there. Precondition: `text` is valid JSON.
int line_of(std::string_view text, const std::string& pointer);

}  // namespace bevelsmith::job
