// A table: a top with rounded corners, a leg at each end, a rail between them that keeps both upright.
#include <algorithm>

#include "furniture/builders.h"

namespace bevelsmith::furniture {
namespace {

/// Of the top's corners; one sits and passes close by them.
constexpr double corner_mm = 60;
/// A leg is so much of the top's width, and stands in so far from its end that knees pass it (common practice).
constexpr double leg_share = 0.5, leg_in_mm = 120;

}  // namespace

void build_table(Builder& b) {
    const UnitSpec& u = b.unit;
    const double upper = u.foot_mm + u.height_mm, middle = u.front_mm, half = u.width_mm / 2;
    const double from = b.ends.from_mm, to = b.ends.to_mm;
    piece::PieceSpec& top = b.level("top", "Top, " + u.name, upper);
    top.kind = "table top";
    top.at = b.point(b.middle(), middle, upper);
    top.edges = {b.aft(), b.fwd(), b.outboard_of(middle - half), b.inboard_of(middle + half)};
    piece::EdgeSpec ring;
    ring.kind = piece::EdgeKind::free, ring.name = "corners", ring.closed = true;
    const auto box = b.level_box("top", from, to, middle - half, middle + half);
    const Vec2 low(box.left_mm, box.bottom_mm), size(box.width_mm, box.height_mm);
    for (const Vec2& share : {Vec2(0, 0), Vec2(1, 0), Vec2(1, 1), Vec2(0, 1)})
        ring.line.push_back({low + size.cwiseProduct(share), std::min(corner_mm, half / 2), false});
    top.edges.push_back(ring);
    const double in = std::min(leg_in_mm, (to - from) / 6), leg_half = half * leg_share;
    for (const auto& [part, name, at] :
         {std::tuple("aft leg", "Aft leg, ", from + in), std::tuple("fwd leg", "Fwd leg, ", to - in - b.panel_mm)}) {
        piece::PieceSpec& leg = b.across(part, name + u.name, at);
        leg.kind = "table leg";
        leg.at = b.point(at + b.panel_mm / 2, middle, u.foot_mm + u.height_mm / 2);
        leg.edges = {b.outboard_of(middle - leg_half), b.inboard_of(middle + leg_half), b.above(u.foot_mm),
                     b.stops_at("top", "top")};
    }
    piece::PieceSpec& rail = b.along("rail", "Rail, " + u.name, middle - b.panel_mm / 2);
    rail.kind = "table rail";
    rail.at = b.point(b.middle(), middle, upper - b.top_mm - u.rail_mm / 2);
    rail.edges = {b.stops_at("aft end", "aft leg"), b.stops_at("fwd end", "fwd leg"),
                  b.above(upper - b.top_mm - u.rail_mm), b.stops_at("top", "top")};
    b.dragged("top", {&UnitSpec::height_mm, 0, Vec3::UnitZ(), u.foot_mm, "its height over the sole"});
}

}  // namespace bevelsmith::furniture
