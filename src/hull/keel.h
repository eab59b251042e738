// Whether a bottom that was read on both sides of the centre line turns at a keel that nobody read.
#pragma once

#include <optional>
#include <span>

#include "hull/fit.h"

namespace bevelsmith::hull {

/// No reading lies near the centre line, and the section bends there far more than it does beside it: between the
/// readings a smooth surface rounds off what may be a corner.
struct KeelUnread {
    double x_mm = 0;                       ///< where it was looked at
    double port_mm = 0, starboard_mm = 0;  ///< how far off the centre line the nearest readings lie
    double turn_deg = 0;                   ///< of the bottom from side to side
    double lower_mm = 0;                   ///< by which both sides, carried on straight, meet below the surface
};

/// Readings nearer to the centre line than this are the keel's own.
inline constexpr double near_keel_mm = 60;

/// `points` are the fit's, in its order; the boat's centre line is y = 0. Nothing where there is a reading near it
/// (those along a line that was entered count), where one side was not read, or where the section is as round beside
/// it. Compares the chords from the nearest readings to the next farther out, and on to the next: common practice has
/// no figure for it; three times the bend and 12 degrees (`ridge_kink_deg`) are ours.
std::optional<KeelUnread> keel_unread(const FittedSurface& fit, std::span<const survey::Point> points);

}  // namespace bevelsmith::hull
