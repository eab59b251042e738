// How well readings go with a surface that kinks along given lines: what chines are decided by.
#pragma once

#include <Eigen/Cholesky>
#include <optional>
#include <span>
#include <vector>

#include "hull/cell_blocks.h"
#include "hull/smoother.h"
#include "survey/points.h"

namespace bevelsmith::hull {

/// A line across the chart: a parabola, v over s (m).
struct KinkLine {
    double v_low = 0, v_high = 0;  ///< at the two ends of s
    double bend = 0;               ///< in the middle, off the straight line between the ends
    bool held = false;             ///< it is known where it runs: the search does not move it

    /// `along` runs from 0 to 1 over s.
    double at(double along) const { return v_low + along * (v_high - v_low) + 4 * along * (1 - along) * bend; }
};
using KinkLines = std::vector<KinkLine>;

/// What a surface with some kinks makes of the readings.
struct KinkFit {
    KinkLines lines;
    Smoothing smoothing;
    std::vector<bool> left_out;  ///< readings that are wrong if this is the surface, in the order given
    double rms_m = 0;            ///< of what the others leave, in heights
    double badness = 0;          ///< twice the negative log evidence, up to what is the same for all
};

/// The smooth surface is a penalised spline as everywhere; each line adds three shapes to it: |v - line|, the same
/// growing along the line, and (v - line)|v - line|, whose sizes are normal about none: a slope that turns by some
/// 0.8 (40 degrees), by 0.3 more or less at the ends, a curvature that differs by 1 /m. With the amplitudes
/// integrated out, the evidence of surfaces with no, one, two, three lines is that of one and the same set of
/// readings, so that it can be compared (derived: a normal prior's marginal likelihood; the hand's steadiness is
/// integrated out under a scaled inverse chi-square prior worth `declared_worth`). A wrong reading costs 16: one
/// reading in thirty is wrong, anywhere within 300 mm.
class KinkModel {
  public:
    /// `data` in the chart, weighed; the smoother's bases cover it.
    KinkModel(ChartData data, Smoother smoother);

    const Smoother& smoother() const { return smoother_; }
    int count() const { return data_.count(); }

    /// By how much (in badness) one more line would help where smoothing and the lines so far stay as they are, for
    /// each of `more`; 0 where a side of it would have too few readings.
    std::vector<double> gains(const KinkFit& so_far, const Smoothing& at, std::span<const KinkLine> more) const;
    /// Lines and smoothing moved until the badness is least near where they start, wrong readings found on the way.
    /// `left_out` are doubted to begin with. Empty where nothing can be fitted.
    std::optional<KinkFit> best_near(const KinkLines& start, std::vector<bool> left_out, const Smoothing& at) const;

  private:
    struct Solved;
    Eigen::MatrixXd shapes(const KinkLines& lines) const;
    /// f - S f for each column, and S by the solution's factor.
    Eigen::MatrixXd not_followed(const Solution& solution, const Eigen::VectorXd& weight,
                                 const Eigen::MatrixXd& shape) const;
    std::optional<Solved> solve(const Smoother& smoother, const Eigen::VectorXd& weight, const KinkLines& lines,
                                const Smoothing& at) const;
    double badness(const Smoother& smoother, const Eigen::VectorXd& weight, const KinkLines& lines,
                   const Smoothing& at) const;
    bool borne(const KinkLines& lines, const Eigen::VectorXd& weight) const;
    Eigen::VectorXd weights(const std::vector<bool>& left_out) const;
    KinkFit moved(const KinkFit& start) const;
    /// Takes out, one at a time, what it pays to call wrong; takes in again what the rest turns out to meet.
    void judge_readings(KinkFit& fit) const;

    ChartData data_;
    Smoother smoother_;
    Eigen::VectorXd along_;  ///< of each reading, 0 to 1 over s
    std::vector<CellRow> rows_;
    std::vector<std::array<int, 16>> functions_;
};

}  // namespace bevelsmith::hull
