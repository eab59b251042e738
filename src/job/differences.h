// What two states of a job differ in, in words: before work is taken up, reloaded or gone back to.
#pragma once

#include <string>
#include <vector>

#include "job/job.h"

namespace bevelsmith::job {

/// One thing that is not alike in both.
struct Difference {
    enum class Kind { added, removed, changed } kind = Kind::changed;
    std::string what;    ///< "readings R2 (Station 4)", "piece B1 (Bulkhead)", "the boat"
    std::string detail;  ///< "3 more readings, 1 changed"; may be empty
    bool operator==(const Difference&) const = default;
};

/// In the order of the work: job and boat, datum, surfaces, readings, materials, pieces, rules, layouts. Empty
/// exactly when the two are equal.
std::vector<Difference> differences(const Job& before, const Job& after);

}  // namespace bevelsmith::job
