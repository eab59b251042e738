#include "app/keeping/state_folder.h"

#include <QDir>

namespace bevelsmith::app {

QString state_folder() {
    // Qt knows this place only from 6.7 on.
    const QString set = qEnvironmentVariable("XDG_STATE_HOME");
    const QString home = QDir::isAbsolutePath(set) ? set : QDir::homePath() + "/.local/state";
    return QDir(home).filePath("bevelsmith");
}

QString state_folder(const QString& name) {
    const QString path = QDir(state_folder()).filePath(name);
    return QDir().mkpath(path) ? path : QString();
}

}  // namespace bevelsmith::app
