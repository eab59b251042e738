// Loops shared among the processors (OpenMP). An exception must not leave a thread: it is carried over and thrown
// again.
#pragma once

#include <atomic>
#include <cstddef>
#include <exception>
#ifdef __SANITIZE_THREAD__
#include <thread>
#endif

namespace bevelsmith::hull {

#ifdef __SANITIZE_THREAD__
/// The thread sanitizer does not know OpenMP's barriers, and takes what they order for races: the same loop on two
/// threads of our own.
template <class F>
void on_two_threads(std::ptrdiff_t n, F f) {
    static thread_local bool within = false;
    std::atomic<std::ptrdiff_t> next = 0;
    const auto work = [&] {
        within = true;
        for (std::ptrdiff_t i = next++; i < n; i = next++) f(i);
        within = false;
    };
    if (within || n < 2) {
        for (std::ptrdiff_t i = 0; i < n; ++i) f(i);
        return;
    }
    std::thread other(work);
    work();
    other.join();
}
#endif

/// Calls f(0) ... f(n - 1), on all processors when `worth_it`. The order is open; after an exception nothing more is
/// begun, and the first is thrown again when all threads are done. A loop within a loop runs on one processor.
template <class F>
void in_parallel(std::ptrdiff_t n, bool worth_it, F f) {
    std::exception_ptr thrown;
    std::atomic<bool> ended = false;
    const auto turn = [&](std::ptrdiff_t i) {
        if (ended) return;
        try {
            f(i);
        } catch (...) {
            if (!ended.exchange(true)) thrown = std::current_exception();
        }
    };
#ifdef __SANITIZE_THREAD__
    if (worth_it) on_two_threads(n, turn);
    else
        for (std::ptrdiff_t i = 0; i < n; ++i) turn(i);
#else
#ifdef _OPENMP
    // In small shares, handed out as they are done: some cost far more than others.
    const std::ptrdiff_t share = n / 32 + 1;
#pragma omp parallel for schedule(dynamic, share) if (worth_it)
#else
    (void)worth_it;
#endif
    for (std::ptrdiff_t i = 0; i < n; ++i) turn(i);
#endif
    if (thrown) std::rethrow_exception(thrown);
}

}  // namespace bevelsmith::hull
