// A berth in the bow.
#include <fmt/format.h>

#include <algorithm>

#include "furniture/builders.h"

namespace bevelsmith::furniture {
namespace {

using piece::PieceSpec;

/// Of a half only its own side of the centre line.
void keep_to_own_side(const Builder& b, PieceSpec& p) {
    if (b.unit.half) p.edges.push_back(b.outboard_of(0));
}

/// The infill that lifts out of the top's after end, and the face around it up to `head`.
void add_infill(Builder& b, PieceSpec& top, double head, double upper) {
    const UnitSpec& u = b.unit;
    const double middle = (b.ends.from_mm + head) / 2, half_up = u.foot_mm + u.height_mm / 2;
    top.notches.push_back(b.level_box("infill", b.ends.from_mm - 50, head, u.half ? -50 : -u.front_mm, u.front_mm));
    top.notches.back().radius_mm = 0;
    PieceSpec& fill = b.level("infill", "Infill, " + u.name, upper);
    fill.kind = "berth top";
    fill.removable = true;
    fill.at = b.point(middle, u.half ? 100 : 0, upper);
    fill.edges = {b.aft(), b.aft_of(head), b.inboard_of(u.front_mm), b.outboard_of(u.half ? 0 : -u.front_mm)};
    for (auto& edge : fill.edges) edge.gap_mm = u.clearance_mm;
    for (const bool far : {false, true}) {
        if (far && u.half) continue;
        PieceSpec& leg =
            b.along(far ? "far face" : "near face", fmt::format("{} face, {}", far ? "Far" : "Near", u.name),
                    far ? -u.front_mm - b.panel_mm : u.front_mm);
        leg.at = b.point(middle, (far ? -1 : 1) * (u.front_mm + b.panel_mm / 2), half_up);
        leg.edges = {b.hull(true), b.aft(), b.stops_at("fwd end", "head"), b.above(u.foot_mm),
                     b.stops_at("top", "top")};
        // Where no bulkhead closes it, a panel does beside the infill.
        if (!u.from_piece_id.empty()) continue;
        PieceSpec& end = b.across(far ? "far end" : "near end",
                                  fmt::format("{} end, {}", far ? "Far" : "Near", u.name), b.ends.from_mm);
        end.at = b.point(b.ends.from_mm + b.panel_mm / 2, (far ? -1 : 1) * (u.front_mm + b.panel_mm + 50), half_up);
        end.edges = {b.hull(), b.stops_at("inboard", far ? "far face" : "near face"), b.above(u.foot_mm),
                     b.stops_at("top", "top")};
    }
    PieceSpec& face = b.across("head", "Head of the infill, " + u.name, head);
    face.kind = "face";
    face.grain_deg = 0;
    face.at = b.point(head + b.panel_mm / 2, u.half ? 100 : 0, half_up);
    face.edges = {b.hull(), b.stops_at("top", "top"), b.above(u.foot_mm)};
    face.limbers.push_back({});
    keep_to_own_side(b, face);
}

}  // namespace

/// A top from side to side, with an infill in its after end that lifts out; under it a face around the infill and
/// panels across.
void build_bow_berth(Builder& b) {
    const UnitSpec& u = b.unit;
    const double upper = u.foot_mm + u.height_mm, head = b.ends.from_mm + u.infill_mm;
    const bool infill = u.infill_mm > least_opening_mm && head + 3 * b.panel_mm < b.ends.to_mm;
    PieceSpec& top = b.level("top", "Top, " + u.name, upper);
    top.kind = "berth top";
    top.at = b.point((head + b.ends.to_mm) / 2, u.half ? 100 : 0, upper);
    top.edges = {b.hull(), b.aft(), b.fwd()};
    keep_to_own_side(b, top);
    // Two halves go into a boat, and fit a sheet, where one does not.
    if (!u.half) top.joints.push_back({piece::JointKind::scarf, true, 0, 8});
    if (infill) add_infill(b, top, head, upper);
    b.dragged_up("top");
    int number = 0;
    for (const auto& [at, index] : b.dividers()) {
        const std::string part = fmt::format("divider {}", ++number);
        if (at < (infill ? head : b.ends.from_mm) + 2 * b.panel_mm || at + 3 * b.panel_mm > b.ends.to_mm) continue;
        b.dragged_across(part, index, "where the divider stands, fwd");
        PieceSpec& p = b.across(part, fmt::format("Divider {}, {}", number, u.name), at);
        p.grain_deg = 0;
        p.at = b.point(at + b.panel_mm / 2, u.half ? 100 : 0, upper - b.top_mm - 20);
        p.edges = {b.hull(), b.stops_at("top", "top")};
        keep_to_own_side(b, p);
        p.limbers.push_back({});
    }
}

}  // namespace bevelsmith::furniture
