// What lies in the yard: offcuts, bars, what is wanted of them, and the plan by which bars are cut.
#pragma once

#include "app/widgets/side_panel.h"

namespace bevelsmith::app {

class BarPicture;

class StockPanel : public SidePanel {
    Q_OBJECT
  public:
    explicit StockPanel(Document& document);

  private:
    enum class Shown { offcuts, bars, lengths };
    void refresh();
    void add();
    void remove();
    void add_offcut_fields(FieldList& fields);
    void add_bar_fields(FieldList& fields);
    void add_length_fields(FieldList& fields);
    std::size_t count() const;
    void say_ends();
    void say_plan();
    Shown shown_ = Shown::offcuts;
    std::size_t chosen_ = 0;
    QComboBox* which_;
    Form* form_;
    BarPicture* picture_;
    QLabel *empty_, *ends_, *plan_;
    FaultLine* fault_;
    QPushButton *another_, *gone_, *photo_, *drawing_;
};

}  // namespace bevelsmith::app
