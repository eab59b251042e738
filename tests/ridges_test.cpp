// What residuals and check readings tell about the hull: chines that nobody entered, unequal sides.
#include <catch2/catch.hpp>

#include "hull/ridges.h"
#include "hull/sides.h"
#include "piece/put_back.h"
#include "practice/trial.h"
#include "support/virtual_jobs.h"

using namespace bevelsmith;

namespace {

/// A scan of the port side to a millimetre.
std::vector<survey::Point> scan(const practice::VirtualBoat& boat, int count, unsigned seed) {
    practice::Hand hand;
    hand.sigma_mm = 1;
    hand.random.seed(seed);
    auto set = practice::read_points(
        boat, practice::random_spots(count, virtual_jobs::low, virtual_jobs::high, hand.random), hand);
    set.sigma_mm = 1;
    return virtual_jobs::points_of(set);
}

double worst_off(const hull::Surface& surface, const practice::VirtualBoat& boat) {
    double worst = 0;
    for (double x = 150; x < 2850; x += 60)
        for (double angle = -1.3; angle < 0.2; angle += 0.03)
            worst = std::max(worst, std::abs(surface.distance_mm(boat.at(x, angle))));
    return worst;
}

bool warned(const hull::FitReport& report, const std::string& words) {
    return std::any_of(report.warnings.begin(), report.warnings.end(),
                       [&](const std::string& w) { return w.find(words) != std::string::npos; });
}

}  // namespace

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
    CHECK(worst < 25);
}

TEST_CASE("a scan of a chined hull is not cut short at the chine, and the chine is proposed", "[ridges]") {
    for (unsigned seed : {1U, 4U, 6U}) {
        const practice::VirtualBoat boat({practice::HullForm::hard_chine, 0, 0, seed});
        const auto points = scan(boat, 5000, seed);
        hull::FitOptions options;
        options.inside = Vec3(1500, 0, 0);
        const auto rounded = hull::fit_surface(points, options).value();
        INFO("seed " << seed);
        CHECK(worst_off(rounded.surface, boat) < 15);  // 40 to 60 where the chine's readings count as strays
        CHECK(rounded.report.suspects() < 500);
        CHECK(warned(rounded.report, "along a line lie beyond any smooth surface"));
        const auto ridge = hull::find_ridge(rounded, points, options);
        REQUIRE(ridge);
        for (const Vec3& p : ridge->line) CHECK((p - boat.chine(p.x())).norm() < 6);
        options.hard_lines = {ridge->line};
        const auto kinked = hull::fit_surface(points, options).value();
        CHECK(worst_off(kinked.surface, boat) < 2.5);
        CHECK(kinked.report.suspects() < 10);
        CHECK_FALSE(warned(kinked.report, "along a line"));
    }
}

TEST_CASE("port lights in a row stay out of a scan: they do not hang together as a chine does", "[ridges]") {
    for (unsigned seed : {1U, 2U}) {
        const practice::VirtualBoat boat({practice::HullForm::round_bilge, 0, 0, seed});
        auto points = scan(boat, 8000, seed);
        for (auto& p : points)
            for (double centre : {600.0, 1500.0, 2400.0})
                if (std::abs(p.position.x() - centre) < 200 && std::abs(p.position.z()) < 80)
                    p.position += 30 * boat.normal(p.position);
        hull::FitOptions options;
        options.inside = Vec3(1500, 0, 0);
        const auto fit = hull::fit_surface(points, options).value();
        INFO("seed " << seed);
        CHECK(worst_off(fit.surface, boat) < 2);
        CHECK(fit.report.suspects() > 200);
        CHECK_FALSE(warned(fit.report, "along a line"));
    }
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
