#include "sheets/carried_over.h"

#include <algorithm>

#include "sheets/separate.h"

namespace bevelsmith::sheets {
namespace {

/// The stock on which what lies on `sheet` can lie as it does; -1 where there is none.
int stock_for(const geometry::Polygon& sheet, const Problem& problem) {
    const bool plain = is_plain(sheet);
    const geometry::Box needed = geometry::bounding_box(sheet.outer);
    int best = -1;
    double least = 0;
    for (std::size_t k = 0; k < problem.stock.size(); ++k) {
        const geometry::Polygon& shape = problem.stock[k].shape;
        if (shape == sheet) return static_cast<int>(k);
        if (!plain || !is_plain(shape)) continue;
        const geometry::Box box = geometry::bounding_box(shape.outer);
        const bool holds = box.min == needed.min && (box.max.array() >= needed.max.array()).all();
        const double area = geometry::area_mm2(shape);
        if (holds && (best < 0 || area < least)) best = static_cast<int>(k), least = area;
    }
    return best;
}

/// Sheets of the stock that is used last: those that are bought.
std::ptrdiff_t last_used(const Problem& problem, const Layout& layout) {
    int last = 0;
    for (const Stock& stock : problem.stock) last = std::max(last, stock.priority);
    return std::count_if(layout.sheet_stock.begin(), layout.sheet_stock.end(),
                         [&](int k) { return problem.stock[static_cast<std::size_t>(k)].priority == last; });
}

}  // namespace

std::optional<Layout> carried_over(const Layout& layout, const Problem& from, const Problem& problem) {
    if (from.parts != problem.parts || from.spacing_mm != problem.spacing_mm ||
        from.edge_margin_mm != problem.edge_margin_mm)
        return std::nullopt;
    Layout out = layout;
    for (int& stock : out.sheet_stock) {
        stock = stock_for(from.stock[static_cast<std::size_t>(stock)].shape, problem);
        if (stock < 0) return std::nullopt;
    }
    if (!violations(problem, out).empty()) return std::nullopt;
    out.utilisation = utilisation(problem, out);
    return out;
}

bool cheaper(const Problem& problem, const Layout& a, const Layout& b) {
    if (a.unplaced.size() != b.unplaced.size()) return a.unplaced.size() < b.unplaced.size();
    const auto of_a = last_used(problem, a), of_b = last_used(problem, b);
    return of_a != of_b ? of_a < of_b : better(a, b);
}

}  // namespace bevelsmith::sheets
