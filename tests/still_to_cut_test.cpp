// What is still to be cut, and from how much: more stock never costs more, what is cut is laid out no more, what has
// no place is told.
#include <catch2/catch.hpp>

#include <fmt/format.h>

#include <random>

#include "exchange/cut_list.h"
#include "job/finished_cost.h"
#include "job/in_full.h"
#include "job/sheet_count.h"
#include "job/shopping.h"
#include "support/jobs.h"
#include "support/shop.h"
#include "support/study.h"

using namespace bevelsmith;
using jobs::Shop;

TEST_CASE("a larger sheet or more in stock never leaves more parts without a place, nor takes more sheets",
          "[still_to_cut]") {
    // Laid out anew each time, without what was known before, each of these seeds goes up once or more.
    for (int seed = 12; seed < 12 + cases(8, 1); ++seed) {
        Shop shop;
        auto& sheet = shop.job.materials[0];
        sheet.sheet_width_mm = 2300, sheet.sheet_height_mm = 1150;
        int copies = 0;
        for (auto& piece : shop.job.pieces) piece.material_id = sheet.id, piece.copies = 3 + 2 * (copies++ % 3);
        std::mt19937 random(static_cast<unsigned>(seed));
        std::uniform_real_distribution<double> share(0, 1);
        const auto bought = [&] {
            shop.compute();
            CHECK(sheets::violations(*shop.sheets().problem, *shop.sheets().layout).empty());
            return std::pair(shop.sheets().layout->unplaced.size(), job::sheet_count(shop.sheets()).sheets);
        };
        auto before = bought();
        for (int change = 0; change < 14; ++change) {
            CAPTURE(seed, change, sheet.sheet_width_mm, sheet.sheet_height_mm, shop.job.offcuts.size());
            if (share(random) < 0.6) {
                (share(random) < 0.5 ? sheet.sheet_width_mm : sheet.sheet_height_mm) += 5 + 40 * share(random);
            } else {
                auto& offcut = shop.job.offcuts.emplace_back();
                offcut.id = fmt::format("O{}", 100 + change);
                offcut.material_id = sheet.id;
                offcut.shape.outer =
                    geometry::rectangle({{0, 0}, {200 + 500 * share(random), 150 + 400 * share(random)}});
            }
            const auto now = bought();
            CHECK(now <= before);
            before = now;
        }
    }
}

TEST_CASE("a piece that is said to be cut is laid out no more, and a kept layout goes on without it",
          "[still_to_cut]") {
    Shop shop;
    for (auto& p : shop.job.pieces) p.material_id = shop.job.materials[0].id;
    shop.compute();
    REQUIRE(shop.job.pieces.size() > 2);
    const auto before = shop.laid_out();
    const std::string piece = shop.job.pieces[0].id;
    const auto of_it = [&](const std::string& part) { return job::piece_of_part(part) == piece; };
    const auto count = std::count_if(before.begin(), before.end(), of_it);
    REQUIRE(count > 0);
    job::use_layout(shop.job, job::lock_layout(shop.sheets(), *shop.sheets().layout));
    shop.compute();
    REQUIRE(shop.sheets().locked);
    for (const char* stage : {"cut", "tried", "finished", "fixed"}) {
        CAPTURE(stage);
        shop.job.pieces[0].stage = stage;
        shop.compute();
        const auto now = shop.laid_out();
        CHECK(std::none_of(now.begin(), now.end(), of_it));
        CHECK(now.size() + static_cast<std::size_t>(count) == before.size());
        CHECK(shop.sheets().said_cut.size() == static_cast<std::size_t>(count));
        CHECK(shop.sheets().locked);
        CHECK(shop.sheets().broken_lock.empty());
    }
    shop.job.pieces[0].stage = "measured";
    shop.compute();
    CHECK(shop.laid_out() == before);
    // A sheet on which nothing else lay is not wanted any more.
    for (auto& p : shop.job.pieces) p.stage = "cut";
    shop.job.pieces.back().stage = "planned";
    shop.compute();
    CHECK(shop.sheets().layout->sheet_stock.size() == 1);
    CHECK(shop.sheets().locked);
}

TEST_CASE("parts without a place are counted by their area and told, in shopping and in cost", "[still_to_cut]") {
    Shop shop;
    shop.job.materials[0].price = 100;
    shop.job.choices = job::usual_choices(shop.job);
    shop.job.materials[0].sheet_width_mm = 700;
    shop.compute();
    const auto& layout = *shop.sheets().layout;
    REQUIRE_FALSE(layout.unplaced.empty());
    double area = 0;
    for (const auto& one : layout.unplaced)
        area += geometry::area_mm2(shop.sheets().problem->parts[static_cast<std::size_t>(one.part)].shape);
    const auto list = job::shopping_list(shop.full, shop.results);
    const double sheet = 700 * shop.job.materials[0].sheet_height_mm;
    CHECK(list[0].needed >= static_cast<double>(layout.sheet_stock.size()) + area / sheet);
    CHECK(list[0].note.find(fmt::format("{} part", layout.unplaced.size())) == 0);
    CHECK(exchange::shopping_csv(shop.full, shop.results).find(list[0].note) != std::string::npos);
    const auto groups = job::piece_groups(shop.full, shop.results);
    const auto costs = job::finished_costs(shop.full, shop.results, groups[0]);
    REQUIRE_FALSE(costs.empty());
    CHECK(costs[0].fault.empty());
    CHECK(costs[0].without_place > 0);
    CHECK(costs[0].cost() > 0);
    CHECK(costs[0].sheets >= area / sheet);
}
