// The sole, its beams, its raised part.
#include <fmt/format.h>

#include <algorithm>

#include "furniture/builders.h"

namespace bevelsmith::furniture {
namespace {

using piece::PieceSpec;

/// Cheeks of a saddle reach so far up the beam; a beam in saddles keeps so far from the hull that it lifts out.
constexpr double cheek_mm = 60, lifts_by_mm = 8;

/// Whether the sole's raised part stands on it, with room for its panels.
bool is_raised(const Builder& b) {
    const UnitSpec& u = b.unit;
    return u.raised_by_mm > b.top_mm + least_raised_side_mm && u.raised_half_mm > 2 * b.panel_mm &&
           u.raised_from_mm >= b.ends.from_mm && u.raised_to_mm <= b.ends.to_mm &&
           u.raised_to_mm - u.raised_from_mm > 4 * b.panel_mm;
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
    b.dragged("raised top", {&UnitSpec::raised_by_mm, 0, Vec3::UnitZ(), u.foot_mm, "the raised part, over the sole"});
    b.dragged("raised aft", {&UnitSpec::raised_from_mm, 0, Vec3::UnitX(), 0, "the raised part's after end, fwd"});
    b.dragged("raised fwd", {&UnitSpec::raised_to_mm, 0, Vec3::UnitX(), 0, "the raised part's forward end, fwd"});
    b.dragged("raised near", {&UnitSpec::raised_half_mm, 0, b.point(0, 1, 0), 0, "the raised part's half width"});
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

bool has_saddles(const UnitSpec& u) {
    return u.saddles && u.beam_depth_mm > 0;
}

/// How far out the string runs to which the saddles reach, at a beam.
double string_mm(const Builder& b, double at) {
    const double share = (at + b.panel_mm / 2 - b.ends.from_mm) / std::max(1.0, b.ends.to_mm - b.ends.from_mm);
    return b.unit.saddle_aft_mm + share * (b.unit.saddle_fwd_mm - b.unit.saddle_aft_mm);
}

/// Under one end of a beam: a seat of the beam's own thickness, and a cheek on either side that holds the beam
/// upright. All three stand on the hull and end at the string.
void add_saddle(Builder& b, int number, double at, bool far) {
    const UnitSpec& u = b.unit;
    const double under = u.foot_mm - b.top_mm - u.beam_depth_mm, aside = u.saddle_clearance_mm / 2;
    const double high = under + std::min(cheek_mm, 0.7 * u.beam_depth_mm), out = string_mm(b, at);
    const char* side = far ? " far" : "";
    const auto add = [&](const char* what, const char* which, double aft, double top) {
        PieceSpec& p = b.across(fmt::format("{} {}{}{}", what, number, which, side),
                                fmt::format("{} {}{}{}, {}", capital(what), number, which, side, u.name), aft);
        p.kind = "saddle";
        p.grain_deg = 0;
        p.at = b.point(aft + b.panel_mm / 2, (far ? -1 : 1) * (out + 30), top - 5);
        p.edges = {b.hull(), b.below(top), far ? b.inboard_of(-out) : b.outboard_of(out)};
        p.edges.back().name = "string";
    };
    add("seat", "", at, under);
    add("cheek", " aft", at - aside - b.panel_mm, high);
    add("cheek", " fwd", at + b.panel_mm + aside, high);
}

/// A beam under the sole: from side to side; on one side only where it begins `from_out` from the centre line (a
/// raised part's opening, with what stands in it), and of a half sole.
void add_beam(Builder& b, const std::string& part, int number, double at, double from_out, bool far) {
    const UnitSpec& u = b.unit;
    PieceSpec& beam = b.across(
        part, fmt::format("Beam {}{}, {}", number, from_out > 0 ? (far ? ", far side" : ", near side") : "", u.name),
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
    if (!has_saddles(u)) return;
    beam.removable = true;
    beam.edges[0].gap_mm = std::max(u.hull_gap_mm, lifts_by_mm);
    if (!far) add_saddle(b, number, at, false);
    if (far || !one_side) add_saddle(b, number, at, true);
}

}  // namespace

/// The sole with the beams that carry it; lids between the beams, about the centre line.
void build_sole(Builder& b) {
    const UnitSpec& u = b.unit;
    PieceSpec& sole = b.level("sole", "Sole, " + u.name, u.foot_mm);
    sole.kind = "sole panel";
    b.dragged("sole", {&UnitSpec::foot_mm, 0, Vec3::UnitZ(), 0, "the sole's height"});
    sole.at = b.point(b.middle(), 0, u.foot_mm);
    sole.edges = {b.hull(), b.aft(), b.fwd()};
    if (u.half) {
        sole.edges.push_back(b.outboard_of(0));
        sole.at = b.point(b.middle(), 100, u.foot_mm);
    }
    const bool raised = is_raised(b);
    if (raised) add_raised(b, sole);
    std::vector<double> bounds{b.ends.from_mm};
    int number = 0;
    for (const auto& [at, index] : b.dividers()) {
        const std::string part = fmt::format("beam {}", ++number);
        if (at < b.ends.from_mm || at + b.panel_mm > b.ends.to_mm) continue;
        for (const char* half : {"", " far"}) b.dragged_across(part + half, index, "where the beam stands, fwd");
        const bool under = raised && at + b.panel_mm > u.raised_from_mm && at < u.raised_to_mm;
        add_beam(b, part, number, at, under ? u.raised_half_mm : 0, false);
        if (under && !u.half) add_beam(b, part + " far", number, at, u.raised_half_mm, true);
        bounds.push_back(at + b.panel_mm / 2);
    }
    bounds.push_back(b.ends.to_mm);
    for (std::size_t k = 0; u.lids && k + 1 < bounds.size(); ++k) {
        // Where the raised part lifts off there is no other lift-out.
        if (raised && bounds[k + 1] > u.raised_from_mm - u.rail_mm && bounds[k] < u.raised_to_mm + u.rail_mm)
            continue;
        add_lid(b, sole, k, bounds[k], bounds[k + 1], u.half ? u.rail_mm : -u.lid_depth_mm / 2,
                u.half ? u.rail_mm + u.lid_depth_mm : u.lid_depth_mm / 2, u.foot_mm);
    }
}

}  // namespace bevelsmith::furniture
