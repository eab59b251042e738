// A piece cut as the program says, tried in the virtual boat as she is.
#pragma once

#include <functional>
#include <optional>
#include <vector>

#include "piece/fit_reading.h"
#include "piece/outline.h"
#include "practice/instruments.h"

namespace bevelsmith::practice {

/// One place of the piece's scribed edge, held in its plane.
struct GapMark {
    Vec2 at{0, 0};      ///< on face A's outline (drawing, mm)
    double arc_mm = 0;  ///< along the edge
    double gap_mm = 0;  ///< beyond the gap that was asked for: positive daylight, negative it fouls
};

struct Trial {
    std::vector<GapMark> gaps;
    double widest_mm = 0;   ///< most daylight
    double fouling_mm = 0;  ///< most that it stands into the hull, as a positive number
    double rms_mm = 0;
    double largest_mm = 0;  ///< of both
    int trips = 1;          ///< to the boat until it fits
};

/// Offers the piece up where it belongs. Trips: one when the edge keeps to `wanted_mm`; each trip more, with marking,
/// shaving and trying again, halves what is wrong (common practice: a demanding panel takes many).
Trial offer_up(const piece::Outline& outline, const VirtualBoat& boat, double wanted_mm);

/// What a feeler tells along the scribed edges of a piece that stands where it belongs: daylight each `step_mm` and
/// at the ends, square to the hull, off by the feeler's `hand` and read to a tenth of a millimetre.
std::vector<piece::FitReading> gaps_felt(const piece::Outline& outline, const VirtualBoat& boat, double step_mm,
                                         Hand& hand);

/// What can be reached with so many readings by a practised hand, who reads the line of a chine as well.
struct BestPossible {
    double largest_mm = 0;  ///< mean of the largest misfit along the edge over some tries
    double along_edge = 0;  ///< share of the readings along the edge itself
};
/// Some of `readings` readings of `sigma_mm` are taken along the piece's edge with both ends, the rest on sections
/// to either side of it; several shares are tried with a few seeds each, and the best mean counts. Empty where so
/// many readings do not make a surface or `keep_going`, asked now and then, says no. Takes some tenths of a second.
/// Precondition: the piece stands across the boat, more or less.
std::optional<BestPossible> best_possible(const piece::Outline& outline, const VirtualBoat& boat, int readings,
                                          double sigma_mm, const std::function<bool()>& keep_going = {});

/// 100 for as good as the best, 50 for twice as far off; what needs a second trip is worth 60 at most, however hard
/// the hull. Precondition: both positive.
double score(double best_mm, double reached_mm, int trips);

}  // namespace bevelsmith::practice
