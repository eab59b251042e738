// The piece's page: a working drawing from which a panel is marked out with tape, square and batten by somebody who
// never saw the program.
#pragma once

#include <vector>

#include "exchange/drawing.h"

namespace bevelsmith::paper {

class Paper;

/// One line of the tables beside the drawing: cells from the left.
struct FigureLine {
    enum class Kind { heading, heads, cells, words } kind = Kind::cells;
    std::vector<std::string> cells;
};
/// Everything the page says in figures: base lines, corners, runs with their rows, openings, joints. All in the
/// drawing's unit, as `units::figure` writes them. Openings of other shapes follow the outline, corners numbered
/// anew.
std::vector<FigureLine> figure_lines(const exchange::Drawing& drawing);

/// Width of one column of figures (mm).
inline constexpr double figures_w_mm = 88;

/// Lying pages of this size (mm, as they lie): the drawing with its figures beside it, further figures on pages after
/// it.
void draw_piece_pages(Paper& paper, const exchange::Drawing& drawing);

}  // namespace bevelsmith::paper
