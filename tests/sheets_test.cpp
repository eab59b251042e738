// Nesting: every layout is valid by an independent polygon library, keeps grain and stock, and names what has no
// place.
#include <catch2/catch.hpp>

#include <algorithm>
#include <boost/geometry.hpp>
#include <boost/geometry/geometries/point_xy.hpp>
#include <boost/geometry/geometries/polygon.hpp>
#include <cmath>
#include <random>

#include "sheets/guillotine.h"
#include "sheets/layout.h"
#include "sheets/loss.h"
#include "sheets/place_on.h"
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
    // By rounds, not by the clock: under a sanitizer they take long.
    out.seconds = 600;
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

TEST_CASE("what has no place stays out while the rest is laid closer", "[sheets]") {
    for (unsigned seed = 1; seed <= 4; ++seed) {
        std::mt19937 random(seed);
        std::vector<Part> parts;
        for (double wide : {90, 120, 150})  // too long, and about as large as the others
            parts.push_back(part("batten " + std::to_string(static_cast<int>(wide)), box(1400, wide), 1, {0}));
        for (int k = 0; k < 9; ++k) parts.push_back(part("p" + std::to_string(k), blob(random)));
        const Problem p = problem_with(std::move(parts), 1250, 1250);
        const Layout layout = nest(p, rounds(30, seed));
        CHECK(layout.unplaced.size() == 3);
        CHECK(layout.placements.size() == 9);
        require_valid(p, layout);
    }
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

TEST_CASE("shapes that only touch do not overlap; shapes that share an inside do", "[sheets]") {
    const Body a = make_body(box(100, 100));
    CHECK_FALSE(overlap(a, {0, 0}, a, {100, 0}));
    CHECK(overlap(a, {0, 0}, a, {99.9, 0}));
    CHECK(overlap(a, {0, 0}, a, {0, 0}));
    CHECK_FALSE(overlap(a, {0, 0}, a, {250, 30}));
    geometry::Polygon frame = box(300, 300);
    frame.holes.push_back(geometry::rectangle({{50, 50}, {250, 250}}));
    const Body ring = make_body(geometry::oriented(frame));
    CHECK_FALSE(overlap(ring, {0, 0}, a, {100, 100}));
    CHECK(overlap(ring, {0, 0}, a, {30, 100}));
    // Deeper is more, and what has just parted is a little.
    const double deep = depth(a, {0, 0}, a, {40, 0}), little = depth(a, {0, 0}, a, {95, 0});
    CHECK(deep > 2 * little);
    CHECK(little > depth(a, {0, 0}, a, {140, 0}));
    const Body turned_ring = turned(ring, M_PI / 2);
    CHECK(turned_ring.box.width() == Approx(300));
    CHECK_FALSE(overlap(turned_ring, {300, 0}, a, {100, 100}));
}

namespace {

/// A whole sheet cut by random straight lines into two, each of these again, `depth` times; every part turned about.
std::vector<Part> jigsaw(int depth, unsigned seed) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> any(0.35, 0.65);
    std::vector<geometry::Polygon> pieces{box(2440, 1220)};
    for (int k = 0; k < depth; ++k) {
        std::vector<geometry::Polygon> next;
        for (const auto& piece : pieces) {
            const auto b = geometry::bounding_box(piece.outer);
            const Vec2 on = b.min + any(random) * b.size();
            const double angle = (b.width() > b.height() ? M_PI / 2 : 0) + (any(random) - 0.5) * 2;
            const Vec2 way(std::cos(angle), std::sin(angle)), left(-way.y(), way.x());
            const geometry::Polygon half{
                {on - 1e4 * way, on + 1e4 * way, on + 1e4 * (way + left), on + 1e4 * (left - way)}, {}};
            for (auto& part : geometry::subtract({piece}, {half})) next.push_back(part);
            for (auto& part : geometry::intersect({piece}, {half})) next.push_back(part);
        }
        pieces = std::move(next);
    }
    std::vector<Part> out;
    for (std::size_t k = 0; k < pieces.size(); ++k) {
        Part part;
        part.id = "j" + std::to_string(k);
        part.rotations_deg = {0, 90, 180, 270};
        part.shape = geometry::transformed(pieces[k], static_cast<double>(random() % 4) * M_PI / 2, {0, 0});
        part.shape = geometry::transformed(part.shape, 0, -geometry::bounding_box(part.shape.outer).min);
        out.push_back(part);
    }
    return out;
}

}  // namespace

TEST_CASE("parts cut out of one sheet come near to one sheet again", "[sheets]") {
    for (unsigned seed = 1; seed < 4; ++seed) {
        Problem p = problem_with(jigsaw(3, seed));
        p.spacing_mm = p.edge_margin_mm = 0;
        const Layout first = nest(p, rounds(1, seed)), squeezed = nest(p, rounds(30, seed));
        INFO(seed << ": " << first.utilisation << ", then " << squeezed.utilisation);
        CHECK(violations(p, squeezed).empty());
        CHECK(squeezed.placements.size() == p.parts.size());
        CHECK(squeezed.sheet_stock.size() <= 2);
        // A general library, at its best, was seen to reach 0.59 to 0.70 on such parts.
        CHECK(squeezed.utilisation > 0.72);
        CHECK(squeezed.utilisation >= first.utilisation);
    }
}

TEST_CASE("straight sides come to lie flush with one another", "[sheets]") {
    // Without places where they do these three came to 0.839 in the mean, with them to 0.869 (this program's own
    // figures: a seed gives the same layout on every machine).
    double sum = 0;
    for (unsigned seed : {1U, 3U, 4U}) {
        Problem p = problem_with(jigsaw(4, seed));
        p.spacing_mm = p.edge_margin_mm = 0;
        const Layout layout = nest(p, rounds(100, seed));
        CHECK(violations(p, layout).empty());
        sum += layout.utilisation;
    }
    CHECK(sum / 3 > 0.855);
    // A body's sides are told by their angles, in every turn and turned over: long ones alone where it has them.
    const Body a = make_body(geometry::oriented({{{0, 0}, {400, 0}, {400, 200}, {395, 205}, {0, 205}}, {}}));
    REQUIRE(a.sides.size() == 4);
    for (const Body& b : {a, turned(a, 0.7), mirrored(a)})
        for (std::size_t k = 0; k < b.sides.size(); ++k) {
            const Side& side = b.sides[k];
            const Vec2 along = (side.to - side.from).normalized();
            CHECK(std::cos(side.angle_rad) == Approx(along.x()).margin(1e-9));
            CHECK(std::sin(side.angle_rad) == Approx(along.y()).margin(1e-9));
            if (k > 0) CHECK(b.sides[k - 1].angle_rad <= side.angle_rad);
            // Its inside is at the left.
            const Vec2 inward = (side.from + side.to) / 2 + Vec2(-along.y(), along.x());
            CHECK((b.box.centre() - inward).norm() < (b.box.centre() - (side.from + side.to) / 2).norm());
        }
    // Of a round one its chords.
    geometry::Ring round;
    for (int k = 0; k < 40; ++k) round.push_back(200 * Vec2(std::cos(k * M_PI / 20), std::sin(k * M_PI / 20)));
    CHECK(make_body({round, {}}).sides.size() == 40);
}

TEST_CASE("problems that cannot be worked on are told of beforehand", "[sheets]") {
    CHECK(fault_of(problem_with({part("a", box(10, 10))})).empty());
    Problem crossed = problem_with({part("bow", {{{0, 0}, {100, 100}, {100, 0}, {0, 100}}, {}})});
    CHECK_FALSE(fault_of(crossed).empty());
    Problem no_sheet = problem_with({part("a", box(10, 10))});
    no_sheet.stock.clear();
    CHECK_FALSE(fault_of(no_sheet).empty());
}

TEST_CASE("an L-shaped offcut is filled first, its missing corner and its spoiled places stay free", "[sheets]") {
    Problem p = problem_with({part("a", box(500, 280), 4), part("b", box(250, 250), 3)});
    geometry::Polygon l{{{0, 0}, {1200, 0}, {1200, 600}, {600, 600}, {600, 1200}, {0, 1200}}, {}};
    l.holes.push_back({{150, 150}, {150, 250}, {250, 250}, {250, 150}});  // a knot
    p.stock.push_back({geometry::oriented(l), 1, 10});
    const Layout layout = nest(p, rounds(3));
    REQUIRE(layout.unplaced.empty());
    CHECK(layout.sheet_stock.front() == 1);
    double on_offcut = 0;
    for (const auto& at : layout.placements)
        if (layout.sheet_stock[static_cast<std::size_t>(at.sheet)] == 1)
            on_offcut += geometry::area_mm2(p.parts[static_cast<std::size_t>(at.part)].shape);
    CHECK(on_offcut > 0.4 * geometry::area_mm2(l));
    CHECK(violations(p, layout).empty());
    require_valid(p, layout);
}

TEST_CASE("parts go through a narrow way at any angle, or a few degrees askew of the grain", "[sheets]") {
    // A strip a little longer than the sheet is wide fits on the slant alone.
    Problem p = problem_with({part("strip", box(1060, 40))}, 820, 820, 1);
    p.edge_margin_mm = 0;
    CHECK(nest(p, rounds(1)).unplaced.size() == 1);
    p.parts[0].any_rotation = true;
    Layout layout = nest(p, rounds(1));
    CHECK(layout.unplaced.empty());
    require_valid(p, layout);
    // Two corners of the sheet are cut off: a few degrees take a plank past both (from 1.2 on; derived).
    Problem q = problem_with({part("plank", box(960, 50), 1, {0})}, 1000, 130, 1);
    q.edge_margin_mm = 0;
    q.stock[0].shape.outer = {{0, 0}, {930, 0}, {1000, 70}, {1000, 130}, {70, 130}, {0, 60}};
    CHECK(nest(q, rounds(2)).unplaced.size() == 1);
    q.parts[0].tolerance_deg = 6;
    layout = nest(q, rounds(2));
    REQUIRE(layout.unplaced.empty());
    CHECK(std::abs(std::remainder(layout.placements[0].rotation_deg, 360)) <= 6);
    CHECK(std::abs(std::remainder(layout.placements[0].rotation_deg, 360)) > 1.2);
    require_valid(q, layout);
    // An angle beyond the tolerance is no layout.
    q.parts[0].tolerance_deg = 1;
    CHECK_FALSE(violations(q, layout).empty());
}

TEST_CASE("a part that may be cut from either face is turned over where that helps, others never", "[sheets]") {
    // A right-handed triangle in a left-handed place.
    const geometry::Polygon right = geometry::oriented({{{0, 0}, {700, 0}, {0, 500}}, {}});
    Problem p = problem_with({part("t", right, 1, {0, 90, 180, 270})}, 720, 520, 1);
    p.edge_margin_mm = 0;
    p.stock[0].shape.outer = {{0, 0}, {720, 0}, {720, 520}};
    CHECK(nest(p, rounds(1)).unplaced.size() == 1);
    p.parts[0].either_face = true;
    const Layout layout = nest(p, rounds(1));
    REQUIRE(layout.unplaced.empty());
    CHECK(layout.placements[0].turned_over);
    require_valid(p, layout);
    p.parts[0].either_face = false;
    CHECK_FALSE(violations(p, layout).empty());
}

TEST_CASE("what is locked stays, the rest is laid around it", "[sheets]") {
    Problem p = problem_with({part("kept", box(700, 400)), part("other", box(500, 500), 6)});
    p.locked.sheet_stock = {0, 0};
    p.locked.placements = {{0, 0, 1, 180, {1500, 900}, false}};
    REQUIRE(fault_of(p).empty());
    for (int n : {1, 4}) {
        const Layout layout = nest(p, rounds(n));
        CHECK(layout.unplaced.empty());
        CHECK(std::find(layout.placements.begin(), layout.placements.end(), p.locked.placements[0]) !=
              layout.placements.end());
        CHECK(violations(p, layout).empty());
        require_valid(p, layout);
        // Moved by a millimetre it is no layout of this problem.
        Layout moved = layout;
        for (auto& at : moved.placements)
            if (at == p.locked.placements[0]) at.shift.x() += 1;
        CHECK_FALSE(violations(p, moved).empty());
    }
    p.locked.placements[0].shift = {2500, 900};
    CHECK(fault_of(p).rfind("locked: ", 0) == 0);
}

TEST_CASE("small parts lie in the openings of large ones", "[sheets]") {
    geometry::Polygon frame = box(1200, 1100);
    frame.holes.push_back({{200, 200}, {200, 900}, {1000, 900}, {1000, 200}});
    Problem p =
        problem_with({part("frame", geometry::oriented(frame), 2), part("lid", box(380, 320), 8)}, 2440, 1220);
    const Layout layout = nest(p, rounds(4));
    REQUIRE(layout.unplaced.empty());
    CHECK(layout.sheet_stock.size() == 1);
    require_valid(p, layout);
}

TEST_CASE("rectangles for a track saw: every cut goes from edge to edge", "[sheets]") {
    std::mt19937 random(5);
    std::vector<Part> parts;
    for (int k = 0; k < 24; ++k)
        parts.push_back(
            part("R" + std::to_string(k), box(150.0 + random() % 700, 100.0 + random() % 400), 1, {0, 90, 180, 270}));
    const Problem p = problem_with(parts);
    REQUIRE(all_rectangles(p));
    const Layout layout = nest_guillotine(p, rounds(5));
    CHECK(layout.unplaced.empty());
    CHECK(violations(p, layout).empty());
    require_valid(p, layout);
    CHECK(layout.utilisation > 0.75);
    for (int s = 0; s < static_cast<int>(layout.sheet_stock.size()); ++s) {
        // Cut by cut, panels fall apart until each part lies alone in one of its own size.
        std::vector<geometry::Box> panels{{{0, 0}, {2440, 1220}}};
        const auto cuts = cuts_of(p, layout, s);
        CHECK_FALSE(cuts.empty());
        for (const auto& cut : cuts) {
            const auto panel = std::find_if(panels.begin(), panels.end(), [&](const geometry::Box& b) {
                return (b.min - cut.panel.min).norm() < 1e-6 && (b.max - cut.panel.max).norm() < 1e-6;
            });
            REQUIRE(panel != panels.end());
            geometry::Box first = *panel, second = *panel;
            (cut.upright ? first.max.x() : first.max.y()) = cut.at_mm;
            (cut.upright ? second.min.x() : second.min.y()) = cut.at_mm + p.spacing_mm;
            *panel = first;
            panels.push_back(second);
        }
        for (const auto& at : layout.placements) {
            if (at.sheet != s) continue;
            const auto own = geometry::bounding_box(placed(p, at).outer);
            CHECK(std::any_of(panels.begin(), panels.end(), [&](const geometry::Box& b) {
                return (b.min - own.min).norm() < 1e-3 && (b.max - own.max).norm() < 1e-3;
            }));
        }
    }
    // A windmill of four cannot be cut from edge to edge.
    Problem mill = problem_with({part("m", box(600, 200), 4, {0, 90})}, 820, 820, 1);
    mill.edge_margin_mm = 0, mill.spacing_mm = 0;
    const Layout windmill{{0},
                          {{0, 0, 0, 0, {0, 0}, false},
                           {0, 1, 0, 90, {820, 0}, false},
                           {0, 2, 0, 0, {220, 620}, false},
                           {0, 3, 0, 90, {200, 220}, false}},
                          {},
                          0,
                          0};
    REQUIRE(violations(mill, windmill).empty());
    CHECK(cuts_of(mill, windmill, 0).empty());
}

TEST_CASE("a part is sent to another sheet where there is room; what lies there stays", "[sheets]") {
    Problem p;
    p.spacing_mm = 4;
    p.stock = {{box(1000, 600), -1, 100}};
    const auto made = [](const char* id, double w, double h) {
        return Part{id, 1, false, {0, 90}, 0, false, box(w, h)};
    };
    p.parts = {made("large", 700, 590), made("narrow", 200, 580), made("wide", 900, 500)};
    Layout layout;
    layout.sheet_stock = {0, 0};
    layout.placements = {{0, 0, 0, 0, {0, 0}}, {2, 0, 1, 0, {50, 50}}, {1, 0, 0, 0, {750, 10}}};
    REQUIRE(violations(p, layout).empty());
    // Not beside the wide one; on a sheet of its own; and back to where it came from, turned or not.
    CHECK_FALSE(moved_to_sheet(p, layout, 2, 1));
    CHECK_FALSE(moved_to_sheet(p, layout, 2, 0));
    CHECK_FALSE(moved_to_sheet(p, layout, 2, 7));
    const auto own = moved_to_sheet(p, layout, 2, 2);
    REQUIRE(own);
    CHECK(own->sheet_stock.size() == 3);
    CHECK(violations(p, *own).empty());
    const auto back = moved_to_sheet(p, *own, 2, 0);
    REQUIRE(back);
    CHECK(back->sheet_stock.size() == 2);
    CHECK(violations(p, *back).empty());
    CHECK(back->placements[0] == layout.placements[0]);
    CHECK(back->placements[1] == layout.placements[1]);
    require_valid(p, *back);
    // No sheet is taken that is not there.
    p.stock.front().count = 2;
    CHECK_FALSE(moved_to_sheet(p, layout, 2, 2));
}

TEST_CASE("the best so far is given with a search's progress, and is valid", "[sheets]") {
    std::mt19937 random(5);
    Problem p;
    p.spacing_mm = 3;
    p.stock = {{box(1000, 700), -1, 100}};
    std::uniform_real_distribution<double> size(90, 320);
    for (int k = 0; k < 24; ++k)
        p.parts.push_back({"p" + std::to_string(k), 1, false, {0, 90}, 0, false, box(size(random), size(random))});
    NestOptions options;
    options.seconds = 1;
    int told = 0;
    options.progress = [&](const Progress& now) {
        REQUIRE(now.best);
        CHECK(static_cast<int>(now.best->sheet_stock.size()) == now.sheets);
        if (++told <= 3) CHECK(violations(p, *now.best).empty());
        return true;
    };
    const Layout last = nest(p, options);
    CHECK(told > 2);
    require_valid(p, last);
}
