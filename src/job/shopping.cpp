#include "job/shopping.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "job/length_plan.h"
#include "job/sheet_count.h"

namespace bevelsmith::job {
namespace {

/// What is needed, and in a line of its own what the reserve adds; a reserve alone buys nothing.
void add(std::vector<ShoppingLine>& out, ShoppingLine line, double reserve_percent) {
    constexpr double hair = 1e-9;
    const auto short_of = [&](double wanted) { return std::max(0.0, std::ceil(wanted - hair) - line.in_stock); };
    line.to_buy = line.needed > 0 ? short_of(line.needed) : 0;
    out.push_back(line);
    const double reserve = line.needed * reserve_percent / 100;
    const double more = line.needed > 0 ? short_of(line.needed + reserve) - line.to_buy : 0;
    if (more <= 0) return;
    line.what += fmt::format(": reserve of {:g} %", reserve_percent);
    line.in_stock = std::max(0.0, line.in_stock - line.needed);
    line.needed = reserve, line.to_buy = more, line.is_reserve = true, line.note.clear();
    out.push_back(std::move(line));
}

}  // namespace

std::vector<ShoppingLine> shopping_list(const Job& job, const Results& results) {
    std::vector<ShoppingLine> out;
    for (const auto& sheets : results.sheets) {
        const auto* material = find_material(job, sheets.material_id);
        if (!material || !sheets.layout) continue;
        double needed = 0;
        for (int stock : sheets.layout->sheet_stock)
            if (sheets.stock_names[static_cast<std::size_t>(stock)].empty()) ++needed;
        const WithoutPlace left = without_place(*sheets.problem, *sheets.layout, *material);
        needed += left.sheets;
        const double have = std::max(0, material->sheets_in_stock);
        add(out, {material->name, "sheets", needed, have, 0, false, material->price, words_of(left)},
            job.cutting.reserve_percent);
    }
    for (const auto& lengths : results.lengths) {
        for (std::size_t b = 0; b < lengths.bar_ids.size(); ++b) {
            const auto& bar = lengths.problem->bars[b];
            const auto used =
                static_cast<double>(std::count_if(lengths.plan->bars.begin(), lengths.plan->bars.end(),
                                                  [&](const auto& c) { return c.bar == static_cast<int>(b); }));
            if (used == 0) continue;
            const auto known = std::find_if(job.bars.begin(), job.bars.end(),
                                            [&](const auto& one) { return one.id == lengths.bar_ids[b]; });
            // What is old is there; there is no more of it to be bought.
            if (known == job.bars.end() || known->old) continue;
            const double have = std::max(0, bar.count);
            add(out,
                {fmt::format("{}, {:g} mm long", lengths.title, bar.length_mm),
                 "bars",
                 used,
                 have,
                 0,
                 false,
                 known->price,
                 {}},
                job.cutting.reserve_percent);
        }
    }
    std::map<std::pair<double, double>, double> metres;
    for (const auto& one : results.lengths_without_bar)
        metres[{one.width_mm, one.depth_mm}] += one.quantity * one.length_mm / 1000;
    for (const auto& [section, needed] : metres)
        add(out,
            {fmt::format("timber {:g} x {:g} mm", section.first, section.second), "m", needed, 0, 0, false, 0, {}},
            job.cutting.reserve_percent);
    return out;
}

}  // namespace bevelsmith::job
