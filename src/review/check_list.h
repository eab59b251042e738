// The checks: what each looks for, what at, and where what it finds is mended. One record each: a finding, a
// set-aside one in the job's file, the table in docs/checks.md and the tests go by it.
#pragma once

#include <array>
#include <string>
#include <string_view>

namespace bevelsmith::review {

/// Rising.
enum class Severity { note, mind, stop };
std::string_view severity_word(Severity s);

/// The step in which a finding is looked at and mended.
enum class MendedIn { measure, shape, pieces, fix, cut };
enum class LooksAt { set, surface, piece, unit, sheet };

/// In the order of the steps.
enum class CheckId {
    surface,
    suspect_readings,
    stray_set,
    inside,
    not_placed,
    marks_disagree,
    chine_not_entered,
    readings_scatter,
    keel_unread,
    sides_unequal,
    outline,
    passage,
    thin_laminate_screws,
    structural_on_blocks,
    blocks_too_weak,
    screw_through,
    no_limber,
    readings_too_sparse,
    sharp_opening,
    wrong_side,
    meets_nothing,
    carried_by_nothing,
    span_too_wide,
    joint_in_air,
    in_the_way,
    rail_too_narrow,
    no_lift_hole,
    no_room_to_swell,
    beam_too_shallow,
    beam_end_in_air,
    mirrored_unchecked,
    other_side_unread,
    reaches_into_another,
    room_for_people,
    leans_on_what_goes,
    bearing_too_narrow,
    skins_unequal,
    hole_placed_badly,
    edge_too_thin,
    lid_too_loose,
    pattern_advised,
    sheet_too_small,
    changed_since_cut,
    cut_and_gone,
    offcut_nearly_fits,
    no_bar,
    length_uncuttable,
    not_computed
};
inline constexpr std::size_t check_count = static_cast<std::size_t>(CheckId::not_computed) + 1;

struct Check {
    CheckId which;
    std::string_view id;     ///< in files; never changes
    std::string_view title;  ///< what it finds
    LooksAt looks_at;
    MendedIn step;
    Severity worst;  ///< how severe its findings are at most
};

const std::array<Check, check_count>& checks();
inline const Check& check_of(CheckId which) {
    return checks()[static_cast<std::size_t>(which)];
}
/// Whether a job's file means this check by these words; before there were ids they stood there with spaces.
bool is_named(const Check& check, std::string_view in_file);
/// docs/checks.md, the whole of it.
std::string table_of_checks();

}  // namespace bevelsmith::review
