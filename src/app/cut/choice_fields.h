// The facts of what is chosen in Cut: a part, a sheet, a sheet that has been cut; and how things are cut.
#pragma once

#include "app/cut/sheet_drawing.h"
#include "app/widgets/form.h"

namespace bevelsmith::app {

/// What can be known and done of it; nothing where nothing is chosen.
void add_choice_fields(FieldList& fields, Document& document, CutState& state);
/// Tool, room between parts, grain, what is kept.
void add_rule_fields(FieldList& fields, Document& document);

}  // namespace bevelsmith::app
