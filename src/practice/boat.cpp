#include "practice/boat.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <random>

namespace bevelsmith::practice {
namespace {

constexpr int lump_count = 8;

double square(double x) {
    return x * x;
}

}  // namespace

VirtualBoat::VirtualBoat(const BoatSpec& spec) : spec_(spec) {
    std::mt19937 random(spec.seed);
    std::uniform_real_distribution<double> share(0, 1);
    beam_ = 1150 + 300 * share(random);
    depth_ = 750 + 250 * share(random);
    fullness_ = 2.2 + 0.5 * share(random);
    for (int k = 0; k < lump_count; ++k) {
        const double length = 350 + 550 * share(random), heading = 2 * std::numbers::pi * share(random);
        const double wave = 2 * std::numbers::pi / length;
        lumps_.push_back({wave * std::cos(heading), wave * std::sin(heading), 2 * std::numbers::pi * share(random)});
    }
}

double VirtualBoat::half_beam_mm(double x) const {
    const double fore = spec_.form == HullForm::flared_bow ? 0.42 : 0.22;
    return beam_ * (1 - fore * square(std::max(0.0, x + 400) / (length_mm + 400)));
}

double VirtualBoat::depth_mm(double x) const {
    return depth_ * (1 - 0.12 * square(x / length_mm));
}

double VirtualBoat::fair_radius_mm(double x, double angle) const {
    const double c = std::abs(std::cos(angle)), s = std::sin(angle);
    const double b = half_beam_mm(x), d = depth_mm(x);
    if (spec_.form == HullForm::hard_chine) {
        const double yc = 0.88 * b, zc = -0.35 * d;
        // Topsides from the chine to the half beam 400 mm above the axis; bottom from the chine to the keel.
        const Vec2 top = Vec2(400 - zc, -(b - yc)).normalized(), bottom = Vec2(d + zc, -yc).normalized();
        const double from_top = top.dot(Vec2(yc, zc)) / std::max(1e-9, top.dot(Vec2(c, s)));
        const double facing = bottom.dot(Vec2(c, s));
        const double from_bottom = facing > 1e-9 ? bottom.dot(Vec2(yc, zc)) / facing : 1e9;
        return std::min(from_top, from_bottom);
    }
    // A superellipse below the axis, nearly upright topsides above it.
    const double height = s < 0 ? d : 5 * d;
    const double r = std::pow(std::pow(c / b, fullness_) + std::pow(std::abs(s) / height, fullness_), -1 / fullness_);
    if (spec_.form == HullForm::round_bilge) return r;
    return r * (1 + 0.38 * square(std::max(0.0, x) / length_mm) * s);  // flare: wider above, finer below
}

double VirtualBoat::radius_mm(double x, double angle) const {
    double r = fair_radius_mm(x, angle);
    if (std::cos(angle) < 0 && spec_.lopsided_mm != 0) {
        const double along = 0.6 + 0.4 * std::cos(2 * x / length_mm);
        r -= spec_.lopsided_mm * along * square(std::cos(angle));
    }
    if (spec_.lumpy_mm != 0) {
        double sum = 0;
        for (const Lump& l : lumps_) sum += std::sin(l.along * x + l.around * 1000 * angle + l.phase);
        r += spec_.lumpy_mm / 3 * sum * std::sqrt(2.0 / lump_count);
    }
    return r;
}

Vec3 VirtualBoat::at(double x, double angle) const {
    const double r = radius_mm(x, angle);
    return {x, r * std::cos(angle), r * std::sin(angle)};
}

double VirtualBoat::beyond_mm(const Vec3& p) const {
    double angle = std::atan2(p.z(), p.y());
    if (angle > std::numbers::pi / 2) angle -= 2 * std::numbers::pi;
    return std::hypot(p.y(), p.z()) - radius_mm(p.x(), angle);
}

Vec3 VirtualBoat::normal(const Vec3& p) const {
    constexpr double step = 0.01;
    Vec3 gradient;
    for (int k = 0; k < 3; ++k)
        gradient[k] = (beyond_mm(p + step * Vec3::Unit(k)) - beyond_mm(p - step * Vec3::Unit(k))) / (2 * step);
    return gradient.normalized();
}

double VirtualBoat::outside_mm(const Vec3& p) const {
    const Vec3 ray = Vec3(0, p.y(), p.z()) / std::max(std::hypot(p.y(), p.z()), 1e-9);
    return beyond_mm(p) * normal(p).dot(ray);
}

std::optional<Vec3> VirtualBoat::hit(const Vec3& from, const Vec3& direction) const {
    const Vec3 way = direction.normalized();
    constexpr double step = 20, farthest = 8000;
    double low = 0;
    for (double t = step; t < farthest; t += step) {
        const Vec3 p = from + t * way;
        const double angle = std::atan2(p.z(), std::abs(p.y()));
        if (p.x() < 0 || p.x() > length_mm || angle > highest_angle) return std::nullopt;
        if (beyond_mm(p) < 0) {
            low = t;
            continue;
        }
        double high = t;
        for (int k = 0; k < 50; ++k) {
            const double middle = (low + high) / 2;
            (beyond_mm(from + middle * way) < 0 ? low : high) = middle;
        }
        return Vec3(from + (low + high) / 2 * way);
    }
    return std::nullopt;
}

Vec3 VirtualBoat::chine(double x) const {
    const double angle = std::atan2(-0.35 * depth_mm(x), 0.88 * half_beam_mm(x));
    return at(x, angle);
}

Vec3 VirtualBoat::on_line(HullLine line, double x) const {
    if (line == HullLine::port_chine) return chine(x);
    if (line == HullLine::keel) return at(x, -std::numbers::pi / 2);
    const Vec3 port = chine(x);
    return at(x, -std::numbers::pi - std::atan2(port.z(), port.y()));
}

}  // namespace bevelsmith::practice
