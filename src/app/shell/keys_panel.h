// The list of keys.
#pragma once

#include "app/widgets/side_panel.h"

namespace bevelsmith::app {

/// The keys.
class ShortcutsPanel : public SidePanel {
    Q_OBJECT
  public:
    explicit ShortcutsPanel(Document& document);
};

}  // namespace bevelsmith::app
