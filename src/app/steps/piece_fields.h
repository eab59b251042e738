// The form of a piece: what can be decided about it, as fields.
#pragma once

#include "app/document/document.h"
#include "app/widgets/form.h"

namespace bevelsmith::app {

/// Fields for the piece with this id; empty when there is none. Each change is one undo step.
std::vector<FormField> piece_fields(Document& document, const QString& id);

/// A new piece of one of the usual kinds, standing at `at_mm`, with a scribed edge to the job's first surface and
/// straight edges that leave a sensible shape.
enum class NewPiece { bulkhead, half_bulkhead, long_panel, level_panel };
job::JobPiece new_piece(const job::Job& job, const Computed& computed, NewPiece kind, double at_mm);

}  // namespace bevelsmith::app
