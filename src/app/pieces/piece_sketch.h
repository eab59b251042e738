// A piece that has no outline, as far as it goes: its limits as lines, what breaks it marked and named.
#pragma once

#include "app/widgets/drawing_view.h"
#include "piece/outline.h"

namespace bevelsmith::app {

/// What the lines span; empty where there are none.
geometry::Box box_of(const piece::Sketch& sketch);
void draw_sketch(Pencil& pencil, const piece::Sketch& sketch);

}  // namespace bevelsmith::app
