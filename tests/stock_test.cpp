// What things are made of: orders and proportions that hold whatever the figures.
#include <catch2/catch.hpp>

#include <algorithm>

#include "job/job.h"
#include "stock/material.h"

using namespace bevelsmith;
using namespace bevelsmith::stock;

TEST_CASE("screws that shops keep stand in order of length", "[stock]") {
    const auto& lengths = screw_lengths_mm();
    REQUIRE(lengths.size() > 5);
    CHECK(std::is_sorted(lengths.begin(), lengths.end()));
    CHECK(std::adjacent_find(lengths.begin(), lengths.end()) == lengths.end());
    CHECK(lengths.front() > 0);
}

TEST_CASE("a longer or a thicker screw is heavier", "[stock]") {
    CHECK(screw_mass_kg(8, 40) > screw_mass_kg(8, 30));
    CHECK(screw_mass_kg(10, 30) > screw_mass_kg(8, 30));
    // A No. 8 of 30 mm weighs a few grams.
    CHECK(screw_mass_kg(8, 30) == Approx(0.004).margin(0.002));
}

TEST_CASE("the glass fraction follows from the resin that the glass takes", "[stock]") {
    for (GlassKind kind : {GlassKind::mat, GlassKind::woven, GlassKind::biaxial}) {
        const double resin = resin_per_glass(kind);
        CHECK(glass_fraction(kind) == Approx(1 / (1 + resin)));
        CHECK(glass_fraction(kind) > 0.25);
        CHECK(glass_fraction(kind) < 0.75);
    }
    CHECK(resin_per_glass(GlassKind::mat) > resin_per_glass(GlassKind::woven));
}

TEST_CASE("the same glass is thinner where less resin is in it", "[stock]") {
    CHECK(laminate_thickness_mm(1, 0.5) < laminate_thickness_mm(1, 0.3));
    CHECK(laminate_thickness_mm(0, 0.5) == 0);
}

TEST_CASE("a new job has a sheet and a surface to begin with", "[stock]") {
    const auto job = job::empty_job();
    REQUIRE(job.materials.size() == 1);
    CHECK(job.materials[0].sheet_width_mm > job.materials[0].sheet_height_mm);
    CHECK(job.materials[0].sheets_in_stock == -1);
    REQUIRE(job.surfaces.size() == 1);
    CHECK(job.pieces.empty());
    CHECK(job.readings.empty());
}
