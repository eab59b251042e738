// What a laser meter and the program say to each other, line by line (docs/meter-protocol.md).
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "survey/reading.h"
#include "units/result.h"

namespace bevelsmith::survey {

/// One measurement as a meter sends it.
struct MeterReading {
    double range_mm = 0;
    /// From where the meter first looked, to the left; and above level. Only of meters that know it (degrees).
    std::optional<double> turn_deg, rise_deg;
};

/// The school of sets that a measurement fits, where it does not fit those of `school`: one that knows its angles is
/// a shot from a stand point, a bare distance is no point of a scan and is not mirrored. Empty where it fits.
std::optional<School> school_it_fits(const MeterReading& measured, School school);

/// The request for one measurement, with its line end.
inline constexpr std::string_view meter_request = "measure\n";

/// Reads a line without its end. Fails on what is no measurement: a damaged line (its check does not agree), one of
/// another kind, and a measurement that the meter itself could not take, with what it said.
Result<MeterReading> read_meter_line(std::string_view line);
/// The line for a measurement, with its end.
std::string meter_line(const MeterReading& reading);
/// The line with which a meter says that it could not measure, with its end.
std::string meter_refusal(std::string_view why);

}  // namespace bevelsmith::survey
