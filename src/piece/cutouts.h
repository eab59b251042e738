// What is cut out of a face where its limits have met and before its openings: notches, ways for what stands in the
// boat and for pieces that cross, drains.
#pragma once

#include <string>
#include <vector>

#include "piece/crossing.h"

namespace bevelsmith::piece {

struct Cutout {
    geometry::Polygon shape;
    EdgeSource source = EdgeSource::notch;
    int spec = -1;                              ///< index into what it comes from
    std::string name;                           ///< "toe space"
    std::string what;                           ///< "the notch 'toe space'"
    bool may_lie_within = false;                ///< as a hole; else it must reach the edge
    std::vector<CrossingCut::Wall> walls = {};  ///< that are sawn at a bevel of their own
};

/// A face before anything is cut into it, and face A likewise, which halved crossings are measured on.
struct Uncut {
    const geometry::Polygon& face;
    const geometry::Polygon& face_a;
    bool is_a = true;
};

/// All cut-outs of a face, as far as they meet it; each stretch that they will make is named by its source. Drains
/// are not among them: they need the outline that the others leave.
std::vector<Cutout> cutouts_of(const PieceSpec& spec, const geometry::PlaneFrame& frame, double thickness_mm,
                               const Uncut& uncut, const Around& around);

/// The drains of what is left.
std::vector<Cutout> drains_of(const PieceSpec& spec, const geometry::Polygon& face);

/// `face` without it. Fails where that leaves nothing, cuts the piece apart, or lies within where it must not.
Result<geometry::Polygon> cut_out(const PieceSpec& spec, const geometry::Polygon& face, const Cutout& cutout);

}  // namespace bevelsmith::piece
