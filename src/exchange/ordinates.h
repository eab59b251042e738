// An edge as it is marked out from a straight line: stations along a base line, ordinates square to it, bevels.
#pragma once

#include <optional>
#include <vector>

#include "piece/outline.h"

namespace bevelsmith::exchange {

struct Station {
    double along_mm = 0;             ///< from the base line's start
    double out_a_mm = 0;             ///< square to it, positive out of the piece
    std::optional<double> out_b_mm;  ///< absent where face B does not reach this station
    double bevel_deg = 0;
    double sigma_mm = 0;
    bool in_survey = true;
};

/// A straight line struck from one end of an edge on face A to the other.
struct BaseLine {
    int edge = 0;  ///< index into PieceSpec::edges
    Vec2 from{0, 0}, to{0, 0};
    std::vector<Station> stations;  ///< at the chosen step, and at the end
    /// The farthest that the edge on face A leaves a batten sprung through the stations' ordinates (mm).
    double batten_error_mm = 0;
};

/// Base lines for edge marks in the order of the outline, in their coordinates. An edge that turns back over its base
/// line is divided where it lies farthest from it. A step of less than 10 mm is taken as 10.
std::vector<BaseLine> base_lines(const std::vector<piece::EdgeMark>& marks, double step_mm);

}  // namespace bevelsmith::exchange
