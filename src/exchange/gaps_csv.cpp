#include "exchange/gaps_csv.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <optional>

#include "exchange/table_text.h"
#include "units/ranges.h"

namespace bevelsmith::exchange {
namespace {

std::string_view bare(std::string_view cell) {
    constexpr std::string_view around = " \t\r\"";
    const auto first = cell.find_first_not_of(around);
    return first == std::string_view::npos ? std::string_view()
                                           : cell.substr(first, cell.find_last_not_of(around) - first + 1);
}

/// A cell as it is told in a message: its beginning, with nothing in it that a terminal could take otherwise.
std::string shown(std::string_view cell) {
    constexpr std::size_t most = 24;
    std::string out(bare(cell).substr(0, most));
    for (char& c : out)
        if (static_cast<unsigned char>(c) < 0x20 || static_cast<unsigned char>(c) > 0x7e) c = '?';
    return bare(cell).size() > most ? out + "..." : out;
}

std::optional<piece::Noticed> noticed(std::string_view cell) {
    const std::string_view word = bare(cell);
    if (word == "touch" || word == "touches") return piece::Noticed::touches;
    if (word == "rocks" || word == "rock") return piece::Noticed::rocks;
    return std::nullopt;
}

std::optional<int> edge_named(std::string_view cell, const piece::PieceSpec& piece) {
    const std::string_view name = bare(cell);
    for (std::size_t k = 0; k < piece.edges.size(); ++k)
        if (piece.edges[k].name == name) return static_cast<int>(k);
    const auto number = number_in(name);
    if (!number || *number != std::floor(*number) || *number < 0 ||
        *number >= static_cast<double>(piece.edges.size()))
        return std::nullopt;
    return static_cast<int>(*number);
}

std::string edge_names(const piece::PieceSpec& piece) {
    std::string out;
    for (const auto& e : piece.edges) out += (out.empty() ? "'" : ", '") + e.name + "'";
    return out;
}

/// One line as a reading, or what is wrong with it.
Result<piece::FitReading> reading_of(std::vector<std::string_view> cells, const piece::PieceSpec& piece) {
    piece::FitReading out;
    std::optional<piece::Noticed> seen;
    if (!cells.empty() && (seen = noticed(cells[0]))) cells.erase(cells.begin());
    else if (cells.size() > 2 && (seen = noticed(cells[2]))) cells.erase(cells.begin() + 2);
    const std::size_t figures = seen ? 2 : 3;
    if (cells.size() < figures || cells.size() > figures + 1)
        return Error{"a line has edge,along_mm,gap_mm and perhaps sigma_mm; or touch or rocks in place of the gap"};
    const auto edge = edge_named(cells[0], piece);
    if (!edge)
        return Error{
            fmt::format("'{}' is no edge of '{}': its edges are {}", shown(cells[0]), piece.name, edge_names(piece))};
    out.edge = *edge;
    out.seen = seen.value_or(piece::Noticed::gap);
    const auto take = [&](std::size_t column, const units::Range& range, double& into) -> std::optional<Error> {
        const auto number = number_in(bare(cells[column]));
        if (!number) return Error{fmt::format("'{}' is not a number", shown(cells[column]))};
        if (!range.holds(*number)) return Error{units::out_of_range(range, *number)};
        into = *number;
        return std::nullopt;
    };
    if (auto fault = take(1, units::range::place, out.along_mm)) return *fault;
    if (!seen)
        if (auto fault = take(2, units::range::seen_gap, out.gap_mm)) return *fault;
    if (cells.size() > figures)
        if (auto fault = take(figures, units::range::sigma, out.sigma_mm)) return *fault;
    return out;
}

}  // namespace

Result<std::vector<piece::FitReading>> gaps_from_csv(std::string_view text, const piece::PieceSpec& piece) {
    if (auto fault = fault_in_lines(text)) return *fault;
    const TextTable table(text);
    std::vector<piece::FitReading> out;
    for (std::size_t i = 0; i < table.rows(); ++i) {
        const auto row = table.row(i);
        auto reading = reading_of({row.cells.begin(), row.cells.end()}, piece);
        if (!reading) return Error{reading.error().message, row.line};
        out.push_back(*reading);
        if (out.size() > units::limit::fit_readings.most)
            return Error{units::too_many(units::limit::fit_readings, out.size()), row.line};
    }
    if (out.empty()) return Error{"there is no reading in it: a line has edge,along_mm,gap_mm", 1};
    return out;
}

}  // namespace bevelsmith::exchange
