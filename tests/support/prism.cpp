#include "support/prism.h"

#include <algorithm>
#include <stdexcept>

using namespace bevelsmith;

namespace prisms {
namespace {

constexpr double station_mm = 250;
constexpr double declared_mm = 0.2;

}  // namespace

Prism hard_chined() {
    return {{{-1150, 500}, {-900, -300}, {0, -600}, {900, -300}, {1150, 500}}};
}

Prism with_a_garboard() {
    return {{{-1100, 500}, {-300, -350}, {0, -900}, {300, -350}, {1100, 500}}};
}

std::vector<geometry::Plane> Prism::faces() const {
    std::vector<geometry::Plane> out;
    for (std::size_t i = 0; i + 1 < section.size(); ++i) {
        const Vec2 along = (section[i + 1] - section[i]).normalized();
        const Vec3 normal(0, along.y(), -along.x());
        out.push_back({normal, normal.dot(Vec3(0, section[i].x(), section[i].y()))});
    }
    return out;
}

std::vector<survey::Point> Prism::points() const {
    std::vector<survey::Point> out;
    for (double x = 0; x <= length_mm; x += station_mm)
        for (std::size_t i = 0; i + 1 < section.size(); ++i)
            for (int k = 0; k < 8; ++k) {
                const Vec2 p = section[i] + (k + 0.5) / 8 * (section[i + 1] - section[i]);
                survey::Point point;
                point.position = {x, p.x(), p.y()};
                point.sigma_mm = declared_mm;
                out.push_back(point);
            }
    // Along the sheer, so that the readings surround the sides, and along the corners.
    for (double x = 0; x <= length_mm; x += station_mm)
        for (const Vec2& p : section) {
            survey::Point point;
            point.position = {x, p.x(), p.y()};
            point.sigma_mm = declared_mm;
            out.push_back(point);
        }
    return out;
}

std::vector<survey::ReadingSet> Prism::sets() const {
    const auto set_of = [](const std::vector<Vec3>& places, bool line) {
        survey::ReadingSet out = survey::usual_set(survey::School::direct);
        out.surface_id = "hull";
        out.hard_line = line;
        out.sigma_mm = declared_mm;
        for (const Vec3& p : places) out.readings.emplace_back().values = {p.x(), p.y(), p.z()};
        return out;
    };
    std::vector<Vec3> all;
    for (const auto& p : points()) all.push_back(p.position);
    std::vector<survey::ReadingSet> out{set_of(all, false)};
    for (const auto& line : lines()) out.push_back(set_of(line, true));
    return out;
}

std::vector<std::vector<Vec3>> Prism::lines() const {
    std::vector<std::vector<Vec3>> out;
    for (std::size_t i = 1; i + 1 < section.size(); ++i) {
        out.emplace_back();
        for (double x = 0; x <= length_mm; x += station_mm) out.back().push_back({x, section[i].x(), section[i].y()});
    }
    return out;
}

hull::FittedSurface Prism::fit() const {
    hull::FitOptions options;
    options.inside = Vec3(length_mm / 2, 0, 200);
    options.hard_lines = lines();
    auto fit = hull::fit_surface(points(), options);
    if (!fit) throw std::runtime_error(fit.error().message);
    return std::move(fit.value());
}

double Prism::outside_mm(const Vec3& p) const {
    double out = -1e9;
    for (const auto& face : faces()) out = std::max(out, face.distance_mm(p));
    return out;
}

double Prism::out_of_topsides_mm(const Vec3& p) const {
    const auto all = faces();
    return std::max(all.front().distance_mm(p), all.back().distance_mm(p));
}

double Prism::out_of_bottom_mm(const Vec3& p) const {
    const auto all = faces();
    return std::max(all[1].distance_mm(p), all[2].distance_mm(p));
}

Vec3 Prism::on_topsides(double x, double z, double t) const {
    const auto face = faces().back();
    return {x, (face.d_mm - t - face.normal.z() * z) / face.normal.y(), z};
}

Vec2 Prism::mitre(std::size_t k, double t) const {
    const auto all = faces();
    const Vec3 a = all[k].normal, b = all[k + 1].normal;
    const Vec2 corner = section[k + 1];
    const Vec2 sum(a.y() + b.y(), a.z() + b.z());
    return corner - t / (1 + a.dot(b)) * sum;
}

std::vector<geometry::Plane> Prism::fillings(double layer_mm, double fill_mm) const {
    std::vector<geometry::Plane> out;
    for (std::size_t k = 0; k + 2 < section.size(); ++k) {
        const Vec2 corner = mitre(k, layer_mm);
        const Vec2 one = corner + fill_mm * (section[k] - section[k + 1]).normalized();
        const Vec2 other = corner + fill_mm * (section[k + 2] - section[k + 1]).normalized();
        const Vec2 middle = (one + other) / 2, way = (corner - middle).normalized();
        const Vec3 normal(0, way.x(), way.y());
        out.push_back({normal, normal.dot(Vec3(0, one.x(), one.y()))});
    }
    return out;
}

bool Prism::surveyed(const Vec3& p, double margin_mm) const {
    return p.x() > margin_mm && p.x() < length_mm - margin_mm && p.z() < section.front().y() - margin_mm;
}

geometry::Ring Prism::section_closed_above() const {
    geometry::Ring out = section;
    constexpr double above = 3000;
    const Vec2 starboard = (section[0] - section[1]).normalized(),
               port = (section.back() - section[section.size() - 2]).normalized();
    out.back() += above * port;
    out.front() += above * starboard;
    return out;
}

CutOfConvex::CutOfConvex(const Prism& prism, const geometry::Plane& plane, double layer_mm, double fill_mm)
    : frame_(geometry::upright_frame(plane)) {
    constexpr double far = 20000;
    geometry::Ring ring{{-far, -far}, {far, -far}, {far, far}, {-far, far}};
    std::vector<bool> of_hull(4, false);
    std::vector<geometry::Plane> inner = prism.faces();
    for (auto& face : inner) face.d_mm -= layer_mm;
    if (fill_mm > 0)
        for (const auto& filling : prism.fillings(layer_mm, fill_mm)) inner.push_back(filling);
    for (const auto& face : inner) {
        geometry::Ring kept;
        std::vector<bool> kept_of_hull;
        const auto off = [&](const Vec2& q) { return face.distance_mm(frame_.to_space(q)); };
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const Vec2 &p = ring[i], &q = ring[(i + 1) % ring.size()];
            const double a = off(p), b = off(q);
            if (a <= 0) kept.push_back(p), kept_of_hull.push_back(of_hull[i]);
            if ((a <= 0) != (b <= 0)) {
                kept.push_back(p + a / (a - b) * (q - p));
                kept_of_hull.push_back(a <= 0 ? true : of_hull[i]);
            }
        }
        ring = kept, of_hull = kept_of_hull;
    }
    for (std::size_t i = 0; i < ring.size(); ++i)
        if (of_hull[i]) sides_.push_back({ring[i], ring[(i + 1) % ring.size()]});
}

double CutOfConvex::off_mm(const Vec3& p) const {
    double least = 1e9;
    for (const auto& [a, b] : sides_)
        least = std::min(least, geometry::distance_to_segment_mm(frame_.to_plane(p), a, b));
    return least;
}

std::vector<Vec3> CutOfConvex::points(const Prism& prism, double margin_mm) const {
    std::vector<Vec3> out;
    for (const auto& [a, b] : sides_) {
        const int n = static_cast<int>((b - a).norm() / 12) + 1;
        for (int i = 0; i <= n; ++i) {
            const Vec3 p = frame_.to_space(a + static_cast<double>(i) / n * (b - a));
            if (prism.surveyed(p, margin_mm)) out.push_back(p);
        }
    }
    return out;
}

double off_polylines_mm(const Vec3& p, const std::vector<hull::SectionRun>& runs, Vec3 hull::SectionPoint::*face) {
    double least = 1e9;
    for (const auto& run : runs)
        for (std::size_t i = 0; i + 1 < run.points.size(); ++i) {
            const Vec3 a = run.points[i].*face, b = run.points[i + 1].*face;
            const double square = (b - a).squaredNorm();
            const double t = square > 0 ? std::clamp((p - a).dot(b - a) / square, 0.0, 1.0) : 0;
            least = std::min(least, (a + t * (b - a) - p).norm());
        }
    return least;
}

}  // namespace prisms
