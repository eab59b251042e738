// What a person decides about a piece. Everything else about it is computed.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "geometry/vec.h"
#include "piece/hole_pattern.h"
#include "piece/role.h"
#include "stock/layup.h"

namespace bevelsmith::piece {

/// What an edge of a piece meets.
enum class EdgeKind {
    scribed,   ///< a surface of the boat
    straight,  ///< a straight line of the drawing
    piece,     ///< another piece
    plane,     ///< a plane of the boat: level, plumb, parallel to the centre line, aslant
    free,      ///< nothing: a line of straight runs, rounded corners and battens' curves
};

/// How a piece ends at another one.
enum class Meeting {
    stops,   ///< at the other's near face
    covers,  ///< over the other's end grain, flush with its far face
};

/// On which side of another piece an edge keeps its own. Chosen once, it holds wherever either of the two is moved.
enum class KeptSide {
    by_place,  ///< where the piece's own point lies: for as long as nobody has chosen
    before_a,  ///< on the side that the other's face A looks to
    beyond_b,  ///< on the side that its face B looks to
};

/// A point of a free edge.
struct FreePoint {
    Vec2 at{0, 0};
    double radius_mm = 0;  ///< of the corner at it
    bool smooth = false;   ///< a pin that a batten runs through
    bool operator==(const FreePoint&) const = default;
};

/// One edge: a limit of the piece's plane. What all of them leave is the piece.
struct EdgeSpec {
    EdgeKind kind = EdgeKind::scribed;
    std::string name;
    std::string surface_id;  ///< scribed: which surface
    /// straight: the edge lies where `side`·(u, v) = at_mm in the piece's drawing, and the piece on the lower side.
    Vec2 side{0, 1};
    double at_mm = 0;
    double gap_mm = 0;          ///< left between the piece and what the edge meets, square to it
    double coating_mm = 0;      ///< film on the edge, taken off the piece as well
    std::string piece_id = {};  ///< piece: which
    Meeting meeting = Meeting::stops;
    geometry::Plane plane = {};  ///< plane: the piece lies where normal·p <= d
    /// free: in the piece's drawing, the piece on its left; closed, a ring about the piece.
    std::vector<FreePoint> line = {};
    bool closed = false;
    double covering_mm = 0;  ///< laminate or lining that is still to come between the piece and what it meets
    double overhang_mm = 0;  ///< how far it reaches beyond that
    double lipping_mm = 0;   ///< solid edge: the sheet is cut back by it
    double leave_on_mm = 0;  ///< wood left on the sheet for shaving
    bool where_met = false;  ///< scribed: a surface that the plane does not meet bounds nothing
    double fillet_mm = 0;    ///< radius of the fillet, or leg of the weld, in the corner that the edge lands in
    KeptSide kept = KeptSide::by_place;            ///< piece: which side of it is kept
    double planing_mm = 0;                         ///< planed off a lipping once it is on, to fit it tight
    double round_mm = 0;                           ///< radius to which its arris is rounded later
    double build_up_mm = 0, build_up_wide_mm = 0;  ///< a strip under it, so deep and wide: a thin top's front edge
    double trim_mm = 0;                            ///< width of the trim that covers its gap; none at 0
    /// What the finished piece lies back from what the edge meets, square to it.
    double taken_off_mm() const { return gap_mm + coating_mm + covering_mm - overhang_mm; }
    bool operator==(const EdgeSpec&) const;
};

/// A plane that lies beside another piece's, face to face at a distance: on the side its normal points to when
/// positive.
struct Beside {
    std::string piece_id;
    double distance_mm = 0;
    bool operator==(const Beside&) const = default;
};

enum class JointKind {
    butt,
    butt_strap,
    scarf,
    half_lap,       ///< each part half as thick, one over the other
    tongue_groove,  ///< a tongue on the left or lower part
    loose_spline,   ///< a groove in both, a strip in them
    landing,        ///< over another piece, which carries both
};

/// Where a piece is divided: a line across its drawing.
struct JointSpec {
    JointKind kind = JointKind::butt;
    bool upright = true;  ///< the line is u = at_mm; else v = at_mm
    double at_mm = 0;
    double slope = 8;     ///< scarf: length over thickness (common practice: 8 ordinary, 12 where strength counts)
    double width_mm = 0;  ///< of a lap, a tongue, a spline, a strap; what is usual for the thickness at 0
    double clearance_mm = 0;    ///< left open between the parts, half of it taken off each
    std::string piece_id = {};  ///< landing: the line lies over the middle of this piece
    bool operator==(const JointSpec&) const = default;
};

enum class OpeningUse {
    opening,   ///< a doorway, a lid, what has a name
    hatch,     ///< by the maker's cut-out figures
    wire_way,  ///< for wires and hoses, with a guard around its edge
};

/// Where the lid of an opening comes from: two schools.
enum class LidFrom {
    none,
    own_opening,  ///< what is cut out is the lid: grain runs through; the saw's way and the coats make the clearance
    the_sheet,    ///< it is cut from another part of the sheet, so much smaller than the opening
};

/// A doorway, hatch or way for wires: a rectangle of the drawing with rounded corners (a slot, a round hole where
/// they meet), or a free line.
struct OpeningSpec {
    std::string name = "door";
    double left_mm = 0, bottom_mm = 0, width_mm = 600, height_mm = 1200, radius_mm = 80;
    OpeningUse use = OpeningUse::opening;
    double rail_mm = 0;                ///< wood that must be left all round it
    double guard_mm = 0;               ///< of the chafe guard: the hole is so much larger all round
    std::vector<FreePoint> line = {};  ///< where given, its shape: closed, in the piece's drawing
    LidFrom lid = LidFrom::none;
    double lid_clearance_mm = 2.5;  ///< between lid and opening, a side, once both are coated
    bool operator==(const OpeningSpec&) const = default;
};

/// Round holes in rows, for air or fingers: as many as the wanted free area takes.
struct HoleRow {
    std::string name = "vent holes";
    double left_mm = 0, bottom_mm = 0, width_mm = 300, height_mm = 60;  ///< they lie within
    double diameter_mm = 30;
    double wanted_cm2 = 50;
    bool operator==(const HoleRow&) const = default;
};

/// How another piece goes through this one where they cross.
enum class Crossing {
    slot,        ///< whole, through a slot in this one
    half_upper,  ///< both halved: this one is cut in from the crossing's upper (forward, port) end to its middle
    half_lower,  ///< both halved: this one from the other end
};

struct CrossSpec {
    std::string piece_id;
    Crossing how = Crossing::slot;
    double clearance_mm = 0.5;  ///< all round
    bool operator==(const CrossSpec&) const = default;
};

/// A drain at a low point of the outline: an arched notch, or a hole over it.
struct LimberSpec {
    /// u of its middle; when absent the lowest point that no other takes: the second one without a place lies at the
    /// second low point, where water stands on its own.
    std::optional<double> at_mm;
    double width_mm = 40, height_mm = 30;
    bool hole = false;  ///< a round one of `width`, its middle `height` over the low point
    bool operator==(const LimberSpec&) const = default;
};

enum class Face { a, b };

/// A place where a surface truly runs, found when the piece or its pattern was offered up: an edge that is scribed to
/// the surface is led through it.
struct FittedPlace {
    std::string surface_id;
    Vec3 at{0, 0, 0};       ///< boat, mm; in the plane of face A as the piece then stood
    double sigma_mm = 0.3;  ///< of the rule or feeler
    bool operator==(const FittedPlace&) const = default;
};

/// An upright face told by two rules laid from a mark: level with the mark as far to port as the first says it stands
/// so far forward of it, and the same at the second. Of a face along the boat forward and to port change places.
struct FromMark {
    std::string mark_id;
    bool along = false;  ///< the face runs along the boat
    double first_aside_mm = -300, first_mm = 500;
    double second_aside_mm = 300, second_mm = 500;
    bool operator==(const FromMark&) const = default;
};

struct PieceSpec {
    std::string id;
    std::string name;
    std::string kind = "bulkhead";
    std::string place;             ///< where in the boat, for grouping
    geometry::Plane plane;         ///< of face A; the normal points to face B
    std::optional<Beside> beside;  ///< where given, the plane follows that piece's
    /// Where given, the plane goes through these: three marks of the boat, or a set of readings (a template's).
    std::vector<std::string> through;
    std::optional<FromMark> from_mark;  ///< where given, the plane is told by two offsets
    std::optional<Vec3>
        at;  ///< a point of the piece in the boat: it tells which side of others is kept, until chosen
    std::string material_id;
    std::vector<EdgeSpec> edges;
    std::vector<OpeningSpec> openings;
    std::vector<OpeningSpec> notches;  ///< cut out of the outline where they reach over it
    std::vector<HoleRow> rows;
    std::vector<CrossSpec> crossings;
    std::vector<LimberSpec> limbers;
    std::vector<JointSpec> joints;
    double covering_a_mm = 0, covering_b_mm = 0;  ///< laminate or lining on its faces: what others stop at
    stock::Layup layup;                           ///< plies on the sheet, which is then its core
    int sheets_thick = 1;    ///< built up of so many sheets, glued to each other before it is cut
    double measured_mm = 0;  ///< its thickness as it was measured, in place of what it is made of; 0: not measured
    Role role = Role::made;
    std::string
        until;  ///< of what comes out or is replaced: it stands until this piece is fixed; empty: comes out first
    double bedding_mm = 0;  ///< of glue or tape, between it and what carries it
    std::vector<PatternOn> patterns;
    std::vector<Drilled> holes;       ///< worked out from the patterns, not in its file
    std::vector<FittedPlace> fitted;  ///< worked out from the job's fittings, not in its file
    bool split_for_passage = true;    ///< add scarfs where a part will not pass into the boat
    double scarf_slope = 8;
    double grain_deg = 0;  ///< direction of the face grain in the drawing, from u
    Face good_face = Face::a;
    bool structural = false;
    bool removable = false;
    int copies = 1;               ///< identical ones
    double blank_margin_mm = 10;  ///< left on all round when the blank is cut
    double wanted_fit_mm = 3;     ///< largest gap that the edge may show

    // Compiled once, not in every file in which one is copied.
    PieceSpec();
    PieceSpec(const PieceSpec&);
    PieceSpec(PieceSpec&&) noexcept;
    PieceSpec& operator=(const PieceSpec&);
    PieceSpec& operator=(PieceSpec&&) noexcept;
    ~PieceSpec();
    bool operator==(const PieceSpec&) const;
};

}  // namespace bevelsmith::piece
