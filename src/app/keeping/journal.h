// The journal of unsaved work: on disk at most a second after an edit however fast edits follow, written and flushed
// beside the window, removed only when the work was saved or a person threw it away.
#pragma once

#include <QLockFile>
#include <QObject>
#include <QTimer>
#include <condition_variable>
#include <deque>
#include <functional>
#include <memory>
#include <mutex>
#include <thread>

#include "app/document/document.h"
#include "app/keeping/kept_work.h"

namespace bevelsmith::app {

/// Does tasks one after the other on a thread of its own. A write that has not begun gives way to a newer one.
class KeepingThread {
  public:
    KeepingThread();
    ~KeepingThread();
    void write(std::function<void()> task);
    void do_after(std::function<void()> task);
    /// Until nothing is left to do.
    void wait();

  private:
    struct Task {
        std::function<void()> work;
        bool is_write = false;
    };
    void run();
    std::mutex mutex_;
    std::condition_variable wake_, idle_;
    std::deque<Task> tasks_;
    bool working_ = false, end_ = false;
    std::thread thread_;
};

class Journal : public QObject {
    Q_OBJECT
  public:
    explicit Journal(Document& document, QObject* parent = nullptr);
    ~Journal() override;

    /// Writes what is not on disk yet and waits for it. Fails, with the reason, where it cannot be kept.
    Result<bool> flush();
    /// Goes on with kept work as one's own: its file is written from now on. Fails where another window has taken it.
    Result<bool> adopt(const KeptWork& work);
    /// A person does not want the work on this job kept any more.
    void throw_own_away();
    /// Keeps it in another folder from now on, and tries at once.
    Result<bool> keep_in(const QString& folder);

    QString folder() const { return folder_; }
    /// Of the work on this job; it is there only while something is unsaved.
    QString file() const { return file_; }

  signals:
    /// Unsaved work could not be kept; said once until it works again.
    void failed(const QString& reason);
    void kept();

  private:
    struct Shared;
    void begin();
    void touched();
    void hand_over();

    Document& document_;
    QTimer timer_;
    QString folder_, file_;
    std::unique_ptr<QLockFile> lock_;
    std::shared_ptr<Shared> shared_;  ///< with the thread
    bool told_ = false;
    KeepingThread thread_;
};

}  // namespace bevelsmith::app
