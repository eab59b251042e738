#include "sheets/layout.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>
#include <utility>

#include "units/quantity.h"
#include "units/ranges.h"

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
    const double margin = problem.edge_margin_mm - std::min(problem.edge_margin_mm, spacing_tolerance_mm);
    if (is_plain(stock.shape)) {  // well inside a plain sheet nothing has to be computed
        const auto box = geometry::bounding_box(shape.outer), sheet = geometry::bounding_box(stock.shape.outer);
        if (((box.min - sheet.min).array() >= margin).all() && ((sheet.max - box.max).array() >= margin).all())
            return false;
    }
    return geometry::total_area_mm2(geometry::subtract({shape}, usable(stock, margin))) > overlap_tolerance_mm2;
}

/// A placed part, with its box grown by half the spacing.
struct Laid {
    const Placement* at = nullptr;
    Polygon shape;
    geometry::Box near;
};

/// Why two neighbours do not lie right; empty when they do.
std::string too_near(const Problem& problem, const Laid& a, const Laid& b) {
    const auto names = [&] { return name_of(problem, *a.at) + " and " + name_of(problem, *b.at); };
    if (geometry::total_area_mm2(geometry::intersect({a.shape}, {b.shape})) > overlap_tolerance_mm2)
        return names() + " overlap";
    const double grow = std::max(0.0, problem.spacing_mm - spacing_tolerance_mm) / 2;
    if (grow <= 0) return {};
    const auto grown = [&](const Polygon& p) { return geometry::offset(p, grow, geometry::Corner::round); };
    if (geometry::total_area_mm2(geometry::intersect(grown(a.shape), grown(b.shape))) > overlap_tolerance_mm2)
        return names() + " are nearer than the spacing";
    return {};
}

/// What a layout names that does not exist, or names twice.
std::vector<std::string> without_meaning(const Problem& problem, const Layout& layout) {
    std::vector<std::string> out;
    std::vector<int> used(problem.stock.size(), 0);
    for (int stock : layout.sheet_stock) {
        if (stock < 0 || stock >= static_cast<int>(problem.stock.size())) return {"a sheet of a stock that is none"};
        ++used[static_cast<std::size_t>(stock)];
    }
    for (std::size_t k = 0; k < used.size(); ++k)
        if (problem.stock[k].count >= 0 && used[k] > problem.stock[k].count)
            out.push_back(fmt::format("{} sheets are used where there are {}", used[k], problem.stock[k].count));
    std::set<std::pair<int, int>> seen;
    for (const Placement& at : layout.placements) {
        if (at.part < 0 || at.part >= static_cast<int>(problem.parts.size())) return {"a part that is none"};
        const Part& part = problem.parts[static_cast<std::size_t>(at.part)];
        if (at.copy < 0 || at.copy >= part.quantity)
            out.push_back(fmt::format("{}: there are only {}", name_of(problem, at), part.quantity));
        if (at.sheet < 0 || at.sheet >= static_cast<int>(layout.sheet_stock.size()))
            out.push_back(fmt::format("{} lies on sheet {} of {}", name_of(problem, at), at.sheet + 1,
                                      layout.sheet_stock.size()));
        if (!seen.emplace(at.part, at.copy).second) out.push_back(name_of(problem, at) + " is placed twice");
    }
    return out;
}

std::string ring_fault(const Polygon& shape) {
    if (shape.outer.size() < 3) return "has fewer than three corners";
    if (shape.holes.size() > units::limit::holes.most)
        return "has too many holes: " + units::too_many(units::limit::holes, shape.holes.size());
    const auto fault_in = [](const geometry::Ring& ring) -> std::string {
        if (ring.size() > units::limit::ring_corners.most)
            return "has too many corners: " + units::too_many(units::limit::ring_corners, ring.size());
        for (const auto& p : ring)
            for (double value : {p.x(), p.y()})
                if (!units::range::place.holds(value))
                    return "has a corner at " + units::out_of_range(units::range::place, value);
        return {};
    };
    if (auto fault = fault_in(shape.outer); !fault.empty()) return fault;
    for (const auto& hole : shape.holes)
        if (auto fault = fault_in(hole); !fault.empty()) return fault;
    const auto clean = geometry::unite({Polygon{shape.outer, {}}}, {});
    if (geometry::total_area_mm2(clean) < 1) return "has no area";
    const double signed_area = std::abs(geometry::area_mm2(shape.outer));
    if (clean.size() != 1 || std::abs(geometry::area_mm2(clean.front()) - signed_area) > 1e-3 + 1e-6 * signed_area)
        return "has an outline that crosses itself";
    return {};
}

}  // namespace

bool is_plain(const Polygon& sheet) {
    const auto box = geometry::bounding_box(sheet.outer);
    return sheet.holes.empty() && sheet.outer.size() == 4 &&
           std::abs(geometry::area_mm2(sheet) - box.width() * box.height()) < 1e-6;
}

std::string fault_of(const Part& part) {
    if (const auto fault = ring_fault(part.shape); !fault.empty()) return fmt::format("part '{}' {}", part.id, fault);
    if (!part.any_rotation && part.rotations_deg.empty())
        return fmt::format("part '{}' may not be turned to any angle", part.id);
    if (part.rotations_deg.size() > units::limit::nest_rotations.most)
        return fmt::format("part '{}': {}", part.id,
                           units::too_many(units::limit::nest_rotations, part.rotations_deg.size()));
    if (part.quantity < 0) return fmt::format("part '{}' has a negative quantity", part.id);
    return {};
}

std::string fault_of_amount(const Problem& problem) {
    std::size_t copies = 0, corners = 0;
    for (const Part& part : problem.parts) {
        const std::size_t turns = part.any_rotation ? turns_of_any : part.rotations_deg.size();
        std::size_t own = part.shape.outer.size();
        for (const auto& hole : part.shape.holes) own += hole.size();
        copies += static_cast<std::size_t>(std::max(0, part.quantity));
        corners += own * turns;
    }
    if (problem.parts.size() > units::limit::nest_parts.most)
        return units::too_many(units::limit::nest_parts, problem.parts.size());
    if (problem.stock.size() > units::limit::nest_sheets.most)
        return units::too_many(units::limit::nest_sheets, problem.stock.size());
    if (copies > units::limit::nest_copies.most) return units::too_many(units::limit::nest_copies, copies);
    if (corners > units::limit::nest_corners.most) return units::too_many(units::limit::nest_corners, corners);
    return {};
}

std::string fault_of(const Problem& problem) {
    if (problem.stock.empty()) return "there are no sheets";
    if (problem.parts.empty()) return "there are no parts";
    for (double room : {problem.spacing_mm, problem.edge_margin_mm})
        if (!units::range::spacing.holds(room))
            return "spacing or edge margin: " + units::out_of_range(units::range::spacing, room);
    if (auto fault = fault_of_amount(problem); !fault.empty()) return fault;
    for (std::size_t i = 0; i < problem.stock.size(); ++i)
        if (const auto fault = ring_fault(problem.stock[i].shape); !fault.empty())
            return fmt::format("sheet {} {}", i, fault);
    for (const Part& part : problem.parts)
        if (auto fault = fault_of(part); !fault.empty()) return fault;
    return {};
}

Polygon placed(const Problem& problem, const Placement& at) {
    return geometry::transformed(problem.parts[static_cast<std::size_t>(at.part)].shape,
                                 units::radians(at.rotation_deg), at.shift);
}

std::vector<std::string> left_out(const Problem& problem, const Layout& layout) {
    std::set<std::pair<int, int>> known;
    for (const Placement& at : layout.placements) known.emplace(at.part, at.copy);
    for (const Unplaced& u : layout.unplaced) known.emplace(u.part, u.copy);
    std::vector<std::string> out;
    for (int p = 0; p < static_cast<int>(problem.parts.size()); ++p) {
        const Part& part = problem.parts[static_cast<std::size_t>(p)];
        for (int copy = 0; copy < part.quantity; ++copy)
            if (!known.count({p, copy})) {
                out.push_back(part.id);
                break;
            }
    }
    return out;
}

std::vector<std::string> violations(const Problem& problem, const Layout& layout) {
    if (auto wrong = without_meaning(problem, layout); !wrong.empty()) return wrong;
    std::vector<std::string> out;
    const double near = std::max(0.0, problem.spacing_mm - spacing_tolerance_mm);
    std::vector<Laid> laid;
    for (const Placement& at : layout.placements) {
        laid.push_back({&at, placed(problem, at), {}});
        Laid& one = laid.back();
        one.near = geometry::bounding_box(one.shape.outer);
        one.near.min -= Vec2::Constant(near / 2);
        one.near.max += Vec2::Constant(near / 2);
        if (outside(problem, layout, at, one.shape))
            out.push_back(name_of(problem, at) + " reaches over the edge of its sheet");
    }
    // Neighbours only: along x within a sheet.
    std::sort(laid.begin(), laid.end(), [](const Laid& a, const Laid& b) {
        return std::pair(a.at->sheet, a.near.min.x()) < std::pair(b.at->sheet, b.near.min.x());
    });
    for (std::size_t i = 0; i < laid.size(); ++i)
        for (std::size_t k = i + 1; k < laid.size(); ++k) {
            if (laid[k].at->sheet != laid[i].at->sheet || laid[k].near.min.x() >= laid[i].near.max.x()) break;
            if (!laid[i].near.overlaps(laid[k].near)) continue;
            if (auto fault = too_near(problem, laid[i], laid[k]); !fault.empty()) out.push_back(std::move(fault));
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
