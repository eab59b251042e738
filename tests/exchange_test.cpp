// Files out are read back by readers that are not ours; files in are refused with file and line when they are bad.
#include <catch2/catch.hpp>

#include <dl_creationadapter.h>
#include <dl_dxf.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <nlohmann/json.hpp>
#include <regex>
#include <sstream>

#include "exchange/drawing.h"
#include "exchange/parts_json.h"
#include "exchange/points_csv.h"
#include "exchange/report.h"
#include "support/foreign_dxf.h"
#include "support/jobs.h"

using namespace bevelsmith;
using namespace bevelsmith::exchange;

namespace {

struct Demo {
    job::Job job = jobs::ternlight();
    job::Results results = job::Pipeline().compute(job);
};

const Demo& demo() {
    static const Demo the_demo;
    return the_demo;
}

Drawing drawing(const std::string& id) {
    auto out = drawing_of(demo().job, demo().results, id);
    REQUIRE(out.ok());
    return std::move(out.value());
}

/// Collects what dxflib's own parser finds.
class DxfReader : public DL_CreationAdapter {
  public:
    void addPolyline(const DL_PolylineData& data) override {
        closed[layer()] += (data.flags & 1) != 0;
        rings[layer()].emplace_back();
    }
    void addVertex(const DL_VertexData& v) override {
        rings[layer()].back().push_back({v.x, v.y});
        arcs[layer()] += v.bulge != 0;
    }
    void addLine(const DL_LineData&) override { ++lines[layer()]; }
    void addText(const DL_TextData& t) override { texts.push_back(t.text); }
    std::map<std::string, std::vector<geometry::Ring>> rings;
    std::map<std::string, int> lines, closed, arcs;
    std::vector<std::string> texts;

  private:
    std::string layer() { return getAttributes().getLayer(); }
};

/// How far corners that were read stand from those that were written; where arcs are, there are fewer of them.
double farthest(const geometry::Ring& read, const geometry::Ring& written) {
    double out = 0;
    for (const Vec2& p : read) {
        double nearest = HUGE_VAL;
        for (const Vec2& q : written) nearest = std::min(nearest, (p - q).norm());
        out = std::max(out, nearest);
    }
    return out;
}

std::vector<double> numbers_in(const std::string& text) {
    std::vector<double> out;
    static const std::regex number("-?[0-9]+\\.?[0-9]*");
    for (auto it = std::sregex_iterator(text.begin(), text.end(), number); it != std::sregex_iterator(); ++it)
        out.push_back(jobs::number_in(it->str()));
    return out;
}

Result<std::vector<survey::Point>> points(const char* text) {
    return points_from_csv(text, 1.5);
}

}  // namespace

TEST_CASE("a DXF read back by dxflib's parser has both faces in their layers, to 0.01 mm", "[exchange]") {
    const jobs::Folder folder;
    const Drawing d = drawing("B1");
    REQUIRE(write_drawing(d, Format::dxf, folder.file("B1.dxf")).ok());
    DxfReader reader;
    DL_Dxf parser;
    REQUIRE(parser.in(folder.file("B1.dxf"), &reader));
    REQUIRE(reader.rings["OUTER_A"].size() == 1);
    REQUIRE(reader.rings["OUTER_B"].size() == 1);
    CHECK(reader.closed["OUTER_A"] == 1);
    CHECK(reader.closed["INNER_A"] == 1);
    REQUIRE(reader.rings["INNER_A"].size() == 1);
    // The doorway's rounded corners are arcs; what stands between arcs stands where it did.
    CHECK(reader.arcs["INNER_A"] >= 4);
    CHECK(farthest(reader.rings["OUTER_A"][0], d.face_a.outer) < 0.01);
    CHECK(farthest(reader.rings["INNER_A"][0], d.face_a.holes[0]) < 0.01);
    CHECK(farthest(reader.rings["OUTER_B"][0], d.face_b.outer) < 0.01);
    CHECK(reader.lines["MARK"] == static_cast<int>(d.ticks.size() + d.joint_lines.size()));
    // Bevels, joints, edges, its unit, and its id.
    CHECK(reader.texts.size() == d.ticks.size() + d.joint_lines.size() + d.notes.size() + 2);
}

TEST_CASE("the DXF of a job in inches is in inches, and says so", "[exchange]") {
    const jobs::Folder folder;
    Drawing d = drawing("B2");
    d.unit = units::LengthUnit::inch_sixteenths;
    REQUIRE(write_drawing(d, Format::dxf, folder.file("B2.dxf")).ok());
    const auto read = foreign::read_dxf(folder.file("B2.dxf"), folder.path());
    CHECK(read.errors == 0);
    const double square_inch = units::mm_per_inch * units::mm_per_inch;
    CHECK(read.areas.at("OUTER_A") * square_inch ==
          Approx(std::abs(geometry::area_mm2(d.face_a.outer))).epsilon(1e-4));
    const std::string text = jobs::read(folder.file("B2.dxf"));
    const auto at = text.find("$INSUNITS");
    REQUIRE(at != std::string::npos);
    CHECK(std::regex_search(text.substr(at, 40), std::regex("\\$INSUNITS\\s+70\\s+1\\s")));
    CHECK(text.find("Inches, 1:1") != std::string::npos);
}

TEST_CASE("a DXF read by ezdxf has no errors and both faces' areas", "[exchange]") {
    const jobs::Folder folder;
    for (const char* id : {"B1", "B2", "S1"}) {
        INFO(id);
        const Drawing d = drawing(id);
        REQUIRE(write_drawing(d, Format::dxf, folder.file("piece.dxf")).ok());
        const auto read = foreign::read_dxf(folder.file("piece.dxf"), folder.path());
        REQUIRE(read.errors == 0);
        const auto check = [&](const char* layer, const geometry::Polygon& face) {
            INFO(layer);
            REQUIRE(read.areas.count(layer) == 1);
            CHECK(read.areas.at(layer) == Approx(std::abs(geometry::area_mm2(face.outer))).epsilon(1e-4));
        };
        check("OUTER_A", d.face_a);
        check("OUTER_B", d.face_b);
        double openings = 0;
        for (const auto& hole : d.face_a.holes) openings += std::abs(geometry::area_mm2(hole));
        // Chords of rounded corners lie within their arcs.
        if (openings > 0) CHECK(read.areas.at("INNER_A") == Approx(openings).epsilon(2e-3));
    }
}

TEST_CASE("the drawing starts at the corner of the larger outline", "[exchange]") {
    for (const char* id : {"B1", "B1/1", "B1/2", "B2", "S1"}) {
        const Drawing d = drawing(id);
        const auto a = geometry::bounding_box(d.face_a.outer), b = geometry::bounding_box(d.face_b.outer);
        CHECK(std::min(a.min.x(), b.min.x()) == Approx(0).margin(1e-9));
        CHECK(std::min(a.min.y(), b.min.y()) == Approx(0).margin(1e-9));
        CHECK(d.box.max.x() == Approx(std::max(a.max.x(), b.max.x())));
        CHECK_FALSE(d.rows.empty());
        CHECK_FALSE(d.material.empty());
    }
}

TEST_CASE("bevels are marked at most every 200 mm along the edge, outward of it", "[exchange]") {
    const Drawing d = drawing("B1");
    REQUIRE(d.ticks.size() > 10);
    for (std::size_t i = 1; i < d.ticks.size(); ++i) CHECK((d.ticks[i].at - d.ticks[i - 1].at).norm() < 205);
    for (const auto& t : d.ticks) {
        CHECK(t.outward.norm() == Approx(1));
        CHECK_FALSE(geometry::contains(d.face_a, t.at + 5 * t.outward));
    }
}

TEST_CASE("the table's ordinates lie on the outline of their face", "[exchange]") {
    const Drawing d = drawing("B2");
    const auto off = [](const geometry::Ring& ring, const Vec2& p) {
        double best = 1e9;
        for (std::size_t i = 0; i < ring.size(); ++i)
            best = std::min(best, geometry::distance_to_segment_mm(p, ring[i], ring[(i + 1) % ring.size()]));
        return best;
    };
    for (const auto& r : d.rows) {
        CHECK(off(d.face_a.outer, {r.across_a_mm, r.up_a_mm}) < 0.01);
        CHECK(r.sigma_mm > 0);
    }
    for (std::size_t i = 1; i < d.rows.size(); ++i) CHECK(d.rows[i].arc_mm > d.rows[i - 1].arc_mm);
}

TEST_CASE("a CSV read plainly gives the table back", "[exchange]") {
    const Drawing d = drawing("B2");
    std::istringstream in(csv_of(d));
    std::string line;
    std::getline(in, line);
    CHECK(line.front() == '#');
    std::getline(in, line);
    CHECK(line == "along_mm,across_a_mm,up_a_mm,across_b_mm,up_b_mm,bevel_deg,sigma_mm,in_survey");
    for (const auto& row : d.rows) {
        REQUIRE(std::getline(in, line));
        const auto values = numbers_in(line);
        REQUIRE(values.size() == 7);
        CHECK(values[1] == Approx(row.across_a_mm).margin(0.006));
        CHECK(values[4] == Approx(row.up_b_mm).margin(0.006));
        CHECK(values[5] == Approx(row.bevel_deg).margin(0.006));
    }
    CHECK_FALSE(std::getline(in, line));
}

TEST_CASE("an SVG is as large as the piece, in millimetres, with both faces as paths", "[exchange]") {
    const Drawing d = drawing("B2");
    const std::string svg = svg_of(d);
    std::smatch found;
    REQUIRE(std::regex_search(svg, found, std::regex("width=\"([0-9.]+)mm\" height=\"([0-9.]+)mm\"")));
    CHECK(jobs::number_in(found[1]) == Approx(d.box.width() + 80).margin(0.001));
    CHECK(jobs::number_in(found[2]) == Approx(d.box.height() + 80).margin(0.001));
    REQUIRE(std::regex_search(svg, found, std::regex("id=\"face-a\"[^>]* d=\"([^\"]+)\"")));
    const auto values = numbers_in(found[1]);
    REQUIRE(values.size() == 2 * d.face_a.outer.size());
    for (std::size_t i = 0; i < d.face_a.outer.size(); ++i) {
        CHECK(values[2 * i] == Approx(d.face_a.outer[i].x()).margin(0.01));
        CHECK(d.box.height() - values[2 * i + 1] == Approx(d.face_a.outer[i].y()).margin(0.01));
    }
}

TEST_CASE("names with signs of their own do not break an SVG or a CSV", "[exchange]") {
    Drawing d = drawing("B2");
    d.title = "Locker <port> & \"shelf\"";
    CHECK(svg_of(d).find("<title>Locker &lt;port&gt; &amp; &quot;shelf&quot;</title>") != std::string::npos);
    CHECK(csv_of(d).find("\"Locker <port> & \"\"shelf\"\"\"") != std::string::npos);
}

TEST_CASE("a piece that is not there, or has no outline, is said to be so", "[exchange]") {
    CHECK(drawing_of(demo().job, demo().results, "B7").error().message.find("B7") != std::string::npos);
    CHECK_FALSE(drawing_of(demo().job, demo().results, "B1/9").ok());
    CHECK_FALSE(drawing_of(demo().job, demo().results, "").ok());
    job::Job job = jobs::tube_job();
    job.readings.clear();
    CHECK(drawing_of(job, job::Pipeline().compute(job), "B1").error().message.find("no outline") !=
          std::string::npos);
}

TEST_CASE("files that cannot be written leave nothing behind", "[exchange]") {
    const jobs::Folder folder;
    for (Format f : {Format::dxf, Format::svg, Format::csv})
        CHECK_FALSE(write_drawing(drawing("B2"), f, folder.file("no/B2.x")).ok());
}

TEST_CASE("points as text: separators, comments, headings, own uncertainty", "[exchange]") {
    const auto p = points("# from the boat\nx,y,z,sigma\n1,2,3\n4;5;6;0.5\n\n7\t8\t9\n10 11 12 2\n");
    REQUIRE(p.ok());
    REQUIRE(p->size() == 4);
    CHECK((*p)[0].position == Vec3(1, 2, 3));
    CHECK((*p)[0].sigma_mm == 1.5);
    CHECK((*p)[1].sigma_mm == 0.5);
    CHECK((*p)[0].reading == 3);
    CHECK((*p)[3].reading == 7);
    CHECK(points("1,2,3\r\n4,5,6\r\n")->size() == 2);
}

TEST_CASE("bad points are refused with their line", "[exchange]") {
    const std::pair<const char*, int> cases[] = {{"1,2,3\n4,five,6\n", 2},  {"1,2,3\n\n# x\n4,5\n", 4},
                                                 {"1,2,3\n4,5,6,-1\n", 2},  {"1,2,3\n4,5,nan\n", 2},
                                                 {"1,2,3\n1e300,5,6\n", 2}, {"1,2,3\n4,5,6,7,8\n", 2}};
    for (const auto& [text, line] : cases) {
        const auto p = points(text);
        INFO(text);
        REQUIRE_FALSE(p.ok());
        CHECK(p.error().line == line);
        CHECK_FALSE(p.error().message.empty());
    }
    CHECK_FALSE(points("").ok());
    CHECK_FALSE(points("# only words\n").ok());
}

TEST_CASE("a parts file is read with rings, holes, offcuts and rotations", "[exchange]") {
    const auto p = problem_from_json(R"({"name": "n", "spacing": 5, "edge_margin": 8, "more": 1,
      "sheets": [{"w": 2440, "h": 1220, "count": 2}, {"ring": [[0,0],[500,0],[0,400]], "holes": [], "count": 1, "priority": 3}],
      "parts": [{"id": "a", "qty": 2, "rotations": [0, 90], "outer": [[0,0],[100,0],[100,50],[0,50]], "holes": [[[10,10],[10,20],[20,20]]]},
                {"id": "b", "rotations": "any", "outer": [[0,0],[30,0],[0,30]]}]})");
    REQUIRE(p.ok());
    CHECK(p->spacing_mm == 5);
    CHECK(p->edge_margin_mm == 8);
    REQUIRE(p->stock.size() == 2);
    CHECK(p->stock[0].count == 2);
    CHECK(p->stock[0].priority == 100);
    CHECK(p->stock[1].priority == 3);
    CHECK(p->parts[0].quantity == 2);
    CHECK(p->parts[0].shape.holes.size() == 1);
    CHECK(p->parts[1].any_rotation);
}

TEST_CASE("bad parts files are refused with their line", "[exchange]") {
    const std::pair<const char*, int> cases[] = {{"{\n\"sheets\": [],\n\"parts\": 7}", 3},
                                                 {"{\"sheets\": [{\"w\": 100,\n\"h\": -5}], \"parts\": []}", 2},
                                                 {"{\"sheets\": [{\"w\": 100, \"h\": 50}],\n\"parts\": [\n{\"id\": "
                                                  "\"a\", \"outer\": [[0,0],\n[1,\"x\"],[2,2]]}]}",
                                                  4},
                                                 {"{\"sheets\": [{\"w\": 100, \"h\": 50}],\n\"parts\": [\n{\"id\": "
                                                  "\"a\", \"outer\": [[0,0],[9,9],[9,0],[0,9]]}]}",
                                                  3},
                                                 {"not json", 1}};
    for (const auto& [text, line] : cases) {
        const auto p = problem_from_json(text);
        INFO(text);
        REQUIRE_FALSE(p.ok());
        INFO(p.error().message);
        CHECK(p.error().line == line);
    }
}

TEST_CASE("the report names every piece with mass, centre and both outlines", "[exchange]") {
    const auto findings = review::review(demo().job, demo().results);
    const auto json = nlohmann::json::parse(report_to_json(demo().job, demo().results, findings));
    for (const char* key : {"pieces", "sheets", "fixings", "weight", "findings"}) REQUIRE(json.contains(key));
    REQUIRE(json["pieces"].size() == 3);
    double sum = 0;
    for (const auto& piece : json["pieces"]) {
        for (const char* key : {"id", "name", "kind", "mass_kg", "centre_mm", "outline_a", "outline_b", "edges"})
            CHECK(piece.contains(key));
        sum += piece["mass_kg"].get<double>();
        CHECK(piece["outline_a"].size() > 10);
    }
    CHECK(json["weight"]["added_kg"].get<double>() == Approx(sum));
    // Face A of the main bulkhead stands at 3200 fwd, face B its measured thickness farther.
    for (const auto& p : json["pieces"][0]["outline_a"]) CHECK(p[0].get<double>() == Approx(3200));
    for (const auto& p : json["pieces"][0]["outline_b"]) CHECK(p[0].get<double>() == Approx(3217.6));
    CHECK(json["findings"].size() == findings.size());
}
