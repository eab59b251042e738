// The last saved versions of a job's file, kept in the state folder, from which one can go back.
#pragma once

#include <QDateTime>
#include <QString>
#include <vector>

#include "units/result.h"

namespace bevelsmith::app {

inline constexpr int versions_kept = 10;

struct Version {
    QString file;    ///< a copy of the job's file as it was, byte by byte
    QDateTime when;  ///< it was written
    qint64 bytes = 0;
};

/// Where the versions of a job's file lie.
QString versions_folder(const QString& job_path);
/// Keeps the file as it is now, before it is written over; nothing where there is no file, or where the newest
/// version is the same. The oldest beyond versions_kept go.
Result<bool> keep_version(const QString& job_path);
/// Newest first.
std::vector<Version> versions_of(const QString& job_path);

}  // namespace bevelsmith::app
