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

bool rectangle_passes_rounded(double p, double q, double a, double b, double r) {
    if (r <= 0) return rectangle_passes(p, q, a, b);
    r = std::min(r, std::min(a, b) / 2);
    const auto within = [&](double x, double y) {
        x = std::abs(x), y = std::abs(y);
        if (x > a / 2 || y > b / 2) return false;
        const double dx = x - (a / 2 - r), dy = y - (b / 2 - r);
        return dx <= 0 || dy <= 0 || dx * dx + dy * dy <= r * r;
    };
    constexpr int turns = 900;
    for (int k = 0; k <= turns; ++k) {
        const double turn = M_PI / 2 * k / turns, c = std::cos(turn), s = std::sin(turn);
        if (within(p / 2 * c - q / 2 * s, p / 2 * s + q / 2 * c) &&
            within(p / 2 * c + q / 2 * s, p / 2 * s - q / 2 * c))
            return true;
    }
    return false;
}

bool panel_passes(const geometry::Ring& ring, double thickness_mm, const Passage& passage) {
    const double off = 2 * passage.hands_mm, wide = passage.width_mm - off, high = passage.height_mm - off;
    return wide > 0 && high > 0 &&
           rectangle_passes_rounded(geometry::minimum_width(ring).width_mm, thickness_mm, wide, high,
                                    std::max(0.0, passage.corner_mm - passage.hands_mm));
}

double scarf_overlap_mm(const JointSpec& joint, double thickness_mm) {
    return joint.kind == JointKind::scarf ? joint.slope * thickness_mm / 2 : 0;
}

}  // namespace bevelsmith::piece
