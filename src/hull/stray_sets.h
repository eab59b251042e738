// Sets of readings that as a whole do not lie where the others do: wrong place, side or frame, or not placed yet.
#pragma once

#include <span>

#include "hull/fit.h"

namespace bevelsmith::hull {

/// Fits as `fit_surface` does, but a set (by Point::set) that as a whole contradicts the others is left out as a
/// whole, so that it cannot drag the surface with it: FitReport::stray_sets names it, its readings are suspects.
/// A set strays when the surface through the others misses half of its readings by more than 15 mm and six times
/// their uncertainty together with its own, or when it alone lies on the other side of the centre line. At most
/// three sets are left out, and never so many readings that the rest make no surface. A bump that follows a stray set
/// looks sound, so each set in turn is held against a plain fit of the others in the same chart; scans, of which a
/// good part is strays anyway, are not, nor is any where that would take more than 50 000 readings fitted.
Result<FittedSurface> fit_sets(std::span<const survey::Point> points, const FitOptions& options = {},
                               const KeepGoing& keep_going = {});

}  // namespace bevelsmith::hull
