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

Result<geometry::Plane> plane_from_mark(const Job& job, const piece::FromMark& from, const Vec3& before) {
    const auto mark =
        std::find_if(job.marks.begin(), job.marks.end(), [&](const auto& m) { return m.id == from.mark_id; });
    if (mark == job.marks.end()) return Error{fmt::format("there is no mark '{}'", from.mark_id)};
    if (std::abs(from.second_aside_mm - from.first_aside_mm) < 1)
        return Error{"both offsets are taken in one place: take the second farther along the face"};
    const auto at = [&](double aside, double off) -> Vec3 {
        return mark->position + (from.along ? Vec3(aside, off, 0) : Vec3(off, aside, 0));
    };
    const Vec3 first = at(from.first_aside_mm, from.first_mm), second = at(from.second_aside_mm, from.second_mm);
    const Vec3 normal = (second - first).cross(Vec3::UnitZ()).normalized();
    return facing({normal, normal.dot(first)}, before);
}

piece::FromMark offsets_now(const geometry::Plane& plane, const JobMark& mark, double apart_mm) {
    piece::FromMark out;
    out.mark_id = mark.id;
    out.along = std::abs(plane.normal.y()) > std::abs(plane.normal.x());
    const double way = out.along ? plane.normal.y() : plane.normal.x(),
                 aside = out.along ? plane.normal.x() : plane.normal.y();
    const auto off = [&](double by) {
        return way == 0 ? 0 : (plane.d_mm - plane.normal.dot(mark.position) - aside * by) / way;
    };
    out.first_aside_mm = -apart_mm, out.second_aside_mm = apart_mm;
    out.first_mm = off(-apart_mm), out.second_mm = off(apart_mm);
    return out;
}

Result<std::vector<Vec3>> places_of_set(const Job& job, const std::string& id) {
    const auto set = set_in_boat(job, id);
    if (!set) return set.error();
    // On a surface of its own: it need not lie on one of the boat's.
    survey::ReadingSet alone = *set;
    alone.surface_id = "alone";
    const auto points = survey::points_of(std::vector{alone}, alone.surface_id);
    if (!points) return points.error();
    std::vector<Vec3> out;
    for (const auto& p : *points) out.push_back(p.position);
    return out;
}

Result<std::vector<Vec3>> path_of(const Job& job, const JobObstacle& obstacle) {
    if (obstacle.set_id.empty()) return obstacle.path;
    auto out = places_of_set(job, obstacle.set_id);
    if (!out) return out;
    if (out->size() < 2) {
        const auto set = std::find_if(job.readings.begin(), job.readings.end(),
                                      [&](const auto& one) { return one.id == obstacle.set_id; });
        return Error{fmt::format("'{}' has less than two points to run along", set->name)};
    }
    return out;
}

}  // namespace bevelsmith::job
