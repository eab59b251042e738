// The rounds of a fit: weights, smoothing, scatter, knots and wrong readings, each settled in the light of the
// others.
#pragma once

#include <optional>
#include <span>

#include "hull/fit_stages.h"
#include "hull/inside.h"
#include "units/stop.h"

namespace bevelsmith::hull {

/// Everything that the rounds of a fit change.
struct FitRounds {
    std::span<const survey::Point> points;
    std::span<const survey::FeltBevel> bevels;
    InsideRule rule;
    Chart chart;
    ChartData data;
    Knots knots;
    Smoother smoother;
    Smoothing smoothing;
    Eigen::VectorXd own_weight;  ///< 1/sigma² with cosines, also for readings left out
    double sigma_factor = 1;     ///< on the declared sigmas
    bool ridged = false;         ///< readings along a line lie beyond any smooth surface
    KeepGoing keep_going{};      ///< asked before each solution

    /// Throws Stopped when the fit is not wanted any more.
    std::optional<Solution> solve() const {
        ask(keep_going);
        return smoother.solve(smoothing);
    }
    /// However well the readings agree, one within 1.5 of its declared sigmas is what its taker said it is.
    Eigen::VectorXd least_slip_m() const { return 1.5 / (own_weight.array().sqrt() * std::min(sigma_factor, 1.0)); }
    /// What the felt bevels say about the slopes, seen from a surface near the final one.
    void feel_bevels(const Surface& near);
    /// How far a reading lies off a surface, along its normal (mm).
    double off_mm(const Surface& near, int reading) const;
    /// All later sigmas are `factor` times what they were.
    void rescale_sigma(double factor);
    /// Takes the cosines of a fitted surface into the weights.
    void take_cosines(const Eigen::VectorXd& cosines);
};

/// The quantile of |t| over the readings that count.
double quantile_abs(const Eigen::VectorXd& t, const Eigen::VectorXd& weight, double share);
inline double median_abs(const Eigen::VectorXd& t, const Eigen::VectorXd& weight) {
    return quantile_abs(t, weight, 0.5);
}

/// Of a scan, about so many readings show its outline and how it is spread.
inline constexpr int some_thousands = 4000;
/// 1 where the surface's normal points out of the boat, -1 where into it.
double outward_sign(const Surface& surface, const FitRounds& rounds);

FitRounds begin_rounds(std::span<const survey::Point> points, const Chart& chart, const FitOptions& options,
                       const KeepGoing& keep_going);

/// Weights, smoothing, scatter and knots, and then without wrong readings once more. False where the readings do
/// not determine a surface.
bool settle(FitRounds& rounds, const FitOptions& options);

/// More readings than this are fitted in two steps: a share of them first, then all.
inline constexpr int most_fitted_at_once = 4000;

/// Settles a share of many readings, leaves out of the rest what lies off that surface, and fits them all.
std::optional<FitRounds> settle_many(std::span<const survey::Point> points, const Chart& chart,
                                     const FitOptions& options, const KeepGoing& keep_going);

}  // namespace bevelsmith::hull
