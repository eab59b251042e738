// Sets in frames of their own brought into the boat by marks: least squares, and what the marks say of themselves.
#pragma once

#include <span>
#include <string>
#include <vector>

#include "survey/datum.h"
#include "survey/reading.h"
#include "survey/reference_mark.h"
#include "units/result.h"

namespace bevelsmith::survey {

/// A mark both as it was seen and where it is in the boat (mm).
struct KnownMark {
    std::string name;
    Vec3 seen = Vec3::Zero(), at = Vec3::Zero();
};

/// How a set's own frame lies in the boat: at = scale * turn * seen + move.
struct Placement {
    struct Misfit {
        std::string name;
        Vec3 off = Vec3::Zero();  ///< from where the mark is in the boat to where the placing puts it (mm)
        /// Four marks or more: how far this one lies from where the others put it, and the others' own root mean
        /// square misfit without it (mm). Else both are the misfit itself.
        double from_others_mm = 0, others_rms_mm = 0;
    };
    Turn turn = Turn::Identity();
    double scale = 1;
    Vec3 move = Vec3::Zero();
    std::vector<Misfit> marks;  ///< in the order given
    double rms_mm = 0;          ///< of the misfits; by chance alone about sigma * sqrt(3 - 6 / n)
    int worst = -1;             ///< the mark without which the others agree best; of three the one farthest off
    /// What would make marks that do not agree agree: two exchanged, another unit, a mirrored axis. Empty where they
    /// agree, or nothing simple does.
    std::string doubt;
    /// How the set as a whole may lie elsewhere, because marks are no better than they are: independent moves in the
    /// boat, one standard deviation each. That the scale may be off as well is not in them.
    std::vector<SmallMove> doubts;

    Vec3 operator()(const Vec3& seen) const { return scale * (turn * seen) + move; }
};

/// Least squares over the marks' places, all alike (B. K. P. Horn 1987, by unit quaternions). Fails, in plain words,
/// with fewer than three marks, and where they lie nearly in one line (a twentieth of their length). One number of a
/// mark errs by `sigma_mm` as far as is known before; how the marks agree corrects it.
Result<Placement> place_by_marks(std::span<const KnownMark> marks, bool scaled, double sigma_mm = 1);

/// Whether one factor on all of a school's lengths makes sense.
bool may_be_scaled(School school);

/// A set in the boat's frame, and how it came there.
struct PlacedSet {
    ReadingSet set;
    std::vector<KnownMark> marks;  ///< of a set in its own frame: seen and known
    std::optional<Result<Placement>> placement;
};

/// The sets in the boat's frame: those by gravity turned by the datum, those in their own frame placed by marks of
/// the boat, by places given, and by marks that readings of sets already placed name, set after set. A set that
/// cannot be placed lies on no surface, and its placement says why. Fails where the datum is needed and cannot be.
Result<std::vector<PlacedSet>> placed_sets(std::span<const ReadingSet> sets, const Datum& datum,
                                           std::span<const ReferenceMark> marks);

}  // namespace bevelsmith::survey
