// What a person decides about a piece. Everything else about it is computed.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "geometry/vec.h"

namespace bevelsmith::piece {

/// What an edge of a piece meets.
enum class EdgeKind {
    scribed,   ///< a surface of the boat
    straight,  ///< a straight line
};

/// One edge. Straight edges are half-planes of the piece's plane; together with the scribed surface they bound it.
struct EdgeSpec {
    EdgeKind kind = EdgeKind::scribed;
    std::string name;
    std::string surface_id;  ///< scribed: which surface
    /// straight: the edge lies where `side`·(u, v) = at_mm in the piece's drawing, and the piece on the lower side.
    Vec2 side{0, 1};
    double at_mm = 0;
    double gap_mm = 0;      ///< left between the piece and what the edge meets, square to it
    double coating_mm = 0;  ///< film on the edge, taken off the piece as well
    bool operator==(const EdgeSpec&) const = default;
};

enum class JointKind { butt, butt_strap, scarf };

/// Where a piece is divided: a line across its drawing.
struct JointSpec {
    JointKind kind = JointKind::butt;
    bool upright = true;  ///< the line is u = at_mm; else v = at_mm
    double at_mm = 0;
    double slope = 8;  ///< scarf: length over thickness (common practice: 8 ordinary, 12 where strength counts)
    bool operator==(const JointSpec&) const = default;
};

/// A doorway or hatch: a rectangle of the drawing with rounded corners.
struct OpeningSpec {
    std::string name = "door";
    double left_mm = 0, bottom_mm = 0, width_mm = 600, height_mm = 1200, radius_mm = 80;
    bool operator==(const OpeningSpec&) const = default;
};

/// A drain notch in the scribed edge, arched.
struct LimberSpec {
    std::optional<double> at_mm;  ///< u of its middle; the lowest point of the edge when absent
    double width_mm = 40, height_mm = 30;
    bool operator==(const LimberSpec&) const = default;
};

enum class Face { a, b };

struct PieceSpec {
    std::string id;
    std::string name;
    std::string kind = "bulkhead";
    std::string place;      ///< where in the boat, for grouping
    geometry::Plane plane;  ///< of face A; the normal points to face B
    std::string material_id;
    std::vector<EdgeSpec> edges;
    std::vector<OpeningSpec> openings;
    std::vector<LimberSpec> limbers;
    std::vector<JointSpec> joints;
    bool split_for_passage = true;  ///< add scarfs where a part will not pass into the boat
    double scarf_slope = 8;
    double grain_deg = 0;  ///< direction of the face grain in the drawing, from u
    Face good_face = Face::a;
    bool structural = false;
    bool removable = false;
    double blank_margin_mm = 10;  ///< left on all round when the blank is cut
    double wanted_fit_mm = 3;     ///< largest gap that the edge may show
    bool operator==(const PieceSpec&) const = default;
};

}  // namespace bevelsmith::piece
