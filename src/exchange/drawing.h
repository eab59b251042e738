// What goes on paper or to a cutter for one piece or part: the outline that is cut from the sheet on both faces, the
// finished one where that differs, marks, openings, joints, the figures it is marked out by. Window, papers and files
// draw from this one description.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "exchange/ordinates.h"
#include "exchange/setting_out.h"
#include "job/pipeline.h"
#include "units/quantity.h"

namespace bevelsmith::exchange {

/// A place on the edge where the bevel is written: every 150 mm (common practice: 100-200).
struct BevelTick {
    Vec2 at;       ///< on face A
    Vec2 outward;  ///< unit, square to the edge
    double bevel_deg = 0;
};

/// A line to which an arris comes off, for the fillet that the edge lands in.
struct ReliefLine {
    piece::Face face = piece::Face::a;
    double most_mm = 0;
    std::vector<Vec2> line;
};

/// One row of the table from which the edge is marked out with a batten. `across` is counted from the left of the
/// larger outline, `up` from its bottom (mm).
struct OrdinateRow {
    double arc_mm = 0, across_a_mm = 0, up_a_mm = 0, across_b_mm = 0, up_b_mm = 0, bevel_deg = 0, sigma_mm = 0;
    bool in_survey = true;
};

/// What is said at an edge: what it meets, what is allowed for there, what is still to come.
struct EdgeNote {
    Vec2 at{0, 0}, outward{1, 0};  ///< the middle of its longest stretch on face A as cut, and square to it
    std::string name;
    double gap_mm = 0, coating_mm = 0, covering_mm = 0, overhang_mm = 0, lipping_mm = 0, leave_on_mm = 0;
};
/// "hull: lipping 19.0 mm to come; 3.0 mm left on for shaving; gap 2.0 mm".
std::string words_of(const EdgeNote& note, units::LengthUnit unit);

/// "1: 4.0 mm, countersunk".
std::string words_of(const piece::Drilled& hole, units::LengthUnit unit);

struct JointLine {
    Vec2 from{0, 0}, to{0, 0};
    std::string kind;  ///< "scarf"
    bool upright = true;
    double at_mm = 0;  ///< in the drawing
};

/// How the boat's directions lie in the drawing, as face A is seen; short where one points through the panel.
struct Ways {
    Vec2 up{0, 1}, fwd{0, 0}, port{0, 0};
};

struct Drawing {
    std::string id, title, material;
    double thickness_mm = 0;
    geometry::Polygon face_a, face_b;  ///< as cut; moved so that the larger outline's box starts at (0, 0)
    /// As it stands in the boat, in the same place; empty where that is what is cut.
    geometry::Polygon finished_a, finished_b;
    geometry::Box box;  ///< of both faces as cut
    Vec2 corner{0, 0};  ///< where (0, 0) lies in the piece's own drawing
    std::vector<BevelTick> ticks;
    std::vector<EdgeNote> notes;
    std::vector<JointLine> joint_lines;
    std::vector<ReliefLine> reliefs;
    std::vector<piece::Drilled> drilled;  ///< holes that are drilled, of patterns; `at` in this drawing
    double grain_deg = 0;
    Ways ways;
    piece::Face good_face = piece::Face::a;
    int copies = 1;
    int sheets_thick = 1;             ///< glued up of so many sheets before it is cut
    std::vector<std::string> stands;  ///< where it stands in the boat, in sentences
    std::vector<std::string> making;  ///< how it is made besides being cut, in sentences: stack, plies, lids, pattern
    SettingOut setting_out;
    std::vector<OrdinateRow> rows;
    std::vector<BaseLine> bases;     ///< the same edges from straight lines
    std::vector<std::string> edges;  ///< their names, by the index of a base line's edge
    units::LengthUnit unit =
        units::LengthUnit::millimetre;  ///< in which papers write lengths; files keep millimetres
    bool on_its_side = false;
    bool cut_differs() const { return !finished_a.outer.empty(); }
};

inline constexpr double tick_spacing_mm = 150;
inline constexpr double row_spacing_mm = 100;
/// The usual distance between rows: 100 mm, or 4 in.
double usual_row_spacing_mm(units::LengthUnit unit);

/// The drawing of a piece ("B1"), of one of its parts ("B1/2") or of a trial pattern ("B1/pattern"), its tables with
/// a row each `step_mm` (at least 10). Fails when there is no such piece, or it has no outline yet.
Result<Drawing> drawing_of(const job::Job& job, const job::Results& results, const std::string& id,
                           double step_mm = row_spacing_mm);
/// The same without tables and figures to mark out by, for a drawing in the window.
Result<Drawing> bare_drawing_of(const job::Job& job, const job::Results& results, const std::string& id);
/// The same lying on its side, a quarter turn to the left; figures stay counted from the same base lines.
Drawing turned(Drawing drawing);
/// Where a place counted from the base lines lies in the drawing, on its side or not.
Vec2 place_in(const Drawing& drawing, const Vec2& from_base_lines);

enum class Format { dxf, svg, csv, ordinates };

/// DXF (in inches for jobs in inches, else in millimetres) with layers OUTER_A, INNER_A (openings), OUTER_B, INNER_B:
/// the outline to cut; FINISHED_A, FINISHED_B where the finished one differs; MARK, RELIEF_A, RELIEF_B (where an
/// arris comes off), DRILL (holes of patterns, on face A) and TEXT; arcs kept where they are. SVG at 1:1. The table
/// of the edge as it is cut as CSV, from the left and bottom of the outline or (ordinates) from base lines. Atomic.
Result<bool> write_drawing(const Drawing& drawing, Format format, const std::string& path);

/// What the kinds of line are, in a sentence: the same on every paper and file.
std::string what_lines_are(const Drawing& drawing);

std::string svg_of(const Drawing& drawing);
std::string csv_of(const Drawing& drawing);
std::string ordinates_csv(const Drawing& drawing);

}  // namespace bevelsmith::exchange
