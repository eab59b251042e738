// A new piece as what has been measured suggests it: its plane where the readings are, its straight edges where the
// boat or the survey ends, so that it has an outline from the first.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "job/job.h"
#include "job/pipeline.h"

namespace bevelsmith::job {

enum class StartingKind { bulkhead, half_bulkhead, long_face, shelf, corner_post, bracket, wash_board };
inline constexpr int starting_kind_count = 7;

/// What a kind is called, what it is, and what its plane's place is counted in.
struct StartingWords {
    const char *name, *kind, *words, *at;
};
const StartingWords& starting_words(StartingKind kind);

/// The kinds that the survey can carry, the likeliest first: a full bulkhead only where both sides are known. Without
/// a surface the kinds that any survey of one side will carry.
std::vector<StartingKind> kinds_offered(const Job& job, const Results& results);

/// A piece of `kind` under an id of its own, not yet in the job: face A at `at_mm` or, where that is absent, where
/// most of its edge is known. Its scribed edge lies on the surface with the most readings; each end of the known
/// edge is cut by a straight edge, at `10 mm` steps, and what is left open by one a clear distance inboard or on the
/// centre line. The blank fits its sheet where that can be. Where the plane does not meet a surveyed surface, the
/// straight edges are those of the readings' box.
JobPiece starting_piece(const Job& job, const Results& results, StartingKind kind,
                        std::optional<double> at_mm = std::nullopt);

/// What proposed places are rounded to: 10 mm, or half an inch.
double step_mm(const Job& job);

/// Where a straight edge on that side of the piece would lie now: on the outer bound of its outline, or of what is
/// known of it where there is none (drawing, mm; along `side`).
double bounding_edge_mm(const PieceResult& piece, const Vec2& side);

}  // namespace bevelsmith::job
