#include "app/keeping/job_claim.h"

#include <QCryptographicHash>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QSysInfo>

#include "app/document/file_digest.h"
#include "app/keeping/state_folder.h"

namespace bevelsmith::app {
namespace {

QString lock_beside(const QString& path) {
    const QFileInfo info(path);
    return info.absoluteDir().filePath("." + info.fileName() + ".lock");
}

/// For files in folders that may not be written: at least one's own windows know of each other.
QString lock_in_state(const QString& path) {
    const QByteArray hash = QCryptographicHash::hash(path.toUtf8(), QCryptographicHash::Sha256).toHex().left(20);
    return QDir(state_folder("locks")).filePath(QString::fromLatin1(hash) + ".lock");
}

std::unique_ptr<QLockFile> tried(const QString& file) {
    auto lock = std::make_unique<QLockFile>(file);
    // Never stale by its age: a job is open for weeks. One whose process is gone is taken over all the same.
    lock->setStaleLockTime(0);
    (void)lock->tryLock(0);
    return lock;
}

QString who_has(const QLockFile& lock) {
    qint64 process = 0;
    QString host, program;
    if (!lock.getLockInfo(&process, &host, &program)) return "another window has it";
    const bool here = host.isEmpty() || host == QSysInfo::machineHostName();
    return QString("another window has it (process %1 on %2)").arg(process).arg(here ? "this machine" : host);
}

}  // namespace

JobClaim::JobClaim(QObject* parent) : QObject(parent) {
    settle_.setSingleShot(true);
    settle_.setInterval(300);
    connect(&settle_, &QTimer::timeout, this, &JobClaim::check);
    connect(&watcher_, &QFileSystemWatcher::fileChanged, this, [this] { settle_.start(); });
    connect(&watcher_, &QFileSystemWatcher::directoryChanged, this, [this] { settle_.start(); });
}

Result<bool> JobClaim::take(const QString& path) {
    if (lock_ && claimed_ == path) return true;
    auto lock = tried(lock_beside(path));
    if (!lock->isLocked() && lock->error() != QLockFile::LockFailedError) lock = tried(lock_in_state(path));
    if (!lock->isLocked()) {
        if (lock->error() == QLockFile::LockFailedError) return Error{who_has(*lock).toStdString()};
        lock.reset();  // nowhere to put a lock: the file cannot be saved here either, and saving says so
    }
    lock_ = std::move(lock);
    claimed_ = path;
    return true;
}

void JobClaim::give_up() {
    lock_.reset();
    watch({}, {});
}

void JobClaim::watch(const QString& path, const QString& digest) {
    settle_.stop();
    path_ = path;
    digest_ = digest;
    told_ = digest;
    if (const auto old = watcher_.files() + watcher_.directories(); !old.isEmpty()) watcher_.removePaths(old);
    if (path.isEmpty()) return;
    // The folder as well: a file that is replaced by another, as editors and this program do it, is a new one.
    watcher_.addPath(QFileInfo(path).absolutePath());
    if (QFileInfo::exists(path)) watcher_.addPath(path);
}

Outside JobClaim::look() const {
    if (path_.isEmpty()) return Outside::as_it_was;
    if (!QFileInfo::exists(path_)) return Outside::gone;
    return file_digest(path_) == digest_ ? Outside::as_it_was : Outside::changed;
}

void JobClaim::check() {
    if (path_.isEmpty()) return;
    if (QFileInfo::exists(path_) && !watcher_.files().contains(path_)) watcher_.addPath(path_);
    const QString now = QFileInfo::exists(path_) ? file_digest(path_) : "gone";
    if (now == told_) return;
    told_ = now;
    if (const Outside what = look(); what != Outside::as_it_was) emit changed_outside(what);
}

}  // namespace bevelsmith::app
