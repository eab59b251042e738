// From points with uncertainty to a surface: chart, weights, smoothing, scatter, wrong readings.
#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "hull/inside.h"
#include "hull/surface.h"
#include "survey/points.h"
#include "units/result.h"
#include "units/stop.h"

namespace bevelsmith::hull {

/// An error that all readings of a set share: one standard deviation of p becomes p + turn x p + move. Those of a set
/// are independent of each other.
struct SharedError {
    int set = 0;
    survey::SmallMove by;
    bool operator==(const SharedError&) const = default;
};

enum class ChartChoice { automatic, axis, plane };

struct FitOptions {
    ChartChoice chart = ChartChoice::automatic;
    /// A point inside the boat, by which outward is told; by default it is told by `judge_inside`.
    std::optional<Vec3> inside;
    SurfacePart part = SurfacePart::hull;
    std::optional<Vec3> elsewhere;  ///< the middle of what was measured on other surfaces
    InsideRule rule() const { return {inside, part, elsewhere}; }
    /// Knot intervals along s and v; 0 chooses by the number and spread of the readings.
    int intervals_s = 0, intervals_v = 0;
    /// Whether readings that do not fit are found and left out.
    bool find_slips = true;
    /// Chines and other lines at which the surface may kink, each as points along it (mm).
    std::vector<std::vector<Vec3>> hard_lines;
    /// Angles read at spots: they say how the surface is turned there.
    std::vector<survey::FeltBevel> bevels;
    /// Root mean square of the residuals that the smoothing is set to; by itself (REML) when absent.
    std::optional<double> allowed_residual_mm;
    /// How sets, as a whole, may lie elsewhere than they were placed: it is in the surface's uncertainty.
    std::vector<SharedError> shared_errors;
    bool operator==(const FitOptions&) const = default;
};

/// How one reading fits. The residual is along the surface's normal, positive when the reading lies outside of
/// the surface fitted to the others that count.
struct ReadingFit {
    double residual_mm = 0;
    double studentised = 0;    ///< residual over its own standard deviation had the reading been left out
    double detectable_mm = 0;  ///< a slip of this size would be noticed here (4.8 standard deviations)
    bool suspect = false;      ///< left out of the fit
};

struct FitReport {
    double rms_mm = 0;  ///< of the readings that count
    double max_mm = 0;
    /// How far the readings scatter against what was declared: 1 as declared, 2 twice as much.
    double scatter = 1;
    double log10_smoothing_s = 0, log10_smoothing_v = 0;
    int coefficients = 0;
    Inside inside;
    std::vector<ReadingFit> readings;   ///< in the order of the points given
    std::vector<double> bevel_off_deg;  ///< felt bevels less the surface's, in the order given
    std::vector<int> stray_sets;        ///< sets left out as a whole (`fit_sets`)
    std::vector<std::string> warnings;  ///< plain sentences
    int suspects() const;
};

struct FittedSurface {
    Surface surface;
    FitReport report;
};

/// Fewest readings that are tried.
inline constexpr int fewest_readings = 12;

/// Why readings are not enough for a surface yet, in plain words; empty where they may be: fewer than 12, at one
/// place, on one line, on two stations. The survey goes on then, and nothing is wrong.
std::optional<Error> too_few_yet(std::span<const survey::Point> points);

/// Fits a surface to `points`.
///
/// Fails, with the reason in plain words, when there are fewer than 12 points, when they lie on one or two
/// stations only, so that the shape between them is anyone's guess, or when the surface folds over in the
/// chart. Deterministic. Time grows with the points times 256 and with the coefficients times the square of
/// their shorter side. Throws Stopped when `keep_going` says no.
Result<FittedSurface> fit_surface(std::span<const survey::Point> points, const FitOptions& options = {},
                                  const KeepGoing& keep_going = {});

}  // namespace bevelsmith::hull
