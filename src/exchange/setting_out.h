// A panel in numbers from which it is marked out with tape, square and batten: corners and curves of both faces from
// two base lines that exist on it, openings, holes and joints.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "geometry/contour.h"
#include "units/quantity.h"

namespace bevelsmith::exchange {

/// One of the two lines that all figures are counted from.
struct BaseLineOnPanel {
    bool is_edge = false;  ///< an edge of face A; else a line that is struck on it
    std::string words;     ///< "the bottom edge", "a level line struck on the panel"
    Vec2 from{0, 0}, to{0, 0};
};

/// Where two runs of an outline meet. Figures are from the base lines, across from the upright one and up from the
/// level one (mm); to the left, or down, where the panel lies on that side of its edge.
struct SetCorner {
    int number = 0;  ///< from 1, in the order of the outline
    std::optional<Vec2> a, b;
};

/// A place on a curve at a round distance from a base line.
struct SetRow {
    double at_mm = 0;            ///< the height (of a steep run) or the distance across (of a flat one)
    std::optional<double> a, b;  ///< the other figure, on each face; absent where the face is not there
    double bevel_deg = 0;
};

/// From one corner to the next.
struct SetRun {
    geometry::RunKind kind = geometry::RunKind::straight;
    std::string edge;      ///< what it meets
    int from = 0, to = 0;  ///< corners' numbers
    double radius_mm = 0;  ///< of an arc; positive where it bulges out of the panel
    double bevel_deg = 0;  ///< of a straight run or an arc
    double step_mm = 0;    ///< between rows
    std::vector<SetRow> rows;
    bool on_a = true, on_b = true;
};

/// One ring: the outline, or an opening that is no plain rectangle or circle.
struct SetRing {
    std::string name;
    std::vector<SetCorner> corners;
    std::vector<SetRun> runs;
};

/// An opening or hole of a plain shape; figures of the corner that is nearest to the base lines' crossing, of a
/// circle its middle.
struct SetOpening {
    std::string name;
    bool round = false;
    double across_mm = 0, up_mm = 0, width_mm = 0, height_mm = 0, radius_mm = 0;  ///< a circle: width is its diameter
};

/// Its middle in the same figures.
Vec2 middle_of(const SetOpening& opening);

struct SettingOut {
    Vec2 origin{0, 0};                     ///< where the base lines cross, in the drawing
    bool leftwards = false, down = false;  ///< how figures are counted from there
    /// A place of the drawing as figures, and back.
    Vec2 figures_of(const Vec2& p) const { return (p - origin).cwiseProduct(sense()); }
    Vec2 place_of(const Vec2& figures) const { return origin + figures.cwiseProduct(sense()); }
    Vec2 sense() const { return {leftwards ? -1.0 : 1.0, down ? -1.0 : 1.0}; }
    BaseLineOnPanel level, upright;
    bool faces_alike = false;  ///< edges are square: one set of figures serves both
    std::vector<SetRing> rings;
    std::vector<SetOpening> openings;
};

/// What is known of a place on face A's outline.
struct EdgeThere {
    std::string name;
    double bevel_deg = 0;
};
using EdgeLookup = std::function<EdgeThere(const Vec2&)>;

/// An opening as it was asked for, to be told by its size instead of by corners.
struct PlainOpening {
    std::string name;
    bool round = false;
    Vec2 low{0, 0};  ///< of a circle its middle
    double width_mm = 0, height_mm = 0, radius_mm = 0;
};

/// Steps that read well on a tape, the next smaller than this first; all rows stand at whole multiples of them.
double finer_step_mm(double step_mm, units::LengthUnit unit);

/// A batten through the figures leaves the outline by at most this (mm); rows are set closer until it does.
inline constexpr double batten_off_mm = 0.15;

/// Both faces must be in the same drawing. `step_mm` as asked for; at least 5.
SettingOut setting_out(const geometry::Polygon& face_a, const geometry::Polygon& face_b, double thickness_mm,
                       const std::vector<PlainOpening>& plain, const EdgeLookup& edges, double step_mm,
                       units::LengthUnit unit);

/// A face's ring drawn again from these figures alone, in their own axes.
geometry::Ring drawn_again(const SettingOut& of, const SetRing& ring, bool face_a);

/// The figures as they are read off a paper in this unit.
SettingOut as_printed(SettingOut exact, units::LengthUnit unit);

}  // namespace bevelsmith::exchange
