#include "furniture/kinds.h"

#include <algorithm>

#include "furniture/builders.h"
#include "units/ranges.h"

namespace bevelsmith::furniture {
namespace {

using U = UnitSpec;

constexpr double far_mm = units::range::place.most;
constexpr NumberField foot_field{&U::foot_mm, "foot at, up"};
constexpr NumberField height_field{&U::height_mm, "height", 10, far_mm};
constexpr NumberField front_field{&U::front_mm, "front from centre line", 0, far_mm};
constexpr NumberField cushion_field{&U::cushion_mm, "cushion, loaded", 0, units::range::gap.most};

PictureBoard board(double x, double y, double wide, double high) {
    return {{x, y}, {x + wide, y}, {x + wide, y + high}, {x, y + high}};
}

Kind settee() {
    Kind k{UnitKind::settee,
           "settee",
           "settee",
           "A seat along the hull, lids to what is under it.",
           "seat 400 mm to 450 mm high, 450 mm to 500 mm deep",
           Stands::along_a_side,
           Across::dividers,
           Fits::against_hull,
           Use::sitting,
           Passed::before_it,
           true,
           "top",
           "seat top"};
    k.usual_depth_mm = 480, k.lids = true;
    k.numbers = {foot_field, height_field, front_field, cushion_field};
    k.usual_numbers = [](U& u) { u.lids = true, u.height_mm = 430; };
    k.build = build_box;
    k.picture = {board(42, 20, 14, 2.4), board(42, 22.4, 2.4, 11)};
    return k;
}

Kind berth() {
    Kind k{UnitKind::berth,
           "berth",
           "berth",
           "A bunk along the hull: front, top with lids, dividers.",
           "1900 mm to 2000 mm long",
           Stands::along_a_side,
           Across::dividers,
           Fits::against_hull,
           Use::lying,
           Passed::before_it,
           true,
           "top",
           "berth top"};
    k.usual_depth_mm = 650, k.lids = true;
    k.numbers = {foot_field, height_field, front_field, cushion_field};
    k.usual_numbers = [](U& u) { u.lids = true, u.height_mm = 500, u.lid_depth_mm = 350; };
    k.build = build_box;
    k.picture = {board(36, 19, 21, 2.4), board(36, 21.4, 2.4, 13)};
    return k;
}

Kind counter() {
    Kind k{UnitKind::counter,
           "counter",
           "counter",
           "A worktop with open lockers and shelves under it.",
           "850 mm to 920 mm high",
           Stands::along_a_side,
           Across::dividers,
           Fits::against_hull,
           Use::reaching,
           Passed::before_it,
           true,
           "top",
           "worktop"};
    k.usual_depth_mm = 550;
    k.numbers = {foot_field, height_field, front_field};
    k.usual_numbers = [](U& u) { u.height_mm = 900, u.overhang_mm = 20; };
    k.build = build_open_box;
    k.picture = {board(38, 9, 20, 2.4), board(40, 11.4, 2.4, 23), board(42.4, 20, 13, 1.8)};
    return k;
}

Kind locker() {
    Kind k{UnitKind::locker,
           "locker",
           "locker",
           "A hanging locker: front with a doorway, ends, top.",
           "1000 mm high or more, to hang a coat",
           Stands::along_a_side,
           Across::dividers,
           Fits::against_hull,
           Use::reaching,
           Passed::before_it,
           true,
           "top",
           "locker top"};
    k.numbers = {foot_field, height_field, front_field};
    k.usual_numbers = [](U& u) { u.height_mm = 1050, u.toe_high_mm = u.toe_deep_mm = 0, u.shelves = 0; };
    k.build = build_open_box;
    k.picture = {board(42, 5, 17, 2), board(42, 7, 2.4, 26), board(44.4, 14, 13, 1.4)};
    return k;
}

Kind shelf_run() {
    Kind k{UnitKind::shelves,
           "shelves",
           "shelves",
           "One over another along the hull, with fiddles.",
           "fiddle 40 mm high",
           Stands::along_a_side,
           Across::nothing,
           Fits::on_the_hull_above,
           Use::reaching,
           Passed::not_told,
           false,
           "shelf 1",
           "shelf"};
    k.usual_depth_mm = 220;
    k.numbers = {foot_field,
                 height_field,
                 front_field,
                 {&U::shelf_step_mm, "from shelf to shelf", 20, far_mm},
                 {&U::fiddle_mm, "fiddle over it", 0, 500}};
    k.usual_numbers = [](U& u) { u.height_mm = 700, u.shelves = 2; };
    k.build = build_shelf_run;
    k.picture = {board(46, 8, 12, 1.8), board(46, 16, 11, 1.8), board(45, 5, 1.6, 4.8), board(45, 13, 1.6, 4.8)};
    return k;
}

Kind sole() {
    Kind k{UnitKind::sole,
           "sole",
           "sole",
           "Sole, beams scribed to the hull, lift-outs between.",
           "clearance 2 mm to 3 mm a side",
           Stands::both_or_half,
           Across::beams,
           Fits::under_all,
           Use::walking,
           Passed::not_told,
           false,
           "sole",
           "sole panel"};
    k.lids = true;
    k.numbers = {{&U::foot_mm, "sole at, up"},
                 {&U::beam_depth_mm, "beams deep, 0 to the hull", 0, units::range::gap.most}};
    k.usual_numbers = [](U& u) { u.lids = true, u.height_mm = 0, u.lid_depth_mm = 500; };
    k.build = build_sole;
    k.picture = {board(12, 25, 38, 2.4), {{14, 28}, {48, 28}, {40, 34}, {22, 34}}};
    return k;
}

Kind engine_box() {
    Kind k{UnitKind::engine_box,
           "engine box",
           "engine box",
           "Ends, sides and a lift-off top about the centre line.",
           "room for hands all round",
           Stands::both_sides,
           Across::nothing,
           Fits::about_the_middle,
           Use::nothing,
           Passed::beside_it,
           true,
           "top",
           "box top"};
    k.numbers = {foot_field, height_field, front_field};
    k.usual_numbers = [](U& u) { u.front_mm = 380, u.height_mm = 650; };
    k.build = build_middle_box;
    k.picture = {board(21, 14, 20, 2.2), board(22, 16.2, 2.2, 17), board(37.8, 16.2, 2.2, 17)};
    return k;
}

Kind bow_berth() {
    Kind k{UnitKind::v_berth,
           "v-berth",
           "V-berth",
           "In the bow, with an infill that lifts out.",
           "1900 mm to 2000 mm long",
           Stands::both_or_half,
           Across::beyond_infill,
           Fits::in_the_bow,
           Use::lying,
           Passed::not_told,
           false,
           "top",
           "berth top"};
    // It lies as far forward as the boat is known.
    k.usual_share = 0.8;
    k.numbers = {foot_field,
                 height_field,
                 {&U::front_mm, "infill, half its width", 0, far_mm},
                 {&U::infill_mm, "infill reaches forward", 0, far_mm},
                 cushion_field};
    k.usual_numbers = [](U& u) { u.height_mm = 550, u.front_mm = 300; };
    k.build = build_bow_berth;
    k.picture = {{{5, 6}, {57, 6}, {36, 34}, {36, 22}, {26, 22}, {26, 34}}};
    k.seen_from_above = true;
    return k;
}

Kind table() {
    Kind k{UnitKind::table,
           "table",
           "table",
           "A top on two legs, a rail between them.",
           "700 mm to 750 mm high, 250 mm to 320 mm over a loaded seat",
           Stands::free_standing,
           Across::nothing,
           Fits::free,
           Use::eating,
           Passed::not_told,
           true,
           "top",
           "table top"};
    k.numbers = {foot_field,
                 height_field,
                 {&U::front_mm, "its middle from centre line", 0, far_mm},
                 {&U::width_mm, "wide, across the boat", 100, 3000}};
    k.usual_numbers = [](U& u) { u.height_mm = 720, u.front_mm = 0, u.from_mm = 0, u.to_mm = 1000, u.rail_mm = 150; };
    k.build = build_table;
    k.picture = {board(19, 16, 24, 2.2), board(30, 18.2, 2.4, 15)};
    return k;
}

}  // namespace

const std::vector<Kind>& kinds() {
    static const std::vector<Kind> all{settee(),    berth(), bow_berth(),  counter(), locker(),
                                       shelf_run(), sole(),  engine_box(), table()};
    return all;
}

const Kind& kind_of(UnitKind kind) {
    const auto found = std::find_if(kinds().begin(), kinds().end(), [&](const Kind& k) { return k.kind == kind; });
    return found == kinds().end() ? kinds().front() : *found;
}

bool stands_on_both(const UnitSpec& unit) {
    switch (kind_of(unit).stands) {
        case Stands::along_a_side: return false;
        case Stands::both_sides: return true;
        case Stands::both_or_half: return !unit.half;
        case Stands::free_standing: return unit.front_mm <= 0;
    }
    return false;
}

bool is_place(double UnitSpec::*member) {
    return member == &U::foot_mm || member == &U::from_mm || member == &U::to_mm || member == &U::raised_from_mm ||
           member == &U::raised_to_mm;
}

}  // namespace bevelsmith::furniture
