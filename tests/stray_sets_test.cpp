// A set that as a whole does not lie where the others do cannot drag the surface with it.
#include <catch2/catch.hpp>

#include <cmath>
#include <random>

#include "hull/stray_sets.h"
#include "job/job_file.h"
#include "job/pipeline.h"
#include "job/stray_cause.h"
#include "practice/instruments.h"
#include "review/review.h"
#include "support/study.h"

namespace {

using namespace bevelsmith;
using practice::HullForm;

enum class Wrong { shifted, turned_over, mirrored, not_placed };

/// One side read at five stations, three of ordinates and two patterns.
job::Job survey_of(unsigned seed, double side) {
    const practice::VirtualBoat boat({seed % 2 ? HullForm::flared_bow : HullForm::round_bilge, 0, 0, seed});
    practice::Hand hand{1.5, 0, std::mt19937(seed)};
    job::Job job = job::empty_job();
    std::vector<double> stations, angles;
    for (int i = 0; i < 11; ++i) stations.push_back(70.0 * i);
    for (int i = 0; i < 11; ++i) {
        const double a = -1.2 + 0.14 * i;
        angles.push_back(side > 0 ? a : -M_PI - a);
    }
    for (int k = 0; k < 5; ++k) {
        const double x = 400 + 500 * k;
        auto set = k % 2 ? practice::read_pattern(boat, x, angles, hand)
                         : practice::read_ordinates(boat, Vec3(x, side * 60, -520), Vec3::UnitZ(),
                                                    side * Vec3::UnitY(), stations, hand);
        set.name = "set";
        set.surface_id = "hull";
        job::add_readings(job, set);
    }
    return job;
}

/// One more good set, as it would be at x.
survey::ReadingSet one_more(unsigned seed, double side) {
    const practice::VirtualBoat boat({seed % 2 ? HullForm::flared_bow : HullForm::round_bilge, 0, 0, seed});
    practice::Hand hand{1.5, 0, std::mt19937(seed + 1000)};
    std::vector<double> angles;
    for (int i = 0; i < 12; ++i) {
        const double a = -1.15 + 0.12 * i;
        angles.push_back(side > 0 ? a : -M_PI - a);
    }
    auto set = practice::read_pattern(boat, 1250, angles, hand);
    // About the pattern's own foot, as it would be typed.
    set.origin = Vec3(1250, side * 400, -300);
    for (auto& r : set.readings) {
        r.values[0] -= side * 400;
        r.values[1] += 300;
    }
    set.surface_id = "hull";
    set.name = "one more";
    return set;
}

survey::ReadingSet spoiled(survey::ReadingSet set, Wrong wrong, std::mt19937& random) {
    switch (wrong) {
        case Wrong::shifted: set.origin[random() % 2 ? 1 : 2] += random() % 2 ? 300 : -300; break;
        case Wrong::turned_over: (random() % 2 ? set.along : set.toward) *= -1; break;
        case Wrong::mirrored:
            set.origin.y() *= -1;
            set.along.y() *= -1;
            break;
        case Wrong::not_placed: set.origin = Vec3::Zero(); break;
    }
    return set;
}

const job::SurfaceResult& hull_of(const job::Results& results) {
    return *results.surface("hull");
}

/// The largest distance between the two faces where the first was surveyed.
double moved_mm(const hull::Surface& before, const hull::Surface& after, const std::vector<survey::Point>& points) {
    double most = 0;
    for (const auto& p : points) {
        const auto c = before.locate(p.position);
        most = std::max(most, std::abs(after.distance_mm(before.at({c.s, c.v}).position)));
    }
    return most;
}

job::Job demo() {
    auto loaded = job::load_job(BEVELSMITH_SOURCE_DIR "/demo/ternlight.job.json");
    REQUIRE(loaded.ok());
    job::Job out = *loaded;
    out.pieces.clear();
    return out;
}

}  // namespace

TEST_CASE("a set that is placed wrongly as a whole is left out as a whole and named", "[stray_sets]") {
    std::mt19937 random(11);
    int k = 0;
    for (; k < cases(60, 16); ++k) {
        const double side = k % 2 ? -1 : 1;
        const auto seed = static_cast<unsigned>(900 + k / 4);
        job::Job job = survey_of(seed, side);
        job::Pipeline pipeline;
        const auto before = pipeline.compute_pieces(job);
        REQUIRE(hull_of(before).fitted());
        CHECK(hull_of(before).fitted()->report.stray_sets.empty());
        job::add_readings(job, spoiled(one_more(seed, side), static_cast<Wrong>(k % 4), random));
        INFO("case " << k << ", wrong " << k % 4);
        const auto after = pipeline.compute_pieces(job);
        REQUIRE(hull_of(after).fitted());
        CHECK(hull_of(after).fitted()->report.stray_sets == std::vector<int>{5});
        CHECK(moved_mm(*hull_of(before).face, *hull_of(after).face, hull_of(before).points) < 0.01);
        bool named = false;
        for (const auto& f : review::review(job, after))
            named = named || (f.check == review::CheckId::stray_set && f.title.find("one more") != std::string::npos);
        CHECK(named);
    }
}

TEST_CASE("a good set more is taken in", "[stray_sets]") {
    for (unsigned seed = 900; seed < 912; ++seed) {
        const double side = seed % 2 ? -1 : 1;
        job::Job job = survey_of(seed, side);
        job::add_readings(job, one_more(seed, side));
        job::Pipeline pipeline;
        const auto results = pipeline.compute_pieces(job);
        REQUIRE(hull_of(results).fitted());
        CHECK(hull_of(results).fitted()->report.stray_sets.empty());
    }
}

TEST_CASE("the demo stands whatever set is put beside its own", "[stray_sets]") {
    std::mt19937 random(12);
    job::Job job = demo();
    job::Pipeline pipeline;
    const auto before = pipeline.compute_pieces(job);
    const std::string id = job.surfaces.front().id;
    REQUIRE(before.surface(id)->fitted());
    survey::ReadingSet copy;
    for (const auto& set : job.readings)
        if (set.surface_id == id && survey::has_frame(set.school) && set.readings.size() >= 6) copy = set;
    REQUIRE(copy.readings.size() >= 6);
    for (const Vec3& shift : cases<Vec3>({{0, -300, 0}, {0, 300, 0}, {0, 0, 300}}, 1)) {
        job::Job more = job;
        copy.name = "one more";
        auto wrong = copy;
        wrong.origin += shift;
        job::add_readings(more, wrong);
        const auto after = pipeline.compute_pieces(more);
        REQUIRE(after.surface(id)->fitted());
        INFO("shift " << shift.transpose());
        CHECK(after.surface(id)->fitted()->report.stray_sets ==
              std::vector<int>{static_cast<int>(more.readings.size()) - 1});
        CHECK(moved_mm(*before.surface(id)->face, *after.surface(id)->face, before.surface(id)->points) < 0.01);
    }
}

TEST_CASE("the likely cause of a stray set is told", "[stray_sets]") {
    const unsigned seed = 902;
    job::Job job = survey_of(seed, 1);
    job::Pipeline pipeline;
    const auto results = pipeline.compute_pieces(job);
    const auto& surface = hull_of(results).fitted()->surface;
    auto set = one_more(seed, 1);
    auto high = set;
    high.origin.y() += 300;
    CHECK(job::stray_cause(high, surface).find("too far to port") != std::string::npos);
    auto other = set;
    other.origin.y() *= -1;
    other.along.y() *= -1;
    CHECK(job::stray_cause(other, surface).find("the boat's other side") != std::string::npos);
    auto over = set;
    over.toward *= -1;
    CHECK(job::stray_cause(over, surface).find("turned over") != std::string::npos);
}

TEST_CASE("readings that lie on no surface yet move none", "[stray_sets]") {
    job::Job job = survey_of(903, 1);
    job::Pipeline pipeline;
    const auto before = pipeline.compute_pieces(job);
    auto set = one_more(903, 1);
    set.origin.setZero();
    job::add_readings(job, set, job::Placed::not_yet);
    CHECK(job.readings.back().surface_id.empty());
    const auto after = pipeline.compute_pieces(job);
    CHECK(hull_of(after).fit == hull_of(before).fit);
    // It is kept in the file as it is.
    const auto again = job::job_from_text(job::job_to_text(job));
    REQUIRE(again.ok());
    CHECK(*again == job);
}
