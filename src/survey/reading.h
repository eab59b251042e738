// What a fitter writes down at the boat: sets of readings, each taken in one school of templating.
#pragma once

#include <array>
#include <optional>
#include <string>
#include <vector>

#include "geometry/vec.h"
#include "survey/own_frame.h"

namespace bevelsmith::survey {

/// How the readings of a set were taken, and so what their numbers mean (see `columns_of` for the numbers of each).
/// All but direct, laser_meter, scan and mirrored lie in one plane: `origin`, `along` (u) and `toward` (v) of the
/// set.
enum class School {
    ordinates,         ///< square distances to the surface at stations along a straight line, string or laser line
    strip_pattern,     ///< points on a pattern held in one plane
    direct,            ///< points in the boat's frame
    strip_edges,       ///< straight edges of a pattern's strips, each by two points; corners by extending them
    tick_stick,        ///< two points of the stick's traced edge, and the number of the mark
    tick_stick_angle,  ///< where the mark stood, the direction of the tip, and the number of the mark
    fixed_points,      ///< distances from two or more pins or stand points in the plane, on one side of the first two
    compass_scribe,    ///< the pencil's line on a rough blank, a constant distance off in a known direction
    traced,            ///< outline of a paper or card template, or of its photo
    laser_meter,       ///< range, turn and rise from a stand point
    bevel_gauge,       ///< the angle between the plane and the surface at a spot
    mirrored,          ///< the readings of another surface, mirrored to the boat's other side
    scan,              ///< points of a scanner, cropped and thinned, in the boat's frame
};
inline constexpr int school_count = 13;

/// One reading; see `columns_of` for what the values mean (mm, degrees).
struct Reading {
    std::array<double, 6> values{};
    /// The same reading taken again, for the mean and the spread.
    std::vector<std::array<double, 6>> again;
    std::optional<double> sigma_mm;  ///< own standard deviation; the set's when absent
    bool disabled = false;           ///< kept, but not used
    std::string mark;                ///< not empty: not on the surface, but a named mark (a divider, a beam)
    std::string note;
    bool operator==(const Reading&) const = default;
};

/// Readings that share a line, a plane or an instrument.
struct ReadingSet {
    std::string id;
    std::string name;
    School school = School::direct;
    std::string surface_id;        ///< which surface of the boat was touched
    double sigma_mm = 1.5;         ///< standard deviation of one length (common practice: hand readings 1-3 mm)
    double angle_sigma_deg = 0.5;  ///< of one angle, where the school has angles

    /// Where station 0 or (u, v) = (0, 0) is, the direction of stations or u, and that of distances or v (unit
    /// vectors, square to each other). laser_meter: the stand point, the direction of no turn, and that of a quarter
    /// turn. Unused by direct, scan and mirrored.
    Vec3 origin = Vec3::Zero();
    Vec3 along = Vec3::UnitZ();
    Vec3 toward = Vec3::UnitY();
    /// Level and plumb were the hard's, not the boat's: the directions (of direct and scan: the points themselves,
    /// about the boat's zero) are turned by the datum. `origin` is a place in the boat in either case.
    bool by_gravity = false;

    /// The set lies in a frame of its own, which marks place in the boat: for direct and scan the points themselves
    /// are in it, for laser_meter it is the instrument's (no turn, a quarter turn, up), for the others the plane's
    /// (across, up, out of it); `origin`, `along`, `toward` and `by_gravity` then say nothing.
    std::optional<OwnFrame> own_frame;

    /// A place inside the boat (of a set in its own frame: in that) from which the readings were taken, where the
    /// school does not tell it: a scanner's stand, say.
    std::optional<Vec3> stood;

    std::vector<double> stick_marks_mm;  ///< tick_stick: length from the tip to mark 1, 2, ...
    std::vector<Vec2> fixed_points;      ///< fixed_points: pins in the plane, two to four
    bool left_of_pins = true;            ///< fixed_points: which side, looking from the first pin to the second
    double scribe_mm = 0;                ///< compass_scribe: from the pencil's line to the surface
    bool hard_line = false;              ///< the readings follow a chine or other hard line of the surface
    std::string mirror_of;               ///< mirrored: the surface whose readings are taken over

    std::vector<Reading> readings;

    // Compiled once, not in every file in which one is copied.
    ReadingSet();
    ReadingSet(const ReadingSet&);
    ReadingSet(ReadingSet&&) noexcept;
    ReadingSet& operator=(const ReadingSet&);
    ReadingSet& operator=(ReadingSet&&) noexcept;
    ~ReadingSet();
    bool operator==(const ReadingSet&) const;
};

}  // namespace bevelsmith::survey
