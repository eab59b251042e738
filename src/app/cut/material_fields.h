// The form of a sheet material: what it is, as fields.
#pragma once

#include "app/document/document.h"
#include "app/widgets/form.h"

namespace bevelsmith::app {

/// Adds fields for the material with this id, none when there is none. Each change is one undo step. `show` is called
/// with the id of a material that was just added, `say` with what came of keeping one in the catalogue.
void add_material_fields(FieldList& fields, Document& document, const std::string& id,
                         const std::function<void(const std::string&)>& show,
                         const std::function<void(const QString&)>& say);

}  // namespace bevelsmith::app
