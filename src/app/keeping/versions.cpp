#include "app/keeping/versions.h"

#include <QCryptographicHash>
#include <QDir>
#include <QFileInfo>

#include "app/keeping/state_folder.h"
#include "job/file_io.h"

namespace bevelsmith::app {
namespace {

constexpr const char* stamp = "yyyyMMdd-HHmmss-zzz";

/// Short and of its own for each path; the file's name stands before it for people who look there.
QString folder_name(const QString& job_path) {
    const QByteArray hash = QCryptographicHash::hash(job_path.toUtf8(), QCryptographicHash::Sha256).toHex().left(12);
    return "versions/" + QFileInfo(job_path).fileName().left(60) + "-" + QString::fromLatin1(hash);
}

}  // namespace

QString versions_folder(const QString& job_path) {
    return QDir(state_folder()).filePath(folder_name(job_path));
}

std::vector<Version> versions_of(const QString& job_path) {
    std::vector<Version> out;
    const QDir folder(versions_folder(job_path));
    for (const QFileInfo& info : folder.entryInfoList({"*.job.json"}, QDir::Files, QDir::Name | QDir::Reversed))
        out.push_back(
            {info.filePath(), QDateTime::fromString(info.fileName().section('.', 0, 0), stamp), info.size()});
    return out;
}

Result<bool> keep_version(const QString& job_path) {
    const QFileInfo now(job_path);
    if (!now.exists()) return true;
    const auto text = job::read_file(job_path.toStdString());
    if (!text) return text.error();
    const auto kept = versions_of(job_path);
    if (!kept.empty())
        if (const auto newest = job::read_file(kept.front().file.toStdString()); newest && *newest == *text)
            return true;
    const QString folder = state_folder(folder_name(job_path));
    if (folder.isEmpty()) return Error{"the folder for earlier versions cannot be made"};
    const QString file = QDir(folder).filePath(now.lastModified().toString(stamp) + ".job.json");
    if (const auto done = job::write_file_atomically(file.toStdString(), *text); !done) return done;
    const auto all = versions_of(job_path);
    for (std::size_t k = versions_kept; k < all.size(); ++k) QFile::remove(all[k].file);
    return true;
}

}  // namespace bevelsmith::app
