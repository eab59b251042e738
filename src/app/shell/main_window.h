// The one window: top band, pieces, stage, facts, ribbon; sheets slide in over it.
#pragma once

#include <QLabel>
#include <QMainWindow>
#include <QPointer>
#include <QStackedWidget>
#include <QTimer>
#include <optional>

#include "app/document/document.h"
#include "app/shell/keeper.h"
#include "app/shell/top_band.h"
#include "app/widgets/manners.h"
#include "app/widgets/side_panel.h"
#include "app/widgets/step.h"

namespace bevelsmith::app {

class PiecesColumn;

/// A strip under the band that says one thing and offers what can be done about it.
class Notice : public QWidget {
    Q_OBJECT
  public:
    /// A child of `page` that lies over the foot of `stage`, and moves nothing under the pointer.
    Notice(QWidget* page, QWidget* stage);
    using Choice = std::pair<QString, std::function<void()>>;
    /// What asks for a choice stays until one is made; anything else goes by itself once it can have been read.
    enum class Stays { until_read, until_chosen };
    void say(const QString& words, const std::vector<Choice>& choices = {}, Stays stays = Stays::until_chosen);
    QString words() const { return isVisible() ? words_->text() : QString(); }
    /// How long what goes by itself is there (ms): a moment, and some for every letter.
    int reading_ms() const;

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void settle();
    QLabel* words_;
    QHBoxLayout* buttons_;
    QTimer going_;
    QWidget* stage_;
};

class GuideStrip;

class MainWindow : public QMainWindow {
    Q_OBJECT
  public:
    explicit MainWindow(Document& document);
    ~MainWindow() override;

    /// Opens a file; a fault is said in the notice strip and changes nothing.
    bool open(const QString& path);
    /// The Ternlight demo, as a job that has no file yet.
    void open_demo() { open_example("ternlight"); }
    /// A job that ships with the program: "ternlight", "ketch", "workboat".
    void open_example(const QString& name);
    /// Goes on with this job, unnamed, once what was open is kept.
    void begin(const job::Job& job);
    void begin_new();
    /// A new job with the guide to its first piece.
    void begin_guide();
    /// A job on a virtual boat, ready to be measured: another boat each time, or the one of this seed.
    void begin_practice(std::optional<unsigned> seed = {});
    /// Offers on the first page the unsaved work that earlier runs left.
    void offer_kept_work();
    /// The ways into the program, with what was kept.
    void show_first_page();
    void show_versions();
    void show_step(StepId id);
    /// Pieces, with all of them in the boat.
    void show_boat();
    StepId step() const;
    Step* step_of(StepId id) const;
    void show_panel(const PanelRequest& request);
    SidePanel* side_panel() const { return panel_; }
    Keeper& keeper() { return keeper_; }
    const Keeper& keeper() const { return keeper_; }
    Notice* notice() const { return notice_; }
    GuideStrip* guide() const { return guide_; }
    /// What a job without a file would be called.
    QString proposed_name() const;

  protected:
    void keyPressEvent(QKeyEvent* event) override;
    void closeEvent(QCloseEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

  private:
    QWidget* build_work();
    void take_in_steps();
    void connect_work();
    QWidget* build_guide();
    QWidget* build_welcome();
    void build_actions();
    void close_panel();
    void fold_for_room();
    void show_work();
    void refresh_title();
    void save();
    void save_as();
    void ask_open();
    void show_opened();
    void show_own_panel(SidePanel* sheet);
    void show_kept();
    Keeper::Window keepers_window();

    Document& document_;
    Manners manners_;
    Keeper keeper_;
    std::vector<std::unique_ptr<Step>> steps_;
    TopBand* band_;
    Notice* notice_;
    std::optional<bool> pieces_folded_;  ///< as a person said; else as there is room
    GuideStrip* guide_;
    QStackedWidget *pages_, *stages_, *facts_, *ribbons_;
    PiecesColumn* pieces_;
    QVBoxLayout* panel_place_;
    bool facts_folded_ = false;
    QPointer<SidePanel> panel_;
    StepId step_ = StepId::measure;
};

}  // namespace bevelsmith::app
