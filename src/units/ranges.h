// What numbers may enter, and why: one table for job files (docs/job.schema.json), for the readers of all other
// formats, for the command line and for the window's fields. docs/ranges.md shows it; a test holds the three
// together.
//
// The bounds are common practice, generously: they shut out slips of units and hostile files, not unusual boats.
#pragma once

#include <array>
#include <cstddef>
#include <string>
#include <string_view>

namespace bevelsmith::units {

/// A range of numbers, both ends within.
struct Range {
    std::string_view name;  ///< as in the schema's definitions
    double least = 0, most = 0;
    std::string_view unit;
    std::string_view why;
    /// False for what is not a number as well.
    constexpr bool holds(double value) const { return value >= least && value <= most; }
};

/// "250000 mm is out of range: a place lies between -200000 and 200000 mm (no boat's inside is wider than 200 m)".
std::string out_of_range(const Range& range, double value);

namespace range {
inline constexpr Range place{"place", -200'000, 200'000, "mm", "no boat's inside reaches farther than 200 m"};
inline constexpr Range length{"length", 0.1, 200'000, "mm", "a tenth of a millimetre to the longest boat"};
inline constexpr Range distance{"distance", 0, 200'000, "mm", "nothing to the longest boat"};
inline constexpr Range thickness{"thickness", 0.1, 500, "mm", "from veneer to a keelson"};
inline constexpr Range opening{"opening", 1, 20'000, "mm", "a finger hole to a hangar's door"};
inline constexpr Range notch{"notch", 1, 1'000, "mm", "drains and limber holes"};
inline constexpr Range sheet{"sheet", 10, 20'000, "mm", "an offcut worth keeping to a roll"};
inline constexpr Range gap{"gap", 0, 500, "mm", "what is wider is no gap"};
inline constexpr Range film{"film", 0, 50, "mm", "paint to thick tiles"};
inline constexpr Range core{"core", 0, 500, "mm", "0 means not measured"};
inline constexpr Range seen_gap{"seen_gap", -200, 500, "mm", "wider, and it is another piece"};
inline constexpr Range drill{"drill", 0.5, 300, "mm", "a pin to a skin fitting"};
inline constexpr Range glass_share{"glass_share", 0, 0.85, "", "0 means as is usual; pressed cloth reaches 0.7"};
inline constexpr Range plies_count{"plies_count", 1, 50, "", "of one cloth"};
inline constexpr Range sigma{"sigma", 0.001, 1'000, "mm", "a micrometre to a guess by eye"};
inline constexpr Range angle_sigma{"angle_sigma", 0.001, 45, "°", "a theodolite to a guess by eye"};
inline constexpr Range fit{"fit", 0.05, 100, "mm", "a joiner's fit to one for foam"};
inline constexpr Range lean{"lean", -45, 45, "°", "a boat that lies over farther is not measured"};
inline constexpr Range turn{"turn", -360, 360, "°", "once around"};
inline constexpr Range grain_tolerance{"grain_tolerance", 0, 45, "°", "beyond, the grain runs across"};
inline constexpr Range turns{"turns", -3'600, 3'600, "°", "ten times around"};
inline constexpr Range slope{"slope", 1, 50, "", "length over thickness of a scarf"};
inline constexpr Range density{"density", 10, 12'000, "kg/m³", "foam to lead"};
inline constexpr Range mass{"mass", 0, 10'000'000, "kg", "ships of ten thousand tonnes are not fitted out by hand"};
inline constexpr Range stability{"stability", 0, 50, "m", "metacentric heights of boats are below 5 m"};
inline constexpr Range trim_moment{"trim_moment", 0, 10'000, "t·m", "to change trim by a centimetre"};
inline constexpr Range area_mass{"area_mass", 0, 20, "kg/m²", "varnish to tiles"};
inline constexpr Range glass{"glass", 10, 5'000, "g/m²", "tissue to the heaviest mat"};
inline constexpr Range waste{"waste", 0, 5, "", "as a share of what is used"};
inline constexpr Range strip{"strip", 0, 2'000, "mm", "widths of glass tape"};
inline constexpr Range block{"block", 1, 2'000, "mm", "sides of a bonded block"};
inline constexpr Range block_spacing{"block_spacing", 20, 5'000, "mm", "closer, blocks touch"};
inline constexpr Range bond{"bond", 0.05, 50, "MPa", "weak putty to the best adhesive"};
inline constexpr Range factor{"factor", 1, 50, "", "a safety factor"};
inline constexpr Range screw_gauge{"screw_gauge", 2, 24, "", "sizes that are made"};
inline constexpr Range spacing{"spacing", 0, 500, "mm", "the widest cutter and clamp"};
inline constexpr Range lopsided{"lopsided", -200, 200, "mm", "a virtual boat that still looks like one"};
inline constexpr Range lumpy{"lumpy", 0, 50, "mm", "a virtual boat that still looks like one"};
inline constexpr Range chance{"chance", 0, 1, "", "a share"};
inline constexpr Range seed{"seed", 0, 4'294'967'295, "", "32 bits"};
inline constexpr Range stock_count{"stock_count", -1, 10'000, "", "-1 means as many as needed"};
inline constexpr Range shelf_count{"shelf_count", 0, 20, "", "one over another"};
inline constexpr Range version{"version", 1, 2, "", "formats of job files so far"};
inline constexpr Range sheet_number{"sheet_number", 0, 9'999, "", "more sheets are never laid out"};
inline constexpr Range wanted_readings{"wanted_readings", 1, 5, "", "one trip to the boat"};
inline constexpr Range meter_range{"meter_range", 1, 200'000, "mm", "what a laser meter reaches"};
inline constexpr Range cell{"cell", 0.5, 10'000, "mm", "of the grid by which a scan is thinned"};
inline constexpr Range swelling{"swelling", 0, 1, "%", "plywood to the liveliest timber"};
inline constexpr Range moisture{"moisture", 0, 30, "%", "kiln to the fibres' fill"};
inline constexpr Range vent_area{"vent_area", 0, 10'000, "cm²", "nothing to a door full of holes"};
inline constexpr Range copies{"copies", 1, 200, "", "a bracket under every shelf of a ship"};
inline constexpr Range sheets_thick{"sheets_thick", 1, 20, "", "one sheet to a thick block of them"};
inline constexpr Range cure{"cure", 0, 500, "h", "a fast adhesive to three weeks in the cold"};
inline constexpr Range span{"span", 1, 200, "", "widest span over a panel's thickness"};
inline constexpr Range price{"price", 0, 10'000'000, "", "free to a mould; in the job's own currency"};
inline constexpr Range hours{"hours", 0, 1'000, "h", "for a square metre or a metre"};
inline constexpr Range coverage{"coverage", 0.5, 100, "m²/l", "filler to stain"};
inline constexpr Range coats{"coats", 0, 30, "", "bare to piano black"};
inline constexpr Range percent{"percent", 0, 100, "%", "none to as much again"};
inline constexpr Range kerf{"kerf", 0, 20, "mm", "a knife to a chain saw"};
inline constexpr Range end_angle{"end_angle", -80, 80, "°", "beyond, it is no longer a cut across"};
inline constexpr Range bend{"bend", 0, 100'000, "mm", "0 means not known"};
inline constexpr Range modulus{"modulus", 0, 500'000, "MPa", "0 means not known; steel has 210000"};
inline constexpr Range quantity{"quantity", 1, 10'000, "", "of one length"};
inline constexpr Range seconds{"seconds", 0, 86'400, "s", "a day"};

inline constexpr std::array all{
    place,       length,   distance,      thickness,   opening,      notch,       sheet,        gap,
    film,        sigma,    angle_sigma,   fit,         lean,         turn,        turns,        grain_tolerance,
    slope,       density,  mass,          stability,   trim_moment,  area_mass,   glass,        waste,
    strip,       block,    block_spacing, bond,        factor,       screw_gauge, spacing,      lopsided,
    lumpy,       chance,   seed,          stock_count, shelf_count,  version,     sheet_number, wanted_readings,
    meter_range, cell,     vent_area,     copies,      sheets_thick, cure,        span,         seconds,
    swelling,    moisture, price,         hours,       coverage,     coats,       percent,      kerf,
    end_angle,   bend,     modulus,       quantity,    core,         seen_gap,    drill,        glass_share,
    plies_count};
}  // namespace range

/// How many of a thing there may be.
struct Limit {
    std::string_view name;  ///< "pieces of a job"
    std::size_t most = 0;
    std::string_view why;
};

namespace limit {
inline constexpr Limit job_bytes{"bytes of a job file", 32u << 20, "half a million readings"};
inline constexpr Limit table_bytes{"bytes of a file of readings", 64u << 20, "a million readings"};
inline constexpr Limit cloud_bytes{"bytes of a scan", 256u << 20, "ten million points"};
inline constexpr Limit parts_bytes{"bytes of a parts file", 16u << 20, "all corners that are allowed"};
inline constexpr Limit line_bytes{"bytes of a line of text", 65'536, "a line is one reading or point"};
inline constexpr Limit table_rows{"lines of a table", 1'000'000, "they stand in memory; thin a scan with cloud"};
inline constexpr Limit columns{"columns of a table", 500, "what a person can choose from"};
inline constexpr Limit text{"bytes of a name or note", 4'000, "two pages"};
inline constexpr Limit surfaces{"surfaces of a job", 50, "each is fitted whole"};
inline constexpr Limit layers{"layers on a surface", 50, "insulation to lining"};
inline constexpr Limit sets{"sets of readings", 2'000, "each is listed by name"};
inline constexpr Limit readings{"readings of a set", 100'000, "thin a scan before (File of a scan, or cloud)"};
inline constexpr Limit job_readings{"readings of a job", 200'000, "a fit of these takes seconds"};
inline constexpr Limit again{"repeats of a reading", 20, "more say no more"};
inline constexpr Limit stick_marks{"marks on a tick stick", 100, "a mark each few centimetres"};
inline constexpr Limit marks{"reference marks", 1'000, "each is listed by name"};
inline constexpr Limit materials{"materials of a job", 200, "each is laid out by itself"};
inline constexpr Limit pieces{"pieces of a job", 500, "a large boat has two hundred"};
inline constexpr Limit units{"units of a job", 200, "each is several pieces"};
inline constexpr Limit dividers{"dividers of a unit", 50, "one a hand's breadth"};
inline constexpr Limit free_points{"points of a free edge", 200, "a batten has ten pins"};
inline constexpr Limit edges{"edges of a piece", 40, "a free edge has one"};
inline constexpr Limit openings{"openings of a piece", 200, "rows of vent holes included"};
inline constexpr Limit limbers{"limber notches of a piece", 50, "one a low point"};
inline constexpr Limit joints{"joints of a piece", 40, "more, and it is another piece"};
inline constexpr Limit hole_rows{"rows of holes of a piece", 20, "each is a field of holes"};
inline constexpr Limit crossings{"pieces that go through a piece", 20, "more leave no wood"};
inline constexpr Limit obstacles{"obstacles of a job", 200, "each is listed by name"};
inline constexpr Limit obstacle_points{"points of an obstacle's path", 500,
                                       "a stringer has a station each hand's breadth"};
inline constexpr Limit fittings{"fittings of a piece", 50, "more trips, and it is another piece"};
inline constexpr Limit fit_readings{"readings of a fitting", 400, "one each 50 mm along 20 m"};
inline constexpr Limit patterns{"patterns of holes", 200, "each is listed by name"};
inline constexpr Limit pattern_holes{"holes of a pattern", 500, "each is drilled by hand"};
inline constexpr Limit piece_patterns{"patterns on a piece", 50, "each is listed by name"};
inline constexpr Limit plies{"cloths on a face", 20, "each has its line"};
inline constexpr Limit layouts{"kept layouts", 200, "one a material"};
inline constexpr Limit placements{"placements of a kept layout", 20'000, "one a part"};
inline constexpr Limit offcuts{"offcuts in stock", 500, "each is tried at every layout"};
inline constexpr Limit cut_sheets{"sheets that are cut", 2'000, "a year's work of a shop"};
inline constexpr Limit bars{"kinds of lengths in stock", 200, "each is listed by name"};
inline constexpr Limit lengths{"lengths wanted", 2'000, "each is listed by name"};
inline constexpr Limit choices{"choices to compare", 50, "each is a mark in one picture"};
inline constexpr Limit catalogue{"materials of a catalogue", 1'000, "each is listed by name"};
inline constexpr Limit bar_cuts{"lengths to cut of one section", 1'000, "copies counted"};
inline constexpr Limit set_aside{"findings set aside", 5'000, "each has its reason"};
inline constexpr Limit section_points{"points of a section", 20'000, "10 mm apart along 200 m"};
inline constexpr Limit blocks{"blocks along an edge", 400, "closer than 50 mm along 20 m they touch"};
inline constexpr Limit cloud_points{"points of a scan", 10'000'000, "they stand in memory"};
inline constexpr Limit ply_elements{"elements of a PLY header", 64, "a scan has two or three"};
inline constexpr Limit ply_list{"entries of a PLY list", 1'000'000, "a face has a few corners"};
inline constexpr Limit nest_parts{"parts of a parts file", 5'000, "kinds of part"};
inline constexpr Limit nest_copies{"parts to lay out, copies counted", 10'000, "a year's work of a shop"};
inline constexpr Limit nest_sheets{"sheets and offcuts of a parts file", 1'000, "each has its own shape"};
inline constexpr Limit nest_rotations{"angles of a part", 72, "every five degrees"};
inline constexpr Limit ring_corners{"corners of an outline", 5'000, "flatten curves to 0.1 mm, not finer"};
inline constexpr Limit nest_corners{"corners of a parts file", 200'000, "with each angle counted"};
inline constexpr Limit holes{"holes of an outline", 500, "rows of vent holes included"};

inline constexpr std::array all{
    job_bytes,     table_bytes,    cloud_bytes, parts_bytes, line_bytes,     table_rows,
    columns,       text,           surfaces,    layers,      sets,           readings,
    job_readings,  again,          stick_marks, marks,       materials,      pieces,
    units,         dividers,       free_points, edges,       openings,       limbers,
    joints,        layouts,        placements,  set_aside,   section_points, blocks,
    cloud_points,  ply_elements,   hole_rows,   crossings,   obstacles,      obstacle_points,
    ply_list,      nest_parts,     nest_copies, nest_sheets, nest_rotations, ring_corners,
    nest_corners,  holes,          offcuts,     cut_sheets,  bars,           lengths,
    choices,       catalogue,      bar_cuts,    fittings,    fit_readings,   patterns,
    pattern_holes, piece_patterns, plies};
}  // namespace limit

/// "700 is too many: pieces of a job are at most 500 (a large boat has two hundred)".
std::string too_many(const Limit& limit, std::size_t count);

}  // namespace bevelsmith::units
