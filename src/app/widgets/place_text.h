// Places and lists of lengths typed on one line: between two stands a semicolon, or a comma with a space after it. A
// comma between digits is a decimal's.
#pragma once

#include <QString>
#include <vector>

#include "geometry/vec.h"
#include "units/quantity.h"
#include "units/result.h"

namespace bevelsmith::app {

/// In the boat the three are told by their ways (fwd, port, up); in another frame they are plain numbers.
enum class PlaceIn { boat, own_frame };

QString place_words(const Vec3& place, units::LengthUnit unit, PlaceIn frame = PlaceIn::boat);
/// Reads it again: a figure that stands there as it was shown keeps its value (one of `before`) to the last digit.
/// Fails where they are not three lengths in units::range::place.
Result<Vec3> place_in(const QString& text, units::LengthUnit unit, const std::vector<Vec3>& before,
                      PlaceIn frame = PlaceIn::boat);

/// Lengths of a list: "100.0 mm; 200.0 mm". Read again likewise.
QString lengths_words(const std::vector<double>& lengths_mm, units::LengthUnit unit);
Result<std::vector<double>> lengths_in(const QString& text, units::LengthUnit unit,
                                       const std::vector<double>& before_mm);

}  // namespace bevelsmith::app
