// Edits that mend what a check found, as values: offered beside the finding, done as one step.
#pragma once

#include <optional>
#include <string>

#include "job/job.h"

namespace bevelsmith::job {

struct Mending {
    enum class Kind {
        stop_at,         ///< the piece gets an edge that stops at `other`, a piece
        mirrored_start,  ///< the piece is scribed to the mirrored readings of `other`, a surface read on one side
                         ///< only
        wider_gap,       ///< the piece keeps `mm` more gap at its edge number `edge`, and so comes out of an offcut
        let_in,          ///< a patch `mm` wide is let in at `joint`, and what is left comes out of an offcut
    };
    Kind kind = Kind::stop_at;
    std::string piece_id, other;
    std::optional<Vec3> at{};  ///< stop_at: a point of the piece where it is to stay
    int edge = -1;
    double mm = 0;
    std::optional<piece::JointSpec> joint{};  ///< let_in
    bool operator==(const Mending&) const = default;
};

/// What its button says, in some 40 letters at most: "Let Shelf stop at Bulkhead", by their ids where the names are
/// long.
std::string words(const Mending& mending, const Job& full);
/// Does it; false where what it speaks of is not there any more, and nothing is done.
bool mend(Job& job, const Mending& mending);

/// The surface that the piece is scribed to, where all its readings lie on the other side of the boat from
/// PieceSpec::at. Empty where there is none, or the piece does not say where it is.
std::string unread_side(const Job& full, const JobPiece& piece);

}  // namespace bevelsmith::job
