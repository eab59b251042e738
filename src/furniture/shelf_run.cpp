// A run of shelves along the hull.
#include <fmt/format.h>

#include "furniture/builders.h"

namespace bevelsmith::furniture {
using piece::PieceSpec;

void build_shelf_run(Builder& b) {
    const UnitSpec& u = b.unit;
    for (int k = 0; k < u.shelves; ++k) {
        const double upper = u.foot_mm + u.height_mm + k * u.shelf_step_mm;
        const std::string part = fmt::format("shelf {}", k + 1);
        PieceSpec& shelf = b.level(part, fmt::format("Shelf {}, {}", k + 1, u.name), upper);
        shelf.at->z() = upper - b.top_mm / 2;
        b.dragged_up(part);
        shelf.edges = {b.hull(), b.aft(), b.fwd(), b.outboard_of(u.front_mm)};
        const bool room = k + 1 == u.shelves || u.shelf_step_mm - b.top_mm > u.fiddle_mm;
        if (u.fiddle_mm <= 0 || !room) continue;
        PieceSpec& fiddle =
            b.along(fmt::format("fiddle {}", k + 1), fmt::format("Fiddle {}, {}", k + 1, u.name), u.front_mm);
        fiddle.kind = "fiddle";
        b.dragged_out(fmt::format("fiddle {}", k + 1));
        fiddle.at->z() = upper + u.fiddle_mm / 2;
        fiddle.edges = {b.hull(true), b.aft(), b.fwd(), b.stops_at("bottom", part), b.below(upper + u.fiddle_mm)};
        fiddle.edges[3].gap_mm = 0;
    }
}

}  // namespace bevelsmith::furniture
