#include "stock/offcut.h"

#include <cmath>

namespace bevelsmith::stock {

bool same_section(const Bar& a, const Bar& b) {
    constexpr double hair_mm = 0.05;
    return a.name == b.name && std::abs(a.width_mm - b.width_mm) < hair_mm &&
           std::abs(a.depth_mm - b.depth_mm) < hair_mm;
}

}  // namespace bevelsmith::stock
