// Two wrong readings side by side: each bears the other out, so that neither is doubted alone.
#pragma once

#include <optional>

#include "hull/fit_stages.h"

namespace bevelsmith::hull {

struct SlipPair {
    int first = -1, second = -1;
    double strength =
        0;  ///< how far both are off, squared standard deviations: e' V^-1 e of their left-out residuals
    Smoothing smoothing;  ///< of the fit without them
};

/// The two neighbouring readings that the others contradict most: each of the pair must lie more than `threshold`
/// standard deviations off a fit without both, and more than its `least_slip_m`. Pairs are first weighed at the
/// smoothing given and at a stiffer one, where leaving both out is a matter of 2 by 2 matrices; the best are then
/// fitted without. Readings are left as they were.
std::optional<SlipPair> worst_pair(Smoother& smoother, const Smoothing& smoothing, const ChartData& data,
                                   const Eigen::VectorXd& own_weight, const Eigen::VectorXd& least_slip_m,
                                   double threshold);

/// Stiffer than `smoothing` and than is usual: a slip bends a loose fit towards itself.
Smoothing stiff(const Smoother& smoother, const Smoothing& smoothing);
/// The readings that count with the largest |t|, at most `how_many`.
std::vector<int> largest_indices(const Eigen::VectorXd& t, const Eigen::VectorXd& weight, int how_many);

}  // namespace bevelsmith::hull
