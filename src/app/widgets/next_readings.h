// Where to measure next: for the chosen piece, or over the whole surface where no piece asks for more.
#pragma once

#include <optional>

#include "app/document/document.h"

namespace bevelsmith::app {

struct NextReadings {
    QString about;        ///< "B1", or the surface's name
    double worst_mm = 0;  ///< standard deviation now, where it is largest
    std::vector<hull::Suggestion> spots;
    std::string surface_id;
};

/// The spots, or none where all of them together lower the worst place by less than a third of a millimetre or a
/// tenth.
std::vector<hull::Suggestion> worth_the_trip(std::vector<hull::Suggestion> spots, double worst_now_mm);

/// `surface_id`: the surface that is being measured, looked at when no piece is chosen. Empty where nothing is
/// proposed.
std::optional<NextReadings> next_readings(const Document& document, const std::string& surface_id);

}  // namespace bevelsmith::app
