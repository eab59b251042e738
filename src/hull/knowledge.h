// What is known about a whole edge at once, how well a piece cut to it will fit, and where one more reading helps
// most.
//
// The posterior covariance of the spline's coefficients, (X'WX + P)^-1, holds how the errors of neighbouring places
// hang together. A reading that has not been taken yet changes it in a known way, whatever its value will be.
#pragma once

#include <functional>
#include <span>
#include <vector>

#include "hull/surface.h"

namespace bevelsmith::hull {

/// Joint covariance of the surface's errors at several places, along its normal (mm²).
class Knowledge {
  public:
    Knowledge(const Surface& surface, std::span<const Place> places);

    const Eigen::MatrixXd& covariance_mm2() const { return covariance_; }
    double sigma_mm(Eigen::Index place) const { return std::sqrt(std::max(0.0, covariance_(place, place))); }
    /// What would be known with one more reading at `place` that errs by `sigma_mm` along the normal.
    void take_reading(Eigen::Index place, double sigma_mm);

  private:
    Eigen::MatrixXd covariance_;
};

/// How a piece cut to the surface as it is known will fit along its edge.
struct FitForecast {
    double expected_largest_mm = 0;  ///< mean of the largest error along the edge, either way
    double likely_largest_mm = 0;    ///< exceeded by one cut in twenty
    double chance_within = 1;        ///< that the error stays within the limit along the whole edge
};
/// From the joint covariance along the edge, by 1000 draws with a fixed seed (standard error of a chance: 0.016).
FitForecast forecast_fit(const Eigen::MatrixXd& covariance_mm2, double limit_mm);

/// A reading that would help.
struct Suggestion {
    Place place;
    Vec3 position;         ///< on the surface as it is known now (mm)
    double before_mm = 0;  ///< standard deviation at the place now
    double worst_mm = 0;   ///< largest standard deviation along the edge once this reading and those before it are in
};

struct SuggestionOptions {
    int how_many = 3;
    double sigma_mm = 1.5;  ///< of a reading, along the normal
    /// Whether a place can be reached with an instrument; everywhere when empty.
    std::function<bool(const Place&)> reachable;
};

/// Where readings lower the uncertainty along `edge` most: the sum of the sixth powers of the standard deviations is
/// made small, one reading after the other and then by exchanging each against all other places. (The largest alone
/// would be short-sighted.) Candidates are the edge itself and a grid over the patch and a little beyond its rim.
/// No place is named twice; fewer are returned when fewer places can be reached.
std::vector<Suggestion> suggest_readings(const Surface& surface, std::span<const Place> edge,
                                         const SuggestionOptions& options);

/// What is known of the whole surveyed patch, and where readings would tell most about it.
struct PatchNext {
    double worst_mm = 0;  ///< largest standard deviation within the readings' outline
    std::vector<Suggestion> suggestions;
};
PatchNext next_over_patch(const Surface& surface, const SuggestionOptions& options);

/// At most `most` of the places, evenly.
std::vector<Place> thinned(std::span<const Place> places, std::size_t most);

}  // namespace bevelsmith::hull
