// What offsets at the boat are taken from, by name.
#pragma once

#include <string>
#include <vector>

#include "job/job.h"
#include "piece/at_boat.h"

namespace bevelsmith::job {

/// "B2": the face of that piece which looks towards `from_piece` (its coverings counted); "M1,M2": a string between
/// two marks; "M1,M2,M3": a plane through three, as a laser line gives it. Marks by id or name. The job is in full.
/// Fails, saying what there is, where one is not known, or three marks stand in a row.
Result<piece::Reference> reference_named(const Job& job, const std::string& text, const Vec3& towards);

/// What could serve for a piece: other pieces that stand more or less parallel to it, those that stay first, then
/// marks in pairs.
struct ReferenceChoice {
    std::string text, words;
};
std::vector<ReferenceChoice> reference_choices(const Job& job, const JobPiece& piece);

std::vector<piece::BoatMark> boat_marks(const Job& job);

}  // namespace bevelsmith::job
