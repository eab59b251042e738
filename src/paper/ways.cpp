#include "paper/ways.h"

#include <cmath>

namespace bevelsmith::paper {

void draw_ways(Paper& paper, const exchange::Drawing& d, const QPointF& middle, double long_mm) {
    const std::pair<const char*, Vec2> ways[] = {{"up", d.ways.up}, {"fwd", d.ways.fwd}, {"port", d.ways.port}};
    constexpr double in_the_drawing = 0.3, words_mm = 2.8;
    for (const auto& [name, way] : ways) {
        if (way.norm() < in_the_drawing) continue;  // it points through the panel
        const QPointF to(way.x() / way.norm(), -way.y() / way.norm());
        paper.pen(0.35);
        paper.arrow(middle, middle + long_mm * to);
        const QSizeF size = paper.extent(words_mm, name);
        paper.label(middle + (long_mm + 1) * to + QPointF(to.x() * size.width() / 2, to.y() * size.height() / 2),
                    words_mm, name);
    }
}

Vec2 side_away(const Vec2& place, const Vec2& square, const std::vector<const geometry::Ring*>& others) {
    constexpr double step_mm = 4;
    const auto off = [&](const Vec2& p) {
        double out = HUGE_VAL;
        for (const auto* ring : others)
            for (std::size_t i = 0; i < ring->size(); ++i)
                out = std::min(out, geometry::distance_to_segment_mm(p, (*ring)[i], (*ring)[(i + 1) % ring->size()]));
        return out;
    };
    return off(place + step_mm * square) >= off(place - step_mm * square) ? square : Vec2(-square);
}

}  // namespace bevelsmith::paper
