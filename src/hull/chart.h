// Charts: how a surface is laid out so that it becomes a height over two coordinates.
//
// Inside a chart lengths are in metres; the smoothing's usual strengths are stated in those units.
#pragma once

#include <string>
#include <vector>

#include "geometry/vec.h"
#include "units/result.h"

namespace bevelsmith::hull {

/// Chart coordinates (m): two positions and the height r(s, v) above them.
struct ChartPoint {
    double s = 0, v = 0, height = 0;
};

/// A point of space and its derivatives with respect to s, v (mm per m) for a given height field.
struct ChartJet {
    Vec3 position, along_s, along_v;
    Vec3 ray;  ///< unit direction in which the height is counted, at this place
};

/// A chine or another line at which the surface may kink, as v over s in a chart: a polynomial of third degree at
/// most, continued straight beyond its ends.
struct HardLine {
    double from = 0, to = 1;                      ///< s of the ends (m)
    Eigen::Vector4d v = Eigen::Vector4d::Zero();  ///< coefficients of powers of s - from
    double mean = 0;                              ///< the constant v to which the line is laid out

    double at(double s) const;
    double slope(double s) const;
};

/// Charts may be warped: with hard lines given, v is laid out so that each of them runs at constant v; between two
/// lines linearly, outside the outermost by a shift. All places (s, v) are in the warped layout.
struct Chart {
    enum class Kind { plane, axis };
    Kind kind = Kind::plane;
    /// plane: p = origin + s e_s + v e_v + h e_h.
    /// axis: p = origin + s e_s + h (cos a · e_v + sin a · e_h), a = v / mean_radius: s runs along the axis,
    /// v around it; v = 0 looks along e_v and the cut is opposite.
    Vec3 origin = Vec3::Zero();  ///< mm
    Vec3 e_s = Vec3::UnitX(), e_v = Vec3::UnitY(), e_h = Vec3::UnitZ();
    double mean_radius_m = 1;          ///< axis only
    bool closed = false;               ///< axis only: readings all around
    std::vector<HardLine> hard_lines;  ///< in rising v, none when closed

    ChartPoint to_chart(const Vec3& p_mm) const;
    Vec3 to_space(const ChartPoint& c) const;
    /// Position and tangents where the height is `h` with slopes `h_s`, `h_v`.
    ChartJet jet(double s, double v, double h, double h_s, double h_v) const;
    /// Half the way around in v (m); only for the axis chart.
    double half_turn_m() const;
    /// The chart with hard lines through these points of the boat (mm). Fails, in plain words, where a line does not
    /// run along s, lines cross, or the chart is closed.
    Result<Chart> with_hard_lines(const std::vector<std::vector<Vec3>>& lines) const;
    /// In plain words, for the screen: "around an axis along the boat", "over a plane facing port".
    std::string words() const;

  private:
    struct Laid {
        double v = 0, along_s = 0, along_v = 1;  ///< v before the warp, and its derivatives over the warped (s, v)
    };
    Laid unwarped(double s, double v) const;
    double warped(double s, double v) const;
};

}  // namespace bevelsmith::hull
