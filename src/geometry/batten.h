// The line that a batten takes between pins.
#pragma once

#include <vector>

#include "geometry/vec.h"

namespace bevelsmith::geometry {

/// The natural cubic spline through pins over the length of their chords, in 24 chords between neighbours: what a
/// thin batten does where it bends gently (the usual model of a draughtsman's spline; from memory of C. de Boor, A
/// Practical Guide to Splines). Fewer than three pins are joined straight.
std::vector<Vec2> batten(const std::vector<Vec2>& pins);

}  // namespace bevelsmith::geometry
