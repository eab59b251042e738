// The boat leans on the hard: level and plumb measured there, brought into her own frame.
#include <catch2/catch.hpp>

#include <Eigen/Geometry>
#include <cmath>
#include <numbers>

#include "support/jobs.h"
#include "survey/datum.h"
#include "survey/instruments.h"
#include "survey/points.h"

using namespace bevelsmith;
using namespace bevelsmith::survey;

namespace {

constexpr double degree = std::numbers::pi / 180;

/// The plumb line of a boat that was heeled and then pitched by these angles.
Vec3 leaning(double heel_deg, double pitch_deg) {
    const double across = std::sin(heel_deg * degree), along = std::sin(pitch_deg * degree);
    return {along, across, std::sqrt(1 - along * along - across * across)};
}

}  // namespace

TEST_CASE("two levels, three points and a plumb line on a bulkhead tell the same lean", "[datum]") {
    // What each instrument would read on a boat leaning 2.5 degrees to starboard and 1.2 bow high (derived: heights
    // differ by up·(p - q); a plumb line hangs along -up).
    const Vec3 up = leaning(2.5, 1.2);
    Datum levels;
    levels.known = Datum::Known::two_levels;
    levels.port_high_deg = 2.5;
    levels.bow_high_deg = 1.2;
    CHECK((plumb_up(levels).value() - up).norm() < 1e-12);

    Datum points;
    points.known = Datum::Known::three_points;
    points.points = {Vec3(100, 700, 0), Vec3(150, -650, 0), Vec3(2300, 80, 0)};
    for (Vec3& p : points.points) p.z() = 400 + up.x() * p.x() + up.y() * p.y();
    CHECK((plumb_up(points).value() - up).norm() < 1e-12);

    Datum bulkhead;
    bulkhead.known = Datum::Known::bulkhead;
    bulkhead.drop_mm = 1500;
    bulkhead.foot_forward_mm = -1500 * up.x();
    bulkhead.foot_port_mm = -1500 * up.y();
    CHECK((plumb_up(bulkhead).value() - up).norm() < 1e-12);

    const Lean lean = lean_of(up);
    CHECK(lean.heel_deg == Approx(2.5));
    CHECK(lean.pitch_deg == Approx(1.2));
    CHECK((plumb_up({}).value() - Vec3::UnitZ()).norm() == 0);
}

TEST_CASE("a datum that cannot be is refused in plain words", "[datum]") {
    Datum d;
    d.known = Datum::Known::three_points;
    d.points = {Vec3(0, 0, 0), Vec3(1000, 10, 5), Vec3(2000, 0, 9)};
    CHECK(plumb_up(d).error().message.find("one line") != std::string::npos);
    d.known = Datum::Known::bulkhead;
    d.drop_mm = 500;
    d.foot_port_mm = 480;
    CHECK(plumb_up(d).error().message.find("45") != std::string::npos);
    d.drop_mm = 0;
    CHECK_FALSE(plumb_up(d).ok());
}

TEST_CASE("readings along the hard's level and plumb come out where the boat's are", "[datum]") {
    const Vec3 up = leaning(3, -1.5);
    Datum datum;
    datum.known = Datum::Known::two_levels;
    datum.port_high_deg = 3;
    datum.bow_high_deg = -1.5;
    // A plumb line hung from a known place; square distances level and across the boat.
    ReadingSet plumb = usual_set(School::ordinates);
    plumb.origin = {1200, 300, 400};
    plumb.along = -Vec3::UnitZ();
    plumb.toward = Vec3::UnitY();
    plumb.by_gravity = true;
    plumb.readings.resize(1);
    plumb.readings[0].values = {700, 250};
    const auto sets = in_boat_frame(std::vector{plumb}, datum);
    REQUIRE(sets.ok());
    const Vec3 level = up.cross((Vec3::UnitX() - up.x() * up).normalized());
    const Vec3 at = locate((*sets)[0], plumb.readings[0])->position;
    CHECK((at - (plumb.origin - 700 * up + 250 * level)).norm() < 1e-9);
    CHECK((*sets)[0].along.dot((*sets)[0].toward) == Approx(0).margin(1e-12));
    CHECK_FALSE((*sets)[0].by_gravity);
    // Points of a self-levelling scanner turn about the boat's zero, those in the boat's frame stay.
    ReadingSet scan = usual_set(School::scan);
    scan.readings.resize(2);
    scan.readings[0].values = {1000, 0, 0};
    scan.readings[1].values = {0, 0, 500};
    CHECK(in_boat_frame(std::vector{scan}, datum).value()[0] == scan);
    scan.by_gravity = true;
    const auto turned = in_boat_frame(std::vector{scan}, datum).value()[0];
    const Vec3 high(turned.readings[1].values[0], turned.readings[1].values[1], turned.readings[1].values[2]);
    CHECK((high - 500 * up).norm() < 1e-9);
    // Forward stays in the upright plane through the boat's centre line.
    const Vec3 fore(turned.readings[0].values[0], turned.readings[0].values[1], turned.readings[0].values[2]);
    CHECK(fore.dot(Vec3::UnitX().cross(up)) == Approx(0).margin(1e-9));
    CHECK(fore.dot(up) == Approx(0).margin(1e-9));
}

TEST_CASE("turning from the hard keeps lengths and right angles", "[datum]") {
    const Turn turn = from_the_hard(leaning(7, 4));
    CHECK((turn.transpose() * turn - Turn::Identity()).norm() < 1e-12);
    CHECK(turn.determinant() == Approx(1));
    // Forward on the hard stays in the boat's centre plane's heading: no part of it points to port of level.
    CHECK(turn.col(0).dot(turn.col(2)) == Approx(0).margin(1e-12));
}
