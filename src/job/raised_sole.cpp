#include "job/raised_sole.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "furniture/kinds.h"
#include "job/in_full.h"
#include "job/starting_piece.h"

namespace bevelsmith::job {
namespace {

constexpr double clear_mm = 30;

/// The room that an obstacle takes, without its clearance.
struct Extent {
    Vec3 low = Vec3::Constant(std::numeric_limits<double>::infinity()), high = -low;
};
Extent extent_of(const JobObstacle& o) {
    Extent out;
    const double beside = o.width_mm / 2, up = (o.section == piece::Section::round ? o.width_mm : o.height_mm) / 2;
    for (std::size_t i = 0; i + 1 < o.path.size(); ++i) {
        const Vec3 way = (o.path[i + 1] - o.path[i]).normalized();
        // A run that rises is as thick along the boat as it is high.
        const bool rises = std::abs(way.z()) > 0.7;
        const Vec3 around(rises ? up : 0, std::abs(way.y()) > 0.7 ? 0 : beside, rises ? 0 : up);
        for (const Vec3& p : {o.path[i], o.path[i + 1]})
            out.low = out.low.cwiseMin(p - around), out.high = out.high.cwiseMax(p + around);
    }
    return out;
}

JobUnit* sole_in(Job& job, const std::string& id) {
    JobUnit* unit = find_unit(job, id);
    return unit && furniture::kind_of(*unit).fits == furniture::Fits::under_all ? unit : nullptr;
}

double thickness(const Job& job, const std::string& id) {
    const auto* m = find_material(job, id);
    return m ? m->thickness_mm : 0;
}

furniture::Ends ends_of(const Job& job, const JobUnit& unit) {
    std::vector<piece::Neighbour> held;
    for (const auto& p : job.pieces) held.push_back(neighbour_of(job, p));
    return furniture::ends_of(unit, [&](const std::string& id) -> const piece::Neighbour* {
        for (std::size_t i = 0; i < job.pieces.size(); ++i)
            if (job.pieces[i].id == id) return &held[i];
        return nullptr;
    });
}

}  // namespace

std::vector<std::string> reaching_through(const Job& job, const JobUnit& sole) {
    std::vector<std::string> out;
    const auto ends = ends_of(job, sole);
    const double under = sole.foot_mm - thickness(job, sole.top_material_id);
    for (const auto& o : job.obstacles) {
        const Extent room = extent_of(o);
        if (room.high.z() > under && room.low.z() < sole.foot_mm + 1000 && room.high.x() > ends.from_mm &&
            room.low.x() < ends.to_mm)
            out.push_back(o.id);
    }
    return out;
}

bool raise_over(Job& job, const std::string& unit_id, const std::string& obstacle_id) {
    const Job full = in_full(job);
    JobUnit* sole = sole_in(job, unit_id);
    const auto o = std::find_if(full.obstacles.begin(), full.obstacles.end(),
                                [&](const auto& one) { return one.id == obstacle_id; });
    if (!sole || o == full.obstacles.end()) return false;
    const Extent room = extent_of(*o);
    const auto ends = ends_of(full, *sole);
    const double panel = thickness(job, sole->material_id), top = thickness(job, sole->top_material_id);
    const double step = step_mm(job), beyond = clear_mm + panel;
    const auto down = [&](double mm) { return std::floor(mm / step) * step; };
    const auto up = [&](double mm) { return std::ceil(mm / step) * step; };
    sole->raised_from_mm = std::max(ends.from_mm, down(room.low.x() - beyond));
    sole->raised_to_mm = std::min(ends.to_mm, up(room.high.x() + beyond));
    sole->raised_half_mm = up(std::max(std::abs(room.low.y()), std::abs(room.high.y())) + beyond);
    sole->raised_by_mm = std::max(up(room.high.z() + clear_mm + top - sole->foot_mm), up(top + 3 * step));
    return true;
}

void raise_middle(Job& job, const std::string& unit_id) {
    const Job full = in_full(job);
    JobUnit* sole = sole_in(job, unit_id);
    if (!sole) return;
    const auto ends = ends_of(full, *sole);
    const double step = step_mm(job), middle = std::round((ends.from_mm + ends.to_mm) / 2 / step) * step;
    const double half = std::min(300.0, (ends.to_mm - ends.from_mm) / 4);
    sole->raised_from_mm = middle - std::round(half / step) * step;
    sole->raised_to_mm = middle + std::round(half / step) * step;
    double wide = 300;
    // Within the fronts of what stands beside it.
    for (const JobUnit& other : job.units) {
        const bool beside = furniture::kind_of(other).fits == furniture::Fits::against_hull;
        const auto there = ends_of(full, other);
        if (beside && there.to_mm > sole->raised_from_mm && there.from_mm < sole->raised_to_mm)
            wide = std::min(wide, std::max(other.front_mm - 10, 100.0));
    }
    sole->raised_half_mm = std::floor(wide / step) * step;
    sole->raised_by_mm = std::round(150 / step) * step;
}

}  // namespace bevelsmith::job
