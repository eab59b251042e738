#include "exchange/edge_marks.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace bevelsmith::exchange {

double distance_to_ring_mm(const Vec2& p, const geometry::Ring& ring) {
    double out = HUGE_VAL;
    for (std::size_t i = 0; i < ring.size(); ++i)
        out = std::min(out, geometry::distance_to_segment_mm(p, ring[i], ring[(i + 1) % ring.size()]));
    return out;
}

bool on_ring(const Vec2& p, const geometry::Ring& ring) {
    constexpr double on_mm = 0.01;
    return distance_to_ring_mm(p, ring) < on_mm;
}

std::vector<piece::EdgeMark> marks_on(const std::vector<piece::EdgeMark>& marks, const geometry::Polygon& face_a) {
    std::vector<piece::EdgeMark> out;
    for (const auto& mark : marks)
        if (mark.kept && on_ring(mark.a, face_a.outer)) out.push_back(mark);
    return out;
}

std::vector<piece::EdgeMark> pattern_marks(const piece::PieceSpec& spec, const piece::Outline& outline,
                                           const geometry::Polygon& face_a) {
    std::vector<piece::EdgeMark> all;
    std::set<int> taken;
    for (const auto& mark : outline.marks) {
        if (!taken.insert(mark.edge).second) continue;
        const bool lipped = spec.edges[static_cast<std::size_t>(mark.edge)].lipping_mm > 0;
        const auto& from = lipped ? outline.marks : outline.cut_marks();
        std::copy_if(from.begin(), from.end(), std::back_inserter(all),
                     [&](const auto& m) { return m.edge == mark.edge; });
    }
    auto out = marks_on(all, face_a);
    for (auto& m : out) m.b = m.a;
    return out;
}

}  // namespace bevelsmith::exchange
