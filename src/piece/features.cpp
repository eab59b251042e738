#include "piece/features.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "piece/hole_rows.h"
#include "piece/limits.h"
#include "units/ranges.h"

namespace bevelsmith::piece {
namespace {

using geometry::Polygon;
using geometry::Ring;

/// The least distance between two outlines that do not cross.
double gap_between(const Ring& a, const Ring& b) {
    double out = HUGE_VAL;
    const auto from = [&out](const Ring& points, const Ring& ring) {
        for (const Vec2& p : points)
            for (std::size_t i = 0; i < ring.size(); ++i)
                out = std::min(out, geometry::distance_to_segment_mm(p, ring[i], ring[(i + 1) % ring.size()]));
    };
    from(a, b), from(b, a);
    return out;
}

/// Names the first opening with which the piece is in several parts, or gone.
std::string opening_that_parts(const PieceSpec& spec, Polygon shape, const std::vector<Polygon>& holes) {
    for (std::size_t i = 0; i < holes.size(); ++i) {
        auto cut = geometry::subtract({shape}, {holes[i]});
        if (cut.empty() || geometry::total_area_mm2(cut) < least_area_mm2)
            return fmt::format("'{}': the opening '{}' leaves nothing of the piece; make it smaller", spec.name,
                               spec.openings[i].name);
        if (cut.size() > 1)
            return fmt::format("'{}': the opening '{}' cuts the piece apart; make it smaller or move it", spec.name,
                               spec.openings[i].name);
        shape = std::move(cut.front());
    }
    return fmt::format("'{}': its openings together cut the piece apart", spec.name);
}

}  // namespace

Polygon opening_shape(const OpeningSpec& o) {
    Polygon out;
    if (o.line.size() >= 3) {
        EdgeSpec edge;
        edge.line = o.line;
        edge.closed = true;
        out = geometry::largest(geometry::unite({Polygon{free_line(edge), {}}}, {}));
    } else {
        const geometry::Box box{{o.left_mm, o.bottom_mm}, {o.left_mm + o.width_mm, o.bottom_mm + o.height_mm}};
        out = {geometry::rounded_rectangle(box, o.radius_mm), {}};
    }
    return o.guard_mm > 0 ? geometry::largest(geometry::offset(out, o.guard_mm, geometry::Corner::round)) : out;
}

Result<Polygon> with_openings(const PieceSpec& spec, const Polygon& shape, const KeepGoing& keep_going) {
    if (spec.openings.empty() && spec.rows.empty()) return shape;
    PieceSpec all = spec;
    for (const HoleRow& row : spec.rows) {
        const auto layout = laid_out(row);
        if (!layout) return Error{fmt::format("'{}': {}", spec.name, layout.error().message)};
        for (auto& hole : holes_of(row, *layout)) all.openings.push_back(std::move(hole));
    }
    if (all.openings.size() > units::limit::holes.most)
        return Error{fmt::format("'{}': {}", spec.name, units::too_many(units::limit::holes, all.openings.size()))};
    std::vector<Polygon> holes;
    const Polygon solid{shape.outer, {}};
    for (const OpeningSpec& o : all.openings) {
        ask(keep_going);
        holes.push_back(opening_shape(o));
        if (geometry::total_area_mm2(geometry::subtract({holes.back()}, {solid})) > 1)
            return Error{fmt::format("'{}': the opening '{}' reaches over the outline; move it or make it smaller",
                                     spec.name, o.name)};
    }
    // All at once: one by one, a thousand vent holes take the square of their number.
    const auto cut = geometry::subtract({shape}, geometry::unite(holes, {}));
    if (cut.size() == 1 && geometry::area_mm2(cut.front()) >= least_area_mm2) return cut.front();
    return Error{opening_that_parts(all, shape, holes)};
}

double rail_left_mm(const PieceSpec& spec, std::size_t opening, const Outline& shape) {
    const Ring own = opening_shape(spec.openings[opening]).outer;
    double out = gap_between(own, shape.face_a.outer);
    for (std::size_t k = 0; k < spec.openings.size(); ++k)
        if (k != opening) out = std::min(out, gap_between(own, opening_shape(spec.openings[k]).outer));
    return out;
}

double guard_length_mm(const OpeningSpec& opening) {
    if (opening.guard_mm <= 0) return 0;
    const Polygon shape = opening_shape(opening);
    return geometry::length_mm(shape.outer, true);
}

}  // namespace bevelsmith::piece
