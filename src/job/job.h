// A job: what a person told us about a boat and the work on her. Nothing computed is kept here.
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "fixing/plan.h"
#include "furniture/unit.h"
#include "hull/fit.h"
#include "piece/spec.h"
#include "practice/boat.h"
#include "sheets/layout.h"
#include "stock/material.h"
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
    UnknownFields unknown;
    bool operator==(const SurfaceSpec&) const = default;
};

struct JobReadingSet : survey::ReadingSet {
    UnknownFields unknown;
    bool operator==(const JobReadingSet&) const = default;
};

struct JobPiece : piece::PieceSpec {
    std::optional<fixing::Method> fixing;  ///< chosen by hand
    std::string stage = "planned";         ///< planned, measured, cut, tried, finished, fixed
    UnknownFields unknown;
    bool operator==(const JobPiece&) const = default;
};

/// A unit of furniture: its numbers, and what a person changed of its pieces.
struct JobUnit : furniture::UnitSpec {
    /// By part ("front"): a JSON Patch (RFC 6902) on the piece as the numbers give it, as text.
    std::map<std::string, std::string> adjusted;
    UnknownFields unknown;
    bool operator==(const JobUnit&) const = default;
};

struct JobMaterial : stock::SheetMaterial {
    UnknownFields unknown;
    bool operator==(const JobMaterial&) const = default;
};

struct CuttingRules {
    double spacing_mm = 6;  ///< for the cutter and a pencil line
    double edge_margin_mm = 10;
    unsigned seed = 1;
    UnknownFields unknown;
    bool operator==(const CuttingRules&) const = default;
};

/// A placement that a person keeps: by part id, so that it survives edits of other parts.
struct LockedPlacement {
    std::string part_id;
    int sheet = 0;
    double rotation_deg = 0, x_mm = 0, y_mm = 0;
    bool operator==(const LockedPlacement&) const = default;
};

/// A layout kept for one material.
struct LockedLayout {
    std::string material_id;
    std::vector<LockedPlacement> placements;
    UnknownFields unknown;
    bool operator==(const LockedLayout&) const = default;
};

/// A finding that a person has looked at and set aside, with the reason.
struct SetAside {
    std::string check, piece_id, reason;
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
    stock::Coating coating;
    fixing::Rules fixing_rules;
    CuttingRules cutting;
    int readings_next = 3;  ///< how many readings one wants proposed for the next trip, 1 to 5
    std::vector<LockedLayout> layouts;
    std::vector<SetAside> set_aside;
    UnknownFields unknown;
    bool operator==(const Job&) const = default;
};

/// The states of a piece, in their order.
inline constexpr const char* piece_stages[] = {"planned", "measured", "cut", "tried", "finished", "fixed"};

const JobPiece* find_piece(const Job& job, const std::string& id);
const JobMaterial* find_material(const Job& job, const std::string& id);
/// The readings with every direction in the boat's frame. Fails where the datum is needed and cannot be.
Result<std::vector<survey::ReadingSet>> readings_in_boat(const Job& job);
/// Whether a person has said where a set was taken and what it met.
enum class Placed { yes, not_yet };
/// Adds a set of readings under an id of its own. It lies on the surface that it names or, where there is none such,
/// on the first, which is made when there are no surfaces; what is not placed yet lies on none.
JobReadingSet& add_readings(Job& job, const survey::ReadingSet& set, Placed placed = Placed::yes);
/// An id of the form prefix + number that nothing in `taken` has.
std::string free_id(const std::string& prefix, const std::vector<std::string>& taken);

/// A job with one hull surface and a usual sheet, ready for readings.
Job empty_job();

}  // namespace bevelsmith::job
