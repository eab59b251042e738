#include "job/stray_cause.h"

#include <fmt/format.h>

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <optional>
#include <vector>

#include "survey/points.h"

namespace bevelsmith::job {
namespace {

using survey::ReadingSet;

double median(std::vector<double> values) {
    const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
    std::nth_element(values.begin(), middle, values.end());
    return *middle;
}

std::vector<survey::Point> points_of(ReadingSet set) {
    set.surface_id = "it";
    const auto points = survey::points_of(std::vector{set}, "it");
    return points ? *points : std::vector<survey::Point>{};
}

/// How far it lies off in the middle; far away where the surface does not reach.
double off_mm(const std::vector<survey::Point>& points, const hull::Surface& surface) {
    std::vector<double> off;
    for (const auto& p : points) off.push_back(std::abs(surface.distance_mm(p.position)));
    return off.empty() ? 1e9 : median(off);
}

ReadingSet mirrored(ReadingSet set) {
    set.origin.y() *= -1;
    set.along.y() *= -1;
    set.toward.y() *= -1;
    if (!survey::has_frame(set.school))
        for (auto& r : set.readings) r.values[1] *= -1;
    return set;
}

/// A pattern seen from its other face, or held upside down.
ReadingSet turned(ReadingSet set, bool along) {
    (along ? set.along : set.toward) *= -1;
    return set;
}

/// The shift of the whole that brings it nearest to the surface, in least squares.
Vec3 best_shift(const std::vector<survey::Point>& points, const hull::Surface& surface) {
    Vec3 shift = Vec3::Zero();
    for (int round = 0; round < 6; ++round) {
        // A little weight on staying: a shift along the surface changes nothing.
        Eigen::Matrix3d normal = 1e-3 * static_cast<double>(points.size()) * Eigen::Matrix3d::Identity();
        Vec3 right = Vec3::Zero();
        for (const auto& p : points) {
            const Vec3 at = p.position + shift;
            const auto c = surface.locate(at);
            const Vec3 n = surface.at({c.s, c.v}).normal;
            normal += n * n.transpose();
            right -= n * surface.distance_mm(at);
        }
        shift += normal.ldlt().solve(right);
    }
    return shift;
}

/// Along the boat's axis in which it is farthest off.
std::string shift_words(const Vec3& shift) {
    static constexpr const char* words[3][2] = {
        {"far forward", "far aft"}, {"far to port", "far to starboard"}, {"high", "low"}};
    int axis = 0;
    shift.cwiseAbs().maxCoeff(&axis);
    return fmt::format("it lies about {:.0f} mm too {}", std::abs(shift[axis]), words[axis][shift[axis] > 0]);
}

}  // namespace

std::string stray_cause(const ReadingSet& set, const hull::Surface& surface) {
    constexpr double much = 4;
    const auto points = points_of(set);
    if (points.empty()) return "it has no readings";
    const double now = off_mm(points, surface), there = std::max(8.0, now / much);
    struct Change {
        ReadingSet set;
        const char* words;
    };
    std::vector<Change> changes{{mirrored(set), "it lies there when it is taken to the boat's other side"}};
    if (survey::has_frame(set.school)) {
        changes.push_back({turned(set, true), "it lies there when it is turned over, left for right"});
        changes.push_back({turned(set, false), "it lies there when it is turned over, the other way up or out"});
    }
    const Change* best = nullptr;
    double least = there;
    for (const Change& change : changes)
        if (const double off = off_mm(points_of(change.set), surface); off < least) {
            best = &change;
            least = off;
        }
    if (best) return best->words;
    const Vec3 shift = best_shift(points, surface);
    std::vector<survey::Point> moved = points;
    for (auto& p : moved) p.position += shift;
    if (shift.allFinite() && shift.norm() < 3000 && off_mm(moved, surface) < there) return shift_words(shift);
    return "it has not been placed yet, or it is not of this surface";
}

}  // namespace bevelsmith::job
