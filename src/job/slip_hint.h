// What a reading that contradicts the others probably was.
#pragma once

#include <string>

#include "hull/fit.h"
#include "survey/reading.h"

namespace bevelsmith::job {

/// Looks for the number of the reading whose usual slip (survey::guess_slip) would explain its residual: for each
/// number, what it would have to be for the reading to lie on `surface`. Empty when none explains it. The name of
/// the number leads, and all that would explain it are given: "distance: 100 mm misread? 812 would fit; or ...".
std::string slip_hint(const survey::ReadingSet& set, const survey::Reading& reading, const hull::Surface& surface);

}  // namespace bevelsmith::job
