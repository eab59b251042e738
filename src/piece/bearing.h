// What carries a level panel: a sole, a seat, a shelf, a counter.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "piece/outline.h"

namespace bevelsmith::piece {

/// Another piece of the boat, as far as it may carry one.
struct Carrier {
    const PieceSpec* spec = nullptr;
    const Outline* shape = nullptr;
};

/// A line along which a panel is carried, in its drawing.
struct Bearing {
    std::string what;  ///< "cleats on the hull", "Divider 1, Settee"
    std::vector<Vec2> line;
    double length_mm = 0;
    int edge = -1;                 ///< index into PieceSpec::edges, where the edge itself is carried
    std::string piece_id = {};     ///< of the piece that stands under it
    std::string obstacle_id = {};  ///< of the ledge, rib or rail that does
    /// How wide the panel lies on it (mm): a ledge's, divider's or cleat's width, less what lies before it (lining,
    /// insulation) and the gap at the panel's edge. Of a line along which it changes, the mean.
    double width_mm = 0;
};

struct BearingReport {
    std::vector<Bearing> lines;
    std::vector<int> free_edges;     ///< edges that nothing carries, by index into PieceSpec::edges
    std::vector<int> joints_in_air;  ///< by index into Outline::joints: no bearing under a third of its line or more
    /// Twice the farthest that any place of the panel lies from what carries it: the clear span between two bearers,
    /// and twice the reach of what is carried on one side only.
    double span_mm = 0;
    Vec2 span_at{0, 0};
};

struct BearingOptions {
    double cleat_mm = 40;  ///< width of the cleats along edges that meet a surface or stop at a piece
    double lip_mm = 20;    ///< of the lip in which a lift-out lands
    /// Of layers before a cleat that is fixed to the bare surface, by index into PieceSpec::edges (mm); none without.
    std::function<double(int edge)> layers_mm = {};
    std::vector<Obstacle> ledges = {};  ///< those that carry
};

/// Whether a panel lies level, so that it wants to be carried.
bool lies_level(const Outline& shape);

/// A level panel is carried by cleats along edges that meet a surface or stop at another piece, by upright pieces
/// whose edges touch its under side to within 3 mm, and, where it lifts out, by the landing lip under the panels that
/// it lies between at their own height. Joints that are glued long (scarfs, strapped butts, half laps) need no
/// bearing. Ledges, ribs and rails carry with their upper face, within as much.
BearingReport bearing_of(const PieceSpec& spec, const Outline& shape, const std::vector<Carrier>& others,
                         const BearingOptions& options = {});

/// Whether a level panel lies on an obstacle that carries, so that it is not cut around it: no part of its upper face
/// stands higher than 3 mm over the panel's under side.
bool lies_on(const Obstacle& ledge, const geometry::Plane& face_a, double thickness_mm);

}  // namespace bevelsmith::piece
