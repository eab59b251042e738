// The jobs that were worked on last, to be known again on the first page.
#pragma once

#include <QDateTime>
#include <QString>
#include <vector>

#include "job/job.h"

namespace bevelsmith::app {

struct RecentJob {
    QString path, name, boat;
    QDateTime changed;                          ///< of the file
    std::vector<std::vector<Vec2>> silhouette;  ///< see job::silhouette
};

/// Remembers a job under its file, as the newest of at most eight. A file that is there twice is kept once.
void remember_job(const QString& path, const job::Job& job);
/// Those whose files are still there, the newest first.
std::vector<RecentJob> recent_jobs();

}  // namespace bevelsmith::app
