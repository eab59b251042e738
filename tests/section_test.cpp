// Fit, section and bevel against surfaces known in closed form (derived from their definitions).
// Tolerances: 0.05 mm and 0.05 degrees, a tenth of what a pencil line and a saw's scale can show.
#include <catch2/catch.hpp>
#include <cmath>

#include "hull/fit.h"
#include "hull/section.h"
#include "support/shapes.h"
#include "units/quantity.h"

using namespace bevelsmith;
using shapes::Shape;

namespace {

constexpr double mm_tolerance = 0.05;
const double bevel_tolerance = units::radians(0.05);

struct Worst {
    double a_mm = 0, b_mm = 0, bevel_rad = 0;
    int surrounded = 0;
};

Worst worst_of(const std::vector<hull::SectionRun>& runs, const Shape& shape, const Vec3& n) {
    Worst worst;
    for (const auto& run : runs)
        for (const auto& p : run.points) {
            if (!p.in_survey) continue;
            ++worst.surrounded;
            worst.a_mm = std::max(worst.a_mm, std::abs(shape.off_mm(p.a)));
            worst.b_mm = std::max(worst.b_mm, std::abs(shape.off_mm(p.b)));
            worst.bevel_rad = std::max(worst.bevel_rad, std::abs(p.bevel_rad + std::asin(n.dot(shape.normal(p.a)))));
        }
    return worst;
}

void check_points(const std::vector<survey::Point>& points, const Shape& shape, const geometry::Plane& plane,
                  double thickness, hull::ChartChoice chart) {
    hull::FitOptions options;
    options.chart = chart;
    const auto fit = hull::fit_surface(points, options);
    REQUIRE(fit.ok());
    const auto runs = hull::cut_section(fit->surface, plane, thickness);
    REQUIRE(runs.ok());
    const Worst worst = worst_of(*runs, shape, plane.normal);
    INFO(points.size() << " readings " << fit->surface.chart().words() << ", scatter " << fit->report.scatter
                       << ", rms " << fit->report.rms_mm << ", smoothing " << fit->report.log10_smoothing_s << ","
                       << fit->report.log10_smoothing_v << " suspects " << fit->report.suspects() << " coefs "
                       << fit->report.coefficients);
    CHECK(worst.surrounded > 20);
    CHECK(worst.a_mm < mm_tolerance);
    CHECK(worst.b_mm < mm_tolerance);
    CHECK(worst.bevel_rad < bevel_tolerance);
}

void check_clean(const Shape& shape, const geometry::Plane& plane, double thickness, hull::ChartChoice chart,
                 int across = 40, int along = 40, double declared = 1.5) {
    check_points(shapes::readings(shape, across, along, declared), shape, plane, thickness, chart);
}

Vec3 leaning(double angle_rad) {
    return {std::cos(angle_rad), 0, std::sin(angle_rad)};
}

}  // namespace

TEST_CASE("a plane cuts a sphere with one bevel everywhere", "[section]") {
    const double radius = 2000, off = 600;
    const Shape sphere = shapes::sphere_cap(radius, units::radians(50));
    check_clean(sphere, {Vec3::UnitX(), off}, 18, hull::ChartChoice::automatic);
    const auto fit = hull::fit_surface(shapes::readings(sphere, 40, 40, 1.5));
    const auto runs = hull::cut_section(fit->surface, {Vec3::UnitX(), off}, 18);
    for (const auto& p : runs->front().points)
        if (p.in_survey) CHECK(p.bevel_rad == Approx(-std::asin(off / radius)).margin(bevel_tolerance));
}

TEST_CASE("a cylinder is cut square without bevel, leaning with a bevel from -k to +k", "[section]") {
    const double k = units::radians(20);
    for (auto chart : {hull::ChartChoice::automatic, hull::ChartChoice::axis}) {
        const Shape half = shapes::cylinder(1200, 3000, units::radians(-170), units::radians(-10));
        check_clean(half, {Vec3::UnitX(), 1400}, 12, chart);
        check_clean(half, {leaning(k), 1400 * std::cos(k)}, 12, chart);
    }
}

TEST_CASE("readings all around a cylinder close the section", "[section]") {
    const Shape tube = shapes::cylinder(900, 2500, units::radians(-180), units::radians(171));
    check_clean(tube, {Vec3::UnitX(), 1200}, 12, hull::ChartChoice::automatic);
    const double k = units::radians(15);
    const auto fit = hull::fit_surface(shapes::readings(tube, 30, 40, 1.5));
    REQUIRE(fit.ok());
    const auto runs = hull::cut_section(fit->surface, {leaning(k), 1200 * std::cos(k)}, 12);
    REQUIRE(runs.ok());
    REQUIRE(runs->size() == 1);
    CHECK(runs->front().closed);
    double least = 0, most = 0;
    for (const auto& p : runs->front().points) {
        least = std::min(least, p.bevel_rad);
        most = std::max(most, p.bevel_rad);
    }
    CHECK(least == Approx(-k).margin(bevel_tolerance));
    CHECK(most == Approx(k).margin(bevel_tolerance));
}

TEST_CASE("a cone that widens along n has one open bevel and a face B larger by t tan h", "[section]") {
    const double h = units::radians(12), t = 20;
    const Shape cone = shapes::cone(800, 2000, h, units::radians(-170), units::radians(-10));
    check_clean(cone, {Vec3::UnitX(), 900}, t, hull::ChartChoice::automatic);
    const auto fit = hull::fit_surface(shapes::readings(cone, 40, 40, 1.5));
    REQUIRE(fit.ok());
    const auto runs = hull::cut_section(fit->surface, {Vec3::UnitX(), 900}, t);
    for (const auto& p : runs->front().points) {
        if (!p.in_survey) continue;
        CHECK(p.bevel_rad == Approx(h).margin(bevel_tolerance));
        CHECK(std::hypot(p.b.y(), p.b.z()) - std::hypot(p.a.y(), p.a.z()) == Approx(t * std::tan(h)).margin(0.02));
    }
}

TEST_CASE("one side of the Wigley hull away from its keel", "[section]") {
    // Form: W.C.S. Wigley 1934; normal from its gradient (derived).
    const Shape side = shapes::wigley_side(9000, 2800, 1100);
    check_clean(side, {Vec3::UnitX(), 800}, 18, hull::ChartChoice::automatic);
    check_clean(side, {leaning(units::radians(10)), -1500}, 12, hull::ChartChoice::automatic);
    check_clean(side, {Vec3::UnitZ(), -450}, 15, hull::ChartChoice::automatic);
    check_clean(side, {Vec3::UnitX(), 800}, 18, hull::ChartChoice::axis);
    check_clean(side, {Vec3::UnitX(), 800}, 18, hull::ChartChoice::plane);
}

TEST_CASE("readings scattered at random serve as well as a grid, on any plane", "[section]") {
    std::mt19937 random(11);
    std::uniform_real_distribution<double> lean(-0.5, 0.5), where(0.25, 0.75);
    const std::vector<Shape> all{
        shapes::sphere_cap(2000, units::radians(50)),
        shapes::cylinder(1200, 3000, units::radians(-170), units::radians(-10)),
        shapes::cone(700, 3000, units::radians(10), units::radians(-160), units::radians(-20)),
        shapes::wigley_side(4000, 2000, 1100)};
    for (const Shape& shape : all)
        for (int count : {1600, 3000, 6000}) {
            const Vec3 n = Vec3(1, lean(random), lean(random)).normalized();
            const double d = n.dot(shape.at(where(random), where(random)));
            check_points(shapes::scattered(shape, count, 1.5, random()), shape, {n, d}, 18,
                         hull::ChartChoice::automatic);
        }
}

TEST_CASE("fewer clean readings still serve a fair side", "[section]") {
    const Shape side = shapes::wigley_side(4000, 2000, 1100);
    check_clean(side, {Vec3::UnitX(), 300}, 18, hull::ChartChoice::automatic, 20, 20);
    check_clean(side, {Vec3::UnitX(), 300}, 18, hull::ChartChoice::automatic, 20, 20, 0.05);
}

TEST_CASE("noisy readings give sections within three of their own standard deviations", "[section]") {
    const Shape side = shapes::wigley_side(4000, 2000, 1100);
    int inside = 0, all = 0;
    for (std::uint32_t seed = 1; seed <= 10; ++seed) {
        const auto fit = hull::fit_surface(shapes::readings(side, 12, 10, 1.5, 1.5, seed));
        REQUIRE(fit.ok());
        const auto runs = hull::cut_section(fit->surface, {Vec3::UnitX(), 300}, 18);
        REQUIRE(runs.ok());
        for (const auto& p : runs->front().points) {
            if (!p.in_survey) continue;
            ++all;
            inside += std::abs(side.off_mm(p.a)) < 3 * p.sigma_mm;
        }
    }
    // Three standard deviations hold 99.7 %; neighbouring points err together, hence 98.
    CHECK(inside >= 0.98 * all);
}
