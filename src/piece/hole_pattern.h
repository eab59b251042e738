// A set of holes that belong together: of a bought part, of an old one that goes back, of readings. It lies on one
// piece, or on two that are screwed to each other.
#pragma once

#include <string>
#include <vector>

#include "geometry/vec.h"
#include "units/result.h"

namespace bevelsmith::piece {

enum class HoleKind {
    plain,
    countersunk,
    tapped,
    insert,  ///< for a threaded insert
};

struct Hole {
    Vec2 at{0, 0};  ///< from the pattern's datum line: along it and square to it, to its left (mm)
    double diameter_mm = 5;
    HoleKind kind = HoleKind::plain;
    bool operator==(const Hole&) const = default;
};

struct HolePattern {
    std::string id, name;
    std::string from;  ///< where it is known from: "typed", "the part in the hand", "the old part"
    std::vector<Hole> holes;
    bool operator==(const HolePattern&) const = default;
};

/// A pattern laid on a piece: where its datum line begins on face A, which way it runs, of which hand it is.
struct PatternOn {
    std::string pattern_id;
    Vec2 at{0, 0};
    double turn_deg = 0;    ///< of the datum line from u, counter-clockwise
    bool mirrored = false;  ///< the other hand
    /// The other piece that these holes go on into, face to face with this one: drilled there in the same places.
    std::string mate_id;
    HoleKind mate_kind = HoleKind::tapped;
    bool operator==(const PatternOn&) const = default;
};

/// A hole where it is drilled.
struct Drilled {
    std::string pattern;  ///< its name
    int number = 0;       ///< within the pattern, from 1
    Vec2 at{0, 0};        ///< on face A (drawing, mm)
    double diameter_mm = 5;
    HoleKind kind = HoleKind::plain;
    bool operator==(const Drilled&) const = default;
};

/// A pattern out of places in the boat that were read: its datum line runs from the first to the last of them, and
/// `on` lays it where they are, in the drawing of a piece with that frame. Fails with less than two places, or where
/// the first and the last are one.
struct ReadPattern {
    std::vector<Hole> holes;
    PatternOn on;
};
Result<ReadPattern> pattern_from(const std::vector<Vec3>& places, const geometry::PlaneFrame& frame,
                                 double diameter_mm);
/// The same holes in another piece's drawing; empty where the two do not lie face to face.
std::vector<Drilled> drilled_in_mate(const std::vector<Drilled>& holes, const geometry::PlaneFrame& from,
                                     const geometry::PlaneFrame& mate, HoleKind kind);

std::vector<Drilled> drilled(const HolePattern& pattern, const PatternOn& on);
/// The other hand: mirrored about its datum line. Twice is itself.
HolePattern mirrored(HolePattern pattern);
const char* word_of(HoleKind kind);

}  // namespace bevelsmith::piece
