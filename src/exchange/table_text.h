// Columns of numbers in plain text: what a spreadsheet, a meter or a scanner writes.
#pragma once

#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "survey/reading.h"
#include "units/result.h"

namespace bevelsmith::exchange {

/// Cells of a text, as views into it. Separators, line by line: semicolons where there are any, else tabs, else
/// commas, else spaces; so that a comma between semicolons or tabs is a decimal point. Empty lines and lines that
/// start with # are skipped.
class TextTable {
  public:
    explicit TextTable(std::string_view text);

    struct Row {
        int line = 1;  ///< 1-based, in the text
        std::span<const std::string_view> cells;
    };
    std::size_t rows() const { return starts_.size() - 1; }
    Row row(std::size_t index) const;
    /// Most cells that a row has.
    std::size_t columns() const { return columns_; }
    /// Names of the columns where the first line is made of words, else "column 1" and so on.
    const std::vector<std::string>& names() const { return names_; }

  private:
    void split(std::string_view line);
    std::vector<std::string_view> cells_;
    std::vector<std::size_t> starts_;  ///< of rows in cells_, and the end
    std::vector<int> lines_;
    std::size_t columns_ = 0;
    std::vector<std::string> names_;
};

/// A line that is longer, or has more columns, than a table's may, or too many lines: what is no table at all is
/// refused before it stands in memory as cells.
std::optional<Error> fault_in_lines(std::string_view text);

/// The number in a cell: finite, with a point or one comma in its place; empty when there is none.
std::optional<double> number_in(std::string_view cell);

/// Which column is which number of a reading, counted from 0; -1 takes none (the number is 0 then).
struct ReadingColumns {
    std::vector<int> values;
    int sigma = -1, note = -1;
    double length_unit_mm = 1;      ///< of lengths in the file
    std::vector<bool> is_length{};  ///< beside values; lengths where shorter
};
/// The rows as readings. Fails at the first cell that is no number, naming its line and column; nothing is kept then.
Result<std::vector<survey::Reading>> readings_from(const TextTable& table, const ReadingColumns& columns);

}  // namespace bevelsmith::exchange
