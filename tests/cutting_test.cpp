// From sheets to sawdust: what is cut is frozen, what is left is used first, and what is bought, paid and written
// down follows from it. Files are read back by dxflib, ezdxf and openpyxl (libraries from the distribution).
#include <catch2/catch.hpp>

#include <dl_creationadapter.h>
#include <dl_dxf.h>

#include <cstdlib>
#include <map>

#include "exchange/cut_list.h"
#include "exchange/sheet_plan.h"
#include "geometry/arcs.h"
#include "job/cut_sheets.h"
#include "job/finished_cost.h"
#include "job/in_full.h"
#include "job/job_file.h"
#include "job/length_plan.h"
#include "job/shopping.h"
#include "review/review.h"
#include "support/foreign_dxf.h"
#include "support/jobs.h"
#include "support/shop.h"

using namespace bevelsmith;

namespace {

using jobs::Shop;

class DxfReader : public DL_CreationAdapter {
  public:
    void addPolyline(const DL_PolylineData&) override { rings[getAttributes().getLayer()].emplace_back(); }
    void addVertex(const DL_VertexData& v) override {
        rings[getAttributes().getLayer()].back().push_back({Vec2(v.x, v.y), v.bulge});
    }
    void addCircle(const DL_CircleData& c) override { circles.push_back({Vec2(c.cx, c.cy), c.radius}); }
    void addText(const DL_TextData& t) override { texts.push_back(t.text); }
    std::map<std::string, std::vector<std::vector<geometry::ArcCorner>>> rings;
    std::vector<exchange::ReliefHole> circles;
    std::vector<std::string> texts;
};

/// The area within corners and arcs: the polygon's, and each arc's segment (derived: r²/2 (a - sin a)).
double area_of(const std::vector<geometry::ArcCorner>& corners) {
    double out = 0;
    for (std::size_t i = 0; i < corners.size(); ++i) {
        const Vec2 &p = corners[i].at, &q = corners[(i + 1) % corners.size()].at;
        out += (p.x() * q.y() - p.y() * q.x()) / 2;
        if (corners[i].bulge == 0) continue;
        const double angle = 4 * std::atan(corners[i].bulge), chord = (q - p).norm();
        const double radius = chord / 2 / std::sin(std::abs(angle) / 2);
        out += (angle > 0 ? 1 : -1) * radius * radius / 2 * (std::abs(angle) - std::sin(std::abs(angle)));
    }
    return out;
}

}  // namespace

TEST_CASE("a sheet that is cut is frozen: its parts are laid out no more, undo is another value", "[cutting]") {
    Shop shop;
    const auto before = shop.laid_out();
    const job::Job as_it_was = shop.job;
    const std::string id = job::mark_cut(shop.job, shop.sheets(), 0);
    REQUIRE_FALSE(id.empty());
    shop.compute();
    const auto& cut = shop.job.cut_sheets.front();
    CHECK(cut.parts.size() + shop.laid_out().size() == before.size());
    for (const auto& part : cut.parts) {
        const auto after = shop.laid_out();
        CHECK(std::find(after.begin(), after.end(), part.part_id) == after.end());
    }
    CHECK_FALSE(shop.finding(review::CheckId::changed_since_cut));
    // It goes into the file and comes back.
    const auto again = job::job_from_text(job::job_to_text(shop.job));
    INFO((again ? "" : again.error().message));
    REQUIRE(again.ok());
    CHECK(*again == shop.job);
    REQUIRE(job::mark_not_cut(shop.job, id));
    shop.compute();
    CHECK(shop.laid_out() == before);
    CHECK(job::mark_cut(shop.job, shop.sheets(), 99).empty());
}

TEST_CASE("a piece that changes after it was cut is told, with its millimetres, and can be cut anew", "[cutting]") {
    Shop shop;
    REQUIRE_FALSE(job::mark_cut(shop.job, shop.sheets(), 0).empty());
    const std::string part = shop.job.cut_sheets[0].parts[0].part_id;
    const std::string piece = job::piece_of_part(part);
    REQUIRE(job::change_piece(shop.job, piece, [](job::JobPiece& p) {
        for (auto& e : p.edges) e.gap_mm += 2;
    }));
    shop.compute();
    const auto* f = shop.finding(review::CheckId::changed_since_cut);
    REQUIRE(f);
    CHECK(f->severity == review::Severity::stop);
    CHECK(f->piece_id == piece);
    REQUIRE_FALSE(shop.sheets().changed_since_cut.empty());
    CHECK(shop.sheets().changed_since_cut[0].off_mm > 1);
    CHECK(shop.sheets().changed_since_cut[0].off_mm < 12);
    job::cut_anew(shop.job, shop.job.cut_sheets[0].material_id, part);
    shop.compute();
    const auto laid = shop.laid_out();
    CHECK(std::find(laid.begin(), laid.end(), part) != laid.end());
}

TEST_CASE("what is left of a sheet is kept as it is, used first, and gone when it is cut", "[cutting]") {
    Shop shop;
    shop.job.materials[0].sheets_in_stock = 5;
    shop.compute();
    const int last = static_cast<int>(shop.sheets().layout->sheet_stock.size()) - 1;
    const std::string id = job::mark_cut(shop.job, shop.sheets(), last);
    CHECK(shop.job.materials[0].sheets_in_stock == 4);
    const int kept = job::keep_rest(shop.job, id);
    REQUIRE(kept > 0);
    CHECK(job::keep_rest(shop.job, id) == 0);
    const auto& sheet = shop.job.cut_sheets.front();
    double rest = 0, parts = 0;
    for (const auto& offcut : shop.job.offcuts) {
        rest += geometry::area_mm2(offcut.shape);
        // Nowhere narrower than the least that is kept: drawn in by a little less than half, something is left.
        CHECK_FALSE(geometry::offset(offcut.shape, -0.49 * shop.job.cutting.least_offcut_mm, geometry::Corner::mitre)
                        .empty());
    }
    for (const auto& part : sheet.parts) parts += geometry::area_mm2(part.outline);
    CHECK(rest + parts < geometry::area_mm2(sheet.shape));
    for (const auto& left : job::rest_of(sheet, shop.job.cutting))
        for (const auto& part : sheet.parts)
            CHECK(geometry::total_area_mm2(geometry::intersect({left}, {part.outline})) < 1);
    // A small piece from the largest of them.
    job::JobPiece small = shop.job.pieces[0];
    small.id = "T9", small.name = "Small", small.openings.clear(), small.limbers.clear(), small.joints.clear();
    small.edges.clear();
    for (const auto& [side, at] :
         {std::pair(Vec2(1, 0), 60.0), {Vec2(-1, 0), 60.0}, {Vec2(0, 1), 60.0}, {Vec2(0, -1), 60.0}}) {
        piece::EdgeSpec e;
        e.kind = piece::EdgeKind::straight, e.name = "edge", e.side = side, e.at_mm = at;
        small.edges.push_back(e);
    }
    small.material_id = sheet.material_id;
    shop.job.pieces.push_back(small);
    shop.compute();
    const auto* made = shop.results.piece("T9");
    REQUIRE(made);
    INFO((made->shape() ? "" : made->outline->error().message));
    REQUIRE(made->shape());
    bool from_offcut = false;
    for (const auto& s : shop.results.sheets)
        for (const auto& at : s.layout->placements)
            if (s.problem->parts[static_cast<std::size_t>(at.part)].id == "T9")
                from_offcut = !s.stock_names[static_cast<std::size_t>(
                                                 s.layout->sheet_stock[static_cast<std::size_t>(at.sheet)])]
                                   .empty();
    CHECK(from_offcut);
}

TEST_CASE("a kept layout knows its offcuts, and pinned parts stay when the rest is laid anew", "[cutting]") {
    Shop shop;
    auto lock = job::lock_layout(shop.sheets(), *shop.sheets().layout);
    REQUIRE(lock.placements.size() > 1);
    shop.job.layouts = {lock};
    shop.compute();
    CHECK(shop.sheets().locked);
    // One pinned, the others let go.
    lock.placements[0].pinned = true;
    const auto pinned = lock.placements[0];
    lock.placements.resize(1);
    shop.job.layouts = {lock};
    shop.job.cutting.seed += 1;
    shop.compute();
    CHECK_FALSE(shop.sheets().locked);
    CHECK(shop.sheets().broken_lock.empty());
    bool stays = false;
    for (const auto& at : shop.sheets().layout->placements)
        stays = stays || (shop.sheets().problem->parts[static_cast<std::size_t>(at.part)].id == pinned.part_id &&
                          at.shift == Vec2(pinned.x_mm, pinned.y_mm) && at.sheet == pinned.sheet);
    CHECK(stays);
    shop.job.layouts[0].sheets = {"gone"};
    shop.compute();
    CHECK(shop.sheets().broken_lock.find("offcut 'gone'") != std::string::npos);
    CHECK(shop.sheets().layout->unplaced.empty());
}

TEST_CASE("the shopping list: what the layouts need, less what is there, with a reserve", "[cutting]") {
    Shop shop;
    const double sheets = static_cast<double>(shop.sheets().layout->sheet_stock.size());
    shop.job.materials[0].price = 120;
    shop.job.materials[0].sheets_in_stock = -1;
    shop.job.cutting.reserve_percent = 0;
    shop.compute();
    auto list = job::shopping_list(shop.full, shop.results);
    REQUIRE_FALSE(list.empty());
    CHECK(list[0].needed == sheets);
    CHECK(list[0].to_buy == sheets);
    CHECK(list[0].sum() == 120 * sheets);
    // As many in stock as are needed: nothing to buy; a reserve of half as much again: half.
    shop.job.materials[0].sheets_in_stock = static_cast<int>(sheets);
    shop.compute();
    CHECK(job::shopping_list(shop.full, shop.results)[0].to_buy == 0);
    shop.job.cutting.reserve_percent = 50;
    shop.compute();
    list = job::shopping_list(shop.full, shop.results);
    // The reserve is a line of its own.
    CHECK(list[0].to_buy == 0);
    REQUIRE(list.size() >= 2);
    CHECK(list[1].is_reserve);
    CHECK(list[1].what.find("reserve of 50 %") != std::string::npos);
    CHECK(list[1].to_buy == std::ceil(1.5 * sheets) - sheets);
}

TEST_CASE("lippings become lengths of the smallest bar that holds them, others are told", "[cutting]") {
    Shop shop;
    auto& edge = shop.job.pieces[0].edges.back();
    edge.lipping_mm = 8;
    shop.compute();
    REQUIRE(shop.results.pieces[0].shape());
    const auto derived = job::derived_lengths(shop.full, shop.results);
    const auto lipping = std::find_if(derived.begin(), derived.end(), [](const auto& d) { return d.depth_mm == 8; });
    REQUIRE(lipping != derived.end());
    CHECK_FALSE(shop.results.lengths_without_bar.empty());
    job::JobBar thick, fine;
    thick.id = "b1", thick.name = "ash", thick.width_mm = 60, thick.depth_mm = 30, thick.length_mm = 4000;
    fine.id = "b2", fine.name = "ash", fine.width_mm = lipping->width_mm + 2, fine.depth_mm = 10,
    fine.length_mm = 4000;
    shop.job.bars = {thick, fine};
    job::LengthWanted batten;
    batten.id = "L1", batten.name = "batten", batten.bar_id = "b1", batten.length_mm = 1300, batten.quantity = 4;
    shop.job.lengths = {batten};
    shop.compute();
    bool found = false;
    for (const auto& section : shop.results.lengths) {
        CHECK(sheets::violations(*section.problem, *section.plan).empty());
        for (std::size_t k = 0; k < section.part_names.size(); ++k) {
            if (section.part_names[k] == lipping->name) found = section.bar_ids.front() == "b2";
            if (section.part_names[k] == "batten") CHECK(section.plan->bars.size() >= 2);  // three of 1300 in 4000
        }
    }
    CHECK(found);
    // Longer than any bar: a finding that names it.
    shop.job.lengths[0].length_mm = 5000;
    shop.compute();
    const auto* f = shop.finding(review::CheckId::no_bar);
    REQUIRE(f);
    CHECK(f->title.find("batten") != std::string::npos);
}

TEST_CASE("lengths with leaning ends lie in one another, and every list says where they are marked", "[cutting]") {
    Shop shop;
    job::JobBar ash;
    ash.id = "b1", ash.name = "ash", ash.width_mm = 20, ash.depth_mm = 40, ash.length_mm = 3430;
    shop.job.bars = {ash};
    job::LengthWanted fiddle;
    fiddle.id = "L1", fiddle.name = "fiddle", fiddle.bar_id = "b1", fiddle.length_mm = 880, fiddle.quantity = 4;
    fiddle.left_deg = fiddle.right_deg = 45;
    shop.job.lengths = {fiddle};
    shop.compute();
    const auto section = [&]() -> const job::LengthResult& {
        for (const auto& s : shop.results.lengths)
            if (s.bar_ids.front() == "b1") return s;
        throw std::logic_error("no lengths of ash");
    };
    // Over their long points four and three cuts are 3529 mm.
    REQUIRE(section().plan->bars.size() == 1);
    const auto cells = exchange::length_cells(shop.results, shop.full.unit);
    const auto heads = exchange::length_heads(shop.full.unit);
    const auto column = [&](const char* head) {
        return static_cast<std::size_t>(std::find(heads.begin(), heads.end(), head) - heads.begin());
    };
    const auto second = std::find_if(cells.begin(), cells.end(), [&](const auto& row) {
        return row[column("cut")] == "fiddle" && row[column("lies")] == "turned";
    });
    REQUIRE(second != cells.end());
    // Its long points are on the far edge: 880 mm less the 40 that lie in the first, and a kerf of 3 * sqrt 2.
    CHECK((*second)[column("left_deg")] == "-45");
    CHECK((*second)[column("far_from_mm")] == "844.2");
    CHECK((*second)[column("near_from_mm")] == "884.2");
    CHECK((*second)[column("near_to_mm")] == "1684.2");
    CHECK((*second)[column("far_to_mm")] == "1724.2");

    const jobs::Folder folder;
    jobs::write(folder.file("fiddles.job.json"), job::job_to_text(shop.job));
    const auto run = [&](const std::string& what, const std::string& out) {
        const std::string line = std::string(BEVELSMITH_CLI) + " papers " + folder.file("fiddles.job.json") +
                                 " --what " + what + " -o " + folder.file(out);
        REQUIRE(std::system(line.c_str()) == 0);
    };
    run("lengths", "list.csv");
    CHECK(jobs::read(folder.file("list.csv")) == exchange::lengths_csv(shop.results, shop.full.unit));
    CHECK(jobs::read(folder.file("list.csv")).find("884.2,1684.2,844.2,1724.2,turned") != std::string::npos);
    run("cut-papers", "papers.pdf");
    REQUIRE(std::system(("pdftotext -layout " + folder.file("papers.pdf") + " " + folder.file("text")).c_str()) == 0);
    const std::string text = jobs::read(folder.file("text"));
    CHECK(text.find("Lengths: ") != std::string::npos);
    CHECK(text.find("fiddle, turned") != std::string::npos);
    CHECK(text.find("884.2 to 1684.2") != std::string::npos);
    CHECK(text.find("844.2 to 1724.2") != std::string::npos);

    // One whose ends meet is left out and told, the others are cut.
    auto wedge = fiddle;
    wedge.id = "L2", wedge.name = "wedge", wedge.length_mm = 70;
    shop.job.lengths.push_back(wedge);
    shop.compute();
    CHECK(section().plan->bars.size() == 1);
    const auto* f = shop.finding(review::CheckId::length_uncuttable);
    REQUIRE(f);
    CHECK(f->title.find("'wedge'") != std::string::npos);
    CHECK(f->title.find("longer than 80.0 mm") != std::string::npos);
    CHECK(review::mended_in(*f) == review::MendedIn::cut);
    // More than are planned at all: the section is told, nothing is lost in silence.
    shop.job.lengths = {fiddle};
    shop.job.lengths[0].quantity = 1001;
    shop.compute();
    REQUIRE(shop.finding(review::CheckId::length_uncuttable));
    CHECK(shop.finding(review::CheckId::length_uncuttable)->title.find("at most 1000") != std::string::npos);
}

TEST_CASE("finished cost of a choice is the sum of its parts", "[cutting]") {
    Shop shop;
    shop.job.materials[0].price = 100;
    shop.job.costs.hour_rate = 50;
    shop.job.choices = job::usual_choices(shop.job);
    REQUIRE(shop.job.choices.size() == 3);
    auto& c = shop.job.choices[0];
    c.laminated_faces = 1, c.laminate_price_m2 = 20, c.laminate_kg_m2 = 1, c.coats = 2, c.coat_price_l = 10,
    c.coat_m2_l = 8, c.coat_kg_m2 = 0.1, c.hours_m2 = 0.5, c.hours_m = 0;
    shop.compute();
    const auto groups = job::piece_groups(shop.full, shop.results);
    REQUIRE_FALSE(groups.empty());
    const auto costs = job::finished_costs(shop.full, shop.results, groups[0]);
    REQUIRE(costs.size() == 3);
    double face = 0, mass = 0;
    for (std::size_t i = 0; i < shop.full.pieces.size(); ++i) {
        const auto* shape = shop.results.pieces[i].shape();
        if (shop.full.pieces[i].material_id != shop.full.materials[0].id) continue;
        face += (geometry::area_mm2(shape->face_a) + geometry::area_mm2(shape->face_b)) / 2e6;
        mass += shop.results.pieces[i].mass.panel.mass_kg;
    }
    const auto& one = costs[0];
    CHECK(one.faces_m2 == Approx(2 * face));
    CHECK(one.panel_kg == Approx(mass).epsilon(1e-6));
    CHECK(one.sheets_cost == 100.0 * one.sheets);
    CHECK(one.laminate_cost == Approx(20 * face));
    CHECK(one.litres == Approx(2 * face / 8));  // two coats on the one face that is not laminated
    CHECK(one.hours_cost == Approx(50 * 0.5 * 2 * face));
    CHECK(one.cost() == Approx(one.sheets_cost + 20 * face + 10 * one.litres + one.lipping_cost + one.hours_cost));
    CHECK(one.mass_kg() == Approx(mass + face + 2 * 0.1 * face + one.lipping_kg));
}

TEST_CASE("arcs stay arcs: a rounded rectangle has four, a battened curve none", "[cutting]") {
    const auto ring = geometry::rounded_rectangle({{0, 0}, {400, 300}}, 60);
    const auto corners = geometry::with_arcs(ring);
    int arcs = 0;
    for (const auto& c : corners) arcs += c.bulge != 0;
    CHECK(arcs == 4);
    CHECK(area_of(corners) == Approx(400 * 300 - (4 - M_PI) * 60 * 60).epsilon(2e-4));
    geometry::Ring curve;
    for (int k = 0; k <= 40; ++k) curve.push_back({10.0 * k, 0.0008 * k * k * k});
    curve.push_back({0, 60});
    for (const auto& c : geometry::with_arcs(curve)) CHECK(c.bulge == 0);
    // The other way round they bulge the other way.
    geometry::Ring back(ring.rbegin(), ring.rend());
    CHECK(area_of(geometry::with_arcs(back)) == Approx(-area_of(corners)).epsilon(1e-6));
}

TEST_CASE("a router's cutter reaches into inside corners", "[cutting]") {
    geometry::Polygon slot{{{0, 0}, {300, 0}, {300, 200}, {170, 200}, {170, 80}, {130, 80}, {130, 200}, {0, 200}},
                           {}};
    const auto holes = exchange::relief_holes(slot, 6);
    REQUIRE(holes.size() == 2);
    for (const auto& hole : holes) {
        const Vec2 corner = hole.centre.x() < 150 ? Vec2(130, 80) : Vec2(170, 80);
        CHECK((hole.centre - corner).norm() == Approx(3));
        // Its middle is in the slot, so that the wood beside loses least.
        CHECK(hole.centre.x() > 130);
        CHECK(hole.centre.x() < 170);
        CHECK(hole.centre.y() > 80);
    }
    CHECK(exchange::relief_holes({geometry::rounded_rectangle({{0, 0}, {400, 300}}, 60), {}}, 6).empty());
}

TEST_CASE("a sheet's DXF is read back: sheet, outlines, openings and ids", "[cutting]") {
    Shop shop;
    const jobs::Folder folder;
    const std::string path = folder.file("sheet.dxf");
    REQUIRE(exchange::write_sheet_dxf(shop.full, shop.sheets(), 0, path).ok());
    DxfReader reader;
    DL_Dxf dxf;
    REQUIRE(dxf.in(path, &reader));
    REQUIRE(reader.rings["SHEET"].size() == 1);
    CHECK(area_of(reader.rings["SHEET"][0]) == Approx(geometry::area_mm2(shop.sheets().problem->stock[0].shape)));
    double wanted = 0, inner = 0;
    std::size_t parts = 0;
    for (const auto& at : shop.sheets().layout->placements) {
        if (at.sheet != 0) continue;
        const auto shape = sheets::placed(*shop.sheets().problem, at);
        wanted += std::abs(geometry::area_mm2(shape.outer));
        for (const auto& hole : shape.holes) inner += std::abs(geometry::area_mm2(hole));
        ++parts;
        const auto& id = shop.sheets().problem->parts[static_cast<std::size_t>(at.part)].id;
        CHECK(std::find(reader.texts.begin(), reader.texts.end(), id) != reader.texts.end());
    }
    REQUIRE(reader.rings["OUTER"].size() == parts);
    double outer = 0, openings = 0;
    for (const auto& ring : reader.rings["OUTER"]) outer += std::abs(area_of(ring));
    for (const auto& ring : reader.rings["INNER"]) openings += std::abs(area_of(ring));
    CHECK(outer == Approx(wanted).epsilon(1e-4));
    CHECK(openings == Approx(inner).epsilon(2e-3).margin(1));  // chords of rounded corners lie within their arcs
    CHECK(reader.circles.empty());
    const auto read = foreign::read_dxf(path, folder.path());
    CHECK(read.errors == 0);
    CHECK(read.areas.at("SHEET") == Approx(geometry::area_mm2(shop.sheets().problem->stock[0].shape)));
    CHECK(read.areas.at("OUTER") == Approx(wanted).epsilon(1e-4));
    shop.full.cutting.tool = job::Tool::router;
    CHECK_FALSE(exchange::write_sheet_dxf(shop.full, shop.sheets(), 99, path).ok());
    CHECK(exchange::write_sheet_dxf(shop.full, shop.sheets(), 0, folder.file("no/such/folder.dxf")).ok() == false);
}

TEST_CASE("the cut list names every part once, and openpyxl reads the same from the workbook", "[cutting]") {
    Shop shop;
    const auto rows = exchange::cut_list(shop.full, shop.results);
    CHECK(rows.size() == shop.laid_out().size());
    for (const auto& row : rows) {
        INFO(row.part_id);
        CHECK(row.sheet_along_mm <= row.blank_along_mm + 1e-6);
        CHECK(row.sheet_across_mm <= row.blank_across_mm + 1e-6);
        CHECK(row.finished_along_mm > 0);
        CHECK_FALSE(row.edges.empty());
    }
    const jobs::Folder folder;
    const std::string path = folder.file("cut.xlsx");
    REQUIRE(exchange::write_workbook(shop.full, shop.results, path).ok());
    jobs::write(folder.file("read.py"),
                "import sys, openpyxl\n"
                "book = openpyxl.load_workbook(sys.argv[1])\n"
                "print(' '.join(book.sheetnames))\n"
                "for row in book['cut list'].iter_rows(min_row=2, values_only=True):\n"
                "    print(row[0], '%.1f' % row[8], row[15], sep='|')\n");
    // The distribution's python has the distribution's openpyxl.
    REQUIRE(std::system(
                ("/usr/bin/python3 " + folder.file("read.py") + " " + path + " >" + folder.file("out")).c_str()) ==
            0);
    std::string expected = "cut list shopping lengths saw cuts\n";
    for (const auto& row : rows)
        expected += row.part_id + "|" + exchange::cells_of(row, shop.full.unit)[8] + "|" + row.edges + "\n";
    // openpyxl keeps "saw cuts" as one name: names are parted by blanks here as well.
    CHECK(jobs::read(folder.file("out")) == expected);
    CHECK_FALSE(exchange::write_workbook(shop.full, shop.results, folder.file("none/cut.xlsx")).ok());
}

TEST_CASE("saw cuts: straight ones first, every run with its tilt, too steep ones told", "[cutting]") {
    Shop shop;
    const auto& piece = shop.full.pieces[0];
    const auto* shape = shop.results.pieces[0].shape();
    REQUIRE(shape);
    const auto cuts = exchange::edge_cuts(shop.full, piece, *shape);
    REQUIRE(cuts.size() >= 2);
    bool curved = false;
    for (const auto& cut : cuts) {
        if (!cut.straight) curved = true;
        else CHECK_FALSE(curved);
        CHECK(cut.note.empty() == (std::abs(cut.tilt_deg) <= exchange::base_limit_deg));
    }
    CHECK(curved);
    // A jigsaw tears the upper face, a track saw the lower.
    CHECK(cuts[0].face_up.find("good face down") != std::string::npos);
    shop.full.cutting.tool = job::Tool::track_saw;
    CHECK(exchange::edge_cuts(shop.full, piece, *shape)[0].face_up.find("good face up") != std::string::npos);
}

TEST_CASE("stock that a job's file may not hold is refused with its line", "[cutting]") {
    Shop shop;
    job::JobOffcut o;
    o.id = "O1", o.material_id = shop.job.materials[0].id, o.shape.outer = {{0, 0}, {500, 500}, {500, 0}, {0, 500}};
    shop.job.offcuts = {o};
    auto again = job::job_from_text(job::job_to_text(shop.job));
    REQUIRE_FALSE(again.ok());
    CHECK(again.error().message.find("crosses itself") != std::string::npos);
    CHECK(again.error().line > 1);
    shop.job.offcuts[0].shape.outer = {{0, 0}, {500, 0}, {500, 500}};
    shop.job.offcuts[0].material_id = "none";
    again = job::job_from_text(job::job_to_text(shop.job));
    REQUIRE_FALSE(again.ok());
    CHECK(again.error().message.find("no material 'none'") != std::string::npos);
}

TEST_CASE("the command line writes the papers of a whole job, and names what is not there", "[cutting]") {
    const jobs::Folder folder;
    const auto run = [&](const std::string& arguments) {
        return std::system((std::string(BEVELSMITH_CLI) + " " + arguments + " 2>" + folder.file("err")).c_str());
    };
    const std::string job = jobs::ternlight_path();
    REQUIRE(run("papers " + job + " --what cut-list -o " + folder.file("list.csv")) == 0);
    const Shop shop;
    CHECK(jobs::read(folder.file("list.csv")) ==
          exchange::cut_list_csv(exchange::cut_list(shop.full, shop.results), shop.full.unit));
    for (const char* what : {"workbook", "cut-papers", "shopping", "lengths", "saw-cuts", "step"}) {
        INFO(what);
        CHECK(run("papers " + job + " --what " + what + " -o " + folder.file("out")) == 0);
        CHECK(jobs::read(folder.file("out")).size() > 20);
    }
    CHECK(run("sheet " + job + " --material " + shop.sheets().material_id + " -o " + folder.file("s.dxf")) == 0);
    CHECK(run("sheet " + job + " --material none -o " + folder.file("s.dxf")) != 0);
    CHECK(jobs::read(folder.file("err")).find("nothing is laid out on sheets of 'none'") != std::string::npos);
    CHECK(run("papers " + job + " --what cut-list -o " + folder.file("no/where.csv")) != 0);
}
