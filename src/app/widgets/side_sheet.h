// A sheet that takes the place of the facts where more room is needed.
#pragma once

#include <QWidget>

#include "app/document/document.h"
#include "app/widgets/form.h"
#include "app/widgets/panel.h"

namespace bevelsmith::app {

class SideSheet : public QWidget {
    Q_OBJECT
  public:
    SideSheet(Document& document, const QString& title);
    static constexpr int sheet_width = 420;

  signals:
    void close_asked();
    void wants_step(const QString& word);
    void wants_sheet(const QString& name);  ///< instead of this one
    /// Closes the sheet: what it made is filled next, in this step's entry.
    void wants_entry(const QString& word);
    /// Closes the sheet: this reading is looked at in Measure.
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
