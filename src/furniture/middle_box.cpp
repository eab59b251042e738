// A box about the centre line.
#include <fmt/format.h>

#include "furniture/builders.h"

namespace bevelsmith::furniture {
using piece::PieceSpec;

/// Stands about the centre line: its ends cover its sides, its top covers all.
void build_middle_box(Builder& b) {
    const UnitSpec& u = b.unit;
    const double half = u.front_mm;
    PieceSpec& top = b.level("top", "Top, " + u.name, u.foot_mm + u.height_mm);
    top.at = b.point(b.middle(), 0, u.foot_mm + u.height_mm);
    top.removable = true;
    b.dragged_up("top");
    b.dragged_ends("aft end", "fwd end");
    b.dragged_out("near side");
    b.dragged("far side", {&UnitSpec::front_mm, 0, b.point(0, -1, 0), 0, "the side, from the centre line"});
    top.edges = {b.aft(), b.fwd(), b.inboard_of(half + u.overhang_mm), b.outboard_of(-half - u.overhang_mm)};
    for (const auto& [part, at] :
         {std::pair("aft end", b.ends.from_mm), std::pair("fwd end", b.ends.to_mm - b.panel_mm)}) {
        PieceSpec& p = b.across(part, fmt::format("{}, {}", capital(part), u.name), at);
        p.kind = "engine-box side";
        p.at = b.point(at + b.panel_mm / 2, 0, u.foot_mm + u.height_mm / 2);
        p.edges = {b.hull(true), b.inboard_of(half), b.outboard_of(-half), b.above(u.foot_mm),
                   b.stops_at("top", "top")};
    }
    for (const auto& [part, at] : {std::pair("near side", half - b.panel_mm), std::pair("far side", -half)}) {
        PieceSpec& p = b.along(part, fmt::format("{}, {}", capital(part), u.name), at);
        p.kind = "engine-box side";
        p.at = b.point(b.middle(), at + b.panel_mm / 2, u.foot_mm + u.height_mm / 2);
        p.edges = {b.hull(true), b.stops_at("aft end", "aft end"), b.stops_at("fwd end", "fwd end"),
                   b.above(u.foot_mm), b.stops_at("top", "top")};
    }
}

}  // namespace bevelsmith::furniture
