// Work that may take long asks now and then whether it is still wanted.
#pragma once

#include <exception>
#include <functional>

namespace bevelsmith {

/// Says no when the work is not wanted any more. An empty one always says yes. It must be cheap, and may be asked
/// from several threads.
using KeepGoing = std::function<bool()>;

/// Unwinds work that is not wanted any more, up to whoever passed the KeepGoing; nothing half done is kept.
struct Stopped : std::exception {
    const char* what() const noexcept override { return "stopped"; }
};

inline void ask(const KeepGoing& keep_going) {
    if (keep_going && !keep_going()) throw Stopped{};
}

}  // namespace bevelsmith
