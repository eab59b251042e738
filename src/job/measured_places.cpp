#include "job/measured_places.h"

#include <fmt/format.h>

#include <Eigen/Geometry>
#include <algorithm>

#include "survey/points.h"

namespace bevelsmith::job {
namespace {

/// Marks nearer to one line than this (mm, across 1000) give no plane that a saw could follow.
constexpr double least_height_mm = 5;

geometry::Plane facing(geometry::Plane plane, const Vec3& before) {
    if (plane.normal.dot(before) >= 0) return plane;
    return {-plane.normal, -plane.d_mm};
}

Result<survey::ReadingSet> set_in_boat(const Job& job, const std::string& id) {
    const auto sets = readings_in_boat(job);
    if (!sets) return sets.error();
    const auto at = std::find_if(sets->begin(), sets->end(), [&](const auto& s) { return s.id == id; });
    if (at == sets->end()) return Error{fmt::format("there is no set of readings or mark '{}'", id)};
    return *at;
}

}  // namespace

Result<geometry::Plane> plane_through(const Job& job, const std::vector<std::string>& ids, const Vec3& before) {
    if (ids.size() == 1) {
        const auto set = set_in_boat(job, ids.front());
        if (!set) return set.error();
        return facing(survey::plane_of(*set), before);
    }
    if (ids.size() != 3) return Error{"a plane goes through three marks, or lies in one set of readings"};
    std::vector<Vec3> at;
    for (const auto& id : ids) {
        const auto mark = std::find_if(job.marks.begin(), job.marks.end(), [&](const auto& m) { return m.id == id; });
        if (mark == job.marks.end()) return Error{fmt::format("there is no mark '{}'", id)};
        at.push_back(mark->position);
    }
    const Vec3 square = (at[1] - at[0]).cross(at[2] - at[0]);
    const double longest = std::max({(at[1] - at[0]).norm(), (at[2] - at[0]).norm(), (at[2] - at[1]).norm()});
    if (longest < 1 || square.norm() / longest < least_height_mm * std::max(1.0, longest / 1000))
        return Error{fmt::format("the marks '{}', '{}' and '{}' lie in one line", ids[0], ids[1], ids[2])};
    const Vec3 normal = square.normalized();
    return facing({normal, normal.dot(at[0])}, before);
}

Result<std::vector<Vec3>> path_of(const Job& job, const JobObstacle& obstacle) {
    if (obstacle.set_id.empty()) return obstacle.path;
    const auto set = set_in_boat(job, obstacle.set_id);
    if (!set) return set.error();
    survey::ReadingSet alone = *set;
    alone.surface_id = "path";
    const auto points = survey::points_of(std::vector{alone}, "path");
    if (!points) return points.error();
    std::vector<Vec3> out;
    for (const auto& p : *points) out.push_back(p.position);
    if (out.size() < 2) return Error{fmt::format("'{}' has less than two points to run along", set->name)};
    return out;
}

}  // namespace bevelsmith::job
