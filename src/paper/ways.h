// How the boat's directions lie in a drawing, as arrows with words.
#pragma once

#include "exchange/drawing.h"
#include "paper/page.h"

namespace bevelsmith::paper {

/// Arrows for up, fwd and port about a middle; a way that points through the panel is named as such.
void draw_ways(Paper& paper, const exchange::Drawing& drawing, const QPointF& middle, double long_mm);

/// Of a line's two sides, square to it, the one on which the other lines lie farther off.
Vec2 side_away(const Vec2& place, const Vec2& square, const std::vector<const geometry::Ring*>& others);

}  // namespace bevelsmith::paper
