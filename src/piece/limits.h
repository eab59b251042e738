// What bounds a piece besides surfaces: planes of the boat, other pieces, free lines, brought into its own drawing.
#pragma once

#include <vector>

#include "piece/outline.h"

namespace bevelsmith::piece {

/// The spec as one face sees it, `behind_mm` behind face A: edges at planes of the boat and at other pieces have
/// become straight edges of the drawing, with what is taken off for gap, coating and the like in `at_mm`. Indices
/// stay. Fails, naming the edge, where another piece is missing, is parallel, or where no point of the piece says
/// which side is kept.
Result<PieceSpec> as_drawn(const PieceSpec& spec, const geometry::PlaneFrame& frame, double behind_mm,
                           const PieceLookup& pieces);

/// Which side of another piece an edge keeps: the chosen one, else where the piece's point lies; by_place where
/// neither says. `other` is the other's face A.
KeptSide kept_side(const PieceSpec& spec, const EdgeSpec& edge, const geometry::Plane& other,
                   double other_thickness_mm);

/// The plane at which a piece ends: it lies where normal·p <= d. Gap and the like are not in it yet.
Result<geometry::Plane> end_plane(const PieceSpec& spec, const EdgeSpec& edge, const PieceLookup& pieces);

/// A free line as it is drawn: corners rounded, smooth points joined by a natural cubic spline over the length of its
/// chords (what a batten does between pins), in chords that leave it by at most 0.05 mm.
std::vector<Vec2> free_line(const EdgeSpec& edge);

/// What a solid edge (lipping) and wood left on to be shaved make of a piece: the outline that is cut from the sheet.
PieceSpec as_cut_from_sheet(const PieceSpec& spec);

/// How far a thing of solid wood grows across its grain (mm): width · coefficient · change of its moisture.
/// `per_percent`: 0.0025 radially to 0.0035 tangentially for most timbers (from memory of wood handbooks).
double swelling_mm(double width_mm, double per_percent, double moisture_from_percent, double moisture_to_percent);

/// An edge that meets something, and does not leave it the room to swell that it wants.
struct Tight {
    int edge = -1;  ///< index into PieceSpec::edges
    double gap_mm = 0, wanted_mm = 0;
};
/// Edges across the grain (their outward normal lies within 45° of it) of a piece that grows by `swelling_mm` in all
/// across its grain: each of the two sides wants half of that.
std::vector<Tight> too_tight(const PieceSpec& spec, const Outline& shape, double swelling_mm);

}  // namespace bevelsmith::piece
