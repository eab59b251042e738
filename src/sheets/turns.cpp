#include "sheets/turns.h"

#include <algorithm>
#include <cmath>

#include "units/quantity.h"

namespace bevelsmith::sheets {
namespace {

using geometry::Polygon;

/// Outlines are simplified by this much, outwards; the exact judgement sees the true ones.
constexpr double cover_mm = 0.1;
constexpr std::size_t few_corners = 40;
constexpr double step_deg = 1;
/// Of a whole turn every so many steps one is tried at random; of a tolerance some on either side.
constexpr int coarse_steps = 5, tried_a_side = 6;
/// So many of a part's longest edges are laid along the sheet.
constexpr std::size_t edges_along = 4;

Polygon grown(const Part& part, double spacing_mm) {
    Polygon shape = geometry::oriented(part.shape);
    if (shape.outer.size() > few_corners) shape = geometry::simplified_cover(shape, cover_mm);
    const double grow = spacing_mm / 2 - slack_mm(spacing_mm);
    if (grow == 0) return shape;
    auto out = geometry::offset(shape, grow, geometry::Corner::mitre);
    return out.empty() ? shape : geometry::largest(std::move(out));
}

/// Directions (degrees) of the longest edges.
std::vector<double> long_edges(const Polygon& shape) {
    std::vector<std::pair<double, double>> edges;
    for (std::size_t i = 0; i < shape.outer.size(); ++i) {
        const Vec2 along = shape.outer[(i + 1) % shape.outer.size()] - shape.outer[i];
        edges.emplace_back(-along.norm(), units::degrees(std::atan2(along.y(), along.x())));
    }
    std::sort(edges.begin(), edges.end());
    std::vector<double> out;
    for (const auto& edge : edges)
        if (out.size() < edges_along) out.push_back(edge.second);
    return out;
}

double within_turn(double deg) {
    deg = std::fmod(deg, 360);
    return deg < 0 ? deg + 360 : deg;
}

}  // namespace

Turns::Turns(const Part& part, double spacing_mm) {
    const Polygon shape = grown(part, spacing_mm);
    plain_ = make_body(shape);
    mirrored_ = mirrored(plain_);
    for (const bool over : {false, true}) {
        if (over && !part.either_face) break;
        if (part.any_rotation) {
            add_range(0, 180, over);
            add_along(part, over, 0, 180);
            continue;
        }
        for (double r : part.rotations_deg) {
            add_range(r, part.tolerance_deg, over);
            if (part.tolerance_deg > 0) add_along(part, over, r, part.tolerance_deg);
        }
    }
    bodies_.resize(poses_.size());
}

void Turns::add_range(double centre_deg, double tolerance_deg, bool turned_over) {
    const int first = count();
    const bool whole = tolerance_deg >= 180;
    const int steps = whole ? 180 : static_cast<int>(std::ceil(tolerance_deg / step_deg));
    const double step = steps == 0 ? 0 : tolerance_deg / steps;
    for (int k = -steps; k <= steps; ++k) {
        if (whole && k == steps) break;  // the same as -180
        Pose pose{whole ? within_turn(centre_deg + k * step) : centre_deg + k * step, turned_over, count() - 1,
                  count() + 1};
        if (k == 0 || k % (whole ? coarse_steps : std::max(1, steps / tried_a_side)) == 0)
            favoured_.push_back(count());
        poses_.push_back(pose);
    }
    const int last = count() - 1;
    poses_[static_cast<std::size_t>(first)].back = whole ? last : first;
    poses_[static_cast<std::size_t>(last)].on = whole ? first : last;
    free_ = free_ || steps > 0;
}

void Turns::add_along(const Part& part, bool turned_over, double centre_deg, double tolerance_deg) {
    for (double edge : long_edges(turned_over ? geometry::mirrored(part.shape) : part.shape))
        for (int quarter = 0; quarter < 4; ++quarter) {
            const double rotation = within_turn(90.0 * quarter - edge);
            const double off = std::remainder(rotation - centre_deg, 360);
            if (std::abs(off) > tolerance_deg) continue;
            const auto beside = std::min_element(poses_.begin(), poses_.end(), [&](const Pose& a, const Pose& b) {
                const auto far = [&](const Pose& p) {
                    return std::abs(std::remainder(p.rotation_deg - rotation, 360)) +
                           (p.turned_over == turned_over ? 0 : 1000);
                };
                return far(a) < far(b);
            });
            const int near = static_cast<int>(beside - poses_.begin());
            // Often: an edge along another wastes nothing between them.
            for (int k = 0; k < 3; ++k) favoured_.push_back(count());
            poses_.push_back({rotation, turned_over, pose(near).back, pose(near).on});
        }
}

const Body& Turns::body(int turn) const {
    auto& kept = bodies_[static_cast<std::size_t>(turn)];
    if (!kept)
        kept = std::make_unique<const Body>(
            turned(turned_over(turn) ? mirrored_ : plain_, units::radians(rotation_deg(turn))));
    return *kept;
}

int Turns::random(std::mt19937& random) const {
    return favoured_[random() % favoured_.size()];
}

int Turns::beside(int turn, int by) const {
    return by > 0 ? pose(turn).on : pose(turn).back;
}

int Turns::of(double rotation_deg, bool turned_over) {
    for (int k = 0; k < count(); ++k)
        if (pose(k).turned_over == turned_over &&
            std::abs(std::remainder(pose(k).rotation_deg - rotation_deg, 360)) < 1e-9)
            return k;
    poses_.push_back({rotation_deg, turned_over, count(), count()});
    bodies_.emplace_back();
    return count() - 1;
}

}  // namespace bevelsmith::sheets
