// A piece's outline: edges, gaps, both faces, openings, notches, joints, passage, blanks. The hull is a cylinder, so
// areas, lengths and gaps are known in closed form (derived).
#include <catch2/catch.hpp>

#include <cmath>
#include <random>

#include "job/pipeline.h"
#include "piece/outline.h"
#include "piece/parts.h"
#include "piece/put_back.h"
#include "practice/instruments.h"
#include "support/jobs.h"
#include "units/quantity.h"

using namespace bevelsmith;
using namespace bevelsmith::piece;

namespace {

constexpr double r = jobs::tube_radius_mm;
/// Ten-millimetre chords of the circle and a fit to clean readings: a few hundredths of a millimetre.
constexpr double mm_tolerance = 0.05;

SurfaceLookup lookup() {
    return [](const std::string& id) { return id == "hull" ? &jobs::tube_surface() : nullptr; };
}

PieceSpec spec() {
    return jobs::tube_job().pieces.front();
}

Outline outline_of(const PieceSpec& s, double thickness = 18, const Passage& passage = {5000, 5000}) {
    auto out = compute_outline(s, thickness, lookup(), passage);
    INFO((out.ok() ? std::string() : out.error().message));
    REQUIRE(out.ok());
    return std::move(out.value());
}

std::string fault_of(const PieceSpec& s) {
    const auto out = compute_outline(s, 18, lookup(), {5000, 5000});
    REQUIRE_FALSE(out.ok());
    return out.error().message;
}

/// A circular segment of radius R below the level -h: area R² acos(h/R) - h sqrt(R² - h²).
double segment_area(double radius, double h) {
    return radius * radius * std::acos(h / radius) - h * std::sqrt(radius * radius - h * h);
}

}  // namespace

TEST_CASE("a bulkhead across a cylinder is a circular segment on both faces", "[piece]") {
    const Outline o = outline_of(spec());
    CHECK(geometry::area_mm2(o.face_a) == Approx(segment_area(r, 200)).epsilon(1e-4));
    CHECK(geometry::area_mm2(o.face_b) == Approx(segment_area(r, 200)).epsilon(1e-4));
    for (const Vec2& p : o.face_a.outer)
        if (p.y() < -201) CHECK(p.norm() == Approx(r).margin(mm_tolerance));
    CHECK(o.largest_bevel_rad == Approx(0).margin(units::radians(0.05)));
    CHECK(o.edge_length_mm == Approx(2 * r * std::acos(0.2)).epsilon(1e-3));
    CHECK(o.all_in_survey);
}

TEST_CASE("the outline's edges follow each other around it and are named", "[piece]") {
    const Outline o = outline_of(spec());
    REQUIRE(o.edges_a.size() == 2);
    double length = 0;
    for (const Edge& e : o.edges_a) length += e.length_mm;
    CHECK(length == Approx(geometry::length_mm(o.face_a.outer, true)));
    for (std::size_t i = 0; i < o.edges_a.size(); ++i)
        CHECK(o.edges_a[i].last == o.edges_a[(i + 1) % o.edges_a.size()].first);
    const bool scribed_first = o.edges_a[0].source == EdgeSource::scribed;
    CHECK(o.edges_a[scribed_first ? 0 : 1].name == "hull");
    CHECK(o.edges_a[scribed_first ? 1 : 0].name == "top");
}

TEST_CASE("gap and coating come off square to the surface", "[piece]") {
    PieceSpec s = spec();
    s.edges[0].gap_mm = 4;
    s.edges[0].coating_mm = 0.25;
    s.edges[1].gap_mm = 2;
    const Outline o = outline_of(s);
    for (const Vec2& p : o.face_a.outer)
        if (p.y() < -203) CHECK(p.norm() == Approx(r - 4.25).margin(mm_tolerance));
    CHECK(geometry::bounding_box(o.face_a.outer).max.y() == Approx(-202));
}

TEST_CASE("in a panel that leans, a gap along the normal is gap / cos(bevel) in its plane", "[piece]") {
    PieceSpec s = spec();
    const double k = units::radians(20);
    s.plane = {Vec3(std::cos(k), 0, std::sin(k)), 1500 * std::cos(k)};
    s.edges[0].gap_mm = 5;
    // The section's ends run out of the readings at the sides, so the piece stays low.
    s.edges[1].at_mm = -600;
    const Outline o = outline_of(s);
    for (const EdgeMark& m : o.marks) CHECK(m.gap_mm == Approx(5 / std::cos(m.bevel_rad)));
    for (const EdgeMark& m : o.marks) {
        const Vec3 p = o.frame.to_space(m.a);
        if (m.kept) CHECK(r - std::hypot(p.y(), p.z()) == Approx(5).margin(0.1));
    }
    // Cut low, where the hull faces down and the plane leans up: open.
    CHECK(o.largest_bevel_rad == Approx(k).margin(units::radians(0.1)));
}

TEST_CASE("points of both faces stand on the planes of both faces", "[piece]") {
    const Outline o = outline_of(spec(), 25);
    CHECK(o.thickness_mm == 25);
    for (const EdgeMark& m : o.marks) {
        const Vec3 a = o.frame.to_space(m.a), b = o.frame.to_space(m.b) + o.frame.normal * 25;
        CHECK(a.x() == Approx(1500));
        CHECK(b.x() == Approx(1525));
    }
}

TEST_CASE("a doorway is a hole with rounded corners", "[piece]") {
    PieceSpec s = spec();
    const double area = geometry::area_mm2(outline_of(s).face_a);
    s.openings.push_back({"door", -250, -800, 500, 500, 60});
    const Outline o = outline_of(s);
    REQUIRE(o.face_a.holes.size() == 1);
    CHECK(geometry::area_mm2(o.face_a) == Approx(area - 500 * 500 + (4 - units::pi) * 60 * 60).epsilon(1e-4));
}

TEST_CASE("an opening over the outline, or one that cuts the piece apart, is refused by name", "[piece]") {
    PieceSpec s = spec();
    s.openings.push_back({"hatch", 600, -400, 800, 100, 20});
    CHECK(fault_of(s).find("'hatch' reaches over") != std::string::npos);
}

TEST_CASE("a limber notch is cut at the lowest point, or where it is wanted", "[piece]") {
    PieceSpec s = spec();
    const double area = geometry::area_mm2(outline_of(s).face_a);
    s.limbers.push_back({});
    const Outline low = outline_of(s);
    // An arch of the notch's width: height x width less the corners of its top.
    const double radius = 20, notch = 40 * 30 - (4 - units::pi) * radius * radius / 2;
    CHECK(area - geometry::area_mm2(low.face_a) == Approx(notch).margin(30));
    s.limbers[0].at_mm = 400;
    const Outline aside = outline_of(s);
    bool found = false;
    for (const Edge& e : aside.edges_a) found = found || e.source == EdgeSource::limber;
    CHECK(found);
    CHECK(aside.edge_length_mm < outline_of(spec()).edge_length_mm);
}

TEST_CASE("edges that leave nothing, do not close, or meet no surface are refused in words", "[piece]") {
    PieceSpec s = spec();
    s.edges[1].at_mm = -5000;
    CHECK(fault_of(s).find("no area") != std::string::npos);
    s = spec();
    s.edges[1].at_mm = 900;
    CHECK(fault_of(s).find("the outline is open") != std::string::npos);
    s = spec();
    s.edges[0].surface_id = "deckhead";
    CHECK(fault_of(s).find("not known") != std::string::npos);
    s = spec();
    s.edges.erase(s.edges.begin());
    CHECK(fault_of(s).find("does not close") != std::string::npos);
    s = spec();
    s.plane.d_mm = 9000;
    CHECK(fault_of(s).find("misses") != std::string::npos);
}

TEST_CASE("a level panel may meet both sides of the boat", "[piece]") {
    PieceSpec s = spec();
    s.plane = {Vec3::UnitZ(), -600};
    s.edges.resize(1);
    s.edges.push_back({EdgeKind::straight, "fwd end", {}, {0, 1}, 2000, 0, 0});
    s.edges.push_back({EdgeKind::straight, "aft end", {}, {0, -1}, -1000, 0, 0});
    const Outline o = outline_of(s);
    // A chord of the circle at that height, a metre long.
    CHECK(geometry::area_mm2(o.face_a) == Approx(1000 * 2 * std::sqrt(r * r - 600 * 600)).epsilon(1e-4));
    CHECK(geometry::area_mm2(o.face_b) > geometry::area_mm2(o.face_a));  // wider higher up: open bevels
    CHECK(o.least_bevel_rad == Approx(std::asin(0.6)).margin(units::radians(0.1)));
}

TEST_CASE("lengths along the edge start at the piece and never run back, over several stretches too", "[piece]") {
    PieceSpec s = spec();
    const auto kept_arcs = [](const Outline& o) {
        std::vector<double> out;
        for (const EdgeMark& m : o.marks)
            if (m.kept) out.push_back(m.arc_mm);
        return out;
    };
    auto arcs = kept_arcs(outline_of(s));
    CHECK(arcs.front() == 0);
    CHECK(arcs.back() == Approx(2 * r * std::acos(0.2)).epsilon(0.01));
    s.plane = {Vec3::UnitZ(), -600};
    s.edges.resize(1);
    s.edges.push_back({EdgeKind::straight, "fwd end", {}, {0, 1}, 2000, 0, 0});
    s.edges.push_back({EdgeKind::straight, "aft end", {}, {0, -1}, -1000, 0, 0});
    arcs = kept_arcs(outline_of(s));
    CHECK(arcs.front() == 0);
    for (std::size_t i = 1; i < arcs.size(); ++i) CHECK(arcs[i] > arcs[i - 1]);
    CHECK(arcs.back() > 2000);
}

TEST_CASE("two halves about a line: with a scarf each reaches past it by half the scarf", "[piece]") {
    PieceSpec s = spec();
    s.joints.push_back({JointKind::scarf, true, 0, 8});
    const Outline o = outline_of(s, 18);
    REQUIRE(o.parts.size() == 2);
    CHECK(o.parts[0].id == "B1/1");
    CHECK(o.parts[0].name.find("left half") != std::string::npos);
    const double over = 8 * 18 / 2.0;
    CHECK(geometry::bounding_box(o.parts[0].larger.outer).max.x() == Approx(over));
    CHECK(geometry::bounding_box(o.parts[1].larger.outer).min.x() == Approx(-over));
    s.joints[0].kind = JointKind::butt;
    const Outline butt = outline_of(s, 18);
    CHECK(geometry::area_mm2(butt.parts[0].face_a) + geometry::area_mm2(butt.parts[1].face_a) ==
          Approx(geometry::area_mm2(butt.face_a)));
}

TEST_CASE("a piece too wide for the way in is scarfed until every part passes", "[piece]") {
    PieceSpec s = spec();
    s.split_for_passage = true;
    const Outline whole = outline_of(s, 18, {5000, 5000});
    CHECK(whole.parts.size() == 1);
    CHECK(whole.joints_added == 0);
    const Outline split = outline_of(s, 18, {500, 600});
    CHECK(split.joints_added >= 1);
    for (const Part& p : split.parts) CHECK(p.passes);
    s.split_for_passage = false;
    const Outline stuck = outline_of(s, 18, {500, 600});
    REQUIRE(stuck.parts.size() == 1);
    CHECK_FALSE(stuck.parts[0].passes);
    // The segment is 2 R sin(acos 0.2) wide and 800 high, so 800 is its narrowest width.
    CHECK(stuck.parts[0].passing_width_mm == Approx(800).margin(0.2));
}

TEST_CASE("scarfs for the way in are laid so that the parts also come out of the sheet, with its grain", "[piece]") {
    PieceSpec s = spec();
    s.split_for_passage = true;
    const Passage passage{500, 600};
    const SheetRoom sheet{2020, 600, true};
    const auto fit = [&](const Outline& o) {
        return std::all_of(o.parts.begin(), o.parts.end(),
                           [&](const Part& p) { return p.passes && fits_sheet(p, sheet); });
    };
    const Outline by_way_in = compute_outline(s, 18, lookup(), passage).value();
    CHECK_FALSE(fit(by_way_in));
    const Outline together = compute_outline(s, 18, lookup(), passage, {}, {{}, {}, sheet}).value();
    CHECK(fit(together));
    CHECK(together.joints_added >= 1);
    CHECK_FALSE(together.joints[0].upright);
    // All of the piece is in its parts, scarfs counted twice.
    double parts = 0;
    for (const Part& p : together.parts) parts += geometry::area_mm2(p.face_a);
    CHECK(parts > geometry::area_mm2(together.face_a));
    // A person's own joints stay, and what no division serves is left as it was.
    s.joints = {{}};
    s.joints[0].upright = true, s.joints[0].at_mm = 0;
    CHECK(compute_outline(s, 18, lookup(), passage, {}, {{}, {}, sheet}).value().joints[0].at_mm == 0);
    s.joints.clear();
    const Outline hopeless = compute_outline(s, 18, lookup(), passage, {}, {{}, {}, SheetRoom{60, 40, true}}).value();
    CHECK(hopeless.joints.size() == by_way_in.joints.size());
}

TEST_CASE("what goes in whole but comes out of no sheet is scarfed too, unless a person says otherwise", "[piece]") {
    PieceSpec s = spec();
    s.split_for_passage = true;
    const Passage wide{5000, 5000};
    const SheetRoom sheet{2020, 600, true};
    CHECK(compute_outline(s, 18, lookup(), wide).value().joints.empty());
    const Outline scarfed = compute_outline(s, 18, lookup(), wide, {}, {{}, {}, sheet}).value();
    CHECK(scarfed.joints_added >= 1);
    for (const Part& p : scarfed.parts) CHECK(fits_sheet(p, sheet));
    // On a sheet that holds it whole, and where it is to stay in one, there is no joint.
    CHECK(compute_outline(s, 18, lookup(), wide, {}, {{}, {}, SheetRoom{3000, 3000, true}}).value().joints.empty());
    s.split_for_passage = false;
    CHECK(compute_outline(s, 18, lookup(), wide, {}, {{}, {}, sheet}).value().joints.empty());
}

TEST_CASE("the way in has corners, and wants room for hands", "[piece]") {
    std::mt19937 random(3);
    std::uniform_real_distribution<double> size(20, 1200);
    for (int k = 0; k < 300; ++k) {
        const double p = size(random), q = size(random) / 8, a = size(random), b = size(random);
        CAPTURE(p, q, a, b);
        // By the formula for sharp corners, but for what lies within a millimetre of passing.
        if (rectangle_passes(p + 1, q + 1, a, b)) CHECK(rectangle_passes_rounded(p, q, a, b, 1e-6));
        if (!rectangle_passes(p, q, a, b)) CHECK_FALSE(rectangle_passes_rounded(p, q, a, b, 1e-6));
        // Rounder corners let less through, and a round hole what fits across it.
        if (!rectangle_passes_rounded(p, q, a, b, 10)) CHECK_FALSE(rectangle_passes_rounded(p, q, a, b, 40));
        const bool across = std::hypot(p, q) <= a;
        if (std::abs(std::hypot(p, q) - a) > 0.01) CHECK(rectangle_passes_rounded(p, q, a, a, a / 2) == across);
    }
    const geometry::Ring panel = geometry::rectangle({{0, 0}, {2000, 1064}});
    CHECK(panel_passes(panel, 18, {600, 900, 0, 0}));
    CHECK_FALSE(panel_passes(panel, 18, {600, 900, 0, 15}));
    CHECK_FALSE(panel_passes(panel, 18, {600, 900, 60, 0}));
    CHECK(panel_passes(geometry::rectangle({{0, 0}, {2000, 860}}), 18, {600, 900, 60, 15}));
    CHECK_FALSE(panel_passes(panel, 18, {600, 900, 0, 400}));
}

TEST_CASE("a blank lies with the grain and leaves a margin all round", "[piece]") {
    PieceSpec s = spec();
    s.blank_margin_mm = 10;
    const double width = 2 * std::sqrt(r * r - 200 * 200);
    CHECK(outline_of(s).parts[0].blank_along_mm == Approx(width + 20).margin(0.2));
    s.grain_deg = 90;
    const Outline turned = outline_of(s);
    CHECK(turned.parts[0].blank_along_mm == Approx(800 + 20).margin(0.2));
    CHECK(turned.parts[0].blank_across_mm == Approx(width + 20).margin(0.2));
}

TEST_CASE("a rectangle passes a rectangle as Carver says: agreed with turning it by hand", "[piece]") {
    // Source: J.E. Carver, The rectangle in a rectangle, Amer. Math. Monthly 64, 1957 (from memory); brute force over
    // the angle: p x q turned by t has the box (p cos t + q sin t, p sin t + q cos t).
    std::mt19937 random(11);
    std::uniform_real_distribution<double> side(1, 100);
    int passed = 0;
    for (int k = 0; k < 3000; ++k) {
        const double p = side(random), q = side(random), a = side(random), b = side(random);
        bool fits = false, nearly = false;
        for (int t = 0; t <= 9000; ++t) {
            const double angle = units::pi / 2 * t / 9000;
            const double w = p * std::cos(angle) + q * std::sin(angle), h = p * std::sin(angle) + q * std::cos(angle);
            fits = fits || (w <= a && h <= b);
            nearly = nearly || (w <= a + 0.02 && h <= b + 0.02);
        }
        if (fits == nearly) REQUIRE(rectangle_passes(p, q, a, b) == fits);  // off the edge of the question
        passed += fits;
    }
    CHECK(passed > 300);
    CHECK(rectangle_passes(50, 10, 50, 10));
    CHECK_FALSE(rectangle_passes(50.1, 10, 50, 10));
}

TEST_CASE("bevel runs cover the kept edge and stay within a saw's band", "[piece]") {
    PieceSpec s = spec();
    const double k = units::radians(15);
    s.plane = {Vec3(std::cos(k), 0, std::sin(k)), 1500 * std::cos(k)};
    s.edges[1].at_mm = -600;
    const Outline o = outline_of(s);
    CHECK(o.bevel_runs.size() > 1);
    std::size_t covered = 0;
    for (const auto& run : o.bevel_runs) {
        CHECK(run.most_rad - run.least_rad <= units::radians(saw_band_deg) + 1e-12);
        CHECK(run.mean_rad >= run.least_rad);
        CHECK(run.mean_rad <= run.most_rad);
        covered += static_cast<std::size_t>(run.last - run.first + 1);
    }
    std::size_t kept = 0;
    for (const auto& m : o.marks) kept += m.kept;
    CHECK(covered == kept);
}

TEST_CASE("a forecast says how the piece will fit, now and with more readings", "[piece]") {
    // Few scattered readings of a virtual boat's port side, and a half-bulkhead between them.
    practice::Hand hand;
    const practice::VirtualBoat boat(practice::BoatSpec{});
    auto job = jobs::tube_job();
    static_cast<survey::ReadingSet&>(job.readings[0]) =
        practice::read_points(boat, practice::random_spots(36, {100, -1.45}, {2900, 0.3}, hand.random), hand);
    job.readings.resize(1);
    job.pieces[0].edges[1].at_mm = 0;
    job.pieces[0].edges.push_back({EdgeKind::straight, "middle", {}, {1, 0}, -300, 0, 0});
    const auto results = job::Pipeline().compute(job);
    REQUIRE(results.pieces[0].forecast);
    const Forecast& f = *results.pieces[0].forecast;
    const Outline& o = *results.pieces[0].shape();
    CHECK(f.worst_mm == Approx(o.largest_sigma_mm));
    CHECK(f.now.expected_largest_mm > 0.8 * f.worst_mm);  // the mean of |N| is 0.8 s, and the largest of many is more
    CHECK(f.now.likely_largest_mm > f.now.expected_largest_mm);
    CHECK(f.surface_id == "hull");
    REQUIRE(f.suggestions.size() == 3);
    CHECK(f.then.expected_largest_mm < f.now.expected_largest_mm);
    CHECK(f.then.chance_within >= f.now.chance_within);
    CHECK(f.worst_bevel_rad > 0);
    for (std::size_t i = 1; i < 3; ++i) CHECK((f.suggestions[i].position - f.suggestions[0].position).norm() > 1);
}

TEST_CASE("ties from three marks put a corner back where it was", "[piece]") {
    const Outline o = outline_of(spec());
    const auto corners = corners_of(o);
    REQUIRE(corners.size() == 2);
    CHECK(corners[0].name.find(" / ") != std::string::npos);
    // The corners of the segment: z = -200 and y = ±sqrt(R² - 200²) at x = 1500 (derived).
    for (const auto& c : corners) {
        CHECK(c.at.x() == Approx(1500));
        CHECK(c.at.z() == Approx(-200).margin(0.01));
        CHECK(std::abs(c.at.y()) == Approx(std::sqrt(r * r - 200 * 200)).margin(mm_tolerance));
    }
    const std::vector<Vec3> marks{Vec3(900, 400, -100), Vec3(2200, -300, 50), Vec3(1000, -500, 300)};
    const auto taped = ties(marks, corners);
    REQUIRE(taped.size() == 6);
    for (const auto& t : taped)
        CHECK(t.distance_mm ==
              Approx(
                  (corners[static_cast<std::size_t>(t.corner)].at - marks[static_cast<std::size_t>(t.mark)]).norm()));
}

TEST_CASE("what has fewer than three corners is tied by its outermost places too", "[piece]") {
    // The segment's lowest place is the keel, its highest the middle of the straight edge (derived).
    const Outline o = outline_of(spec());
    const auto places = taped_places(o);
    REQUIRE(places.size() == 4);
    CHECK(places[2].name == "lowest, as drawn");
    CHECK((places[2].at - Vec3(1500, 0, -r)).norm() < 20);
    CHECK(places[2].at.z() == Approx(-r).margin(0.5));
    CHECK(places[3].name == "highest, as drawn");
    CHECK((places[3].at - Vec3(1500, 0, -200)).norm() < 0.1);
    // Rounded all round: no corner, four places, in the middle of straight sides.
    Outline round = o;
    round.edges_a.clear();
    round.face_a.outer = geometry::rectangle({{0, 0}, {400, 300}});
    const auto four = taped_places(round);
    REQUIRE(four.size() == 4);
    CHECK((four[0].drawn - Vec2(200, 0)).norm() < 1e-9);
    CHECK((four[1].drawn - Vec2(200, 300)).norm() < 1e-9);
    CHECK((four[2].drawn - Vec2(0, 150)).norm() < 1e-9);
    CHECK((four[3].drawn - Vec2(400, 150)).norm() < 1e-9);
    CHECK(corners_of(round).empty());
}

TEST_CASE("where an edge turns at a chine there is a corner to tape from", "[piece]") {
    // A typed outline is one edge of five points: its corners are places, the point of a straight side is none.
    PieceSpec s = spec();
    s.edges.resize(1);
    s.edges[0] = {EdgeKind::free, "outline", {}};
    s.edges[0].closed = true;
    for (const Vec2& p : {Vec2(0, 0), Vec2(300, 0), Vec2(600, 0), Vec2(700, 400), Vec2(0, 400)})
        s.edges[0].line.push_back({p});
    const auto places = taped_places(outline_of(s));
    REQUIRE(places.size() >= 3);
    for (const auto& place : places) {
        CHECK(place.name.rfind("outline, corner ", 0) == 0);
        const bool typed = std::any_of(s.edges[0].line.begin(), s.edges[0].line.end(), [&](const auto& p) {
            return p.at.x() != 300 && (p.at - place.drawn).norm() < 0.1;
        });
        CHECK(typed);
    }
}

TEST_CASE("a limber hole makes no corner", "[piece]") {
    PieceSpec s = spec();
    s.limbers.emplace_back();
    CHECK(corners_of(outline_of(s)).size() == 2);
}
