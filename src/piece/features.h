// What is cut out of a piece once its limits have met: limber notches, openings; and whether its joints cross it.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "piece/outline.h"

namespace bevelsmith::piece {

/// Less of a piece than this (mm²) is nothing that could be cut.
inline constexpr double least_area_mm2 = 100;

/// An arched notch at the place along the scribed edge that it asks for. Precondition: `scribed` is not empty.
geometry::Polygon limber_shape(const LimberSpec& limber, const geometry::Ring& outline,
                               const std::vector<Vec2>& scribed);
/// `outline` without `notch`, or why that is no piece any more. `index` is the limber's in the spec.
Result<geometry::Polygon> notched(const PieceSpec& spec, const geometry::Polygon& outline,
                                  const geometry::Polygon& notch, int index);
/// "the limber notch", or "limber notch 2" where there are several.
std::string limber_name(const PieceSpec& spec, int index);

/// The shape of an opening in the piece's drawing.
geometry::Polygon opening_shape(const OpeningSpec& opening);
/// The face with its openings. An opening that reaches over the outline, leaves nothing or cuts the piece apart is a
/// fault that names it.
Result<geometry::Polygon> with_openings(const PieceSpec& spec, const geometry::Polygon& face);

/// A joint that does not cross the piece divides nothing: a slip of the pen, or the piece has been moved from under
/// it.
std::optional<Error> joint_beside(const PieceSpec& spec, const geometry::Polygon& face);

}  // namespace bevelsmith::piece
