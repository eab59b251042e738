#include <algorithm>
#include <cmath>

#include "piece/outline.h"

namespace bevelsmith::piece {

bool rectangle_passes(double p, double q, double a, double b) {
    if (p < q) std::swap(p, q);
    if (a < b) std::swap(a, b);
    if (p <= a) return q <= b;
    if (q > b) return false;
    const double square = p * p + q * q;
    return b >= (2 * p * q * a + (p * p - q * q) * std::sqrt(square - a * a)) / square;
}

bool panel_passes(const geometry::Ring& ring, double thickness_mm, const Passage& passage) {
    return rectangle_passes(geometry::minimum_width(ring).width_mm, thickness_mm, passage.width_mm,
                            passage.height_mm);
}

double scarf_overlap_mm(const JointSpec& joint, double thickness_mm) {
    return joint.kind == JointKind::scarf ? joint.slope * thickness_mm / 2 : 0;
}

}  // namespace bevelsmith::piece
