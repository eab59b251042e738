// SIGTERM, SIGINT and SIGHUP as an ordinary call in the window's thread: time enough to keep what is unsaved.
#pragma once

#include <functional>

class QObject;

namespace bevelsmith::app {

/// `act` is called for each such signal, for as long as `owner` lives. Once a process.
void on_end_signals(QObject* owner, std::function<void()> act);

}  // namespace bevelsmith::app
