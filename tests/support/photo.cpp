#include "support/photo.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <numbers>
#include <random>

namespace photos {
namespace {

constexpr double mark_radius_mm = 9;
constexpr double card_shade = 196, floor_shade = 84, mark_shade = 30;

/// Face (mm) to straight pixels of a pinhole camera that looks at the card's middle.
Eigen::Matrix3d camera(const Template& card, const Shot& shot) {
    const double tilt = shot.tilt_deg * std::numbers::pi / 180, toward = shot.toward_deg * std::numbers::pi / 180;
    const Vec3 middle(card.length_mm / 2, 210, 0);
    const double focal = shot.width, distance = 1.22 * card.length_mm;
    const Vec3 lean(std::cos(toward), std::sin(toward), 0);
    const Vec3 eye = middle + distance * (std::sin(tilt) * lean + std::cos(tilt) * Vec3::UnitZ());
    const Vec3 look = (middle - eye).normalized();
    Vec3 up = (Vec3::UnitY() - look * look.y()).normalized();
    const Vec3 right = look.cross(up);
    Eigen::Matrix3d rotation;
    rotation << right.transpose(), -up.transpose(), look.transpose();
    Eigen::Matrix3d lens;
    lens << focal, 0, shot.width / 2.0, 0, focal, shot.height / 2.0, 0, 0, 1;
    Eigen::Matrix3d plane;
    plane << rotation.col(0), rotation.col(1), -rotation * eye;
    return lens * plane;
}

double shade_at(const Template& card, const Vec2& face) {
    for (const Vec2& mark : card.marks)
        if ((face - mark).norm() < mark_radius_mm) return mark_shade;
    return card.holds(face) ? card_shade : floor_shade;
}

}  // namespace

double Template::height_mm(double x) const {
    return 340 + 70 * std::sin(x / 380) + 25 * std::sin(x / 140);
}

bool Template::holds(const Vec2& p) const {
    return p.x() >= 0 && p.x() <= length_mm && p.y() >= 0 && p.y() <= height_mm(p.x());
}

double Template::off_mm(const Vec2& p) const {
    const auto to_segment = [&](const Vec2& a, const Vec2& b) { return geometry::distance_to_segment_mm(p, a, b); };
    const Vec2 a(0, 0), b(length_mm, 0), c(length_mm, height_mm(length_mm)), d(0, height_mm(0));
    double least = std::min({to_segment(a, b), to_segment(b, c), to_segment(d, a)});
    constexpr double step = 1;
    for (double x = 0; x < length_mm; x += step)
        if (std::abs(x - p.x()) < 60)
            least = std::min(least, to_segment({x, height_mm(x)}, {x + step, height_mm(x + step)}));
    return least;
}

Photo rendered(const Template& card, const Shot& shot) {
    const Eigen::Matrix3d to_pixel = camera(card, shot), to_face = to_pixel.inverse();
    Photo out;
    out.lens = {shot.width, shot.height, shot.bow};
    out.image = {shot.width, shot.height, {}};
    out.image.pixels.resize(static_cast<std::size_t>(shot.width * shot.height));
    out.pixel_of = [to_pixel, lens = out.lens](const Vec2& face) {
        return lens.bent((to_pixel * face.homogeneous()).hnormalized());
    };
    for (std::size_t k = 0; k < 4; ++k) out.marks_px[k] = out.pixel_of(card.marks[k]);
    std::mt19937 random(shot.seed);
    std::normal_distribution<double> noise(0, std::max(shot.noise, 1e-9));
    constexpr int fine = 3;
    for (int j = 0; j < shot.height; ++j)
        for (int i = 0; i < shot.width; ++i) {
            double sum = 0;
            for (int a = 0; a < fine; ++a)
                for (int b = 0; b < fine; ++b) {
                    const Vec2 pixel(i + (a + 0.5) / fine - 0.5, j + (b + 0.5) / fine - 0.5);
                    sum += shade_at(card, (to_face * out.lens.straightened(pixel).homogeneous()).hnormalized());
                }
            const double light = shot.shading * (static_cast<double>(i) / shot.width - 0.5);
            const double value = sum / (fine * fine) + light + noise(random);
            out.image.pixels[static_cast<std::size_t>(j * shot.width + i)] =
                static_cast<std::uint8_t>(std::clamp(value, 0.0, 255.0));
        }
    return out;
}

}  // namespace photos
