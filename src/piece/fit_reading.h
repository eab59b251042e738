// What is seen along an edge when a piece stands where it belongs.
#pragma once

namespace bevelsmith::piece {

enum class Noticed {
    gap,      ///< daylight, by rule or feeler; negative where wood must go before it can stand
    touches,  ///< it touches here
    rocks,    ///< it touches here and rocks on it
};

/// How well a feeler is read (common practice).
inline constexpr double usual_feeler_mm = 0.3;

struct FitReading {
    int edge = 0;         ///< index into PieceSpec::edges
    double along_mm = 0;  ///< along face A's edge, from where the piece's own edge begins
    Noticed seen = Noticed::gap;
    double gap_mm = 0;  ///< of a gap: from face A's edge to the surface, square to the surface
    double sigma_mm = usual_feeler_mm;
    bool operator==(const FitReading&) const = default;
};

}  // namespace bevelsmith::piece
