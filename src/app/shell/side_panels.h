// The side panels, by what was asked for.
#pragma once

#include "app/widgets/side_panel.h"

namespace bevelsmith::app {

SidePanel* make_panel(Document& document, const PanelRequest& request);

}  // namespace bevelsmith::app
