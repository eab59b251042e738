#include "sheets/place_on.h"

#include <algorithm>

namespace bevelsmith::sheets {
namespace {

/// The sheet by itself: what lies on it locked, and the one part besides.
Problem by_itself(const Problem& problem, const Layout& layout, std::size_t which, int sheet, int stock) {
    Problem out;
    out.spacing_mm = problem.spacing_mm;
    out.edge_margin_mm = problem.edge_margin_mm;
    out.stock = {problem.stock[static_cast<std::size_t>(stock)]};
    out.stock.front().count = 1;
    const auto take = [&](int part) {
        out.parts.push_back(problem.parts[static_cast<std::size_t>(part)]);
        out.parts.back().quantity = 1;
    };
    take(layout.placements[which].part);
    for (const Placement& at : layout.placements) {
        if (at.sheet != sheet) continue;
        take(at.part);
        Placement held = at;
        held.part = static_cast<int>(out.parts.size()) - 1;
        held.copy = held.sheet = 0;
        out.locked.placements.push_back(held);
    }
    if (!out.locked.placements.empty()) out.locked.sheet_stock = {0};
    return out;
}

/// Sheets without parts leave, and the others are counted anew.
void drop_empty(Layout& layout) {
    for (int s = static_cast<int>(layout.sheet_stock.size()) - 1; s >= 0; --s) {
        if (std::any_of(layout.placements.begin(), layout.placements.end(),
                        [s](const Placement& at) { return at.sheet == s; }))
            continue;
        layout.sheet_stock.erase(layout.sheet_stock.begin() + s);
        for (Placement& at : layout.placements)
            if (at.sheet > s) --at.sheet;
    }
}

}  // namespace

std::optional<Layout> moved_to_sheet(const Problem& problem, const Layout& layout, std::size_t which, int sheet) {
    const int sheets = static_cast<int>(layout.sheet_stock.size());
    const Placement& moving = layout.placements[which];
    if (sheet == moving.sheet || sheet < 0 || sheet > sheets) return std::nullopt;
    const bool fresh = sheet == sheets;
    const int stock = layout.sheet_stock[static_cast<std::size_t>(fresh ? moving.sheet : sheet)];
    if (fresh) {
        const int there_are = problem.stock[static_cast<std::size_t>(stock)].count;
        if (there_are >= 0 && std::count(layout.sheet_stock.begin(), layout.sheet_stock.end(), stock) >= there_are)
            return std::nullopt;
    }
    const Problem alone = by_itself(problem, layout, which, sheet, stock);
    NestOptions options;
    options.rounds = 1;
    options.seconds = 1;
    const Layout found = nest(alone, options);
    const auto at = std::find_if(found.placements.begin(), found.placements.end(),
                                 [](const Placement& one) { return one.part == 0; });
    if (at == found.placements.end() || at->sheet != 0) return std::nullopt;
    Layout out = layout;
    if (fresh) out.sheet_stock.push_back(stock);
    Placement& moved = out.placements[which];
    moved.sheet = sheet;
    moved.rotation_deg = at->rotation_deg;
    moved.shift = at->shift;
    moved.turned_over = at->turned_over;
    drop_empty(out);
    out.utilisation = utilisation(problem, out);
    return out;
}

}  // namespace bevelsmith::sheets
