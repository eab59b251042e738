#include "piece/joints.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace bevelsmith::piece {
namespace {

/// How far off the joint's line a piece may lie that it lands on (sine of 2°).
constexpr double most_askew = 0.035;

Error joint_fault(const PieceSpec& spec, std::size_t index, const std::string& why) {
    return Error{fmt::format("'{}': joint {} {}", spec.name, index + 1, why)};
}

}  // namespace

const char* joint_word(JointKind kind) {
    static constexpr const char* words[] = {"butt joint",        "butt strap",   "scarf",       "half lap",
                                            "tongue and groove", "loose spline", "on a divider"};
    return words[static_cast<int>(kind)];
}

double joint_width_mm(const JointSpec& joint, double t) {
    if (joint.width_mm > 0) return joint.width_mm;
    switch (joint.kind) {
        case JointKind::half_lap: return std::max(25.0, 2 * t);
        case JointKind::tongue_groove: return t / 2;
        case JointKind::loose_spline: return t;
        case JointKind::butt_strap: return 10 * t;
        case JointKind::butt:
        case JointKind::scarf:
        case JointKind::landing: break;
    }
    return 0;
}

std::pair<double, double> reach_past_mm(const JointSpec& joint, double thickness_mm) {
    const double open = joint.clearance_mm / 2, width = joint_width_mm(joint, thickness_mm);
    switch (joint.kind) {
        case JointKind::scarf: {
            const double over = scarf_overlap_mm(joint, thickness_mm);
            return {over - open, over - open};
        }
        case JointKind::half_lap: return {width / 2 - open, width / 2 - open};
        case JointKind::tongue_groove: return {width - open, -open};
        case JointKind::butt:
        case JointKind::butt_strap:
        case JointKind::loose_spline:
        case JointKind::landing: break;
    }
    return {-open, -open};
}

Result<std::vector<JointSpec>> landed_joints(const PieceSpec& spec, const geometry::PlaneFrame& frame,
                                             double thickness_mm, const PieceLookup& pieces) {
    std::vector<JointSpec> out = spec.joints;
    for (std::size_t i = 0; i < out.size(); ++i) {
        JointSpec& joint = out[i];
        if (joint.kind != JointKind::landing) continue;
        const Neighbour* under = pieces ? pieces(joint.piece_id) : nullptr;
        if (!under)
            return joint_fault(
                spec, i, fmt::format("lands on the piece '{}', which there is not; choose another", joint.piece_id));
        const Vec2 across(under->plane.normal.dot(frame.u), under->plane.normal.dot(frame.v));
        if (across.norm() < 0.5) return joint_fault(spec, i, "lands on a piece that lies flat against it");
        joint.upright = std::abs(across.x()) > std::abs(across.y());
        const Vec2 way = across.normalized();
        if (std::abs(joint.upright ? way.y() : way.x()) > most_askew)
            return joint_fault(spec, i, "lands on a piece that runs aslant under it; turn it, or use another joint");
        // On the face that lies upon it, whichever that is: half the panel's thickness settles it to both.
        const double middle = under->plane.d_mm + under->thickness_mm / 2 -
                              under->plane.normal.dot(frame.origin + thickness_mm / 2 * frame.normal);
        joint.at_mm = middle / (joint.upright ? across.x() : across.y());
    }
    return out;
}

std::optional<Error> joint_beside(const PieceSpec& spec, const std::vector<JointSpec>& joints,
                                  const geometry::Polygon& face) {
    const geometry::Box box = geometry::bounding_box(face.outer);
    for (std::size_t i = 0; i < joints.size(); ++i) {
        const JointSpec& j = joints[i];
        const double low = j.upright ? box.min.x() : box.min.y(), high = j.upright ? box.max.x() : box.max.y();
        if (j.at_mm > low && j.at_mm < high) continue;
        return joint_fault(spec, i,
                           fmt::format("lies {:.0f} mm beside the piece; move it onto the piece or remove it",
                                       j.at_mm <= low ? low - j.at_mm : j.at_mm - high));
    }
    return std::nullopt;
}

}  // namespace bevelsmith::piece
