// The form of a surface: its name, how it is laid out, fairer or closer, and the layers on it.
#pragma once

#include "app/document/document.h"
#include "app/widgets/form.h"

namespace bevelsmith::app {

/// Adds fields for the surface `id`; `show` is told which surface to look at when a new one is made.
void add_surface_fields(FieldList& fields, Document& document, const std::string& id,
                        const std::function<void(const std::string&)>& show);

}  // namespace bevelsmith::app
