// Holds a command to a time and an amount of memory, whatever its input makes of it.
#pragma once

#include <condition_variable>
#include <cstddef>
#include <mutex>
#include <string>
#include <thread>

namespace bevelsmith::cli {

struct Bounds {
    double seconds = 30;              ///< of processor time: a busy machine makes no job too large
    std::size_t bytes = 1000u << 20;  ///< of resident memory
};

/// While it lives, a thread watches the processor time and the memory of the process. Beyond a bound it prints
/// `file:1: reason` on the standard error and ends the process with 2: a command has nothing to lose, and files are
/// written whole or not at all. The inner guard of two does nothing.
class Guard {
  public:
    Guard(std::string file, const Bounds& bounds);
    ~Guard();
    Guard(const Guard&) = delete;
    Guard& operator=(const Guard&) = delete;

    /// What is being computed, for the message. From any thread.
    static void at(const std::string& stage);

  private:
    void watch();
    [[noreturn]] void refuse(const std::string& why) const;

    std::string file_;
    Bounds bounds_;
    bool outer_ = false;
    std::mutex mutex_;
    std::condition_variable done_;
    bool finished_ = false;
    std::thread thread_;
};

}  // namespace bevelsmith::cli
