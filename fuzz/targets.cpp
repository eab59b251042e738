#include "targets.h"

#include <cmath>
#include <cstdlib>
#include <string>
#include <string_view>

#include "exchange/cloud_file.h"
#include "exchange/dxf_outlines.h"
#include "exchange/parts_json.h"
#include "exchange/points_csv.h"
#include "exchange/table_text.h"
#include "job/job_file.h"
#include "survey/meter_line.h"
#include "units/quantity.h"
#include "units/ranges.h"

namespace bevelsmith::fuzz {
namespace {

std::string_view text_of(const std::uint8_t* data, std::size_t size) {
    return {reinterpret_cast<const char*>(data), size};
}

/// A promise of the interface that does not hold.
void promise(bool kept) {
    if (!kept) std::abort();
}

/// An error says something, in a line.
void promise_words(const Error& error) {
    promise(!error.message.empty() && error.line >= 0 && error.message.find('\n') == std::string::npos);
}

void promise_places(const survey::Cloud& cloud) {
    for (const Vec3& p : cloud)
        for (double value : {p.x(), p.y(), p.z()}) promise(units::range::place.holds(value));
}

}  // namespace

int job(const std::uint8_t* data, std::size_t size) {
    const auto read = job::job_from_text(text_of(data, size));
    if (!read) {
        promise_words(read.error());
        return 0;
    }
    const std::string written = job::job_to_text(*read);
    const auto again = job::job_from_text(written);
    promise(again.ok() && *again == *read);
    return 0;
}

int readings(const std::uint8_t* data, std::size_t size) {
    const auto points = exchange::points_from_csv(text_of(data, size));
    if (!points) {
        promise_words(points.error());
        return 0;
    }
    for (const auto& p : *points)
        promise(units::range::sigma.holds(p.sigma_mm) && units::range::place.holds(p.position.x()));
    return 0;
}

int tables(const std::uint8_t* data, std::size_t size) {
    if (size == 0) return 0;
    const int choice = data[0];
    const std::string_view text = text_of(data + 1, size - 1);
    if (exchange::fault_in_lines(text)) return 0;
    const exchange::TextTable table(text);
    exchange::ReadingColumns columns;
    const int most = static_cast<int>(table.columns());
    if (most == 0) return 0;
    columns.values = {choice % most, (choice / 3) % most, (choice / 7) % most};
    columns.sigma = choice & 1 ? (choice / 2) % most : -1;
    columns.note = choice & 2 ? (choice / 5) % most : -1;
    columns.length_unit_mm = choice & 4 ? 25.4 : 1;
    const auto readings = exchange::readings_from(table, columns);
    if (!readings) promise(!readings.error().message.empty());
    else
        for (const auto& r : *readings)
            for (double value : r.values) promise(units::range::place.holds(value));
    return 0;
}

int xyz(const std::uint8_t* data, std::size_t size) {
    const auto cloud = exchange::cloud_from_text(text_of(data, size));
    if (cloud) promise_places(*cloud);
    else promise_words(cloud.error());
    return 0;
}

int ply(const std::uint8_t* data, std::size_t size) {
    const std::string text = "ply\n" + std::string(text_of(data, size));
    const auto cloud = exchange::cloud_from_text(text);
    if (cloud) promise_places(*cloud);
    else promise_words(cloud.error());
    return 0;
}

int parts(const std::uint8_t* data, std::size_t size) {
    const auto problem = exchange::problem_from_json(text_of(data, size));
    if (!problem) promise_words(problem.error());
    else promise(sheets::fault_of(*problem).empty());
    return 0;
}

int dxf(const std::uint8_t* data, std::size_t size) {
    const auto read = exchange::read_dxf_outlines(text_of(data, size));
    if (!read) {
        promise_words(read.error());
        return 0;
    }
    for (const auto& layer : exchange::layers_of(*read))
        for (const auto& shape : exchange::shapes_on(*read, layer, "0")) {
            promise(geometry::area_mm2(shape.outer) > 0);
            for (const Vec2& p : shape.outer)
                promise(units::range::place.holds(p.x()) && units::range::place.holds(p.y()));
        }
    return 0;
}

int lengths(const std::uint8_t* data, std::size_t size) {
    using units::LengthUnit;
    const std::string_view text = text_of(data, size);
    for (auto unit : {LengthUnit::millimetre, LengthUnit::centimetre, LengthUnit::metre, LengthUnit::inch,
                      LengthUnit::feet_inches}) {
        const auto mm = units::parse_length_mm(text, unit);
        if (!mm) {
            promise(!mm.error().message.empty());
            continue;
        }
        promise(std::isfinite(*mm));
        const auto again = units::parse_length_mm(units::format_length_exact(*mm, unit), unit);
        promise(again.ok() && *again == *mm);
        (void)units::format_length(*mm, unit);
    }
    for (auto unit : {units::MassUnit::kilogram, units::MassUnit::pound})
        if (const auto kg = units::parse_mass_kg(text, unit)) promise(std::isfinite(*kg));
    if (const auto angle = units::parse_angle_rad(text)) promise(std::isfinite(*angle));
    return 0;
}

int meter(const std::uint8_t* data, std::size_t size) {
    const auto reading = survey::read_meter_line(text_of(data, size));
    if (!reading) {
        promise(!reading.error().message.empty());
        return 0;
    }
    promise(units::range::meter_range.holds(reading->range_mm));
    return 0;
}

}  // namespace bevelsmith::fuzz
