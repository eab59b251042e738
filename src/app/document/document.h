// The open job: the value, its undo steps, its file, what was computed from it, and the one selection.
#pragma once

#include <QObject>
#include <QString>
#include <QUndoStack>
#include <functional>
#include <memory>

#include "job/job.h"
#include "job/pipeline.h"
#include "review/review.h"

namespace bevelsmith::app {

/// A job with everything computed from it. Immutable; views keep it as long as they draw it.
struct Computed {
    job::Job job;
    job::Results results;
    std::vector<review::Finding> findings;

    const job::JobPiece* piece(const QString& id) const { return job::find_piece(job, id.toStdString()); }
    const job::PieceResult* piece_result(const QString& id) const { return results.piece(id.toStdString()); }
};

class ComputeThread;

class Document : public QObject {
    Q_OBJECT
  public:
    explicit Document(QObject* parent = nullptr);
    ~Document() override;

    const job::Job& job() const { return job_; }
    /// The latest results; they may be of a slightly older job while `computing()`.
    std::shared_ptr<const Computed> computed() const { return computed_; }
    bool computing() const;

    /// One undo step: `change` is applied to a copy, and nothing is done when nothing changed. Steps with the same
    /// non-empty `merge_key` that follow each other become one.
    void edit(const QString& what, const std::function<void(job::Job&)>& change, const QString& merge_key = {});
    QUndoStack& undo_stack() { return undo_; }

    /// A new value in place of the old one, without undo steps: opening and making new.
    void replace(job::Job job, const QString& path);
    /// The value of an autosave: stays unsaved work on `path`.
    void recover(job::Job job, const QString& path);
    Result<bool> open(const QString& path);
    /// Precondition: the path is not empty.
    Result<bool> save(const QString& path);
    QString path() const { return path_; }
    bool modified() const { return recovered_ || !undo_.isClean(); }

    QString selected_piece() const { return selected_; }
    void select_piece(const QString& id);

    units::LengthUnit unit() const { return job_.unit; }
    QString length(double mm) const { return QString::fromStdString(units::format_length(mm, job_.unit)); }
    QString length_number(double mm) const {
        return QString::fromStdString(units::format_length_number(mm, job_.unit));
    }

  signals:
    void job_changed();       ///< the value, or the file it belongs to
    void computed_changed();  ///< new results
    void selection_changed();

  private:
    friend class SwapJob;
    void set_job(job::Job& other);
    void settle_selection();

    job::Job job_;
    std::shared_ptr<const Computed> computed_;
    QUndoStack undo_;
    QString path_, selected_;
    bool recovered_ = false;
    std::unique_ptr<ComputeThread> thread_;
};

}  // namespace bevelsmith::app
