// What stands in the boat before the joinery: stringers, pipes, machinery.
#pragma once

#include "app/widgets/side_panel.h"

namespace bevelsmith::app {

class ObstaclesPanel : public SidePanel {
    Q_OBJECT
  public:
    /// With that one shown; the first where there is none such.
    ObstaclesPanel(Document& document, const std::string& first);

  private:
    void refresh();
    void change(const QString& what, const std::function<void(job::JobObstacle&)>& apply);
    void add();
    void remove();
    void add_fields(FieldList& fields, const job::JobObstacle& obstacle);
    std::size_t chosen_ = 0;
    Form* form_;
    QLabel* met_;
    QPushButton* gone_;
};

/// What people want of the finished inside, and what of it there is.
class RoomPanel : public SidePanel {
    Q_OBJECT
  public:
    explicit RoomPanel(Document& document);

  private:
    void refresh();
    Form* form_;
    QLabel* there_;
};

}  // namespace bevelsmith::app
