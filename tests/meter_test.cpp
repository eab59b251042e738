// The laser meter's lines.
#include <catch2/catch.hpp>

#include "survey/meter_line.h"

using namespace bevelsmith::survey;

TEST_CASE("a range comes back from its line", "[meter]") {
    const auto plain = read_meter_line("range 1834.6 #61");
    REQUIRE(plain.ok());
    CHECK(plain->range_mm == 1834.6);
    CHECK_FALSE(plain->turn_deg);
    for (double range : {1.0, 250.25, 59999.9}) {
        std::string line = meter_line({range, 31.25, -12.4});
        REQUIRE(line.back() == '\n');
        line.back() = '\r';
        const auto back = read_meter_line(line);
        REQUIRE(back.ok());
        CHECK(back->range_mm == Approx(range).margin(0.051));
        CHECK(*back->turn_deg == 31.25);
        CHECK(*back->rise_deg == -12.4);
    }
}

TEST_CASE("one wrong character anywhere is noticed", "[meter]") {
    std::string line = meter_line({1834.6, 31.25, -12.4});
    line.pop_back();
    for (std::size_t k = 0; k < line.size(); ++k) {
        std::string wrong = line;
        wrong[k] = wrong[k] == '7' ? '3' : '7';
        CHECK_FALSE(read_meter_line(wrong).ok());
    }
    for (const char* garbage : {"", "#", " #", "\xff\xfe\x01", "range", "range #d3", "range x #6b"})
        CHECK_FALSE(read_meter_line(garbage).ok());
}

TEST_CASE("a meter that could not measure says why", "[meter]") {
    std::string line = meter_refusal("target too dark");
    line.pop_back();
    CHECK(read_meter_line(line).error().message == "the meter could not measure: target too dark");
    std::string none = meter_line({0, {}, {}});
    none.pop_back();
    CHECK(read_meter_line(none).error().message.find("cannot be") != std::string::npos);
}

TEST_CASE("a measurement fits the schools that its numbers are of", "[meter]") {
    for (int k = 0; k < school_count; ++k) {
        const auto school = static_cast<School>(k);
        const auto of_shot = school_it_fits({1200, 10.0, 5.0}, school),
                   of_range = school_it_fits({1200, {}, {}}, school);
        CHECK(of_shot.has_value() == (school != School::laser_meter));
        if (of_shot) CHECK(*of_shot == School::laser_meter);
        CHECK(of_range.has_value() == (school == School::scan || school == School::mirrored));
    }
}
