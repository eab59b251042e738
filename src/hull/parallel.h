// Loops shared among the processors (OpenMP). An exception must not leave a thread: it is carried over and thrown
// again.
#pragma once

#include <atomic>
#include <cstddef>
#include <exception>

namespace bevelsmith::hull {

/// Calls f(0) ... f(n - 1), on all processors when `worth_it`. The order is open; after an exception nothing more is
/// begun, and the first is thrown again when all threads are done. A loop within a loop runs on one processor.
template <class F>
void in_parallel(std::ptrdiff_t n, bool worth_it, F f) {
    std::exception_ptr thrown;
    std::atomic<bool> ended = false;
#ifdef _OPENMP
    // In small shares, handed out as they are done: some cost far more than others.
    const std::ptrdiff_t share = n / 32 + 1;
#pragma omp parallel for schedule(dynamic, share) if (worth_it)
#else
    (void)worth_it;
#endif
    for (std::ptrdiff_t i = 0; i < n; ++i) {
        if (ended) continue;
        try {
            f(i);
        } catch (...) {
            ended = true;
#ifdef _OPENMP
#pragma omp critical(bevelsmith_in_parallel)
#endif
            if (!thrown) thrown = std::current_exception();
        }
    }
    if (thrown) std::rethrow_exception(thrown);
}

}  // namespace bevelsmith::hull
