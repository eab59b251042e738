#include "sheets/layout.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "units/quantity.h"

namespace bevelsmith::sheets {
namespace {

using geometry::Polygon;

constexpr double overlap_tolerance_mm2 = 0.01;
constexpr double spacing_tolerance_mm = 0.05;

std::string name_of(const Problem& p, const Placement& at) {
    return fmt::format("{} (copy {})", p.parts[static_cast<std::size_t>(at.part)].id, at.copy);
}

/// Sheets shrunk by the margin; several pieces where an offcut is narrow.
std::vector<Polygon> usable(const Stock& stock, double margin_mm) {
    if (margin_mm <= 0) return {geometry::oriented(stock.shape)};
    return geometry::offset(stock.shape, -margin_mm, geometry::Corner::mitre);
}

bool outside(const Problem& problem, const Layout& layout, const Placement& at, const Polygon& shape) {
    const auto& stock =
        problem.stock[static_cast<std::size_t>(layout.sheet_stock[static_cast<std::size_t>(at.sheet)])];
    const auto room = usable(stock, problem.edge_margin_mm - std::min(problem.edge_margin_mm, spacing_tolerance_mm));
    return geometry::total_area_mm2(geometry::subtract({shape}, room)) > overlap_tolerance_mm2;
}

std::string ring_fault(const Polygon& shape) {
    if (shape.outer.size() < 3) return "has fewer than three corners";
    for (const auto& p : shape.outer)
        if (!p.allFinite() || p.cwiseAbs().maxCoeff() > 1e6) return "has a corner that is not within a kilometre";
    for (const auto& hole : shape.holes)
        for (const auto& p : hole)
            if (!p.allFinite() || p.cwiseAbs().maxCoeff() > 1e6)
                return "has a hole whose corner is not within a kilometre";
    const auto clean = geometry::unite({Polygon{shape.outer, {}}}, {});
    if (geometry::total_area_mm2(clean) < 1) return "has no area";
    const double signed_area = std::abs(geometry::area_mm2(shape.outer));
    if (clean.size() != 1 || std::abs(geometry::area_mm2(clean.front()) - signed_area) > 1e-3 + 1e-6 * signed_area)
        return "has an outline that crosses itself";
    return {};
}

}  // namespace

std::string fault_of(const Problem& problem) {
    if (problem.stock.empty()) return "there are no sheets";
    if (problem.parts.empty()) return "there are no parts";
    if (!(problem.spacing_mm >= 0) || !(problem.edge_margin_mm >= 0))
        return "spacing and edge margin must not be negative";
    for (std::size_t i = 0; i < problem.stock.size(); ++i)
        if (const auto fault = ring_fault(problem.stock[i].shape); !fault.empty())
            return fmt::format("sheet {} {}", i, fault);
    for (const Part& part : problem.parts) {
        if (const auto fault = ring_fault(part.shape); !fault.empty())
            return fmt::format("part '{}' {}", part.id, fault);
        if (!part.any_rotation && part.rotations_deg.empty())
            return fmt::format("part '{}' may not be turned to any angle", part.id);
        if (part.quantity < 0) return fmt::format("part '{}' has a negative quantity", part.id);
    }
    return {};
}

Polygon placed(const Problem& problem, const Placement& at) {
    return geometry::transformed(problem.parts[static_cast<std::size_t>(at.part)].shape,
                                 units::radians(at.rotation_deg), at.shift);
}

std::vector<std::string> violations(const Problem& problem, const Layout& layout) {
    std::vector<std::string> out;
    std::vector<Polygon> shapes;
    std::vector<std::vector<Polygon>> grown;
    const double grow = std::max(0.0, problem.spacing_mm - spacing_tolerance_mm) / 2;
    for (const Placement& at : layout.placements) {
        shapes.push_back(placed(problem, at));
        grown.push_back(grow > 0 ? geometry::offset(shapes.back(), grow, geometry::Corner::round)
                                 : std::vector<Polygon>{shapes.back()});
        if (outside(problem, layout, at, shapes.back()))
            out.push_back(name_of(problem, at) + " reaches over the edge of its sheet");
    }
    for (std::size_t i = 0; i < shapes.size(); ++i)
        for (std::size_t k = i + 1; k < shapes.size(); ++k) {
            if (layout.placements[i].sheet != layout.placements[k].sheet) continue;
            auto near = geometry::bounding_box(shapes[i].outer);
            near.min -= Vec2::Constant(problem.spacing_mm);
            near.max += Vec2::Constant(problem.spacing_mm);
            if (!near.overlaps(geometry::bounding_box(shapes[k].outer))) continue;
            const auto names = [&] {
                return name_of(problem, layout.placements[i]) + " and " + name_of(problem, layout.placements[k]);
            };
            if (geometry::total_area_mm2(geometry::intersect({shapes[i]}, {shapes[k]})) > overlap_tolerance_mm2)
                out.push_back(names() + " overlap");
            else if (grow > 0 &&
                     geometry::total_area_mm2(geometry::intersect(grown[i], grown[k])) > overlap_tolerance_mm2)
                out.push_back(names() + " are nearer than the spacing");
        }
    return out;
}

double utilisation(const Problem& problem, const Layout& layout) {
    if (layout.sheet_stock.empty()) return 0;
    double parts = 0, sheets = 0, last_right = -HUGE_VAL;
    const int last = static_cast<int>(layout.sheet_stock.size()) - 1;
    for (const Placement& at : layout.placements) {
        const Polygon shape = placed(problem, at);
        parts += geometry::area_mm2(shape);
        if (at.sheet == last) last_right = std::max(last_right, geometry::bounding_box(shape.outer).max.x());
    }
    for (int s = 0; s <= last; ++s) {
        Polygon sheet =
            problem.stock[static_cast<std::size_t>(layout.sheet_stock[static_cast<std::size_t>(s)])].shape;
        if (s < last) {
            sheets += geometry::area_mm2(sheet);
            continue;
        }
        const auto box = geometry::bounding_box(sheet.outer);
        if (last_right <= box.min.x()) continue;  // nothing lies on it
        const Polygon used{geometry::rectangle({box.min, {std::min(last_right, box.max.x()), box.max.y()}}), {}};
        sheets += geometry::total_area_mm2(geometry::intersect({sheet}, {used}));
    }
    return sheets > 0 ? parts / sheets : 0;
}

}  // namespace bevelsmith::sheets
