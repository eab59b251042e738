#include "app/document/document.h"

#include <QFileInfo>
#include <algorithm>
#include <utility>

#include "app/document/compute_thread.h"
#include "app/document/file_digest.h"
#include "job/gone.h"
#include "job/in_full.h"
#include "job/job_file.h"
#include "job/kept_sides.h"
#include "job/starting_unit.h"

namespace bevelsmith::app {

/// The one undo command: holds the other value and swaps it with the live one.
class SwapJob : public QUndoCommand {
  public:
    SwapJob(Document& document, job::Job other, const QString& what, QString merge_key)
        : QUndoCommand(what), document_(document), other_(std::move(other)), key_(std::move(merge_key)) {}

    void undo() override { document_.set_job(other_); }
    void redo() override { document_.set_job(other_); }
    int id() const override { return key_.isEmpty() ? -1 : 1; }
    bool mergeWith(const QUndoCommand* next) override {
        // The live job is already the newest; this command keeps the oldest.
        return static_cast<const SwapJob*>(next)->key_ == key_;
    }

  private:
    Document& document_;
    job::Job other_;
    QString key_;
};

Document::Document(QObject* parent, std::shared_ptr<job::Pipeline> pipeline)
    : QObject(parent), job_(job::empty_job()), built_(job_) {
    if (!pipeline) pipeline = std::make_shared<job::Pipeline>();
    // Each step holds a whole job.
    constexpr int most_steps = 400;
    undo_.setUndoLimit(most_steps);
    set_base();
    computed_ = std::make_shared<const Computed>(Computed{built_, pipeline->compute(built_), {}});
    thread_ = std::make_unique<ComputeThread>(
        [this](std::shared_ptr<const Computed> result) {
            QMetaObject::invokeMethod(
                this,
                [this, result = std::move(result)] {
                    thread_->delivered();
                    if (!result) {
                        stopped_ = true;
                        return void(emit computing_changed());
                    }
                    show(result);
                },
                Qt::QueuedConnection);
        },
        std::move(pipeline));
}

Document::~Document() = default;

bool Document::computing() const {
    return thread_->busy();
}

void Document::edit(const QString& what, const std::function<void(job::Job&)>& change, const QString& merge_key) {
    if (for_reading_) {
        // Fields show again what is there.
        emit job_changed();
        return void(emit refused());
    }
    job::Job other = job_;
    change(other);
    job::settle_sides(other);
    job::follow_ends(other, job_, computed_->results);
    if (other == job_) return;
    undo_.push(new SwapJob(*this, std::move(other), what, merge_key));
}

void Document::set_job(job::Job& other) {
    std::swap(job_, other);
    job::Job before = std::exchange(built_, job::in_full(job_));
    ++edits_;
    if (quiet_) return;
    settle_selection();
    tell_gone(before);
    compute_again();
    // A view that fails must not take the step or the journal with it: the job has changed.
    try {
        emit job_changed();
    } catch (const std::exception&) {
        add_fault("what is drawn of this job", "a fault of the program; the job itself is as it was changed");
    }
}

/// Pieces that the change took away on the way.
void Document::tell_gone(const job::Job& before) {
    const auto gone = job::gone_pieces(before, built_);
    if (gone.empty()) return;
    QStringList names;
    bool cut = false;
    for (const auto& piece : gone) {
        names << QString::fromStdString(piece.name) + (piece.cut ? " (which is cut)" : "");
        cut = cut || piece.cut;
    }
    note(QString("With that change %1 %2 gone: there is no place for %3 any more.")
             .arg(names.join(", "), gone.size() == 1 ? "is" : "are", gone.size() == 1 ? "it" : "them"),
         {{"Undo it", [this] { undo_.undo(); }}}, cut);
}

void Document::mend(const job::Mending& mending) {
    bool done = false;
    edit(QString::fromStdString(job::words(mending, built_)), [&](job::Job& job) { done = job::mend(job, mending); });
    if (done) select_piece(QString::fromStdString(mending.piece_id));
    else note("Nothing was done: what it speaks of is not there any more.", {}, false);
}

void Document::set_base() {
    base_ = std::make_shared<const job::Job>(job_);
    edits_ = 0;
}

void Document::replace(job::Job job, const QString& path, const QString& digest) {
    emit about_to_replace();
    job_ = std::move(job);
    built_ = job::in_full(job_);
    together_.clear(), hidden_.clear();
    path_ = path;
    digest_ = digest;
    for_reading_ = false;
    undo_.clear();
    set_base();
    selected_.clear();
    settle_selection();
    stopped_ = false;
    faults_.clear();
    thread_->compute(built_, true);
    emit job_changed();
    emit selection_changed();
    emit replaced();
}

void Document::take_up(const std::vector<std::pair<QString, job::Job>>& steps) {
    quiet_ = true;
    for (const auto& [what, state] : steps)
        if (!(state == job_)) undo_.push(new SwapJob(*this, state, what, {}));
    quiet_ = false;
    settle_selection();
    compute_again();
    emit job_changed();
}

Result<bool> Document::save(const QString& path) {
    // A job that nobody has named is called as its file.
    job::Job named = job_;
    if (named.name.empty()) named.name = QFileInfo(path).fileName().section('.', 0, 0).toStdString();
    auto done = job::save_job(named, path.toStdString());
    if (!done) return done;
    if (job_.name.empty()) job_.name = built_.name = named.name;
    path_ = QFileInfo(path).absoluteFilePath();
    digest_ = file_digest(path_);
    set_base();
    undo_.setClean();
    emit saved();
    emit job_changed();
    return done;
}

void Document::show(std::shared_ptr<const Computed> result) {
    if (!faults_.empty()) {
        auto with_faults = std::make_shared<Computed>(*result);
        auto& all = with_faults->results.faults;
        for (const auto& fault : faults_)
            if (std::find(all.begin(), all.end(), fault) == all.end()) all.push_back(fault);
        with_faults->findings = review::review(with_faults->job, with_faults->results);
        result = std::move(with_faults);
    }
    computed_ = std::move(result);
    emit computed_changed();
}

void Document::add_fault(const QString& what, const QString& why) {
    const job::Fault fault{what.toStdString(), {}, why.toStdString()};
    if (std::find(faults_.begin(), faults_.end(), fault) != faults_.end()) return;
    faults_.push_back(fault);
    show(computed_);
}

void Document::set_for_reading(bool for_reading) {
    for_reading_ = for_reading;
    emit job_changed();
}

void Document::stop_computing() {
    thread_->stop();
}

void Document::compute_again() {
    stopped_ = false;
    thread_->compute(built_, false);
    emit computing_changed();
}

void Document::show_ghost(std::shared_ptr<const job::Results> ghost) {
    if (!ghost && !ghost_) return;
    ghost_ = std::move(ghost);
    emit ghost_changed();
}

void Document::select_piece(const QString& id) {
    if (id == selected_) return;
    selected_ = id;
    if (std::find(together_.begin(), together_.end(), id.toStdString()) == together_.end()) together_.clear();
    emit selection_changed();
}

void Document::choose_together(std::vector<std::string> ids) {
    std::erase_if(ids, [this](const std::string& id) { return !job::find_piece(built_, id); });
    if (ids.size() < 2) ids.clear();
    const bool looked_at = std::find(ids.begin(), ids.end(), selected_.toStdString()) != ids.end();
    if (!ids.empty() && !looked_at) selected_ = QString::fromStdString(ids.back());
    if (ids == together_) return;
    together_ = std::move(ids);
    emit selection_changed();
}

bool Document::is_hidden(const std::string& piece) const {
    return std::any_of(hidden_.begin(), hidden_.end(),
                       [&](const std::string& id) { return id == piece || job::is_of(piece, id); });
}

void Document::hide(const std::vector<std::string>& pieces) {
    for (const auto& id : pieces) {
        const auto* unit = job::unit_of(job_, id);
        if (!is_hidden(id)) hidden_.push_back(unit ? unit->id : id);
    }
    emit hidden_changed();
}

void Document::show_hidden() {
    hidden_.clear();
    emit hidden_changed();
}

void Document::settle_selection() {
    std::erase_if(together_, [this](const std::string& id) { return !job::find_piece(built_, id); });
    if (together_.size() < 2) together_.clear();
    if (piece(selected_)) return;
    // A panel that its unit's numbers no longer give leaves the next one of the unit.
    const auto* unit = job::unit_of(job_, selected_.toStdString());
    const auto of_unit = std::find_if(built_.pieces.begin(), built_.pieces.end(),
                                      [&](const auto& p) { return unit && job::is_of(p.id, unit->id); });
    const auto next = of_unit == built_.pieces.end() ? built_.pieces.begin() : of_unit;
    const QString first = next == built_.pieces.end() ? QString() : QString::fromStdString(next->id);
    if (first == selected_) return;
    selected_ = first;
    emit selection_changed();
}

namespace {

/// Nothing that is known within so much is known at all.
constexpr double beyond_sense_mm = 500;

}  // namespace

QString Document::fine_unit() const {
    return units::in_inches(unit()) ? "in" : "mm";
}

QString Document::fine_number(double mm) const {
    const QString text =
        units::in_inches(unit()) ? QString::number(mm / units::mm_per_inch, 'f', 3) : QString::number(mm, 'f', 1);
    return text.startsWith('-') && text.toDouble() == 0 ? text.mid(1) : text;
}

QString Document::fine_signed(double mm) const {
    const QString text = fine_number(mm);
    return (text.toDouble() > 0 ? "+" : "") + text + " " + fine_unit();
}

QString Document::band_number(double sigma_mm) const {
    const double band = 1.96 * sigma_mm;
    return band < beyond_sense_mm ? "± " + fine_number(band) : QString("not known");
}

QString Document::band(double sigma_mm) const {
    return 1.96 * sigma_mm < beyond_sense_mm ? band_number(sigma_mm) + " " + fine_unit() : QString("not known here");
}

}  // namespace bevelsmith::app
