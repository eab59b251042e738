// A piece's outlines: both faces, what each stretch of edge meets, bevels, openings, parts, blanks.
#pragma once

#include <functional>
#include <memory>
#include <string>
#include <vector>

#include "geometry/polygon.h"
#include "hull/section.h"
#include "piece/obstacle.h"
#include "piece/spec.h"
#include "units/result.h"
#include "units/stop.h"

namespace bevelsmith::piece {

/// A clear opening into the boat (companionway, hatch): a rectangle, its corners rounded.
struct Passage {
    double width_mm = 600, height_mm = 900;
    double corner_mm = 0;  ///< radius of its corners
    double hands_mm = 0;   ///< kept free all round, for hands and padding
    bool operator==(const Passage&) const = default;
};

/// The largest blank that a sheet gives, its margins off (mm); with a grain, along it first.
struct SheetRoom {
    double along_mm = 0, across_mm = 0;
    bool grain = true;  ///< else a blank may lie across it
    bool operator==(const SheetRoom&) const = default;
};

/// What a stretch of outline belongs to.
enum class EdgeSource { scribed, straight, limber, joint, notch, free, obstacle, crossing };

/// A stretch of the outer ring from point `first` to point `last` (inclusive; the ring is cyclic, so last may be
/// smaller than first).
struct Edge {
    EdgeSource source = EdgeSource::scribed;
    int spec = -1;  ///< index into PieceSpec::edges (or limbers, joints, notches, crossings; obstacles of the job)
    std::string name;
    int first = 0, last = 0;
    double length_mm = 0;
    /// Of a straight edge, and of a slot's wall: open (positive) where face B reaches farther.
    double bevel_rad = 0;
};

/// A straight wall of a slot that lies within the piece, for another that goes through it (drawing, mm, face A).
struct SlotWall {
    int crossing = 0;  ///< index into PieceSpec::crossings
    std::string name;  ///< of the other piece
    Vec2 from{0, 0}, to{0, 0};
    double bevel_rad = 0;
    double length_mm() const { return (to - from).norm(); }
};

/// One place along a scribed edge: where the section runs, and what is known there.
struct EdgeMark {
    Vec2 a, b;          ///< on faces A and B, with gap and coating taken off (drawing, mm)
    Vec2 met_a, met_b;  ///< where the planes of both faces meet the surface itself
    double arc_mm = 0;  ///< along face A from where the piece's own edge starts; before it negative
    double bevel_rad = 0;
    double sigma_mm = 0;
    double bevel_sigma_rad = 0;
    hull::Place place;  ///< on the surface
    int edge = 0;       ///< index into PieceSpec::edges
    double gap_mm = 0;  ///< taken off in the panel's plane: (gap + coating) / cos bevel
    bool in_survey = true;
    bool kept = true;  ///< on the piece's outline (not cut away by a straight edge)
};

/// A part of a piece that is cut from one blank.
struct Part {
    std::string id;  ///< "B1", or "B1/1", "B1/2" from left to right
    std::string name;
    geometry::Polygon face_a, face_b;                ///< as cut from the sheet (drawing, mm)
    geometry::Polygon larger;                        ///< the union of both: what must fit on the blank
    geometry::Box blank;                             ///< in axes turned by the grain angle
    double blank_along_mm = 0, blank_across_mm = 0;  ///< with margin; along the grain and across it
    bool passes = true;                              ///< through the passage
    double passing_width_mm = 0;                     ///< the narrowest width it can be carried by
    /// With its lippings, shaved: as it stands in the boat. Empty where that is what is cut.
    geometry::Polygon finished_a, finished_b;
};

/// The lid of an opening, square-edged: smaller by its clearance all round.
struct Lid {
    int opening = 0;  ///< index into PieceSpec::openings
    LidFrom from = LidFrom::none;
    geometry::Polygon shape;  ///< finished, before it is coated (drawing, mm)
};

struct Outline {
    geometry::PlaneFrame frame;
    double thickness_mm = 0;
    geometry::Polygon face_a, face_b;
    std::vector<Edge> edges_a, edges_b;
    std::vector<SlotWall> slot_walls;
    std::vector<EdgeMark> marks;             ///< along the scribed edge, in order
    std::vector<hull::BevelRun> bevel_runs;  ///< over `marks` that are kept
    std::vector<JointSpec> joints;           ///< given, where they landed, and added for the passage
    int joints_added = 0;
    std::vector<Part> parts;  ///< of what is cut from the sheet, lids from the sheet among them
    std::vector<Lid> lids;
    geometry::Polygon sheet_a, sheet_b;  ///< with wood left on, without lippings; the faces where there are none
    /// Edges and marks of what is cut from the sheet. Empty where it is the finished piece: see cut_edges, cut_marks.
    std::vector<Edge> sheet_edges_a;
    std::vector<EdgeMark> sheet_marks;
    double edge_length_mm = 0;  ///< of the scribed edge that is kept, face A
    double largest_sigma_mm = 0, largest_bevel_rad = 0, least_bevel_rad = 0;
    bool all_in_survey = true;

    /// Whether lippings or wood left on make what is cut another shape than what stands in the boat.
    bool cut_differs() const { return !sheet_edges_a.empty(); }
    /// Of the outline that is cut: edges of `sheet_a`, marks with `kept` told by it.
    const std::vector<Edge>& cut_edges() const { return cut_differs() ? sheet_edges_a : edges_a; }
    const std::vector<EdgeMark>& cut_marks() const { return cut_differs() ? sheet_marks : marks; }
};

/// Where the surfaces named in edges are found.
using SurfaceLookup = std::function<const hull::Surface*(const std::string& id)>;

/// What another piece offers to end at: its two faces, coverings included.
struct Neighbour {
    geometry::Plane plane;
    double thickness_mm = 0, covering_a_mm = 0, covering_b_mm = 0;
    std::string name = {};
    std::shared_ptr<const Outline> whole = {};  ///< where pieces cross: its outline before any crossing is cut
    bool operator==(const Neighbour&) const = default;
};
/// Where the pieces named in edges, joints and crossings are found; null for none such.
using PieceLookup = std::function<const Neighbour*(const std::string& id)>;

/// What a piece stands among: other pieces, obstacles that it is cut around, and the sheet that it comes from.
struct Around {
    PieceLookup pieces = {};
    std::vector<Obstacle> obstacles = {};
    std::optional<SheetRoom> sheet = {};
    double film_mm = 0;  ///< of the coats on an edge: what lids are made smaller by
};

/// Computes a piece. Fails, saying which edge and why, when a surface is missing, the plane misses it, another piece
/// is missing or parallel, or the edges do not close around an area, when a notch or an opening leaves nothing of the
/// piece, cuts it apart or reaches over it, and when a joint does not cross it. Throws Stopped when `keep_going` says
/// no. Precondition: thickness > 0.
Result<Outline> compute_outline(const PieceSpec& spec, double thickness_mm, const SurfaceLookup& surfaces,
                                const Passage& passage, const KeepGoing& keep_going = {}, const Around& around = {});

/// One line of a piece that has no outline.
struct SketchLine {
    EdgeSource source = EdgeSource::scribed;
    int spec = -1;  ///< index into PieceSpec::edges, limbers, joints; -1 for an opening
    std::string name;
    std::vector<Vec2> points;  ///< on face A (drawing, mm); closed where the last is the first
    bool culprit = false;      ///< because of this one there is no outline
};
/// A piece as far as it goes: what its limits are, where the outline fails.
struct Sketch {
    geometry::PlaneFrame frame;
    std::vector<SketchLine> lines;
    std::vector<SketchLine> open;  ///< where the outline stays open: from the end of what is known on
    std::vector<Vec2> next;        ///< readings that would close it (drawing, mm)
};
/// The lines of a piece whose outline cannot be computed, for drawing: scribed edges where their surfaces are known,
/// straight edges as far as the other lines reach, notches, openings and joints.
Sketch sketch_of(const PieceSpec& spec, double thickness_mm, const SurfaceLookup& surfaces,
                 const Around& around = {});

/// Whether a rectangle p x q goes through a rectangle a x b, turned as needed.
/// Source: J.E. Carver, The rectangle in a rectangle, Amer. Math. Monthly 64, 1957 (from memory).
bool rectangle_passes(double p, double q, double a, double b);
/// The same through one whose corners are rounded with radius r (at most half its lesser side): both are symmetric
/// about their middles, so that it goes through at some turn where it does so centred, its corners within the opening
/// (derived; turns of a tenth of a degree).
bool rectangle_passes_rounded(double p, double q, double a, double b, double r);
/// Whether a flat panel goes through a passage lengthwise, turned as needed, with room for hands: its narrowest width
/// by its thickness.
bool panel_passes(const geometry::Ring& ring, double thickness_mm, const Passage& passage);

/// Runs in which one saw setting serves, over the marks that are kept, by index into `marks`.
std::vector<hull::BevelRun> kept_bevel_runs(const std::vector<EdgeMark>& marks);

/// Half the length of a scarf along the panel, slope·t/2; nothing of other joints.
double scarf_overlap_mm(const JointSpec& joint, double thickness_mm);

/// Mean of the bevels a band wide in which one saw setting serves (degrees), for marking out.
inline constexpr double saw_band_deg = 2.0;

}  // namespace bevelsmith::piece
