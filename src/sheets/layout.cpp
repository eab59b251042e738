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
    const Part& part = p.parts[static_cast<std::size_t>(at.part)];
    return part.quantity > 1 ? fmt::format("{} (number {} of {})", part.id, at.copy + 1, part.quantity) : part.id;
}

/// What of each stock may be cut, a hair more than that: shrunk by the margin; several pieces where an offcut is
/// narrow.
std::vector<std::vector<Polygon>> usable_stock(const Problem& problem) {
    const double margin = problem.edge_margin_mm - std::min(problem.edge_margin_mm, spacing_tolerance_mm);
    std::vector<std::vector<Polygon>> out;
    for (const Stock& stock : problem.stock)
        out.push_back(margin <= 0 ? std::vector{geometry::oriented(stock.shape)}
                                  : geometry::offset(stock.shape, -margin, geometry::Corner::mitre));
    return out;
}

bool outside(const Polygon& shape, const std::vector<Polygon>& usable) {
    // Where all of its box lies within nothing has to be computed.
    const auto box = geometry::bounding_box(shape.outer);
    if (std::any_of(usable.begin(), usable.end(), [&](const Polygon& u) { return geometry::holds_box(u, box); }))
        return false;
    return geometry::total_area_mm2(geometry::subtract({shape}, usable)) > overlap_tolerance_mm2;
}

/// A placed part. Grown by half the spacing only where a neighbour is near: that takes long for many corners.
struct Laid {
    const Placement* at = nullptr;
    Polygon shape;
    geometry::Box near;  ///< with half the spacing
    double grow = 0;
    mutable std::vector<Polygon> grown_once = {};
    const std::vector<Polygon>& grown() const {
        if (grown_once.empty())
            grown_once = grow > 0 ? geometry::offset(shape, grow, geometry::Corner::round) : std::vector{shape};
        return grown_once;
    }
};

Laid laid_out(const Problem& problem, const Placement& at) {
    const double grow = std::max(0.0, problem.spacing_mm - spacing_tolerance_mm) / 2;
    Laid out{&at, placed(problem, at), {}, grow};
    out.near = geometry::bounding_box(out.shape.outer);
    out.near.min -= Vec2::Constant(grow);
    out.near.max += Vec2::Constant(grow);
    return out;
}

/// Why two neighbours do not lie right; empty when they do.
std::string too_near(const Problem& problem, const Laid& a, const Laid& b) {
    if (geometry::total_area_mm2(geometry::intersect(a.grown(), b.grown())) <= overlap_tolerance_mm2) return {};
    const auto names = name_of(problem, *a.at) + " and " + name_of(problem, *b.at);
    if (geometry::total_area_mm2(geometry::intersect({a.shape}, {b.shape})) > overlap_tolerance_mm2)
        return names + " overlap";
    return names + " are nearer than the spacing";
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

bool may_be_turned(const Part& part, const Placement& at) {
    if (at.turned_over && !part.either_face) return false;
    if (part.any_rotation) return true;
    constexpr double hair_deg = 1e-6;
    return std::any_of(part.rotations_deg.begin(), part.rotations_deg.end(), [&](double r) {
        return std::abs(std::remainder(at.rotation_deg - r, 360)) <= part.tolerance_deg + hair_deg;
    });
}

/// What was moved that must stay, and what lies as it may not.
std::vector<std::string> against_orders(const Problem& problem, const Layout& layout) {
    std::vector<std::string> out;
    const auto& locked = problem.locked;
    const auto begins = [](const std::vector<int>& all, const std::vector<int>& first) {
        return all.size() >= first.size() && std::equal(first.begin(), first.end(), all.begin());
    };
    if (!begins(layout.sheet_stock, locked.sheet_stock)) return {"a locked sheet is not there"};
    const auto stays = [&](const Placement& at) {
        return std::find(locked.placements.begin(), locked.placements.end(), at) != locked.placements.end();
    };
    for (const Placement& at : locked.placements)
        if (std::find(layout.placements.begin(), layout.placements.end(), at) == layout.placements.end())
            out.push_back(name_of(problem, at) + " is locked and does not lie where it must");
    for (const Placement& at : layout.placements)
        if (!may_be_turned(problem.parts[static_cast<std::size_t>(at.part)], at) && !stays(at))
            out.push_back(name_of(problem, at) + " lies at an angle or on a face that it may not have");
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
    if (!units::range::grain_tolerance.holds(part.tolerance_deg))
        return fmt::format("part '{}': its tolerance: {}", part.id,
                           units::out_of_range(units::range::grain_tolerance, part.tolerance_deg));
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
    // What is locked has to lie right by itself; what it has no part or sheet for is said in the same words.
    const Layout locked{problem.locked.sheet_stock, problem.locked.placements, {}, 0, 0};
    if (const auto wrong = violations(problem, locked); !wrong.empty()) return "locked: " + wrong.front();
    return {};
}

Polygon placed(const Problem& problem, const Placement& at) {
    const Polygon& shape = problem.parts[static_cast<std::size_t>(at.part)].shape;
    return geometry::transformed(at.turned_over ? geometry::mirrored(shape) : shape, units::radians(at.rotation_deg),
                                 at.shift);
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
    std::vector<std::string> out = against_orders(problem, layout);
    const auto usable = usable_stock(problem);
    std::vector<Laid> laid;
    for (const Placement& at : layout.placements) {
        laid.push_back(laid_out(problem, at));
        const int stock = layout.sheet_stock[static_cast<std::size_t>(at.sheet)];
        if (outside(laid.back().shape, usable[static_cast<std::size_t>(stock)]))
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
