// Uniform cubic B-splines on an interval or around a circle (C. de Boor, A Practical Guide to Splines, ch. IX-X).
#pragma once

#include <Eigen/Core>
#include <array>

namespace bevelsmith::hull {

/// The basis of cubic splines with equal knot intervals on [low, high].
/// Open: `intervals` + 3 functions. Periodic: `intervals` functions, values repeat with high - low.
class UniformCubic {
  public:
    /// Precondition: low < high, intervals >= 1 (>= 4 when periodic).
    UniformCubic(double low, double high, int intervals, bool periodic = false);

    /// The four functions that are not zero at x, and their values or derivatives there.
    struct Local {
        std::array<int, 4> index;
        std::array<double, 4> weight;
    };
    /// `derivative` 0 to 3. Outside an open interval the end piece's cubic is continued.
    Local at(double x, int derivative = 0) const;

    int count() const { return periodic_ ? intervals_ : intervals_ + 3; }
    int intervals() const { return intervals_; }
    double low() const { return low_; }
    double high() const { return high_; }
    bool periodic() const { return periodic_; }

    /// Integrals over the interval of products of the `derivative`-th derivatives, count() x count().
    /// Exact: four Gauss points a knot interval integrate the sixth degree.
    Eigen::MatrixXd gram(int derivative) const;

  private:
    double low_, high_, step_;
    int intervals_;
    bool periodic_;
};

}  // namespace bevelsmith::hull
