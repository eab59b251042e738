// Why a set of readings as a whole does not lie where the others do.
#pragma once

#include <string>

#include "hull/surface.h"
#include "survey/reading.h"

namespace bevelsmith::job {

/// The likely cause in a few words, by which change of the set brings it onto `surface`: "it lies there when it is
/// mirrored to the other side", "it lies 300 mm too far to port"; where none does, "it has not been placed, or it is
/// not of this surface". `set` is in the boat's frame.
std::string stray_cause(const survey::ReadingSet& set, const hull::Surface& surface);

}  // namespace bevelsmith::job
