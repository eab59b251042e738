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
