#include "app/shell/main_window.h"

#include <QAbstractButton>
#include <QAction>
#include <QApplication>
#include <QCloseEvent>
#include <QDesktopServices>
#include <QFile>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QRandomGenerator>
#include <QScreen>
#include <QSessionManager>
#include <QShortcut>
#include <QUrl>
#include <QVBoxLayout>

#include "app/guide/guide.h"
#include "app/keeping/choices_kept.h"
#include "app/keeping/hand_kept.h"
#include "app/keeping/recent_jobs.h"
#include "app/look/theme.h"
#include "app/practice/practice_panel.h"
#include "app/shell/keeping_panels.h"
#include "app/shell/pieces_column.h"
#include "app/shell/side_panels.h"
#include "app/shell/welcome.h"
#include "app/widgets/dialog_filter.h"
#include "job/job_file.h"

namespace bevelsmith::app {

Notice::Notice(QWidget* page, QWidget* stage) : QWidget(page), stage_(stage) {
    setObjectName("notice");
    setAttribute(Qt::WA_StyledBackground);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(size::pad, 4, size::pad, 4);
    words_ = new QLabel;
    words_->setTextFormat(Qt::PlainText);
    words_->setWordWrap(true);
    row->addWidget(words_, 1);
    buttons_ = new QHBoxLayout;
    row->addLayout(buttons_);
    going_.setSingleShot(true);
    connect(&going_, &QTimer::timeout, this, [this] {
        // Not from under the pointer.
        if (underMouse()) going_.start(reading_ms());
        else hide();
    });
    page->installEventFilter(this);
    stage->installEventFilter(this);
    hide();
}

int Notice::reading_ms() const {
    constexpr int moment_ms = 4000, letter_ms = 60;
    return moment_ms + letter_ms * static_cast<int>(words_->text().size());
}

bool Notice::eventFilter(QObject* watched, QEvent* event) {
    if ((event->type() == QEvent::Resize || event->type() == QEvent::Move) && isVisible()) settle();
    return QWidget::eventFilter(watched, event);
}

void Notice::settle() {
    constexpr int widest = 900;
    const int wide = std::min(widest, stage_->width() - 2 * size::pad);
    const int high = layout()->hasHeightForWidth() ? layout()->totalHeightForWidth(wide) : sizeHint().height();
    const QPoint foot = stage_->mapTo(parentWidget(), QPoint(stage_->width() / 2, stage_->height()));
    setGeometry(foot.x() - wide / 2, foot.y() - high - size::pad, wide, high);
    raise();
}

void Notice::say(const QString& words, const std::vector<Choice>& choices, Stays stays) {
    while (auto* item = buttons_->takeAt(0)) {
        if (item->widget()) item->widget()->hide(), item->widget()->deleteLater();
        delete item;
    }
    words_->setText(words);
    const auto add = [this](const QString& text, const std::function<void()>& act) {
        auto* button = new QPushButton(text);
        buttons_->addWidget(button);
        connect(button, &QPushButton::clicked, this, [this, act] {
            hide();
            if (act) act();
        });
    };
    for (const auto& [text, act] : choices) add(text, act);
    const bool goes = choices.empty() || stays == Stays::until_read;
    if (goes) add("Close", {});
    show();
    settle();
    if (goes) going_.start(reading_ms());
    else going_.stop();
}

MainWindow::MainWindow(Document& document) : document_(document), keeper_(document, keepers_window()) {
    steps_.push_back(make_measure_step(document_));
    steps_.push_back(make_shape_step(document_));
    steps_.push_back(make_pieces_step(document_));
    steps_.push_back(make_fix_step(document_));
    steps_.push_back(make_cut_step(document_));
    steps_.push_back(make_weigh_step(document_));
    pages_ = new QStackedWidget;
    pages_->addWidget(build_welcome());
    pages_->addWidget(build_work());
    setCentralWidget(pages_);
    setWindowIcon(QIcon(":/icons/bevelsmith.svg"));
    // Never larger than its screen.
    const QSize room = screen() ? screen()->availableSize() : QSize(1280, 800);
    setMinimumSize(QSize(960, 560).boundedTo(room));
    resize(QSize(1280, 800).boundedTo(room));
    build_actions();
    qApp->installEventFilter(&manners_);
    connect(&document_, &Document::job_changed, this, &MainWindow::refresh_title);
    // The stack knows only after the job has changed whether that made it clean.
    connect(&document_.undo_stack(), &QUndoStack::cleanChanged, this, &MainWindow::refresh_title);
    // The session ends: what is unsaved is on the disk before it goes. Only where that fails is it held up.
    connect(qApp, &QGuiApplication::commitDataRequest, this, [this](QSessionManager& session) {
        if (!keeper_.may_close({})) session.cancel();
    });
    connect(&document_, &Document::saved, this, [this] {
        remember_job(document_.path(), document_.job());
        keep_hand(document_.path(), job::hand_record(document_.computed()->job, document_.computed()->results));
    });
    refresh_title();
    theme().dress();
}

MainWindow::~MainWindow() {
    qApp->removeEventFilter(&manners_);
    // The views look at what the steps hold, so they go first.
    delete takeCentralWidget();
}

QWidget* MainWindow::build_welcome() {
    auto* page = new Welcome;
    connect(page, &Welcome::guide_asked, this, &MainWindow::begin_guide);
    connect(page, &Welcome::new_asked, this, &MainWindow::begin_new);
    connect(page, &Welcome::recent_asked, this, &MainWindow::open);
    connect(page, &Welcome::practice_asked, this, [this] { begin_practice(); });
    connect(page, &Welcome::example_asked, this, &MainWindow::open_example);
    connect(page, &Welcome::open_asked, this, &MainWindow::ask_open);
    connect(page, &Welcome::kept_asked, this, &MainWindow::show_kept);
    connect(page, &Welcome::take_up_asked, this, [this](const KeptWork& work) { keeper_.take_up(work); });
    connect(page, &Welcome::look_asked, this, [this](const KeptWork& work) { keeper_.look_at(work); });
    connect(page, &Welcome::throw_away_asked, this, [this](const KeptWork& work) {
        throw_away(work.file);
        offer_kept_work();
    });
    return page;
}

QWidget* MainWindow::build_guide() {
    guide_ = new GuideStrip(document_);
    connect(guide_, &GuideStrip::wants_step, this, &MainWindow::show_step);
    connect(guide_, &GuideStrip::wants_panel, this, &MainWindow::show_panel);
    connect(guide_, &GuideStrip::wants_set, this, [this](const std::string& id) {
        show_step(StepId::measure);
        step_of(StepId::measure)->show_reading(id, -1);
        step_of(StepId::measure)->focus_entry();
    });
    return guide_;
}

QWidget* MainWindow::build_work() {
    auto* page = new QWidget;
    page->setObjectName("ground");
    page->setAttribute(Qt::WA_StyledBackground);
    auto* rows = new QVBoxLayout(page);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(0);
    band_ = new TopBand(document_, steps_);
    rows->addWidget(band_);
    auto* columns = new QHBoxLayout;
    columns->setSpacing(0);
    pieces_ = new PiecesColumn(document_);
    columns->addWidget(pieces_);
    auto* middle = new QVBoxLayout;
    middle->setSpacing(0);
    // Over the drawing, so that the facts beside it have the room that they always have.
    middle->addWidget(build_guide());
    stages_ = new QStackedWidget;
    ribbons_ = new QStackedWidget;
    ribbons_->setObjectName("ribbon");
    ribbons_->setAttribute(Qt::WA_StyledBackground);
    ribbons_->setFixedHeight(size::ribbon);
    middle->addWidget(stages_, 1);
    middle->addWidget(ribbons_);
    columns->addLayout(middle, 1);
    facts_ = new QStackedWidget;
    facts_->setObjectName("facts");
    facts_->setAttribute(Qt::WA_StyledBackground);
    facts_->setFixedWidth(size::facts);
    columns->addWidget(facts_);
    panel_place_ = new QVBoxLayout;
    columns->addLayout(panel_place_);
    rows->addLayout(columns, 1);
    notice_ = new Notice(page, stages_);
    take_in_steps();
    connect_work();
    band_->show_step(0);
    return page;
}

/// Every step has its place in each column, of which one is seen.
void MainWindow::take_in_steps() {
    for (const auto& step : steps_) {
        stages_->addWidget(step->stage());
        ribbons_->addWidget(step->ribbon());
        facts_->addWidget(step->facts());
        connect(step.get(), &Step::wants_step, this, &MainWindow::show_step);
        connect(step.get(), &Step::wants_panel, this, &MainWindow::show_panel);
        connect(step.get(), &Step::wants_boat, this, &MainWindow::show_boat);
        connect(step.get(), &Step::enters, guide_, &GuideStrip::follow);
        connect(step.get(), &Step::wants_next, this, [this] {
            if (guide_->on()) guide_->go_on();
        });
    }
}

void MainWindow::connect_work() {
    connect(&document_, &Document::noted, this,
            [this](const QString& words, const Document::Choices& choices, bool stays) {
                notice_->say(words, choices, stays ? Notice::Stays::until_chosen : Notice::Stays::until_read);
            });
    connect(&document_, &Document::replaced, this, [this] {
        close_panel();
        for (const auto& step : steps_) step->forget();
    });
    connect(band_, &TopBand::step_chosen, this, [this](int k) { show_step(all_steps[static_cast<std::size_t>(k)]); });
    connect(band_, &TopBand::attention_asked, this, [this] { show_panel(panel::Findings{}); });
    connect(pieces_, &PiecesColumn::wants_panel, this, &MainWindow::show_panel);
    connect(pieces_, &PiecesColumn::opened, this, [this] {
        if (step() == StepId::measure || step() == StepId::shape) show_step(StepId::pieces);
    });
}

void MainWindow::build_actions() {
    QMenu* menu = band_->job_menu();
    const auto add = [&](const QString& text, const QKeySequence& keys, auto act) {
        auto* action = new QAction(text, this);
        action->setShortcut(keys);
        addAction(action);
        connect(action, &QAction::triggered, this, act);
        menu->addAction(action);
        return action;
    };
    add("New job", QKeySequence::New, [this] { begin_new(); });
    add("A first piece, guided", {}, [this] { begin_guide(); });
    add("Open…", QKeySequence::Open, [this] { ask_open(); });
    add("Open Ternlight, the demo", {}, [this] { open_demo(); });
    add("Practise on a virtual hull", {}, [this] { begin_practice(); });
    menu->addSeparator();
    add("Name this job", {}, [this] { band_->rename_job(); });
    add("Name the boat", {}, [this] { band_->rename_boat(); });
    add("Save", QKeySequence::Save, [this] { save(); });
    add("Save as…", QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S), [this] { save_as(); });
    add("Earlier versions…", {}, [this] { show_versions(); });
    add("Work that was not saved…", {}, [this] { show_kept(); });
    add("Papers to cut from…", QKeySequence::Print, [this] { show_panel(panel::Papers{}); });
    menu->addSeparator();
    QUndoStack& stack = document_.undo_stack();
    auto* undo = add("Undo", QKeySequence::Undo, [&stack] { stack.undo(); });
    auto* redo = add("Redo", QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), [&stack] { stack.redo(); });
    const auto name_steps = [undo, redo, &stack] {
        undo->setText(stack.canUndo() ? "Undo: " + stack.undoText() : QString("Undo"));
        redo->setText(stack.canRedo() ? "Redo: " + stack.redoText() : QString("Redo"));
        undo->setEnabled(stack.canUndo());
        redo->setEnabled(stack.canRedo());
    };
    connect(&stack, &QUndoStack::indexChanged, this, name_steps);
    name_steps();
    menu->addSeparator();
    add("Datum and marks…", QKeySequence(Qt::CTRL | Qt::Key_L), [this] { show_panel(panel::Datum{}); });
    add("What needs attention", QKeySequence(Qt::CTRL | Qt::Key_K), [this] { show_panel(panel::Findings{}); });
    add("Several pieces at once…", QKeySequence(Qt::CTRL | Qt::Key_T), [this] { show_panel(panel::Together{}); });
    add("Fold the pieces", QKeySequence(Qt::CTRL | Qt::Key_B), [this] {
        pieces_folded_ = pieces_->isVisible();
        fold_for_room();
    });
    add("Fold the facts", QKeySequence(Qt::CTRL | Qt::Key_G), [this] {
        facts_folded_ = !facts_folded_;
        facts_->setVisible(!facts_folded_ && !panel_);
    });
    add("Day and night", QKeySequence(Qt::CTRL | Qt::Key_D), [] { theme().set_night(!theme().night()); });
    add("Keys", QKeySequence::HelpContents, [this] { show_panel(panel::Keys{}); });
    for (int i = 0; i < static_cast<int>(steps_.size()); ++i) {
        auto* keys = new QShortcut(QKeySequence(Qt::CTRL | static_cast<Qt::Key>(Qt::Key_1 + i)), this);
        connect(keys, &QShortcut::activated, this, [this, i] { show_step(all_steps[static_cast<std::size_t>(i)]); });
    }
}

void MainWindow::show_work() {
    close_panel();
    pages_->setCurrentIndex(1);
}

/// What the keeper asks of the window.
Keeper::Window MainWindow::keepers_window() {
    Keeper::Window out;
    out.say = [this](const QString& words, const std::vector<Keeper::Choice>& choices) {
        pages_->setCurrentIndex(1);
        notice_->say(words, choices);
    };
    out.compare = [this](const Comparison& comparison) {
        pages_->setCurrentIndex(1);
        show_own_panel(new ComparePanel(document_, comparison));
    };
    out.show_job = [this] { show_opened(); };
    out.save_as = [this] { save_as(); };
    out.ask_folder = [this] {
        return QFileDialog::getExistingDirectory(this, "A folder for work that is not saved", QDir::homePath(),
                                                 QFileDialog::ShowDirsOnly | QFileDialog::DontUseNativeDialog);
    };
    return out;
}

bool MainWindow::open(const QString& path) {
    return keeper_.open(path);
}

/// The step in which the work on a job goes on.
void MainWindow::show_opened() {
    notice_->hide();
    show_work();
    if (!document_.path().isEmpty()) remember_job(document_.path(), document_.job());
    show_step(document_.job().readings.empty()   ? StepId::measure
              : document_.built().pieces.empty() ? StepId::shape
                                                 : StepId::pieces);
}

void MainWindow::show_first_page() {
    offer_kept_work();
    pages_->setCurrentIndex(0);
}

void MainWindow::offer_kept_work() {
    auto* page = static_cast<Welcome*>(pages_->widget(0));
    page->offer(keeper_.found());
    page->offer_recent(recent_jobs());
}

void MainWindow::show_kept() {
    pages_->setCurrentIndex(1);
    auto* panel = new KeptPanel(document_, keeper_.journal().folder());
    connect(panel, &KeptPanel::take_up_asked, this, [this](const KeptWork& work) { keeper_.take_up(work); });
    connect(panel, &KeptPanel::look_asked, this, [this](const KeptWork& work) { keeper_.look_at(work); });
    connect(panel, &KeptPanel::throw_away_asked, this, [](const KeptWork& work) { throw_away(work.file); });
    show_own_panel(panel);
}

void MainWindow::show_versions() {
    auto* panel = new VersionsPanel(document_, document_.path());
    connect(panel, &VersionsPanel::look_asked, this, [this](const Version& version) { keeper_.look_at(version); });
    show_own_panel(panel);
}

void MainWindow::open_example(const QString& name) {
    QFile file(":/demo/" + name + ".job.json");
    if (!file.open(QIODevice::ReadOnly)) return;
    auto job = job::job_from_text(file.readAll().toStdString());
    if (!job) return notice_->say("The example is damaged: " + QString::fromStdString(job.error().message));
    begin(job.value());
}

void MainWindow::begin(const job::Job& job) {
    keeper_.leave([this, job] { keeper_.put(job); });
}

namespace {

/// In the units that were chosen last.
job::Job new_job() {
    job::Job out = job::empty_job();
    const int unit = kept_choices("units")["lengths"].toInt(static_cast<int>(out.unit));
    if (unit >= 0 && unit < units::length_unit_count) out.unit = static_cast<units::LengthUnit>(unit);
    return out;
}

}  // namespace

void MainWindow::begin_new() {
    keeper_.leave([this] {
        keeper_.put(new_job());
        show_step(StepId::measure);
        show_panel(panel::NewSet{});
    });
}

void MainWindow::begin_guide() {
    keeper_.leave([this] {
        keeper_.put(new_job());
        show_step(StepId::measure);
        show_panel(panel::Guide{});
    });
}

void MainWindow::begin_practice(std::optional<unsigned> seed) {
    keeper_.leave([this, seed] {
        keeper_.put(practice_job(seed.value_or(QRandomGenerator::global()->bounded(1U, 1'000'000U))));
        document_.select_piece("B1");
        show_step(StepId::measure);
        show_panel(panel::Practice{});
    });
}

void MainWindow::ask_open() {
    const QString path = QFileDialog::getOpenFileName(this, "Open a job", QFileInfo(document_.path()).absolutePath(),
                                                      dialog_filter("Jobs", exchange::FileKind::job), nullptr,
                                                      QFileDialog::DontUseNativeDialog);
    if (!path.isEmpty()) open(path);
}

void MainWindow::save() {
    if (document_.path().isEmpty()) return save_as();
    if (keeper_.save_to(document_.path())) notice_->hide();
}

void MainWindow::save_as() {
    QFileDialog dialog(this, "Save the job as", {}, "Jobs (*.job.json)");
    if (document_.path().isEmpty()) {
        dialog.setDirectory(QDir::homePath());
        dialog.selectFile(proposed_name());
    } else {
        dialog.setDirectory(QFileInfo(document_.path()).absolutePath());
        dialog.selectFile(QFileInfo(document_.path()).fileName());
    }
    dialog.setOption(QFileDialog::DontUseNativeDialog);
    dialog.setAcceptMode(QFileDialog::AcceptSave);
    dialog.setDefaultSuffix("job.json");
    if (dialog.exec() != QDialog::Accepted || dialog.selectedFiles().isEmpty()) return;
    keeper_.save_to(dialog.selectedFiles().front());
}

/// From the boat and the job: "Ternlight, forward bulkhead.job.json".
QString MainWindow::proposed_name() const {
    const QString boat = QString::fromStdString(document_.job().boat.name).trimmed();
    const QString job = QString::fromStdString(document_.job().name).trimmed();
    QString out = boat.isEmpty() || boat == job ? job : job.isEmpty() ? boat : boat + ", " + job;
    // What no folder takes in a name.
    out.replace(QRegularExpression("[/\\\\:*?\"<>|\\x00-\\x1f]+"), " ");
    return (out.simplified().isEmpty() ? QString("job") : out.simplified()) + ".job.json";
}

Step* MainWindow::step_of(StepId id) const {
    return steps_[static_cast<std::size_t>(id)].get();
}

StepId MainWindow::step() const {
    return step_;
}

void MainWindow::show_step(StepId id) {
    const int i = static_cast<int>(id);
    step_ = id;
    stages_->setCurrentIndex(i);
    ribbons_->setCurrentIndex(i);
    facts_->setCurrentIndex(i);
    band_->show_step(i);
    // The keys go to the drawing, unless a person is in a field.
    if (!qobject_cast<QLineEdit*>(QApplication::focusWidget())) step_of(id)->drawing()->setFocus();
}

void MainWindow::show_boat() {
    show_step(StepId::pieces);
    step_of(StepId::pieces)->show_in_boat(true);
}

void MainWindow::show_panel(const PanelRequest& request) {
    // What is added is seen where it will stand.
    const auto& surfaces = document_.computed()->results.surfaces;
    if (std::holds_alternative<panel::NewPiece>(request) &&
        std::any_of(surfaces.begin(), surfaces.end(), [](const auto& s) { return s.fitted(); }))
        show_boat();
    show_own_panel(make_panel(document_, request));
}

void MainWindow::show_own_panel(SidePanel* panel) {
    close_panel();
    panel_ = panel;
    connect(panel, &SidePanel::close_asked, this, &MainWindow::close_panel);
    connect(panel, &SidePanel::wants_step, this, &MainWindow::show_step);
    connect(panel, &SidePanel::wants_boat, this, &MainWindow::show_boat);
    // Not before the one that asks has done.
    connect(panel, &SidePanel::wants_panel, this, &MainWindow::show_panel, Qt::QueuedConnection);
    connect(panel, &SidePanel::wants_entry, this, [this](StepId id) {
        show_step(id);
        close_panel();
        step_of(id)->focus_entry();
    });
    connect(panel, &SidePanel::wants_reading, this, [this](const std::string& set, int reading) {
        close_panel();
        show_step(StepId::measure);
        step_of(StepId::measure)->show_reading(set, reading);
    });
    if (auto* guide = qobject_cast<GuidePanel*>(panel))
        connect(guide, &GuidePanel::begun, this, [this](const GuidePlan& plan) {
            close_panel();
            show_step(StepId::measure);
            guide_->begin(plan);
        });
    connect(panel, &SidePanel::said, this, [this](const QString& words) { notice_->say(words); });
    connect(panel, &SidePanel::wrote, this, [this](const QString& words, const QString& path) {
        const QString folder = QFileInfo(path).absolutePath();
        notice_->say(words,
                     {{"Open it", [path] { QDesktopServices::openUrl(QUrl::fromLocalFile(path)); }},
                      {"Show its folder", [folder] { QDesktopServices::openUrl(QUrl::fromLocalFile(folder)); }}},
                     Notice::Stays::until_read);
    });
    // It takes the facts' place and some of the stage's, so that nothing is covered.
    facts_->hide();
    panel_place_->addWidget(panel);
    fold_for_room();
    panel->show();
    panel->setFocus();
}

/// On a small screen the pieces make room for the drawing, and so does the ribbon, until a person unfolds them.
void MainWindow::fold_for_room() {
    constexpr int narrow_px = 1150, with_panel_px = 1230, low_px = 640, low_ribbon_px = 84;
    const bool narrow = width() < (panel_ ? with_panel_px : narrow_px);
    pieces_->setVisible(!pieces_folded_.value_or(narrow));
    ribbons_->setFixedHeight(height() < low_px ? low_ribbon_px : size::ribbon);
}

void MainWindow::resizeEvent(QResizeEvent* event) {
    // Another size is another start.
    const auto narrow = [](const QSize& s) { return s.width() < 1150; };
    if (narrow(event->oldSize()) != narrow(event->size())) pieces_folded_.reset();
    fold_for_room();
    QMainWindow::resizeEvent(event);
}

void MainWindow::close_panel() {
    if (!panel_) return;
    panel_->hide();
    panel_->deleteLater();
    panel_ = nullptr;
    facts_->setVisible(!facts_folded_);
    fold_for_room();
}

/// Escape comes here from wherever nothing else wanted it.
void MainWindow::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape && panel_) return close_panel();
    QMainWindow::keyPressEvent(event);
}

void MainWindow::refresh_title() {
    setWindowTitle(QString("%1%2 – Bevelsmith").arg(job_name(document_.job()), document_.modified() ? " *" : ""));
}

void MainWindow::closeEvent(QCloseEvent* event) {
    // Nothing is asked: what is not saved is kept, and offered at the next start. Where it cannot be kept, the window
    // stays and says so.
    event->setAccepted(keeper_.may_close([this] { close(); }));
}

}  // namespace bevelsmith::app
