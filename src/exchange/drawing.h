// What goes on paper or to a cutter for one piece or part: outlines of both faces, marks, the marking-out table.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "exchange/ordinates.h"
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

struct Drawing {
    std::string id, title, material;
    double thickness_mm = 0;
    geometry::Polygon face_a, face_b;  ///< moved so that the larger outline's box starts at (0, 0)
    geometry::Box box;                 ///< of both
    std::vector<BevelTick> ticks;
    std::vector<std::pair<Vec2, Vec2>> joint_lines;
    std::vector<ReliefLine> reliefs;
    double grain_deg = 0;
    std::vector<OrdinateRow> rows;
    std::vector<BaseLine> bases;     ///< the same edges from straight lines
    std::vector<std::string> edges;  ///< their names, by the index of a base line's edge
    units::LengthUnit unit =
        units::LengthUnit::millimetre;  ///< in which papers write lengths; files keep millimetres
};

inline constexpr double tick_spacing_mm = 150;
inline constexpr double row_spacing_mm = 100;

/// The drawing of a piece ("B1") or one of its parts ("B1/2"), its tables with a row each `step_mm` (at least 10).
/// Fails when there is no such piece, or it has no outline yet.
Result<Drawing> drawing_of(const job::Job& job, const job::Results& results, const std::string& id,
                           double step_mm = row_spacing_mm);
/// The same lying on its side, a quarter turn to the left; tables as they are.
Drawing turned(Drawing drawing);

enum class Format { dxf, svg, csv, ordinates };

/// DXF in millimetres with layers OUTER_A, INNER_A (openings), OUTER_B, INNER_B, MARK (and RELIEF_A, RELIEF_B where
/// an arris comes off) and TEXT, arcs kept where they are; SVG at 1:1; the table of the edge as CSV, from the left
/// and bottom of the outline or (ordinates) from base lines. Atomic.
Result<bool> write_drawing(const Drawing& drawing, Format format, const std::string& path);

std::string svg_of(const Drawing& drawing);
std::string csv_of(const Drawing& drawing);
std::string ordinates_csv(const Drawing& drawing);

}  // namespace bevelsmith::exchange
