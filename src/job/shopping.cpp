#include "job/shopping.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "job/length_plan.h"

namespace bevelsmith::job {
namespace {

double to_buy(double needed, double in_stock, double reserve_percent) {
    if (needed <= 0) return 0;
    constexpr double hair = 1e-9;
    return std::max(0.0, std::ceil(needed * (1 + reserve_percent / 100) - hair) - in_stock);
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
        // What has no place for lack of stock still needs sheets: by its area, so that the list does not say too
        // little.
        double left_out = 0;
        for (const auto& u : sheets.layout->unplaced)
            left_out += geometry::area_mm2(sheets.problem->parts[static_cast<std::size_t>(u.part)].shape);
        constexpr double usual_use = 0.7;
        needed += std::ceil(left_out / (usual_use * material->sheet_width_mm * material->sheet_height_mm));
        const double have = std::max(0, material->sheets_in_stock);
        out.push_back({material->name, "sheets", needed, have, to_buy(needed, have, job.cutting.reserve_percent),
                       material->price});
    }
    for (const auto& lengths : results.lengths) {
        for (std::size_t b = 0; b < lengths.bar_ids.size(); ++b) {
            const auto& bar = lengths.problem->bars[b];
            const auto used =
                static_cast<double>(std::count_if(lengths.plan->bars.begin(), lengths.plan->bars.end(),
                                                  [&](const auto& c) { return c.bar == static_cast<int>(b); }));
            if (used == 0) continue;
            const double have = std::max(0, bar.count);
            out.push_back({fmt::format("{}, {:g} mm long", lengths.title, bar.length_mm), "bars", used, have,
                           to_buy(used, have, job.cutting.reserve_percent), bar.cost});
        }
    }
    std::map<std::pair<double, double>, double> metres;
    for (const auto& one : results.lengths_without_bar)
        metres[{one.width_mm, one.depth_mm}] += one.quantity * one.length_mm / 1000;
    for (const auto& [section, needed] : metres)
        out.push_back({fmt::format("timber {:g} x {:g} mm", section.first, section.second), "m", needed, 0,
                       to_buy(needed, 0, job.cutting.reserve_percent), 0});
    return out;
}

}  // namespace bevelsmith::job
