// Copies of pieces: another one along the boat, and the other hand.
#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "job/in_full.h"
#include "piece/limits.h"

namespace bevelsmith::job {
namespace {

std::string free_piece_id(const Job& job, const std::string& like) {
    std::vector<std::string> taken;
    for (const auto& p : job.pieces) taken.push_back(p.id);
    std::string letters;
    for (char c : like)
        if (std::isalpha(static_cast<unsigned char>(c))) letters += c;
        else break;
    return free_id(letters.empty() ? "P" : letters, taken);
}

geometry::Plane turned(const geometry::Plane& plane) {
    return {plane.normal.cwiseProduct(Vec3(1, -1, 1)), plane.d_mm};
}

/// A drawing seen from the other hand: its u runs the other way.
piece::FreePoint turned(piece::FreePoint p) {
    p.at.x() = -p.at.x();
    return p;
}
template <class Box>
void turn_box(Box& b) {
    b.left_mm = -(b.left_mm + b.width_mm);
}
void turn_opening(piece::OpeningSpec& o) {
    turn_box(o);
    for (auto& p : o.line) p = turned(p);
    std::reverse(o.line.begin(), o.line.end());
}

/// An edge that stops at another piece has no such piece on the other side: it ends at the plane where it would be.
void turn_edge(piece::EdgeSpec& e, const JobPiece& before, const piece::PieceLookup& pieces,
               const std::map<std::string, std::string>& pairs) {
    if (e.kind == piece::EdgeKind::piece) {
        if (const auto like = pairs.find(e.piece_id); like != pairs.end()) {
            e.piece_id = like->second;
            return;
        }
        const auto plane = piece::end_plane(before, e, pieces);
        if (!plane) return;
        e.kind = piece::EdgeKind::plane;
        e.plane = turned(*plane);
        e.piece_id.clear();
        e.meeting = piece::Meeting::stops;
        return;
    }
    if (e.kind == piece::EdgeKind::plane) e.plane = turned(e.plane);
    if (e.kind == piece::EdgeKind::straight) e.side.x() = -e.side.x();
    for (auto& p : e.line) p = turned(p);
    // The piece stays on the line's left.
    std::reverse(e.line.begin(), e.line.end());
}

/// Planes along the boat look the other way once they are turned; the frame's u with them.
bool drawing_turns(const geometry::Plane& plane) {
    const auto before = geometry::upright_frame(plane), after = geometry::upright_frame(turned(plane));
    return before.u.cwiseProduct(Vec3(1, -1, 1)).dot(after.u) < 0;
}

/// Crossings of pieces whose like is known stay crossings of that one, and joints land on it. A half is counted from
/// the crossing's upper, forward or port end: where the two meet in a line athwartships that end is now the other.
void turn_meetings(JobPiece& made, const JobPiece& before, const Job& full,
                   const std::map<std::string, std::string>& pairs) {
    made.crossings.clear();
    for (auto cross : before.crossings) {
        const auto like = pairs.find(cross.piece_id);
        const JobPiece* other = find_piece(full, cross.piece_id);
        if (like == pairs.end() || !other) continue;
        cross.piece_id = like->second;
        const Vec3 line = before.plane.normal.cross(other->plane.normal).normalized();
        constexpr double athwart = 0.1;
        if (std::abs(line.z()) < athwart && std::abs(line.x()) < athwart && cross.how != piece::Crossing::slot)
            cross.how =
                cross.how == piece::Crossing::half_upper ? piece::Crossing::half_lower : piece::Crossing::half_upper;
        made.crossings.push_back(cross);
    }
    for (auto& on : made.patterns) {
        const auto like = pairs.find(on.mate_id);
        on.mate_id = like == pairs.end() ? std::string() : like->second;
    }
    for (auto& joint : made.joints)
        if (const auto like = pairs.find(joint.piece_id); like != pairs.end()) joint.piece_id = like->second;
}

}  // namespace

std::string copy_piece(Job& job, const std::string& piece_id, double by_mm) {
    const Job full = in_full(job);
    const JobPiece* original = find_piece(full, piece_id);
    if (!original) return {};
    JobPiece made = *original;
    made.id = free_piece_id(job, original->id);
    made.name += ", copy";
    made.through.clear();
    made.beside.reset(), made.from_mark.reset();
    // The other piece has its holes already.
    for (auto& on : made.patterns) on.mate_id.clear();
    made.stage = piece_stages[0];
    made.fittings.clear();
    const Vec3 axis =
        made.plane.normal.cwiseAbs().maxCoeff() > 0.9 ? Vec3(made.plane.normal.array().round()) : made.plane.normal;
    made.plane = geometry::placed_at(made.plane, geometry::place_mm(made.plane) + by_mm);
    if (made.at) *made.at += by_mm * axis.cwiseAbs();
    job.pieces.push_back(made);
    return made.id;
}

std::string mirror_piece(Job& job, const std::string& piece_id, const std::map<std::string, std::string>& pairs) {
    const Job full = in_full(job);
    const JobPiece* original = find_piece(full, piece_id);
    if (!original) return {};
    std::vector<piece::Neighbour> held;
    held.reserve(full.pieces.size());
    for (const auto& p : full.pieces) held.push_back(neighbour_of(full, p));
    const auto pieces = [&](const std::string& id) -> const piece::Neighbour* {
        for (std::size_t i = 0; i < full.pieces.size(); ++i)
            if (full.pieces[i].id == id) return &held[i];
        return nullptr;
    };
    JobPiece made = *original;
    made.id = free_piece_id(job, original->id);
    made.name += ", other hand";
    made.through.clear(), made.beside.reset(), made.from_mark.reset();
    turn_meetings(made, *original, full, pairs);
    made.stage = piece_stages[0];
    made.fittings.clear();
    made.plane = turned(original->plane);
    if (made.at) made.at->y() = -made.at->y();
    const bool turns = drawing_turns(original->plane);
    for (auto& e : made.edges) {
        const bool drawn = e.kind == piece::EdgeKind::straight || e.kind == piece::EdgeKind::free;
        if (!drawn || turns) turn_edge(e, *original, pieces, pairs);
    }
    if (turns) {
        for (auto& o : made.openings) turn_opening(o);
        for (auto& o : made.notches) turn_opening(o);
        for (auto& row : made.rows) turn_box(row);
        for (auto& on : made.patterns) {
            on.at.x() = -on.at.x(), on.turn_deg = 180 - on.turn_deg;
            on.mirrored = !on.mirrored;
        }
        for (auto& limber : made.limbers)
            if (limber.at_mm) limber.at_mm = -*limber.at_mm;
        for (auto& joint : made.joints)
            if (joint.upright) joint.at_mm = -joint.at_mm;
        made.grain_deg = -made.grain_deg;
    }
    job.pieces.push_back(made);
    return made.id;
}

}  // namespace bevelsmith::job
