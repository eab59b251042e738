// Points from plain text: x,y,z[,sigma] a line, millimetres.
#pragma once

#include <string_view>
#include <vector>

#include "survey/points.h"

namespace bevelsmith::exchange {

/// Reads points. Separators: comma, semicolon, tab or spaces. Empty lines and lines that start with # are skipped,
/// and so is a first line of column names. Each point's `reading` is its 1-based line number. `default_sigma_mm`
/// goes to lines without a sigma. A fault names its line.
Result<std::vector<survey::Point>> points_from_csv(std::string_view text, double default_sigma_mm = 1.5);

}  // namespace bevelsmith::exchange
