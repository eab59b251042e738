// Checks of sets of readings that lie where nobody has said, or where their marks do not agree.
#include <fmt/format.h>

#include <algorithm>

#include "job/own_frames.h"
#include "review/checks.h"

namespace bevelsmith::review {
namespace {

/// A mark off by more than this and five times what a reading is uncertain by was not met by chance.
constexpr double least_doubted_mm = 5, times_sigma = 5;

std::string how_far(const survey::Placement& by, const survey::Placement::Misfit& worst) {
    const std::string doubt = by.doubt.empty() ? "" : "; " + by.doubt;
    if (by.marks.size() < 4)
        return fmt::format("{} lies {:.1f} mm from where the placing puts it{}", worst.name, worst.off.norm(), doubt);
    return fmt::format("{} lies {:.1f} mm from where the others put it, which agree within {:.1f} mm{}", worst.name,
                       worst.from_others_mm, worst.others_rms_mm, doubt);
}

void judge_marks(const job::JobReadingSet& set, const survey::PlacedSet& placed, Findings& out) {
    if (!*placed.placement) {
        add(out, CheckId::not_placed, Severity::mind, {}, fmt::format("'{}' is not placed by its marks", set.name),
            placed.placement->error().message, "Say in Measure, Placing, which marks were seen from it.");
        out.back().set_id = set.id;
        return;
    }
    const survey::Placement& by = placed.placement->value();
    const auto& worst = by.marks[static_cast<std::size_t>(by.worst)];
    if (worst.from_others_mm < std::max(least_doubted_mm, times_sigma * set.sigma_mm)) return;
    add(out, CheckId::marks_disagree, Severity::mind, {}, fmt::format("The marks of '{}' do not agree", set.name),
        how_far(by, worst),
        "See in Measure, Placing: measure that mark again, or leave it out. All of the set lies as its marks do.");
    out.back().set_id = set.id;
}

}  // namespace

void placing_faults(const job::Job& job, Findings& out) {
    const auto placed = job::placed_readings(job);
    for (std::size_t k = 0; k < job.readings.size(); ++k) {
        const auto& set = job.readings[k];
        if (placed && (*placed)[k].placement) {
            judge_marks(set, (*placed)[k], out);
        }
        if (!set.surface_id.empty() || set.readings.empty()) continue;
        add(out, CheckId::not_placed, Severity::note, {}, fmt::format("'{}' lies on no surface yet", set.name),
            fmt::format("{} readings that nothing is fitted to", set.readings.size()),
            "Say in Measure where it stood and which surface it met.");
        out.back().set_id = set.id;
    }
}

}  // namespace bevelsmith::review
