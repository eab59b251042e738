// What residuals and check readings tell about the hull: chines that nobody entered, unequal sides.
#include <catch2/catch.hpp>

#include "hull/keel.h"
#include "hull/ridges.h"
#include "hull/sides.h"
#include "piece/put_back.h"
#include "practice/trial.h"
#include "support/sparse_sides.h"
#include "support/straight_bottoms.h"
#include "support/study.h"
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
    for (int number = 0; number < cases(10, 5); ++number) {
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
        const auto ridges = hull::find_ridges(fit, points, options);
        if (!ridges.any()) continue;
        const auto* ridge = &ridges.lines.front();
        ++proposed;
        CHECK(ridge->kink_deg > 5);
        double off = 0;
        for (const Vec3& p : ridge->line) {
            const Vec3 chine = boat.chine(p.x());
            off += std::hypot(p.y() - chine.y(), p.z() - chine.z()) / static_cast<double>(ridge->line.size());
        }
        worst = std::max(worst, off);
    }
    WARN(proposed << " of " << cases(10, 5) << " chines proposed, the worst on average " << worst << " mm off");
    CHECK(proposed >= cases(8, 4));
    CHECK(worst < 25);
}

TEST_CASE("a scan of a chined hull is not cut short at the chine, and the chine is proposed", "[ridges]") {
    for (unsigned seed : cases<unsigned>({1, 4, 6}, 1)) {
        const practice::VirtualBoat boat({practice::HullForm::hard_chine, 0, 0, seed});
        const auto points = scan(boat, 5000, seed);
        hull::FitOptions options;
        options.inside = Vec3(1500, 0, 0);
        const auto rounded = hull::fit_surface(points, options).value();
        INFO("seed " << seed);
        CHECK(worst_off(rounded.surface, boat) < 15);  // 40 to 60 where the chine's readings count as strays
        CHECK(rounded.report.suspects() < 500);
        CHECK(warned(rounded.report, "along a line lie beyond any smooth surface"));
        const auto ridges = hull::find_ridges(rounded, points, options);
        REQUIRE(ridges.lines.size() == 1);
        const auto* ridge = &ridges.lines.front();
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
    for (int number = 0; number < cases(20, 8); ++number) {
        const auto job = virtual_jobs::scattered(number, 60 + 10 * number);
        const auto fit = hull::fit_surface(job.points, job.options).value();
        proposed += hull::find_ridges(fit, job.points, job.options).any();
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

namespace {

/// How far the line proposed runs from the true one in the mean, across the boat.
double off_line(const hull::Ridge& ridge, const std::vector<Vec3>& chine) {
    double sum = 0;
    for (const Vec3& p : ridge.line) {
        double nearest = 1e9;
        for (const Vec3& c : chine) nearest = std::min(nearest, (c - p).norm());
        sum += nearest / static_cast<double>(ridge.line.size());
    }
    return sum;
}

hull::Ridges ridges_of(const sparse_sides::Side& side) {
    const auto fit = hull::fit_surface(side.points, side.options);
    REQUIRE(fit);
    return hull::find_ridges(*fit, side.points, side.options);
}

unsigned seeds() {
    return static_cast<unsigned>(cases(60, 5));
}

/// What is found on chined sides of seeds 1 to `seeds`, half of the surveys with two readings plainly wrong.
struct Tally {
    int surveys = 0, proposed = 0, called_wrong = 0;
    double worst_off_mm = 0, worst_turn_deg = 0;
};
Tally on_chined_sides(unsigned seeds) {
    Tally out;
    for (int slips : {0, 2})
        for (unsigned seed = 1; seed <= seeds; ++seed) {
            const auto side = sparse_sides::chined(seed, slips);
            const auto ridges = ridges_of(side);
            ++out.surveys;
            if (ridges.lines.size() != 1) continue;
            ++out.proposed;
            const auto& ridge = ridges.lines.front();
            out.worst_off_mm = std::max(out.worst_off_mm, off_line(ridge, side.chine));
            out.worst_turn_deg = std::max(out.worst_turn_deg, std::abs(ridge.kink_deg - side.turn_deg));
            for (std::size_t k = 0; k < ridges.wrong.size(); ++k)
                out.called_wrong += ridges.wrong[k] && std::find(side.slips.begin(), side.slips.end(),
                                                                 static_cast<int>(k)) == side.slips.end();
        }
    return out;
}

int proposed_on_smooth_sides(unsigned seeds) {
    int out = 0;
    for (int slips : {0, 2})
        for (unsigned seed = 1; seed <= seeds; ++seed) out += ridges_of(sparse_sides::smooth(seed, slips)).any();
    return out;
}

}  // namespace

// Sides as people survey them: 4 to 7 stations of 6 to 9 heights. Seeded: the same sides are tried every time. The
// true line is known every 100 mm, so that a spot on it is up to 50 mm from one of those; a cambered panel turns up
// to 8 degrees more at the chine than its chord, which the shape goes by.
TEST_CASE("in sparse surveys a chine is proposed where there is one, and good readings are not called wrong",
          "[ridges]") {
    const Tally found = on_chined_sides(seeds());
    WARN(found.proposed << " of " << found.surveys << " chines proposed, at worst " << found.worst_off_mm
                        << " mm off; " << found.called_wrong << " good readings called wrong");
    CHECK(20 * found.proposed >= 19 * found.surveys);
    CHECK(found.worst_off_mm < 75);
    CHECK(found.worst_turn_deg < 12);
    CHECK(20 * found.called_wrong <= found.surveys);
}

TEST_CASE("in sparse surveys of smooth sides no chine is proposed, nor with two readings plainly wrong", "[ridges]") {
    const int falsely = proposed_on_smooth_sides(seeds());
    WARN(falsely << " of " << 2 * seeds() << " smooth sides have a chine falsely");
    CHECK(50 * falsely <= static_cast<int>(2 * seeds()));
}

TEST_CASE("of a hull with hard chines read from side to side, the keel and both chines are proposed", "[ridges]") {
    for (unsigned seed : cases<unsigned>({2, 5, 9}, 1)) {
        const practice::VirtualBoat boat({practice::HullForm::hard_chine, 0, 0, seed});
        practice::Hand hand;
        hand.random.seed(seed);
        std::vector<practice::Spot> spots;
        for (double x : {100.0, 700.0, 1300.0, 1900.0, 2500.0})
            for (int k = 0; k <= 22; ++k) spots.push_back({x, -3.34 + 0.1582 * k});
        const auto points = virtual_jobs::points_of(practice::read_points(boat, spots, hand));
        hull::FitOptions options;
        options.inside = Vec3(1500, 0, 0);
        const auto fit = hull::fit_surface(points, options).value();
        const auto ridges = hull::find_ridges(fit, points, options);
        INFO("seed " << seed << ": " << ridges.evidence());
        REQUIRE(ridges.lines.size() == 3);
        for (const auto line :
             {practice::HullLine::port_chine, practice::HullLine::keel, practice::HullLine::starboard_chine}) {
            std::vector<Vec3> truth;
            for (double x = 0; x <= practice::VirtualBoat::length_mm; x += 100)
                truth.push_back(boat.on_line(line, x));
            CHECK(std::any_of(ridges.lines.begin(), ridges.lines.end(),
                              [&](const auto& r) { return off_line(r, truth) < 60; }));
        }
        // With the lines in, the surface is the boat's.
        for (const auto& r : ridges.lines) options.hard_lines.push_back(r.line);
        const auto kinked = hull::fit_surface(points, options).value();
        const double smooth = worst_off(fit.surface, boat), sharp = worst_off(kinked.surface, boat);
        CHECK(sharp < 0.5 * smooth);
    }
}

TEST_CASE("curved chines over straight bottoms are proposed where they run, with a keel that no reading is near",
          "[ridges]") {
    for (unsigned seed : cases<unsigned>({1, 2, 3, 4, 5, 6, 7, 8}, 3)) {
        const auto points = straight_bottoms(seed);
        const auto fit = hull::fit_surface(points, {}).value();
        const auto ridges = hull::find_ridges(fit, points, {});
        INFO("seed " << seed << ": " << ridges.evidence());
        REQUIRE(ridges.lines.size() == 3);
        for (const double side : {1.0, 0.0, -1.0}) {
            std::vector<Vec3> truth;
            for (double x = 1200; x <= 3600; x += 20)
                truth.push_back(StraightBottoms::bottom(x, side, std::abs(side)));
            CHECK(std::any_of(ridges.lines.begin(), ridges.lines.end(),
                              [&](const auto& r) { return off_line(r, truth) < 15; }));
        }
        for (std::size_t k = 0; k < points.size(); ++k) CHECK(ridges.wrong[k] == (k == 20 || k == 70));
    }
}

TEST_CASE("a keel that no reading is near is told of, by how much it may lie lower, and not on round bottoms",
          "[ridges]") {
    for (unsigned seed : {1U, 2U, 3U}) {
        auto points = straight_bottoms(seed);
        hull::FitOptions options;
        for (const double side : {1.0, -1.0}) {
            options.hard_lines.emplace_back();
            for (double x = 1200; x <= 3600; x += 240)
                options.hard_lines.back().push_back(StraightBottoms::bottom(x, side, 1));
        }
        const auto fit = hull::fit_surface(points, options).value();
        const auto keel = hull::keel_unread(fit, points);
        REQUIRE(keel);
        // Both bottoms rise by 13 degrees, and meet at nothing.
        CHECK(keel->turn_deg == Approx(26).margin(5));
        CHECK((keel->port_mm > 120 && keel->port_mm < 145 && keel->starboard_mm > 120 && keel->starboard_mm < 145));
        const Vec3 truth(keel->x_mm, 0, 0);
        CHECK(fit.surface.distance_mm(truth) == Approx(keel->lower_mm).margin(6));
        CHECK(keel->lower_mm > 4);
        // Read along, it is known.
        options.hard_lines.emplace_back();
        for (double x = 1200; x <= 3600; x += 240) {
            options.hard_lines.back().push_back({x, 0, 0});
            points.emplace_back().position = {x, 0, 0};
        }
        CHECK_FALSE(hull::keel_unread(hull::fit_surface(points, options).value(), points));
    }
    // Nor is a keel proposed on them.
    for (unsigned seed = 1; seed <= 6; ++seed) {
        const practice::VirtualBoat boat({practice::HullForm::round_bilge, 0, 0, seed});
        practice::Hand hand;
        hand.random.seed(seed);
        std::vector<practice::Spot> spots;
        for (double x : {100.0, 700.0, 1300.0, 1900.0, 2500.0})
            for (const double side : {-1.0, 1.0})
                for (int k = 0; k < 11; ++k) spots.push_back({x, -units::pi / 2 + side * (0.13 + 0.15 * k)});
        const auto points = virtual_jobs::points_of(practice::read_points(boat, spots, hand));
        hull::FitOptions options;
        options.inside = Vec3(1500, 0, 0);
        INFO("seed " << seed);
        for (const auto& p : points) REQUIRE(std::abs(p.position.y()) > hull::near_keel_mm);
        const auto fit = hull::fit_surface(points, options).value();
        CHECK_FALSE(hull::keel_unread(fit, points));
        CHECK_FALSE(hull::find_ridges(fit, points, options).any());
    }
}
