#include "hull/inside.h"
#include "geometry/least_squares.h"

#include <fmt/format.h>

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <map>

namespace bevelsmith::hull {
namespace {

/// About so many readings tell the side as well as all do.
constexpr std::size_t asked_readings = 2000;
/// A set's vote counts as so many readings at most, so that no scan outvotes every hand.
constexpr double most_votes = 50;
/// Below this mean cosine a direction is along the surface and tells nothing.
constexpr double clear_cosine = 0.05;

struct Seen {
    const survey::Point* point;
    Vec3 normal;  ///< of the surface below the reading
};

std::vector<Seen> seen_points(const Surface& surface, std::span<const survey::Point> points) {
    std::vector<Seen> out;
    const std::size_t step = std::max<std::size_t>(1, points.size() / asked_readings);
    for (std::size_t i = 0; i < points.size(); i += step) {
        const ChartPoint c = surface.locate(points[i].position);
        out.push_back({&points[i], surface.at({c.s, c.v}).normal});
    }
    return out;
}

double by_point(const std::vector<Seen>& seen, const Vec3& inside) {
    double sum = 0;
    for (const Seen& s : seen) {
        const Vec3 away = s.point->position - inside;
        if (away.norm() > 1e-9) sum += s.normal.dot(away.normalized());
    }
    return sum;
}

struct Votes {
    double outward = 0;
    std::map<int, double> of_set;  ///< mean cosine between the normal and the way from the instrument
};
Votes by_instruments(const std::vector<Seen>& seen) {
    std::map<int, std::pair<double, int>> sums;
    for (const Seen& s : seen)
        if (s.point->inboard.squaredNorm() > 0) {
            auto& [sum, count] = sums[s.point->set];
            sum -= s.normal.dot(s.point->inboard);
            ++count;
        }
    Votes out;
    for (const auto& [set, vote] : sums) {
        out.of_set[set] = vote.first / vote.second;
        out.outward += out.of_set[set] * std::min<double>(vote.second, most_votes);
    }
    return out;
}

Vec3 mean_normal(const std::vector<Seen>& seen) {
    Vec3 sum = Vec3::Zero();
    for (const Seen& s : seen) sum += s.normal / static_cast<double>(seen.size());
    return sum;
}

/// Hulls turn outboard: the mean of the normal's way from the centre line, by how far the readings lie off it.
double from_centre_line(const std::vector<Seen>& seen) {
    double sum = 0, all = 1e-9;
    for (const Seen& s : seen) {
        sum += s.normal.y() * s.point->position.y();
        all += std::abs(s.point->position.y());
    }
    return sum / all;
}

/// How a surface seen from above bends across the boat: positive where it is a trough (a bottom), negative where it
/// is a camber (a deck). Second derivative of z over y, per metre.
double trough(const std::vector<Seen>& seen) {
    Eigen::MatrixXd a(seen.size(), 6);
    Eigen::VectorXd z(seen.size());
    Vec3 middle = Vec3::Zero();
    for (const Seen& s : seen) middle += s.point->position / static_cast<double>(seen.size());
    for (std::size_t i = 0; i < seen.size(); ++i) {
        const Vec3 p = (seen[i].point->position - middle) / 1000;
        const auto row = static_cast<Eigen::Index>(i);
        a.row(row) << 1, p.x(), p.y(), p.x() * p.x(), p.x() * p.y(), p.y() * p.y();
        z[row] = p.z();
    }
    return 2 * geometry::least_squares(a, z)[5];
}

/// By the centre line; else over a bottom or under a deck by how it bends; else forward of what faces aft.
void judge_hull(const std::vector<Seen>& seen, const Vec3& mean, Inside& out) {
    constexpr double clearly_outboard = 0.2, clearly_bent = 0.01;
    if (const double side = from_centre_line(seen); std::abs(side) > clearly_outboard) {
        out.outward = side < 0 ? -1 : 1;
        out.from = Inside::From::centre_line;
    } else if (std::abs(mean.z()) > std::abs(mean.x())) {
        const double bend = trough(seen);
        const double down = mean.z() < 0 ? 1 : -1;
        out.outward = bend < -clearly_bent ? -down : down;
        out.from = std::abs(bend) > clearly_bent ? Inside::From::curvature : Inside::From::assumed;
    } else {
        out.outward = mean.x() < 0 ? 1 : -1;
        out.from = Inside::From::assumed;
    }
}

void judge_part(const std::vector<Seen>& seen, const InsideRule& rule, Inside& out) {
    const Vec3 mean = mean_normal(seen);
    out.from = Inside::From::part;
    switch (rule.part) {
        case SurfacePart::hull: judge_hull(seen, mean, out); return;
        case SurfacePart::deckhead: out.outward = mean.z() < 0 ? -1 : 1; return;
        case SurfacePart::sole: out.outward = mean.z() < 0 ? 1 : -1; return;
        case SurfacePart::transom: out.outward = mean.x() < 0 ? 1 : -1; return;
        case SurfacePart::bulkhead: break;
    }
    if (rule.elsewhere) {
        out.outward = by_point(seen, *rule.elsewhere) < 0 ? -1 : 1;
        out.from = Inside::From::elsewhere;
    } else {
        out.outward = mean.x() < 0 ? 1 : -1;
        out.from = Inside::From::assumed;
    }
}

}  // namespace

std::string_view part_name(SurfacePart part) {
    static constexpr std::string_view names[] = {"hull side or bottom", "deckhead", "sole", "transom", "bulkhead"};
    return names[static_cast<int>(part)];
}

Inside judge_inside(const Surface& surface, std::span<const survey::Point> points, const InsideRule& rule) {
    // By the surface's own normal, whichever way it was turned before.
    std::vector<Seen> seen = seen_points(surface, points);
    for (Seen& s : seen) s.normal *= surface.data().outward;
    Inside out;
    if (seen.empty()) return out;
    const Votes votes = by_instruments(seen);
    double counted = 1e-9;
    for (const auto& [set, cosine] : votes.of_set) counted += std::abs(cosine) > 0 ? 1 : 0;
    if (rule.said) {
        out.outward = by_point(seen, *rule.said) < 0 ? -1 : 1;
        out.from = Inside::From::said;
    } else if (std::abs(votes.outward) > clear_cosine * counted) {
        out.outward = votes.outward < 0 ? -1 : 1;
        out.from = Inside::From::instrument;
    } else {
        judge_part(seen, rule, out);
    }
    constexpr double plainly = 0.2;
    for (const auto& [set, cosine] : votes.of_set)
        if (cosine * out.outward < -plainly) out.against.push_back(set);
    const Vec3 mean = -out.outward * mean_normal(seen);
    out.toward = mean.norm() > 1e-9 ? mean.normalized() : Vec3::Zero();
    return out;
}

std::string from_words(Inside::From from) {
    switch (from) {
        case Inside::From::said: return "as you said";
        case Inside::From::instrument: return "known from where the instrument stood";
        case Inside::From::centre_line: return "towards the centre line";
        case Inside::From::part: return "by what it is of the boat";
        case Inside::From::elsewhere: return "towards what else was measured";
        case Inside::From::curvature: return "by how it bends";
        case Inside::From::assumed: break;
    }
    return "assumed: turn it round if it is not so";
}

std::string direction_words(const Vec3& toward) {
    static constexpr const char* names[3][2] = {
        {"aft of it", "forward of it"}, {"to starboard of it", "to port of it"}, {"below it", "above it"}};
    int order[] = {0, 1, 2};
    std::sort(order, order + 3, [&](int a, int b) { return std::abs(toward[a]) > std::abs(toward[b]); });
    if (toward.norm() < 0.5) return "all round";
    std::string out = names[order[0]][toward[order[0]] > 0];
    if (std::abs(toward[order[1]]) > 0.5) out += fmt::format(" and {}", names[order[1]][toward[order[1]] > 0]);
    return out;
}

Vec3 way_in(const survey::Point& point, const InsideRule& rule) {
    if (rule.said) {
        const Vec3 way = *rule.said - point.position;
        return way.norm() > 1e-9 ? way.normalized() : Vec3::Zero();
    }
    if (point.inboard.squaredNorm() > 0) return point.inboard;
    switch (rule.part) {
        case SurfacePart::hull:
            return std::abs(point.position.y()) < 1 ? Vec3::Zero() : Vec3(0, point.position.y() < 0 ? 1 : -1, 0);
        case SurfacePart::deckhead: return {0, 0, -1};
        case SurfacePart::sole: return {0, 0, 1};
        case SurfacePart::transom: return {1, 0, 0};
        case SurfacePart::bulkhead: break;
    }
    return Vec3::Zero();
}

Vec3 point_beyond(const Surface& surface, std::span<const survey::Point> points) {
    const std::vector<Seen> seen = seen_points(surface, points);
    Vec3 middle = Vec3::Zero();
    for (const Seen& s : seen) middle += s.point->position / static_cast<double>(seen.size());
    const Vec3 mean = mean_normal(seen);
    // Of a hull read all round no side is the outer one: above an open boat then.
    const Vec3 way = mean.norm() > 0.05 ? mean.normalized() : Vec3(0, 0, 1);
    double reach = 100;
    for (const Seen& s : seen) reach = std::max(reach, (s.point->position - middle).norm());
    for (double farther : {0.5, 1.0, 2.0, 5.0, 20.0}) {
        const Vec3 out = middle + farther * reach * way;
        if (by_point(seen, out) < 0) return out;
    }
    return middle + 20 * reach * way;
}

}  // namespace bevelsmith::hull
