// SIGTERM, SIGINT and SIGHUP as an ordinary call in the window's thread: time enough to keep what is unsaved.
#pragma once

#include <functional>

class QObject;

namespace bevelsmith::app {

/// `act` is called for each such signal, for as long as `owner` lives, and says whether the program ends. Where it is
/// not called within a second, and again where the program has not ended a second after it, the process ends at once
/// with 0: the journal has what is unsaved. Once a process.
void on_end_signals(QObject* owner, std::function<bool()> act);

}  // namespace bevelsmith::app
