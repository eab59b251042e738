// The cut list: every part with its sizes, edges and bevels; and the order in which a part is cut.
#pragma once

#include <string>
#include <vector>

#include "job/pipeline.h"
#include "units/quantity.h"

namespace bevelsmith::exchange {

/// One part. Sizes along its grain and across it (mm).
struct CutRow {
    std::string part_id, piece, unit, kind, hand, material;
    double thickness_mm = 0;
    int quantity = 1;
    double finished_along_mm = 0, finished_across_mm = 0;  ///< with lippings and coverings: as it is in the boat
    double sheet_along_mm = 0, sheet_across_mm = 0;        ///< what is cut from the sheet
    double blank_along_mm = 0, blank_across_mm = 0;        ///< what is cut out first, with its margin
    double grain_deg = 0;                                  ///< in the piece's drawing
    std::string edges;  ///< in the job's unit: "hull: gap 3.0 mm, lipping 8.0 mm; deckhead"
    double least_bevel_deg = 0, largest_bevel_deg = 0;
    std::string good_face;
    bool cut = false;
};

/// In the order of the job's pieces; pieces without an outline are not in it.
std::vector<CutRow> cut_list(const job::Job& job, const job::Results& results);

/// What the columns are called, with their units, and a row as text beside them. Lengths here and in the tables below
/// are in the job's own unit, decimal, and each head says which ("sheet_along_in").
std::vector<std::string> cut_list_heads(units::LengthUnit unit);
std::vector<std::string> cells_of(const CutRow& row, units::LengthUnit unit);
std::string cut_list_csv(const std::vector<CutRow>& rows, units::LengthUnit unit);

/// One cut of a part with a saw in the hand.
struct EdgeCut {
    std::string part_id, edge;
    bool straight = true;
    double length_mm = 0;
    double tilt_deg = 0;  ///< of this run: the mean of a band in which one setting serves
    std::string face_up;  ///< "A (good)": a track saw splinters the lower face, a jigsaw the upper (common practice)
    std::string note;     ///< beyond the base's limit and the like
};

/// How far a saw's base tilts (common practice: 45 to 47 degrees).
inline constexpr double base_limit_deg = 45;

/// A piece's cuts from the sheet, lippings not yet on: straight ones first, the longest before the others, then
/// curves run by run.
std::vector<EdgeCut> edge_cuts(const job::Job& job, const job::JobPiece& piece, const piece::Outline& shape);
std::vector<std::string> edge_cut_heads(units::LengthUnit unit);
std::vector<std::string> cells_of(const EdgeCut& cut, int order, units::LengthUnit unit);
std::string edge_cuts_csv(const job::Job& job, const job::Results& results);

/// What is cut from bars: heads with their units, and a row a length, in the order in which a bar is cut. Marks are
/// along both edges from the bar's left end; leans as the length lies there, positive with the long point near.
std::vector<std::string> length_heads(units::LengthUnit unit);
std::vector<std::vector<std::string>> length_cells(const job::Results& results, units::LengthUnit unit);

/// Shopping list and lengths as CSV.
std::string shopping_csv(const job::Job& job, const job::Results& results);
std::string lengths_csv(const job::Results& results, units::LengthUnit unit);

/// Cut list, shopping list, lengths and cuts as sheets of one workbook. Atomic.
Result<bool> write_workbook(const job::Job& job, const job::Results& results, const std::string& path);

}  // namespace bevelsmith::exchange
