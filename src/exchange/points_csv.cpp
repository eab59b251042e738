#include "exchange/points_csv.h"

#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <cmath>
#include <optional>

namespace bevelsmith::exchange {
namespace {

std::vector<std::string_view> cells_of(std::string_view line) {
    const bool marked = line.find_first_of(",;\t") != std::string_view::npos;
    const std::string_view separators = marked ? ",;\t" : " ";
    std::vector<std::string_view> cells;
    while (true) {
        const auto end = line.find_first_of(separators);
        std::string_view cell = line.substr(0, end);
        while (!cell.empty() && (cell.front() == ' ' || cell.front() == '\t')) cell.remove_prefix(1);
        while (!cell.empty() && (cell.back() == ' ' || cell.back() == '\t')) cell.remove_suffix(1);
        if (marked || !cell.empty()) cells.push_back(cell);
        if (end == std::string_view::npos) return cells;
        line.remove_prefix(end + 1);
    }
}

std::optional<double> number_of(std::string_view cell) {
    if (cell.starts_with('+')) cell.remove_prefix(1);
    double value = 0;
    const auto [end, status] = std::from_chars(cell.data(), cell.data() + cell.size(), value);
    if (status != std::errc{} || end != cell.data() + cell.size() || !std::isfinite(value)) return std::nullopt;
    return value;
}

bool names_columns(const std::vector<std::string_view>& cells) {
    return !cells.empty() && std::all_of(cells.begin(), cells.end(), [](std::string_view c) {
        return !c.empty() && ((c[0] >= 'a' && c[0] <= 'z') || (c[0] >= 'A' && c[0] <= 'Z') || c[0] == '"') &&
               !number_of(c);
    });
}

Result<survey::Point> point_of(const std::vector<std::string_view>& cells, double default_sigma_mm, int line) {
    if (cells.size() < 3 || cells.size() > 4)
        return Error{fmt::format("{} values; a point has x,y,z and perhaps a sigma", cells.size()), line};
    double values[4] = {0, 0, 0, default_sigma_mm};
    for (std::size_t i = 0; i < cells.size(); ++i) {
        if (i == 3 && cells[i].empty()) continue;
        const auto value = number_of(cells[i]);
        if (!value) return Error{fmt::format("'{}' is not a number", cells[i].substr(0, 40)), line};
        values[i] = *value;
        if (i < 3 && std::abs(*value) > 1e6)
            return Error{fmt::format("{} mm is more than a kilometre away", cells[i]), line};
    }
    if (!(values[3] > 0) || values[3] > 1e5)
        return Error{fmt::format("a sigma of {} mm: it must be more than zero", values[3]), line};
    return survey::Point{{values[0], values[1], values[2]}, values[3], 0, line};
}

}  // namespace

Result<std::vector<survey::Point>> points_from_csv(std::string_view text, double default_sigma_mm) {
    std::vector<survey::Point> out;
    if (text.starts_with("\xEF\xBB\xBF")) text.remove_prefix(3);
    bool first = true;
    for (int line = 1; !text.empty(); ++line) {
        const auto end = text.find('\n');
        std::string_view row = text.substr(0, end);
        text.remove_prefix(end == std::string_view::npos ? text.size() : end + 1);
        while (!row.empty() && (row.back() == '\r' || row.back() == ' ')) row.remove_suffix(1);
        while (!row.empty() && row.front() == ' ') row.remove_prefix(1);
        if (row.empty() || row.front() == '#') continue;
        const auto cells = cells_of(row);
        if (std::exchange(first, false) && names_columns(cells)) continue;
        const auto point = point_of(cells, default_sigma_mm, line);
        if (!point) return point.error();
        out.push_back(*point);
    }
    if (out.empty()) return Error{"there are no points in this file", 1};
    return out;
}

}  // namespace bevelsmith::exchange
