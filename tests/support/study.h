// Heavy studies: a run of all tests takes a sample of their cases, scripts/study takes all.
#pragma once

#include <cstdlib>
#include <vector>

/// All cases where BEVELSMITH_STUDY is set, else as many of them as a run of all tests can afford.
inline int cases(int all, int sample) {
    return std::getenv("BEVELSMITH_STUDY") ? all : sample;
}

/// The same of named ones: the first `sample` of them.
template <typename T>
std::vector<T> cases(std::vector<T> all, std::size_t sample) {
    if (!std::getenv("BEVELSMITH_STUDY") && sample < all.size())
        all.erase(all.begin() + static_cast<std::ptrdiff_t>(sample), all.end());
    return all;
}
