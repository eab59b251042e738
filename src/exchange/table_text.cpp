#include "exchange/table_text.h"

#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <cmath>

#include "units/ranges.h"

namespace bevelsmith::exchange {
namespace {

std::string_view trimmed(std::string_view text) {
    while (!text.empty() && (text.front() == ' ' || text.front() == '\t')) text.remove_prefix(1);
    while (!text.empty() && (text.back() == ' ' || text.back() == '\t' || text.back() == '\r')) text.remove_suffix(1);
    return text;
}

bool is_word(std::string_view cell) {
    const auto letter = [](char c) { return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '"'; };
    return !cell.empty() && letter(cell[0]) && !number_in(cell);
}

std::string unquoted(std::string_view cell) {
    if (cell.size() >= 2 && cell.front() == '"' && cell.back() == '"') cell = cell.substr(1, cell.size() - 2);
    return std::string(cell);
}

}  // namespace

std::optional<double> number_in(std::string_view cell) {
    if (cell.starts_with('+')) cell.remove_prefix(1);
    std::string with_point;
    if (const auto comma = cell.find(',');
        comma != std::string_view::npos && cell.find('.') == std::string_view::npos) {
        with_point = cell;
        with_point[comma] = '.';
        cell = with_point;
    }
    double value = 0;
    const auto [end, status] = std::from_chars(cell.data(), cell.data() + cell.size(), value);
    if (status != std::errc{} || end != cell.data() + cell.size() || !std::isfinite(value)) return std::nullopt;
    return value;
}

namespace {

/// In mm where `unit_mm` is positive, else the number as it stands. Lengths may be fractions of an inch, and say
/// their unit: "30 1/4", "2 ft 6 1/2 in".
std::optional<double> value_in(std::string_view cell, double unit_mm) {
    if (const auto plain = number_in(cell)) return *plain * (unit_mm > 0 ? unit_mm : 1);
    if (unit_mm <= 0) return std::nullopt;
    const bool digits = std::any_of(cell.begin(), cell.end(), [](char c) { return c >= '0' && c <= '9'; });
    constexpr std::size_t longest = 40;
    if (!digits || cell.size() > longest) return std::nullopt;
    if (cell.find_first_of("+*()") != std::string_view::npos) return std::nullopt;  // no file does sums
    std::string text = unquoted(cell);
    // 2-1/2 stands for two and a half, as it is often written; a field would take it for a difference.
    for (std::size_t i = 1; i + 1 < text.size(); ++i)
        if (text[i] == '-') {
            if (text.find('/', i) == std::string::npos) return std::nullopt;
            text[i] = ' ';
        }
    const bool inches = unit_mm == units::mm_per_inch;
    const auto told = units::parse_length_mm(text, inches ? units::LengthUnit::inch : units::LengthUnit::millimetre);
    if (!told) return std::nullopt;
    // A fraction without a unit is in the file's own.
    const bool unit_said = std::any_of(
        cell.begin(), cell.end(), [](char c) { return c == 'm' || c == 'i' || c == 'f' || c == '\'' || c == '"'; });
    return inches || unit_said ? *told : *told * unit_mm;
}

}  // namespace

std::optional<Error> fault_in_lines(std::string_view text) {
    std::size_t rows = 0;
    for (int line = 1; !text.empty(); ++line) {
        const auto end = text.find('\n');
        const std::string_view row = text.substr(0, end);
        text.remove_prefix(end == std::string_view::npos ? text.size() : end + 1);
        if (row.size() > units::limit::line_bytes.most)
            return Error{units::too_many(units::limit::line_bytes, row.size()), line};
        // More cells than separators there cannot be.
        const auto separators = static_cast<std::size_t>(std::count_if(
            row.begin(), row.end(), [](char c) { return c == ',' || c == ';' || c == '\t' || c == ' '; }));
        if (separators >= 4 * units::limit::columns.most)
            return Error{units::too_many(units::limit::columns, separators + 1), line};
        if (++rows > units::limit::table_rows.most)
            return Error{units::too_many(units::limit::table_rows, rows), line};
    }
    return std::nullopt;
}

TextTable::TextTable(std::string_view text) {
    if (text.starts_with("\xEF\xBB\xBF")) text.remove_prefix(3);
    bool first = true;
    for (int line = 1; !text.empty(); ++line) {
        const auto end = text.find('\n');
        const std::string_view row = trimmed(text.substr(0, end));
        text.remove_prefix(end == std::string_view::npos ? text.size() : end + 1);
        if (row.empty() || row.front() == '#') continue;
        const std::size_t start = cells_.size();
        split(row);
        const std::span cells = std::span(cells_).subspan(start);
        columns_ = std::max(columns_, cells.size());
        if (std::exchange(first, false) && std::all_of(cells.begin(), cells.end(), is_word)) {
            for (std::string_view cell : cells) names_.push_back(unquoted(cell));
            cells_.resize(start);
            continue;
        }
        starts_.push_back(start);
        lines_.push_back(line);
    }
    starts_.push_back(cells_.size());
    for (std::size_t k = names_.size(); k < columns_; ++k) names_.push_back(fmt::format("column {}", k + 1));
}

void TextTable::split(std::string_view line) {
    char separator = ' ';
    for (char c : {',', '\t', ';'})
        if (line.find(c) != std::string_view::npos) separator = c;
    const bool marked = separator != ' ';
    while (true) {
        const auto end = line.find(separator);
        const std::string_view cell = trimmed(line.substr(0, end));
        if (marked || !cell.empty()) cells_.push_back(cell);
        if (end == std::string_view::npos) return;
        line.remove_prefix(end + 1);
    }
}

TextTable::Row TextTable::row(std::size_t index) const {
    return {lines_[index], std::span(cells_).subspan(starts_[index], starts_[index + 1] - starts_[index])};
}

Result<std::vector<survey::Reading>> readings_from(const TextTable& table, const ReadingColumns& columns) {
    std::vector<survey::Reading> out;
    out.reserve(table.rows());
    const auto cell_of = [](const TextTable::Row& row, int column) {
        const auto k = static_cast<std::size_t>(column);
        return column < 0 || k >= row.cells.size() ? std::string_view() : row.cells[k];
    };
    for (std::size_t i = 0; i < table.rows(); ++i) {
        const TextTable::Row row = table.row(i);
        survey::Reading reading;
        const auto fault = [&](int column, const std::string& why) {
            return Error{fmt::format("{}: {}", table.names()[static_cast<std::size_t>(column)], why), row.line};
        };
        for (std::size_t k = 0; k < columns.values.size() && k < reading.values.size(); ++k) {
            const int column = columns.values[k];
            if (column < 0) continue;
            const bool length = k >= columns.is_length.size() || columns.is_length[k];
            const auto value = value_in(cell_of(row, column), length ? columns.length_unit_mm : 0);
            if (!value) return fault(column, fmt::format("'{}' is not a number", cell_of(row, column).substr(0, 40)));
            reading.values[k] = *value;
            // Angles are held to the range of places as well: nobody turns a meter more often.
            if (!units::range::place.holds(reading.values[k]))
                return fault(column, units::out_of_range(units::range::place, reading.values[k]));
        }
        if (const auto cell = cell_of(row, columns.sigma); !cell.empty()) {
            const auto sigma = number_in(cell);
            if (!sigma) return fault(columns.sigma, fmt::format("'{}' is no uncertainty", cell.substr(0, 40)));
            if (!units::range::sigma.holds(*sigma * columns.length_unit_mm))
                return fault(columns.sigma,
                             units::out_of_range(units::range::sigma, *sigma * columns.length_unit_mm));
            reading.sigma_mm = *sigma * columns.length_unit_mm;
        }
        reading.note = unquoted(cell_of(row, columns.note).substr(0, units::limit::text.most));
        out.push_back(std::move(reading));
    }
    if (out.empty()) return Error{"there are no readings in this file", 1};
    return out;
}

}  // namespace bevelsmith::exchange
