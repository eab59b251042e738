// Sheets that take the place of the facts where more room is needed: findings, papers, new things, importing.
#pragma once

#include <QComboBox>
#include <QWidget>

#include "app/document/document.h"
#include "app/widgets/form.h"
#include "app/widgets/panel.h"
#include "app/widgets/school_sketch.h"
#include "job/starting_piece.h"

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
    /// Closes the sheet: this reading is looked at in Measure.
    void wants_reading(const std::string& set_id, int reading);
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
    /// Where face A stands is proposed where it is not given.
    NewPieceSheet(Document& document, std::optional<double> at_mm);

  private:
    job::StartingKind kind() const { return offered_[static_cast<std::size_t>(chosen_)]; }
    void propose();
    void add();
    std::vector<job::StartingKind> offered_;
    int chosen_ = 0;
    std::optional<double> at_mm_;
    job::JobPiece proposed_;
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
    SchoolSketch* sketch_;
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
