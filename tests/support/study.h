// Heavy studies: a run of all tests takes a sample of their cases, scripts/study takes all.
#pragma once

#include <cstdlib>

/// All cases where BEVELSMITH_STUDY is set, else as many of them as a run of all tests can afford.
inline int cases(int all, int sample) {
    return std::getenv("BEVELSMITH_STUDY") ? all : sample;
}
