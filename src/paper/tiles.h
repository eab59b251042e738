// How a drawing at 1:1 is divided among pages, and what each of these pages carries.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "exchange/drawing.h"

namespace bevelsmith::paper {

class Paper;

enum class Size { a4, a3, letter, tabloid, roll };
/// By the words of the command line: "a4", "a3", "letter", "tabloid", "roll".
std::optional<Size> size_by_name(const std::string& name);

struct PdfOptions {
    Size size = Size::a4;
    double overlap_mm = 10;      ///< shared by neighbouring tiles
    double roll_width_mm = 914;  ///< of a roll: 610, 914 and 1067 are common (24, 36, 42 in; common practice)
};

/// The narrowest and widest roll that is printed on.
inline constexpr double least_roll_mm = 200, most_roll_mm = 3000;
/// A page of a roll is as long as the drawing needs, up to this: longer ones are no page of a PDF (200 in).
inline constexpr double longest_page_mm = 5000;

/// Width and height of a page that stands upright; of a roll that of the piece's page.
Vec2 page_size_mm(const PdfOptions& options);

/// How many tiles a drawing takes.
struct Tiling {
    int columns = 1, rows = 1;
    double page_width_mm = 0, page_height_mm = 0;
    double tile_width_mm = 0, tile_height_mm = 0;  ///< drawn area of a tile, overlap included
    double step_x_mm = 0, step_y_mm = 0;
    /// Where the drawing begins within the grid, from its left and from its top: so placed that fewest pages are
    /// printed.
    double shift_x_mm = 0, shift_y_mm = 0;
};
struct Tile {
    int column = 0, row = 0;  ///< rows count from the top
};
/// The fewest tiles on which every line to cut lies whole, row by row: each has a stretch that no other has. The
/// others are not printed.
std::vector<Tile> printed_tiles(const exchange::Drawing& drawing, const Tiling& tiling);
Tiling tiling_for(const exchange::Drawing& drawing, const PdfOptions& options);
/// As it is printed: on its side where that takes fewer tiles, of a roll less paper.
exchange::Drawing laid_for(exchange::Drawing drawing, const PdfOptions& options);

/// One tile: the lines to cut, bevels, openings and joints where they lie, lines at round heights and distances with
/// their figures, what it is and how it lies, the little map, check lines both ways.
void draw_tile(Paper& paper, const exchange::Drawing& drawing, const Tiling& tiling, const std::vector<Tile>& printed,
               std::size_t which);

}  // namespace bevelsmith::paper
