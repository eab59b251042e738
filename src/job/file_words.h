// The words of enumerators in a job's file, each beside its enumerator; they never change. For job_file.cpp alone.
#pragma once

#include "job/job.h"
#include "survey/instruments.h"
#include "units/enum_words.h"

namespace bevelsmith::job {

/// By the enumerators' numbers. A missing, doubled or misplaced one does not compile.
template <class E>
constexpr auto names_of();
template <>
constexpr auto names_of<units::LengthUnit>() {
    using E = units::LengthUnit;
    return units::words<E>({{E::millimetre, "mm"},
                            {E::centimetre, "cm"},
                            {E::metre, "m"},
                            {E::inch, "in"},
                            {E::feet_inches, "ft"},
                            {E::inch_sixteenths, "in 1/16"},
                            {E::inch_thirty_seconds, "in 1/32"}});
}
template <>
constexpr auto names_of<hull::ChartChoice>() {
    using E = hull::ChartChoice;
    return units::words<E>({{E::automatic, "auto"}, {E::axis, "axis"}, {E::plane, "plane"}});
}
template <>
constexpr auto names_of<hull::SurfacePart>() {
    using E = hull::SurfacePart;
    return units::words<E>({{E::hull, "hull"},
                            {E::deckhead, "deckhead"},
                            {E::sole, "sole"},
                            {E::transom, "transom"},
                            {E::bulkhead, "bulkhead"}});
}
template <>
constexpr auto names_of<hull::CornerKind>() {
    using E = hull::CornerKind;
    return units::words<E>({{E::mitred, "mitred"}, {E::rounded, "rounded"}, {E::filled, "filled"}});
}
template <>
constexpr auto names_of<survey::School>() {
    static_assert(units::covers<survey::School, survey::school_ids.size()>());
    return survey::school_ids;
}
template <>
constexpr auto names_of<survey::Datum::Known>() {
    using E = survey::Datum::Known;
    return units::words<E>({{E::upright, "upright"},
                            {E::two_levels, "two levels"},
                            {E::three_points, "three points"},
                            {E::bulkhead, "bulkhead"}});
}
template <>
constexpr auto names_of<practice::HullForm>() {
    using E = practice::HullForm;
    return units::words<E>(
        {{E::round_bilge, "round bilge"}, {E::hard_chine, "hard chine"}, {E::flared_bow, "flared bow"}});
}
template <>
constexpr auto names_of<piece::EdgeKind>() {
    using E = piece::EdgeKind;
    return units::words<E>({{E::scribed, "surface"},
                            {E::straight, "line"},
                            {E::piece, "piece"},
                            {E::plane, "plane"},
                            {E::free, "nothing"}});
}
template <>
constexpr auto names_of<piece::Meeting>() {
    using E = piece::Meeting;
    return units::words<E>({{E::stops, "stops"}, {E::covers, "covers"}});
}
template <>
constexpr auto names_of<piece::KeptSide>() {
    using E = piece::KeptSide;
    return units::words<E>(
        {{E::by_place, "by place"}, {E::before_a, "before its face A"}, {E::beyond_b, "beyond its face B"}});
}
template <>
constexpr auto names_of<piece::OpeningUse>() {
    using E = piece::OpeningUse;
    return units::words<E>({{E::opening, "opening"}, {E::hatch, "hatch"}, {E::wire_way, "wire way"}});
}
template <>
constexpr auto names_of<piece::LidFrom>() {
    using E = piece::LidFrom;
    return units::words<E>({{E::none, "none"}, {E::own_opening, "own opening"}, {E::the_sheet, "the sheet"}});
}
template <>
constexpr auto names_of<piece::Crossing>() {
    using E = piece::Crossing;
    return units::words<E>({{E::slot, "slot"}, {E::half_upper, "halved above"}, {E::half_lower, "halved below"}});
}
template <>
constexpr auto names_of<piece::Role>() {
    using E = piece::Role;
    return units::words<E>({{E::made, "new"},
                            {E::stays, "stays"},
                            {E::comes_out, "comes out"},
                            {E::goes_back, "goes back"},
                            {E::replaced, "replaced"}});
}
template <>
constexpr auto names_of<piece::Noticed>() {
    using E = piece::Noticed;
    return units::words<E>({{E::gap, "gap"}, {E::touches, "touches"}, {E::rocks, "rocks"}});
}
template <>
constexpr auto names_of<piece::HoleKind>() {
    using E = piece::HoleKind;
    return units::words<E>(
        {{E::plain, "plain"}, {E::countersunk, "countersunk"}, {E::tapped, "tapped"}, {E::insert, "insert"}});
}
template <>
constexpr auto names_of<stock::EdgeClosing>() {
    using E = stock::EdgeClosing;
    return units::words<E>({{E::open, "open"}, {E::solid, "solid"}, {E::filled, "filled"}, {E::wrapped, "wrapped"}});
}
template <>
constexpr auto names_of<piece::Section>() {
    using E = piece::Section;
    return units::words<E>({{E::round, "round"}, {E::square, "square"}});
}
template <>
constexpr auto names_of<furniture::UnitKind>() {
    using E = furniture::UnitKind;
    return units::words<E>({{E::settee, "settee"},
                            {E::berth, "berth"},
                            {E::counter, "counter"},
                            {E::locker, "locker"},
                            {E::shelves, "shelves"},
                            {E::sole, "sole"},
                            {E::engine_box, "engine box"},
                            {E::v_berth, "v-berth"},
                            {E::table, "table"}});
}
template <>
constexpr auto names_of<furniture::Side>() {
    using E = furniture::Side;
    return units::words<E>({{E::port, "port"}, {E::starboard, "starboard"}});
}
template <>
constexpr auto names_of<piece::JointKind>() {
    using E = piece::JointKind;
    return units::words<E>({{E::butt, "butt"},
                            {E::butt_strap, "butt strap"},
                            {E::scarf, "scarf"},
                            {E::half_lap, "half lap"},
                            {E::tongue_groove, "tongue and groove"},
                            {E::loose_spline, "spline"},
                            {E::landing, "on a divider"}});
}
template <>
constexpr auto names_of<sheets::EndsSeen>() {
    using E = sheets::EndsSeen;
    return units::words<E>({{E::wide_side, "wide side"}, {E::narrow_side, "narrow side"}});
}
template <>
constexpr auto names_of<Tool>() {
    using E = Tool;
    return units::words<E>({{E::jigsaw, "jigsaw"}, {E::track_saw, "track saw"}, {E::router, "router"}});
}
template <>
constexpr auto names_of<piece::Face>() {
    using E = piece::Face;
    return units::words<E>({{E::a, "a"}, {E::b, "b"}});
}
template <>
constexpr auto names_of<stock::GlassKind>() {
    using E = stock::GlassKind;
    return units::words<E>({{E::mat, "mat"}, {E::woven, "woven"}, {E::biaxial, "biaxial"}});
}
template <>
constexpr auto names_of<fixing::Construction>() {
    using E = fixing::Construction;
    return units::words<E>({{E::unsaid, "unsaid"},
                            {E::laminate, "laminate"},
                            {E::cored, "cored"},
                            {E::timber, "timber"},
                            {E::metal, "metal"}});
}
template <>
constexpr auto names_of<fixing::Method>() {
    using E = fixing::Method;
    return units::words<E>({{E::tabbing, "tabbing"}, {E::bonded_blocks, "blocks"}});
}

}  // namespace bevelsmith::job
