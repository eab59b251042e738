// All findings, worst first.
#pragma once

#include "app/widgets/side_panel.h"

namespace bevelsmith::app {

/// All findings, worst first; each can be gone to, or set aside with a reason.
class FindingsPanel : public SidePanel {
    Q_OBJECT
  public:
    explicit FindingsPanel(Document& document);

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
