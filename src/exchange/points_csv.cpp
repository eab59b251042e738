#include "exchange/points_csv.h"

#include <fmt/format.h>

#include "exchange/table_text.h"

namespace bevelsmith::exchange {

Result<std::vector<survey::Point>> points_from_csv(std::string_view text, double default_sigma_mm) {
    if (auto fault = fault_in_lines(text)) return *fault;
    const TextTable table(text);
    for (std::size_t i = 0; i < table.rows(); ++i)
        if (const auto row = table.row(i); row.cells.size() < 3 || row.cells.size() > 4)
            return Error{fmt::format("{} values; a point has x,y,z and perhaps a sigma", row.cells.size()), row.line};
    const auto readings = readings_from(table, {{0, 1, 2}, 3, -1});
    if (!readings) return readings.error();
    std::vector<survey::Point> out;
    for (std::size_t i = 0; i < readings->size(); ++i) {
        const auto& r = (*readings)[i];
        out.push_back(
            {{r.values[0], r.values[1], r.values[2]}, r.sigma_mm.value_or(default_sigma_mm), 0, table.row(i).line});
    }
    return out;
}

}  // namespace bevelsmith::exchange
