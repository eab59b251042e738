#include "app/document/document.h"

#include <QFileInfo>
#include <utility>

#include "app/document/compute_thread.h"
#include "job/job_file.h"

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

Document::Document(QObject* parent) : QObject(parent), job_(job::empty_job()) {
    computed_ = std::make_shared<const Computed>(Computed{job_, job::Pipeline().compute(job_), {}});
    thread_ = std::make_unique<ComputeThread>([this](std::shared_ptr<const Computed> result) {
        QMetaObject::invokeMethod(
            this,
            [this, result = std::move(result)] {
                computed_ = result;
                thread_->delivered();
                emit computed_changed();
            },
            Qt::QueuedConnection);
    });
}

Document::~Document() = default;

bool Document::computing() const {
    return thread_->busy();
}

void Document::edit(const QString& what, const std::function<void(job::Job&)>& change, const QString& merge_key) {
    job::Job other = job_;
    change(other);
    if (other == job_) return;
    undo_.push(new SwapJob(*this, std::move(other), what, merge_key));
}

void Document::set_job(job::Job& other) {
    std::swap(job_, other);
    settle_selection();
    thread_->compute(job_, false);
    emit job_changed();
}

void Document::replace(job::Job job, const QString& path) {
    job_ = std::move(job);
    path_ = path;
    recovered_ = false;
    undo_.clear();
    selected_.clear();
    settle_selection();
    thread_->compute(job_, true);
    emit job_changed();
    emit selection_changed();
}

void Document::recover(job::Job job, const QString& path) {
    replace(std::move(job), path);
    recovered_ = true;
    emit job_changed();
}

Result<bool> Document::open(const QString& path) {
    auto loaded = job::load_job(path.toStdString());
    if (!loaded) return loaded.error();
    replace(std::move(loaded.value()), QFileInfo(path).absoluteFilePath());
    return true;
}

Result<bool> Document::save(const QString& path) {
    auto saved = job::save_job(job_, path.toStdString());
    if (!saved) return saved;
    path_ = QFileInfo(path).absoluteFilePath();
    recovered_ = false;
    undo_.setClean();
    emit job_changed();
    return saved;
}

void Document::select_piece(const QString& id) {
    if (id == selected_) return;
    selected_ = id;
    emit selection_changed();
}

void Document::settle_selection() {
    if (job::find_piece(job_, selected_.toStdString())) return;
    const QString first = job_.pieces.empty() ? QString() : QString::fromStdString(job_.pieces.front().id);
    if (first == selected_) return;
    selected_ = first;
    emit selection_changed();
}

}  // namespace bevelsmith::app
