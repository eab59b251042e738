// The list of keys.
#pragma once

#include "app/widgets/side_sheet.h"

namespace bevelsmith::app {

/// The keys.
class ShortcutsSheet : public SideSheet {
    Q_OBJECT
  public:
    explicit ShortcutsSheet(Document& document);
};

}  // namespace bevelsmith::app
