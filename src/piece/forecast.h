// How well a piece will fit before it is cut, and which readings would make it fit better.
#pragma once

#include <string>
#include <vector>

#include "hull/knowledge.h"
#include "piece/outline.h"

namespace bevelsmith::piece {

struct ForecastOptions {
    int suggestions = 3;
    double reading_sigma_mm = 1.5;  ///< of a reading yet to be taken
    bool operator==(const ForecastOptions&) const = default;
};

struct Forecast {
    hull::FitForecast now;   ///< as the surfaces are known
    hull::FitForecast then;  ///< with the suggested readings as well
    double worst_mm = 0;     ///< largest standard deviation along the kept edge
    double worst_bevel_rad = 0;
    std::string surface_id;                     ///< where the suggestions lie: the surface that is known worst
    std::vector<hull::Suggestion> suggestions;  ///< the most useful first; none where little would be gained
};

/// The fit along the scribed edges that the outline keeps: the piece is cut to the surface as it is known, so that
/// its error is the surface's. Cutting and placing it come on top. Limit: the piece's wanted fit.
Forecast forecast(const PieceSpec& spec, const Outline& outline, const SurfaceLookup& surfaces,
                  const ForecastOptions& options = {});

}  // namespace bevelsmith::piece
