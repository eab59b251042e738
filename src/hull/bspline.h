// Cubic B-splines on an interval or around a circle (C. de Boor, A Practical Guide to Splines, ch. IX-X).
#pragma once

#include <Eigen/Core>
#include <array>
#include <vector>

namespace bevelsmith::hull {

/// The basis of cubic splines with near-equal knot intervals on [low, high]; at a crease the spline may kink.
/// Open: intervals + 3 functions and two more for each crease. Periodic: as many functions as intervals, values
/// repeat with high - low.
class CubicBasis {
  public:
    /// Precondition: low < high, intervals >= 1 (>= 4 when periodic); creases rise strictly between low and high,
    /// none when periodic. Each stretch between creases gets its share of the intervals, two at least.
    CubicBasis(double low, double high, int intervals, bool periodic = false,
               const std::vector<double>& creases = {});

    /// The four functions that are not zero at x, and their values or derivatives there.
    struct Local {
        int span;  ///< which knot interval
        std::array<int, 4> index;
        std::array<double, 4> weight;
    };
    /// `derivative` 0 to 3. Outside an open interval the end piece's cubic is continued. At a crease the later
    /// side's.
    Local at(double x, int derivative = 0) const;
    /// The four values alone.
    struct Values {
        int span;
        Eigen::Vector4d weight;
    };
    Values values(double x) const;
    /// Values and slopes in one.
    struct Jet {
        Local value;
        std::array<double, 4> slope;
    };
    Jet jet(double x) const;
    /// The functions of a knot interval.
    std::array<int, 4> functions(int span) const;

    int count() const { return count_; }
    int intervals() const { return static_cast<int>(breaks_.size()) - 1; }
    double low() const { return breaks_.front(); }
    double high() const { return breaks_.back(); }
    bool periodic() const { return periodic_; }
    /// Ends of the knot intervals, rising, intervals() + 1 of them.
    const std::vector<double>& breaks() const { return breaks_; }
    const std::vector<double>& creases() const { return creases_; }

    /// Integrals over the interval of products of the `derivative`-th derivatives, count() x count().
    /// Exact: four Gauss points a knot interval integrate the sixth degree.
    Eigen::MatrixXd gram(int derivative) const;

  private:
    /// Rows: functions; columns: powers of x - (start of the interval).
    using Piece = Eigen::Matrix4d;
    int span_of(double x) const;
    double wrapped(double x) const;

    std::vector<double> breaks_, creases_;
    double per_interval_ = 0;  ///< intervals a unit length, where they are equal
    std::vector<int> first_;   ///< of the four functions of each interval
    std::vector<Piece> pieces_;
    int count_ = 0;
    bool periodic_;
};

}  // namespace bevelsmith::hull
