// Nesting: every layout is valid by an independent polygon library, keeps grain and stock, and names what has no
// place.
#include <catch2/catch.hpp>

#include <algorithm>
#include <boost/geometry.hpp>
#include <boost/geometry/geometries/point_xy.hpp>
#include <boost/geometry/geometries/polygon.hpp>
#include <cmath>
#include <random>

#include "sheets/collision.h"
#include "sheets/layout.h"
#include "units/quantity.h"

using namespace bevelsmith;
using namespace bevelsmith::sheets;

namespace {

namespace bg = boost::geometry;
using Point = bg::model::d2::point_xy<double>;
using Shape = bg::model::polygon<Point, false, false>;  // counter-clockwise, open

Shape boost_shape(const geometry::Polygon& polygon) {
    Shape out;
    for (const Vec2& p : polygon.outer) bg::append(out.outer(), Point(p.x(), p.y()));
    for (const auto& hole : polygon.holes) {
        out.inners().emplace_back();
        for (const Vec2& p : hole) bg::append(out.inners().back(), Point(p.x(), p.y()));
    }
    bg::correct(out);
    return out;
}

double overlap(const Shape& a, const Shape& b) {
    std::vector<Shape> both;
    bg::intersection(a, b, both);
    double area = 0;
    for (const auto& s : both) area += bg::area(s);
    return area;
}

/// The library's own judgement of a layout: overlap under 0.01 mm², spacing within 0.05 mm, all on the sheet.
void require_valid(const Problem& problem, const Layout& layout) {
    std::vector<Shape> shapes;
    for (const auto& at : layout.placements) shapes.push_back(boost_shape(placed(problem, at)));
    for (std::size_t i = 0; i < shapes.size(); ++i) {
        const auto& at = layout.placements[i];
        const auto& stock =
            problem.stock[static_cast<std::size_t>(layout.sheet_stock[static_cast<std::size_t>(at.sheet)])];
        const Shape sheet = boost_shape(stock.shape);
        REQUIRE(bg::area(shapes[i]) - overlap(shapes[i], sheet) < 0.01);
        for (const Point& p : shapes[i].outer()) {
            bg::model::linestring<Point> rim;
            for (const Point& q : sheet.outer()) bg::append(rim, q);
            bg::append(rim, sheet.outer().front());
            REQUIRE(bg::distance(p, rim) > problem.edge_margin_mm - 0.05);
        }
        for (std::size_t k = 0; k < i; ++k) {
            if (layout.placements[k].sheet != at.sheet) continue;
            REQUIRE(overlap(shapes[i], shapes[k]) < 0.01);
            if (problem.spacing_mm > 0 && overlap(shapes[i], shapes[k]) <= 0)
                REQUIRE(bg::distance(shapes[i], shapes[k]) > problem.spacing_mm - 0.05);
        }
    }
}

geometry::Polygon box(double w, double h) {
    return {geometry::rectangle({{0, 0}, {w, h}}), {}};
}

Part part(const std::string& id, geometry::Polygon shape, int quantity = 1,
          std::vector<double> rotations = {0, 180}) {
    Part out;
    out.id = id;
    out.quantity = quantity;
    out.rotations_deg = std::move(rotations);
    out.shape = std::move(shape);
    return out;
}

Problem problem_with(std::vector<Part> parts, double w = 2440, double h = 1220, int count = -1) {
    Problem out;
    out.spacing_mm = 6;
    out.edge_margin_mm = 10;
    out.stock.push_back({box(w, h), count, 100});
    out.parts = std::move(parts);
    return out;
}

geometry::Polygon blob(std::mt19937& random) {
    std::uniform_real_distribution<double> radius(80, 260);
    geometry::Ring ring;
    for (int k = 0; k < 14; ++k) {
        const double a = 2 * units::pi * k / 14, r = radius(random);
        ring.push_back({r * std::cos(a), r * std::sin(a)});
    }
    return geometry::oriented({ring, {}});
}

geometry::Polygon letter_c() {
    return geometry::oriented(
        {{{0, 0}, {800, 0}, {800, 150}, {150, 150}, {150, 650}, {800, 650}, {800, 800}, {0, 800}}, {}});
}

NestOptions rounds(int n, unsigned seed = 1) {
    NestOptions out;
    out.rounds = n;
    out.seed = seed;
    return out;
}

std::size_t copies_of(const Problem& p) {
    std::size_t n = 0;
    for (const auto& part : p.parts) n += static_cast<std::size_t>(part.quantity);
    return n;
}

}  // namespace

TEST_CASE("layouts of crooked shapes are valid by Boost.Geometry, and by our own judgement", "[sheets]") {
    for (unsigned seed = 1; seed <= 6; ++seed) {
        std::mt19937 random(seed);
        std::vector<Part> parts;
        for (int k = 0; k < 14; ++k) parts.push_back(part("P" + std::to_string(k), blob(random), 1 + k % 3 / 2));
        const Problem p = problem_with(parts);
        const Layout layout = nest(p, rounds(2, seed));
        CHECK(layout.unplaced.empty());
        CHECK(layout.placements.size() == copies_of(p));
        CHECK(violations(p, layout).empty());
        require_valid(p, layout);
    }
}

TEST_CASE("parts may lie in the openings and hollows of others", "[sheets]") {
    Problem p = problem_with({part("C", letter_c()), part("small", box(400, 300))}, 900, 830);
    p.edge_margin_mm = 5;
    const Layout layout = nest(p, rounds(1));
    CHECK(layout.sheet_stock.size() == 1);
    require_valid(p, layout);
    geometry::Polygon frame = box(800, 800);
    frame.holes.push_back(geometry::rectangle({{100, 100}, {700, 700}}));
    Problem holed = problem_with({part("frame", geometry::oriented(frame)), part("inside", box(500, 500))}, 830, 830);
    const Layout nested = nest(holed, rounds(1));
    CHECK(nested.sheet_stock.size() == 1);
    CHECK(nested.unplaced.empty());
    require_valid(holed, nested);
}

TEST_CASE("grain is kept: parts lie at allowed angles only", "[sheets]") {
    const Problem p = problem_with({part("long", box(1000, 200), 6, {90})});
    const Layout layout = nest(p, rounds(1));
    CHECK(layout.unplaced.empty());
    for (const auto& at : layout.placements) CHECK(at.rotation_deg == 90);
    require_valid(p, layout);
}

TEST_CASE("sheets in stock are not exceeded, and what has no place says why", "[sheets]") {
    const Problem p = problem_with({part("half", box(2300, 1100), 3)}, 2440, 1220, 2);
    const Layout layout = nest(p, rounds(1));
    CHECK(layout.sheet_stock.size() == 2);
    REQUIRE(layout.unplaced.size() == 1);
    CHECK_FALSE(layout.unplaced.front().reason.empty());
    const Layout huge = nest(problem_with({part("door", box(1300, 1300), 1, {0})}), rounds(1));
    REQUIRE(huge.unplaced.size() == 1);
    CHECK(huge.unplaced.front().reason.find("larger than every sheet") != std::string::npos);
}

TEST_CASE("offcuts of any shape are used first when they are named first", "[sheets]") {
    Problem p = problem_with({part("bracket", box(300, 200), 2)});
    Stock offcut;
    offcut.shape = geometry::oriented({{{0, 0}, {900, 0}, {900, 300}, {350, 300}, {350, 700}, {0, 700}}, {}});
    offcut.count = 1;
    offcut.priority = 1;
    p.stock.push_back(offcut);
    const Layout layout = nest(p, rounds(1));
    REQUIRE(layout.sheet_stock.size() == 1);
    CHECK(layout.sheet_stock.front() == 1);
    require_valid(p, layout);
}

TEST_CASE("the same seed and rounds give the same layout", "[sheets]") {
    std::mt19937 random(9);
    std::vector<Part> parts;
    for (int k = 0; k < 8; ++k) parts.push_back(part("P" + std::to_string(k), blob(random)));
    const Problem p = problem_with(parts);
    Layout a = nest(p, rounds(3, 5)), b = nest(p, rounds(3, 5));
    a.seconds = b.seconds = 0;
    CHECK(a == b);
}

TEST_CASE("more rounds never give a worse layout", "[sheets]") {
    std::mt19937 random(4);
    std::vector<Part> parts;
    for (int k = 0; k < 12; ++k) parts.push_back(part("P" + std::to_string(k), blob(random)));
    const Problem p = problem_with(parts);
    const Layout one = nest(p, rounds(1)), many = nest(p, rounds(6));
    CHECK(many.sheet_stock.size() <= one.sheet_stock.size());
    if (many.sheet_stock.size() == one.sheet_stock.size()) CHECK(many.utilisation >= one.utilisation - 1e-12);
}

TEST_CASE("a search tells how far it is and stops when asked", "[sheets]") {
    std::mt19937 random(4);
    std::vector<Part> parts;
    for (int k = 0; k < 8; ++k) parts.push_back(part("P" + std::to_string(k), blob(random)));
    NestOptions options;
    options.seconds = 600;
    int calls = 0;
    options.progress = [&](const Progress& progress) {
        CHECK(progress.share >= 0);
        CHECK(progress.sheets >= 1);
        return ++calls < 3;
    };
    const Layout layout = nest(problem_with(parts), options);
    CHECK(calls == 3);
    CHECK(layout.seconds < 60);
    CHECK(layout.unplaced.empty());
}

TEST_CASE("no sheet takes more than its area: the area bound holds", "[sheets]") {
    const Problem p = problem_with({part("quarter", box(1200, 590), 9)});
    const Layout layout = nest(p, rounds(1));
    // Four fit on a sheet of 2440 x 1220 with 10 mm left all round and 6 between; nine need three sheets.
    CHECK(layout.sheet_stock.size() == 3);
    CHECK(utilisation(p, layout) <= 1);
    double area = 0;
    for (const auto& at : layout.placements) area += geometry::area_mm2(placed(p, at));
    CHECK(area == Approx(9 * 1200.0 * 590));
}

TEST_CASE("utilisation counts the last sheet up to its last part", "[sheets]") {
    Problem p = problem_with({part("a", box(1000, 1000))}, 2000, 1000);
    p.spacing_mm = p.edge_margin_mm = 0;
    const Layout layout = nest(p, rounds(1));
    CHECK(layout.utilisation == Approx(1.0));
}

TEST_CASE("faults of a layout are seen: overlap, spacing, margin", "[sheets]") {
    const Problem p = problem_with({part("a", box(500, 300), 2)});
    Layout layout;
    layout.sheet_stock = {0};
    layout.placements = {{0, 0, 0, 0, {10, 10}}, {0, 1, 0, 0, {516, 10}}};
    CHECK(violations(p, layout).empty());
    layout.placements[1].shift = {514, 10};
    CHECK_FALSE(violations(p, layout).empty());
    layout.placements[1].shift = {400, 10};
    CHECK_FALSE(violations(p, layout).empty());
    layout.placements[1].shift = {1935, 10};
    CHECK_FALSE(violations(p, layout).empty());
    layout.placements[1].shift = {10, 316};
    CHECK(violations(p, layout).empty());
}

TEST_CASE("shapes that only touch do not collide; shapes that share an inside do", "[sheets]") {
    const Footprint a = make_footprint(box(100, 100));
    CHECK_FALSE(collide(a, {0, 0}, a, {100, 0}));
    CHECK(collide(a, {0, 0}, a, {99.9, 0}));
    CHECK(collide(a, {0, 0}, a, {0, 0}));
    CHECK_FALSE(collide(a, {0, 0}, a, {250, 30}));
    geometry::Polygon frame = box(300, 300);
    frame.holes.push_back(geometry::rectangle({{50, 50}, {250, 250}}));
    const Footprint ring = make_footprint(geometry::oriented(frame));
    CHECK_FALSE(collide(ring, {0, 0}, a, {100, 100}));
    CHECK(collide(ring, {0, 0}, a, {30, 100}));
    CHECK(within(a, {0, 0}, make_footprint(box(100, 100))));
    CHECK_FALSE(within(a, {0.1, 0}, make_footprint(box(100, 100))));
    CHECK_FALSE(within(a, {100, 100}, ring));
}

TEST_CASE("problems that cannot be worked on are told of beforehand", "[sheets]") {
    CHECK(fault_of(problem_with({part("a", box(10, 10))})).empty());
    Problem crossed = problem_with({part("bow", {{{0, 0}, {100, 100}, {100, 0}, {0, 100}}, {}})});
    CHECK_FALSE(fault_of(crossed).empty());
    Problem no_sheet = problem_with({part("a", box(10, 10))});
    no_sheet.stock.clear();
    CHECK_FALSE(fault_of(no_sheet).empty());
}
