#include "job/kept_sides.h"

#include <algorithm>

#include "job/in_full.h"
#include "piece/limits.h"

namespace bevelsmith::job {
namespace {

bool is_open(const piece::EdgeSpec& edge) {
    return edge.kind == piece::EdgeKind::piece && edge.kept == piece::KeptSide::by_place;
}

bool any_open(const JobPiece& piece) {
    return piece.at && std::any_of(piece.edges.begin(), piece.edges.end(), is_open);
}

}  // namespace

void settle_sides(JobPiece& piece, const Job& full) {
    for (auto& edge : piece.edges) {
        if (!is_open(edge)) continue;
        if (const auto* other = find_piece(full, edge.piece_id)) {
            const auto they = neighbour_of(full, *other);
            edge.kept = piece::kept_side(piece, edge, they.plane, they.thickness_mm);
        }
    }
}

void settle_sides(Job& job) {
    if (std::none_of(job.pieces.begin(), job.pieces.end(), any_open)) return;
    const Job full = in_full(job);
    for (auto& piece : job.pieces)
        if (any_open(piece)) settle_sides(piece, full);
}

std::string side_in_words(piece::KeptSide kept, const geometry::Plane& other) {
    if (kept == piece::KeptSide::by_place) return {};
    const Vec3 way = kept == piece::KeptSide::beyond_b ? other.normal : Vec3(-other.normal);
    Eigen::Index axis = 0;
    way.cwiseAbs().maxCoeff(&axis);
    const bool plus = way[axis] > 0;
    return axis == 0   ? (plus ? "forward of it" : "abaft it")
           : axis == 1 ? (plus ? "to port of it" : "to starboard of it")
                       : (plus ? "over it" : "under it");
}

}  // namespace bevelsmith::job
