#include "hull/keel.h"

#include <algorithm>
#include <cmath>

#include "hull/ridges.h"
#include "hull/section.h"
#include "units/quantity.h"

namespace bevelsmith::hull {
namespace {

constexpr double bends_more = 3, least_lower_mm = 3;

/// Height of a section at `y`: of its lowest crossing.
std::optional<double> height_at(const std::vector<SectionRun>& runs, double y) {
    std::optional<double> out;
    for (const auto& run : runs)
        for (std::size_t i = 1; i < run.points.size(); ++i) {
            const Vec3 &p = run.points[i - 1].a, &q = run.points[i].a;
            if ((p.y() - y) * (q.y() - y) > 0 || p.y() == q.y()) continue;
            const double z = p.z() + (q.z() - p.z()) * (y - p.y()) / (q.y() - p.y());
            if (!out || z < *out) out = z;
        }
    return out;
}

/// Distances from the centre line at which one side was read: the nearest, and two farther out, each as far again as
/// the nearest at least, so that the surface lies on readings there and not between them.
struct ReadAt {
    double mm[3] = {};
};
std::optional<ReadAt> read_at(const FittedSurface& fit, std::span<const survey::Point> points, double sign) {
    std::vector<double> off;
    for (std::size_t i = 0; i < points.size() && i < fit.report.readings.size(); ++i)
        if (!fit.report.readings[i].suspect && sign * points[i].position.y() >= 0)
            off.push_back(sign * points[i].position.y());
    std::sort(off.begin(), off.end());
    if (off.empty()) return std::nullopt;
    ReadAt out{{off.front(), 0, 0}};
    for (int k = 1; k < 3; ++k) {
        const auto next = std::lower_bound(off.begin(), off.end(), out.mm[k - 1] + off.front());
        if (next == off.end()) return std::nullopt;
        out.mm[k] = *next;
    }
    return out;
}

/// One side of the section, outward from the nearest reading.
struct KeelSide {
    double meets_mm = 0;          ///< height at which its first chord meets the centre line
    double rises_rad = 0;         ///< of that chord
    double middle_mm = 0;         ///< how far out it lies
    double bends_rad_per_mm = 0;  ///< from it to the second
};
std::optional<KeelSide> keel_side(const std::vector<SectionRun>& runs, const ReadAt& at, double sign) {
    const auto z0 = height_at(runs, sign * at.mm[0]), z1 = height_at(runs, sign * at.mm[1]),
               z2 = height_at(runs, sign * at.mm[2]);
    if (!z0 || !z1 || !z2) return std::nullopt;
    const double first = (*z1 - *z0) / (at.mm[1] - at.mm[0]), second = (*z2 - *z1) / (at.mm[2] - at.mm[1]);
    const double apart = (at.mm[2] - at.mm[0]) / 2;
    return KeelSide{*z0 - first * at.mm[0], std::atan(first), (at.mm[0] + at.mm[1]) / 2,
                    (std::atan(second) - std::atan(first)) / apart};
}

}  // namespace

std::optional<KeelUnread> keel_unread(const FittedSurface& fit, std::span<const survey::Point> points) {
    const auto port = read_at(fit, points, 1), starboard = read_at(fit, points, -1);
    if (!port || !starboard || std::min(port->mm[0], starboard->mm[0]) < near_keel_mm) return std::nullopt;
    const auto nearest = std::min_element(points.begin(), points.end(), [](const auto& a, const auto& b) {
        return std::abs(a.position.y()) < std::abs(b.position.y());
    });
    KeelUnread out;
    out.x_mm = nearest->position.x(), out.port_mm = port->mm[0], out.starboard_mm = starboard->mm[0];
    const auto runs = cut_section(fit.surface, {Vec3::UnitX(), out.x_mm}, 1);
    if (!runs) return std::nullopt;
    const auto middle = height_at(*runs, 0);
    const auto left = keel_side(*runs, *port, 1), right = keel_side(*runs, *starboard, -1);
    if (!middle || !left || !right) return std::nullopt;
    const double turn = left->rises_rad + right->rises_rad, between = left->middle_mm + right->middle_mm;
    const double beside = (left->bends_rad_per_mm + right->bends_rad_per_mm) / 2;
    out.turn_deg = units::degrees(turn);
    out.lower_mm = *middle - (left->meets_mm + right->meets_mm) / 2;
    if (out.turn_deg < ridge_kink_deg || out.lower_mm < least_lower_mm) return std::nullopt;
    if (turn / between < bends_more * beside) return std::nullopt;
    return out;
}

}  // namespace bevelsmith::hull
