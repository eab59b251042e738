// Masses, their centre, and what they do to the boat.
#include <catch2/catch.hpp>

#include <cmath>

#include "support/jobs.h"
#include "units/quantity.h"
#include "weight/weight.h"

using namespace bevelsmith;
using namespace bevelsmith::weight;

TEST_CASE("a bulkhead in a cylinder weighs its segment, centred where a segment's centre is", "[weight]") {
    const auto results = job::Pipeline().compute(jobs::tube_job());
    const auto& mass = results.pieces.front().mass;
    const double r = jobs::tube_radius_mm, h = 200;
    const double area = r * r * std::acos(h / r) - h * std::sqrt(r * r - h * h);
    CHECK(mass.panel.mass_kg == Approx(area * 18e-9 * 600).epsilon(1e-4));
    CHECK(mass.coating.mass_kg == Approx(2 * area * 1e-6 * 0.25).epsilon(1e-4));
    // Centroid of a circular segment: (2/3) (R² - h²)^(3/2) / area from the circle's centre (derived).
    const double centroid = 2.0 / 3 * std::pow(r * r - h * h, 1.5) / area;
    CHECK(mass.panel.centre_mm.z() == Approx(-centroid).margin(0.1));
    CHECK(mass.panel.centre_mm.y() == Approx(0).margin(0.1));
    CHECK(mass.panel.centre_mm.x() == Approx(1509));
    CHECK(mass.total.mass_kg == Approx(mass.panel.mass_kg + mass.coating.mass_kg + mass.fixing.mass_kg));
}

TEST_CASE("a sum of masses balances at their common centre", "[weight]") {
    const Mass both[] = {{30, {1000, 0, 0}}, {10, {3000, 400, -200}}};
    const Mass all = sum(both);
    CHECK(all.mass_kg == 40);
    CHECK((all.centre_mm - Vec3(1500, 100, -50)).norm() < 1e-9);
    CHECK(sum({}).mass_kg == 0);
}

TEST_CASE("hydrostatics of a box-shaped hull", "[weight]") {
    // KB = d/2, BM = B²/(12 d), BM_L = L²/(12 d), MCTC = W GM_L/(100 L) (Barrass & Derrett, Ship Stability for
    // Masters and Mates, from memory; derived for the box). Box 10 x 3 m, draught 0.5 m, density 1.025 t/m³.
    const double l = 10, b = 3, d = 0.5, w = 1.025 * l * b * d;
    CHECK(box_metacentric_radius_m(b, d) == Approx(1.5));
    CHECK(box_metacentric_radius_m(l, d) == Approx(100 / 6.0));
    const double kg = 0.6, gm_l = d / 2 + box_metacentric_radius_m(l, d) - kg;
    // The moment to trim by a centimetre turns her by 0.01 / L: the couple of weight and buoyancy about their
    // metacentre.
    const double turned = 0.01 / l;
    CHECK(moment_to_change_trim_tm(w, gm_l, l) == Approx(w * gm_l * std::sin(turned)).epsilon(1e-6));
    // A box heels about its own centre line: the exact waterplane under a small trim gives the same moment. Trim t
    // over L moves a wedge of volume L B t / 8 each way by 2 L / 3, so the moment is density · L² B t / 12 (derived).
    const double t = 0.01, wedge = 1.025 * l * l * b * t / 12;
    CHECK(w * box_metacentric_radius_m(l, d) / (100 * l) == Approx(wedge).epsilon(1e-9));
}

TEST_CASE("a mass to port lists her to port, forward trims her by the bow", "[weight]") {
    const Hydrostatics boat{6000, 0.9, 0.07, 500};
    const Attitude a = attitude({40, {2500, 1200, 0}}, {}, boat);
    REQUIRE(a.known);
    CHECK(std::tan(a.list_rad) == Approx(40 * 1.2 / (6040 * 0.9)));
    CHECK(a.trim_cm == Approx(0.040 * 2.0 / 0.07));
    CHECK(attitude({40, {-2500, -1200, 0}}, {}, boat).list_rad < 0);
    CHECK(attitude({40, {-2500, -1200, 0}}, {}, boat).trim_cm < 0);
}

TEST_CASE("a wall-sided box lists as its exact righting arm says", "[weight]") {
    // GZ = sin φ (GM + BM/2 tan² φ), exact for vertical sides (the wall-sided formula; Barrass & Derrett, from
    // memory).
    const double l = 10, b = 3, d = 0.5, kg = 0.9, mass_t = 0.25, out = 0.8;
    const double w = 1.025 * l * b * d, bm = b * b / (12 * d), gm = d / 2 + bm - kg;
    double low = 0, high = 0.5;
    for (int k = 0; k < 60; ++k) {
        const double phi = (low + high) / 2, t = std::tan(phi);
        // The mass is aboard: displacement w holds it.
        (w * std::sin(phi) * (gm + bm / 2 * t * t) > mass_t * out * std::cos(phi) ? high : low) = phi;
    }
    const Hydrostatics boat{1000 * (w - mass_t), gm, 0.07, 0};
    const Attitude a = attitude({1000 * mass_t, {0, 1000 * out, 0}}, {}, boat);
    REQUIRE(a.known);
    CHECK(a.list_rad == Approx((low + high) / 2).epsilon(0.01));
}

TEST_CASE("without the boat's figures nothing is claimed", "[weight]") {
    CHECK_FALSE(attitude({40, {0, 0, 0}}, {}, {}).known);
    CHECK_FALSE(attitude({40, {0, 0, 0}}, {}, {6000, 0, 0.07, 0}).known);
}
