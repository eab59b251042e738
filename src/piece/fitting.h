// A piece, or a trial pattern of it, offered up in the boat: what was seen along its edges, where the surfaces truly
// run by that, and what is to be done.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "piece/fit_reading.h"
#include "piece/outline.h"

namespace bevelsmith::piece {

/// Where a reading says that the surface runs.
struct TruePlace {
    int edge = 0;         ///< index into PieceSpec::edges
    double along_mm = 0;  ///< along face A's edge (EdgeMark::arc_mm)
    Vec2 at{0, 0};        ///< on face A's plane (drawing, mm)
    double sigma_mm = 0.3;
};

/// Every reading as a place, in the order of the edges and along them. Fails, naming the reading, where there is no
/// such edge, it is not scribed to a surface, or the place is not on it.
/// A gap is measured square to the surface, as a feeler does, from face A's edge; in the panel's plane it is gap /
/// cos(bevel) (derived). Wood that was left on for shaving stands before face A's edge and is counted;
/// lippings are on.
Result<std::vector<TruePlace>> true_places(const PieceSpec& spec, const Outline& offered,
                                           const std::vector<FitReading>& readings);

/// Both faces as they were offered up (the piece's drawing, mm).
struct Offered {
    geometry::Polygon face_a, face_b;
    bool operator==(const Offered&) const = default;
};
/// A face as it is offered up: what is cut of it, with its lippings on. `finished` is empty where that is what is
/// cut.
geometry::Polygon offered_face(const geometry::Polygon& cut, const geometry::Polygon& finished);
Offered as_offered(const Outline& shape);
/// Wood that then stands before the finished edge (mm): what is left on under a lipping is shaved before that goes
/// on.
double left_before_mm(const EdgeSpec& edge);

/// One line of the shaving guide: what comes off at a mark, square to the edge in the plane of each face (mm).
/// Negative: wood is missing there.
struct Shaving {
    int number = 0;  ///< from 1
    int edge = 0;
    double along_mm = 0;       ///< along the corrected edge of face A
    Vec2 at{0, 0}, out{1, 0};  ///< on face A (drawing, mm), and the way out of the piece there
    double off_a_mm = 0, off_b_mm = 0;
};

/// A stretch of edge where wood is missing.
struct Missing {
    int edge = 0;
    double from_mm = 0, to_mm = 0;  ///< along the edge
    double most_mm = 0;
    bool fits_wanted = false;  ///< no more than the fit that is wanted: nothing need be done
};

/// The whole piece moved in its plane: by `by` (drawing, mm), then turned about `about`, counter-clockwise.
struct Move {
    Vec2 by{0, 0}, about{0, 0};
    double turn_rad = 0;
    double left_mm = 0;  ///< the widest daylight that is left anywhere along edges that meet something
};

struct Correction {
    std::vector<Shaving> guide;
    std::vector<Missing> missing;
    geometry::Polygon trimmed_a, trimmed_b;  ///< what is left when all is trimmed that can be
    double widest_mm = 0;                    ///< daylight before anything is done
    double most_off_mm = 0;
    std::optional<Move> best_move;      ///< where it betters the widest daylight by a tenth of a millimetre or more
    std::vector<std::size_t> rocks_on;  ///< readings on which it rocks: what comes off there comes off first
    /// What to do, in the core's millimetres.
    std::vector<std::string> advice;
};

/// What is to be done to the piece as it was offered up, from its outline as it is known now (`corrected`: computed
/// with the places in `PieceSpec::fitted`).
Correction correct(const PieceSpec& spec, const Offered& offered, const Outline& corrected,
                   const std::vector<FitReading>& readings);

/// Beyond this, daylight is not filled but the piece cut anew (common practice; what is tabbed or covered bears
/// more).
inline constexpr double most_filled_mm = 6;

}  // namespace bevelsmith::piece
