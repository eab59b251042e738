// Readings to points: each school's own arithmetic, and guesses at what a wrong number was.
#include <catch2/catch.hpp>

#include "job/slip_hint.h"
#include "support/shapes.h"
#include "survey/points.h"

using namespace bevelsmith;
using survey::ReadingSet;
using survey::School;

namespace {

ReadingSet ordinates() {
    ReadingSet set;
    set.id = "R1";
    set.name = "Station";
    set.school = School::ordinates;
    set.surface_id = "hull";
    set.origin = {2400, 100, -50};
    set.along = Vec3::UnitZ();
    set.toward = Vec3::UnitY();
    set.sigma_mm = 1.5;
    return set;
}

survey::Reading reading(double a, double b, double c = 0) {
    survey::Reading out;
    out.values = {a, b, c};
    return out;
}

}  // namespace

TEST_CASE("an ordinate lies at its station, its distance square to the line", "[survey]") {
    const auto set = ordinates();
    CHECK((survey::position_of(set, reading(300, 812)) - Vec3(2400, 912, 250)).norm() < 1e-12);
    CHECK((survey::position_of(set, reading(300, -812)) - Vec3(2400, -712, 250)).norm() < 1e-12);
}

TEST_CASE("a strip point lies across and up in the pattern's plane", "[survey]") {
    ReadingSet set = ordinates();
    set.school = School::strip_pattern;
    const double lean = 0.2;
    set.along = {0, 1, 0};
    set.toward = {std::sin(lean), 0, std::cos(lean)};
    const Vec3 p = survey::position_of(set, reading(120, 40));
    CHECK((p - (set.origin + 120 * set.along + 40 * set.toward)).norm() < 1e-12);
    CHECK(std::abs(survey::plane_of(set).distance_mm(p)) < 1e-9);
}

TEST_CASE("points carry their own uncertainty, or the set's; those set aside do not count", "[survey]") {
    ReadingSet set = ordinates();
    set.readings = {reading(0, 500), reading(100, 520), reading(200, 540)};
    set.readings[1].sigma_mm = 4;
    set.readings[2].disabled = true;
    const auto points = survey::points_of(std::vector{set}, "hull");
    REQUIRE(points.ok());
    REQUIRE(points->size() == 2);
    CHECK((*points)[0].sigma_mm == 1.5);
    CHECK((*points)[1].sigma_mm == 4);
    CHECK((*points)[1].reading == 1);
    CHECK(survey::points_of(std::vector{set}, "deckhead")->empty());
}

TEST_CASE("a set whose directions are not square, or not of unit length, is refused by name", "[survey]") {
    ReadingSet set = ordinates();
    set.readings = {reading(0, 500)};
    set.toward = Vec3(0, 1, 1).normalized();
    auto points = survey::points_of(std::vector{set}, "hull");
    REQUIRE_FALSE(points.ok());
    CHECK(points.error().message.find("Station") != std::string::npos);
    CHECK(points.error().message.find("square") != std::string::npos);
    set.toward = {0, 2, 0};
    CHECK_FALSE(survey::points_of(std::vector{set}, "hull").ok());
}

TEST_CASE("a reading that is no number is refused with its place", "[survey]") {
    ReadingSet set = ordinates();
    set.readings = {reading(0, 500), reading(0, std::nan(""))};
    const auto points = survey::points_of(std::vector{set}, "hull");
    REQUIRE_FALSE(points.ok());
    CHECK(points.error().message.find("reading 2") != std::string::npos);
}

TEST_CASE("the plane of a set: of its line, or where direct points spread least", "[survey]") {
    CHECK((survey::plane_of(ordinates()).normal - Vec3::UnitX()).norm() < 1e-12);
    CHECK(survey::plane_of(ordinates()).d_mm == Approx(2400));
    ReadingSet set = ordinates();
    set.school = School::direct;
    set.readings = {reading(100, 0, 500), reading(102, 900, 0), reading(98, -900, 10)};
    CHECK((survey::plane_of(set).normal - Vec3::UnitX()).norm() < 1e-12);
    CHECK(survey::plane_of(set).d_mm == Approx(100));
}

TEST_CASE("the usual slips are named", "[survey]") {
    CHECK(survey::guess_slip(712, 812.4, 5).find("100 mm misread? 812") != std::string::npos);
    CHECK(survey::guess_slip(822, 811.5, 5).find("10 mm misread? 812") != std::string::npos);
    CHECK(survey::guess_slip(-812, 811, 5).find("other side") != std::string::npos);
    CHECK(survey::guess_slip(821, 812, 3).find("digits swapped? 812") != std::string::npos);
    CHECK(survey::guess_slip(320, 812, 5).find("inches") != std::string::npos);
    CHECK(survey::guess_slip(700, 733, 5).empty());
}

TEST_CASE("each school names the numbers that it asks for", "[survey]") {
    CHECK(survey::value_names(School::ordinates).size() == 2);
    CHECK(survey::value_names(School::strip_pattern).size() == 2);
    CHECK(survey::value_names(School::direct).size() == 3);
    CHECK(survey::school_name(School::ordinates) != survey::school_name(School::direct));
    CHECK(survey::default_sigma_mm(School::strip_pattern) < survey::default_sigma_mm(School::ordinates));
}

TEST_CASE("a hint says which number of a reading would have to be what", "[survey]") {
    const auto side = shapes::wigley_side(9000, 2800, 1100);
    const auto fit = hull::fit_surface(shapes::readings(side, 20, 16, 1.5));
    REQUIRE(fit.ok());
    ReadingSet set = ordinates();
    set.origin = {400, 0, -800};
    // The half breadth at this station, 300 mm up the line, misread by 100.
    const double x = 400, z = -500;
    const double half = 1400 * (1 - std::pow(2 * x / 9000, 2)) * (1 - std::pow(z / 1100, 2));
    const std::string hint = job::slip_hint(set, reading(300, half - 100), fit->surface);
    INFO(hint);
    CHECK(hint.find("distance: 100 mm misread") != std::string::npos);
    CHECK(job::slip_hint(set, reading(300, half - 37), fit->surface).find("distance") == std::string::npos);
}
