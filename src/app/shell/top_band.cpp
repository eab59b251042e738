#include "app/shell/top_band.h"
#include "app/keeping/choices_kept.h"

#include <QHBoxLayout>
#include <QLineEdit>
#include <QMenu>
#include <QShortcut>

#include "app/look/theme.h"
#include "units/ranges.h"

namespace bevelsmith::app {

namespace {

constexpr int margin_px = 8;

}  // namespace

StepButton::StepButton(const QString& word) : word_(new QLabel(word)), count_(new QLabel) {
    setObjectName("step");
    setCheckable(true);
    setAutoExclusive(true);
    setAccessibleName(word);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 6, 0, 7);
    column->setSpacing(0);
    count_->setObjectName("small");
    for (auto* label : {word_, count_}) {
        label->setAttribute(Qt::WA_TransparentForMouseEvents);
        label->setAlignment(Qt::AlignHCenter);
        column->addWidget(label);
    }
    connect(this, &QPushButton::toggled, this, [this](bool on) {
        word_->setObjectName(on ? "heading" : "words"), word_->style()->unpolish(word_),
            word_->style()->polish(word_);
    });
}

void StepButton::show_count(const QString& count) {
    all_ = count.isEmpty() ? " " : count;
    setAccessibleDescription(count);
    show_shortened();
    updateGeometry();
}

/// A count that has no room gives way to its word.
void StepButton::show_shortened() {
    count_->setText(count_->fontMetrics().elidedText(all_, Qt::ElideRight, width() - 2 * margin_px));
}

void StepButton::resizeEvent(QResizeEvent* event) {
    QPushButton::resizeEvent(event);
    show_shortened();
}

QSize StepButton::sizeHint() const {
    const int wide = std::max(word_->sizeHint().width(), count_->fontMetrics().horizontalAdvance(all_) + 2);
    return {std::max(74, wide + 2 * margin_px), size::band - 1};
}

QSize StepButton::minimumSizeHint() const {
    return {word_->sizeHint().width() + 4, size::band - 1};
}

TopBand::TopBand(Document& document, const std::vector<std::unique_ptr<Step>>& steps)
    : document_(document), steps_(steps), menu_(new QMenu(this)) {
    setObjectName("band");
    setAttribute(Qt::WA_StyledBackground);
    setFixedHeight(size::band);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(6, 0, size::pad, 0);
    row->setSpacing(2);
    row->addWidget(build_names());
    row->addStretch(1);
    for (int i = 0; i < static_cast<int>(steps_.size()); ++i) {
        auto* button = new StepButton(steps_[static_cast<std::size_t>(i)]->word());
        button->setToolTip(QString("Ctrl+%1").arg(i + 1));
        buttons_.push_back(button);
        row->addWidget(button);
        connect(button, &QPushButton::clicked, this, [this, i] { emit step_chosen(i); });
    }
    row->addStretch(1);
    for (QWidget* w : build_switches()) row->addWidget(w);
    connect(&theme(), &Theme::changed, this, &TopBand::refresh);
    connect(&document_, &Document::job_changed, this, &TopBand::refresh);
    connect(&document_, &Document::computed_changed, this, &TopBand::refresh);
    refresh();
}

/// The job over the boat, with how its computation stands.
QWidget* TopBand::build_names() {
    names_ = new QWidget;
    auto* names = new QVBoxLayout(names_);
    names->setContentsMargins(0, 5, 0, 5);
    names->setSpacing(0);
    job_ = new QToolButton;
    job_->setPopupMode(QToolButton::InstantPopup);
    job_->setMenu(menu_);
    job_->setAccessibleName("job");
    job_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    job_->setFont(Theme::font(size::text, true));
    boat_ = new QLabel;
    boat_->setObjectName("small");
    boat_->setContentsMargins(7, 0, 0, 0);
    boat_->setToolTip("A click names the boat");
    boat_->setCursor(Qt::IBeamCursor);
    boat_->installEventFilter(this);
    names->addWidget(job_, 0, Qt::AlignLeft);
    auto* under = new QHBoxLayout;
    under->setSpacing(size::unit);
    under->addWidget(boat_);
    stop_ = new QPushButton;
    stop_->setObjectName("quiet");
    stop_->setFont(Theme::font(size::text_small));
    stop_->setStyleSheet("padding: 0 4px; min-height: 14px;");
    stop_->hide();
    under->addWidget(stop_);
    under->addStretch(1);
    names->addLayout(under);
    connect(stop_, &QPushButton::clicked, this,
            [this] { document_.stopped() ? document_.compute_again() : document_.stop_computing(); });
    // What is done at once needs no word.
    patience_.setSingleShot(true);
    patience_.setInterval(200);
    connect(&patience_, &QTimer::timeout, this, &TopBand::refresh_computing);
    connect(&document_, &Document::computing_changed, this, &TopBand::refresh_computing);
    connect(&document_, &Document::computing_changed, this, &TopBand::refresh);
    return names_;
}

/// What needs attention, the unit of lengths, day and night.
std::vector<QWidget*> TopBand::build_switches() {
    attention_ = new QPushButton;
    attention_->setToolTip("What needs attention (Ctrl+K)");
    attention_->setObjectName("quiet");
    attention_->setIconSize({16, 16});
    unit_ = new QComboBox;
    for (int k = 0; k < units::length_unit_count; ++k) {
        const auto name = units::unit_name(static_cast<units::LengthUnit>(k));
        unit_->addItem(QString::fromUtf8(name.data(), static_cast<int>(name.size())));
    }
    unit_->setAccessibleName("unit of lengths");
    unit_->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    look_ = new QPushButton;
    look_->setObjectName("quiet");
    look_->setToolTip("Day and night (Ctrl+D)");
    connect(attention_, &QPushButton::clicked, this, &TopBand::attention_asked);
    connect(unit_, &QComboBox::activated, this, [this](int k) {
        document_.edit("Change the unit", [k](job::Job& job) { job.unit = static_cast<units::LengthUnit>(k); });
        // The next new job begins with it.
        keep_choices("units", {{"lengths", k}});
    });
    connect(look_, &QPushButton::clicked, this, [] { theme().set_night(!theme().night()); });
    return {attention_, unit_, look_};
}

void TopBand::show_step(int index) {
    buttons_[static_cast<std::size_t>(index)]->setChecked(true);
}

/// Under the job: the boat, and while something takes long, that it does, and how to end it.
void TopBand::refresh_computing() {
    const bool computing = document_.computing(), stopped = document_.stopped();
    if (!computing) patience_.stop();
    else if (!stop_->isVisible() && !patience_.isActive() && sender() != &patience_) patience_.start();
    const bool long_now = computing && !patience_.isActive();
    const std::string& boat = document_.job().boat.name;
    const QString name = QString::fromStdString(boat.empty() ? std::string("boat without a name") : boat);
    const QString state = stopped ? "  ·  stopped" : long_now ? "  ·  computing" : "";
    const int room = names_->width() - (stopped || long_now ? 130 : 30);
    boat_->setText(QFontMetrics(boat_->font()).elidedText(name, Qt::ElideRight, std::max(room, 30)) + state);
    stop_->setText(stopped ? "Compute" : "Stop");
    stop_->setToolTip(stopped ? "What is shown is of the job before: compute it anew"
                              : "End the computation; what was computed last stays");
    stop_->setVisible(stopped || long_now);
}

/// "All clear" is a promise: every piece has an outline, and every check ran on the job as it is.
QString TopBand::clear_words() const {
    const auto& now = *document_.computed();
    if (document_.built().pieces.empty()) return document_.job().readings.empty() ? "nothing yet" : "no piece yet";
    if (document_.stopped()) return "not checked";
    const auto& results = now.results;
    const bool ran = !document_.computing() && !results.sheets_pending && results.faults.empty() &&
                     results.pieces.size() == document_.job().pieces.size() && now.job == document_.job();
    const bool outlined = std::all_of(results.pieces.begin(), results.pieces.end(),
                                      [](const auto& piece) { return piece.shape() != nullptr; });
    return ran && outlined ? "all clear" : "checking";
}

/// A field over the name itself: Enter or leaving it takes what is typed, Escape gives it up.
void TopBand::rename(QWidget* where, const std::string& now, const QString& label, const QString& what,
                     const std::function<void(job::Job&, const std::string&)>& set) {
    auto* edit = new QLineEdit(QString::fromStdString(now), where->parentWidget());
    edit->setAccessibleName(label);
    edit->setMaxLength(static_cast<int>(units::limit::text.most));
    edit->setGeometry(where->geometry().x(), where->geometry().y() - 2, where->parentWidget()->width() - 8,
                      std::max(24, where->height() + 4));
    edit->show();
    edit->setFocus();
    edit->selectAll();
    auto* given_up = new QShortcut(Qt::Key_Escape, edit, nullptr, nullptr, Qt::WidgetShortcut);
    connect(given_up, &QShortcut::activated, edit,
            [edit] { edit->blockSignals(true), edit->deleteLater(), edit->hide(); });
    connect(edit, &QLineEdit::editingFinished, this, [this, edit, what, set] {
        edit->blockSignals(true);
        const std::string name = edit->text().trimmed().toStdString();
        edit->hide();
        edit->deleteLater();
        document_.edit(what, [&](job::Job& job) { set(job, name); });
    });
}

void TopBand::rename_job() {
    rename(job_, document_.job().name, "name of the job", "Name the job",
           [](job::Job& job, const std::string& name) { job.name = name; });
}

void TopBand::rename_boat() {
    rename(boat_, document_.job().boat.name, "name of the boat", "Name the boat",
           [](job::Job& job, const std::string& name) { job.boat.name = name; });
}

bool TopBand::eventFilter(QObject* watched, QEvent* event) {
    if (watched == boat_ && event->type() == QEvent::MouseButtonPress) rename_boat();
    return QWidget::eventFilter(watched, event);
}

void TopBand::refresh() {
    const auto& job = document_.job();
    unit_->setCurrentIndex(static_cast<int>(job.unit));
    look_->setText(theme().night() ? "Day" : "Night");
    for (std::size_t i = 0; i < steps_.size(); ++i) buttons_[i]->show_count(steps_[i]->count());
    fit();
}

void TopBand::show_attention() {
    int counts[3] = {0, 0, 0};
    for (const auto& f : document_.computed()->findings)
        if (!f.set_aside) ++counts[static_cast<int>(f.severity)];
    constexpr const char* to[] = {"to note", "to mind", "to stop for"};
    QStringList words, numbers;
    for (int k : {2, 1, 0})
        if (counts[k]) words << QString("%1 %2").arg(counts[k]).arg(to[k]), numbers << QString::number(counts[k]);
    const QString all = words.isEmpty() ? clear_words() : words.join(", ");
    attention_->setText(tight_ && !words.isEmpty() ? numbers.front() : all);
    attention_->setAccessibleName(all);
    const auto worst = counts[2]   ? review::Severity::stop
                       : counts[1] ? review::Severity::mind
                                   : review::Severity::note;
    attention_->setIcon(words.isEmpty() ? QIcon() : QIcon(severity_sign(worst, 16)));
}

/// All words where there is room for them, else the short ones.
void TopBand::fit() {
    constexpr int usual_px = size::pieces - 8, least_px = 96;
    tight_ = false;
    show_attention();
    int wanted = usual_px + size::pad + 6;
    for (const auto* button : buttons_) wanted += button->sizeHint().width() + 2;
    for (const QWidget* w : std::initializer_list<const QWidget*>{attention_, unit_, look_})
        wanted += w->sizeHint().width() + 2;
    tight_ = wanted > width();
    if (tight_) show_attention();
    names_->setFixedWidth(tight_ ? std::max(least_px, usual_px - (wanted - width())) : usual_px);
    const QString name = job_name(document_.job()) + (document_.modified() ? " *" : "");
    job_->setText(QFontMetrics(job_->font()).elidedText(name, Qt::ElideRight, names_->width() - 50) + "  ▾");
    refresh_computing();
}

void TopBand::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    fit();
}

}  // namespace bevelsmith::app
