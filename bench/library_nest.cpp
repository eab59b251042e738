#include "library_nest.h"

#include <algorithm>
#include <cmath>
#include <random>

#include "library_pack.h"
#include "units/quantity.h"

using namespace bevelsmith;

namespace {

using Outline = std::vector<std::pair<double, double>>;

Outline hull_of(const geometry::Polygon& shape) {
    auto hull = geometry::convex_hull(shape.outer);
    if (geometry::area_mm2(hull) < 0) std::reverse(hull.begin(), hull.end());
    Outline out;
    for (const Vec2& p : hull) out.emplace_back(p.x(), p.y());
    return out;
}

/// The copies to lay out, by their size, those of about one size shuffled.
std::vector<std::pair<int, int>> order_of(const sheets::Problem& problem, unsigned seed) {
    std::vector<std::pair<int, int>> out;
    for (int p = 0; p < static_cast<int>(problem.parts.size()); ++p)
        for (int c = 0; c < problem.parts[static_cast<std::size_t>(p)].quantity; ++c) out.emplace_back(p, c);
    std::mt19937 random(seed);
    if (seed > 0) std::shuffle(out.begin(), out.end(), random);
    std::stable_sort(out.begin(), out.end(), [&](const auto& a, const auto& b) {
        const auto size = [&](int p) {
            return std::floor(std::log2(geometry::area_mm2(problem.parts[static_cast<std::size_t>(p)].shape)) * 2);
        };
        return size(a.first) > size(b.first);
    });
    return out;
}

}  // namespace

std::optional<sheets::Layout> library_nest(const sheets::Problem& problem, unsigned seed) {
    const auto order = order_of(problem, seed);
    std::vector<Outline> outlines;
    for (const auto& [p, c] : order) outlines.push_back(hull_of(problem.parts[static_cast<std::size_t>(p)].shape));
    const auto box = geometry::bounding_box(problem.stock.front().shape.outer);
    const double margin = problem.edge_margin_mm - problem.spacing_mm / 2;
    const auto packed =
        library_pack(outlines, box.width() - 2 * margin, box.height() - 2 * margin, problem.spacing_mm);
    sheets::Layout out;
    int used = 0;
    Vec2 corner = Vec2::Constant(HUGE_VAL);
    for (std::size_t k = 0; k < packed.size(); ++k) {
        if (packed[k].bin < 0) return std::nullopt;
        out.placements.push_back({order[k].first,
                                  order[k].second,
                                  packed[k].bin,
                                  units::degrees(packed[k].rotation_rad),
                                  {packed[k].x_mm, packed[k].y_mm},
                                  false});
        used = std::max(used, packed[k].bin + 1);
        corner = corner.cwiseMin(geometry::bounding_box(sheets::placed(problem, out.placements.back()).outer).min);
    }
    // The library's bin lies about its middle: what it laid is moved onto the sheet.
    if (corner.minCoeff() < -1)
        for (auto& at : out.placements) at.shift += box.min + Vec2::Constant(problem.edge_margin_mm) - corner;
    out.sheet_stock.assign(static_cast<std::size_t>(used), 0);
    if (!sheets::violations(problem, out).empty()) return std::nullopt;
    out.utilisation = sheets::utilisation(problem, out);
    return out;
}
