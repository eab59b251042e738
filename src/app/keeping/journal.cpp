#include "app/keeping/journal.h"

#include <QDir>
#include <QFileInfo>
#include <QUuid>

#include "job/file_io.h"
#include "job/job_file.h"
#include "job/silhouette.h"
#include "job/steps.h"

namespace bevelsmith::app {
namespace {

/// From the first edit that is not on disk: short, and many edits share one writing.
constexpr int wait_ms = 250;
/// Between tries where it cannot be written.
constexpr int again_ms = 2000;
/// So many steps back are kept, of jobs that are small enough to compare while one types.
constexpr std::size_t most_steps = 40, most_step_bytes = 1u << 20, longest_compared = 1u << 20;

}  // namespace

KeepingThread::KeepingThread() : thread_([this] { run(); }) {}

KeepingThread::~KeepingThread() {
    {
        const std::lock_guard lock(mutex_);
        end_ = true;
    }
    wake_.notify_one();
    thread_.join();
}

void KeepingThread::write(std::function<void()> task) {
    {
        const std::lock_guard lock(mutex_);
        if (!tasks_.empty() && tasks_.back().is_write) tasks_.pop_back();
        tasks_.push_back({std::move(task), true});
    }
    wake_.notify_one();
}

void KeepingThread::do_after(std::function<void()> task) {
    {
        const std::lock_guard lock(mutex_);
        tasks_.push_back({std::move(task), false});
    }
    wake_.notify_one();
}

void KeepingThread::wait() {
    std::unique_lock lock(mutex_);
    idle_.wait(lock, [this] { return tasks_.empty() && !working_; });
}

void KeepingThread::run() {
    std::unique_lock lock(mutex_);
    while (true) {
        wake_.wait(lock, [this] { return end_ || !tasks_.empty(); });
        // What was asked for is done before the end.
        if (tasks_.empty()) return;
        const Task task = std::move(tasks_.front());
        tasks_.pop_front();
        working_ = true;
        lock.unlock();
        task.work();
        lock.lock();
        working_ = false;
        if (tasks_.empty()) idle_.notify_all();
    }
}

/// What the writing thread remembers of the job that it writes, and what came of the last writing.
struct Journal::Shared {
    std::string last_text;  ///< as last written
    std::vector<KeptStep> steps;
    std::mutex mutex;
    QString fault;  ///< of the last writing, empty when it was kept

    void remember_step(const std::string& text, const QString& what) {
        if (last_text.empty() || text.size() > longest_compared) {
            steps.clear();
            return;
        }
        steps.push_back({what, job::patch_between(text, last_text)});
        std::size_t bytes = 0;
        for (const auto& step : steps) bytes += step.back.size();
        while (!steps.empty() && (steps.size() > most_steps || bytes > most_step_bytes)) {
            bytes -= steps.front().back.size();
            steps.erase(steps.begin());
        }
    }

    Result<bool> write(const QString& file, const job::Job& now, const job::Job& base, const QString& what,
                       KeptWork heading) {
        // The folder may have been taken away meanwhile; where it cannot be made, the writing says why.
        QDir().mkpath(QFileInfo(file).path());
        // The base first: work without it would still be found, but there would be nothing to hold it against.
        if (!QFile::exists(base_of(file)) || last_text.empty()) {
            const auto done = job::write_file_atomically(base_of(file).toStdString(), job::job_to_text(base));
            if (!done) return done;
            if (last_text.empty()) last_text = job::job_to_text(base);
        }
        KeptText text;
        text.job = job::job_to_text(now);
        if (text.job == last_text && QFile::exists(file)) return true;
        const auto steps_before = steps;
        remember_step(text.job, what);
        heading.silhouette = job::silhouette(now);
        text.heading = std::move(heading);
        text.steps = steps;
        const auto done = write_kept(file, text);
        if (done) last_text = std::move(text.job);
        else steps = steps_before;
        return done;
    }
};

Journal::Journal(Document& document, QObject* parent)
    : QObject(parent), document_(document), folder_(kept_folder()), shared_(std::make_shared<Shared>()) {
    timer_.setSingleShot(true);
    timer_.setInterval(wait_ms);
    connect(&timer_, &QTimer::timeout, this, &Journal::hand_over);
    // Not on job_changed: the stack knows only after it whether that made something to save.
    connect(&document_.undo_stack(), &QUndoStack::indexChanged, this, &Journal::touched);
    connect(&document_, &Document::saved, this, &Journal::throw_own_away);
    connect(&document_, &Document::about_to_replace, this, [this] {
        if (document_.modified()) (void)flush();
        begin();
    });
    begin();
}

Journal::~Journal() {
    if (document_.modified()) (void)flush();
}

/// Another job: work on it is kept under an id of its own.
void Journal::begin() {
    thread_.wait();
    timer_.stop();
    lock_.reset();
    shared_ = std::make_shared<Shared>();
    told_ = false;
    const QString id = QUuid::createUuid().toString(QUuid::WithoutBraces);
    file_ = QDir(folder_).filePath(id + ".kept");
}

/// The timer is not started again by later edits: however fast they follow, the first of them is on disk in time.
void Journal::touched() {
    if (!document_.modified()) {
        // Undone to what is in the file.
        if (lock_) throw_own_away();
        return;
    }
    if (!timer_.isActive()) timer_.start();
}

void Journal::hand_over() {
    timer_.stop();
    if (!document_.modified()) return;
    if (!lock_) {
        QDir().mkpath(QFileInfo(file_).path());
        lock_ = std::make_unique<QLockFile>(lock_of(file_));
        lock_->setStaleLockTime(0);
        // Where it cannot be made, the writing that follows says why.
        (void)lock_->tryLock(0);
    }
    KeptWork heading;
    heading.id = QFileInfo(file_).completeBaseName();
    heading.job_path = document_.path();
    heading.digest = document_.digest();
    heading.name = QString::fromStdString(document_.job().name);
    heading.boat = QString::fromStdString(document_.job().boat.name);
    heading.when = QDateTime::currentDateTime();
    heading.edits = document_.edits();
    const QString what = document_.undo_stack().undoText();
    thread_.write([this, shared = shared_, file = file_, now = document_.job(), base = document_.base(), what,
                   heading = std::move(heading)] {
        QString fault;
        try {
            if (const auto done = shared->write(file, now, *base, what, heading); !done)
                fault = QString::fromStdString(done.error().message);
        } catch (const std::exception&) {
            fault = "there is not enough memory to write it";
        }
        {
            const std::lock_guard lock(shared->mutex);
            shared->fault = fault;
        }
        QMetaObject::invokeMethod(
            this,
            [this, fault] {
                if (!fault.isEmpty() && !told_) emit failed(fault);
                told_ = !fault.isEmpty();
                if (fault.isEmpty()) return void(emit kept());
                // Room may be made meanwhile: nobody has to edit for it to be tried again.
                QTimer::singleShot(again_ms, this, &Journal::touched);
            },
            Qt::QueuedConnection);
    });
}

Result<bool> Journal::flush() {
    if (!document_.modified()) return true;
    hand_over();
    thread_.wait();
    const std::lock_guard lock(shared_->mutex);
    if (shared_->fault.isEmpty()) return true;
    told_ = true;  // whoever asked says it
    return Error{shared_->fault.toStdString()};
}

Result<bool> Journal::adopt(const KeptWork& work) {
    auto lock = std::make_unique<QLockFile>(lock_of(work.file));
    lock->setStaleLockTime(0);
    if (!lock->tryLock(0) && lock->error() == QLockFile::LockFailedError)
        return Error{"another window has taken this work up"};
    begin();
    file_ = work.file;
    lock_ = std::move(lock);
    return true;
}

void Journal::throw_own_away() {
    timer_.stop();
    thread_.do_after([file = file_, shared = shared_] {
        throw_away(file);
        shared->last_text.clear();
        shared->steps.clear();
    });
    // The lock goes after the work, so that nobody finds one without the other.
    thread_.wait();
    lock_.reset();
}

Result<bool> Journal::keep_in(const QString& folder) {
    thread_.wait();
    folder_ = folder;
    const QString before = file_;
    begin();
    const auto done = flush();
    if (done) throw_away(before);
    return done;
}

}  // namespace bevelsmith::app
