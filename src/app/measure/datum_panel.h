// How the boat leans where she stands, and the marks that keep their place.
#pragma once

#include <QLineEdit>

#include "app/widgets/side_panel.h"

namespace bevelsmith::app {

/// The boat's level and the hard's together, looking forward and from starboard; the angle is drawn larger than it
/// is.
class LeanView : public QWidget {
    Q_OBJECT
  public:
    explicit LeanView(QWidget* parent = nullptr);
    void show_lean(const survey::Lean& lean);

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    survey::Lean lean_;
};

class DatumPanel : public SidePanel {
    Q_OBJECT
  public:
    explicit DatumPanel(Document& document);

  private:
    void refresh();
    void add_datum_fields(FieldList& fields);
    void add_mark_fields(FieldList& fields);
    void change_datum(const std::function<void(survey::Datum&)>& change);
    void show_ties();
    void write();
    LeanView* view_;
    Form *datum_, *marks_;
    QLabel *lean_, *ties_, *written_;
    FaultLine* fault_;
    QLineEdit* path_;
};

}  // namespace bevelsmith::app
