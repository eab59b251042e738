#include "piece/put_back.h"

namespace bevelsmith::piece {

std::vector<Corner> corners_of(const Outline& outline) {
    std::vector<Corner> out;
    const auto& edges = outline.edges_a;
    const auto& ring = outline.face_a.outer;
    const auto bounds = [](const Edge& e) {
        return e.source == EdgeSource::scribed || e.source == EdgeSource::straight;
    };
    for (std::size_t i = 0; i < edges.size(); ++i) {
        const Edge &one = edges[i], &next = edges[(i + 1) % edges.size()];
        // The two sides of a limber hole are one edge of the piece.
        if (!bounds(one) || !bounds(next) || one.spec == next.spec) continue;
        const Vec2 at = ring[static_cast<std::size_t>(one.last)];
        out.push_back({one.name + " / " + next.name, at, outline.frame.to_space(at)});
    }
    return out;
}

std::vector<Tie> ties(std::span<const Vec3> marks, std::span<const Corner> corners) {
    std::vector<Tie> out;
    for (std::size_t m = 0; m < marks.size(); ++m)
        for (std::size_t c = 0; c < corners.size(); ++c)
            out.push_back({static_cast<int>(m), static_cast<int>(c), (corners[c].at - marks[m]).norm()});
    return out;
}

}  // namespace bevelsmith::piece
