// A panel that takes the place of the facts where more room is needed.
#pragma once

#include <QWidget>

#include "app/document/document.h"
#include "app/widgets/form.h"
#include "app/widgets/openings.h"
#include "app/widgets/panel.h"

namespace bevelsmith::app {

class SidePanel : public QWidget {
    Q_OBJECT
  public:
    SidePanel(Document& document, const QString& title);
    static constexpr int panel_width = 420;

  signals:
    void close_asked();
    void wants_step(StepId id);
    void wants_boat();                            ///< Pieces, with all of them in the boat
    void wants_panel(const PanelRequest& panel);  ///< instead of this one
    /// Closes the panel: what it made is filled next, in this step's entry.
    void wants_entry(StepId id);
    /// Closes the panel: this reading is looked at in Measure.
    void wants_reading(const std::string& set_id, int reading);
    /// A short report for the notice strip.
    void said(const QString& words);
    /// The same of a file that was written; the notice offers to open it.
    void wrote(const QString& words, const QString& path);

  protected:
    void keyPressEvent(QKeyEvent* event) override;
    Document& document_;
    Panel* panel_;
};

}  // namespace bevelsmith::app
