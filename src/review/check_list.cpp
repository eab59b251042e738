#include "review/check_list.h"

#include <fmt/format.h>

#include <algorithm>

namespace bevelsmith::review {
namespace {

constexpr std::array<Check, check_count> all{{
    {CheckId::surface, "surface", "No surface can be made of its readings", LooksAt::surface, MendedIn::measure,
     Severity::stop},
    {CheckId::suspect_readings, "suspect-readings", "Readings that do not fit the others", LooksAt::surface,
     MendedIn::measure, Severity::mind},
    {CheckId::stray_set, "stray-set", "A set that as a whole does not lie where the others do", LooksAt::set,
     MendedIn::measure, Severity::mind},
    {CheckId::inside, "inside", "Which side of the surface is the boat's inside", LooksAt::surface, MendedIn::measure,
     Severity::stop},
    {CheckId::not_placed, "not-placed", "A set in a frame of its own that no marks place", LooksAt::set,
     MendedIn::measure, Severity::mind},
    {CheckId::marks_disagree, "marks-disagree", "Marks that place a set do not agree", LooksAt::set,
     MendedIn::measure, Severity::mind},
    {CheckId::chine_not_entered, "chine-not-entered", "A chine or keel that nobody entered", LooksAt::surface,
     MendedIn::shape, Severity::mind},
    {CheckId::readings_scatter, "readings-scatter", "Readings that scatter far more than was said of them",
     LooksAt::surface, MendedIn::shape, Severity::mind},
    {CheckId::keel_unread, "keel-unread", "A bottom that may turn at a keel nobody read", LooksAt::surface,
     MendedIn::measure, Severity::mind},
    {CheckId::sides_unequal, "sides-unequal", "A mirrored side is not like the other", LooksAt::surface,
     MendedIn::shape, Severity::mind},
    {CheckId::outline, "outline", "A piece has no outline", LooksAt::piece, MendedIn::pieces, Severity::stop},
    {CheckId::passage, "passage", "A part does not go in through the way in", LooksAt::piece, MendedIn::pieces,
     Severity::stop},
    {CheckId::thin_laminate_screws, "thin-laminate-screws", "Screws into a laminate too thin to hold them",
     LooksAt::piece, MendedIn::fix, Severity::stop},
    {CheckId::structural_on_blocks, "block-under-a-structural-piece", "A structural piece held by removable blocks",
     LooksAt::piece, MendedIn::fix, Severity::stop},
    {CheckId::blocks_too_weak, "blocks-do-not-carry-it", "Blocks that do not carry what is on them", LooksAt::piece,
     MendedIn::fix, Severity::stop},
    {CheckId::screw_through, "screw-through", "A screw that goes through, or into what lies behind", LooksAt::piece,
     MendedIn::fix, Severity::stop},
    {CheckId::no_limber, "missing-limber-notch", "No way for bilge water through a bulkhead", LooksAt::piece,
     MendedIn::pieces, Severity::mind},
    {CheckId::readings_too_sparse, "readings-too-sparse", "An edge that the readings tell too little of",
     LooksAt::piece, MendedIn::measure, Severity::stop},
    {CheckId::sharp_opening, "opening-corner-too-sharp", "An opening's corner too sharp for its panel",
     LooksAt::piece, MendedIn::pieces, Severity::stop},
    {CheckId::wrong_side, "on-the-wrong-side", "A piece that lies outside the hull", LooksAt::piece, MendedIn::pieces,
     Severity::stop},
    {CheckId::meets_nothing, "meets-nothing", "An edge that ends in the air", LooksAt::piece, MendedIn::pieces,
     Severity::mind},
    {CheckId::carried_by_nothing, "carried-by-nothing", "A panel that nothing carries", LooksAt::piece,
     MendedIn::pieces, Severity::stop},
    {CheckId::span_too_wide, "span-too-wide", "A span too wide for the panel's thickness", LooksAt::piece,
     MendedIn::pieces, Severity::mind},
    {CheckId::joint_in_air, "joint-in-the-air", "A joint with nothing under it", LooksAt::piece, MendedIn::pieces,
     Severity::mind},
    {CheckId::in_the_way, "in-the-way", "Something stands in the piece's way", LooksAt::piece, MendedIn::pieces,
     Severity::stop},
    {CheckId::rail_too_narrow, "rail-too-narrow", "Too little wood left beside an opening", LooksAt::piece,
     MendedIn::pieces, Severity::mind},
    {CheckId::no_lift_hole, "no-hole-to-lift-by", "A lid that no finger lifts", LooksAt::piece, MendedIn::pieces,
     Severity::note},
    {CheckId::no_room_to_swell, "no-room-to-swell", "Solid wood without room to swell", LooksAt::piece,
     MendedIn::pieces, Severity::mind},
    {CheckId::beam_too_shallow, "beam-too-shallow", "A beam too shallow for what crosses it", LooksAt::piece,
     MendedIn::pieces, Severity::mind},
    {CheckId::beam_end_in_air, "beam-end-in-the-air", "A beam's end that rests on nothing", LooksAt::piece,
     MendedIn::pieces, Severity::stop},
    {CheckId::mirrored_unchecked, "mirrored-and-not-checked", "Cut to the other side's readings, unchecked",
     LooksAt::piece, MendedIn::pieces, Severity::mind},
    {CheckId::other_side_unread, "other-side-not-read", "A piece on a side that nobody has read", LooksAt::piece,
     MendedIn::pieces, Severity::stop},
    {CheckId::reaches_into_another, "reaches-into-another", "Two pieces that want the same place", LooksAt::piece,
     MendedIn::pieces, Severity::stop},
    {CheckId::room_for_people, "room-for-people", "Too little room to lie, sit, stand or pass", LooksAt::unit,
     MendedIn::pieces, Severity::mind},
    {CheckId::leans_on_what_goes, "leans-on-what-comes-out", "A piece that leans on something that comes out",
     LooksAt::piece, MendedIn::pieces, Severity::stop},
    {CheckId::bearing_too_narrow, "bearing-too-narrow", "A level panel that lies too narrow on what carries it",
     LooksAt::piece, MendedIn::pieces, Severity::mind},
    {CheckId::skins_unequal, "skins-unequal", "A laminated panel whose skins are not alike", LooksAt::piece,
     MendedIn::pieces, Severity::mind},
    {CheckId::hole_placed_badly, "hole-placed-badly", "A hole at an edge, at an old hole, or towards something",
     LooksAt::piece, MendedIn::pieces, Severity::stop},
    {CheckId::edge_too_thin, "edge-too-thin", "A lipping or trim too narrow for what is done to it", LooksAt::piece,
     MendedIn::pieces, Severity::mind},
    {CheckId::lid_too_loose, "lid-too-loose", "A lid from its own opening that the saw leaves loose", LooksAt::piece,
     MendedIn::pieces, Severity::mind},
    {CheckId::pattern_advised, "trial-pattern-advised", "A fit that is worth a trial pattern", LooksAt::piece,
     MendedIn::pieces, Severity::note},
    {CheckId::sheet_too_small, "sheet-too-small", "A part larger than the sheet it is cut from", LooksAt::sheet,
     MendedIn::cut, Severity::stop},
    {CheckId::changed_since_cut, "changed-since-it-was-cut", "A piece changed after it was cut", LooksAt::piece,
     MendedIn::cut, Severity::stop},
    {CheckId::cut_and_gone, "cut-and-part-of-nothing", "Something cut that belongs to no piece any more",
     LooksAt::sheet, MendedIn::cut, Severity::mind},
    {CheckId::offcut_nearly_fits, "offcut-nearly-fits", "A part that lacks a little to come out of an offcut",
     LooksAt::sheet, MendedIn::cut, Severity::note},
    {CheckId::no_bar, "no-bar-for-a-length", "A length that no stock is long enough for", LooksAt::sheet,
     MendedIn::cut, Severity::mind},
    {CheckId::length_uncuttable, "a-length-that-cannot-be-cut", "A length that the saw's ways do not give",
     LooksAt::sheet, MendedIn::cut, Severity::mind},
    {CheckId::not_computed, "not-computed", "Something failed in the computation", LooksAt::piece, MendedIn::pieces,
     Severity::stop},
}};

constexpr bool in_order() {
    for (std::size_t k = 0; k < all.size(); ++k)
        if (static_cast<std::size_t>(all[k].which) != k) return false;
    return true;
}
static_assert(in_order(), "a record stands where its CheckId says");

constexpr std::string_view word_of(MendedIn step) {
    constexpr std::array<std::string_view, 5> words{"Measure", "Shape", "Pieces", "Fix", "Cut"};
    return words[static_cast<std::size_t>(step)];
}

constexpr std::string_view word_of(LooksAt what) {
    constexpr std::array<std::string_view, 5> words{"set", "surface", "piece", "unit", "sheet"};
    return words[static_cast<std::size_t>(what)];
}

}  // namespace

std::string_view severity_word(Severity s) {
    return s == Severity::stop ? "stop" : s == Severity::mind ? "mind" : "note";
}

const std::array<Check, check_count>& checks() {
    return all;
}

bool is_named(const Check& check, std::string_view in_file) {
    return std::equal(in_file.begin(), in_file.end(), check.id.begin(), check.id.end(),
                      [](char file, char own) { return (file == ' ' ? '-' : file) == own; });
}

std::string table_of_checks() {
    std::string out =
        "# The checks\n\nWhat a second pair of eyes looks for, whatever step is shown; `bevelsmith-cli check` tells "
        "it as "
        "JSON. Made from the\nprogram's own list (`review/check_list`), which a test holds against this page.\n\n"
        "| id | what it finds | looks at | mended in | at most |\n|---|---|---|---|---|\n";
    for (const Check& c : all)
        out += fmt::format("| `{}` | {} | {} | {} | {} |\n", c.id, c.title, word_of(c.looks_at), word_of(c.step),
                           severity_word(c.worst));
    return out;
}

}  // namespace bevelsmith::review
