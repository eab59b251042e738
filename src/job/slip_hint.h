// What a reading that contradicts the others probably was.
#pragma once

#include <string>

#include "hull/fit.h"
#include "survey/reading.h"

namespace bevelsmith::job {

/// Looks for the number of the reading whose usual slip (survey::guess_slip) would explain its residual: for each
/// number, what it would have to be for the reading to lie on `surface`. Empty when none explains it. The name of
/// the number leads, and all that would explain it are given: "distance: 100 mm misread? 812 would fit; or ...".
/// `inches`: it was read off a rule in inches.
std::string slip_hint(const survey::ReadingSet& set, const survey::Reading& reading, const hull::Surface& surface,
                      bool inches = false);

/// What is wrong with reading `reading` of `set`, which lies `residual_mm` outside of the surface (inside where that
/// is negative), in the set's own terms: "reading 7 (along 300 mm, distance 864 mm): the distance is 50 mm too
/// large"; where no one number is to blame "... lies 36 mm outside". `set` is in the boat's frame.
std::string suspect_words(const survey::ReadingSet& set, int reading, double residual_mm,
                          const hull::Surface& surface);

}  // namespace bevelsmith::job
