// One file, one window: a lock tells who has it; what happens to it outside is noticed.
#pragma once

#include <QFileSystemWatcher>
#include <QLockFile>
#include <QObject>
#include <QTimer>
#include <memory>

#include "units/result.h"

namespace bevelsmith::app {

/// What has become of the file since it was last read or written here.
enum class Outside { as_it_was, changed, gone };

class JobClaim : public QObject {
    Q_OBJECT
  public:
    explicit JobClaim(QObject* parent = nullptr);

    /// Takes the lock of a file (`.name.lock` beside it, in the state folder where that may not be written). Fails
    /// with words for who has it. The claim before is given up only when the new one is had.
    Result<bool> take(const QString& path);
    void give_up();
    bool held() const { return lock_ != nullptr; }

    /// From now on this is what is known of the file.
    void watch(const QString& path, const QString& digest);
    Outside look() const;

  signals:
    /// Once for each change.
    void changed_outside(bevelsmith::app::Outside what);

  private:
    void check();
    QString claimed_, path_, digest_, told_;
    std::unique_ptr<QLockFile> lock_;
    QFileSystemWatcher watcher_;
    QTimer settle_;  ///< a file that is being written changes several times
};

}  // namespace bevelsmith::app
