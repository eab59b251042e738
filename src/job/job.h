// A job: what a person told us about a boat and the work on her. Nothing computed is kept here.
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "fixing/plan.h"
#include "furniture/room.h"
#include "furniture/unit.h"
#include "hull/fit.h"
#include "piece/fitting.h"
#include "practice/boat.h"
#include "sheets/layout.h"
#include "sheets/lengths.h"
#include "stock/material.h"
#include "stock/offcut.h"
#include "survey/datum.h"
#include "survey/reading.h"
#include "survey/reference_mark.h"
#include "units/quantity.h"
#include "weight/weight.h"

namespace bevelsmith::job {

/// 2: units, edges that meet other pieces, planes and free lines.
inline constexpr int current_version = 2;

/// Fields of a file that this program does not know, by name, as JSON text: kept and written back.
using UnknownFields = std::map<std::string, std::string>;

struct Boat {
    std::string name;
    double length_mm = 0;
    fixing::Shell shell;
    piece::Passage passage;
    weight::Hydrostatics hydrostatics;
    UnknownFields unknown;
    bool operator==(const Boat&) const = default;
};

/// A surface of the boat's inside, fitted to the readings that name it.
struct SurfaceSpec {
    std::string id;
    std::string name;
    hull::ChartChoice chart = hull::ChartChoice::automatic;
    hull::SurfacePart part = hull::SurfacePart::hull;
    std::optional<Vec3> inside;                 ///< a point inside the boat, where a person said which side it is
    std::optional<double> allowed_residual_mm;  ///< fairer or closer than the readings themselves say
    std::vector<hull::Layer> layers;            ///< what lies on the surface and carries the joinery
    hull::Corners corners;                      ///< how the layers turn at chines and the keel
    piece::Role role = piece::Role::made;       ///< an old lining that was read may come out
    UnknownFields unknown;
    bool operator==(const SurfaceSpec&) const = default;
};

struct JobReadingSet : survey::ReadingSet {
    UnknownFields unknown;
    bool operator==(const JobReadingSet&) const = default;
};

/// A piece, or a trial pattern of it, offered up in the boat: what was seen along its edges.
struct Fitting {
    bool of_pattern = false;  ///< a trial pattern in thin sheet; the good sheet is not cut yet
    std::vector<piece::FitReading> readings;
    double forecast_mm = 0;  ///< what one cut in twenty was to be off by when it was offered up; 0: not known
    /// Both faces as it was cut, in its drawing.
    piece::Offered offered;
    std::vector<std::string> set_ids;  ///< of the readings that it gave the surfaces: where these truly run
    bool operator==(const Fitting&) const = default;
};

struct JobPiece : piece::PieceSpec {
    std::optional<fixing::Method> fixing;  ///< chosen by hand
    std::string stage = "planned";         ///< planned, measured, pattern, cut, tried, finished, fixed
    std::vector<Fitting> fittings;         ///< in their order
    std::string finishing;                 ///< of what goes back: what it needs before it does
    std::string pattern_material;          ///< the thin sheet that its trial pattern is cut from; empty: none is made
    UnknownFields unknown;

    // Compiled once, not in every file in which one is copied.
    JobPiece();
    JobPiece(const JobPiece&);
    JobPiece(JobPiece&&) noexcept;
    JobPiece& operator=(const JobPiece&);
    JobPiece& operator=(JobPiece&&) noexcept;
    ~JobPiece();
    bool operator==(const JobPiece&) const;
};

/// A unit of furniture: its numbers, and what a person changed of its pieces.
struct JobUnit : furniture::UnitSpec {
    /// By part ("front"): a JSON Patch (RFC 6902) on the piece as the numbers give it, as text.
    std::map<std::string, std::string> adjusted;
    UnknownFields unknown;
    bool operator==(const JobUnit&) const = default;
};

/// What pieces are cut around.
struct JobObstacle : piece::Obstacle {
    /// Where given, the path is that of the set's readings (a stringer that was read as a hard line).
    std::string set_id;
    UnknownFields unknown;
    bool operator==(const JobObstacle&) const = default;
};

/// Holes that belong together.
struct JobPattern : piece::HolePattern {
    UnknownFields unknown;
    bool operator==(const JobPattern&) const = default;
};

struct JobMaterial : stock::SheetMaterial {
    UnknownFields unknown;
    bool operator==(const JobMaterial&) const = default;
};

struct JobOffcut : stock::Offcut {
    UnknownFields unknown;
    bool operator==(const JobOffcut&) const = default;
};

struct JobBar : stock::Bar {
    UnknownFields unknown;
    bool operator==(const JobBar&) const = default;
};

/// A length that somebody wants, besides those that follow from the pieces.
struct LengthWanted {
    std::string id, name, bar_id;        ///< any bar of this one's section will do
    double length_mm = 0;                ///< over its long points
    double left_deg = 0, right_deg = 0;  ///< off square; positive: long point on the near edge (sheets/lengths.h)
    sheets::EndsSeen ends_seen = sheets::EndsSeen::wide_side;
    bool as_drawn = false;  ///< a moulding: neither turned nor rolled over in the bar
    int quantity = 1;
    std::string grade;
    UnknownFields unknown;
    bool operator==(const LengthWanted&) const = default;
};

/// What a part is cut with: it decides which cuts come first, and what an inside corner needs.
enum class Tool { jigsaw, track_saw, router };

struct CuttingRules {
    double spacing_mm = 6;  ///< for the cutter and a pencil line
    double edge_margin_mm = 10;
    unsigned seed = 1;
    Tool tool = Tool::jigsaw;
    double cutter_mm = 6;            ///< diameter of a router's cutter
    double kerf_mm = 3;              ///< of the saw that lengths are cut with
    double least_offcut_mm = 150;    ///< what is narrower is not kept
    double grain_tolerance_deg = 0;  ///< how far a part may lie askew of the grain
    double reserve_percent = 10;     ///< bought besides what is needed
    bool guillotine = false;         ///< cuts from edge to edge, where all parts are rectangles
    UnknownFields unknown;
    bool operator==(const CuttingRules&) const = default;
};

/// A placement that a person keeps: by part id, so that it survives edits of other parts.
struct LockedPlacement {
    std::string part_id;
    int sheet = 0;
    double rotation_deg = 0, x_mm = 0, y_mm = 0;
    bool turned_over = false;
    bool pinned = false;  ///< stays when the rest is laid out anew
    bool operator==(const LockedPlacement&) const = default;
};

/// A layout kept for one material.
struct LockedLayout {
    std::string material_id;
    std::string name;
    bool in_use = true;               ///< the others are kept beside it, to compare
    std::vector<std::string> sheets;  ///< the offcut behind each; plain sheets where empty or beyond its end
    std::vector<LockedPlacement> placements;
    UnknownFields unknown;
    bool operator==(const LockedLayout&) const = default;
};

/// A part as it was cut: its outline where it lay on its sheet.
struct CutPart {
    std::string part_id, name;
    double rotation_deg = 0, x_mm = 0, y_mm = 0;
    bool turned_over = false;
    geometry::Polygon outline;  ///< in the sheet's frame
    bool operator==(const CutPart&) const = default;
};

/// What a sheet was in a kept layout before it was cut.
struct SheetBefore {
    std::string layout;  ///< its name; empty of the one in use
    bool in_use = true;
    int sheet = 0;                            ///< which of its sheets
    std::string offcut_id;                    ///< behind it; empty of a plain sheet
    std::vector<LockedPlacement> placements;  ///< of the parts that were cut, with their pins
    bool operator==(const SheetBefore&) const = default;
};

/// What state a piece was in.
struct StageBefore {
    std::string piece_id, stage;
    bool operator==(const StageBefore&) const = default;
};

/// A sheet or offcut that has been cut. It stays as it was, whatever becomes of the pieces.
struct CutSheet {
    std::string id, material_id;
    std::string name;  ///< "sheet", or of the offcut that it was
    geometry::Polygon shape;
    std::vector<CutPart> parts;
    bool rest_kept = false;  ///< what was left of it is in stock
    /// What marking it as cut took away, so that taking it back gives it back: the offcut's id, its places in kept
    /// layouts, the states of pieces.
    std::string offcut_id;
    std::vector<SheetBefore> before;
    std::vector<StageBefore> stages_before;
    UnknownFields unknown;
    bool operator==(const CutSheet&) const;
};

/// What money and hours are counted in.
struct Costs {
    std::string currency = "EUR";
    double hour_rate = 45;         ///< of a fitter (invented; the user's own)
    double laminating_h_m2 = 0.3;  ///< to lay one ply on one square metre (invented; the user's own)
    double cure_h = 16;            ///< until a face can be turned over or cut: overnight (common practice)
    UnknownFields unknown;
    bool operator==(const Costs&) const = default;
};

/// One way to make a group of pieces: of what, and how finished. Figures a user edits; the usual ones are invented.
struct MaterialChoice {
    std::string id, name, material_id;
    int laminated_faces = 0;
    double laminate_price_m2 = 0, laminate_kg_m2 = 0;
    int coats = 0;
    double coat_price_l = 0, coat_m2_l = 10, coat_kg_m2 = 0.1;  ///< each coat, each face not laminated
    double lipping_price_m = 0, lipping_kg_m = 0;
    double hours_m2 = 0, hours_m = 0;  ///< of faces, both counted; of edges
    UnknownFields unknown;
    bool operator==(const MaterialChoice&) const = default;
};

/// A finding that a person has looked at and set aside, with the reason.
struct SetAside {
    std::string check, piece_id, reason;
    std::string about;  ///< which of the check's findings on this piece (Finding::about); empty: all of them
    UnknownFields unknown;
    bool operator==(const SetAside&) const = default;
};

struct JobMark : survey::ReferenceMark {
    UnknownFields unknown;
    bool operator==(const JobMark&) const = default;
};

/// A job to practise on: the boat is a virtual one, and instruments are simulated.
struct Practice {
    practice::BoatSpec boat;
    double sigma_mm = 1.5;           ///< of the hand that reads
    double slip_chance = 0.02;       ///< of one reading to be plainly wrong
    std::vector<std::string> tried;  ///< pieces that were cut and offered up: their true fit is shown
    UnknownFields unknown;
    bool operator==(const Practice&) const = default;
};

struct Job {
    int version = current_version;
    std::string name;
    units::LengthUnit unit = units::LengthUnit::millimetre;
    Boat boat;
    survey::Datum datum;
    std::vector<JobMark> marks;
    std::optional<Practice> practice;
    std::vector<SurfaceSpec> surfaces;
    std::vector<JobReadingSet> readings;
    std::vector<JobMaterial> materials;
    std::vector<JobPiece> pieces;
    std::vector<JobUnit> units;
    std::vector<JobObstacle> obstacles;
    std::vector<JobPattern> patterns;
    furniture::Comfort comfort;  ///< what people want of the finished boat
    stock::Coating coating;
    fixing::Rules fixing_rules;
    CuttingRules cutting;
    int readings_next = 3;  ///< how many readings one wants proposed for the next trip, 1 to 5
    std::vector<LockedLayout> layouts;
    std::vector<JobOffcut> offcuts;
    std::vector<CutSheet> cut_sheets;
    std::vector<JobBar> bars;
    std::vector<LengthWanted> lengths;
    Costs costs;
    std::vector<MaterialChoice> choices;
    std::vector<SetAside> set_aside;
    UnknownFields unknown;

    // Compiled once, not in every file in which one is copied.
    Job();
    Job(const Job&);
    Job(Job&&) noexcept;
    Job& operator=(const Job&);
    Job& operator=(Job&&) noexcept;
    ~Job();
    bool operator==(const Job&) const;
};

/// The states of a piece, in their order.
inline constexpr const char* piece_stages[] = {"planned", "measured", "pattern", "cut", "tried", "finished", "fixed"};
/// Whether it is said to be cut, or farther on.
bool is_cut(const JobPiece& piece);

const JobPiece* find_piece(const Job& job, const std::string& id);
const JobMaterial* find_material(const Job& job, const std::string& id);
/// How thick a piece is: as measured, else its sheet with the plies of its layup (mm). 0 where its sheet is not
/// known.
double thickness_of(const Job& job, const piece::PieceSpec& piece);
/// What a square metre of it weighs bare: sheet, plies and coverings (kg). 0 where its sheet is not known.
double mass_kg_m2(const Job& job, const piece::PieceSpec& piece);
/// Of a part's trial pattern: "B1/pattern".
inline constexpr const char* pattern_suffix = "/pattern";
/// How many sheets' worth of a part are cut: its copies, each of so many sheets.
int sheets_cut(const piece::PieceSpec& piece);
/// Whether its trial pattern is still to be cut.
bool pattern_to_cut(const JobPiece& piece);
/// The readings with every direction in the boat's frame. Fails where the datum is needed and cannot be.
Result<std::vector<survey::ReadingSet>> readings_in_boat(const Job& job);
/// Whether a person has said where a set was taken and what it met.
enum class Placed { yes, not_yet };
/// Adds a set of readings under an id of its own. It lies on the surface that it names or, where there is none such,
/// on the first, which is made when there are no surfaces; what is not placed yet lies on none.
JobReadingSet& add_readings(Job& job, const survey::ReadingSet& set, Placed placed = Placed::yes);
/// An id of the form prefix + number that nothing in `taken` has.
std::string free_id(const std::string& prefix, const std::vector<std::string>& taken);

/// A name that nothing in `taken` has: "Half-bulkhead", "Half-bulkhead 2".
std::string free_name(const std::string& name, const std::vector<std::string>& taken);

/// A job with one hull surface and a usual sheet, ready for readings.
Job empty_job();

}  // namespace bevelsmith::job
