// Where something is in the boat, as a fitter says it: to starboard, abaft, under; never by a minus sign.
#pragma once

#include <string>
#include <string_view>

#include "units/quantity.h"

namespace bevelsmith::units {

/// Along the boat's axes: forward (+) or abaft (-) the datum, to port or to starboard, over or under the datum.
enum class Axis { fwd, port, up };

/// "30 1/4 in to starboard", "1200.0 mm forward of the datum", "12.0 mm under the datum"; "on the centre line", "at
/// the datum".
std::string place_in_words(double mm, Axis axis, LengthUnit unit);

/// The way of the boat that a vector goes most: "forward", "aft", "to port", "to starboard", "up", "down".
std::string_view way_in_words(double fwd, double port, double up);

}  // namespace bevelsmith::units
