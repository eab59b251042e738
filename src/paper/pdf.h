// Papers to cut from: a PDF at 1:1, tiled, with registration marks, a check line and the marking-out table.
#pragma once

#include <cstddef>
#include <optional>
#include <string>
#include <vector>

#include "exchange/drawing.h"

class QPagedPaintDevice;

namespace bevelsmith::paper {

enum class Size { a4, a3, roll };

struct PdfOptions {
    Size size = Size::a4;
    double overlap_mm = 10;      ///< shared by neighbouring tiles
    double roll_width_mm = 914;  ///< of a roll: 610, 914 and 1067 are common (24, 36, 42 in; common practice)
};

/// The narrowest and widest roll that is printed on.
inline constexpr double least_roll_mm = 200, most_roll_mm = 3000;
/// A page of a roll is as long as the drawing needs, up to this: longer ones are no page of a PDF (200 in).
inline constexpr double longest_page_mm = 5000;

/// How many tiles a drawing takes.
struct Tiling {
    int columns = 1, rows = 1;
    double tile_width_mm = 0, tile_height_mm = 0;  ///< drawn area of a tile, overlap included
    double step_x_mm = 0, step_y_mm = 0;
    /// Where the drawing begins within the grid, from its left and from its top: so placed that fewest pages are
    /// printed.
    double shift_x_mm = 0, shift_y_mm = 0;
};
struct Tile {
    int column = 0, row = 0;  ///< rows count from the top
};
/// The tiles that something of the drawing falls on, row by row: the others are not printed.
std::vector<Tile> printed_tiles(const exchange::Drawing& drawing, const Tiling& tiling);
Tiling tiling_for(const exchange::Drawing& drawing, const PdfOptions& options);
/// As it is printed: on a roll it lies on its side where that takes less paper.
exchange::Drawing laid_for(exchange::Drawing drawing, const PdfOptions& options);

/// More paper than this is no template any more: a roll or a cutter serves better.
inline constexpr std::size_t most_pages = 500;
/// Why a drawing is not printed; nothing where it may be.
std::optional<Error> too_many_pages(const exchange::Drawing& drawing, const PdfOptions& options);

/// First page: title, check line of 100 mm, how the tiles lie, the tables; then one tile a page, blank tiles left
/// out. At 1:1 by the device's own resolution, on pages without margins of its own. Needs a QGuiApplication.
void paint_pages(const exchange::Drawing& drawing, const PdfOptions& options, QPagedPaintDevice& device);
/// The same into a file, atomically.
Result<bool> write_pdf(const exchange::Drawing& drawing, const PdfOptions& options, const std::string& path);

}  // namespace bevelsmith::paper
