// A cut through the whole boat: the hull where it is met, the pieces with their true thickness, and what lies beyond.
#pragma once

#include <string>
#include <vector>

#include "hull/section.h"
#include "job/pipeline.h"

namespace bevelsmith::exchange {

/// The three ways in which a boat is cut in drawings here.
enum class Cut {
    section,  ///< across, looking forward: starboard at right
    profile,  ///< along, from starboard: the bow at right
    plan,     ///< level, from above: the bow at right, port up
};
inline constexpr int cut_count = 3;

/// The drawing's axes (to the right, up) and the way one looks, in the boat's frame.
struct CutFrame {
    Vec3 right, up, look;
    Vec2 to_drawing(const Vec3& p) const { return {right.dot(p), up.dot(p)}; }
};
CutFrame frame_of(Cut cut);
/// The plane that cuts at a place along the boat's own axis: fwd, port, up (mm).
geometry::Plane plane_of(Cut cut, double at_mm);

/// A piece that is cut, or that lies beyond.
struct CutPiece {
    std::size_t piece = 0;                ///< index into Job::pieces
    std::vector<geometry::Polygon> wood;  ///< where it is cut (drawing of the cut, mm); empty beyond
    std::vector<geometry::Ring> beyond;   ///< its nearer face's rings as seen from the cut, empty before it
};

struct CutHull {
    std::string surface_id;
    std::vector<hull::SectionRun> runs;  ///< in the boat's frame
};

struct BoatCut {
    Cut cut = Cut::section;
    double at_mm = 0;
    std::vector<CutHull> hull;
    std::vector<CutPiece> pieces;
};

/// The hull's part of a cut; it is slower than the pieces', and changes only with the surfaces.
std::vector<CutHull> cut_hull(const job::Results& results, Cut cut, double at_mm);
/// The pieces' part.
std::vector<CutPiece> cut_pieces(const job::Results& results, Cut cut, double at_mm);

/// How far everything there is reaches, in the boat's frame.
struct BoatBox {
    Vec3 low = Vec3::Zero(), high = Vec3::Zero();
    bool empty = true;
};
BoatBox extent_of(const job::Results& results);

}  // namespace bevelsmith::exchange
