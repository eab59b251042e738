// Lengths, masses and angles as people write them. Factors: NIST SP 811 (1 in = 25.4 mm, 1 lb = 0.45359237 kg).
#include <catch2/catch.hpp>
#include <cmath>
#include <cstdio>
#include <limits>
#include <random>

#include "support/jobs.h"
#include "units/places.h"
#include "units/quantity.h"

using namespace bevelsmith::units;

namespace {

double mm(const char* text, LengthUnit plain = LengthUnit::millimetre) {
    const auto value = parse_length_mm(text, plain);
    INFO(text << ": " << (value.ok() ? "" : value.error().message));
    REQUIRE(value.ok());
    return *value;
}

std::string fault(const char* text, LengthUnit plain = LengthUnit::millimetre) {
    const auto value = parse_length_mm(text, plain);
    INFO(text);
    REQUIRE_FALSE(value.ok());
    return value.error().message;
}

constexpr LengthUnit all_units[] = {LengthUnit::millimetre,
                                    LengthUnit::centimetre,
                                    LengthUnit::metre,
                                    LengthUnit::inch,
                                    LengthUnit::feet_inches,
                                    LengthUnit::inch_sixteenths,
                                    LengthUnit::inch_thirty_seconds};
static_assert(std::size(all_units) == length_unit_count);

}  // namespace

TEST_CASE("a length that says its unit is the same whatever plain numbers are in", "[units]") {
    for (LengthUnit plain : all_units) {
        CHECK(parse_length_mm("792 mm", plain).value() == 792);
        CHECK(parse_length_mm("41cm", plain).value() == 410);
        CHECK(parse_length_mm("0.41 m", plain).value() == Approx(410).epsilon(1e-15));
        CHECK(parse_length_mm("7 3/16 in", plain).value() == Approx(25.4 * (7 + 3.0 / 16)).epsilon(1e-15));
        CHECK(parse_length_mm("2 ft 7 in", plain).value() == Approx(25.4 * 31).epsilon(1e-15));
    }
    // And a plain one is in that.
    const double mm_of_one[] = {1, 10, 1000, 25.4, 25.4, 25.4, 25.4};
    for (std::size_t k = 0; k < std::size(all_units); ++k)
        CHECK(parse_length_mm("1", all_units[k]).value() == Approx(mm_of_one[k]).epsilon(1e-15));
}

TEST_CASE("metric lengths", "[units]") {
    CHECK(mm("792") == 792);
    CHECK(mm("792 mm") == 792);
    CHECK(mm("41cm") == 410);
    CHECK(mm("0.41 m") == Approx(410).epsilon(1e-15));
    CHECK(mm(" 12.5mm ") == 12.5);
    CHECK(mm("-12") == -12);
    CHECK(mm("+7") == 7);
    CHECK(mm("12,5") == 12.5);
}

TEST_CASE("feet, inches and fractions", "[units]") {
    CHECK(mm("5/16 in") == Approx(25.4 * 5 / 16).epsilon(1e-15));
    CHECK(mm("7 3/16\"") == Approx(25.4 * (7 + 3.0 / 16)).epsilon(1e-15));
    CHECK(mm("2' 7 3/16\"") == Approx(25.4 * (24 + 7 + 3.0 / 16)).epsilon(1e-15));
    CHECK(mm("2 ft 7 in") == Approx(25.4 * 31).epsilon(1e-15));
    CHECK(mm("3'") == Approx(914.4).epsilon(1e-15));
    CHECK(mm("1/2\"") == Approx(12.7).epsilon(1e-15));
    CHECK(mm("2.5 in") == Approx(63.5).epsilon(1e-15));
}

TEST_CASE("typographic quotes, primes and fractions are read as their plain signs", "[units]") {
    CHECK(mm("2\u2032 7\u2033") == Approx(25.4 * 31).epsilon(1e-15));
    CHECK(mm("7\u00BD\u2033") == Approx(25.4 * 7.5).epsilon(1e-15));
    CHECK(mm("\u221212") == -12);
}

TEST_CASE("a plain number is in the user's unit", "[units]") {
    CHECK(mm("41", LengthUnit::centimetre) == 410);
    CHECK(mm("0.41", LengthUnit::metre) == Approx(410).epsilon(1e-15));
    CHECK(mm("2", LengthUnit::inch) == 50.8);
    CHECK(mm("2", LengthUnit::feet_inches) == 50.8);
    CHECK(mm("41 mm", LengthUnit::inch) == 41);
}

TEST_CASE("arithmetic is allowed where a length is", "[units]") {
    CHECK(mm("2*18+3") == 39);
    CHECK(mm("(1/2 in + 3) / 2") == Approx((12.7 + 3) / 2).epsilon(1e-15));
    CHECK(mm("1200 - 2*6") == 1188);
    CHECK(mm("3 * 1 in") == Approx(76.2).epsilon(1e-15));
    CHECK(mm("1 m - 1 cm") == Approx(990).epsilon(1e-15));
    CHECK(mm("-(3+4)") == -7);
}

TEST_CASE("nonsense is refused with a reason", "[units]") {
    CHECK(fault("").find("missing") != std::string::npos);
    for (const char* text :
         {"abc", "12 furlong", "2**3", "(1+2", "1+2)", "1..2", "12 mm mm", "\"", "1e400", "nan", "inf"})
        CHECK_FALSE(fault(text).empty());
    CHECK(fault("1/0").find("zero") != std::string::npos);
    CHECK(fault("2 mm * 3 mm").find("area") != std::string::npos);
    CHECK_FALSE(fault("10 / 2 mm").empty());
}

TEST_CASE("a dash glued between feet and inches is refused, since it reads two ways", "[units]") {
    CHECK_FALSE(parse_length_mm("2'-7\"").ok());
}

TEST_CASE("what is shown exactly reads back to the same double in every unit", "[units]") {
    std::mt19937_64 random(7);
    std::uniform_real_distribution<double> wide(-1e5, 1e5), narrow(-1, 1);
    for (LengthUnit unit : all_units)
        for (int k = 0; k < 2000; ++k) {
            const double value = k % 2 ? wide(random) : narrow(random);
            const auto back = parse_length_mm(format_length_exact(value, unit), unit);
            INFO(format_length_exact(value, unit));
            REQUIRE(back.ok());
            REQUIRE(*back == value);
        }
}

TEST_CASE("sixty-fourths of an inch are written as fractions", "[units]") {
    CHECK(format_length_exact(25.4 * 31, LengthUnit::feet_inches) == "2' 7\"");
    const double value = 25.4 * (31 + 3.0 / 16);
    CHECK(format_length_exact(value, LengthUnit::feet_inches) == "2' 7 3/16\"");
}

TEST_CASE("lengths are shown as a rule shows them", "[units]") {
    CHECK(format_length(1234.56, LengthUnit::millimetre) == "1234.6 mm");
    CHECK(format_length(1234.56, LengthUnit::centimetre) == "123.46 cm");
    CHECK(format_length(1234.56, LengthUnit::metre) == "1.2346 m");
    CHECK(format_length(25.4, LengthUnit::inch) == "1.000 in");
    CHECK(format_length(-0.01, LengthUnit::millimetre) == "0.0 mm");
    CHECK(format_length_number(12, LengthUnit::millimetre) == "12.0");
}

TEST_CASE("masses in kilograms, grams, tonnes, pounds and ounces", "[units]") {
    CHECK(*parse_mass_kg("12") == 12);
    CHECK(*parse_mass_kg("350 g") == Approx(0.35).epsilon(1e-15));
    CHECK(*parse_mass_kg("2.4 t") == Approx(2400).epsilon(1e-15));
    CHECK(*parse_mass_kg("1 lb") == 0.45359237);
    CHECK(*parse_mass_kg("16 oz") == Approx(0.45359237).epsilon(1e-15));
    CHECK(*parse_mass_kg("2", MassUnit::pound) == Approx(2 * 0.45359237).epsilon(1e-15));
    CHECK_FALSE(parse_mass_kg("12 mm").ok());
    CHECK_FALSE(parse_mass_kg("").ok());
    CHECK(format_mass(12.345, MassUnit::kilogram) == "12.35 kg");
}

TEST_CASE("masses and angles shown exactly read back to the same double", "[units]") {
    std::mt19937_64 random(8);
    std::uniform_real_distribution<double> mass(0, 5000), angle(-4, 4);
    for (int k = 0; k < 1000; ++k) {
        const double kg = mass(random), rad = angle(random);
        REQUIRE(*parse_mass_kg(format_mass_exact(kg, MassUnit::pound), MassUnit::pound) == kg);
        REQUIRE(*parse_mass_kg(format_mass_exact(kg, MassUnit::kilogram)) == kg);
        REQUIRE(*parse_angle_rad(format_angle_exact(rad)) == rad);
    }
}

TEST_CASE("angles in degrees, by default, and radians", "[units]") {
    CHECK(*parse_angle_rad("180") == Approx(pi).epsilon(1e-15));
    CHECK(*parse_angle_rad("7.5 deg") == Approx(radians(7.5)).epsilon(1e-15));
    CHECK(*parse_angle_rad("7.5\u00B0") == Approx(radians(7.5)).epsilon(1e-15));
    CHECK(*parse_angle_rad("0.2 rad") == 0.2);
    CHECK_FALSE(parse_angle_rad("steep").ok());
    CHECK(format_angle(radians(4.25)) == "+4.2\u00B0");
    CHECK(format_angle(radians(-4.25)) == "-4.2\u00B0");
    CHECK(format_angle(0) == "0.0\u00B0");
}

TEST_CASE("no text crashes the reader of lengths", "[units]") {
    std::mt19937 random(3);
    const std::string letters = "0123456789.,/'\"+-*() mincftxe\xE2\x80\xB2";
    std::uniform_int_distribution<std::size_t> pick(0, letters.size() - 1), length(0, 14);
    for (int k = 0; k < 20000; ++k) {
        std::string text;
        for (std::size_t n = length(random); n > 0; --n) text += letters[pick(random)];
        const auto value = parse_length_mm(text);
        if (value) REQUIRE(std::isfinite(*value));
        else REQUIRE_FALSE(value.error().message.empty());
    }
}

TEST_CASE("lengths and masses agree with GNU units", "[units]") {
    // Library: the program `units` of the distribution.
    struct Case {
        const char *ours, *theirs, *to;
    };
    const Case lengths[] = {{"2' 7 3/16\"", "2 ft + 7 in + 3|16 in", "mm"},
                            {"5/16 in", "5|16 in", "mm"},
                            {"0.41 m", "0.41 m", "mm"},
                            {"12.5 cm", "12.5 cm", "mm"}};
    const Case masses[] = {
        {"9 oz", "9 oz", "kg"}, {"26.5 lb", "26.5 lb", "kg"}, {"2.4 t", "2.4 tonne", "kg"}, {"350 g", "350 g", "kg"}};
    const auto theirs = [](const Case& c) {
        const std::string command = std::string("units -t -o '%.15g' '") + c.theirs + "' '" + c.to + "'";
        FILE* pipe = popen(command.c_str(), "r");
        REQUIRE(pipe);
        char value[64] = {};
        const int read = std::fscanf(pipe, "%63s", value);
        pclose(pipe);
        REQUIRE(read == 1);
        return jobs::number_in(value);
    };
    for (const Case& c : lengths) CHECK(mm(c.ours) == Approx(theirs(c)).epsilon(1e-12));
    for (const Case& c : masses) CHECK(*parse_mass_kg(c.ours) == Approx(theirs(c)).epsilon(1e-12));
}

TEST_CASE("a field in fractions shows the nearest one with a shade, never decimals, and is read back near it",
          "[units]") {
    using U = LengthUnit;
    CHECK(format_length_field(3, U::inch_sixteenths) == "1/8- in");
    CHECK(format_length_field(830.8, U::inch_sixteenths) == "32 11/16+ in");
    CHECK(format_length_field(12.5 * 25.4, U::inch_sixteenths) == "12 1/2 in");
    CHECK(format_length_field(-12.5 * 25.4, U::inch_sixteenths) == "-12 1/2 in");
    for (double mm : {3.0, 830.8, 19.05, 1000.0, -77.7, 0.4})
        for (U unit : {U::inch_sixteenths, U::inch_thirty_seconds, U::feet_inches}) {
            const auto text = format_length_field(mm, unit);
            INFO(text);
            CHECK(text.find('.') == std::string::npos);
            const auto back = parse_length_mm(text, unit);
            REQUIRE(back.ok());
            CHECK(std::abs(*back - mm) < 25.4 / marks_to_the_inch(unit) / 2);
        }
    CHECK(*parse_length_mm("12 1/2+", U::inch_sixteenths) == Approx((12.5 + 0.375 / 16) * 25.4));
    CHECK(*parse_length_mm("12 1/2-", U::inch_sixteenths) == Approx((12.5 - 0.375 / 16) * 25.4));
    // In millimetres a sign at the end says nothing.
    CHECK_FALSE(parse_length_mm("12+", U::millimetre).ok());
    CHECK(*parse_length_mm("2+3/16 in", U::inch_sixteenths) == Approx((2 + 3.0 / 16) * 25.4));
}

TEST_CASE("a figure of a list that stands as it was shown keeps its value to the last digit", "[units]") {
    const std::vector<double> shown{830.8, 3.0};
    CHECK(*parse_listed_mm(" 32 11/16+ in ", LengthUnit::inch_sixteenths, shown) == 830.8);
    CHECK(*parse_listed_mm("32 in", LengthUnit::inch_sixteenths, shown) == 32 * 25.4);
}

TEST_CASE("places are typed and told by the boat's ways, never by a minus to port", "[units]") {
    using U = LengthUnit;
    CHECK(*parse_length_mm("30 1/4 stbd", U::inch_sixteenths) == Approx(-30.25 * 25.4));
    CHECK(*parse_length_mm("30 1/4 in starboard", U::inch_sixteenths) == Approx(-30.25 * 25.4));
    CHECK(*parse_length_mm("768 to port") == 768);
    CHECK(*parse_length_mm("2*18+3 mm aft") == -39);
    CHECK(*parse_length_mm("12 down") == -12);
    CHECK_FALSE(parse_length_mm("-30 stbd").ok());
    CHECK_FALSE(parse_length_mm("stbd").ok());
    CHECK(format_place_field(-768.35, Way::port, U::inch_sixteenths) == "30 1/4 in stbd");
    CHECK(format_place_field(768.35, Way::port, U::inch_sixteenths) == "30 1/4 in port");
    CHECK(format_place_field(0, Way::port, U::millimetre) == "0.0 mm");
    CHECK(format_place_field(-120, Way::fwd, U::millimetre) == "120.0 mm aft");
    for (double mm : {-768.35, 12.0, 0.0})
        for (Way way : {Way::none, Way::fwd, Way::port, Way::up})
            CHECK(*parse_length_mm(format_place_field(mm, way, U::millimetre)) == Approx(mm).margin(1e-3));
    CHECK(place_in_words(-768.35, Axis::port, U::inch_sixteenths) == "30 1/4 in to starboard");
    CHECK(place_in_words(0, Axis::port, U::millimetre) == "on the centre line");
    CHECK(place_in_words(-20, Axis::up, U::millimetre) == "20.0 mm under the datum");
}
