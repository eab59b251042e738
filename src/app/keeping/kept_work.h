// Unsaved work as it lies on disk: one file for each job and window, found again after a crash.
//
// `<id>.kept` is a line of JSON (the heading) and the job's text, followed by the steps back to earlier states; its
// base, the state that was last saved, is `<id>.base`; whoever writes them holds `<id>.lock`. docs/reliability.md
// describes them.
#pragma once

#include <QDateTime>
#include <QString>
#include <vector>

#include "job/job.h"
#include "units/ranges.h"

namespace bevelsmith::app {

/// What one knows of kept work without reading all of it.
struct KeptWork {
    QString file;  ///< of the kept work itself
    QString id;
    QString job_path;  ///< the file that it belongs to; empty for a job without one
    QString digest;    ///< of that file when the work on it began
    QString name, boat;
    QDateTime when;
    int edits = 0;  ///< since it was last saved
    std::vector<std::vector<Vec2>> silhouette;
    QString fault;  ///< why it cannot be read; the rest is then what is known
    bool operator==(const KeptWork&) const = default;
};

/// One state before the work, and what was done from it.
struct KeptStep {
    QString what;
    std::string back;  ///< a JSON patch from the state after it to the one before
};

/// What a journal writes.
struct KeptText {
    KeptWork heading;
    std::string job;              ///< as in a job's file
    std::vector<KeptStep> steps;  ///< oldest first
};

/// Kept work with everything that taking it up needs.
struct KeptJob {
    job::Job base;  ///< as last saved
    job::Job now;
    std::vector<std::pair<QString, job::Job>> steps;  ///< what was done, and the state after it; the last is `now`
};

/// A job, its steps and the heading.
inline constexpr units::Limit kept_bytes{"bytes of a job file or kept work", 2 * units::limit::job_bytes.most,
                                         "a job with its steps"};

/// The folder in which work is kept unless a person chose another. It is made when there is something to keep.
QString kept_folder();

/// All work in `folder` that no running window holds, newest first. A file that cannot be read is listed with its
/// fault.
std::vector<KeptWork> kept_work(const QString& folder);
/// Of it, what belongs to the file at `job_path`.
std::vector<KeptWork> kept_for(const QString& folder, const QString& job_path);

/// Whether a file's contents begin as kept work does.
bool is_kept_work(const std::string& contents);
/// The heading of one file.
KeptWork read_heading(const QString& file);
/// All of it. A base that is missing or damaged is an empty job; steps that are damaged are left out; damaged work is
/// an error.
Result<KeptJob> read_kept(const KeptWork& work);
/// Replaces the file as a whole, flushed to the disk.
Result<bool> write_kept(const QString& file, const KeptText& text);

/// Where the base of kept work lies, and its lock.
QString base_of(const QString& kept_file);
QString lock_of(const QString& kept_file);
/// A person does not want it, or it was saved.
void throw_away(const QString& kept_file);

}  // namespace bevelsmith::app
