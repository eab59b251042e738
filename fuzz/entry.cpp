// One program a target: BEVELSMITH_FUZZ_TARGET is its name.
#include "targets.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    return bevelsmith::fuzz::BEVELSMITH_FUZZ_TARGET(data, size);
}
