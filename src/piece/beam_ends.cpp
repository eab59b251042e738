#include "piece/beam_ends.h"

#include <algorithm>
#include <cmath>

#include "piece/meeting_line.h"

namespace bevelsmith::piece {
namespace {

constexpr double end_mm = 80;  ///< what belongs to an end
constexpr double reach_mm[] = {2, 5, 10};

bool within(const Outline& other, const Vec3& p) {
    const double behind = other.frame.normal.dot(p - other.frame.origin);
    constexpr double touch_mm = 1;
    return behind > -touch_mm && behind < other.thickness_mm + touch_mm &&
           geometry::contains(other.face_a.outer, other.frame.to_plane(p));
}

bool meets_surface(const PieceSpec& spec, const Outline& beam, double at_u) {
    constexpr double bears_mm = 3;
    return std::any_of(beam.edges_a.begin(), beam.edges_a.end(), [&](const Edge& edge) {
        if (edge.source != EdgeSource::scribed) return false;
        // What lifts out is not bonded: it lies on the hull, or not.
        if (spec.removable && spec.edges[static_cast<std::size_t>(edge.spec)].gap_mm > bears_mm) return false;
        const auto& ring = beam.face_a.outer;
        for (auto i = static_cast<std::size_t>(edge.first);; i = (i + 1) % ring.size()) {
            if (std::abs(ring[i].x() - at_u) < end_mm) return true;
            if (i == static_cast<std::size_t>(edge.last)) return false;
        }
    });
}

/// Places just beyond the end and just under its last stretch.
std::vector<Vec2> places_to_rest(const Outline& beam, double at_u, double outwards) {
    std::vector<Vec2> out;
    const double middle = geometry::bounding_box(beam.face_a.outer).centre().y();
    // Where its end slopes its underside ends short of it.
    double under_u = -outwards * HUGE_VAL;
    for (const Vec2& p : beam.face_a.outer)
        if (p.y() <= middle && outwards * (p.x() - under_u) > 0) under_u = p.x();
    const double inmost = std::abs(at_u - under_u) + end_mm;
    for (const Vec2& p : beam.face_a.outer) {
        // What lies on it holds nothing.
        if (std::abs(p.x() - at_u) > inmost || p.y() > middle) continue;
        for (double reach : reach_mm) {
            if (std::abs(p.x() - at_u) < 1) out.push_back({p.x() + outwards * reach, p.y()});
            out.push_back({p.x(), p.y() - reach});
        }
    }
    // Between corners as well.
    for (double inwards = 2; inwards < inmost; inwards += 6) {
        const auto upright = spans_within(beam.face_a, {{at_u - outwards * inwards, 0}, {0, 1}});
        if (upright.empty()) continue;
        for (double reach : reach_mm) {
            out.push_back({at_u - outwards * inwards, upright.front().from - reach});
            if (inwards < 3) out.push_back({at_u + outwards * reach, (upright.front().from + upright.back().to) / 2});
        }
    }
    return out;
}

}  // namespace

std::vector<Vec2> free_beam_ends(const PieceSpec& spec, const Outline& beam, const std::vector<Carrier>& others) {
    std::vector<Vec2> out;
    const auto box = geometry::bounding_box(beam.face_a.outer);
    const Vec3 half = beam.thickness_mm / 2 * beam.frame.normal;
    for (const double outwards : {-1.0, 1.0}) {
        const double at_u = outwards < 0 ? box.min.x() : box.max.x();
        if (meets_surface(spec, beam, at_u)) continue;
        const auto places = places_to_rest(beam, at_u, outwards);
        const bool held = std::any_of(others.begin(), others.end(), [&](const Carrier& other) {
            return other.shape && other.shape != &beam &&
                   std::any_of(places.begin(), places.end(),
                               [&](const Vec2& p) { return within(*other.shape, beam.frame.to_space(p) + half); });
        });
        if (!held) out.push_back({at_u, box.centre().y()});
    }
    return out;
}

}  // namespace bevelsmith::piece
