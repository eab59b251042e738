// What residuals and check readings tell about the hull: chines that nobody entered, unequal sides.
#include <catch2/catch.hpp>

#include "hull/ridges.h"
#include "hull/sides.h"
#include "piece/put_back.h"
#include "practice/trial.h"
#include "support/virtual_jobs.h"

using namespace bevelsmith;

TEST_CASE("a chine that nobody entered is proposed, and near where it runs", "[ridges]") {
    int proposed = 0;
    double worst = 0;
    for (int number = 0; number < 10; ++number) {
        practice::BoatSpec spec;
        spec.form = practice::HullForm::hard_chine;
        spec.seed = 40U + static_cast<unsigned>(number);
        const practice::VirtualBoat boat(spec);
        practice::Hand hand;
        hand.random.seed(spec.seed);
        const auto points = virtual_jobs::points_of(practice::read_points(
            boat, practice::random_spots(120, virtual_jobs::low, virtual_jobs::high, hand.random), hand));
        hull::FitOptions options;
        options.inside = Vec3(1500, 0, 0);
        const auto fit = hull::fit_surface(points, options).value();
        const auto ridge = hull::find_ridge(fit, points, options);
        if (!ridge) continue;
        ++proposed;
        CHECK(ridge->kink_deg > 5);
        double off = 0;
        for (const Vec3& p : ridge->line) {
            const Vec3 chine = boat.chine(p.x());
            off += std::hypot(p.y() - chine.y(), p.z() - chine.z()) / static_cast<double>(ridge->line.size());
        }
        worst = std::max(worst, off);
    }
    WARN(proposed << " of 10 chines proposed, the worst on average " << worst << " mm off");
    CHECK(proposed >= 8);
    CHECK(worst < 80);
}

TEST_CASE("fair hulls show no chine", "[ridges]") {
    int proposed = 0;
    for (int number = 0; number < 20; ++number) {
        const auto job = virtual_jobs::scattered(number, 60 + 10 * number);
        const auto fit = hull::fit_surface(job.points, job.options).value();
        proposed += hull::find_ridge(fit, job.points, job.options) ? 1 : 0;
    }
    CHECK(proposed <= 1);
}

TEST_CASE("check readings tell how unequal the sides are, along the length", "[ridges]") {
    practice::BoatSpec spec;
    spec.lopsided_mm = 20;
    const practice::VirtualBoat boat(spec);
    practice::Hand hand;
    const auto port = virtual_jobs::points_of(
        practice::read_points(boat, practice::random_spots(160, {100, -1.35}, {2900, 0.25}, hand.random), hand));
    hull::FitOptions options;
    options.inside = Vec3(1500, 0, 0);
    const auto fit = hull::fit_surface(port, options).value();
    // Level with the axis the starboard side is narrower by lopsided (0.6 + 0.4 cos(2x/L)) (the boat's own law).
    std::vector<practice::Spot> spots;
    for (double x = 200; x < 2900; x += 100) spots.push_back({x, -3.14159265});
    const auto checks = virtual_jobs::points_of(practice::read_points(boat, spots, hand));
    const auto sides = hull::side_differences(fit.surface, checks, 500);
    REQUIRE(sides.size() == 6);
    for (const auto& s : sides) {
        const double x = (s.from_x_mm + s.to_x_mm) / 2;
        const double narrower = 20 * (0.6 + 0.4 * std::cos(2 * x / practice::VirtualBoat::length_mm));
        INFO("at " << x);
        CHECK(s.mean_mm == Approx(-narrower).margin(1.5 + 3 * s.sigma_mm));
        CHECK(s.readings >= 2);
    }
    CHECK(hull::side_differences(fit.surface, {}, 500).empty());
}
