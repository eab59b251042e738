// Outlines in a plane: measures, set operations, offsets, narrowest width (all derived from their definitions).
#include <catch2/catch.hpp>
#include <cmath>
#include <random>

#include <Eigen/Geometry>
#include <algorithm>

#include "geometry/boundary.h"
#include "geometry/polygon.h"
#include "units/quantity.h"

using namespace bevelsmith;
using namespace bevelsmith::geometry;

namespace {

Polygon square(double low, double high) {
    return {rectangle({{low, low}, {high, high}}), {}};
}

Ring circle(double radius, int corners) {
    Ring out;
    for (int k = 0; k < corners; ++k) {
        const double a = 2 * units::pi * k / corners;
        out.push_back({radius * std::cos(a), radius * std::sin(a)});
    }
    return out;
}

}  // namespace

TEST_CASE("area is signed by the turning sense and takes holes off", "[geometry]") {
    Ring ring = rectangle({{0, 0}, {30, 20}});
    CHECK(area_mm2(ring) == 600);
    std::reverse(ring.begin(), ring.end());
    CHECK(area_mm2(ring) == -600);
    const Polygon holed = oriented({ring, {rectangle({{5, 5}, {10, 10}})}});
    CHECK(area_mm2(holed) == 575);
    CHECK(area_mm2(holed.outer) > 0);
    CHECK(area_mm2(holed.holes.front()) < 0);
}

TEST_CASE("the centroid of a square with an eccentric hole moves away from the hole", "[geometry]") {
    const Polygon holed = oriented({rectangle({{0, 0}, {10, 10}}), {rectangle({{0, 0}, {5, 10}})}});
    const Vec2 c = centroid(holed);
    CHECK(c.x() == Approx(7.5));
    CHECK(c.y() == Approx(5));
}

TEST_CASE("a point is inside of the ring and outside of its holes", "[geometry]") {
    const Polygon holed = oriented({rectangle({{0, 0}, {10, 10}}), {rectangle({{4, 4}, {6, 6}})}});
    CHECK(contains(holed, {1, 1}));
    CHECK_FALSE(contains(holed, {5, 5}));
    CHECK_FALSE(contains(holed, {11, 5}));
}

TEST_CASE("distance to a segment, beside it and beyond its ends", "[geometry]") {
    CHECK(distance_to_segment_mm({5, 3}, {0, 0}, {10, 0}) == Approx(3));
    CHECK(distance_to_segment_mm({13, 4}, {0, 0}, {10, 0}) == Approx(5));
    CHECK(distance_to_segment_mm({3, 4}, {0, 0}, {0, 0}) == Approx(5));
}

TEST_CASE("set operations keep areas: |A| + |B| = |A or B| + |A and B|", "[geometry]") {
    const std::vector<Polygon> a{square(0, 10)}, b{{circle(6, 64), {}}};
    const double both = total_area_mm2(intersect(a, b)), either = total_area_mm2(unite(a, b));
    CHECK(both + either == Approx(100 + area_mm2(b.front())).epsilon(1e-6));
    CHECK(total_area_mm2(subtract(a, b)) == Approx(100 - both).epsilon(1e-6));
    CHECK(total_area_mm2(subtract(a, a)) == Approx(0).margin(1e-6));
}

TEST_CASE("a hole cut out of a square stays a hole", "[geometry]") {
    const auto out = subtract({square(0, 10)}, {square(3, 6)});
    REQUIRE(out.size() == 1);
    REQUIRE(out.front().holes.size() == 1);
    CHECK(area_mm2(out.front()) == Approx(91));
}

TEST_CASE("an offset square grows by a mitred or a rounded border", "[geometry]") {
    // Mitred: (a + 2 d)²; rounded: a² + 4 a d + pi d² (derived).
    const double a = 100, d = 7;
    CHECK(total_area_mm2(offset(square(0, a), d, Corner::mitre)) == Approx((a + 2 * d) * (a + 2 * d)).epsilon(1e-6));
    const double round = a * a + 4 * a * d + units::pi * d * d;
    CHECK(total_area_mm2(offset(square(0, a), d, Corner::round)) == Approx(round).epsilon(1e-4));
    CHECK(total_area_mm2(offset(square(0, a), -d, Corner::mitre)) == Approx((a - 2 * d) * (a - 2 * d)).epsilon(1e-6));
    CHECK(offset(square(0, a), -60, Corner::mitre).empty());
}

TEST_CASE("the largest of several, and of none", "[geometry]") {
    CHECK(area_mm2(largest({square(0, 2), square(0, 5), square(0, 1)})) == 25);
    CHECK(largest({}).outer.empty());
}

TEST_CASE("turning and moving keeps the area; mirroring keeps the turning sense", "[geometry]") {
    const Polygon shape = oriented({{{0, 0}, {40, 0}, {40, 10}, {10, 10}, {10, 30}, {0, 30}}, {}});
    const Polygon turned = transformed(shape, 0.7, {5, -3});
    CHECK(area_mm2(turned) == Approx(area_mm2(shape)));
    const Polygon other = mirrored(shape);
    CHECK(area_mm2(other.outer) == Approx(area_mm2(shape.outer)));
    CHECK(bounding_box(other.outer).min.x() == -40);
}

TEST_CASE("a rounded rectangle loses (4 - pi) r² at its corners and stays within 0.05 mm of the arc", "[geometry]") {
    const double r = 80, w = 600, h = 1200;
    const Ring ring = rounded_rectangle({{0, 0}, {w, h}}, r);
    CHECK(area_mm2(ring) == Approx(w * h - (4 - units::pi) * r * r).epsilon(2e-4));
    for (const Vec2& p : ring)
        if (p.x() < r && p.y() < r) CHECK((p - Vec2(r, r)).norm() == Approx(r).margin(0.05));
    CHECK(rounded_rectangle({{0, 0}, {w, h}}, 0).size() == 4);
    const auto box = bounding_box(rounded_rectangle({{0, 0}, {100, 400}}, 300));
    CHECK(box.width() == Approx(100));
}

TEST_CASE("a triangle's narrowest width is its smallest height", "[geometry]") {
    const Ring triangle{{0, 0}, {30, 0}, {0, 40}};
    // Right triangle 30-40-50: heights 40, 30 and 30·40/50 = 24 (derived).
    const auto width = minimum_width(triangle);
    CHECK(width.width_mm == Approx(24));
    CHECK(width.length_mm == Approx(50));
}

TEST_CASE("the narrowest width of turned rectangles is their shorter side", "[geometry]") {
    for (double angle = 0; angle < 3; angle += 0.17)
        CHECK(minimum_width(transformed(rectangle({{0, 0}, {90, 35}}), angle, {7, 8})).width_mm == Approx(35));
}

TEST_CASE("the convex hull holds every point and is convex", "[geometry]") {
    std::mt19937 random(2);
    std::normal_distribution<double> spread(0, 50);
    std::vector<Vec2> points;
    for (int k = 0; k < 300; ++k) points.push_back({spread(random), spread(random)});
    const Ring hull = convex_hull(points);
    for (std::size_t i = 0; i < hull.size(); ++i) {
        const Vec2 a = hull[i], b = hull[(i + 1) % hull.size()];
        for (const Vec2& p : points) {
            const Vec2 ab = b - a, ap = p - a;
            REQUIRE(ab.x() * ap.y() - ab.y() * ap.x() > -1e-9);
        }
    }
}

TEST_CASE("a simplified cover holds the shape and has fewer corners", "[geometry]") {
    const Polygon disc{circle(500, 400), {}};
    const Polygon cover = simplified_cover(disc, 1.0);
    CHECK(cover.outer.size() < 100);
    CHECK(total_area_mm2(subtract({disc}, {cover})) < 1e-3);
    CHECK(area_mm2(cover) < area_mm2(Polygon{circle(502, 400), {}}));
}

TEST_CASE("arc lengths add up along a path", "[geometry]") {
    const std::vector<Vec2> path{{0, 0}, {3, 4}, {3, 14}};
    CHECK(arc_lengths(path) == std::vector<double>{0, 5, 15});
    CHECK(length_mm(path, false) == 15);
    CHECK(length_mm(path, true) == Approx(15 + std::hypot(3, 14)));
}

TEST_CASE("readings in an L surround the L, not the notch", "[geometry]") {
    std::vector<Vec2> places;
    for (int i = 0; i <= 20; ++i)
        for (int k = 0; k <= 20; ++k)
            if (i <= 7 || k <= 7) places.push_back({i * 10.0, k * 10.0});
    const Ring outline = surrounding_outline(places);
    CHECK(contains(outline, {35, 150}));
    CHECK(contains(outline, {150, 35}));
    CHECK_FALSE(contains(outline, {150, 150}));
    CHECK(area_mm2(outline) > 0);
}

TEST_CASE("few places are surrounded by their convex hull", "[geometry]") {
    CHECK(std::abs(area_mm2(surrounding_outline({{0, 0}, {10, 0}, {0, 10}}))) == Approx(50));
}

TEST_CASE("an upright drawing frame looks along the normal with up on top", "[geometry]") {
    const auto forward = upright_frame({Vec3::UnitX(), 3000});
    CHECK((forward.u - -Vec3::UnitY()).norm() < 1e-12);  // starboard to the right when one looks forward
    CHECK((forward.v - Vec3::UnitZ()).norm() < 1e-12);
    const auto level = upright_frame({Vec3::UnitZ(), 400});
    CHECK((level.v - Vec3::UnitX()).norm() < 1e-12);
    for (const Vec3& n : {Vec3(1, 2, 3), Vec3(-1, 0.2, 0), Vec3(0, 1, -4)}) {
        const auto frame = upright_frame({n.normalized(), 250});
        CHECK(frame.u.cross(frame.v).dot(-frame.normal) == Approx(1));
        const Vec2 q(120, -45);
        CHECK((frame.to_plane(frame.to_space(q)) - q).norm() < 1e-9);
        CHECK(n.normalized().dot(frame.to_space(q)) == Approx(250));
    }
}

TEST_CASE("whether a box lies in a polygon is told as the set operations tell it", "[geometry]") {
    std::mt19937 random(11);
    std::uniform_real_distribution<double> share(0, 1);
    int held = 0;
    for (int round = 0; round < 400; ++round) {
        // A star about a middle with a hole in it.
        Ring star;
        const int corners = 5 + round % 20;
        for (int k = 0; k < corners; ++k) {
            const double angle = 2 * M_PI * k / corners, reach = 60 + 60 * share(random);
            star.emplace_back(reach * std::cos(angle), reach * std::sin(angle));
        }
        Polygon sheet{star, {}};
        if (round % 3 == 0) sheet.holes.push_back({{-10, -10}, {-10, 10}, {10, 10}, {10, -10}});
        const Vec2 at(200 * share(random) - 100, 200 * share(random) - 100);
        const Box box{at, at + Vec2(5 + 60 * share(random), 5 + 60 * share(random))};
        const double outside = total_area_mm2(subtract({Polygon{rectangle(box), {}}}, {oriented(sheet)}));
        if (outside > 1e-6 && outside < 1e-2) continue;  // it touches
        INFO("round " << round);
        CHECK(holds_box(sheet, box) == (outside <= 1e-6));
        held += outside <= 1e-6;
    }
    CHECK(held > 20);
    // Against the edges it lies within.
    CHECK(holds_box({rectangle({{0, 0}, {100, 50}}), {}}, {{0, 0}, {100, 50}}));
    CHECK_FALSE(holds_box({rectangle({{0, 0}, {100, 50}}), {}}, {{0, 0}, {100, 50.1}}));
}

TEST_CASE("what encloses nothing has no area, contains nothing and is left out", "[geometry]") {
    const Ring square{{0, 0}, {10, 0}, {10, 10}, {0, 10}}, line{{0, 0}, {5, 5}}, folded{{0, 0}, {10, 0}, {4, 0}};
    for (const Ring& nothing : {Ring{}, Ring{{1, 1}}, line, folded}) {
        CHECK(area_mm2(nothing) == 0);
        CHECK_FALSE(contains(nothing, {2, 2}));
        CHECK(unite({{nothing, {}}}, {}).empty());
        CHECK(total_area_mm2(unite({{nothing, {}}}, {{square, {}}})) == Approx(100));
        CHECK(offset({nothing, {}}, -1, Corner::mitre).empty());
    }
    CHECK(largest({}).outer.empty());
    CHECK(centroid({}).norm() == 0);
    CHECK(bounding_box({}).width() == 0);
    CHECK(intersect({{square, {}}}, {}).empty());
}

TEST_CASE("an outline that crosses itself is cleared: both loops count", "[geometry]") {
    const Ring eight{{0, 0}, {10, 10}, {10, 0}, {0, 10}};
    CHECK(area_mm2(eight) == Approx(0).margin(1e-12));  // its loops turn against one another
    const auto cleared = unite({{eight, {}}}, {});
    CHECK(cleared.size() == 2);
    CHECK(total_area_mm2(cleared) == Approx(50));
    for (const auto& loop : cleared) CHECK(area_mm2(loop.outer) > 0);
}

TEST_CASE("a waist that gives way leaves two", "[geometry]") {
    const Polygon dumbbell{{{0, 0},
                            {10, 0},
                            {10, 4},
                            {20, 4},
                            {20, 0},
                            {30, 0},
                            {30, 10},
                            {20, 10},
                            {20, 6},
                            {10, 6},
                            {10, 10},
                            {0, 10}},
                           {}};
    CHECK(offset(dumbbell, -0.9, Corner::mitre).size() == 1);
    CHECK(offset(dumbbell, -1.1, Corner::mitre).size() == 2);
    CHECK(offset(dumbbell, -5.1, Corner::mitre).empty());
}
