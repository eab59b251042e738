// Marks on the boat that outlive the work, so that a part can be put back where it was.
#pragma once

#include <string>

#include "geometry/vec.h"

namespace bevelsmith::survey {

struct ReferenceMark {
    std::string id;             ///< M1, M2, ...
    std::string name;           ///< "punch mark, port stringer"
    std::string measured_from;  ///< what its place was measured from, in words
    Vec3 position = Vec3::Zero();
    bool operator==(const ReferenceMark&) const = default;
};

}  // namespace bevelsmith::survey
