#include "job/mending.h"

#include <fmt/format.h>

#include <algorithm>

#include "job/in_full.h"
#include "job/kept_sides.h"
#include "units/quantity.h"
#include "units/ranges.h"

namespace bevelsmith::job {
namespace {

bool stop_at(Job& job, const Mending& m) {
    const Job full = in_full(job);
    const JobPiece* other = find_piece(full, m.other);
    if (!other) return false;
    return change_piece(job, m.piece_id, [&](JobPiece& p) {
        piece::EdgeSpec edge;
        edge.kind = piece::EdgeKind::piece;
        edge.piece_id = m.other;
        edge.name = "at " + other->name;
        if (m.at) p.at = m.at;
        p.edges.push_back(std::move(edge));
        settle_sides(p, full);
    });
}

/// The surface that mirrors `of`, made where there is none.
std::string mirrored_surface(Job& job, const std::string& of) {
    for (const auto& set : job.readings)
        if (set.school == survey::School::mirrored && set.mirror_of == of) return set.surface_id;
    const auto read =
        std::find_if(job.surfaces.begin(), job.surfaces.end(), [&](const auto& s) { return s.id == of; });
    if (read == job.surfaces.end()) return {};
    std::vector<std::string> ids;
    for (const auto& s : job.surfaces) ids.push_back(s.id);
    SurfaceSpec made = *read;
    made.id = free_id("S", ids);
    made.name += ", other side";
    if (made.inside) made.inside->y() *= -1;
    survey::ReadingSet set = survey::usual_set(survey::School::mirrored);
    set.name = "Mirrored from " + read->name;
    set.mirror_of = of;
    set.surface_id = made.id;
    job.surfaces.push_back(made);
    add_readings(job, set);
    return made.id;
}

bool mirrored_start(Job& job, const Mending& m) {
    const Job before = job;
    const std::string surface = mirrored_surface(job, m.other);
    const bool done = !surface.empty() && change_piece(job, m.piece_id, [&](JobPiece& p) {
        for (auto& edge : p.edges)
            if (edge.kind == piece::EdgeKind::scribed && edge.surface_id == m.other) edge.surface_id = surface;
    });
    if (!done) job = before;
    return done;
}

bool wider_gap(Job& job, const Mending& m) {
    const Job full = in_full(job);
    const JobPiece* piece = find_piece(full, m.piece_id);
    const bool there = piece && m.edge >= 0 && m.edge < static_cast<int>(piece->edges.size()) &&
                       units::range::gap.holds(piece->edges[static_cast<std::size_t>(m.edge)].gap_mm + m.mm);
    return there && change_piece(job, m.piece_id,
                                 [&](JobPiece& p) { p.edges[static_cast<std::size_t>(m.edge)].gap_mm += m.mm; });
}

/// Only into a piece that is whole: which of two parts a second joint would divide nobody has said.
bool let_in(Job& job, const Mending& m) {
    const Job full = in_full(job);
    const JobPiece* piece = find_piece(full, m.piece_id);
    return piece && m.joint && piece->joints.empty() &&
           change_piece(job, m.piece_id, [&](JobPiece& p) { p.joints.push_back(*m.joint); });
}

/// Whether all readings of a surface lie to one side of the centre line: 1 port, -1 starboard, 0 both or none.
int side_read(const Job& job, const std::string& surface) {
    const auto sets = readings_in_boat(job);
    const auto points = sets ? survey::points_of(*sets, surface) : Result<std::vector<survey::Point>>(sets.error());
    if (!points || points->empty()) return 0;
    const auto port = std::count_if(points->begin(), points->end(), [](const auto& p) { return p.position.y() > 0; });
    constexpr double nearly_all = 0.9;
    const double share = static_cast<double>(port) / static_cast<double>(points->size());
    return share > nearly_all ? 1 : share < 1 - nearly_all ? -1 : 0;
}

}  // namespace

std::string words(const Mending& m, const Job& full) {
    if (m.kind == Mending::Kind::mirrored_start) return "Start with the other side mirrored";
    const JobPiece* piece = find_piece(full, m.piece_id);
    if (m.kind == Mending::Kind::wider_gap)
        return fmt::format("Take it, {} more gap there", units::format_length(m.mm, full.unit));
    if (m.kind == Mending::Kind::let_in)
        return fmt::format("Take it, a patch of {} let in", units::format_length(m.mm, full.unit));
    const JobPiece* other = find_piece(full, m.other);
    const std::string in_full =
        fmt::format("Let {} stop at {}", piece ? piece->name : m.piece_id, other ? other->name : m.other);
    // A button in a column has no more room.
    constexpr std::size_t longest = 38;
    return in_full.size() <= longest ? in_full : fmt::format("Let {} stop at {}", m.piece_id, m.other);
}

bool mend(Job& job, const Mending& m) {
    switch (m.kind) {
        case Mending::Kind::stop_at: return stop_at(job, m);
        case Mending::Kind::mirrored_start: return mirrored_start(job, m);
        case Mending::Kind::wider_gap: return wider_gap(job, m);
        case Mending::Kind::let_in: return let_in(job, m);
    }
    return false;
}

std::string unread_side(const Job& full, const JobPiece& piece) {
    constexpr double off_centre_mm = 20;
    if (!piece.at || std::abs(piece.at->y()) < off_centre_mm) return {};
    for (const auto& edge : piece.edges)
        if (edge.kind == piece::EdgeKind::scribed && side_read(full, edge.surface_id) * piece.at->y() < 0)
            return edge.surface_id;
    return {};
}

}  // namespace bevelsmith::job
