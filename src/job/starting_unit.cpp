#include "job/starting_unit.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "furniture/kinds.h"
#include "hull/section.h"
#include "job/in_full.h"
#include "job/joints_wanted.h"
#include "job/starting_piece.h"
#include "job/trial_build.h"
#include "piece/clash.h"

namespace bevelsmith::job {
namespace {

using furniture::Across;
using furniture::Fits;
using furniture::kind_of;
using furniture::Side;
using furniture::UnitKind;

/// Less is no lift-out that one gets a hand through.
constexpr double least_lid_mm = 80;
/// A top carries a person over no more than this without a divider; soles have a beam so often (common practice).
constexpr double widest_bay_mm = 900, usual_beam_step_mm = 400;

/// Of a sole beam that does not go down to the hull (common practice: a fifteenth of its span or more).
constexpr double usual_beam_depth_mm = 100;
/// By how much of its length at each end, and to how much of its height, a unit is made smaller, in that order.
constexpr std::pair<double, double> shrunk[] = {
    {0, 1},    {0, 0.85},    {0, 0.7},    {0, 0.55},    {0.06, 1}, {0.06, 0.85}, {0.06, 0.7}, {0.06, 0.55},
    {0.12, 1}, {0.12, 0.85}, {0.12, 0.7}, {0.12, 0.55}, {0.2, 1},  {0.2, 0.85},  {0.2, 0.7},  {0.2, 0.55}};

double to_step(double mm, double step) {
    return std::round(mm / step) * step;
}

/// What everything else stands on.
bool is_sole(const furniture::UnitSpec& u) {
    return kind_of(u).fits == Fits::under_all;
}

const SurfaceResult* hull_of(const Job& job, const Results& results) {
    const SurfaceResult* best = nullptr;
    for (std::size_t i = 0; i < job.surfaces.size() && i < results.surfaces.size(); ++i)
        if (job.surfaces[i].part == hull::SurfacePart::hull && results.surfaces[i].face &&
            (!best || results.surfaces[i].points.size() > best->points.size()))
            best = &results.surfaces[i];
    return best;
}

/// The hull's known half-section at a station on one side: how far out and how high.
std::vector<Vec2> half_section(const SurfaceResult& hull, double x, double sign) {
    std::vector<Vec2> out;
    const auto runs = hull::cut_section(*hull.face, {Vec3::UnitX(), x}, 1);
    if (!runs) return out;
    for (const auto& run : *runs)
        for (const auto& p : run.points)
            if (p.in_survey && sign * p.a.y() > 0) out.emplace_back(sign * p.a.y(), p.a.z());
    std::sort(out.begin(), out.end(), [](const Vec2& a, const Vec2& b) { return a.y() < b.y(); });
    return out;
}

/// The narrowest that the half-sections are between two heights.
double narrowest(const std::vector<std::vector<Vec2>>& sections, double low, double high) {
    double out = 1e9;
    for (const auto& s : sections)
        for (const Vec2& p : s)
            if (p.y() >= low && p.y() <= high) out = std::min(out, p.x());
    return out;
}

struct Known {
    double low_x = 0, high_x = 0;  ///< of the readings that were taken
    int port = 0, starboard = 0;
};

Known known_of(const SurfaceResult& hull) {
    Known out{1e9, -1e9, 0, 0};
    for (const auto& p : hull.points) {
        out.low_x = std::min(out.low_x, p.position.x()), out.high_x = std::max(out.high_x, p.position.x());
        (p.position.y() > 0 ? out.port : out.starboard) += 1;
    }
    return out;
}

/// A piece that has wood well out on that side.
bool stands_on(const Results& results, const JobPiece& piece, double sign) {
    constexpr double well_out_mm = 250;
    const auto* result = results.piece(piece.id);
    if (!result || !result->shape()) return false;
    const auto& o = *result->shape();
    return std::any_of(o.face_a.outer.begin(), o.face_a.outer.end(),
                       [&](const Vec2& q) { return sign * o.frame.to_space(q).y() > well_out_mm; });
}

/// Brackets, posts and wash boards stand across the boat as well, and nothing ends at them.
bool ends_a_bay(const Results& results, const JobPiece& piece, double sign) {
    const bool small = piece.kind == "bracket" || piece.kind == "corner post" || piece.kind == "wash board";
    return !small && std::abs(piece.plane.normal.x()) >= 0.99 && stands_on(results, piece, sign);
}

void end_at_bulkheads(const Job& job, const Results& results, JobUnit& unit, double at) {
    double before = -1e9, after = 1e9;
    const double sign = unit.side == Side::port ? 1 : -1;
    for (const auto& p : job.pieces) {
        if (!ends_a_bay(results, p, sign)) continue;
        const double x = geometry::place_mm(p.plane);
        if (x < at && x > before) before = x, unit.from_piece_id = p.id;
        if (x > at && x < after) after = x, unit.to_piece_id = p.id;
    }
}

/// The upper face of a sole that is there; where none is, of the one that other furniture already stands on, so that
/// whichever comes first they agree.
std::optional<double> sole_at(const Job& job) {
    std::optional<double> stood_on;
    for (const auto& u : job.units) {
        if (is_sole(u)) return u.foot_mm;
        if (kind_of(u).on_the_sole && (!stood_on || u.foot_mm < *stood_on)) stood_on = u.foot_mm;
    }
    return stood_on;
}

/// The unit's pieces in the job as it is with it.
Results tried_unit(const Job& job, const Results& results, const JobUnit& unit) {
    Job with = job;
    with.units.push_back(unit);
    return tried_out(in_full(with), results, [&](const JobPiece& p) { return is_of(p.id, unit.id); });
}

/// Whether every piece of the unit has an outline.
bool all_sound(const Job& job, const Results& results, const JobUnit& unit) {
    const auto tried = tried_unit(job, results, unit);
    return std::all_of(tried.pieces.begin(), tried.pieces.end(), [](const auto& p) { return p.shape() != nullptr; });
}

/// Whether one of the unit's pieces wants the place of a piece that is there.
bool goes_through_another(const Job& job, const Results& results, const JobUnit& unit) {
    for (const auto& own : tried_unit(job, results, unit).pieces)
        for (const auto& other : results.pieces)
            if (own.shape() && other.shape() && piece::clash_of(*own.shape(), *other.shape())) return true;
    return false;
}

/// What is known of the hull beside a unit.
struct HullBeside {
    std::vector<std::vector<Vec2>> sections;  ///< how far out and how high, from aft
    double low_mm = -1e9, high_mm = 1e9;      ///< up: known at every one of them
    double widest_mm = 0;
    double room_mm() const { return high_mm - low_mm; }
};

/// Absent where the hull is not known beside all of it.
std::optional<HullBeside> hull_beside(const SurfaceResult& hull, const JobUnit& u) {
    HullBeside out;
    const double sign = u.side == Side::port ? 1 : -1;
    for (double share : {0.02, 0.25, 0.5, 0.75, 0.98}) {
        const auto section = half_section(hull, u.from_mm + share * (u.to_mm - u.from_mm), sign);
        if (section.size() < 4) return std::nullopt;
        out.low_mm = std::max(out.low_mm, section.front().y());
        out.high_mm = std::min(out.high_mm, section.back().y());
        for (const Vec2& p : section) out.widest_mm = std::max(out.widest_mm, p.x());
        out.sections.push_back(section);
    }
    return out;
}

furniture::Ends ends_in(const Job& job, const JobUnit& u) {
    std::map<std::string, piece::Neighbour> bulkheads;
    for (const std::string& id : {u.from_piece_id, u.to_piece_id})
        if (const JobPiece* p = find_piece(job, id)) bulkheads.emplace(id, neighbour_of(job, *p));
    return furniture::ends_of(u, [&](const std::string& id) -> const piece::Neighbour* {
        const auto found = bulkheads.find(id);
        return found == bulkheads.end() ? nullptr : &found->second;
    });
}

/// What a sheet of the unit's material has room for along its longer side (its top, where that is another).
double longest_panel_mm(const Job& job, const JobUnit& u) {
    double out = 1e9;
    for (const std::string& id : {u.material_id, u.top_material_id})
        if (const JobMaterial* m = find_material(job, id)) {
            const piece::SheetRoom room = sheet_room(job, *m, {});
            out = std::min(out, std::max(room.along_mm, room.across_mm));
        }
    return out;
}

const JobUnit* sole_of(const Job& job) {
    const auto at = std::find_if(job.units.begin(), job.units.end(), is_sole);
    return at == job.units.end() ? nullptr : &*at;
}

/// What stands clear of the hull: about the place, no longer than leaves room to pass it on the sole or where the
/// boat is known; on the side of a sole that is there on one side only.
void stand_free(const Job& job, const Known& known, double at, JobUnit& u) {
    constexpr double most_of_it = 0.7;
    const double step = step_mm(job);
    double room = known.high_x - known.low_x;
    u.width_mm = to_step(u.width_mm, step);
    if (const JobUnit* sole = sole_of(job)) {
        const auto ends = ends_in(job, *sole);
        room = ends.to_mm - ends.from_mm;
        if (sole->half) u.side = sole->side, u.front_mm = std::ceil(u.width_mm / 2 / step) * step;
    }
    const double length = to_step(std::min(u.to_mm - u.from_mm, most_of_it * room), step);
    u.from_mm = to_step(at - length / 2, step), u.to_mm = u.from_mm + length;
}

/// Where along the boat it stands, and at what it ends.
void place_ends(const Job& job, const Results& results, const Known& known, double at, JobUnit& u) {
    const double step = step_mm(job);
    if (kind_of(u).fits == Fits::free) return stand_free(job, known, at, u);
    end_at_bulkheads(job, results, u, at);
    const double inset = 0.04 * (known.high_x - known.low_x);
    u.from_mm = to_step(known.low_x + inset, step), u.to_mm = to_step(known.high_x - inset, step);
    const auto ends = ends_in(job, u);
    u.from_mm = ends.from_mm, u.to_mm = ends.to_mm;
    // Where no bulkhead says how long it is, no longer than its panels come out of a sheet; a sole has joints.
    const double spare = u.to_mm - u.from_mm - longest_panel_mm(job, u);
    if (spare <= 0 || is_sole(u)) return;
    const double shorter = std::ceil(spare / step) * step;
    const bool both = u.from_piece_id.empty() && u.to_piece_id.empty();
    if (u.to_piece_id.empty()) u.to_mm -= both ? std::ceil(shorter / 2 / step) * step : shorter;
    if (u.from_piece_id.empty()) u.from_mm += both ? std::ceil(shorter / 2 / step) * step : shorter;
}

/// No higher than the bulkheads that it ends at.
double top_of_ends(const Results& results, const JobUnit& u) {
    double out = 1e9;
    for (const std::string& id : {u.from_piece_id, u.to_piece_id}) {
        const auto* result = results.piece(id);
        if (!result || !result->shape()) continue;
        const auto& o = *result->shape();
        double top = -1e9;
        for (const Vec2& q : o.face_a.outer) top = std::max(top, o.frame.to_space(q).z());
        out = std::min(out, top);
    }
    return out;
}

/// Its foot on a sole that is there or is to come, else where the boat is wide enough; its top under what is known.
void fit_heights(const Job& job, const Results& results, const HullBeside& hull, JobUnit& u) {
    const double step = step_mm(job), room = hull.room_mm();
    const auto sole = sole_at(job);
    double foot = hull.low_mm + 0.1 * room;
    while (foot < hull.low_mm + 0.6 * room &&
           narrowest(hull.sections, foot, foot + 0.1 * room) < 0.66 * hull.widest_mm)
        foot += 10;
    u.foot_mm = sole ? *sole : to_step(foot, step);
    const double most_high = std::min(0.92 * (hull.high_mm - u.foot_mm), top_of_ends(results, u) - u.foot_mm);
    if (!is_sole(u)) u.height_mm = std::min(u.height_mm, std::floor(most_high / step) * step);
    u.toe_high_mm = std::min(u.toe_high_mm, to_step(u.height_mm / 4, step));
    if (kind_of(u).fits != Fits::on_the_hull_above) return;
    u.height_mm = std::min(u.height_mm, to_step(0.5 * most_high, step));
    u.shelf_step_mm = std::min(u.shelf_step_mm, to_step(0.4 * most_high, step));
}

/// Toe space and lids within that depth.
void fit_within(double deep_mm, double step, JobUnit& u) {
    u.toe_deep_mm = std::min(u.toe_deep_mm, to_step(deep_mm / 4, step));
    u.lid_depth_mm = std::min(u.lid_depth_mm, to_step(deep_mm - 2 * u.rail_mm, step));
    if (u.lid_depth_mm < least_lid_mm) u.lids = false, u.lid_depth_mm = least_lid_mm;
}

/// Its front so far in from the hull as is usual, and what lies between the two within that.
void fit_depths(const Job& job, const HullBeside& hull, const Known& known, JobUnit& u) {
    const double step = step_mm(job);
    const Fits fits = kind_of(u).fits;
    const double from = fits == Fits::on_the_hull_above ? u.foot_mm + u.height_mm : u.foot_mm;
    const double half = narrowest(hull.sections, from, u.foot_mm + u.height_mm + 0.1 * hull.room_mm());
    const bool one_side = std::min(known.port, known.starboard) * 4 < std::max(known.port, known.starboard);
    switch (fits) {
        case Fits::about_the_middle: u.front_mm = std::min(u.front_mm, to_step(0.5 * half, step)); return;
        case Fits::free: u.width_mm = std::min(u.width_mm, to_step(0.8 * half, step)); return;
        case Fits::in_the_bow: {
            const double aft = narrowest({hull.sections.front()}, from, u.foot_mm + u.height_mm);
            u.half = one_side;
            u.front_mm = std::min(u.front_mm, to_step(0.4 * aft, step));
            u.infill_mm = std::min(u.infill_mm, to_step(0.35 * (u.to_mm - u.from_mm), step));
            u.lids = false;
            return;
        }
        case Fits::against_hull:
        case Fits::on_the_hull_above:
        case Fits::under_all: break;
    }
    u.front_mm = std::max(to_step(0.2 * half, step), to_step(half - kind_of(u).usual_depth_mm, step));
    fit_within(half - u.front_mm, step, u);
    if (fits != Fits::under_all) return;
    u.half = one_side;
    u.lid_depth_mm = std::min(500.0, to_step(u.half ? half / 2 : half, step));
}

/// Out of the way of a sole's raised part, where there is depth enough beside it.
void stand_beside_raised(const Job& job, const HullBeside& hull, JobUnit& u) {
    constexpr double least_deep_mm = 250, apart_mm = 10;
    if (kind_of(u).stands != furniture::Stands::along_a_side) return;
    const double step = step_mm(job), half = narrowest(hull.sections, u.foot_mm, u.foot_mm + u.height_mm);
    for (const JobUnit& sole : job.units) {
        const double out = std::ceil((sole.raised_half_mm + apart_mm) / step) * step;
        const bool in_the_way = is_sole(sole) && sole.raised_by_mm > 0 && sole.raised_to_mm > u.from_mm &&
                                sole.raised_from_mm < u.to_mm && u.front_mm < out;
        if (!in_the_way || half - out < least_deep_mm) continue;
        u.front_mm = out;
        fit_within(half - out, step, u);
    }
}

void add_dividers(const Job& job, JobUnit& u) {
    u.dividers_mm.clear();
    const double length = u.to_mm - u.from_mm, step = step_mm(job);
    switch (kind_of(u).across) {
        case Across::nothing: break;
        case Across::beams:
            for (int k = 1; k * usual_beam_step_mm < length; ++k)
                u.dividers_mm.push_back(to_step(u.from_mm + k * usual_beam_step_mm, step));
            break;
        case Across::beyond_infill:
            if (length - u.infill_mm > widest_bay_mm)
                u.dividers_mm = {to_step((u.from_mm + u.infill_mm + u.to_mm) / 2, step)};
            break;
        case Across::dividers:
            if (length > widest_bay_mm) u.dividers_mm = {to_step((u.from_mm + u.to_mm) / 2, step)};
            break;
    }
}

std::vector<std::string> unit_names(const Job& job) {
    std::vector<std::string> out;
    for (const auto& u : job.units) out.push_back(u.name);
    return out;
}

Side usual_side(const Known& known) {
    return known.port * 5 >= known.starboard * 4 ? Side::port : Side::starboard;
}

JobUnit proposed_unit(const Job& job, const Results& results, UnitKind kind, std::optional<double> at_mm,
                      std::optional<Side> side) {
    JobUnit u;
    static_cast<furniture::UnitSpec&>(u) = furniture::usual_unit(kind);
    u.id = free_unit_id(job);
    u.dividers_follow = u.front_follows = true;
    u.name = free_name(u.name, unit_names(job));
    u.material_id = u.top_material_id = job.materials.empty() ? "" : job.materials.front().id;
    const SurfaceResult* hull = hull_of(job, results);
    u.surface_id = hull ? hull->id : job.surfaces.empty() ? "" : job.surfaces.front().id;
    if (!hull) return u;
    const Known known = known_of(*hull);
    u.side = side.value_or(usual_side(known));
    double usual_at = known.low_x + kind_of(kind).usual_share * (known.high_x - known.low_x);
    const JobUnit* sole = kind_of(kind).fits == Fits::free ? sole_of(job) : nullptr;
    if (sole) usual_at = (ends_in(job, *sole).from_mm + ends_in(job, *sole).to_mm) / 2;
    place_ends(job, results, known, at_mm.value_or(usual_at), u);
    if (const auto stood_on = sole_at(job); stood_on && kind_of(kind).on_the_sole) u.foot_mm = *stood_on;
    const auto beside = hull_beside(*hull, u);
    if (!beside) return u;
    fit_heights(job, results, *beside, u);
    fit_depths(job, *beside, known, u);
    stand_beside_raised(job, *beside, u);
    add_dividers(job, u);
    return u;
}

/// What a unit takes of the boat: along her, out from the centre line on its side or sides, and up.
struct Taken {
    double from = 0, to = 0, near = 0, far = 1e9, low = 0, high = 1e9;
    bool port = true, starboard = true;
};

Taken taken_by(const furniture::UnitSpec& u) {
    Taken out;
    out.from = u.from_mm, out.to = u.to_mm;
    out.low = u.foot_mm, out.high = u.foot_mm + u.height_mm;
    // Over a seat or worktop there is room for what is on it.
    constexpr double over_furniture_mm = 250;
    switch (kind_of(u).fits) {
        case Fits::on_the_hull_above:
            out.low = u.foot_mm + u.height_mm - over_furniture_mm, out.high = 1e9, out.near = u.front_mm;
            break;
        case Fits::about_the_middle: out.far = u.front_mm; return out;
        case Fits::in_the_bow: return out;
        case Fits::free:
            out.near = std::max(0.0, u.front_mm - u.width_mm / 2), out.far = u.front_mm + u.width_mm / 2;
            if (u.front_mm < u.width_mm / 2) return out;
            break;
        case Fits::against_hull:
        case Fits::under_all: out.near = u.front_mm; break;
    }
    out.port = u.side == Side::port, out.starboard = !out.port;
    return out;
}

bool in_each_others_way(const Taken& a, const Taken& b) {
    constexpr double touch_mm = 20;
    const auto overlap = [](double low, double high, double other_low, double other_high) {
        return std::min(high, other_high) - std::max(low, other_low) > touch_mm;
    };
    return ((a.port && b.port) || (a.starboard && b.starboard)) && overlap(a.from, a.to, b.from, b.to) &&
           overlap(a.near, a.far, b.near, b.far) && overlap(a.low, a.high, b.low, b.high);
}

/// Everything stands on a sole; nothing else shares its room.
bool is_free(const Job& job, const JobUnit& unit) {
    return std::none_of(job.units.begin(), job.units.end(), [&](const JobUnit& other) {
        if (is_sole(other)) return false;
        furniture::UnitSpec there = other;
        for (const auto& [id, end] :
             {std::pair(&there.from_piece_id, &there.from_mm), {&there.to_piece_id, &there.to_mm}})
            if (const JobPiece* p = find_piece(job, *id)) *end = geometry::place_mm(p->plane);
        return in_each_others_way(taken_by(unit), taken_by(there));
    });
}

/// The middles of the bays between bulkheads, the nearest to the usual place first.
std::vector<double> bays(const Job& job, const Results& results, const Known& known, Side side, double usual_at) {
    constexpr double least_bay_mm = 350;
    std::vector<double> ends{known.low_x, known.high_x}, out;
    for (const auto& p : job.pieces)
        if (ends_a_bay(results, p, side == Side::port ? 1 : -1))
            ends.push_back(std::clamp(geometry::place_mm(p.plane), known.low_x, known.high_x));
    std::sort(ends.begin(), ends.end());
    for (std::size_t k = 0; k + 1 < ends.size(); ++k)
        if (ends[k + 1] - ends[k] > least_bay_mm) out.push_back((ends[k] + ends[k + 1]) / 2);
    std::stable_sort(out.begin(), out.end(),
                     [&](double a, double b) { return std::abs(a - usual_at) < std::abs(b - usual_at); });
    return out;
}

/// Lower and shorter, until all of it lies where the hull is known; as it was first where that never is.
JobUnit made_sound(const Job& job, const Results& results, const JobUnit& first) {
    const auto rounded = [step = step_mm(job)](double mm) { return to_step(mm, step); };
    const double length = first.to_mm - first.from_mm;
    const auto sound_with = [&](double beam_depth) -> std::optional<JobUnit> {
        for (const auto& [shorter, high] : shrunk) {
            JobUnit u = first;
            u.beam_depth_mm = beam_depth;
            if (u.from_piece_id.empty()) u.from_mm = rounded(u.from_mm + shorter * length);
            if (u.to_piece_id.empty()) u.to_mm = rounded(u.to_mm - shorter * length);
            // A sole goes up instead, to where the boat is wider.
            if (is_sole(u)) u.foot_mm += rounded((1 - high) * std::abs(u.foot_mm));
            else u.height_mm = rounded(high * u.height_mm);
            u.shelf_step_mm = rounded(high * u.shelf_step_mm);
            if (all_sound(job, results, u)) return u;
        }
        return std::nullopt;
    };
    if (const auto whole = sound_with(0)) return *whole;
    if (!is_sole(first)) return first;
    // Where the hull is not read down to the keel, beams are no deeper than they need be.
    return sound_with(rounded(usual_beam_depth_mm)).value_or(first);
}

/// Where nobody has said a place: the usual one where nothing stands there yet, else the nearest free bay, on the
/// side asked for or on either that was read; the usual place where none is free.
JobUnit in_free_room(const Job& job, const Results& results, UnitKind kind, std::optional<Side> side) {
    const auto at = [&](std::optional<double> mm, std::optional<Side> one) {
        return made_sound(job, results, proposed_unit(job, results, kind, mm, one));
    };
    const auto free = [&](const JobUnit& u) { return is_free(job, u) && !goes_through_another(job, results, u); };
    const JobUnit usual = at(std::nullopt, side);
    const SurfaceResult* hull = hull_of(job, results);
    // Everything stands on a sole.
    if (!hull || is_sole(usual) || free(usual)) return usual;
    const Known known = known_of(*hull);
    std::vector<Side> sides{side.value_or(usual_side(known))};
    if (!side && std::min(known.port, known.starboard) * 4 > std::max(known.port, known.starboard))
        sides.push_back(sides[0] == Side::port ? Side::starboard : Side::port);
    const double usual_at = known.low_x + kind_of(kind).usual_share * (known.high_x - known.low_x);
    for (const Side one : sides)
        for (const double middle : bays(job, results, known, one, usual_at))
            if (const JobUnit u = at(middle, one); free(u)) return u;
    return usual;
}

/// The front that is usual for a unit at its ends, where the hull beside it is known.
void stand_from_hull(const Job& job, const Results& results, JobUnit there, JobUnit& unit) {
    const SurfaceResult* hull = hull_of(job, results);
    const auto beside = hull ? hull_beside(*hull, there) : std::nullopt;
    if (!beside) return;
    there.front_mm = furniture::usual_unit(unit.kind).front_mm;
    fit_depths(job, *beside, known_of(*hull), there);
    stand_beside_raised(job, *beside, there);
    unit.front_mm = there.front_mm;
}

}  // namespace

JobUnit starting_unit(const Job& told, const Results& results, UnitKind kind, std::optional<double> at_mm,
                      std::optional<Side> side) {
    const Job job = settled(told);
    if (!at_mm) return in_free_room(job, results, kind, side);
    return made_sound(job, results, proposed_unit(job, results, kind, at_mm, side));
}

bool set_in_saddles(const Job& told, const Results& results, JobUnit& unit) {
    const Job job = settled(told);
    constexpr double under_beam_mm = 100;  // of seat under the beam, at the least
    const SurfaceResult* hull = hull_of(job, results);
    if (!hull || !is_sole(unit)) return false;
    if (unit.beam_depth_mm <= 0) unit.beam_depth_mm = to_step(usual_beam_depth_mm, step_mm(job));
    const auto* top = find_material(job, unit.top_material_id);
    const double under = unit.foot_mm - (top ? top->thickness_mm : 0) - unit.beam_depth_mm;
    const auto ends = ends_in(job, unit);
    const double sign = unit.side == Side::port ? 1 : -1;
    // At each beam, how far out the hull is where the beam's underside would meet it.
    std::vector<Vec2> met;
    for (const double at : unit.dividers_mm) {
        const auto section = half_section(*hull, at, sign);
        double out = -1;
        for (std::size_t i = 0; i + 1 < section.size(); ++i)
            if ((section[i].y() - under) * (section[i + 1].y() - under) <= 0 && section[i + 1].y() != section[i].y())
                out = section[i].x() + (section[i + 1].x() - section[i].x()) * (under - section[i].y()) /
                                           (section[i + 1].y() - section[i].y());
        if (out > under_beam_mm) met.emplace_back(at, out - under_beam_mm);
    }
    if (met.empty()) return false;
    std::sort(met.begin(), met.end(), [](const Vec2& a, const Vec2& b) { return a.x() < b.x(); });
    const Vec2 first = met.front(), last = met.back(), run = last - first;
    const double slope = std::abs(run.x()) > 1 ? run.y() / run.x() : 0;
    double in = 0;  // a hull that bends inward between them draws the whole string in
    for (const Vec2& m : met) in = std::max(in, first.y() + slope * (m.x() - first.x()) - m.y());
    unit.saddle_aft_mm = std::floor(first.y() + slope * (ends.from_mm - first.x()) - in);
    unit.saddle_fwd_mm = std::floor(first.y() + slope * (ends.to_mm - first.x()) - in);
    unit.saddles = true;
    return true;
}

void follow_ends(Job& now, const Job& before, const Results& results) {
    const auto follows = [](const JobUnit& u) { return u.dividers_follow || u.front_follows; };
    if (std::none_of(now.units.begin(), now.units.end(), follows)) return;
    const Job here = settled(now), were = settled(before);
    for (JobUnit& unit : now.units) {
        const auto was =
            std::find_if(before.units.begin(), before.units.end(), [&](const JobUnit& u) { return u.id == unit.id; });
        if (was == before.units.end()) continue;
        if (was->dividers_follow && unit.dividers_mm != was->dividers_mm) unit.dividers_follow = false;
        if (was->front_follows && unit.front_mm != was->front_mm) unit.front_follows = false;
        if (!unit.dividers_follow && !unit.front_follows) continue;
        const auto ends = ends_in(here, unit), ended = ends_in(were, *was);
        const bool moved = !(ends == ended) || unit.side != was->side;
        JobUnit there = unit;
        there.from_mm = ends.from_mm, there.to_mm = ends.to_mm;
        if (unit.dividers_follow && (moved || !was->dividers_follow)) {
            add_dividers(now, there);
            unit.dividers_mm = there.dividers_mm;
        }
        if (unit.front_follows && (moved || !was->front_follows)) stand_from_hull(now, results, there, unit);
    }
}

}  // namespace bevelsmith::job
