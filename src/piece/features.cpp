#include "piece/features.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace bevelsmith::piece {
namespace {

using geometry::Polygon;
using geometry::Ring;

/// A notch at a corner leaves a crumb behind it; what is larger is a part of the piece.
constexpr double crumb_share = 0.02;

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

Polygon limber_shape(const LimberSpec& limber, const Ring& outline, const std::vector<Vec2>& scribed) {
    Vec2 at = scribed.front();
    for (const Vec2& p : scribed) {
        const bool better =
            limber.at_mm ? std::abs(p.x() - *limber.at_mm) < std::abs(at.x() - *limber.at_mm) : p.y() < at.y();
        if (better) at = p;
    }
    const double bottom = geometry::bounding_box(outline).min.y() - limber.height_mm;
    const geometry::Box box{{at.x() - limber.width_mm / 2, bottom},
                            {at.x() + limber.width_mm / 2, at.y() + limber.height_mm}};
    // Only the top corners are rounded: the bottom ones lie outside the piece.
    return {geometry::rounded_rectangle(box, std::min(limber.width_mm / 2, limber.height_mm)), {}};
}

std::string limber_name(const PieceSpec& spec, int index) {
    return spec.limbers.size() == 1 ? "the limber notch" : fmt::format("limber notch {}", index + 1);
}

Result<Polygon> notched(const PieceSpec& spec, const Polygon& outline, const Polygon& notch, int index) {
    auto left = geometry::subtract({outline}, {notch});
    const double before = geometry::area_mm2(outline), all = geometry::total_area_mm2(left);
    Polygon out = geometry::largest(std::move(left));
    if (out.outer.size() < 3 || geometry::area_mm2(out) < least_area_mm2)
        return Error{fmt::format("'{}': {} leaves nothing of the piece; make it smaller or remove it", spec.name,
                                 limber_name(spec, index))};
    if (all - geometry::area_mm2(out) > crumb_share * before)
        return Error{fmt::format("'{}': {} cuts the piece apart; make it smaller or move it", spec.name,
                                 limber_name(spec, index))};
    return out;
}

Polygon opening_shape(const OpeningSpec& o) {
    const geometry::Box box{{o.left_mm, o.bottom_mm}, {o.left_mm + o.width_mm, o.bottom_mm + o.height_mm}};
    return {geometry::rounded_rectangle(box, o.radius_mm), {}};
}

Result<Polygon> with_openings(const PieceSpec& spec, const Polygon& shape) {
    if (spec.openings.empty()) return shape;
    std::vector<Polygon> holes;
    const Polygon solid{shape.outer, {}};
    for (const OpeningSpec& o : spec.openings) {
        holes.push_back(opening_shape(o));
        if (geometry::total_area_mm2(geometry::subtract({holes.back()}, {solid})) > 1)
            return Error{fmt::format("'{}': the opening '{}' reaches over the outline; move it or make it smaller",
                                     spec.name, o.name)};
    }
    // All at once: one by one, a thousand vent holes take the square of their number.
    const auto cut = geometry::subtract({shape}, geometry::unite(holes, {}));
    if (cut.size() == 1 && geometry::area_mm2(cut.front()) >= least_area_mm2) return cut.front();
    return Error{opening_that_parts(spec, shape, holes)};
}

std::optional<Error> joint_beside(const PieceSpec& spec, const Polygon& face) {
    const geometry::Box box = geometry::bounding_box(face.outer);
    for (std::size_t i = 0; i < spec.joints.size(); ++i) {
        const JointSpec& j = spec.joints[i];
        const double low = j.upright ? box.min.x() : box.min.y(), high = j.upright ? box.max.x() : box.max.y();
        if (j.at_mm > low && j.at_mm < high) continue;
        return Error{
            fmt::format("'{}': joint {} lies {:.0f} mm beside the piece; move it onto the piece or remove it",
                        spec.name, i + 1, j.at_mm <= low ? low - j.at_mm : j.at_mm - high)};
    }
    return std::nullopt;
}

}  // namespace bevelsmith::piece
