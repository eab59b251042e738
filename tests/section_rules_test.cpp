// What holds for every section, whatever the hull: identities under turning, reversing and moving, and edges of the
// question (all derived).
#include <catch2/catch.hpp>

#include <Eigen/Geometry>
#include <cmath>

#include "hull/fit.h"
#include "hull/section.h"
#include "support/shapes.h"
#include "units/quantity.h"

using namespace bevelsmith;
using hull::SectionRun;

namespace {

const hull::Surface& side() {
    static const auto fit = hull::fit_surface(shapes::readings(shapes::wigley_side(4000, 2000, 1100), 24, 20, 1.5));
    return fit->surface;
}

/// The lower half of a tube along x, from both gunwales down.
const hull::Surface& half_tube() {
    static const auto fit = hull::fit_surface(
        shapes::readings(shapes::cylinder(1000, 2400, units::radians(-176), units::radians(-4)), 24, 30, 1.5));
    return fit->surface;
}

std::vector<SectionRun> cut(const hull::Surface& surface, const Vec3& n, double d, double thickness = 18,
                            hull::SectionOptions options = {}) {
    auto runs = hull::cut_section(surface, {n.normalized(), d}, thickness, options);
    INFO((runs.ok() ? std::string() : runs.error().message));
    REQUIRE(runs.ok());
    return std::move(runs.value());
}

double nearest(const SectionRun& run, const Vec3& p) {
    double best = 1e9;
    for (std::size_t i = 1; i < run.points.size(); ++i) {
        const Vec3 a = run.points[i - 1].a, ab = run.points[i].a - a;
        const double t = std::clamp((p - a).dot(ab) / ab.squaredNorm(), 0.0, 1.0);
        best = std::min(best, (a + t * ab - p).norm());
    }
    return best;
}

}  // namespace

TEST_CASE("points lie on their planes and on the surface to a millionth of a millimetre", "[section_rules]") {
    for (const Vec3& n : {Vec3(1, 0, 0), Vec3(1, 0.2, -0.1), Vec3(0.2, 0.1, 1)}) {
        const double d = n.normalized().dot(Vec3(200, 600, -400));
        for (const auto& run : cut(side(), n, d))
            for (const auto& p : run.points) {
                CHECK(n.normalized().dot(p.a) == Approx(d).margin(1e-6));
                CHECK(n.normalized().dot(p.b) == Approx(d + 18).margin(1e-6));
                CHECK(std::abs(side().distance_mm(p.a)) < 1e-6);
                CHECK(std::abs(side().distance_mm(p.b)) < 1e-6);
            }
    }
}

TEST_CASE("both faces of a point lie on one normal section of the edge", "[section_rules]") {
    const Vec3 n(1, 0, 0);
    for (const auto& run : cut(side(), n, 300))
        for (const auto& p : run.points) {
            // The section is square to the edge of face A: no part of b - a runs along the edge.
            const Vec3 along = p.normal.cross(n).normalized();
            CHECK(std::abs(along.dot(p.b - p.a)) < 1e-6);
        }
}

TEST_CASE("the bevel is what the two faces show, in the limit of a thin piece", "[section_rules]") {
    const Vec3 n(1, 0, 0);
    for (const auto& run : cut(side(), n, 300, 0.05))
        for (const auto& p : run.points) {
            const Vec3 step = p.b - p.a, outward = (p.normal - n * n.dot(p.normal)).normalized();
            CHECK(std::atan2(outward.dot(step), n.dot(step)) == Approx(p.bevel_rad).margin(2e-4));
        }
}

TEST_CASE("turned round, the plane cuts the same edge with the opposite bevel", "[section_rules]") {
    const auto there = cut(side(), {1, 0, 0}, 300), back = cut(side(), {-1, 0, 0}, -300);
    REQUIRE(there.size() == 1);
    REQUIRE(back.size() == 1);
    for (const auto& p : back[0].points) {
        if (!p.in_survey) continue;
        CHECK(nearest(there[0], p.a) < 0.05);  // chords of ten millimetres
        std::size_t k = 0;
        for (std::size_t i = 0; i < there[0].points.size(); ++i)
            if ((there[0].points[i].a - p.a).norm() < (there[0].points[k].a - p.a).norm()) k = i;
        CHECK(p.bevel_rad == Approx(-there[0].points[k].bevel_rad).margin(units::radians(0.1)));
    }
}

TEST_CASE("a boat carried elsewhere and turned has its sections carried along", "[section_rules]") {
    const auto shape = shapes::wigley_side(4000, 2000, 1100);
    auto points = shapes::readings(shape, 20, 16, 1.5);
    const auto here = hull::fit_surface(points);
    const Eigen::AngleAxisd turn(0.4, Vec3::UnitZ());
    const Vec3 shift(3000, -1200, 500);
    for (auto& p : points) p.position = turn * p.position + shift;
    const auto there = hull::fit_surface(points);
    REQUIRE((here.ok() && there.ok()));
    const auto a = cut(here->surface, {1, 0, 0}, 250);
    const Vec3 n = turn * Vec3::UnitX();
    const auto b = cut(there->surface, n, 250 + n.dot(shift));
    for (const auto& p : b[0].points)
        if (p.in_survey) CHECK(nearest(a[0], turn.inverse() * (p.a - shift)) < 0.1);
}

TEST_CASE("points stand about as far apart as asked, and arc lengths add up", "[section_rules]") {
    for (double step : {5.0, 10.0, 40.0}) {
        hull::SectionOptions options;
        options.step_mm = step;
        const auto runs = cut(side(), {1, 0, 0}, 300, 18, options);
        const auto& points = runs[0].points;
        CHECK(points.front().arc_mm == 0);
        for (std::size_t i = 1; i < points.size(); ++i) {
            const double apart = (points[i].a - points[i - 1].a).norm();
            CHECK(apart < 1.3 * step + 1);
            CHECK(points[i].arc_mm - points[i - 1].arc_mm == Approx(apart));
        }
    }
}

TEST_CASE("a level plane meets both sides of the boat in two runs", "[section_rules]") {
    const auto runs = cut(half_tube(), {0, 0, 1}, -300);
    REQUIRE(runs.size() == 2);
    const double y0 = runs[0].points.front().a.y(), y1 = runs[1].points.front().a.y();
    CHECK(y0 * y1 < 0);
    for (const auto& run : runs)
        for (const auto& p : run.points)
            if (p.in_survey) CHECK(std::abs(p.a.y()) == Approx(std::sqrt(1000.0 * 1000 - 300 * 300)).margin(0.1));
}

TEST_CASE("runs go counter-clockwise about the inside, as one looks along the normal", "[section_rules]") {
    for (double sign : {1.0, -1.0}) {
        const Vec3 n(sign, 0, 0);
        const auto runs = cut(half_tube(), n, sign * 1200);
        REQUIRE(runs.size() == 1);
        const auto frame = geometry::upright_frame({n, sign * 1200});
        double turned = 0;
        for (std::size_t i = 1; i < runs[0].points.size(); ++i) {
            const Vec2 a = frame.to_plane(runs[0].points[i - 1].a), b = frame.to_plane(runs[0].points[i].a);
            turned += a.x() * b.y() - a.y() * b.x();  // about the tube's axis
        }
        CHECK(turned > 0);
    }
}

TEST_CASE("planes that miss, touch, or are too thick are told apart", "[section_rules]") {
    CHECK(hull::cut_section(half_tube(), {Vec3::UnitX(), 9000}, 18).error().message.find("misses") !=
          std::string::npos);
    CHECK_FALSE(hull::cut_section(half_tube(), {Vec3::UnitZ(), -1200}, 18).ok());
    const auto thick = hull::cut_section(half_tube(), {Vec3::UnitX(), 2390}, 900);
    REQUIRE_FALSE(thick.ok());
    CHECK(thick.error().message.find("too thick") != std::string::npos);
    // A plane that touches the bottom along a line gives nothing, or a sliver, but no crash.
    (void)hull::cut_section(half_tube(), {Vec3::UnitZ(), -1000}, 18);
}

TEST_CASE("bevel runs: greedy, gapless, within their band", "[section_rules]") {
    std::vector<hull::SectionPoint> points(50);
    for (std::size_t i = 0; i < points.size(); ++i)
        points[i].bevel_rad = units::radians(10 * std::sin(0.12 * static_cast<double>(i)));
    const auto runs = hull::bevel_runs(points, units::radians(2));
    CHECK(runs.front().first == 0);
    CHECK(runs.back().last == 49);
    for (std::size_t k = 0; k < runs.size(); ++k) {
        if (k > 0) CHECK(runs[k].first == runs[k - 1].last + 1);
        CHECK(runs[k].most_rad - runs[k].least_rad <= units::radians(2) + 1e-12);
    }
    CHECK(hull::bevel_runs({}, 0.1).empty());
    CHECK(hull::bevel_runs(points, 10).size() == 1);
}
