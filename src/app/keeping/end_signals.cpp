#include "app/keeping/end_signals.h"

#include <fcntl.h>
#include <unistd.h>

#include <QSocketNotifier>
#include <array>
#include <csignal>
#include <utility>

namespace bevelsmith::app {
namespace {

/// To answer, and once more to take everything down.
constexpr unsigned longest_s = 1;

/// The only thing that a signal handler may do is to write: the event loop reads at the other end.
std::array<int, 2> ends{-1, -1};

void tell(int) {
    const char sign = 1;
    (void)!::write(ends[1], &sign, 1);
    // Where the window is too busy to answer it ends all the same: what is not saved was kept within a second.
    ::alarm(longest_s);
}

void end_now(int) {
    ::_exit(0);
}

}  // namespace

void on_end_signals(QObject* owner, std::function<bool()> act) {
    if (ends[0] >= 0 || ::pipe2(ends.data(), O_CLOEXEC | O_NONBLOCK) != 0) return;
    auto* heard = new QSocketNotifier(ends[0], QSocketNotifier::Read, owner);
    QObject::connect(heard, &QSocketNotifier::activated, owner, [act = std::move(act)] {
        char sign = 0;
        while (::read(ends[0], &sign, 1) == 1) {}
        ::alarm(0);
        if (act()) ::alarm(longest_s);
    });
    struct sigaction action {};
    action.sa_handler = tell;
    action.sa_flags = SA_RESTART;
    for (int signal : {SIGTERM, SIGINT, SIGHUP}) ::sigaction(signal, &action, nullptr);
    action.sa_handler = end_now;
    ::sigaction(SIGALRM, &action, nullptr);
}

}  // namespace bevelsmith::app
