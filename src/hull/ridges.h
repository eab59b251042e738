// Chines that nobody entered: where the readings' residuals show that the surface wants to kink.
#pragma once

#include <optional>
#include <span>
#include <vector>

#include "hull/fit.h"

namespace bevelsmith::hull {

/// A line along which a kink would explain the residuals.
struct Ridge {
    std::vector<Vec3> line;  ///< points of the kinked surface along it (mm), in rising s
    double kink_deg = 0;     ///< by how much the surface turns there: positive where it stands out like a chine
    double strength = 0;     ///< the kink over its standard deviation
};

/// Fewest standard deviations, and fewest degrees, for a kink to be proposed: there are some hundreds of lines to
/// choose from, so that less turns up by chance (measured on fair hulls; see tests/ridges_test.cpp).
inline constexpr double ridge_strength = 4.5;
inline constexpr double ridge_kink_deg = 6;

/// The strongest ridge that runs along s, when it is strong enough to propose. Straight lines across the chart are
/// tried on the residuals of a stiff fit, which may bend anew for each: with r the residuals, f the kink's shape
/// |v - line| and S the smoother, the kink is r'W(f - Sf) / f'W(f - Sf), and its variance the inverse of the
/// denominator (derived). The few best are moved and bent until they explain most, then until a fit with them as hard
/// lines leaves least, and the kink is read off those surfaces.
/// None on closed charts, where there are hard lines already, or fewer than 40 readings. Takes some tenths of a
/// second.
std::optional<Ridge> find_ridge(const FittedSurface& fit, std::span<const survey::Point> points,
                                const FitOptions& options);

}  // namespace bevelsmith::hull
