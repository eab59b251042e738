// Setting out at the boat: where the pencil lines of both faces run on what a piece meets, as offsets from something
// that one can measure from there, with ties to marks and diagonals that prove them.
#pragma once

#include <string>
#include <vector>

#include "piece/bearing.h"

namespace bevelsmith::piece {

/// What offsets are taken from.
struct Reference {
    enum class Kind {
        face,    ///< a plane: of a bulkhead that stands, of a laser line
        string,  ///< a line between two marks
    };
    Kind kind = Kind::face;
    std::string words;  ///< "face A of Main bulkhead", "a string from M1 to M2"
    geometry::Plane plane{};
    Vec3 from = Vec3::Zero(), to = Vec3::UnitX();  ///< of a string
    /// Of a face: the distance square to it, on either side positive. Of a string: the shortest to it.
    double offset_mm(const Vec3& p) const;
    /// Of a string: how far along it from its beginning; of a face nothing.
    double along_mm(const Vec3& p) const;
};

/// One station of the lines: the pencil marks of face A and of face B, side by side.
struct BoatStation {
    int number = 0;  ///< from 1
    int edge = 0;    ///< index into PieceSpec::edges
    std::string edge_name;
    bool is_corner = false;                   ///< an end of its edge
    Vec3 a = Vec3::Zero(), b = Vec3::Zero();  ///< on what the edge meets (boat, mm)
    double offset_a_mm = 0, offset_b_mm = 0;  ///< from the reference
    double string_a_mm = 0, string_b_mm = 0;  ///< along a string
    double apart_mm = 0;                      ///< of the two marks, by rule on what they are drawn on
};

/// A tape from a mark to a corner of face A's line.
struct BoatTie {
    int station = 0;
    std::string mark_id;
    double mm = 0;
};

/// Between two corners of face A's line.
struct Diagonal {
    int from = 0, to = 0;  ///< stations
    double mm = 0;
};

/// Where the supports of a level panel go: the top of the bearer at both ends of a line, for a string between.
struct SupportLine {
    std::string what;
    Vec3 from = Vec3::Zero(), to = Vec3::Zero();
    double offset_from_mm = 0, offset_to_mm = 0;
};

struct AtBoat {
    Reference reference;
    std::vector<BoatStation> stations;
    std::vector<BoatTie> ties;
    std::vector<Diagonal> diagonals;
    std::vector<SupportLine> supports;
};

struct BoatMark {
    std::string id;
    Vec3 at = Vec3::Zero();
};

/// Stations each `step_mm` or closer along every edge that meets a surface or another piece, and at its ends; what
/// meets nothing has no line to draw. Ties go from each corner to the three nearest marks. Diagonals join corners
/// that lie far apart. `bearing` may be null.
AtBoat at_boat(const PieceSpec& spec, const Outline& shape, const Reference& reference,
               const std::vector<BoatMark>& marks, const BearingReport* bearing, double step_mm = 150);

}  // namespace bevelsmith::piece
