#include "support/shapes.h"

#include <cmath>

namespace shapes {

Shape sphere_cap(double radius, double half_angle) {
    return {[=](double u, double v) {
                // A square of parameters onto the cap: straight lines through its middle stay so.
                const double x = 2 * u - 1, y = 2 * v - 1, polar = half_angle * std::max(std::abs(x), std::abs(y));
                const double turn = std::atan2(y, x);
                return Vec3(radius * std::sin(polar) * std::cos(turn), radius * std::sin(polar) * std::sin(turn),
                            -radius * std::cos(polar));
            },
            [=](const Vec3& p) { return p.norm() - radius; }, [](const Vec3& p) { return Vec3(p.normalized()); }};
}

Shape cylinder(double radius, double length, double first, double last) {
    return cone(radius, length, 0, first, last);
}

Shape cone(double radius, double length, double half_angle, double first, double last) {
    const double slope = std::tan(half_angle);
    return {[=](double u, double v) {
                const double x = length * u, a = first + (last - first) * v, r = radius + slope * x;
                return Vec3(x, r * std::cos(a), r * std::sin(a));
            },
            [=](const Vec3& p) { return (std::hypot(p.y(), p.z()) - radius - slope * p.x()) * std::cos(half_angle); },
            [=](const Vec3& p) {
                const double r = std::hypot(p.y(), p.z());
                return Vec3(Vec3(-slope, p.y() / r, p.z() / r).normalized());
            }};
}

Shape wigley_side(double length, double beam, double draught) {
    const auto y = [=](double x, double z) {
        return beam / 2 * (1 - std::pow(2 * x / length, 2)) * (1 - std::pow(z / draught, 2));
    };
    const auto gradient = [=](const Vec3& p) {
        const double fx = beam / 2 * (-8 * p.x() / (length * length)) * (1 - std::pow(p.z() / draught, 2));
        const double fz = beam / 2 * (1 - std::pow(2 * p.x() / length, 2)) * (-2 * p.z() / (draught * draught));
        return Vec3(-fx, 1, -fz);
    };
    return {[=](double u, double v) {
                const double x = length * (0.7 * u - 0.35), z = -0.8 * draught * (1 - v);
                return Vec3(x, y(x, z), z);
            },
            [=](const Vec3& p) { return (p.y() - y(p.x(), p.z())) / gradient(p).norm(); },
            [=](const Vec3& p) { return Vec3(gradient(p).normalized()); }};
}

std::vector<bevelsmith::survey::Point> readings(const Shape& shape, int across, int along, double declared,
                                                double noise, std::uint32_t seed) {
    std::mt19937 random(seed);
    std::normal_distribution<double> error(0, noise > 0 ? noise : 1);
    std::vector<bevelsmith::survey::Point> out;
    for (int i = 0; i < across; ++i)
        for (int j = 0; j < along; ++j) {
            Vec3 p = shape.at(i / (across - 1.0), j / (along - 1.0));
            if (noise > 0) p += shape.normal(p) * error(random);
            out.push_back({p, declared, 0, static_cast<int>(out.size()) + 1});
        }
    return out;
}

std::vector<bevelsmith::survey::Point> scattered(const Shape& shape, int count, double declared, std::uint32_t seed) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> share(0, 1);
    std::vector<bevelsmith::survey::Point> out;
    for (int i = 0; i < count; ++i) {
        const double u = share(random), v = share(random);
        out.push_back({shape.at(u, v), declared});
    }
    return out;
}

}  // namespace shapes
