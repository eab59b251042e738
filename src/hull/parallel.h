// Loops shared among the processors (OpenMP). An exception must not leave a thread: it is carried over and thrown
// again.
#pragma once

#include <cstddef>
#include <exception>

namespace bevelsmith::hull {

/// Calls f(0) ... f(n - 1), on all processors when `worth_it`. The order is open; the first exception is thrown again
/// when all threads are done.
template <class F>
void in_parallel(std::ptrdiff_t n, bool worth_it, F f) {
    std::exception_ptr thrown;
#ifdef _OPENMP
#pragma omp parallel for schedule(static) if (worth_it)
#else
    (void)worth_it;
#endif
    for (std::ptrdiff_t i = 0; i < n; ++i) {
        try {
            f(i);
        } catch (...) {
#ifdef _OPENMP
#pragma omp critical(bevelsmith_in_parallel)
#endif
            if (!thrown) thrown = std::current_exception();
        }
    }
    if (thrown) std::rethrow_exception(thrown);
}

}  // namespace bevelsmith::hull
