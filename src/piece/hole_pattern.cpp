#include "piece/hole_pattern.h"

#include <Eigen/Geometry>
#include <numbers>

namespace bevelsmith::piece {

std::vector<Drilled> drilled(const HolePattern& pattern, const PatternOn& on) {
    std::vector<Drilled> out;
    const Eigen::Rotation2Dd turn(on.turn_deg * std::numbers::pi / 180);
    for (const Hole& hole : pattern.holes) {
        const Vec2 own(hole.at.x(), on.mirrored ? -hole.at.y() : hole.at.y());
        out.push_back(
            {pattern.name, static_cast<int>(out.size()) + 1, on.at + turn * own, hole.diameter_mm, hole.kind});
    }
    return out;
}

Result<ReadPattern> pattern_from(const std::vector<Vec3>& places, const geometry::PlaneFrame& frame,
                                 double diameter_mm) {
    if (places.size() < 2) return Error{"a pattern wants two holes at least: read the middles of two"};
    const Vec2 first = frame.to_plane(places.front()), run = frame.to_plane(places.back()) - first;
    if (run.norm() < 1) return Error{"the first and the last hole lie in one place: they give no datum line"};
    ReadPattern out;
    const double turn = std::atan2(run.y(), run.x());
    const Eigen::Rotation2Dd back(-turn);
    for (const Vec3& p : places)
        out.holes.push_back({back * (frame.to_plane(p) - first), diameter_mm, HoleKind::plain});
    out.on.at = first;
    out.on.turn_deg = turn * 180 / std::numbers::pi;
    return out;
}

std::vector<Drilled> drilled_in_mate(const std::vector<Drilled>& holes, const geometry::PlaneFrame& from,
                                     const geometry::PlaneFrame& mate, HoleKind kind) {
    constexpr double face_to_face = 0.9998;  // cosine: one degree
    if (std::abs(from.normal.dot(mate.normal)) < face_to_face) return {};
    std::vector<Drilled> out = holes;
    for (Drilled& hole : out) hole.at = mate.to_plane(from.to_space(hole.at)), hole.kind = kind;
    return out;
}

HolePattern mirrored(HolePattern pattern) {
    for (Hole& hole : pattern.holes) hole.at.y() = -hole.at.y();
    return pattern;
}

const char* word_of(HoleKind kind) {
    switch (kind) {
        case HoleKind::plain: return "plain";
        case HoleKind::countersunk: return "countersunk";
        case HoleKind::tapped: return "tapped";
        case HoleKind::insert: return "for an insert";
    }
    return "";
}

}  // namespace bevelsmith::piece
