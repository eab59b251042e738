// Words that others wrote, in files that other programs read: nothing in them acts as anything but text.
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace bevelsmith::exchange {

/// Without control characters: each is a blank.
std::string without_controls(std::string_view text);

/// A cell of a CSV: quoted where it must be, and never a formula. A spreadsheet computes what begins with = + - @ or
/// a tab, unless it is a number; such words get an apostrophe before them, which it takes for "this is text".
std::string csv_cell(std::string_view text);
std::string csv_line(const std::vector<std::string>& cells);

/// For a node or an attribute of an SVG.
std::string xml_escaped(std::string_view text);

/// The number that a whole cell is, whatever the locale; false where it is none.
bool is_number(std::string_view cell, double& value);

/// A file's name made of a thing's: letters, figures, blanks and - _ . only, no dot in front, at most 80 bytes;
/// "piece" where nothing is left.
std::string safe_file_name(std::string_view name);

}  // namespace bevelsmith::exchange
