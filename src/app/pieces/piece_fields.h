// The form of a piece: what can be decided about it, as fields.
#pragma once

#include "app/document/document.h"
#include "app/pieces/facets.h"
#include "app/widgets/form.h"

namespace bevelsmith::app {

/// Fields for this facet of the piece with this id; empty when there is none. Each change is one undo step.
std::vector<FormField> piece_fields(Document& document, const QString& id, const Facet& facet);

}  // namespace bevelsmith::app
