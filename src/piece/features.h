// Openings of a piece: doorways, hatches, ways for wires, rows of holes.
#pragma once

#include <string>
#include <vector>

#include "piece/outline.h"

namespace bevelsmith::piece {

/// Less of a piece than this (mm²) is nothing that could be cut.
inline constexpr double least_area_mm2 = 100;

/// The shape of an opening in the piece's drawing, as it is cut: with the room for its guard.
geometry::Polygon opening_shape(const OpeningSpec& opening);
/// The face with its openings and rows of holes. An opening that reaches over the outline, leaves nothing or cuts the
/// piece apart is a fault that names it.
/// Throws Stopped when `keep_going` says no.
Result<geometry::Polygon> with_openings(const PieceSpec& spec, const geometry::Polygon& face,
                                        const KeepGoing& keep_going = {});

/// The least wood left around an opening of a face (mm): to its outline, and to its other openings.
double rail_left_mm(const PieceSpec& spec, std::size_t opening, const Outline& shape);

/// The length of chafe guard that an opening wants (mm).
double guard_length_mm(const OpeningSpec& opening);

}  // namespace bevelsmith::piece
