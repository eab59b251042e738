// The first piece, guided: what it is, how and where one measures, then the readings, the piece, its papers.
#pragma once

#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <optional>

#include "app/measure/school_sketch.h"
#include "app/widgets/side_panel.h"
#include "job/starting_piece.h"

namespace bevelsmith::app {

/// What was chosen at the start; the rest follows from the job.
struct GuidePlan {
    job::StartingKind kind = job::StartingKind::half_bulkhead;
    survey::School school = survey::School::ordinates;
    bool port = true;
    double first_mm = 1000, apart_mm = 500;  ///< of the stations, along the boat
    int stations = 4;
    double line_mm = 300;  ///< ordinates: off the centre line, where the line stands
};

/// The sets of readings that a plan asks for, empty, one a station.
std::vector<survey::ReadingSet> sets_of(const GuidePlan& plan);

/// The boat from above, with the stations: a click or the arrows put them.
class PlaceView : public QWidget {
    Q_OBJECT
  public:
    PlaceView(const Document& document, GuidePlan& plan);

  signals:
    void moved();

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* event) override { put(event->position()); }
    void mouseMoveEvent(QMouseEvent* event) override { put(event->position()); }
    void keyPressEvent(QKeyEvent* event) override;

  private:
    double shown_mm() const;
    double x_of(double mm) const;
    void put(const QPointF& at);
    const Document& document_;
    GuidePlan& plan_;
};

class GuidePanel : public SidePanel {
    Q_OBJECT
  public:
    explicit GuidePanel(Document& document);

  signals:
    /// The sets have been made: their readings come next.
    void begun(const GuidePlan& plan);

  private:
    void add_kinds();
    void refresh();
    void begin();
    GuidePlan plan_;
    std::vector<QToolButton*> kinds_;
    SchoolSketch* sketch_;
    PlaceView* place_;
    Form* form_;
};

/// The strip over the work that says what comes next, until it is left.
class GuideStrip : public QWidget {
    Q_OBJECT
  public:
    explicit GuideStrip(Document& document);
    void begin(const GuidePlan& plan);
    /// The set that is typed into: its station is the one that is told about.
    void follow(const std::string& set_id);
    void leave();
    bool on() const { return plan_.has_value(); }
    /// What it says now, and what its button would do.
    QString words() const { return words_->text(); }
    /// Goes on with the next station, or to the piece when all are read.
    void go_on();

  signals:
    void wants_set(const std::string& id);
    void wants_step(StepId id);
    void wants_panel(const PanelRequest& panel);

  private:
    std::vector<const job::JobReadingSet*> sets() const;
    /// The first station with fewer readings than a section wants, and the one that is typed into; -1 for none.
    int unread() const;
    int entered() const;
    /// The next station without readings, after the one that is typed into.
    int next_unread() const;
    QString readings_words() const;
    void refresh();
    bool fitted() const;
    void make_piece();
    Document& document_;
    std::optional<GuidePlan> plan_;
    std::vector<std::string> ids_;
    std::string piece_, entered_;
    bool piece_wanted_ = false;  ///< as soon as there is a surface
    QLabel* words_;
    QPushButton *next_, *leave_;
};

}  // namespace bevelsmith::app
