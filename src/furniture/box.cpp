// Settees, berths, counters, lockers: a front and a top along the hull, panels across.
#include <fmt/format.h>

#include "furniture/builders.h"
#include "furniture/kinds.h"

namespace bevelsmith::furniture {
namespace {

using piece::PieceSpec;

/// How far a toe board reaches up behind the front, so that it can be fastened to it.
constexpr double toe_lap_mm = 25;

/// A bay of a unit: what bounds it at each end, and where.
struct Bay {
    double from_mm = 0, to_mm = 0;
    std::string after, forward;  ///< the parts at its ends; empty where the unit ends at something else
};

bool has_toe(const UnitSpec& u) {
    return u.toe_high_mm > 0 && u.toe_deep_mm > 0;
}

/// Panels across at the ends that nothing closes, then the dividers, from aft.
std::vector<std::pair<std::string, double>> cross_panels(const Builder& b) {
    const UnitSpec& u = b.unit;
    std::vector<std::pair<std::string, double>> out;
    if (u.from_piece_id.empty()) out.emplace_back("aft end", b.ends.from_mm);
    int k = 0;
    for (const auto& [at, index] : b.dividers())
        if (++k; at > b.ends.from_mm + 2 * b.panel_mm && at + 3 * b.panel_mm < b.ends.to_mm)
            out.emplace_back(fmt::format("divider {}", k), at);
    if (u.to_piece_id.empty()) out.emplace_back("fwd end", b.ends.to_mm - b.panel_mm);
    return out;
}

std::vector<Bay> bays_of(const Builder& b) {
    std::vector<Bay> out;
    Bay now{b.ends.from_mm, 0, {}, {}};
    for (const auto& [part, at] : cross_panels(b)) {
        if (part != "aft end") {
            now.to_mm = at, now.forward = part;
            out.push_back(now);
        }
        now = {at + b.panel_mm, 0, part, {}};
    }
    if (!b.unit.to_piece_id.empty()) {
        now.to_mm = b.ends.to_mm;
        out.push_back(now);
    }
    return out;
}

void add_cross_panels(Builder& b) {
    const UnitSpec& u = b.unit;
    b.dragged_ends("aft end", "fwd end");
    int number = 0;
    for (const auto& one : b.dividers())
        b.dragged_across(fmt::format("divider {}", ++number), one.second, "where the divider stands, fwd");
    for (const auto& [part, at] : cross_panels(b)) {
        PieceSpec& p = b.across(part, fmt::format("{}, {}", capital(part), u.name), at);
        p.edges = {b.hull(), b.stops_at("top", "top"), b.stops_at("front", "front"), b.above(u.foot_mm)};
        if (has_toe(u))
            p.notches.push_back(b.across_box("toe space", u.front_mm - 50,
                                             u.front_mm + u.toe_deep_mm + b.panel_mm + u.joint_gap_mm, u.foot_mm - 50,
                                             u.foot_mm + u.toe_high_mm + toe_lap_mm + u.joint_gap_mm));
    }
}

void add_toe_board(Builder& b) {
    const UnitSpec& u = b.unit;
    PieceSpec& p = b.along("toe board", "Toe board, " + u.name, u.front_mm + u.toe_deep_mm);
    p.kind = "toe board";
    b.dragged_out("toe board");
    p.at->z() = u.foot_mm + u.toe_high_mm / 2;
    p.edges = {b.hull(true), b.aft(), b.fwd(), b.above(u.foot_mm), b.below(u.foot_mm + u.toe_high_mm + toe_lap_mm)};
}

/// The face of a unit, from the toe space to the top; with an opening to each bay where it is open.
void add_front(Builder& b, bool open) {
    const UnitSpec& u = b.unit;
    const double low = u.foot_mm + (has_toe(u) ? u.toe_high_mm : 0), high = u.foot_mm + u.height_mm - b.top_mm;
    PieceSpec& p = b.along("front", "Front, " + u.name, u.front_mm);
    b.dragged_out("front");
    p.edges = {b.hull(true), b.aft(), b.fwd(), b.above(low), b.stops_at("top", "top")};
    const auto bays = bays_of(b);
    for (std::size_t k = 0; open && k < bays.size(); ++k)
        if (bays[k].to_mm - bays[k].from_mm > 2 * u.rail_mm + least_opening_mm &&
            high - low > 2 * u.rail_mm + least_opening_mm)
            p.openings.push_back(b.along_box(fmt::format("opening {}", k + 1), bays[k].from_mm + u.rail_mm,
                                             bays[k].to_mm - u.rail_mm, low + u.rail_mm, high - u.rail_mm));
}

void add_top(Builder& b) {
    const UnitSpec& u = b.unit;
    const double upper = u.foot_mm + u.height_mm;
    PieceSpec& top = b.level("top", "Top, " + u.name, upper);
    top.kind = kind_of(u).level_is;
    b.dragged_up("top");
    top.edges = {b.hull(), b.aft(), b.fwd(), b.covers("front", "front", u.overhang_mm)};
    const auto bays = bays_of(b);
    for (std::size_t k = 0; u.lids && k < bays.size(); ++k)
        add_lid(b, top, k, bays[k].from_mm, bays[k].to_mm, u.front_mm + u.rail_mm,
                u.front_mm + u.rail_mm + u.lid_depth_mm, upper);
}

/// Shelves within, between the panels across.
void add_inner_shelves(Builder& b) {
    const UnitSpec& u = b.unit;
    const auto bays = bays_of(b);
    const double low = u.foot_mm + (has_toe(u) ? u.toe_high_mm : 0), room = u.height_mm - (low - u.foot_mm);
    for (std::size_t k = 0; k < bays.size(); ++k)
        for (int s = 1; s <= u.shelves; ++s) {
            const double upper = low + room * s / (u.shelves + 1);
            b.dragged_up(fmt::format("shelf {}-{}", k + 1, s));
            PieceSpec& p = b.level(fmt::format("shelf {}-{}", k + 1, s),
                                   fmt::format("Shelf {}-{}, {}", k + 1, s, u.name), upper);
            p.material_id = u.material_id;
            p.at = b.point((bays[k].from_mm + bays[k].to_mm) / 2, u.front_mm + 100, upper);
            p.edges = {b.hull(), bays[k].after.empty() ? b.aft() : b.stops_at("aft end", bays[k].after),
                       bays[k].forward.empty() ? b.fwd() : b.stops_at("fwd end", bays[k].forward),
                       // Behind an open front it is seen in the opening: it ends there all along.
                       b.outboard_of(u.front_mm + b.panel_mm + u.joint_gap_mm)};
        }
}

void add_shell(Builder& b, bool open_front) {
    add_top(b);
    add_front(b, open_front);
    if (has_toe(b.unit)) add_toe_board(b);
    add_cross_panels(b);
}

}  // namespace

void build_box(Builder& b) {
    add_shell(b, false);
}

void build_open_box(Builder& b) {
    add_shell(b, true);
    add_inner_shelves(b);
}

}  // namespace bevelsmith::furniture
