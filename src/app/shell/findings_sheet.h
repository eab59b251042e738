// All findings, worst first.
#pragma once

#include "app/widgets/side_sheet.h"

namespace bevelsmith::app {

/// All findings, worst first; each can be gone to, or set aside with a reason.
class FindingsSheet : public SideSheet {
    Q_OBJECT
  public:
    explicit FindingsSheet(Document& document);

  private:
    void refresh();
    void add_row(const review::Finding& finding);
    void set_aside(const review::Finding& finding, const QString& reason);
    void take_up(const review::Finding& finding);
    QVBoxLayout* rows_;
    std::vector<review::Finding> shown_;
    bool filled_ = false;
};

}  // namespace bevelsmith::app
