// The side sheets by name.
#pragma once

#include "app/widgets/side_sheet.h"

namespace bevelsmith::app {

/// The sheet by the name that steps ask for; null for an unknown name.
SideSheet* make_sheet(Document& document, const QString& name);

}  // namespace bevelsmith::app
