#include "hull/alignment.h"

#include <fmt/format.h>

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "geometry/eigenpairs.h"
#include "units/quantity.h"

namespace bevelsmith::hull {
namespace {

using Vec6 = Eigen::Matrix<double, 6, 1>;
using Mat6 = Eigen::Matrix<double, 6, 6>;

constexpr std::size_t most_points = 3000;
constexpr int fewest_over = 30;
constexpr double told_mm = 30, most_moved_mm = 150, most_turned_deg = 5;

std::vector<Vec3> some_of(std::span<const Vec3> points) {
    const std::size_t n = std::min(points.size(), most_points);
    std::vector<Vec3> out;
    for (std::size_t k = 0; k < n; ++k) out.push_back(points[k * points.size() / n]);
    return out;
}

/// A reading over the surface: how far off it is and which way.
struct Over {
    bool counts = false;  ///< over the surveyed part
    double off_mm = 0, sigma_mm = 1, weight = 0;
    Vec3 normal = Vec3::Zero();
};

/// `before`: from where they were a moment ago; how sure the surface is there hardly changes.
std::vector<Over> seen_from(const Surface& surface, std::span<const Vec3> points, double sigma_mm,
                            std::span<const Over> before = {}) {
    std::vector<Over> out(points.size());
    for (std::size_t k = 0; k < points.size(); ++k) {
        const ChartPoint place = surface.locate(points[k]);
        const Place at{place.s, place.v};
        if (!surface.in_domain(at) || !surface.surrounded(at)) continue;
        const bool known = !before.empty() && before[k].counts;
        out[k] = {true, surface.distance_mm(points[k]),
                  known ? before[k].sigma_mm : std::hypot(sigma_mm, surface.sigma_mm(at)), 0,
                  surface.fitted(at).normal};
    }
    return out;
}

/// Tukey's bisquare: nothing counts that lies farther off than 4.685 times what is usual.
void weigh(std::vector<Over>& all) {
    std::vector<double> offs;
    for (const Over& one : all)
        if (one.counts) offs.push_back(std::abs(one.off_mm) / one.sigma_mm);
    const auto middle = offs.begin() + static_cast<std::ptrdiff_t>(offs.size() / 2);
    std::nth_element(offs.begin(), middle, offs.end());
    const double reach = 4.685 * std::max(1.0, 1.4826 * *middle);
    for (Over& one : all) {
        const double u = one.off_mm / one.sigma_mm / reach;
        one.weight = one.counts && std::abs(u) < 1 ? (1 - u * u) * (1 - u * u) : 0;
    }
}

/// Turns are counted in millimetres at `arm_mm` from the middle, so that all six ways compare.
struct Step {
    Eigen::Matrix3d turn = Eigen::Matrix3d::Identity();
    Vec3 move = Vec3::Zero();
    double size_mm = 0;
    int ways = 6;
};

struct Sums {
    Mat6 normal = Mat6::Zero();
    Vec6 right = Vec6::Zero();
    void add(const Vec6& row, double off, double weight) {
        normal += weight * row * row.transpose();
        right -= weight * off * row;
    }
};

Step solved(const Sums& sums, const Vec3& middle, double arm_mm) {
    const auto ways = geometry::eigenpairs_of(sums.normal);
    Step out;
    out.ways = 0;
    Vec6 x = Vec6::Zero();
    for (int k = 0; k < 6; ++k) {
        if (!(ways.values[k] > 1 / (told_mm * told_mm))) continue;
        ++out.ways;
        x += ways.vectors.col(k) * (ways.vectors.col(k).dot(sums.right) / ways.values[k]);
    }
    const Vec3 turn = x.head<3>() / arm_mm;
    const double angle = turn.norm();
    if (angle > 0) out.turn = Eigen::AngleAxisd(angle, turn / angle).toRotationMatrix();
    out.move = middle + x.tail<3>() - out.turn * middle;
    out.size_mm = x.norm();
    return out;
}

/// Ways that nothing tells are as open as they may be before they count as told.
std::vector<survey::SmallMove> doubts_of(const Sums& sums, const Vec3& middle, double arm_mm) {
    const auto ways = geometry::eigenpairs_of(sums.normal);
    std::vector<survey::SmallMove> out;
    for (int k = 0; k < 6; ++k) {
        const double told = std::max(ways.values[k], 1 / (told_mm * told_mm));
        const Vec6 way = ways.vectors.col(k) / std::sqrt(told);
        const Vec3 turn = way.head<3>() / arm_mm;
        out.push_back({turn, way.tail<3>() - turn.cross(middle)});
    }
    return out;
}

double rms_of(std::span<const Over> offs, std::span<const Over> which) {
    double sum = 0;
    int count = 0;
    for (std::size_t k = 0; k < offs.size(); ++k)
        if (which[k].weight > 0) sum += offs[k].off_mm * offs[k].off_mm, ++count;
    return count > 0 ? std::sqrt(sum / count) : 0;
}

int count_of(std::span<const Over> all, bool weighed) {
    return static_cast<int>(
        std::count_if(all.begin(), all.end(), [&](const Over& o) { return weighed ? o.weight > 0 : o.counts; }));
}

}  // namespace

Result<Alignment> align_to(const Surface& surface, std::span<const Vec3> points, double sigma_mm,
                           std::span<const Hold> holds, int known_by, const KeepGoing& keep_going) {
    std::vector<Vec3> now = some_of(points);
    std::vector<Hold> held(holds.begin(), holds.end());
    const auto first = seen_from(surface, now, sigma_mm);
    if (count_of(first, false) < fewest_over)
        return Error{fmt::format("only {} of its points lie over what the other sets have surveyed: {} are needed",
                                 count_of(first, false), fewest_over)};
    Vec3 middle = Vec3::Zero();
    for (const Vec3& p : now) middle += p / static_cast<double>(now.size());
    double arm = 0;
    for (const Vec3& p : now) arm += (p - middle).squaredNorm() / static_cast<double>(now.size());
    arm = std::max(std::sqrt(arm), 1.0);
    const Vec3 middle_before = middle;

    Alignment out;
    std::vector<Over> seen = first;
    constexpr int most_rounds = 60;
    for (int round = 0; round < most_rounds; ++round) {
        ask(keep_going);
        weigh(seen);
        const double share = std::min(1.0, static_cast<double>(known_by) / std::max(1, count_of(seen, false)));
        Sums sums;
        for (std::size_t k = 0; k < now.size(); ++k) {
            if (seen[k].weight <= 0) continue;
            Vec6 row;
            row << (now[k] - middle).cross(seen[k].normal) / arm, seen[k].normal;
            sums.add(row, seen[k].off_mm, share * seen[k].weight / (seen[k].sigma_mm * seen[k].sigma_mm));
        }
        for (const Hold& hold : held)
            for (int axis = 0; axis < 3; ++axis) {
                const Vec3 way = Vec3::Unit(axis);
                Vec6 row;
                row << (hold.placed - middle).cross(way) / arm, way;
                sums.add(row, (hold.placed - hold.wanted)[axis], 1 / (hold.sigma_mm * hold.sigma_mm));
            }
        const Step step = solved(sums, middle, arm);
        out.doubts = doubts_of(sums, middle, arm);
        for (Vec3& p : now) p = step.turn * p + step.move;
        for (Hold& hold : held) hold.placed = step.turn * hold.placed + step.move;
        middle = step.turn * middle + step.move;
        out.turn = step.turn * out.turn;
        out.move_mm = step.turn * out.move_mm + step.move;
        out.ways = step.ways;
        seen = seen_from(surface, now, sigma_mm, seen);
        constexpr double settled_mm = 1e-3;
        if (step.size_mm < settled_mm) break;
    }
    weigh(seen);
    out.used = count_of(seen, true), out.over = count_of(seen, false);
    out.before_mm = rms_of(first, seen), out.after_mm = rms_of(seen, seen);
    out.moved_mm = (middle - middle_before).norm();
    out.turned_deg = units::degrees(Eigen::AngleAxisd(out.turn).angle());
    if (out.moved_mm > most_moved_mm || out.turned_deg > most_turned_deg)
        return Error{
            fmt::format("the surface would move it {:.0f} mm and turn it {:.1f} degrees, which is no refinement: "
                        "look at the marks",
                        out.moved_mm, out.turned_deg)};
    return out;
}

}  // namespace bevelsmith::hull
