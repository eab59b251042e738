// What is counted and told of what is cut: sheets and offcuts, tables in the job's unit, sheets that are taken back.
#include <catch2/catch.hpp>

#include "exchange/column_guess.h"
#include "exchange/cut_list.h"
#include "job/cut_sheets.h"
#include "job/job_file.h"
#include "job/sheet_count.h"
#include "support/jobs.h"
#include "support/shop.h"

using namespace bevelsmith;
using jobs::Shop;

TEST_CASE("offcuts are not counted as sheets", "[tables]") {
    Shop shop;
    const auto before = job::sheet_count(shop.sheets());
    CHECK(before.offcuts == 0);
    CHECK(before.sheets == static_cast<int>(shop.sheets().layout->sheet_stock.size()));
    job::JobOffcut offcut;
    offcut.id = "O1", offcut.name = "left over", offcut.material_id = shop.job.materials[0].id;
    offcut.shape.outer = geometry::rectangle({{0, 0}, {2400, 1200}});
    shop.job.offcuts.push_back(offcut);
    shop.compute();
    const auto now = job::sheet_count(shop.sheets());
    CHECK(now.offcuts == 1);
    CHECK(now.sheets + now.offcuts == static_cast<int>(shop.sheets().layout->sheet_stock.size()));
    CHECK(job::in_words({2, 1}) == "2 sheets, 1 offcut");
    CHECK(job::in_words({1, 0}) == "1 sheet");
    CHECK(job::in_words({0, 3}) == "3 offcuts");
}

TEST_CASE("a sheet that is not cut after all: layout, pins, states and stock are as they were", "[tables]") {
    Shop shop;
    shop.job.materials[0].sheets_in_stock = 9;
    // Every second part pinned, pieces in different states.
    auto lock = job::lock_layout(shop.sheets(), *shop.sheets().layout);
    for (std::size_t k = 0; k < lock.placements.size(); k += 2) lock.placements[k].pinned = true;
    job::use_layout(shop.job, lock);
    shop.job.layouts.push_back(lock);
    shop.job.layouts.back().in_use = false, shop.job.layouts.back().name = "beside";
    shop.job.pieces[0].stage = "planned";
    if (shop.job.pieces.size() > 1) shop.job.pieces[1].stage = "measured";
    shop.compute();
    const auto sorted = [](job::Job job) {
        for (auto& l : job.layouts)
            std::sort(l.placements.begin(), l.placements.end(),
                      [](const auto& a, const auto& b) { return a.part_id < b.part_id; });
        return job;
    };
    const job::Job before = sorted(shop.job);
    const int sheets = static_cast<int>(shop.sheets().layout->sheet_stock.size());
    for (int s = 0; s < sheets; ++s) {
        INFO("sheet " << s);
        job::Job job = shop.job;
        const auto id = job::mark_cut(job, shop.sheets(), s);
        REQUIRE_FALSE(id.empty());
        // Kept through the file.
        const auto read = job::job_from_text(job::job_to_text(job));
        REQUIRE(read.ok());
        job = *read;
        REQUIRE(job::mark_not_cut(job, id));
        CHECK(sorted(job).layouts == before.layouts);
        CHECK(job.pieces == before.pieces);
        CHECK(job.materials == before.materials);
        CHECK(job.cut_sheets.empty());
    }
}

TEST_CASE("tables are in the job's own unit, and each head says which", "[tables]") {
    Shop shop;
    shop.job.unit = units::LengthUnit::inch_sixteenths;
    shop.compute();
    const auto rows = exchange::cut_list(shop.full, shop.results);
    REQUIRE_FALSE(rows.empty());
    const auto heads = exchange::cut_list_heads(shop.full.unit);
    const auto cells = exchange::cells_of(rows[0], shop.full.unit);
    REQUIRE(heads.size() == cells.size());
    for (std::size_t k = 0; k < heads.size(); ++k) {
        CHECK(heads[k].find("_mm") == std::string::npos);
        if (heads[k] == "sheet_along_in")
            CHECK(jobs::number_in(cells[k]) * 25.4 == Approx(rows[0].sheet_along_mm).margin(0.003));
        if (heads[k] == "edges") CHECK(cells[k].find(" in") != std::string::npos);
    }
    const std::string saw = exchange::edge_cuts_csv(shop.full, shop.results);
    CHECK(saw.find("length_in") != std::string::npos);
}

TEST_CASE("saw cuts are those of what is cut, and no setting is past what the base tilts to", "[tables]") {
    Shop shop;
    auto& piece = shop.job.pieces[1];
    const auto before = exchange::edge_cuts(shop.full, shop.full.pieces[1], *shop.results.pieces[1].shape());
    for (auto& edge : piece.edges)
        if (edge.kind == piece::EdgeKind::straight) edge.lipping_mm = 40;
    shop.compute();
    const auto* shape = shop.results.pieces[1].shape();
    REQUIRE(shape->cut_differs());
    double straight = 0, finished = 0;
    for (const auto& cut : exchange::edge_cuts(shop.full, shop.full.pieces[1], *shape))
        straight += cut.straight ? cut.length_mm : 0;
    for (const auto& cut : before) finished += cut.straight ? cut.length_mm : 0;
    CHECK(straight < finished - 20);
    const exchange::EdgeCut steep{"B1", "hull", false, 500, 58.9, "A", "cut square"};
    CHECK(exchange::cells_of(steep, 1, units::LengthUnit::millimetre)[5] == "0.0");
}

TEST_CASE("columns are known by their headings, and none is taken twice", "[tables]") {
    const auto numbers = survey::columns_of(survey::usual_set(survey::School::direct));
    REQUIRE(numbers.size() == 3);
    using Columns = std::vector<int>;
    const auto guess = [&](std::vector<std::string> headings) { return exchange::guess_columns(headings, numbers); };
    CHECK(guess({"Station", "Height", "Half-breadth (mm)"}).values == Columns{0, 2, 1});
    CHECK(guess({"z", "y", "x"}).values == Columns{2, 1, 0});
    CHECK(guess({"column 1", "column 2", "column 3"}).values == Columns{0, 1, 2});
    const auto four = guess({"column 1", "column 2", "column 3", "column 4"});
    CHECK(four.values == Columns{0, 1, 2});
    CHECK(four.sigma == 3);
    const auto noted = guess({"note", "height", "offset", "frame", "sd"});
    CHECK(noted.values == Columns{3, 2, 1});
    CHECK(noted.note == 0);
    CHECK(noted.sigma == 4);
    // Two columns are not three numbers.
    CHECK(guess({"height", "half breadth"}).values == Columns{-1, 1, 0});
}

TEST_CASE("fractions of an inch are read in tables, and units that a cell says", "[tables]") {
    exchange::ReadingColumns columns{{0, 1, 2}, -1, -1, 25.4, {true, true, true}};
    const exchange::TextTable inches("30 1/4,2-1/2,12\n2 ft 6 1/2 in,7,100 mm\n");
    const auto read = exchange::readings_from(inches, columns);
    REQUIRE(read);
    CHECK(read->at(0).values[0] == Approx(30.25 * 25.4));
    CHECK(read->at(0).values[1] == Approx(2.5 * 25.4));
    CHECK(read->at(1).values[0] == Approx(30.5 * 25.4));
    CHECK(read->at(1).values[2] == Approx(100));
    CHECK_FALSE(exchange::readings_from(exchange::TextTable("2+1,2,3\n"), columns));
    CHECK_FALSE(exchange::readings_from(exchange::TextTable("12-7,2,3\n"), columns));
    columns.length_unit_mm = 1;
    CHECK_FALSE(exchange::readings_from(exchange::TextTable("1,2,three\n"), columns));
    CHECK(exchange::readings_from(exchange::TextTable("1/2 in,2,3\n"), columns)->at(0).values[0] == Approx(12.7));
}

TEST_CASE("cells that are no numbers are refused with their line, whatever they are", "[tables]") {
    exchange::ReadingColumns columns{{0, 1, 2}, -1, -1, 25.4, {true, true, true}};
    for (const char* cell : {"1/0", "1/0 in", "/",         "1//2",     "1/",
                             "--1", "in",     "1 2 3/4 5", "9e999",    "1e400/2",
                             "nan", "inf",    "0x10",      "\xd9\xa3", "1/2/3/4",
                             "''",  "1'2'3",  "=1+1",      "2*3",      "99999999999999999999 1/2"}) {
        const std::string text = std::string("1,2,3\n4,") + cell + ",6\n";
        const exchange::TextTable table(text);
        const auto read = exchange::readings_from(table, columns);
        INFO(cell);
        if (read) {
            for (const auto& reading : read.value())
                for (double v : reading.values) CHECK((std::isfinite(v) && std::abs(v) < 1e6));
            CHECK(std::string(cell) == "1/2/3/4");
        } else {
            CHECK(read.error().line == 2);
        }
    }
}
