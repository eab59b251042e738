#include "piece/relief.h"

#include <algorithm>
#include <cmath>

namespace bevelsmith::piece {
namespace {

/// The bevel of an edge where a point of face A or B lies.
double bevel_at(const Outline& shape, const Edge& edge, Face face, const Vec2& at) {
    if (edge.source != EdgeSource::scribed) return edge.bevel_rad;
    const EdgeMark* nearest = nullptr;
    double least = HUGE_VAL;
    for (const EdgeMark& mark : shape.marks) {
        const double off = ((face == Face::a ? mark.a : mark.b) - at).squaredNorm();
        if (mark.edge == edge.spec && off < least) least = off, nearest = &mark;
    }
    return nearest ? nearest->bevel_rad : 0;
}

std::vector<Vec2> stretch_of(const geometry::Ring& ring, const Edge& edge) {
    const std::size_t first = static_cast<std::size_t>(edge.first), last = static_cast<std::size_t>(edge.last);
    std::vector<Vec2> out{ring[first]};
    for (std::size_t i = first; i != last;) out.push_back(ring[i = (i + 1) % ring.size()]);
    return out;
}

Vec2 into_the_piece(const std::vector<Vec2>& line, std::size_t i) {
    const Vec2 along = line[std::min(i + 1, line.size() - 1)] - line[i > 0 ? i - 1 : 0];
    return Vec2(-along.y(), along.x()).normalized();
}

}  // namespace

double relief_mm(double fillet_mm, double bevel_rad) {
    return fillet_mm / std::tan((M_PI / 2 + bevel_rad) / 2);
}

std::vector<Relief> reliefs_of(const PieceSpec& spec, const Outline& shape) {
    std::vector<Relief> out;
    for (const Face face : {Face::a, Face::b}) {
        const auto& ring = (face == Face::a ? shape.face_a : shape.face_b).outer;
        for (const Edge& edge : face == Face::a ? shape.edges_a : shape.edges_b) {
            if (edge.spec < 0 || (edge.source != EdgeSource::scribed && edge.source != EdgeSource::straight))
                continue;
            const double fillet = spec.edges[static_cast<std::size_t>(edge.spec)].fillet_mm;
            const auto line = stretch_of(ring, edge);
            if (fillet <= 0 || line.size() < 2 || edge.length_mm < 1) continue;
            Relief relief{edge.spec, face, 0, {}};
            for (std::size_t i = 0; i < line.size(); ++i) {
                const double bevel = bevel_at(shape, edge, face, line[i]);
                const double in = relief_mm(fillet, face == Face::a ? bevel : -bevel);
                relief.most_mm = std::max(relief.most_mm, in);
                relief.line.push_back(line[i] + in * into_the_piece(line, i));
            }
            out.push_back(std::move(relief));
        }
    }
    return out;
}

}  // namespace bevelsmith::piece
