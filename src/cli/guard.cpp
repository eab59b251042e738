#include "cli/guard.h"

#include <fmt/format.h>
#include <unistd.h>

#include <atomic>
#include <chrono>
#include <cstdio>
#include <ctime>
#include <fstream>
#include <utility>

namespace bevelsmith::cli {
namespace {

std::atomic<bool> guarded = false;

/// What is being computed; told by whichever thread does it.
class Stage {
  public:
    void set(std::string what) {
        const std::lock_guard lock(mutex_);
        what_ = std::move(what);
    }
    std::string get() {
        const std::lock_guard lock(mutex_);
        return what_;
    }

  private:
    std::mutex mutex_;
    std::string what_ = "the file";
} stage;

double processor_seconds() {
    timespec now{};
    ::clock_gettime(CLOCK_PROCESS_CPUTIME_ID, &now);
    return static_cast<double>(now.tv_sec) + 1e-9 * static_cast<double>(now.tv_nsec);
}

std::size_t resident_bytes() {
    std::ifstream in("/proc/self/statm");
    std::size_t all = 0, resident = 0;
    in >> all >> resident;
    return resident * static_cast<std::size_t>(::sysconf(_SC_PAGESIZE));
}

}  // namespace

Guard::Guard(std::string file, const Bounds& bounds) : file_(std::move(file)), bounds_(bounds) {
    outer_ = !guarded.exchange(true);
    if (outer_) stage.set("the file");
    if (outer_) thread_ = std::thread([this] { watch(); });
}

void Guard::at(const std::string& what) {
    stage.set(what);
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
    const double end = processor_seconds() + bounds_.seconds;
    std::unique_lock lock(mutex_);
    while (!done_.wait_for(lock, milliseconds(20), [this] { return finished_; })) {
        if (processor_seconds() >= end)
            refuse(fmt::format(
                "computing {} takes longer than {:.0f} s of processor time. Split the job into smaller ones "
                "(fewer pieces, openings or readings), or raise the limit: --limit SECONDS",
                stage.get(), bounds_.seconds));
        if (resident_bytes() > bounds_.bytes)
            refuse(
                fmt::format("computing {} takes more than {} MB of memory. Split it into smaller ones, or thin "
                            "scans",
                            stage.get(), bounds_.bytes >> 20));
    }
}

void Guard::refuse(const std::string& why) const {
    const std::string words = fmt::format("{}:1: {}\n", file_, why);
    (void)!::write(STDERR_FILENO, words.data(), words.size());
    ::_exit(2);
}

}  // namespace bevelsmith::cli
