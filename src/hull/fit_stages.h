// The stages of fit_surface, apart so that each can be tested: charts tried, weights, slips.
#pragma once

#include <span>
#include <vector>

#include "hull/fit.h"
#include "hull/smoother.h"

namespace bevelsmith::hull {

/// The middle of the readings' box: inside the boat, where nothing else is said.
Vec3 middle(std::span<const survey::Point> points);
/// The readings in a chart, weights 1/sigma² (1/m²).
ChartData chart_data(const Chart& chart, std::span<const survey::Point> points);
/// Where a cut around an axis should lie, whether the readings close, the mean radius: set from the readings.
Chart settled_axis_chart(Chart chart, std::span<const survey::Point> points);

/// Knot intervals along s and v.
struct Knots {
    int s = 9, v = 9;
    bool operator==(const Knots&) const = default;
};
/// What to begin with for these readings, or what the options ask for.
Knots first_knots(const Chart& chart, const ChartData& data, const FitOptions& options);
/// The next finer divisions that there are readings enough for: both ways together, else each way alone.
std::vector<Knots> finer_knots(const Knots& knots, int readings);
/// A smoother over the domain of the readings, 5 % beyond them.
Smoother make_smoother(const Chart& chart, const ChartData& data, const Knots& knots);
/// A surface for looking at a fit on its way: heights and normals only, which way is out undecided.
Surface plain_surface(const Chart& chart, const Smoother& smoother, const Eigen::VectorXd& coefficients);

/// Charts worth trying for these readings under the choice made.
struct ChartTrial {
    Chart chart;
    double steepest_deg = 0;  ///< angle between ray and normal that 95 % of the readings stay below
    double misfit_mm = 0;     ///< median residual of a stiff fit
};
/// The best chart. Fails where no stiff fit can be made.
Result<ChartTrial> choose_chart(std::span<const survey::Point> points, const FitOptions& options);

/// The fit in a chart that has been chosen; fails and throws as `fit_surface` does.
Result<FittedSurface> fit_in_chart(std::span<const survey::Point> points, const ChartTrial& trial,
                                   const FitOptions& options, const KeepGoing& keep_going);

/// cos² of the angle between ray and normal, floored at 0.1: a reading errs along the normal.
double cosine_weight(const SurfacePoint& here);
/// The same at each reading.
Eigen::VectorXd cosine_weights(const Chart& chart, const Smoother& smoother, const Eigen::VectorXd& coefficients,
                               const ChartData& data);

/// Residuals of a solution, in units of their own standard deviation had each reading been left out.
struct Residuals {
    Eigen::VectorXd height;               ///< y - f (m) with all weighted readings in
    Eigen::VectorXd left_out;             ///< y - f without that reading (m)
    Eigen::VectorXd studentised;          ///< left_out over its standard deviation
    Eigen::VectorXd prediction_variance;  ///< of f without that reading (m²)
};
/// Heights alone: y - f (m).
Eigen::VectorXd heights_off(const Smoother& smoother, const Solution& solution, const ChartData& data);
Residuals residuals_of(const Smoother& smoother, const Solution& solution, const ChartData& data,
                       const Eigen::VectorXd& own_weight);

/// At 3.5 standard deviations about one clean job in fifty raises an alarm; with very many readings the threshold
/// rises so that this stays so.
double alarm_threshold(int readings);

/// Finds readings that the others contradict; sets their weight to zero. Returns their indices, worst first.
/// `own_weight` holds each reading's weight had it counted, `least_slip_m` the height below which none is a slip.
std::vector<int> remove_slips(Smoother& smoother, Smoothing& smoothing, ChartData& data,
                              const Eigen::VectorXd& own_weight, const Eigen::VectorXd& least_slip_m);

}  // namespace bevelsmith::hull
