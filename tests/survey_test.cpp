// Readings to points: each school's own arithmetic, and guesses at what a wrong number was.
#include <Eigen/Geometry>
#include <catch2/catch.hpp>
#include <set>

#include "job/slip_hint.h"
#include "support/shapes.h"
#include "survey/points.h"
#include "units/quantity.h"

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

survey::Reading reading(double a, double b, double c = 0, double d = 0, double e = 0) {
    survey::Reading out;
    out.values = {a, b, c, d, e, 0};
    return out;
}

Vec3 place(const ReadingSet& set, const survey::Reading& r) {
    const auto at = survey::locate(set, r);
    INFO((at.ok() ? std::string() : at.error().message));
    REQUIRE(at.ok());
    return at->position;
}

std::string refusal(const ReadingSet& set, const survey::Reading& r) {
    const auto at = survey::locate(set, r);
    REQUIRE_FALSE(at.ok());
    return at.error().message;
}

/// A set of a school in a plane that leans and is turned, so that no axis helps by accident.
ReadingSet leaning(School school) {
    ReadingSet set = survey::usual_set(school);
    set.surface_id = "hull";
    set.origin = {1200, -300, 150};
    set.along = Vec3(0.2, 0.9, 0.1).normalized();
    const Vec3 up = Vec3(0.1, -0.1, 1);
    set.toward = (up - set.along * set.along.dot(up)).normalized();
    return set;
}

Vec3 in_space(const ReadingSet& set, const Vec2& p) {
    return set.origin + set.along * p.x() + set.toward * p.y();
}

}  // namespace

TEST_CASE("an ordinate lies at its station, its distance square to the line", "[survey]") {
    const auto set = ordinates();
    CHECK((place(set, reading(300, 812)) - Vec3(2400, 912, 250)).norm() < 1e-12);
    CHECK((place(set, reading(300, -812)) - Vec3(2400, -712, 250)).norm() < 1e-12);
}

TEST_CASE("a strip point lies across and up in the pattern's plane", "[survey]") {
    ReadingSet set = ordinates();
    set.school = School::strip_pattern;
    const double lean = 0.2;
    set.along = {0, 1, 0};
    set.toward = {std::sin(lean), 0, std::cos(lean)};
    const Vec3 p = place(set, reading(120, 40));
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

TEST_CASE("each school names the numbers that it asks for, and says what it is", "[survey]") {
    const auto count = [](School school) { return survey::columns_of(survey::usual_set(school)).size(); };
    CHECK(count(School::ordinates) == 2);
    CHECK(count(School::strip_pattern) == 2);
    CHECK(count(School::direct) == 3);
    CHECK(count(School::tick_stick) == 5);
    CHECK(count(School::mirrored) == 0);
    std::set<std::string_view> names, keys;
    for (int k = 0; k < survey::school_count; ++k) {
        const auto school = static_cast<School>(k);
        names.insert(survey::school_name(school));
        keys.insert(survey::school_id(school));
        CHECK(survey::school_words(school).size() > 40);
        CHECK(survey::default_sigma_mm(school) >= 1);
    }
    CHECK(names.size() == survey::school_count);
    CHECK(keys.size() == survey::school_count);
    CHECK(survey::default_sigma_mm(School::strip_pattern) < survey::default_sigma_mm(School::ordinates));
}

// Round trips (derived): from a known place of the plane to what the instrument would show there, and back.
TEST_CASE("round trip: tick stick by two points, and by a point and an angle", "[survey]") {
    ReadingSet set = leaning(School::tick_stick);
    set.stick_marks_mm = {120, 250, 380};
    const Vec2 tip(430, 610);
    for (double deg : {-170.0, -60.0, 15.0, 100.0}) {
        const Vec2 way(std::cos(units::radians(deg)), std::sin(units::radians(deg)));
        const Vec2 mark = tip - 250 * way, back = mark - 300 * way;
        CHECK((place(set, reading(mark.x(), mark.y(), back.x(), back.y(), 2)) - in_space(set, tip)).norm() < 1e-9);
        ReadingSet by_angle = set;
        by_angle.school = School::tick_stick_angle;
        CHECK((place(by_angle, reading(mark.x(), mark.y(), deg, 2)) - in_space(set, tip)).norm() < 1e-9);
    }
    CHECK(refusal(set, reading(0, 0, 100, 0, 4)).find("marks 1 to 3") != std::string::npos);
    CHECK(refusal(set, reading(0, 0, 5, 0, 1)).find("20 mm") != std::string::npos);
    // A short base magnifies the error at the tip.
    CHECK(survey::locate(set, reading(0, 0, 50, 0, 3))->sigma_mm >
          3 * survey::locate(set, reading(0, 0, 600, 0, 1))->sigma_mm);
}

TEST_CASE("round trip: distances from two pins, either side, and from three", "[survey]") {
    ReadingSet set = leaning(School::fixed_points);
    set.fixed_points = {{100, 50}, {700, 120}, {400, -200}};
    for (const Vec2& p : {Vec2(350, 700), Vec2(900, 400), Vec2(-200, 500)}) {
        const auto d = [&](int k) { return (p - set.fixed_points[static_cast<std::size_t>(k)]).norm(); };
        CHECK((place(set, reading(d(0), d(1))) - in_space(set, p)).norm() < 1e-6);
        CHECK((place(set, reading(d(0), d(1), d(2))) - in_space(set, p)).norm() < 1e-6);
        CHECK(survey::locate(set, reading(d(0), d(1), d(2)))->residual_mm < 1e-6);
        CHECK(survey::locate(set, reading(d(0), d(1), d(2) + 6))->residual_mm > 1);
    }
    set.left_of_pins = false;
    const Vec2 below(300, -600);
    CHECK((place(set, reading((below - set.fixed_points[0]).norm(), (below - set.fixed_points[1]).norm())) -
           in_space(set, below))
              .norm() < 1e-6);
    CHECK(refusal(set, reading(200, 300)).find("do not reach") != std::string::npos);
    CHECK(refusal(set, reading(2000, 300)).find("differ by more") != std::string::npos);
    CHECK(refusal(set, reading(500, 500, 2000)).find("do not meet") != std::string::npos);
    CHECK(refusal(set, reading(0, 300)).find("longer than nothing") != std::string::npos);
}

TEST_CASE("round trip: compass scribe, laser meter, strip edges and their corners", "[survey]") {
    ReadingSet compass = leaning(School::compass_scribe);
    compass.scribe_mm = 60;
    const Vec2 hull(820, 340);
    const double deg = 25;
    const Vec2 pencil = hull - 60 * Vec2(std::cos(units::radians(deg)), std::sin(units::radians(deg)));
    CHECK((place(compass, reading(pencil.x(), pencil.y(), deg)) - in_space(compass, hull)).norm() < 1e-9);

    const ReadingSet laser = leaning(School::laser_meter);
    const Vec3 target(2100, 800, -250), off = target - laser.origin;
    const double x = off.dot(laser.along), y = off.dot(laser.toward), z = off.dot(laser.along.cross(laser.toward));
    CHECK((place(laser,
                 reading(off.norm(), units::degrees(std::atan2(y, x)), units::degrees(std::asin(z / off.norm())))) -
           target)
              .norm() < 1e-8);
    CHECK(refusal(laser, reading(-5, 0, 0)).find("range") != std::string::npos);

    ReadingSet strips = leaning(School::strip_edges);
    strips.readings = {reading(0, 0, 300, 0), reading(500, 100, 500, 400), reading(450, 600, 450, 900)};
    const auto corners = survey::corners_of(strips);
    REQUIRE(corners.size() == 1);  // the second and the third run parallel
    CHECK((corners[0] - Vec2(500, 0)).norm() < 1e-9);
    CHECK(survey::points_of(std::vector{strips}, "hull")->size() == 9);
}

TEST_CASE("a reading taken again counts as the mean, with its spread; named marks are no points", "[survey]") {
    ReadingSet set = ordinates();
    survey::Reading r = reading(300, 810);
    r.again = {{300, 813}, {300, 813}, {300, 812}};
    const auto at = survey::locate(set, r);
    CHECK((at->position - place(set, reading(300, 812))).norm() < 1e-9);
    CHECK(at->spread_mm == Approx(2));
    CHECK(at->sigma_mm == Approx(set.sigma_mm / 2));
    CHECK(at->taken == 4);
    survey::Reading mark = reading(400, 700);
    mark.mark = "divider";
    set.readings = {r, mark};
    CHECK(survey::points_of(std::vector{set}, "hull")->size() == 1);
}

TEST_CASE("a mirrored set brings the other side's points, with what sides differ by", "[survey]") {
    ReadingSet port = ordinates();
    port.readings = {reading(0, 500), reading(100, 520)};
    ReadingSet mirrored = survey::usual_set(School::mirrored);
    mirrored.surface_id = "starboard";
    mirrored.mirror_of = "hull";
    const std::vector both{port, mirrored};
    const auto points = survey::points_of(both, "starboard");
    REQUIRE(points.ok());
    REQUIRE(points->size() == 2);
    const Vec3 p = place(port, port.readings[0]);
    CHECK(((*points)[0].position - Vec3(p.x(), -p.y(), p.z())).norm() < 1e-9);
    CHECK((*points)[0].sigma_mm == Approx(std::hypot(1.5, mirrored.sigma_mm)));
    CHECK(survey::points_of(both, "hull")->size() == 2);
    mirrored.mirror_of.clear();
    CHECK_FALSE(survey::points_of(std::vector{port, mirrored}, "starboard").ok());
}

TEST_CASE("a felt bevel tells a direction at a spot and is no point", "[survey]") {
    ReadingSet set = leaning(School::bevel_gauge);
    set.readings = {reading(100, 200, 12)};
    set.readings[0].again = {{100, 200, 14}};
    CHECK(survey::points_of(std::vector{set}, "hull")->empty());
    const auto felt = survey::bevels_of(std::vector{set}, "hull");
    REQUIRE(felt.size() == 1);
    CHECK(units::degrees(felt[0].bevel_rad) == Approx(13));
    CHECK((felt[0].position - in_space(set, {100, 200})).norm() < 1e-9);
    CHECK(std::abs(felt[0].plane_normal.dot(set.along)) < 1e-12);
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
