// Which side of a surface is the boat: seven shapes of a hull's inside, both sides, read in every school.
#include <catch2/catch.hpp>

#include <Eigen/Geometry>
#include <cmath>
#include <random>

#include "hull/fit.h"
#include "hull/inside.h"
#include "survey/instruments.h"

namespace {

using namespace bevelsmith;
using hull::Inside;
using hull::SurfacePart;
using survey::School;

enum class Shape { full_side, hollow_flare, tumblehome, keel_to_sheer, deckhead, transom, bulkhead_face };
constexpr int shapes = 7;

/// A surface over two parameters in 0..1, with the way out of the boat at any place.
struct Boat {
    Shape shape;
    double side = 1;    ///< 1 port, -1 starboard
    double bend = 1;    ///< how much it is curved
    double facing = 1;  ///< bulkhead: 1 its inside is forward

    Vec3 at(double s, double t) const {
        const double x = 500 + 2000 * s, taper = 1 - 0.25 * bend * s * s;
        switch (shape) {
            case Shape::full_side: return {x, side * (1300 * taper - 200 * bend * std::pow(1 - t, 2)), 100 + 800 * t};
            case Shape::hollow_flare:
                return {x, side * (500 * taper + 100 + (150 + 350 * bend * s) * t * t), 1000 * t};
            case Shape::tumblehome: return {x, side * (1400 * taper - 60 * t - 220 * bend * t * t), 900 * t};
            case Shape::keel_to_sheer: {
                const double a = 0.05 + 1.6 * t;
                return {x, side * 1200 * taper * std::sin(a), -800 * std::cos(a)};
            }
            case Shape::deckhead: {
                const double y = side * (60 + 1000 * t);
                return {x, y, 1800 - 80 * bend * y * y / 1e6 + 20 * s};
            }
            case Shape::transom: {
                const double y = 1800 * (s - 0.5);
                return {100 - 60 * bend * (1 - y * y / 1e6) - 150 * t, y, 900 * t};
            }
            case Shape::bulkhead_face: break;
        }
        return {2000 + 5 * bend * std::sin(3 * s), side * (100 + 1000 * s), 1400 * t};
    }
    /// Roughly out of the boat.
    Vec3 out(double t) const {
        switch (shape) {
            case Shape::keel_to_sheer: {
                const double a = 0.05 + 1.6 * t;
                return Vec3(0, side * std::sin(a), -std::cos(a));
            }
            case Shape::deckhead: return Vec3::UnitZ();
            case Shape::transom: return -Vec3::UnitX();
            case Shape::bulkhead_face: return -facing * Vec3::UnitX();
            default: return side * Vec3::UnitY();
        }
    }
};

/// What `school` would have written down at `p`, read from inside: distances and the like are counted back.
void read_point(survey::ReadingSet& set, const Vec3& p, const Vec3& out) {
    const double u = set.along.dot(p - set.origin), v = set.toward.dot(p - set.origin);
    auto& r = set.readings.emplace_back();
    switch (set.school) {
        case School::ordinates:
        case School::strip_pattern:
        case School::traced: r.values = {u, v}; break;
        case School::tick_stick: {
            const Vec2 to(u, v), way(set.along.dot(out), set.toward.dot(out));
            const Vec2 mark = to - set.stick_marks_mm[1] * way, back = mark - 150 * way;
            r.values = {mark.x(), mark.y(), back.x(), back.y(), 2};
            break;
        }
        case School::compass_scribe: {
            const double a = std::atan2(set.toward.dot(out), set.along.dot(out));
            r.values = {u - set.scribe_mm * std::cos(a), v - set.scribe_mm * std::sin(a), a * 180 / M_PI};
            break;
        }
        case School::laser_meter: {
            const Vec3 way = p - set.origin;
            const Vec3 up = set.along.cross(set.toward);
            r.values = {way.norm(), std::atan2(set.toward.dot(way), set.along.dot(way)) * 180 / M_PI,
                        std::asin(up.dot(way) / way.norm()) * 180 / M_PI};
            break;
        }
        default: r.values = {p.x(), p.y(), p.z()};
    }
}

/// Four stations of nine readings.
std::vector<survey::ReadingSet> survey_of(const Boat& boat, School school, std::mt19937& random) {
    std::normal_distribution<double> error(0, 1.0);
    std::vector<survey::ReadingSet> sets;
    const bool level = boat.shape == Shape::transom || boat.shape == Shape::bulkhead_face;
    for (int k = 0; k < 4; ++k) {
        survey::ReadingSet set = survey::usual_set(school);
        set.surface_id = "hull";
        const double s = 0.05 + 0.3 * k;
        if (survey::has_frame(school) && school != School::laser_meter) {
            // In the plane of the station: along the surface, and square to it.
            const Vec3 p = boat.at(level ? 0.5 : s, level ? s : 0.5), out = boat.out(0.5);
            set.toward = std::abs(out.z()) > 0.7   ? Vec3(0, 0, std::copysign(1, out.z()))
                         : std::abs(out.x()) > 0.7 ? Vec3(std::copysign(1, out.x()), 0, 0)
                                                   : Vec3(0, std::copysign(1, out.y()), 0);
            set.along = level || std::abs(out.z()) > 0.7 ? Vec3::UnitY() : Vec3::UnitZ();
            set.origin = p - 500 * set.toward;
            if (school == School::ordinates && boat.shape == Shape::keel_to_sheer)
                set.origin = Vec3(p.x(), boat.side * 10, 100);
        }
        if (school == School::laser_meter) set.origin = boat.at(0.5, 0.5) - 700 * boat.out(0.5);
        for (int i = 0; i < 9; ++i) {
            const double t = 0.02 + 0.12 * i;
            Vec3 p = level ? boat.at(t, s) : boat.at(s, t);
            p += error(random) * boat.out(t);
            read_point(set, p, boat.out(level ? 0.5 : t));
        }
        sets.push_back(set);
    }
    return sets;
}

Inside inside_of(const std::vector<survey::ReadingSet>& sets, hull::FitOptions options) {
    options.find_slips = false;
    options.intervals_s = options.intervals_v = 4;
    const auto points = survey::points_of(sets, "hull");
    REQUIRE(points.ok());
    const auto fit = hull::fit_surface(*points, options);
    if (!fit.ok()) FAIL(fit.error().message);
    return fit->report.inside;
}

bool right(const Inside& inside, const Boat& boat) {
    return inside.toward.dot(boat.out(0.5)) < 0;
}

}  // namespace

TEST_CASE("the inside is told rightly: 500 random surveys of seven shapes", "[inside]") {
    constexpr School schools[] = {School::ordinates, School::strip_pattern,  School::direct,      School::tick_stick,
                                  School::traced,    School::compass_scribe, School::laser_meter, School::scan};
    std::mt19937 random(20);
    std::uniform_real_distribution<double> some(0.4, 1.2);
    int wrong = 0;
    for (int k = 0; k < 500; ++k) {
        Boat boat{static_cast<Shape>(k % shapes), k / shapes % 2 ? -1.0 : 1.0, some(random), k % 4 < 2 ? 1.0 : -1.0};
        const School school = schools[random() % std::size(schools)];
        INFO("case " << k << ", shape " << k % shapes << ", " << survey::school_name(school) << ", side "
                     << boat.side);
        hull::FitOptions options;
        // Where no instrument tells, it is said what the surface is; a hull's side needs no saying.
        if (boat.shape == Shape::deckhead) options.part = SurfacePart::deckhead;
        if (boat.shape == Shape::transom) options.part = SurfacePart::transom;
        if (boat.shape == Shape::bulkhead_face) {
            options.part = SurfacePart::bulkhead;
            options.elsewhere = Vec3(2000 + boat.facing * 900, 0, 500);
        }
        wrong += !right(inside_of(survey_of(boat, school, random), options), boat);
        CHECK(wrong == 0);
    }
}

TEST_CASE("instruments tell the inside of what nobody named", "[inside]") {
    std::mt19937 random(3);
    for (int k = 0; k < 2 * shapes; ++k) {
        const Boat boat{static_cast<Shape>(k % shapes), k < shapes ? 1.0 : -1.0, 0.8, k % 2 ? 1.0 : -1.0};
        INFO("shape " << k % shapes);
        const auto inside = inside_of(survey_of(boat, School::ordinates, random), {});
        CHECK(right(inside, boat));
        CHECK(inside.from == Inside::From::instrument);
        CHECK(inside.against.empty());
    }
}

TEST_CASE("a deck's camber tells that the boat is below it, a bottom's hollow that she is above", "[inside]") {
    std::mt19937 random(4);
    const Boat deck{Shape::deckhead, 1, 1, 1};
    const auto inside = inside_of(survey_of(deck, School::direct, random), {});
    CHECK(right(inside, deck));
    auto bottom = survey_of(deck, School::direct, random);
    for (auto& set : bottom)
        for (auto& r : set.readings) r.values[2] = -r.values[2];
    CHECK(inside_of(bottom, {}).toward.z() > 0.5);
}

TEST_CASE("a scan's viewpoint and a pattern's named marks stand inside", "[inside]") {
    std::mt19937 random(5);
    const Boat face{Shape::bulkhead_face, -1, 1, -1};
    auto scan = survey_of(face, School::scan, random);
    for (auto& set : scan) set.stood = Vec3(1200, -600, 700);
    CHECK(inside_of(scan, {}).from == Inside::From::instrument);
    CHECK(right(inside_of(scan, {}), face));
    const Boat deck{Shape::deckhead, -1, 0, 1};
    auto pattern = survey_of(deck, School::strip_pattern, random);
    for (auto& set : pattern) {
        set.readings.push_back(set.readings[4]);
        set.readings.back().values[1] -= 400;
        set.readings.back().mark = "divider";
    }
    CHECK(right(inside_of(pattern, {}), deck));
}

TEST_CASE("a set whose line was entered on the other side of the hull is named", "[inside]") {
    std::mt19937 random(6);
    const Boat boat{Shape::hollow_flare, -1, 1, 1};
    auto sets = survey_of(boat, School::ordinates, random);
    for (auto& r : sets[2].readings) r.values[1] += -2 * r.values[1];
    sets[2].origin.y() -= 1000;  // the same places, as if read from outside
    const auto inside = inside_of(sets, {});
    CHECK(right(inside, boat));
    CHECK(inside.against == std::vector<int>{2});
}

TEST_CASE("a person's word turns the inside round, whatever the instruments say", "[inside]") {
    std::mt19937 random(7);
    for (int k = 0; k < shapes; ++k) {
        const Boat boat{static_cast<Shape>(k), 1, 0.9, 1};
        const auto sets = survey_of(boat, School::ordinates, random);
        hull::FitOptions options;
        options.find_slips = false;
        const auto points = survey::points_of(sets, "hull");
        const auto fit = hull::fit_surface(*points, options);
        REQUIRE(fit.ok());
        options.inside = hull::point_beyond(fit->surface, *points);
        const auto turned = hull::fit_surface(*points, options);
        REQUIRE(turned.ok());
        INFO("shape " << k);
        CHECK(turned->report.inside.from == Inside::From::said);
        CHECK(turned->surface.data().outward == -fit->surface.data().outward);
    }
}

TEST_CASE("which side is told in the boat's words", "[inside]") {
    CHECK(hull::direction_words(Vec3(0, 1, 0)) == "to port of it");
    CHECK(hull::direction_words(Vec3(0, -0.8, 0.6)) == "to starboard of it and above it");
    CHECK(hull::direction_words(Vec3(-1, 0, 0)) == "aft of it");
    CHECK(hull::direction_words(Vec3::Zero()) == "all round");
}
