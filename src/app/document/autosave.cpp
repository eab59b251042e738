#include "app/document/autosave.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QStandardPaths>

#include "job/job_file.h"

namespace bevelsmith::app {

Autosave::Autosave(Document& document, QObject* parent) : QObject(parent), document_(document) {
    timer_.setSingleShot(true);
    timer_.setInterval(1500);
    connect(&timer_, &QTimer::timeout, this, &Autosave::write_now);
    connect(&document_, &Document::job_changed, this, [this] { timer_.start(); });
}

QString Autosave::path_for(const QString& job_path) {
    if (!job_path.isEmpty()) return job_path + ".autosave";
    const QDir folder(QStandardPaths::writableLocation(QStandardPaths::AppDataLocation));
    folder.mkpath(".");
    return folder.filePath("unnamed.job.autosave");
}

void Autosave::write_now() {
    timer_.stop();
    if (!document_.modified()) {
        discard(document_.path());
        return;
    }
    const auto written = job::save_job(document_.job(), path_for(document_.path()).toStdString());
    if (!written && !told_) emit failed(QString::fromStdString(written.error().message));
    told_ = !written.ok();
}

void Autosave::discard(const QString& job_path) {
    QFile::remove(path_for(job_path));
}

std::optional<Result<job::Job>> Autosave::kept_for(const QString& job_path, const job::Job& saved) {
    const QString path = path_for(job_path);
    if (!QFileInfo::exists(path)) return std::nullopt;
    auto kept = job::load_job(path.toStdString());
    if (kept && *kept == saved) return std::nullopt;
    return kept;
}

}  // namespace bevelsmith::app
