#include "piece/cutouts.h"

#include <fmt/format.h>

#include <algorithm>

#include "piece/features.h"
#include "piece/low_points.h"

namespace bevelsmith::piece {
namespace {

/// A cut at a corner leaves a crumb behind it; what is larger is a part of the piece.
constexpr double crumb_share = 0.02;

bool meets(const geometry::Polygon& shape, const geometry::Polygon& face) {
    return geometry::total_area_mm2(geometry::intersect({shape}, {face})) > 1;
}

/// A round hole over a low point; where that lies in a corner, so far beside it, and no higher over
/// the edge than need be, that wood is left around the hole.
geometry::Polygon drain_hole(const LimberSpec& limber, const geometry::Ring& outline, const Vec2& at) {
    constexpr double wood_mm = 5, step_mm = 5;
    const double half = limber.width_mm / 2;
    const auto around = [&](double beside, double lift, double radius) {
        const Vec2 edge = lowest_at(outline, at.x() + beside);
        const Vec2 centre = (beside == 0 ? at : edge) + Vec2(0, limber.height_mm + lift);
        return geometry::Polygon{
            geometry::rounded_rectangle({centre - Vec2(radius, radius), centre + Vec2(radius, radius)}, radius), {}};
    };
    for (double lift = 0; lift <= limber.width_mm; lift += step_mm)
        for (double beside = 0; beside <= 2 * limber.width_mm; beside += step_mm)
            for (const double way : {beside, -beside})
                if (geometry::total_area_mm2(
                        geometry::subtract({around(way, lift, half + wood_mm)}, {{outline, {}}})) < 1)
                    return around(way, lift, half);
    return around(0, 0, half);
}

geometry::Polygon drain_shape(const LimberSpec& limber, const geometry::Ring& outline, const Vec2& at) {
    const double half = limber.width_mm / 2;
    if (limber.hole) return drain_hole(limber, outline, at);
    const double bottom = geometry::bounding_box(outline).min.y() - limber.height_mm;
    // Only the top corners are rounded: the bottom ones lie outside the piece.
    return {geometry::rounded_rectangle({{at.x() - half, bottom}, {at.x() + half, at.y() + limber.height_mm}},
                                        std::min(half, limber.height_mm)),
            {}};
}

}  // namespace

std::vector<Cutout> cutouts_of(const PieceSpec& spec, const geometry::PlaneFrame& frame, double thickness_mm,
                               const Uncut& uncut, const Around& around) {
    std::vector<Cutout> out;
    for (std::size_t i = 0; i < spec.notches.size(); ++i)
        out.push_back({opening_shape(spec.notches[i]), EdgeSource::notch, static_cast<int>(i), spec.notches[i].name,
                       fmt::format("the notch '{}'", spec.notches[i].name), false});
    for (std::size_t i = 0; i < around.obstacles.size(); ++i)
        for (auto& shape : room_for(around.obstacles[i], frame, thickness_mm))
            out.push_back({std::move(shape), EdgeSource::obstacle, static_cast<int>(i), around.obstacles[i].name,
                           fmt::format("the room for '{}'", around.obstacles[i].name), true});
    for (std::size_t i = 0; i < spec.crossings.size(); ++i) {
        const Neighbour* other = around.pieces ? around.pieces(spec.crossings[i].piece_id) : nullptr;
        if (!other) continue;
        auto cut = crossing_cut(spec.crossings[i], frame, thickness_mm, uncut.face_a, *other);
        if (!cut) continue;
        out.push_back({std::move(uncut.is_a ? cut->a : cut->b), EdgeSource::crossing, static_cast<int>(i),
                       other->name, fmt::format("the slot for '{}'", other->name), true});
        if (uncut.is_a) out.back().walls.assign(cut->walls.begin(), cut->walls.end());
    }
    std::erase_if(out, [&](const Cutout& c) { return !meets(c.shape, uncut.face); });
    return out;
}

std::vector<Cutout> drains_of(const PieceSpec& spec, const geometry::Polygon& face) {
    std::vector<Cutout> out;
    std::vector<Vec2> lows;
    std::size_t taken = 0;
    for (std::size_t i = 0; i < spec.limbers.size(); ++i) {
        const LimberSpec& limber = spec.limbers[i];
        Vec2 at;
        if (limber.at_mm) {
            at = lowest_at(face.outer, *limber.at_mm);
        } else {
            if (lows.empty()) lows = low_points(face.outer);
            if (lows.empty()) continue;
            at = lows[std::min(taken++, lows.size() - 1)];
        }
        out.push_back({drain_shape(limber, face.outer, at), EdgeSource::limber, static_cast<int>(i), "limber notch",
                       spec.limbers.size() == 1 ? "the limber notch" : fmt::format("limber notch {}", i + 1),
                       limber.hole});
    }
    return out;
}

Result<geometry::Polygon> cut_out(const PieceSpec& spec, const geometry::Polygon& face, const Cutout& c) {
    auto left = geometry::subtract({face}, {c.shape});
    const double before = geometry::area_mm2(face), all = geometry::total_area_mm2(left);
    geometry::Polygon out = geometry::largest(std::move(left));
    if (out.outer.size() < 3 || geometry::area_mm2(out) < least_area_mm2)
        return Error{
            fmt::format("'{}': {} leaves nothing of the piece; make it smaller or remove it", spec.name, c.what)};
    if (all - geometry::area_mm2(out) > crumb_share * before)
        return Error{fmt::format("'{}': {} cuts the piece apart; make it smaller or move it", spec.name, c.what)};
    if (!c.may_lie_within && out.holes.size() > face.holes.size())
        return Error{fmt::format("'{}': {} does not reach the edge; make it an opening", spec.name, c.what)};
    return out;
}

}  // namespace bevelsmith::piece
