// Unsaved work kept beside the job's file, so that a crash or a flat battery loses seconds, not hours.
#pragma once

#include <QObject>
#include <QTimer>

#include "app/document/document.h"

namespace bevelsmith::app {

class Autosave : public QObject {
    Q_OBJECT
  public:
    explicit Autosave(Document& document, QObject* parent = nullptr);

    /// Where unsaved work on `job_path` is kept; for a job without a file, in the program's own data folder.
    static QString path_for(const QString& job_path);

    /// Writes now when there is unsaved work, else removes what was kept.
    void write_now();
    /// Forgets the kept work of a job: it was saved, or a person does not want it.
    static void discard(const QString& job_path);

    /// The kept work of `job_path`, when there is any that differs from `saved`. Damaged kept work is an error.
    static std::optional<Result<job::Job>> kept_for(const QString& job_path, const job::Job& saved);

  signals:
    /// Unsaved work could not be kept; said once until it works again.
    void failed(const QString& reason);

  private:
    Document& document_;
    QTimer timer_;
    bool told_ = false;
};

}  // namespace bevelsmith::app
