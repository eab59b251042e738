#include "app/keeping/end_signals.h"

#include <fcntl.h>
#include <unistd.h>

#include <QSocketNotifier>
#include <array>
#include <csignal>
#include <utility>

namespace bevelsmith::app {
namespace {

/// The only thing that a signal handler may do is to write: the event loop reads at the other end.
std::array<int, 2> ends{-1, -1};

void tell(int) {
    const char sign = 1;
    (void)!::write(ends[1], &sign, 1);
}

}  // namespace

void on_end_signals(QObject* owner, std::function<void()> act) {
    if (ends[0] >= 0 || ::pipe2(ends.data(), O_CLOEXEC | O_NONBLOCK) != 0) return;
    auto* heard = new QSocketNotifier(ends[0], QSocketNotifier::Read, owner);
    QObject::connect(heard, &QSocketNotifier::activated, owner, [act = std::move(act)] {
        char sign = 0;
        while (::read(ends[0], &sign, 1) == 1) {}
        act();
    });
    struct sigaction action {};
    action.sa_handler = tell;
    action.sa_flags = SA_RESTART;
    for (int signal : {SIGTERM, SIGINT, SIGHUP}) ::sigaction(signal, &action, nullptr);
}

}  // namespace bevelsmith::app
