// Where the program keeps what is nobody's document: unsaved work and earlier versions.
#pragma once

#include <QString>

namespace bevelsmith::app {

/// $XDG_STATE_HOME/bevelsmith, by default ~/.local/state/bevelsmith (XDG Base Directory Specification 0.8). Not made
/// yet.
QString state_folder();
/// A folder in it, made when it is missing; empty where that cannot be done.
QString state_folder(const QString& name);

}  // namespace bevelsmith::app
