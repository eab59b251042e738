#include "job/starting_unit.h"

#include <algorithm>
#include <cmath>

#include "hull/section.h"
#include "job/in_full.h"

namespace bevelsmith::job {
namespace {

using furniture::Side;
using furniture::UnitKind;

/// How deep a unit is from its front to the hull, where there is room (mm; common practice).
double usual_depth(UnitKind kind) {
    switch (kind) {
        case UnitKind::settee: return 480;
        case UnitKind::berth: return 650;
        case UnitKind::counter: return 550;
        case UnitKind::locker: return 500;
        case UnitKind::shelves: return 220;
        default: return 500;
    }
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

void end_at_bulkheads(const Job& job, const Results& results, JobUnit& unit, double at) {
    double before = -1e9, after = 1e9;
    const double sign = unit.side == Side::port ? 1 : -1;
    for (const auto& p : job.pieces) {
        if (std::abs(p.plane.normal.x()) < 0.99 || !stands_on(results, p, sign)) continue;
        const double x = geometry::place_mm(p.plane);
        if (x < at && x > before) before = x, unit.from_piece_id = p.id;
        if (x > at && x < after) after = x, unit.to_piece_id = p.id;
    }
}

/// The upper face of a sole that is there.
std::optional<double> sole_at(const Job& job) {
    for (const auto& u : job.units)
        if (u.kind == UnitKind::sole) return u.foot_mm;
    return std::nullopt;
}

/// To what places are rounded: 10 mm, or half an inch.
double step_mm(const Job& job) {
    return units::in_inches(job.unit) ? units::mm_per_inch / 2 : 10;
}

}  // namespace

namespace {

/// Whether every piece of the unit has an outline, in the job as it is with it.
bool all_sound(const Job& job, const Results& results, const JobUnit& unit) {
    Job with = job;
    with.units.push_back(unit);
    const Job full = in_full(with);
    const auto surfaces = [&](const std::string& id) -> const hull::Surface* {
        const auto* s = results.surface(id);
        return s ? s->face.get() : nullptr;
    };
    std::vector<piece::Neighbour> held;
    held.reserve(full.pieces.size());
    for (const auto& p : full.pieces) held.push_back(neighbour_of(full, p));
    const auto pieces = [&](const std::string& id) -> const piece::Neighbour* {
        for (std::size_t i = 0; i < full.pieces.size(); ++i)
            if (full.pieces[i].id == id) return &held[i];
        return nullptr;
    };
    return std::all_of(full.pieces.begin(), full.pieces.end(), [&](const JobPiece& p) {
        if (p.id.rfind(unit.id + ".", 0) != 0) return true;
        const double thickness =
            find_material(full, p.material_id) ? find_material(full, p.material_id)->thickness_mm : 0;
        return thickness > 0 && piece::compute_outline(p, thickness, surfaces, job.boat.passage, {}, pieces).ok();
    });
}

JobUnit proposed_unit(const Job& job, const Results& results, UnitKind kind, std::optional<double> at_mm,
                      std::optional<Side> side) {
    const auto rounded = [step = step_mm(job)](double mm) { return std::round(mm / step) * step; };
    JobUnit u;
    static_cast<furniture::UnitSpec&>(u) = furniture::usual_unit(kind);
    std::vector<std::string> ids;
    for (const auto& other : job.units) ids.push_back(other.id);
    // Pieces of a unit that was taken apart keep its name.
    for (const auto& piece : job.pieces) ids.push_back(piece.id.substr(0, piece.id.find('.')));
    u.id = free_id("U", ids);
    u.material_id = u.top_material_id = job.materials.empty() ? "" : job.materials.front().id;
    const SurfaceResult* hull = hull_of(job, results);
    u.surface_id = hull ? hull->id : job.surfaces.empty() ? "" : job.surfaces.front().id;
    if (!hull) return u;
    const Known known = known_of(*hull);
    const double at = at_mm.value_or((known.low_x + known.high_x) / 2), inset = 0.04 * (known.high_x - known.low_x);
    u.side = side.value_or(known.port * 5 >= known.starboard * 4 ? Side::port : Side::starboard);
    end_at_bulkheads(job, results, u, at);
    u.from_mm = rounded(known.low_x + inset), u.to_mm = rounded(known.high_x - inset);
    const auto ends = furniture::ends_of(u, [&](const std::string& id) -> const piece::Neighbour* {
        static piece::Neighbour held;
        const JobPiece* p = find_piece(job, id);
        if (!p) return nullptr;
        held = neighbour_of(job, *p);
        return &held;
    });
    u.from_mm = ends.from_mm, u.to_mm = ends.to_mm;
    std::vector<std::vector<Vec2>> sections;
    const double sign = u.side == Side::port ? 1 : -1;
    for (double share : {0.02, 0.25, 0.5, 0.75, 0.98})
        sections.push_back(half_section(*hull, u.from_mm + share * (u.to_mm - u.from_mm), sign));
    double low = -1e9, high = 1e9, widest = 0;
    for (const auto& s : sections) {
        if (s.size() < 4) return u;
        low = std::max(low, s.front().y()), high = std::min(high, s.back().y());
        for (const Vec2& p : s) widest = std::max(widest, p.x());
    }
    const double room = high - low;
    if (const auto sole = sole_at(job); sole && kind != UnitKind::sole) {
        u.foot_mm = *sole;
    } else {
        double foot = low + 0.1 * room;
        while (foot < low + 0.6 * room && narrowest(sections, foot, foot + 0.1 * room) < 0.66 * widest) foot += 10;
        u.foot_mm = rounded(foot);
    }
    const double most_high = 0.92 * (high - u.foot_mm);
    if (kind != UnitKind::sole) u.height_mm = std::min(u.height_mm, rounded(most_high));
    u.toe_high_mm = std::min(u.toe_high_mm, rounded(u.height_mm / 4));
    if (kind == UnitKind::shelves) {
        u.height_mm = std::min(u.height_mm, rounded(0.5 * most_high));
        u.shelf_step_mm = std::min(u.shelf_step_mm, rounded(0.4 * most_high));
    }
    const double from = kind == UnitKind::shelves ? u.foot_mm + u.height_mm : u.foot_mm;
    const double half = narrowest(sections, from, u.foot_mm + u.height_mm + 0.1 * room);
    if (kind == UnitKind::engine_box) u.front_mm = std::min(u.front_mm, rounded(0.5 * half));
    else u.front_mm = std::max(rounded(0.2 * half), rounded(half - usual_depth(kind)));
    if (kind != UnitKind::engine_box) {
        const double deep = half - u.front_mm;
        u.toe_deep_mm = std::min(u.toe_deep_mm, rounded(deep / 4));
        u.lid_depth_mm = std::min(u.lid_depth_mm, rounded(deep - 2 * u.rail_mm));
        if (u.lid_depth_mm < 80) u.lids = false, u.lid_depth_mm = 80;
    }
    const double length = u.to_mm - u.from_mm;
    if (kind == UnitKind::sole) {
        u.half = std::min(known.port, known.starboard) * 4 < std::max(known.port, known.starboard);
        u.lid_depth_mm = std::min(500.0, rounded(u.half ? half / 2 : half));
        for (int k = 1; k * 400 < length; ++k) u.dividers_mm.push_back(rounded(u.from_mm + k * 400));
    } else if (length > 900 && kind != UnitKind::shelves && kind != UnitKind::engine_box) {
        u.dividers_mm = {rounded((u.from_mm + u.to_mm) / 2)};
    }
    return u;
}

}  // namespace

JobUnit starting_unit(const Job& job, const Results& results, UnitKind kind, std::optional<double> at_mm,
                      std::optional<Side> side) {
    const auto rounded = [step = step_mm(job)](double mm) { return std::round(mm / step) * step; };
    const JobUnit first = proposed_unit(job, results, kind, at_mm, side);
    // Lower and shorter, until all of it lies where the hull is known.
    const double length = first.to_mm - first.from_mm;
    for (double shorter : {0.0, 0.06, 0.12, 0.2})
        for (double high : {1.0, 0.85, 0.7, 0.55}) {
            JobUnit u = first;
            if (u.from_piece_id.empty()) u.from_mm = rounded(u.from_mm + shorter * length);
            if (u.to_piece_id.empty()) u.to_mm = rounded(u.to_mm - shorter * length);
            // A sole goes up instead, to where the boat is wider.
            if (kind == UnitKind::sole) u.foot_mm += rounded((1 - high) * std::abs(u.foot_mm));
            else u.height_mm = rounded(high * u.height_mm);
            u.shelf_step_mm = rounded(high * u.shelf_step_mm);
            if (all_sound(job, results, u)) return u;
        }
    return first;
}

}  // namespace bevelsmith::job
