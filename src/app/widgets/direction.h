// Directions of the boat in words, for choices.
#pragma once

#include <QStringList>

#include "geometry/vec.h"

namespace bevelsmith::app {

/// forward, aft, port, starboard, up, down: 0 to 5.
Vec3 direction(int choice);
/// The choice that stands for `d`; 6 when it lies along none of the boat's axes.
int direction_choice(const Vec3& d);
/// The six words, and a seventh when `d` lies along none of them.
QStringList direction_words(const Vec3& d);

}  // namespace bevelsmith::app
