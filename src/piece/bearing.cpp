#include "piece/bearing.h"

#include <algorithm>
#include <cmath>

namespace bevelsmith::piece {
namespace {

constexpr double touch_mm = 3;
/// A lid lies within its opening with a clearance all round.
constexpr double lip_mm = 12;
/// A joint this near to a bearing lies on it.
constexpr double under_joint_mm = 25;
/// Spans are found on a grid of about so many places.
constexpr double grid_places = 36;

std::vector<Vec2> stretch_of(const geometry::Ring& ring, const Edge& edge) {
    std::vector<Vec2> out{ring[static_cast<std::size_t>(edge.first)]};
    for (std::size_t i = static_cast<std::size_t>(edge.first); i != static_cast<std::size_t>(edge.last);) {
        i = (i + 1) % ring.size();
        out.push_back(ring[i]);
    }
    return out;
}

Bearing* add(BearingReport& out, const std::string& what, std::vector<Vec2> line, double width_mm, int edge = -1,
             const std::string& piece_id = {}) {
    const double length = geometry::length_mm(line, false);
    if (length <= 1) return nullptr;
    out.lines.push_back({what, std::move(line), length, edge, piece_id, {}, std::max(0.0, width_mm)});
    return &out.lines.back();
}

/// The panel's lower face, in its drawing.
const geometry::Polygon& lower_face(const Outline& shape) {
    return shape.frame.normal.z() < 0 ? shape.face_b : shape.face_a;
}

/// How wide a strip along a line lies under the panel, in the mean.
double width_under(const Outline& shape, const std::vector<Vec2>& line, double strip_mm) {
    std::vector<geometry::Polygon> strips;
    for (std::size_t i = 0; i + 1 < line.size(); ++i) {
        const Vec2 way = line[i + 1] - line[i];
        if (way.norm() < 1e-6) continue;
        const Vec2 off = strip_mm / 2 * Vec2(-way.y(), way.x()).normalized();
        strips.push_back({{line[i] - off, line[i + 1] - off, line[i + 1] + off, line[i] + off}, {}});
    }
    const double length = geometry::length_mm(line, false);
    if (strips.empty() || length <= 0) return 0;
    const auto under = geometry::intersect(geometry::unite(strips, {}), {lower_face(shape)});
    return geometry::total_area_mm2(under) / length;
}

/// What is taken off the panel's edge in its plane, at its widest.
double widest_gap_mm(const PieceSpec& spec, const Outline& shape, int edge) {
    double out = spec.edges[static_cast<std::size_t>(edge)].taken_off_mm();
    for (const EdgeMark& mark : shape.marks)
        if (mark.kept && mark.edge == edge) out = std::max(out, mark.gap_mm);
    return out;
}

double distance_to(const std::vector<Vec2>& line, const Vec2& p) {
    double best = HUGE_VAL;
    for (std::size_t i = 0; i + 1 < line.size(); ++i)
        best = std::min(best, geometry::distance_to_segment_mm(p, line[i], line[i + 1]));
    return best;
}

double distance_to(const std::vector<Bearing>& lines, const Vec2& p) {
    double best = HUGE_VAL;
    for (const Bearing& b : lines) best = std::min(best, distance_to(b.line, p));
    return best;
}

/// How far under the panel's lower face a place lies; the face is the one that looks down.
double below(const Outline& shape, const Vec3& p) {
    const double behind = shape.frame.normal.dot(p - shape.frame.origin);
    return shape.frame.normal.z() < 0 ? behind - shape.thickness_mm : -behind;
}

/// Stretches of an upright piece's edges that touch the panel's under side.
void add_from_below(BearingReport& out, const Outline& shape, const Carrier& other) {
    const auto& frame = other.shape->frame;
    const Vec3 half = other.shape->thickness_mm / 2 * frame.normal;
    std::vector<Vec2> line;
    const auto close = [&] {
        const double width = width_under(shape, line, other.shape->thickness_mm);
        add(out, other.spec->name, std::move(line), width, -1, other.spec->id);
        line.clear();
    };
    const auto& ring = other.shape->face_a.outer;
    for (std::size_t i = 0; i < ring.size(); ++i) {
        const Vec3 a = frame.to_space(ring[i]) + half, b = frame.to_space(ring[(i + 1) % ring.size()]) + half;
        const bool touches = std::abs(below(shape, a)) < touch_mm && std::abs(below(shape, b)) < touch_mm;
        const Vec2 pa = shape.frame.to_plane(a), pb = shape.frame.to_plane(b);
        if (!touches || !geometry::contains(shape.face_a.outer, (pa + pb) / 2)) {
            close();
            continue;
        }
        if (line.empty()) line.push_back(pa);
        line.push_back(pb);
    }
    close();
}

/// The path of a ledge along the middle of its upper face.
std::vector<Vec3> top_of(const Obstacle& ledge) {
    std::vector<Vec3> out = ledge.path;
    for (Vec3& p : out) p.z() += ledge.height_mm / 2;
    return out;
}

/// Stretches of a ledge's upper face that touch the panel's under side.
void add_ledge(BearingReport& out, const Outline& shape, const Obstacle& ledge) {
    constexpr double step_mm = 10;
    std::vector<Vec2> line;
    const auto close = [&] {
        const double width = width_under(shape, line, ledge.width_mm);
        if (auto* made = add(out, ledge.name, std::move(line), width)) made->obstacle_id = ledge.id;
        line.clear();
    };
    const auto under = [&](const Vec2& q) { return geometry::contains(lower_face(shape), q); };
    const auto top = top_of(ledge);
    for (std::size_t i = 0; i + 1 < top.size(); ++i) {
        const Vec3 way = top[i + 1] - top[i];
        const int steps = std::max(1, static_cast<int>(way.norm() / step_mm));
        for (int k = 0; k <= steps; ++k) {
            const Vec3 p = top[i] + way * k / steps;
            const Vec2 at = shape.frame.to_plane(p);
            // Its middle may lie beyond the panel's edge, and its inner half under it.
            const Vec2 flat = shape.frame.to_plane(p + way) - at;
            const Vec2 off = 0.49 * ledge.width_mm * Vec2(-flat.y(), flat.x()).normalized();
            const bool touches =
                std::abs(below(shape, p)) < touch_mm && (under(at) || under(at + off) || under(at - off));
            if (touches) line.push_back(at);
            else close();
        }
    }
    close();
}

/// Of a lift-out: its outline as far as it runs along the edge or an opening of a panel at its own height.
void add_landing(BearingReport& out, const Outline& shape, const Carrier& other, double wide_mm) {
    constexpr double step_mm = 20;
    const auto& frame = other.shape->frame;
    if (std::abs(frame.normal.dot(shape.frame.origin - frame.origin)) > touch_mm) return;
    std::vector<std::vector<Vec2>> rims;
    const auto add_rim = [&](const geometry::Ring& ring) {
        auto& rim = rims.emplace_back();
        for (const Vec2& p : ring) rim.push_back(shape.frame.to_plane(frame.to_space(p)));
        rim.push_back(rim.front());
    };
    add_rim(other.shape->face_a.outer);
    for (const auto& hole : other.shape->face_a.holes) add_rim(hole);
    const auto lands = [&](const Vec2& p) {
        return std::any_of(rims.begin(), rims.end(), [&](const auto& rim) { return distance_to(rim, p) < lip_mm; });
    };
    std::vector<Vec2> line;
    const auto close = [&] {
        // The lip begins at the opening's rim; the lift-out ends a clearance short of it.
        double clear = 0;
        for (const Vec2& p : line) {
            double nearest = HUGE_VAL;
            for (const auto& rim : rims) nearest = std::min(nearest, distance_to(rim, p));
            clear = std::max(clear, nearest);
        }
        add(out, "landing lip under " + other.spec->name, std::move(line), wide_mm - clear);
        line.clear();
    };
    const auto& ring = shape.face_a.outer;
    for (std::size_t i = 0; i < ring.size(); ++i) {
        const Vec2 a = ring[i], way = ring[(i + 1) % ring.size()] - a;
        const int steps = std::max(1, static_cast<int>(way.norm() / step_mm));
        for (int k = 0; k <= steps; ++k) {
            const Vec2 p = a + way * k / steps;
            if (lands(p)) line.push_back(p);
            else close();
        }
    }
    close();
}

/// Whether bearings run along more than half of a line.
bool mostly_carried(const BearingReport& report, const std::vector<Vec2>& line, double near_mm) {
    constexpr double step_mm = 20;
    double carried = 0, all = 0;
    for (std::size_t i = 0; i + 1 < line.size(); ++i) {
        const Vec2 way = line[i + 1] - line[i];
        const int steps = std::max(1, static_cast<int>(way.norm() / step_mm));
        for (int k = 0; k < steps; ++k) {
            all += way.norm() / steps;
            if (distance_to(report.lines, line[i] + (k + 0.5) / steps * way) < near_mm) carried += way.norm() / steps;
        }
    }
    return carried > all / 2;
}

bool glued_long(JointKind kind) {
    return kind == JointKind::scarf || kind == JointKind::butt_strap || kind == JointKind::half_lap;
}

/// The stretches of a joint's line within the panel, as places a step apart.
std::vector<Vec2> places_along(const JointSpec& joint, const geometry::Polygon& face) {
    constexpr int steps = 80;
    const auto box = geometry::bounding_box(face.outer);
    std::vector<Vec2> out;
    for (int k = 0; k < steps; ++k) {
        const double share = (k + 0.5) / steps;
        const Vec2 p = joint.upright ? Vec2(joint.at_mm, box.min.y() + share * box.height())
                                     : Vec2(box.min.x() + share * box.width(), joint.at_mm);
        if (geometry::contains(face, p)) out.push_back(p);
    }
    return out;
}

void find_joints_in_air(BearingReport& out, const Outline& shape) {
    for (std::size_t k = 0; k < shape.joints.size(); ++k) {
        if (glued_long(shape.joints[k].kind)) continue;
        const auto places = places_along(shape.joints[k], shape.face_a);
        const auto held = std::count_if(places.begin(), places.end(),
                                        [&](const Vec2& p) { return distance_to(out.lines, p) < under_joint_mm; });
        if (static_cast<double>(held) * 3 < 2 * static_cast<double>(places.size()))
            out.joints_in_air.push_back(static_cast<int>(k));
    }
}

void find_span(BearingReport& out, const Outline& shape) {
    const auto box = geometry::bounding_box(shape.face_a.outer);
    const double step = std::max(5.0, std::max(box.width(), box.height()) / grid_places);
    const auto try_at = [&](const Vec2& p) {
        const double span = out.lines.empty() ? 0 : 2 * distance_to(out.lines, p);
        if (span > out.span_mm) out.span_mm = span, out.span_at = p;
    };
    for (double x = box.min.x() + step / 2; x < box.max.x(); x += step)
        for (double y = box.min.y() + step / 2; y < box.max.y(); y += step)
            if (geometry::contains(shape.face_a, {x, y})) try_at({x, y});
    // What sticks out farthest is a corner.
    for (const Vec2& p : shape.face_a.outer) try_at(p);
    for (double closer = step / 2; closer > 1; closer /= 2)
        for (const Vec2& way : {Vec2(1, 0), Vec2(-1, 0), Vec2(0, 1), Vec2(0, -1)})
            if (const Vec2 p = out.span_at + closer * way; geometry::contains(shape.face_a, p)) try_at(p);
}

}  // namespace

bool lies_level(const Outline& shape) {
    return std::abs(shape.frame.normal.z()) > 0.9;
}

bool lies_on(const Obstacle& ledge, const geometry::Plane& face_a, double thickness_mm) {
    if (!ledge.carries || std::abs(face_a.normal.z()) <= 0.9) return false;
    const auto top = top_of(ledge);
    return !top.empty() && std::all_of(top.begin(), top.end(), [&](const Vec3& p) {
        const double behind = face_a.normal.dot(p) - face_a.d_mm;
        return (face_a.normal.z() < 0 ? behind - thickness_mm : -behind) > -touch_mm;
    });
}

BearingReport bearing_of(const PieceSpec& spec, const Outline& shape, const std::vector<Carrier>& others,
                         const BearingOptions& options) {
    BearingReport out;
    if (!lies_level(shape)) return out;
    const auto cleat = [&](int edge) { return options.cleat_mm - widest_gap_mm(spec, shape, edge); };
    for (const Edge& edge : shape.edges_a) {
        if (edge.spec < 0 || (edge.source != EdgeSource::scribed && edge.source != EdgeSource::straight)) continue;
        const EdgeSpec& of = spec.edges[static_cast<std::size_t>(edge.spec)];
        if (of.kind == EdgeKind::scribed)
            add(out, "cleats on " + of.name, stretch_of(shape.face_a.outer, edge),
                cleat(edge.spec) - (options.layers_mm ? options.layers_mm(edge.spec) : 0), edge.spec);
        if (of.kind != EdgeKind::piece || of.meeting != Meeting::stops) continue;
        for (const Carrier& other : others)
            if (other.spec->id == of.piece_id)
                add(out, "cleats on " + other.spec->name, stretch_of(shape.face_a.outer, edge), cleat(edge.spec),
                    edge.spec);
    }
    for (const Carrier& other : others) {
        if (!other.shape || other.spec->id == spec.id) continue;
        if (!lies_level(*other.shape)) add_from_below(out, shape, other);
        else if (spec.removable) add_landing(out, shape, other, options.lip_mm);
    }
    for (const Obstacle& ledge : options.ledges) add_ledge(out, shape, ledge);
    for (const Edge& edge : shape.edges_a) {
        if (edge.spec < 0 || edge.source == EdgeSource::limber) continue;
        if (!mostly_carried(out, stretch_of(shape.face_a.outer, edge), 3 * shape.thickness_mm))
            out.free_edges.push_back(edge.spec);
    }
    find_joints_in_air(out, shape);
    find_span(out, shape);
    return out;
}

}  // namespace bevelsmith::piece
