// Sheets that take the place of the facts where more room is needed: findings, papers, new things, importing.
#pragma once

#include <QComboBox>
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
    /// Closes the sheet: what it made is filled next, in this step's entry.
    void wants_entry(const QString& word);
    /// A short report for the notice strip.
    void said(const QString& words);

  protected:
    void keyPressEvent(QKeyEvent* event) override;
    Document& document_;
    Panel* panel_;
};

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

/// Papers and files of one piece or part.
class PapersSheet : public SideSheet {
    Q_OBJECT
  public:
    explicit PapersSheet(Document& document);

  private:
    void refresh();
    void propose_path();
    void write();
    void print();
    std::string chosen_id() const;
    QComboBox *what_, *format_;
    QLineEdit* path_;
    QLabel* pages_;
    FaultLine* fault_;
    QPushButton *act_, *print_;
    std::vector<std::string> ids_;
    bool own_path_ = false;
};

/// A new piece of one of the usual kinds.
class NewPieceSheet : public SideSheet {
    Q_OBJECT
  public:
    NewPieceSheet(Document& document, double at_mm);

  private:
    void refresh();
    int kind_ = 0;
    double at_mm_;
    QLabel* words_;
    Form* form_;
};

/// A new set of readings: school, surface, and where its line or pattern stands.
class NewSetSheet : public SideSheet {
    Q_OBJECT
  public:
    explicit NewSetSheet(Document& document);

  private:
    void refresh();
    void make();
    survey::ReadingSet set_;
    QLabel* words_;
    Form* form_;
};

/// The keys.
class ShortcutsSheet : public SideSheet {
    Q_OBJECT
  public:
    explicit ShortcutsSheet(Document& document);
};

/// The sheet by the name that steps ask for; null for an unknown name.
SideSheet* make_sheet(Document& document, const QString& name);

}  // namespace bevelsmith::app
