// Charts: how a surface is laid out so that it becomes a height over two coordinates.
//
// Inside a chart lengths are in metres; the smoothing's usual strengths are stated in those units.
#pragma once

#include <string>

#include "geometry/vec.h"

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

struct Chart {
    enum class Kind { plane, axis };
    Kind kind = Kind::plane;
    /// plane: p = origin + s e_s + v e_v + h e_h.
    /// axis: p = origin + s e_s + h (cos a · e_v + sin a · e_h), a = v / mean_radius: s runs along the axis,
    /// v around it; v = 0 looks along e_v and the cut is opposite.
    Vec3 origin = Vec3::Zero();  ///< mm
    Vec3 e_s = Vec3::UnitX(), e_v = Vec3::UnitY(), e_h = Vec3::UnitZ();
    double mean_radius_m = 1;  ///< axis only
    bool closed = false;       ///< axis only: readings all around

    ChartPoint to_chart(const Vec3& p_mm) const;
    Vec3 to_space(const ChartPoint& c) const;
    /// Position and tangents where the height is `h` with slopes `h_s`, `h_v`.
    ChartJet jet(double s, double v, double h, double h_s, double h_v) const;
    /// Half the way around in v (m); only for the axis chart.
    double half_turn_m() const;
    /// In plain words, for the screen: "around an axis along the boat", "over a plane facing port".
    std::string words() const;
};

}  // namespace bevelsmith::hull
