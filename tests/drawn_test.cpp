// Drawings that come in and tables that go out: DXF outlines written by hand in several dialects, against areas in
// closed form; base lines and ordinates of a circle, against the circle.
#include <catch2/catch.hpp>

#include <fmt/format.h>
#include <cmath>

#include "exchange/drawing.h"
#include "exchange/dxf_outlines.h"
#include "exchange/sheet_plan.h"
#include "geometry/batten.h"
#include "job/drawn_shapes.h"
#include "job/in_full.h"
#include "job/kept_layouts.h"
#include "support/jobs.h"
#include "units/ranges.h"

using namespace bevelsmith;
using namespace bevelsmith::exchange;

namespace {

/// A file with these entities, and a header that names a unit (0: none).
std::string dxf(const std::string& entities, int unit = 4) {
    const std::string header =
        unit ? fmt::format("0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n{}\n0\nENDSEC\n", unit) : std::string();
    return header + "0\nSECTION\n2\nENTITIES\n" + entities + "0\nENDSEC\n0\nEOF\n";
}
struct Corner {
    double x, y, bulge;
};
std::string lwpolyline(const std::string& layer, const std::vector<Corner>& corners, bool closed = true) {
    std::string out = fmt::format("0\nLWPOLYLINE\n100\nAcDbPolyline\n8\n{}\n90\n{}\n70\n{}\n", layer, corners.size(),
                                  closed ? 1 : 0);
    for (const Corner& c : corners) out += fmt::format("10\n{}\n20\n{}\n42\n{}\n", c.x, c.y, c.bulge);
    return out;
}
std::string line(double x1, double y1, double x2, double y2, const char* layer = "0") {
    return fmt::format("0\nLINE\n8\n{}\n10\n{}\n20\n{}\n11\n{}\n21\n{}\n", layer, x1, y1, x2, y2);
}
std::string circle(double x, double y, double r, const char* layer = "0") {
    return fmt::format("0\nCIRCLE\n8\n{}\n10\n{}\n20\n{}\n40\n{}\n", layer, x, y, r);
}
std::string arc(double x, double y, double r, double from, double to) {
    return fmt::format("0\nARC\n8\n0\n10\n{}\n20\n{}\n40\n{}\n50\n{}\n51\n{}\n", x, y, r, from, to);
}

DxfOutlines read(const std::string& text) {
    auto out = read_dxf_outlines(text);
    INFO((out ? "" : out.error().message));
    REQUIRE(out.ok());
    return std::move(out.value());
}
Error refused(const std::string& text) {
    const auto out = read_dxf_outlines(text);
    REQUIRE_FALSE(out.ok());
    return out.error();
}

/// An edge on an arc of radius `r` over a chord, marks every few millimetres.
std::vector<piece::EdgeMark> on_arc(double r, double half_angle, double bevel_rad, double thickness) {
    std::vector<piece::EdgeMark> out;
    const int n = 400;
    for (int k = 0; k <= n; ++k) {
        const double a = -half_angle + 2 * half_angle * k / n;
        piece::EdgeMark m;
        // Rising to the right along the lower side of a circle about (0, r): the piece lies above.
        m.a = Vec2(r * std::sin(a), r - r * std::cos(a));
        const double r_b = r + thickness * std::tan(bevel_rad);
        m.b = Vec2(r_b * std::sin(a), r - r_b * std::cos(a));
        m.arc_mm = r * (a + half_angle);
        m.bevel_rad = bevel_rad;
        m.sigma_mm = 0.5;
        out.push_back(m);
    }
    return out;
}

}  // namespace

TEST_CASE("outlines are read from closed polylines with arcs, circles, and lines whose ends meet", "[drawn]") {
    // A stadium: two half circles of radius 50 (bulge 1) joined by 200 mm.
    const auto stadium = read(dxf(lwpolyline("PART", {{0, 0, 0}, {200, 0, 1}, {200, 100, 0}, {0, 100, 1}})));
    REQUIRE(stadium.rings.size() == 1);
    CHECK(geometry::area_mm2(stadium.rings[0].ring) == Approx(200 * 100 + M_PI * 50 * 50).epsilon(2e-4));
    CHECK(stadium.unit_stated);

    // A D of three lines and an arc, out of order and partly backwards, with a hole.
    const auto d = read(dxf(line(0, 0, 300, 0) + arc(300, 100, 100, 270, 90) + line(0, 200, 0, 0) +
                            line(300, 200, 0, 200.05) + circle(150, 100, 40)));
    REQUIRE(d.rings.size() == 2);
    const auto shapes = shapes_on(d, "0");
    REQUIRE(shapes.size() == 1);
    REQUIRE(shapes[0].holes.size() == 1);
    CHECK(geometry::area_mm2(shapes[0]) == Approx(300 * 200 + M_PI * 100 * 100 / 2 - M_PI * 40 * 40).epsilon(3e-4));

    // The old form of polyline; what stands in a hole stands by itself.
    const std::string old =
        "0\nPOLYLINE\n8\nA\n66\n1\n70\n1\n0\nVERTEX\n8\nA\n10\n0\n20\n0\n0\nVERTEX\n8\nA\n10\n500\n20\n0\n"
        "0\nVERTEX\n8\nA\n10\n500\n20\n400\n0\nVERTEX\n8\nA\n10\n0\n20\n400\n0\nSEQEND\n";
    const auto nested = shapes_on(read(dxf(old + circle(250, 200, 150, "A") + circle(250, 200, 50, "A"))), "A");
    REQUIRE(nested.size() == 2);
    CHECK(geometry::area_mm2(nested[0]) == Approx(500 * 400 - M_PI * 150 * 150).epsilon(3e-4));
    CHECK(geometry::area_mm2(nested[1]) == Approx(M_PI * 50 * 50).epsilon(1e-3));
}

TEST_CASE("a drawing's unit counts, and openings may lie on a layer of their own", "[drawn]") {
    const std::string square = lwpolyline("0", {{0, 0, 0}, {10, 0, 0}, {10, 10, 0}, {0, 10, 0}});
    CHECK(geometry::area_mm2(read(dxf(square, 1)).rings[0].ring) == Approx(254 * 254));
    CHECK(geometry::area_mm2(read(dxf(square, 5)).rings[0].ring) == Approx(100 * 100));
    const auto unsaid = read(dxf(square, 0));
    CHECK_FALSE(unsaid.unit_stated);
    CHECK(geometry::area_mm2(unsaid.rings[0].ring) == Approx(100));

    const auto two = read(dxf(lwpolyline("OUT", {{0, 0, 0}, {600, 0, 0}, {600, 400, 0}, {0, 400, 0}}) +
                              circle(100, 100, 30, "HOLES") + circle(900, 100, 30, "HOLES")));
    CHECK(layers_of(two) == std::vector<std::string>{"OUT", "HOLES"});
    CHECK(shapes_on(two, "OUT")[0].holes.empty());
    CHECK(shapes_on(two, "OUT", "HOLES")[0].holes.size() == 1);
}

TEST_CASE("what the program writes it reads again: a part with its arcs, both faces apart", "[drawn]") {
    const jobs::Folder folder;
    const auto job = jobs::ternlight();
    const auto drawing = drawing_of(job, job::Pipeline().compute(job), "B1");
    REQUIRE(drawing.ok());
    REQUIRE(write_drawing(*drawing, Format::dxf, folder.file("b.dxf")).ok());
    const auto back = read(jobs::read(folder.file("b.dxf")));
    const auto a = shapes_on(back, "OUTER_A", "INNER_A"), b = shapes_on(back, "OUTER_B", "INNER_B");
    REQUIRE(a.size() == 1);
    REQUIRE(b.size() == 1);
    CHECK(a[0].holes.size() == drawing->face_a.holes.size());
    // Arcs and chords of either leave the other by hundredths.
    const auto off = [](const geometry::Polygon& p, const geometry::Polygon& q) {
        double worst = 0;
        for (const Vec2& at : p.outer) {
            double near = HUGE_VAL;
            for (std::size_t i = 0; i < q.outer.size(); ++i)
                near = std::min(near,
                                geometry::distance_to_segment_mm(at, q.outer[i], q.outer[(i + 1) % q.outer.size()]));
            worst = std::max(worst, near);
        }
        return worst;
    };
    CHECK(off(a[0], drawing->face_a) < 0.05);
    CHECK(off(drawing->face_a, a[0]) < 0.05);
    CHECK(off(b[0], drawing->face_b) < 0.05);
}

TEST_CASE("a drawing that is bad is refused with its place", "[drawn]") {
    CHECK(refused("").message.find("nothing") != std::string::npos);
    CHECK(refused("  0\nSECTION\nbanana\n").line == 3);
    CHECK(refused(std::string("AutoCAD Binary DXF\r\n\x1a\0", 22)).message.find("not binary") != std::string::npos);
    CHECK(refused(dxf(lwpolyline("0", {{0, 0, 0}, {1e9, 0, 0}, {1e9, 5, 0}}))).message.find("range") !=
          std::string::npos);
    CHECK_FALSE(refused(dxf(lwpolyline("0", {{0, 0, 0}, {std::nan(""), 0, 0}, {9, 5, 0}}))).message.empty());
    // The library would take room for all of them at once.
    const auto many = refused(dxf("0\nLWPOLYLINE\n8\n0\n90\n2000000000\n70\n1\n10\n0\n20\n0\n"));
    CHECK(many.message.find("too many") != std::string::npos);
    CHECK(many.line > 0);
    const auto open = refused(dxf(line(0, 0, 100, 0) + line(100, 0, 100, 80)));
    CHECK(open.message.find("open by 128.1 mm") != std::string::npos);
    CHECK(refused(dxf("0\nSPLINE\n8\n0\n70\n8\n71\n3\n72\n8\n73\n4\n")).message.find("spline") != std::string::npos);
    CHECK(refused(std::string(5000, 'x')).line == 1);
}

TEST_CASE("what is left out of a drawing is said, and the rest is read", "[drawn]") {
    const auto some = read(dxf(circle(0, 0, 100) + line(0, 0, 50, 0) + "0\nINSERT\n8\n0\n2\nB\n10\n0\n20\n0\n"));
    REQUIRE(some.rings.size() == 1);
    REQUIRE(some.notes.size() == 2);
    CHECK(some.notes[0].find("open by 50.0 mm at") != std::string::npos);
    CHECK(some.notes[1].find("block") != std::string::npos);
}

TEST_CASE("ordinates of an arc from its chord, in closed form", "[drawn]") {
    const double r = 1500, half = 0.5, bevel = 12 * M_PI / 180, thickness = 12;
    const auto lines = base_lines(on_arc(r, half, bevel, thickness), 100);
    REQUIRE(lines.size() == 1);
    const auto& base = lines[0];
    const double chord = 2 * r * std::sin(half);
    CHECK((base.to - base.from).norm() == Approx(chord));
    CHECK(base.stations.front().along_mm == 0);
    CHECK(base.stations.back().along_mm == Approx(chord));
    for (std::size_t k = 0; k + 2 < base.stations.size(); ++k)
        CHECK(base.stations[k + 1].along_mm - base.stations[k].along_mm == Approx(100));
    for (const auto& s : base.stations) {
        const double x = s.along_mm - chord / 2;
        CHECK(s.out_a_mm == Approx(std::sqrt(r * r - x * x) - r * std::cos(half)).margin(0.02));
        CHECK(s.bevel_deg == Approx(12));
        CHECK(s.sigma_mm == 0.5);
        const double r_b = r + thickness * std::tan(bevel);
        REQUIRE(s.out_b_mm.has_value());
        CHECK(*s.out_b_mm == Approx(std::sqrt(r_b * r_b - x * x) - r * std::cos(half)).margin(0.02));
    }
}

TEST_CASE("a batten's error falls with its step, and is what a denser one shows", "[drawn]") {
    const auto marks = on_arc(700, 1.2, 0.1, 18);
    double before = HUGE_VAL;
    for (double step : {400.0, 200.0, 100.0, 50.0}) {
        const auto lines = base_lines(marks, step);
        REQUIRE(lines.size() == 1);
        CHECK(lines[0].batten_error_mm < before / 1.5);
        before = lines[0].batten_error_mm;
        // The same, measured from the circle itself: how far the sprung line is from radius 700 about (0, 700).
        std::vector<Vec2> pins;
        const Vec2 along = (lines[0].to - lines[0].from).normalized(), out(along.y(), -along.x());
        for (const auto& s : lines[0].stations) pins.push_back(lines[0].from + s.along_mm * along + s.out_a_mm * out);
        double worst = 0;
        for (const Vec2& p : geometry::batten(pins))
            worst = std::max(worst, std::abs((p - Vec2(0, 700)).norm() - 700));
        CHECK(lines[0].batten_error_mm == Approx(worst).margin(0.05).epsilon(0.05));
    }
    CHECK(before < 1.2);
}

TEST_CASE("an edge that turns back has several base lines, and a ring has too", "[drawn]") {
    const auto lines = base_lines(on_arc(500, 2.4, 0, 12), 80);
    REQUIRE(lines.size() >= 2);
    std::vector<piece::EdgeMark> ring = on_arc(300, M_PI, 0, 12);
    CHECK(base_lines(ring, 50).size() >= 2);
    for (const auto& base : lines)
        for (std::size_t k = 0; k + 1 < base.stations.size(); ++k)
            CHECK(base.stations[k + 1].along_mm > base.stations[k].along_mm);
    CHECK(base_lines({}, 100).empty());
}

TEST_CASE("the demo's ordinates put the edge back where its outline is", "[drawn]") {
    const auto job = jobs::ternlight();
    const auto drawing = drawing_of(job, job::Pipeline().compute(job), "B2", 60);
    REQUIRE(drawing.ok());
    REQUIRE_FALSE(drawing->bases.empty());
    const auto& ring = drawing->face_a.outer;
    for (const auto& base : drawing->bases) {
        const Vec2 along = (base.to - base.from).normalized(), out(along.y(), -along.x());
        CHECK(base.batten_error_mm < 2);
        for (const auto& s : base.stations) {
            const Vec2 at = base.from + s.along_mm * along + s.out_a_mm * out;
            double near = HUGE_VAL;
            for (std::size_t i = 0; i < ring.size(); ++i)
                near = std::min(near, geometry::distance_to_segment_mm(at, ring[i], ring[(i + 1) % ring.size()]));
            CHECK(near < 0.02);
        }
    }
    const std::string csv = ordinates_csv(*drawing);
    std::size_t rows = 0;
    for (const auto& base : drawing->bases) rows += base.stations.size();
    CHECK(static_cast<std::size_t>(std::count(csv.begin(), csv.end(), '\n')) == rows + 2);
}

TEST_CASE("shapes that are no panels or pieces are refused in words, and nothing is added", "[drawn]") {
    job::Job job = jobs::ternlight();
    const auto results = job::Pipeline().compute(job);
    const std::string material = job.materials.front().id;
    const geometry::Polygon crossed{{{0, 0}, {500, 500}, {500, 0}, {0, 500}}, {}};
    CHECK(job::add_offcut(job, material, "x", crossed).error().message.find("crosses itself") != std::string::npos);
    CHECK_FALSE(job::add_offcut(job, "none", "x", {geometry::rectangle({{0, 0}, {100, 100}}), {}}).ok());
    CHECK(job.offcuts.empty());
    CHECK_FALSE(job::drawn_piece(job, results, material, "x", crossed).ok());
    // A spiral of corners that no thinning helps.
    geometry::Polygon comb;
    for (int k = 0; k < 300; ++k) {
        comb.outer.push_back({k * 20.0, 0});
        comb.outer.push_back({k * 20.0 + 10, 0});
        comb.outer.push_back({k * 20.0 + 10, 300});
        comb.outer.push_back({k * 20.0 + 15, 300});
    }
    comb.outer.push_back({6000, -50}), comb.outer.push_back({0, -50});
    const auto many = job::drawn_piece(job, results, material, "comb", comb);
    REQUIRE_FALSE(many.ok());
    CHECK(many.error().message.find("at most 200") != std::string::npos);
}

TEST_CASE("no more pieces are taken from a drawing than a job may hold", "[drawn]") {
    job::Job job = jobs::ternlight();
    const auto results = job::Pipeline().compute(job);
    job.pieces.resize(units::limit::pieces.most);
    const auto more = job::drawn_piece(job, results, "", "square", {geometry::rectangle({{0, 0}, {100, 100}}), {}});
    REQUIRE_FALSE(more.ok());
    CHECK(more.error().message.find("at most 500") != std::string::npos);
}

TEST_CASE("a curve of many chords becomes an edge of at most 200 corners, with hardly more wood", "[drawn]") {
    job::Job job = jobs::ternlight();
    const auto results = job::Pipeline().compute(job);
    geometry::Polygon disc;
    for (int k = 0; k < 2000; ++k) {
        const double a = 2 * M_PI * k / 2000;
        disc.outer.push_back(600 * Vec2(std::cos(a), std::sin(a)));
    }
    const auto piece = job::drawn_piece(job, results, "", "disc", disc);
    REQUIRE(piece.ok());
    CHECK(piece->edges.front().line.size() <= 200);
    job.pieces.push_back(*piece);
    const auto again = job::Pipeline().compute(job);
    const auto* shape = again.pieces.back().shape();
    REQUIRE(shape);
    CHECK(geometry::area_mm2(shape->face_a) >= geometry::area_mm2(disc) - 1);
    CHECK(geometry::area_mm2(shape->face_a) <= geometry::area_mm2(disc) + 0.4 * 2 * M_PI * 600);
}

TEST_CASE("a kept layout holds until its parts change, and says then why it does not", "[drawn]") {
    job::Job job = jobs::ternlight();
    job::Pipeline pipeline;
    auto results = pipeline.compute(job);
    REQUIRE_FALSE(results.sheets.empty());
    const auto name = job::keep_beside(job, results.sheets.front());
    CHECK(job::keep_beside(job, results.sheets.front()) == name);
    REQUIRE(job.layouts.size() == 1);
    const auto same = job::kept_layout(job.layouts.front(), results.sheets.front());
    REQUIRE(same.ok());
    CHECK(same->placements == results.sheets.front().layout->placements);
    CHECK(same->utilisation == Approx(results.sheets.front().layout->utilisation));
    // It is no layout in use: the machine lays out as before.
    results = pipeline.compute(job);
    CHECK_FALSE(results.sheets.front().locked);
    auto fewer = job;
    const std::string first = results.sheets.front().problem->parts.front().id;
    std::erase_if(fewer.pieces, [&](const auto& p) { return p.id == job::piece_of_part(first); });
    const auto after = pipeline.compute(fewer);
    const auto broken = job::kept_layout(job.layouts.front(), after.sheets.front());
    REQUIRE_FALSE(broken.ok());
    CHECK(broken.error().message.find("is gone") != std::string::npos);
    job::take_up(job, job.layouts.front().material_id, name);
    results = pipeline.compute(job);
    CHECK(results.sheets.front().locked);
    job::forget_layout(job, job.layouts.front().material_id, name);
    CHECK(job.layouts.size() == 1);
}
