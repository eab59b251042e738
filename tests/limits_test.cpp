// What bounds a piece: other pieces, planes of the boat, free lines; the order among pieces; finished and sheet
// outlines. Planes, cylinders, cones and spheres meet in closed form (derived here).
#include <catch2/catch.hpp>

#include <cmath>
#include <memory>

#include "hull/fit.h"
#include "piece/limits.h"
#include "piece/order.h"
#include "piece/outline.h"
#include "support/jobs.h"
#include "support/shapes.h"
#include "units/quantity.h"

using namespace bevelsmith;
using namespace bevelsmith::piece;

namespace {

constexpr double exact_mm = 1e-4;  ///< set operations move points by 1e-5
constexpr double t = 18;

EdgeSpec at_plane(const Vec3& normal, double d) {
    EdgeSpec e;
    e.kind = EdgeKind::plane;
    e.name = "end";
    e.plane = {normal, d};
    return e;
}

EdgeSpec at_piece(const std::string& id, Meeting meeting = Meeting::stops) {
    EdgeSpec e;
    e.kind = EdgeKind::piece;
    e.name = "end at " + id;
    e.piece_id = id;
    e.meeting = meeting;
    return e;
}

/// Across the boat at x = 1000, between y = -300 and z = -200, 200; its port side is left to the test.
PieceSpec panel() {
    PieceSpec out;
    out.id = "P";
    out.name = "Panel";
    out.plane = {Vec3::UnitX(), 1000};
    out.at = Vec3(1009, 0, 0);
    out.split_for_passage = false;
    out.edges = {at_plane(-Vec3::UnitY(), 300), at_plane(Vec3::UnitZ(), 200), at_plane(-Vec3::UnitZ(), 200)};
    return out;
}

SurfaceLookup no_surfaces() {
    return [](const std::string&) { return nullptr; };
}

Outline outline_of(const PieceSpec& s, const PieceLookup& pieces = {}, const SurfaceLookup& surfaces = no_surfaces(),
                   double thickness = t) {
    auto out = compute_outline(s, thickness, surfaces, {5000, 5000}, {}, {pieces, {}});
    INFO((out.ok() ? std::string() : out.error().message));
    REQUIRE(out.ok());
    return std::move(out.value());
}

std::string fault_of(const PieceSpec& s, const PieceLookup& pieces = {}) {
    const auto out = compute_outline(s, t, no_surfaces(), {5000, 5000}, {}, {pieces, {}});
    REQUIRE_FALSE(out.ok());
    return out.error().message;
}

/// The farthest to port (the drawing's u is starboard) on one face.
double port_reach(const Outline& o, bool face_a) {
    double out = -1e9;
    for (const Vec2& p : (face_a ? o.face_a : o.face_b).outer) out = std::max(out, -p.x());
    return out;
}

/// Its bevel, of the one straight edge with this name.
double bevel_deg(const Outline& o, const std::string& name) {
    for (const Edge& e : o.edges_a)
        if (e.name == name) return units::degrees(e.bevel_rad);
    FAIL("no edge " << name);
    return 0;
}

PieceLookup one(const std::string& id, const Neighbour& n) {
    const auto held = std::make_shared<const Neighbour>(n);
    return [=](const std::string& wanted) { return wanted == id ? held.get() : nullptr; };
}

}  // namespace

TEST_CASE("a piece stops at another's near face or covers its end, at any angle, exact on both faces", "[limits]") {
    for (double degrees : {0.0, 20.0, -35.0, 60.0}) {
        const double k = units::radians(degrees), thick = 12;
        const Vec3 n(std::sin(k), std::cos(k), 0);
        const double d = n.dot(Vec3(1000, 500, 0));
        const Neighbour other{{n, d}, thick, 1.5, 0.8};
        // n·p = e at x: y = (e - x sin k) / cos k.
        const auto y_at = [&](double e, double x) { return (e - x * std::sin(k)) / std::cos(k); };
        for (const Meeting meeting : {Meeting::stops, Meeting::covers}) {
            PieceSpec s = panel();
            s.edges.push_back(at_piece("Q", meeting));
            s.edges.back().gap_mm = 2;
            const double face = (meeting == Meeting::stops ? d - 1.5 : d + thick + 0.8) - 2;
            const Outline o = outline_of(s, one("Q", other));
            INFO(degrees << " degrees");
            CHECK(port_reach(o, true) == Approx(y_at(face, 1000)).margin(exact_mm));
            CHECK(port_reach(o, false) == Approx(y_at(face, 1000 + t)).margin(exact_mm));
            // bevel = -asin(n·m) for the normals of the panel and of what it meets.
            CHECK(bevel_deg(o, "end at Q") == Approx(-degrees).margin(1e-4));
        }
        // From the other side the other face is the near one.
        PieceSpec far = panel();
        far.edges[0] = at_plane(Vec3::UnitY(), 900);
        far.at = Vec3(1009, 800, 0);
        far.edges.push_back(at_piece("Q"));
        const Outline o = outline_of(far, one("Q", other));
        double least = 1e9;
        for (const Vec2& p : o.face_a.outer) least = std::min(least, -p.x());
        CHECK(least == Approx(y_at(d + thick + 0.8, 1000)).margin(exact_mm));
    }
}

TEST_CASE("a piece that is missing or parallel is named, and so is a point that is missing", "[limits]") {
    PieceSpec s = panel();
    s.edges.push_back(at_piece("Q"));
    CHECK(fault_of(s).find("'Q', which there is not") != std::string::npos);
    CHECK(fault_of(s, one("Q", {{Vec3::UnitX(), 2000}, 12, 0, 0})).find("parallel") != std::string::npos);
    s.at.reset();
    CHECK(fault_of(s, one("Q", {{Vec3::UnitY(), 500}, 12, 0, 0})).find("which side") != std::string::npos);
    // Three sides of a rectangle do not close.
    CHECK(fault_of(panel()).find("does not close") != std::string::npos);
}

TEST_CASE("a shelf on a cylinder, a leaning face on a cone, a sole on a sphere: both faces and bevels", "[limits]") {
    constexpr double mm = 0.05, degree = 0.05;
    EdgeSpec hull;
    hull.name = "hull", hull.surface_id = "hull";
    PieceSpec shelf;
    shelf.name = "Shelf";
    shelf.split_for_passage = false;
    shelf.plane = {-Vec3::UnitZ(), 500};  // face A at z = -500, face B below it
    shelf.edges = {hull, at_plane(Vec3::UnitX(), 2000), at_plane(-Vec3::UnitX(), -1000), at_plane(-Vec3::UnitY(), 0)};
    const auto tube = [](const std::string&) { return &jobs::tube_surface(); };
    const Outline on_tube = outline_of(shelf, {}, tube);
    CHECK(port_reach(on_tube, true) == Approx(std::sqrt(1e6 - 500.0 * 500)).margin(mm));
    CHECK(port_reach(on_tube, false) == Approx(std::sqrt(1e6 - 518.0 * 518)).margin(mm));
    for (const auto& m : on_tube.marks)
        if (m.kept) CHECK(units::degrees(m.bevel_rad) == Approx(-30).margin(degree));

    // A cone about x: radius r0 + x tan h. The plane y = 600 + z tan 10 leans outboard; it meets the cone where
    // y² + z² = r²; the cone's normal there is (-sin h, cos h·(y, z)/r).
    const double h = units::radians(8), r0 = 900;
    const auto cone_fit = hull::fit_surface(shapes::readings(shapes::cone(r0, 3000, h, -1.5, 0.3), 40, 20, 0.05), {});
    REQUIRE(cone_fit.ok());
    const double lean = units::radians(10);
    PieceSpec face;
    face.name = "Face";
    face.split_for_passage = false;
    face.plane = {Vec3(0, std::cos(lean), -std::sin(lean)), 600 * std::cos(lean)};
    face.edges = {hull, at_plane(Vec3::UnitX(), 2200), at_plane(-Vec3::UnitX(), -800), at_plane(Vec3::UnitZ(), -100)};
    const auto cone = [&](const std::string&) { return &cone_fit->surface; };
    const Outline on_cone = outline_of(face, {}, cone);
    int compared = 0;
    for (const auto& m : on_cone.marks) {
        if (!m.kept) continue;
        const Vec3 p = on_cone.frame.to_space(m.a);
        const double radius = r0 + p.x() * std::tan(h), off = std::hypot(p.y(), p.z());
        CHECK(std::abs(off - radius) * std::cos(h) < mm);
        const Vec3 normal(-std::sin(h), std::cos(h) * p.y() / off, std::cos(h) * p.z() / off);
        CHECK(units::degrees(m.bevel_rad) ==
              Approx(units::degrees(-std::asin(face.plane.normal.dot(normal)))).margin(degree));
        ++compared;
    }
    CHECK(compared > 50);

    const double big = 2000;
    const auto ball_fit = hull::fit_surface(shapes::readings(shapes::sphere_cap(big, 0.8), 40, 20, 0.05), {});
    REQUIRE(ball_fit.ok());
    PieceSpec sole;
    sole.name = "Sole";
    sole.split_for_passage = false;
    sole.plane = {-Vec3::UnitZ(), 1700};
    sole.edges = {hull};
    const auto ball = [&](const std::string&) { return &ball_fit->surface; };
    const Outline on_ball = outline_of(sole, {}, ball);
    for (const Vec2& p : on_ball.face_a.outer)
        CHECK(p.norm() == Approx(std::sqrt(big * big - 1700.0 * 1700)).margin(mm));
    for (const auto& m : on_ball.marks)
        CHECK(units::degrees(m.bevel_rad) == Approx(units::degrees(-std::asin(1700 / big))).margin(degree));
}

TEST_CASE("free edges: an L, rounded corners, a batten's curve", "[limits]") {
    PieceSpec s = panel();
    EdgeSpec ring;
    ring.kind = EdgeKind::free;
    ring.name = "shape";
    ring.closed = true;
    for (const Vec2& p : {Vec2(0, 0), Vec2(400, 0), Vec2(400, 100), Vec2(150, 100), Vec2(150, 300), Vec2(0, 300)})
        ring.line.push_back({p, 0, false});
    s.edges = {ring};
    CHECK(geometry::area_mm2(outline_of(s).face_a) == Approx(400 * 100 + 150 * 200).epsilon(1e-9));
    for (auto& p : s.edges[0].line) p.radius_mm = 20;
    // Five outside corners lose (1 - pi/4) r² each, the inside one gains it.
    CHECK(geometry::area_mm2(outline_of(s).face_a) == Approx(70000 - 4 * (1 - M_PI / 4) * 400).epsilon(1e-4));
    s.edges[0].gap_mm = 2;
    CHECK(geometry::bounding_box(outline_of(s).face_a.outer).width() == Approx(396).margin(0.01));

    // A batten through pins of a circle of 800 mm, ten degrees apart, lies on it between the pins.
    EdgeSpec arc;
    arc.line.push_back({{800, 0}, 0, false});
    for (int k = 1; k < 9; ++k) {
        const double a = units::radians(10.0 * k);
        arc.line.push_back({{800 * std::cos(a), 800 * std::sin(a)}, 0, true});
    }
    arc.line.push_back({{0, 800}, 0, false});
    const auto curve = free_line(arc);
    CHECK(curve.size() > 150);
    for (const Vec2& p : curve) {
        const double along = std::atan2(p.y(), p.x());
        // A batten is straight at its ends: the first and last bays are off by a millimetre, which dies out by a
        // factor of four from pin to pin.
        CHECK(p.norm() == Approx(800).margin(along > 0.52 && along < 1.05 ? 0.05 : 1.3));
    }
    for (const auto& pin : arc.line)
        CHECK(std::any_of(curve.begin(), curve.end(), [&](const Vec2& p) { return (p - pin.at).norm() < 1e-9; }));
}

TEST_CASE("finished, sheet and blank: a lipping takes off the sheet, wood for shaving is left on", "[limits]") {
    PieceSpec s = panel();
    s.edges.push_back(at_plane(Vec3::UnitY(), 300));
    s.edges[0].lipping_mm = 8;
    s.edges[1].leave_on_mm = 3;
    s.edges[3].overhang_mm = 20;
    const Outline o = outline_of(s);
    const auto finished = geometry::bounding_box(o.face_a.outer), sheet = geometry::bounding_box(o.sheet_a.outer);
    CHECK(finished.width() == Approx(620).margin(exact_mm));
    CHECK(finished.height() == Approx(400).margin(exact_mm));
    CHECK(sheet.width() == Approx(612).margin(exact_mm));
    CHECK(sheet.height() == Approx(403).margin(exact_mm));
    REQUIRE(o.parts.size() == 1);
    CHECK(o.parts[0].blank_along_mm == Approx(612 + 20).margin(0.01));
    // A part's finished size has its whole lipping, beyond what is cut.
    CHECK(geometry::farthest_mm(o.parts[0].finished_a, o.face_a) < exact_mm);
    CHECK(geometry::farthest_mm(o.parts[0].finished_b, o.face_b) < exact_mm);
    // 300 mm of oak from 8 to 12 %: 300 · 0.003 · 4.
    CHECK(swelling_mm(300, 0.003, 8, 12) == Approx(3.6));
}

TEST_CASE("notches are cut out of an edge, and only out of an edge", "[limits]") {
    PieceSpec s = panel();
    s.edges.push_back(at_plane(Vec3::UnitY(), 300));
    s.notches = {{"toe space", 250, -250, 100, 150, 0}};
    CHECK(geometry::area_mm2(outline_of(s).face_a) == Approx(600 * 400 - 50 * 100).epsilon(1e-7));
    const auto o = outline_of(s);
    CHECK(std::any_of(o.edges_a.begin(), o.edges_a.end(), [](const Edge& e) { return e.name == "toe space"; }));
    s.notches = {{"hole", 0, 0, 50, 50, 0}};
    CHECK(fault_of(s).find("make it an opening") != std::string::npos);
    s.notches = {{"cut", -50, -300, 100, 600, 0}};
    CHECK(fault_of(s).find("cuts the piece apart") != std::string::npos);
    s.notches = {{"beside", 1000, 0, 50, 50, 0}};
    CHECK(geometry::area_mm2(outline_of(s).face_a) == Approx(600 * 400).epsilon(1e-9));
}

TEST_CASE("pieces are ordered by what they stop at; a circle is named with its pieces", "[limits]") {
    std::vector<PieceSpec> all(4);
    const char* names[] = {"A", "B", "C", "D"};
    for (std::size_t k = 0; k < 4; ++k) all[k].id = all[k].name = names[k];
    all[0].edges = {at_piece("C")};
    all[2].edges = {at_piece("D"), at_piece("gone")};
    all[3].edges = {at_piece("A", Meeting::covers)};  // at a corner one stops and one covers
    all[1].beside = Beside{"A", 300};
    std::vector<const PieceSpec*> list;
    for (const auto& p : all) list.push_back(&p);
    const Order order = order_of(list);
    CHECK(order.circles.empty());
    CHECK(order.sequence == std::vector<std::size_t>{3, 2, 0, 1});
    all[3].edges = {at_piece("B")};
    const Order ring = order_of(list);
    REQUIRE(ring.circles.size() == 1);
    CHECK(ring.circles[0].size() == 4);
    CHECK(ring.circle_with(0));
    const std::string words = circle_words(list, ring.circles[0]);
    for (const char* name : names) CHECK(words.find(std::string("'") + name + "'") != std::string::npos);
    CHECK(words.find("'B' stands beside 'A'") != std::string::npos);
}
