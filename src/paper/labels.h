// Labels for the parts, on label sheets as they are sold.
#pragma once

#include <span>
#include <string>

#include "job/pipeline.h"

namespace bevelsmith::paper {

class Paper;

/// A sheet of labels (mm). Sizes that many makers sell (common practice); print one on plain paper and hold it
/// against the light before the labels go in.
struct LabelSheet {
    const char* id;
    const char* words;
    double page_w_mm, page_h_mm;
    int columns, rows;
    double width_mm, height_mm, left_mm, top_mm;
    double apart_x_mm = 0, apart_y_mm = 0;  ///< between neighbours
};
std::span<const LabelSheet> label_sheets();
/// Null for none such.
const LabelSheet* label_sheet(const std::string& id);

/// One a part and copy, also of what is cut already: its id, piece, place, material, size as cut (and finished),
/// which face it is on, its outline with up and forward.
void draw_labels(Paper& paper, const job::Job& job, const job::Results& results, const LabelSheet& sheet,
                 const KeepGoing& keep_going = {});

/// Labels alone, for the sheets' own printer tray. Atomic; fails where nothing has an outline.
Result<bool> write_labels(const job::Job& job, const job::Results& results, const LabelSheet& sheet,
                          const std::string& path, const KeepGoing& keep_going = {});

}  // namespace bevelsmith::paper
