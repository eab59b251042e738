// The virtual boat and its instruments: the truth that fits are judged by must itself be right.
#include <catch2/catch.hpp>

#include <cmath>

#include "job/pipeline.h"
#include "practice/trial.h"
#include "support/jobs.h"
#include "support/virtual_jobs.h"

using namespace bevelsmith;
using practice::BoatSpec;
using practice::HullForm;
using practice::VirtualBoat;

namespace {

std::vector<BoatSpec> specs() {
    std::vector<BoatSpec> out;
    for (HullForm form : {HullForm::round_bilge, HullForm::hard_chine, HullForm::flared_bow})
        for (double amount : {0.0, 6.0}) out.push_back({form, 3 * amount, amount, 5});
    return out;
}

practice::Hand steady() {
    practice::Hand out;
    out.sigma_mm = 0;
    return out;
}

}  // namespace

TEST_CASE("points of the boat lie on her, off along the normal by what they are off", "[practice]") {
    for (const BoatSpec& spec : specs()) {
        const VirtualBoat boat(spec);
        for (double x : {200.0, 1500.0, 2800.0})
            for (double angle : {-2.9, -2.0, -1.2, -0.5, 0.1}) {
                const Vec3 p = boat.at(x, angle), n = boat.normal(p);
                CHECK(std::abs(boat.outside_mm(p)) < 1e-6);
                CHECK(n.norm() == Approx(1));
                CHECK(boat.outside_mm(p + 2 * n) == Approx(2).epsilon(0.02));
                CHECK(boat.outside_mm(p - 2 * n) == Approx(-2).epsilon(0.02));
            }
    }
}

TEST_CASE("a steady hand with any instrument reads points of the boat", "[practice]") {
    for (const BoatSpec& spec : specs()) {
        const VirtualBoat boat(spec);
        practice::Hand hand = steady();
        const std::vector<double> stations{-500, -300, -100, 0, 100}, angles{-1.2, -0.7, 0.1};
        const auto line =
            practice::read_ordinates(boat, {1200, 0, 0}, Vec3::UnitZ(), Vec3(0.1, 1, 0), stations, hand);
        REQUIRE(line.readings.size() >= 4);
        const auto pattern = practice::read_pattern(boat, 900, angles, hand);
        const auto points = practice::read_points(
            boat, practice::random_spots(20, virtual_jobs::low, virtual_jobs::high, hand.random), hand);
        for (auto set : {pattern, points}) {
            set.sigma_mm = 1;
            for (const auto& p : virtual_jobs::points_of(set)) CHECK(std::abs(boat.outside_mm(p.position)) < 1e-3);
        }
        // The line's direction is square to its stations only nearly, so the ray itself is what is read along.
        for (const auto& r : line.readings)
            CHECK(std::abs(boat.outside_mm(line.origin + r.values[0] * line.along + r.values[1] * line.toward)) <
                  1e-3);
    }
}

TEST_CASE("a hand errs by what it is said to, and slips as often", "[practice]") {
    practice::Hand hand;
    hand.sigma_mm = 2;
    hand.slip_chance = 0.1;
    double squares = 0;
    int slips = 0;
    for (int i = 0; i < 4000; ++i) {
        squares += std::pow(hand.error_mm(), 2) / 4000;
        slips += hand.slip_mm() != 0;
    }
    CHECK(std::sqrt(squares) == Approx(2).epsilon(0.05));
    CHECK(slips == Approx(400).margin(60));
}

TEST_CASE("lopsided and lumpy by the chosen amount; lines that leave the boat meet nothing", "[practice]") {
    const VirtualBoat even({HullForm::round_bilge, 0, 0, 5}), lopsided({HullForm::round_bilge, 20, 0, 5}),
        lumpy({HullForm::round_bilge, 0, 6, 5});
    CHECK(even.radius_mm(800, -0.3) == Approx(even.radius_mm(800, -M_PI + 0.3)));
    const double narrower = lopsided.radius_mm(0, -0.01) - lopsided.radius_mm(0, -M_PI + 0.01);
    CHECK(narrower == Approx(20).epsilon(0.02));
    double squares = 0;
    int n = 0;
    for (double x = 0; x < 3000; x += 37)
        for (double a = -1.4; a < 0.3; a += 0.03, ++n)
            squares += std::pow(lumpy.radius_mm(x, a) - even.radius_mm(x, a), 2);
    CHECK(std::sqrt(squares / n) == Approx(2).epsilon(0.3));
    CHECK_FALSE(even.hit({1500, 0, -100}, Vec3::UnitZ()));
    CHECK_FALSE(even.hit({1500, 0, -100}, Vec3::UnitX()));
    CHECK(even.hit({1500, 0, -100}, Vec3::UnitY()));
}

TEST_CASE("a piece offered up in the boat it was cut for fits, and shows by how much another boat differs",
          "[practice]") {
    // The tube's outline against itself: a cylinder of the same radius would fit; the virtual boat is none, so the
    // gaps are her distances from the cylinder (derived).
    const auto results = job::Pipeline().compute(jobs::tube_job());
    const auto& outline = *results.pieces[0].shape();
    const VirtualBoat boat({});
    const auto trial = practice::offer_up(outline, boat, 3);
    REQUIRE(trial.gaps.size() > 20);
    for (const auto& gap : trial.gaps) {
        const Vec3 p = outline.frame.to_space(gap.at);
        CHECK(gap.gap_mm == Approx(-boat.outside_mm(p)).margin(1e-9));
    }
    CHECK(trial.largest_mm == Approx(std::max(trial.widest_mm, trial.fouling_mm)));
    // Each trip more halves what is wrong.
    const double exact = trial.largest_mm;
    CHECK(practice::offer_up(outline, boat, exact).trips == 1);
    CHECK(practice::offer_up(outline, boat, exact * 0.99).trips == 2);
    CHECK(practice::offer_up(outline, boat, exact * 0.24).trips == 4);
}

TEST_CASE("the best possible with more readings is better, and the score is against it", "[practice]") {
    const auto results = job::Pipeline().compute(jobs::tube_job());
    const auto& outline = *results.pieces[0].shape();
    const VirtualBoat boat({});
    const auto few = practice::best_possible(outline, boat, 20, 1.5);
    const auto many = practice::best_possible(outline, boat, 80, 1.5);
    REQUIRE((few && many));
    CHECK(many->largest_mm < few->largest_mm);
    CHECK(few->largest_mm < 15);
    CHECK_FALSE(practice::best_possible(outline, boat, 11, 1.5));
    CHECK_FALSE(practice::best_possible(outline, boat, 40, 1.5, [] { return false; }));
    CHECK(practice::score(2, 4, 1) == 50);
    // What needs a second trip is worth 60 at most.
    CHECK(practice::score(36, 36, 5) == 60);
    CHECK(practice::score(2, 10, 3) == 20);
    CHECK(practice::score(2, 1, 1) == 100);
}
