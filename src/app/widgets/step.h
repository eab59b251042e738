// One step of the work: its drawing, its facts, its ribbon. The window puts them in their places.
#pragma once

#include <QObject>
#include <QWidget>
#include <memory>
#include <vector>

#include "app/document/document.h"
#include "app/widgets/form.h"
#include "app/widgets/openings.h"
#include "app/widgets/panel.h"

namespace bevelsmith::app {

class Step : public QObject {
    Q_OBJECT
  public:
    Step(Document& document, StepId id) : document_(document), id_(id) {}

    StepId id() const { return id_; }
    QString word() const { return step_word(id_); }
    /// A small honest count beside the word: "2 doubtful", "3 sheets". May be empty.
    virtual QString count() const = 0;

    QWidget* stage() const { return stage_; }
    /// The part of the stage that takes the keys.
    QWidget* drawing() const { return drawing_ ? drawing_ : stage_; }
    /// The keys go where the next entry is expected, where a step has such a place.
    virtual void focus_entry() {}
    /// Shows a set of readings and, unless it is -1, chooses one of them, where a step has readings.
    virtual void show_reading(const std::string&, int) {}
    /// All pieces in the boat, or the chosen one on the bench, where a step has both.
    virtual void show_in_boat(bool) {}
    /// Another job is open: what was looked at, unfolded or zoomed in the last one is as it was at the start.
    virtual void forget();
    QWidget* facts() const { return facts_; }
    QWidget* ribbon() const { return ribbon_; }

  signals:
    void wants_step(StepId id);
    void wants_boat();  ///< Pieces, with all of them in the boat
    /// The readings that are typed into now.
    void enters(const std::string& set_id);
    /// What is at hand is done: on with the next.
    void wants_next();
    void wants_panel(const PanelRequest& panel);

  protected:
    Document& document_;
    QWidget *stage_ = nullptr, *facts_ = nullptr, *ribbon_ = nullptr, *drawing_ = nullptr;

    Form* new_form() const {
        return new Form([&d = document_] { return d.unit(); });
    }

  private:
    StepId id_;
};

std::unique_ptr<Step> make_measure_step(Document& document);
std::unique_ptr<Step> make_shape_step(Document& document);
std::unique_ptr<Step> make_pieces_step(Document& document);
std::unique_ptr<Step> make_fix_step(Document& document);
std::unique_ptr<Step> make_cut_step(Document& document);
std::unique_ptr<Step> make_weigh_step(Document& document);

/// Findings about one piece, in the order of the list.
std::vector<review::Finding> findings_of(const Computed& computed, const QString& piece_id);

/// Adds `change` on the piece with this id as one undo step.
void edit_piece(Document& document, const QString& id, const QString& what,
                const std::function<void(job::JobPiece&)>& change, const QString& merge_key = {});

}  // namespace bevelsmith::app
