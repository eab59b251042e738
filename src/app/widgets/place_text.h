// A place typed on one line: three lengths with commas between.
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

}  // namespace bevelsmith::app
