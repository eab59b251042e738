// A set in a frame of its own: the marks that place it in the boat, how well they agree, and the surface as
// refinement.
#pragma once

#include <QFutureWatcher>
#include <atomic>

#include "app/widgets/side_panel.h"
#include "hull/alignment.h"
#include "survey/placing.h"

namespace bevelsmith::app {

/// The marks from above and looking forward, each with a line to where the placing puts it, drawn longer than it is.
class MarksPicture : public QWidget {
    Q_OBJECT
  public:
    explicit MarksPicture(QWidget* parent = nullptr);
    void show_marks(std::vector<survey::KnownMark> marks, std::optional<survey::Placement> placement);

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    std::vector<survey::KnownMark> marks_;
    std::optional<survey::Placement> placement_;
};

class MarksPanel : public SidePanel {
    Q_OBJECT
  public:
    MarksPanel(Document& document, const std::string& set_id);
    ~MarksPanel() override;

  private:
    const job::JobReadingSet* set() const;
    void change(const QString& what, const std::function<void(survey::OwnFrame&)>& apply);
    void refresh();
    void add_mark(FieldList& fields, std::size_t index, const survey::OwnFrame& own);
    void add_boat_marks();
    void show_placement();
    QString placement_words(const survey::Placement& by) const;
    /// How a mark lies, for its heading.
    /// The boat's mark of that name; null where there is none.
    const job::JobMark* boat_mark(const std::string& name) const;
    QString state_words(const survey::SeenMark& mark) const;
    void look_for_surface();
    void show_alignment();
    void lay_on_surface();

    std::string id_;
    MarksPicture* picture_;
    Form* form_;
    QLabel *found_, *gain_;
    FaultLine* fault_;
    QPushButton *try_, *lay_, *undo_nudge_;
    std::optional<Result<survey::PlacedSet>> placed_;
    /// What laying it on the surface would do; absent where it was stopped.
    using Tried = std::optional<Result<hull::Alignment>>;
    QFutureWatcher<Tried> trying_;
    Tried tried_;
    std::shared_ptr<const job::Job> tried_for_;  ///< the job that it was worked out for
    std::shared_ptr<std::atomic<bool>> stop_;
};

}  // namespace bevelsmith::app
