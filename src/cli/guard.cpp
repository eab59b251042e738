#include "cli/guard.h"

#include <fmt/format.h>
#include <unistd.h>

#include <atomic>
#include <chrono>
#include <cstdio>
#include <fstream>
#include <utility>

namespace bevelsmith::cli {
namespace {

std::atomic<bool> guarded = false;
std::atomic<const char*> stage = "the file";

std::size_t resident_bytes() {
    std::ifstream in("/proc/self/statm");
    std::size_t all = 0, resident = 0;
    in >> all >> resident;
    return resident * static_cast<std::size_t>(::sysconf(_SC_PAGESIZE));
}

}  // namespace

Guard::Guard(std::string file, const Bounds& bounds) : file_(std::move(file)), bounds_(bounds) {
    outer_ = !guarded.exchange(true);
    if (outer_) stage = "the file";
    if (outer_) thread_ = std::thread([this] { watch(); });
}

void Guard::at(const char* what) {
    stage = what;
}

Guard::~Guard() {
    if (!outer_) return;
    {
        const std::lock_guard lock(mutex_);
        finished_ = true;
    }
    done_.notify_one();
    thread_.join();
    guarded = false;
}

void Guard::watch() {
    using namespace std::chrono;
    // A little less than promised: the process has to start and end as well.
    const auto end =
        steady_clock::now() + duration_cast<steady_clock::duration>(duration<double>(bounds_.seconds * 0.97));
    std::unique_lock lock(mutex_);
    while (!done_.wait_for(lock, milliseconds(20), [this] { return finished_; })) {
        if (steady_clock::now() >= end)
            refuse(
                fmt::format("computing {} takes longer than {:.0f} s. Split it into smaller ones: fewer pieces, "
                            "openings or readings",
                            stage.load(), bounds_.seconds));
        if (resident_bytes() > bounds_.bytes)
            refuse(
                fmt::format("computing {} takes more than {} MB of memory. Split it into smaller ones, or thin "
                            "scans",
                            stage.load(), bounds_.bytes >> 20));
    }
}

void Guard::refuse(const std::string& why) const {
    const std::string words = fmt::format("{}:1: {}\n", file_, why);
    (void)!::write(STDERR_FILENO, words.data(), words.size());
    ::_exit(2);
}

}  // namespace bevelsmith::cli
