// Numbers of readings as they are typed and shown: lengths in the job's unit, angles in degrees, counts.
#pragma once

#include <QString>

#include "survey/instruments.h"
#include "units/quantity.h"

namespace bevelsmith::app {

/// What was typed for a number of a reading (mm, degrees, a count); an empty text stands for an optional one not
/// taken.
Result<double> parse_number(const survey::Column& column, const QString& text, units::LengthUnit unit);
/// As it is shown in a table; where there is little room without an idle ".0".
QString shown_number(const survey::Column& column, double value, units::LengthUnit unit, bool narrow = false);
/// So that it can be typed again unchanged.
QString exact_number(const survey::Column& column, double value, units::LengthUnit unit);
/// "station, mm"; on two lines where there is little room.
QString column_heading(const survey::Column& column, units::LengthUnit unit, bool narrow = false);

/// Rows of numbers as spreadsheets copy them: tabs, semicolons or spaces between; commas too where no decimal comma
/// is meant. Fails naming the row; a first row of words is passed over.
Result<std::vector<survey::Reading>> readings_from_text(const survey::ReadingSet& set, const QString& text,
                                                        units::LengthUnit unit);

}  // namespace bevelsmith::app
