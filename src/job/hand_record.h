// What a hand truly does, told by a job's surfaces and fittings: how far its readings scatter by each school, and how
// many pieces kept to what was forecast.
#pragma once

#include <vector>

#include "job/pipeline.h"

namespace bevelsmith::job {

/// Readings of one school.
struct SchoolScatter {
    survey::School school{};
    int readings = 0;
    double squares_mm2 = 0;  ///< sum of the squares of what each is off, its place in the surface allowed for
    /// The standard deviation that they show (mm).
    double sigma_mm() const;
};

struct HandRecord {
    std::vector<SchoolScatter> schools;
    int offered = 0;  ///< pieces that were offered up and whose forecast was known
    int kept = 0;     ///< of these, those that kept to it
    void add(const HandRecord& other);
    const SchoolScatter* of(survey::School school) const;
};

/// Of one job. A reading's share is its studentised residual times what was declared of it and what the surface says
/// that readings scatter against that; readings that are left out, mirrored or scanned say nothing of the hand, and
/// of a job to practise on there is no record.
HandRecord hand_record(const Job& in_full, const Results& results);

}  // namespace bevelsmith::job
