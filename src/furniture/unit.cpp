#include "furniture/unit.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "furniture/builder.h"

namespace bevelsmith::furniture {
namespace {

using piece::PieceSpec;

/// How far a toe board reaches up behind the front, so that it can be fastened to it.
constexpr double toe_lap_mm = 25;
/// Narrower openings are left out.
constexpr double least_opening_mm = 60;

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
    std::vector<double> at = u.dividers_mm;
    std::sort(at.begin(), at.end());
    for (std::size_t k = 0; k < at.size(); ++k)
        if (at[k] > b.ends.from_mm + 2 * b.panel_mm && at[k] + 3 * b.panel_mm < b.ends.to_mm)
            out.emplace_back(fmt::format("divider {}", k + 1), at[k]);
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

std::string capital(std::string word) {
    word[0] = static_cast<char>(std::toupper(word[0]));
    return word;
}

void add_cross_panels(Builder& b) {
    const UnitSpec& u = b.unit;
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
    p.at->z() = u.foot_mm + u.toe_high_mm / 2;
    p.edges = {b.hull(true), b.aft(), b.fwd(), b.above(u.foot_mm), b.below(u.foot_mm + u.toe_high_mm + toe_lap_mm)};
}

/// The face of a unit, from the toe space to the top; with an opening to each bay where it is open.
void add_front(Builder& b, bool open) {
    const UnitSpec& u = b.unit;
    const double low = u.foot_mm + (has_toe(u) ? u.toe_high_mm : 0), high = u.foot_mm + u.height_mm - b.top_mm;
    PieceSpec& p = b.along("front", "Front, " + u.name, u.front_mm);
    p.edges = {b.hull(true), b.aft(), b.fwd(), b.above(low), b.stops_at("top", "top")};
    const auto bays = bays_of(b);
    for (std::size_t k = 0; open && k < bays.size(); ++k)
        if (bays[k].to_mm - bays[k].from_mm > 2 * u.rail_mm + least_opening_mm &&
            high - low > 2 * u.rail_mm + least_opening_mm)
            p.openings.push_back(b.along_box(fmt::format("opening {}", k + 1), bays[k].from_mm + u.rail_mm,
                                             bays[k].to_mm - u.rail_mm, low + u.rail_mm, high - u.rail_mm));
}

/// A lift-out over a bay, and its opening in the panel it lies in.
void add_lid(Builder& b, PieceSpec& top, std::size_t k, const Bay& bay, double in, double out, double upper) {
    const UnitSpec& u = b.unit;
    const double from = bay.from_mm + u.rail_mm, to = bay.to_mm - u.rail_mm;
    if (to - from < least_opening_mm) return;
    const std::string part = fmt::format("lid {}", k + 1);
    top.openings.push_back(b.level_box(part, from, to, in, out));
    PieceSpec& p = b.level(part, fmt::format("Lid {}, {}", k + 1, u.name), upper);
    p.kind = "lift-out";
    p.removable = true;
    p.at = b.point((from + to) / 2, (in + out) / 2, upper);
    p.edges = {b.forward_of(from), b.aft_of(to), b.outboard_of(in), b.inboard_of(out)};
    for (auto& edge : p.edges) edge.gap_mm = u.clearance_mm;
    // Its corners are those of the opening, less the clearance.
    piece::EdgeSpec ring;
    ring.kind = piece::EdgeKind::free;
    ring.name = "corners";
    ring.closed = true;
    ring.gap_mm = u.clearance_mm;
    const auto box = b.level_box(part, from, to, in, out);
    const Vec2 low(box.left_mm, box.bottom_mm), size(box.width_mm, box.height_mm);
    for (const Vec2& share : {Vec2(0, 0), Vec2(1, 0), Vec2(1, 1), Vec2(0, 1)})
        ring.line.push_back({low + size.cwiseProduct(share), box.radius_mm, false});
    p.edges.push_back(ring);
}

void add_top(Builder& b) {
    const UnitSpec& u = b.unit;
    const double upper = u.foot_mm + u.height_mm;
    PieceSpec& top = b.level("top", "Top, " + u.name, upper);
    top.kind = u.kind == UnitKind::settee    ? "seat top"
               : u.kind == UnitKind::berth   ? "berth top"
               : u.kind == UnitKind::counter ? "worktop"
                                             : "shelf";
    top.edges = {b.hull(), b.aft(), b.fwd(), b.covers("front", "front", u.overhang_mm)};
    const auto bays = bays_of(b);
    for (std::size_t k = 0; u.lids && k < bays.size(); ++k)
        add_lid(b, top, k, bays[k], u.front_mm + u.rail_mm, u.front_mm + u.rail_mm + u.lid_depth_mm, upper);
}

/// Shelves within, between the panels across.
void add_inner_shelves(Builder& b) {
    const UnitSpec& u = b.unit;
    const auto bays = bays_of(b);
    const double low = u.foot_mm + (has_toe(u) ? u.toe_high_mm : 0), room = u.height_mm - (low - u.foot_mm);
    for (std::size_t k = 0; k < bays.size(); ++k)
        for (int s = 1; s <= u.shelves; ++s) {
            const double upper = low + room * s / (u.shelves + 1);
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

void build_box(Builder& b, bool open_front, bool inner_shelves) {
    add_top(b);
    add_front(b, open_front);
    if (has_toe(b.unit)) add_toe_board(b);
    add_cross_panels(b);
    if (inner_shelves) add_inner_shelves(b);
}

void build_shelves(Builder& b) {
    const UnitSpec& u = b.unit;
    for (int k = 0; k < u.shelves; ++k) {
        const double upper = u.foot_mm + u.height_mm + k * u.shelf_step_mm;
        const std::string part = fmt::format("shelf {}", k + 1);
        PieceSpec& shelf = b.level(part, fmt::format("Shelf {}, {}", k + 1, u.name), upper);
        shelf.at->z() = upper - b.top_mm / 2;
        shelf.edges = {b.hull(), b.aft(), b.fwd(), b.outboard_of(u.front_mm)};
        const bool room = k + 1 == u.shelves || u.shelf_step_mm - b.top_mm > u.fiddle_mm;
        if (u.fiddle_mm <= 0 || !room) continue;
        PieceSpec& fiddle =
            b.along(fmt::format("fiddle {}", k + 1), fmt::format("Fiddle {}, {}", k + 1, u.name), u.front_mm);
        fiddle.kind = "fiddle";
        fiddle.at->z() = upper + u.fiddle_mm / 2;
        fiddle.edges = {b.hull(true), b.aft(), b.fwd(), b.stops_at("bottom", part), b.below(upper + u.fiddle_mm)};
        fiddle.edges[3].gap_mm = 0;
    }
}

/// Whether the sole's raised part stands on it, with room for its panels.
bool is_raised(const Builder& b) {
    const UnitSpec& u = b.unit;
    return u.kind == UnitKind::sole && u.raised_by_mm > b.top_mm + least_raised_side_mm &&
           u.raised_half_mm > 2 * b.panel_mm && u.raised_from_mm >= b.ends.from_mm &&
           u.raised_to_mm <= b.ends.to_mm && u.raised_to_mm - u.raised_from_mm > 4 * b.panel_mm;
}

/// The raised part of a sole: an opening over what stands under it, a panel on each of its sides, on the sole, and a
/// top over them that lifts off.
void add_raised(Builder& b, PieceSpec& sole) {
    const UnitSpec& u = b.unit;
    const double half = u.raised_half_mm, upper = u.foot_mm + u.raised_by_mm, middle_up = (u.foot_mm + upper) / 2;
    const double fwd = (u.raised_from_mm + u.raised_to_mm) / 2, in = u.half ? 0 : -half;
    // Of a half what it is raised over stands across the centre line: there it is open.
    auto& cut = u.half ? sole.notches : sole.openings;
    cut.push_back(b.level_box("raised part", u.raised_from_mm + b.panel_mm, u.raised_to_mm - b.panel_mm,
                              u.half ? -100 : in + b.panel_mm, half - b.panel_mm));
    PieceSpec& top = b.level("raised top", "Raised part, " + u.name, upper);
    top.kind = "raised sole";
    top.removable = true;
    top.at = b.point(fwd, (in + half) / 2, upper);
    top.edges = {b.forward_of(u.raised_from_mm), b.aft_of(u.raised_to_mm), b.outboard_of(in), b.inboard_of(half)};
    for (const auto& [part, at] :
         {std::pair("raised aft", u.raised_from_mm), std::pair("raised fwd", u.raised_to_mm - b.panel_mm)}) {
        PieceSpec& p = b.across(part, fmt::format("{}, {}", capital(part), u.name), at);
        p.kind = "riser";
        p.grain_deg = 0;
        p.at = b.point(at + b.panel_mm / 2, (in + half) / 2, middle_up);
        p.edges = {b.outboard_of(in), b.inboard_of(half), b.above(u.foot_mm), b.stops_at("top", "raised top")};
    }
    for (const auto& [part, at] : {std::pair("raised near", half - b.panel_mm), std::pair("raised far", in)}) {
        if (u.half && at == in) continue;
        PieceSpec& p = b.along(part, fmt::format("{}, {}", capital(part), u.name), at);
        p.kind = "riser";
        p.at = b.point(fwd, at + b.panel_mm / 2, middle_up);
        p.edges = {b.stops_at("aft end", "raised aft"), b.stops_at("fwd end", "raised fwd"), b.above(u.foot_mm),
                   b.stops_at("top", "raised top")};
    }
}

/// A beam under the sole: from side to side; on one side only where it begins `from_out` from the centre line (a
/// raised part's opening, with what stands in it), and of a half sole.
void add_beam(Builder& b, const std::string& part, std::size_t k, double at, double from_out, bool far) {
    const UnitSpec& u = b.unit;
    PieceSpec& beam = b.across(
        part, fmt::format("Beam {}{}, {}", k + 1, from_out > 0 ? (far ? ", far side" : ", near side") : "", u.name),
        at);
    beam.kind = "sole beam";
    beam.structural = true;
    beam.grain_deg = 0;
    const bool one_side = u.half || from_out > 0;
    const double way = far ? -1 : 1;
    beam.at = b.point(at + b.panel_mm / 2, one_side ? way * (from_out + 100) : 0, u.foot_mm - b.top_mm - 20);
    beam.edges = {b.hull(), b.stops_at("top", "sole")};
    beam.edges[1].gap_mm = 0;
    if (u.beam_depth_mm > 0) beam.edges.push_back(b.above(u.foot_mm - b.top_mm - u.beam_depth_mm));
    if (one_side) beam.edges.push_back(far ? b.inboard_of(-from_out) : b.outboard_of(from_out));
    // Water runs under one that does not go down to the hull.
    if (u.beam_depth_mm <= 0) beam.limbers.push_back({});
}

/// The sole with the beams that carry it; lids between the beams, about the centre line.
void build_sole(Builder& b) {
    const UnitSpec& u = b.unit;
    PieceSpec& sole = b.level("sole", "Sole, " + u.name, u.foot_mm);
    sole.kind = "sole panel";
    sole.at = b.point(b.middle(), 0, u.foot_mm);
    sole.edges = {b.hull(), b.aft(), b.fwd()};
    if (u.half) {
        sole.edges.push_back(b.outboard_of(0));
        sole.at = b.point(b.middle(), 100, u.foot_mm);
    }
    const bool raised = is_raised(b);
    if (raised) add_raised(b, sole);
    std::vector<double> beams = u.dividers_mm;
    std::sort(beams.begin(), beams.end());
    std::vector<double> bounds{b.ends.from_mm};
    for (std::size_t k = 0; k < beams.size(); ++k) {
        if (beams[k] < b.ends.from_mm || beams[k] + b.panel_mm > b.ends.to_mm) continue;
        const bool under = raised && beams[k] + b.panel_mm > u.raised_from_mm && beams[k] < u.raised_to_mm;
        add_beam(b, fmt::format("beam {}", k + 1), k, beams[k], under ? u.raised_half_mm : 0, false);
        if (under && !u.half) add_beam(b, fmt::format("beam {} far", k + 1), k, beams[k], u.raised_half_mm, true);
        bounds.push_back(beams[k] + b.panel_mm / 2);
    }
    bounds.push_back(b.ends.to_mm);
    for (std::size_t k = 0; u.lids && k + 1 < bounds.size(); ++k) {
        // Where the raised part lifts off there is no other lift-out.
        if (raised && bounds[k + 1] > u.raised_from_mm - u.rail_mm && bounds[k] < u.raised_to_mm + u.rail_mm)
            continue;
        add_lid(b, sole, k, {bounds[k], bounds[k + 1], {}, {}}, u.half ? u.rail_mm : -u.lid_depth_mm / 2,
                u.half ? u.rail_mm + u.lid_depth_mm : u.lid_depth_mm / 2, u.foot_mm);
    }
}

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

/// A top from side to side, with an infill in its after end that lifts out; under it a face around the infill and
/// panels across.
void build_v_berth(Builder& b) {
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
    std::vector<double> at = u.dividers_mm;
    std::sort(at.begin(), at.end());
    for (std::size_t k = 0; k < at.size(); ++k) {
        if (at[k] < (infill ? head : b.ends.from_mm) + 2 * b.panel_mm || at[k] + 3 * b.panel_mm > b.ends.to_mm)
            continue;
        PieceSpec& p =
            b.across(fmt::format("divider {}", k + 1), fmt::format("Divider {}, {}", k + 1, u.name), at[k]);
        p.grain_deg = 0;
        p.at = b.point(at[k] + b.panel_mm / 2, u.half ? 100 : 0, upper - b.top_mm - 20);
        p.edges = {b.hull(), b.stops_at("top", "top")};
        keep_to_own_side(b, p);
        p.limbers.push_back({});
    }
}

/// Stands about the centre line: its ends cover its sides, its top covers all.
void build_engine_box(Builder& b) {
    const UnitSpec& u = b.unit;
    const double half = u.front_mm;
    PieceSpec& top = b.level("top", "Top, " + u.name, u.foot_mm + u.height_mm);
    top.at = b.point(b.middle(), 0, u.foot_mm + u.height_mm);
    top.removable = true;
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

}  // namespace

UnitSpec::UnitSpec() = default;
UnitSpec::UnitSpec(const UnitSpec&) = default;
UnitSpec::UnitSpec(UnitSpec&&) noexcept = default;
UnitSpec& UnitSpec::operator=(const UnitSpec&) = default;
UnitSpec& UnitSpec::operator=(UnitSpec&&) noexcept = default;
UnitSpec::~UnitSpec() = default;
bool UnitSpec::operator==(const UnitSpec&) const = default;

const UnitWords& unit_words(UnitKind kind) {
    static constexpr UnitWords all[] = {
        {"settee", "A seat along the hull: front with toe space, top, dividers, lids to what is under it.",
         "seat 400 mm to 450 mm high, 450 mm to 500 mm deep"},
        {"berth", "A bunk along the hull: front, top with lids, dividers.", "1900 mm to 2000 mm long"},
        {"counter", "A worktop with open lockers and shelves under it.", "850 mm to 920 mm high"},
        {"locker", "A hanging locker: front with a doorway, ends, top.", "1000 mm high or more, to hang a coat"},
        {"shelves", "Shelves one over another along the hull, each with a fiddle.", "fiddle 40 mm high"},
        {"sole", "The sole from side to side, its beams scribed to the hull, lift-outs between them.",
         "clearance 2 mm to 3 mm a side"},
        {"engine box", "Ends, sides and a lift-off top about the centre line.", "room for hands all round"},
        {"V-berth", "A berth in the bow from side to side, with an infill that lifts out, dividers under it.",
         "1900 mm to 2000 mm long"},
    };
    return all[static_cast<int>(kind)];
}

UnitSpec usual_unit(UnitKind kind) {
    UnitSpec out;
    out.kind = kind;
    out.name = capital(unit_words(kind).name);
    switch (kind) {
        case UnitKind::settee: out.lids = true, out.height_mm = 430; break;
        case UnitKind::berth: out.lids = true, out.height_mm = 500, out.lid_depth_mm = 350; break;
        case UnitKind::counter: out.height_mm = 900, out.overhang_mm = 20; break;
        case UnitKind::locker: out.height_mm = 1050, out.toe_high_mm = out.toe_deep_mm = 0, out.shelves = 0; break;
        case UnitKind::shelves: out.height_mm = 700, out.shelves = 2; break;
        case UnitKind::sole: out.lids = true, out.height_mm = 0, out.lid_depth_mm = 500; break;
        case UnitKind::engine_box: out.front_mm = 380, out.height_mm = 650; break;
        case UnitKind::v_berth: out.height_mm = 550, out.front_mm = 300; break;
    }
    return out;
}

std::vector<PieceSpec> pieces_of(const UnitSpec& unit, const Thickness& thickness, const piece::PieceLookup& pieces) {
    Builder b(unit, thickness, pieces);
    switch (unit.kind) {
        case UnitKind::settee:
        case UnitKind::berth: build_box(b, false, false); break;
        case UnitKind::counter: build_box(b, true, true); break;
        case UnitKind::locker: build_box(b, true, true); break;
        case UnitKind::shelves: build_shelves(b); break;
        case UnitKind::sole: build_sole(b); break;
        case UnitKind::engine_box: build_engine_box(b); break;
        case UnitKind::v_berth: build_v_berth(b); break;
    }
    return {b.panels.begin(), b.panels.end()};
}

}  // namespace bevelsmith::furniture
