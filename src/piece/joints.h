// How the parts of a piece meet at a joint: how far each reaches past its line, and where the line lies.
#pragma once

#include <optional>
#include <utility>

#include "piece/outline.h"

namespace bevelsmith::piece {

/// The width of a lap, tongue, spline or strap where none was given (mm, common practice): a lap twice the thickness
/// and no less than 25, a tongue half of the thickness, a spline's two grooves the thickness together, a butt strap
/// ten times the thickness.
double joint_width_mm(const JointSpec& joint, double thickness_mm);

/// How far the part on the lower side of a joint's line reaches past it, and the one on the upper side (mm along the
/// panel; what is left open counts against both).
std::pair<double, double> reach_past_mm(const JointSpec& joint, double thickness_mm);

/// The joints with those that land on another piece where that piece's middle is. Fails, naming the joint, where that
/// piece is missing or does not lie along the joint to within 2°.
Result<std::vector<JointSpec>> landed_joints(const PieceSpec& spec, const geometry::PlaneFrame& frame,
                                             double thickness_mm, const PieceLookup& pieces);

/// A joint that does not cross the piece divides nothing: a slip of the pen, or the piece has been moved from under
/// it.
std::optional<Error> joint_beside(const PieceSpec& spec, const std::vector<JointSpec>& joints,
                                  const geometry::Polygon& face);

/// "butt joint", "scarf", "lap": for lists.
const char* joint_word(JointKind kind);

}  // namespace bevelsmith::piece
