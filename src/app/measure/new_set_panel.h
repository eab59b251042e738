// A new set of readings.
#pragma once

#include <QLabel>

#include "app/measure/school_sketch.h"
#include "app/widgets/side_panel.h"

namespace bevelsmith::app {

/// A new set of readings: school, surface, and where its line or pattern stands.
class NewSetPanel : public SidePanel {
    Q_OBJECT
  public:
    explicit NewSetPanel(Document& document);

  private:
    void refresh();
    void make();
    void offer_own_scatter(FieldList& fields);
    survey::ReadingSet set_;
    SchoolSketch* sketch_;
    QLabel* words_;
    Form* form_;
};

}  // namespace bevelsmith::app
