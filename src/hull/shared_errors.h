// What a surface may be off because whole sets may lie elsewhere than they were placed.
#pragma once

#include <span>

#include "hull/fit_rounds.h"

namespace bevelsmith::hull {

/// How far the coefficients move (m) with each of the errors, to first order: its readings' heights change by the
/// move's part along the normal over the normal's along the height (derived), and the solution is linear in them. No
/// columns where there are no errors. `near` is the fitted surface.
Eigen::MatrixXd shared_doubt(const FitRounds& rounds, const Solution& solution, const Surface& near,
                             std::span<const SharedError> errors);

}  // namespace bevelsmith::hull
