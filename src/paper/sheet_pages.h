// Sheets as they are cut, on paper: a page with the plan, and the figures of every part on it.
#pragma once

#include "job/pipeline.h"
#include "paper/page.h"

namespace bevelsmith::paper {

/// A part on a sheet, for its page.
struct LaidPart {
    int number = 0;  ///< in the order of cutting
    std::string id, name;
    geometry::Polygon shape;    ///< in the sheet's frame
    std::vector<Vec2> corners;  ///< of its outline, from the sheet's lower left corner (mm)
    bool curved = false;        ///< between some of its corners: marked out by its own paper
    std::string up_face;        ///< "A", "B": which lies up
};

/// Sheets of a layout, then those that are cut already, on pages of this size (mm, upright): lying where the sheet
/// does, the drawing as large as the page takes, cut lines numbered in their order; then where the corners of each
/// part lie.
void sheet_pages(Paper& paper, const job::Job& job, const job::Results& results, const QSizeF& page_mm,
                 const KeepGoing& keep_going = {});

/// The parts of sheet `sheet` of a layout in the order of cutting.
std::vector<LaidPart> laid_parts(const job::Job& job, const job::SheetResult& sheets, int sheet);

}  // namespace bevelsmith::paper
