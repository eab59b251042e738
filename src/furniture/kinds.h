// What is known of each kind of unit, in one place: a new kind is a value of UnitKind, a record here and its builder.
#pragma once

#include <vector>

#include "furniture/unit.h"

namespace bevelsmith::furniture {

class Builder;

/// Where a kind stands.
enum class Stands {
    along_a_side,   ///< against the hull of one side
    both_sides,     ///< about the centre line
    both_or_half,   ///< from side to side, or one half of it (UnitSpec::half)
    free_standing,  ///< about the centre line where `front_mm` is 0, else on one side of it, clear of the hull
};

/// What is set across it.
enum class Across {
    nothing,
    dividers,       ///< one where it is longer than a top carries a person
    beams,          ///< of a sole
    beyond_infill,  ///< dividers, forward of the infill
};

/// How it is fitted between what is known of the boat.
enum class Fits { against_hull, on_the_hull_above, under_all, about_the_middle, in_the_bow, free };

/// What people do with it, which says what room they want there.
enum class Use { nothing, lying, sitting, walking, reaching, eating };

/// Which way people pass it where no sole is drawn.
enum class Passed { not_told, before_it, beside_it };

/// One of its numbers as a person sets it.
struct NumberField {
    double UnitSpec::*member;
    const char* label;
    double least = 0, most = 0;  ///< mm; both 0: any place in the boat
};

/// A board of its picture, in a field of 62 by 40, y down: corners in turn.
using PictureBoard = std::vector<Vec2>;

struct Kind {
    UnitKind kind;
    const char* id;  ///< in files: it never changes
    const char *name, *words,
        *usual;  ///< what it is called, what it is, the numbers that are usual (common practice)
    Stands stands;
    Across across;
    Fits fits;
    Use use;
    Passed passed;
    bool on_the_sole;             ///< its foot is the sole's upper face, which others stand on as well
    const char* level;            ///< the part that is used: "top", "sole"
    const char* level_is;         ///< what kind of piece that is: "worktop"
    double usual_depth_mm = 500;  ///< from its front to the hull, where there is room
    double usual_share = 0.5;     ///< of the known length of the boat: where it stands when nobody says
    bool lids = false;            ///< has lift-outs
    std::vector<NumberField> numbers{};
    void (*usual_numbers)(UnitSpec&) = nullptr;
    void (*build)(Builder&) = nullptr;
    std::vector<PictureBoard> picture{};
    bool seen_from_above = false;  ///< the picture is, in place of a section of the boat
};

/// In the order in which they are offered.
const std::vector<Kind>& kinds();
const Kind& kind_of(UnitKind kind);
inline const Kind& kind_of(const UnitSpec& unit) {
    return kind_of(unit.kind);
}

/// Whether it stands on both sides of the centre line as it is: such a unit has no like on the other side.
bool stands_on_both(const UnitSpec& unit);
/// Whether a number may be below nothing: a place in the boat, not a size.
bool is_place(double UnitSpec::*member);

}  // namespace bevelsmith::furniture
