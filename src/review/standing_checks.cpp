// Checks of what stands already and what is made to meet it: what leans on parts that go, how wide panels lie, how a
// panel is made, holes that are drilled, trial patterns.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "job/offering_up.h"
#include "piece/lid.h"
#include "review/checks.h"

namespace bevelsmith::review {
namespace {

const job::JobPiece* going(const job::Job& job, const std::string& id) {
    const auto* other = id.empty() ? nullptr : job::find_piece(job, id);
    return other && !piece::is_in_finished(other->role) ? other : nullptr;
}

/// A divider that lies under a panel with all its thickness carries as well as it can.
bool whole_divider(const Subject& s, const piece::Bearing& line) {
    const auto* under = line.piece_id.empty() ? nullptr : s.results.piece(line.piece_id);
    return under && under->shape() && line.width_mm > 0.9 * under->shape()->thickness_mm;
}

double to_edge_mm(const piece::Outline& shape, const Vec2& p) {
    double out = HUGE_VAL;
    const auto along = [&](const geometry::Ring& ring) {
        for (std::size_t i = 0; i < ring.size(); ++i)
            out = std::min(out, geometry::distance_to_segment_mm(p, ring[i], ring[(i + 1) % ring.size()]));
    };
    along(shape.face_a.outer);
    for (const auto& hole : shape.face_a.holes) along(hole);
    return geometry::contains(shape.face_a, p) ? out : -out;
}

std::string hole_words(const piece::Drilled& hole) {
    return fmt::format("hole {} of '{}', {:g} mm", hole.number, hole.pattern, hole.diameter_mm);
}

/// Of holes that stand already: another piece's, there or going back, near enough to be met by the same drill.
void meets_old_hole(const Subject& s, const piece::Drilled& hole, Findings& out) {
    constexpr double same_mm = 1, through_mm = 60;
    const Vec3 n = s.shape.frame.normal, at = s.shape.frame.to_space(hole.at);
    for (std::size_t i = 0; i < s.job.pieces.size(); ++i) {
        const auto& other = s.job.pieces[i];
        const auto* shape = s.results.pieces[i].shape();
        if (other.id == s.piece.id || piece::is_made(other.role) || !shape) continue;
        // Holes that go on into it are the same ones.
        const bool mate = std::any_of(s.piece.patterns.begin(), s.piece.patterns.end(),
                                      [&](const auto& on) { return on.mate_id == other.id; });
        for (const auto& old : other.holes) {
            if (mate && old.pattern == hole.pattern && old.number == hole.number) continue;
            const Vec3 way = shape->frame.to_space(old.at) - at;
            const double deep = n.dot(way), beside = (way - deep * n).norm();
            if (std::abs(deep) > through_mm || beside > (hole.diameter_mm + old.diameter_mm) / 2 + 3) continue;
            const bool same = beside <= same_mm && std::abs(old.diameter_mm - hole.diameter_mm) <= same_mm;
            add(out, CheckId::hole_placed_badly, same ? Severity::note : Severity::mind, s.piece.id,
                fmt::format("{} meets an old hole of {}", hole_words(hole), other.name),
                fmt::format("{:.1f} mm beside {}", beside, hole_words(old)),
                same ? "Use the old hole again."
                     : "Plug the old hole and let it harden before drilling, or move the pattern.");
        }
    }
}

void meets_obstacle(const Subject& s, const piece::Drilled& hole, Findings& out) {
    constexpr double drill_runs_on_mm = 30;
    geometry::PlaneFrame before = s.shape.frame;
    before.origin -= drill_runs_on_mm * before.normal;
    for (const auto& obstacle : s.job.obstacles) {
        if (!piece::is_in_finished(obstacle.role)) continue;
        const auto room = piece::room_for(obstacle, before, s.shape.thickness_mm + 2 * drill_runs_on_mm);
        if (std::none_of(room.begin(), room.end(), [&](const auto& r) { return geometry::contains(r, hole.at); }))
            continue;
        add(out, CheckId::hole_placed_badly, Severity::stop, s.piece.id,
            fmt::format("{} is drilled towards {}", hole_words(hole), obstacle.name),
            fmt::format("it lies within {:.0f} mm of the panel there", drill_runs_on_mm),
            "Move the pattern, or stop the drill at the panel's thickness.");
    }
}

}  // namespace

void leans_on_what_goes(const job::Job& job, const job::JobPiece& piece, Findings& out) {
    if (!piece::is_made(piece.role)) return;
    if (piece.beside)
        if (const auto* other = going(job, piece.beside->piece_id); other && other->until != piece.id)
            add(out, CheckId::leans_on_what_goes, Severity::mind, piece.id,
                fmt::format("{} is measured from {}, which comes out", piece.name, other->name),
                "its plane lies beside that one's, and nobody has said that it stands until this one is in",
                fmt::format("Say of {} in Pieces that it stands until {} is fixed.", other->name, piece.name));
    for (const auto& edge : piece.edges) {
        const auto* other = edge.kind == piece::EdgeKind::piece ? going(job, edge.piece_id) : nullptr;
        if (other)
            add(out, CheckId::leans_on_what_goes, Severity::stop, piece.id,
                fmt::format("{} ends at {}, which comes out", piece.name, other->name),
                fmt::format("its edge '{}' will meet nothing", edge.name),
                "Let it end at what takes that one's place.");
        const auto surface = std::find_if(job.surfaces.begin(), job.surfaces.end(),
                                          [&](const auto& one) { return one.id == edge.surface_id; });
        if (edge.kind == piece::EdgeKind::scribed && surface != job.surfaces.end() &&
            !piece::is_in_finished(surface->role))
            add(out, CheckId::leans_on_what_goes, Severity::stop, piece.id,
                fmt::format("{} is scribed to {}, which comes out", piece.name, surface->name),
                fmt::format("its edge '{}' will meet what is behind that", edge.name),
                "Read what is behind it once it is out, or scribe this edge to another surface.");
    }
}

void bearing_too_narrow(const Subject& s, Findings& out) {
    if (!s.result.bearing) return;
    const double least = s.job.comfort.bearing_mm;
    for (const auto& line : s.result.bearing->lines) {
        // Cleats are still to be made, and made as wide as it takes: that is told, not found.
        if (line.edge >= 0 || line.width_mm >= least - 0.05 || whole_divider(s, line)) continue;
        add(out, CheckId::bearing_too_narrow, Severity::mind, s.piece.id,
            fmt::format("{} lies too narrow on {}", s.piece.name, line.what),
            fmt::format("{:.1f} mm wide once lining and gap are off; {:.0f} mm are wanted", line.width_mm, least),
            "Put the ledge before the lining, make it wider, or let the panel reach farther.");
    }
}

void skins_unequal(const Subject& s, Findings& out) {
    if (stock::is_balanced(s.piece.layup)) return;
    add(out, CheckId::skins_unequal, Severity::mind, s.piece.id,
        fmt::format("The skins of {} are not alike", s.piece.name),
        fmt::format("{:.1f} mm on face A, {:.1f} mm on face B", stock::skin_of(s.piece.layup.face_a).thickness_mm,
                    stock::skin_of(s.piece.layup.face_b).thickness_mm),
        "Give both faces the same plies: unequal ones pull a panel hollow as they cure. It takes the shape of the "
        "bench that it is made on, so that has to be flat.");
}

namespace {

/// Holes that are to go on into a piece which is gone, or does not lie face to face with this one.
void has_no_mate(const Subject& s, Findings& out) {
    for (const auto& on : s.piece.patterns) {
        if (on.mate_id.empty()) continue;
        const auto* mate = job::find_piece(s.job, on.mate_id);
        const bool facing =
            mate && !piece::drilled_in_mate({piece::Drilled{}}, geometry::upright_frame(s.piece.plane),
                                            geometry::upright_frame(mate->plane), on.mate_kind)
                         .empty();
        if (facing && mate->id != s.piece.id) continue;
        add(out, CheckId::hole_placed_badly, Severity::mind, s.piece.id,
            fmt::format("Holes of {} go on into nothing", s.piece.name),
            mate ? fmt::format("{} does not lie face to face with it", mate->name)
                 : fmt::format("the piece '{}' is gone", on.mate_id),
            "Say in its pattern which piece they go on into, or none.");
    }
}

}  // namespace

void holes_placed_badly(const Subject& s, Findings& out) {
    has_no_mate(s, out);
    for (const auto& hole : s.piece.holes) {
        const double wood = to_edge_mm(s.shape, hole.at) - hole.diameter_mm / 2;
        if (wood < hole.diameter_mm)
            add(out, CheckId::hole_placed_badly, wood < 0 ? Severity::stop : Severity::mind, s.piece.id,
                fmt::format("{} lies {} the edge", hole_words(hole), wood < 0 ? "on or beyond" : "close to"),
                fmt::format("{:.1f} mm of wood beside it; as much as it is wide is wanted", std::max(0.0, wood)),
                "Move the pattern, or take a smaller fastening.");
        meets_old_hole(s, hole, out);
        meets_obstacle(s, hole, out);
    }
}

void edges_too_thin(const Subject& s, Findings& out) {
    constexpr double edge_distance_mm = 8;  // of a trim's screws (common practice)
    for (std::size_t e = 0; e < s.piece.edges.size(); ++e) {
        const auto& edge = s.piece.edges[e];
        const double least = piece::least_lipping_mm(edge);
        if (edge.lipping_mm > 0 && edge.planing_mm + edge.round_mm > 0 && edge.lipping_mm < least)
            add(out, CheckId::edge_too_thin, Severity::mind, s.piece.id,
                fmt::format("The lipping of '{}' is thinner than what comes off it", edge.name),
                fmt::format(
                    "{:.1f} mm; {:.1f} mm are planed off and {:.1f} mm rounded, with a little to spare {:.1f} mm",
                    edge.lipping_mm, edge.planing_mm, edge.round_mm, least),
                "Take a wider lipping, or round the arris less.");
        if (edge.trim_mm <= 0) continue;
        double gap = edge.taken_off_mm();
        for (const auto& mark : s.shape.marks)
            if (mark.kept && mark.edge == static_cast<int>(e)) gap = std::max(gap, mark.gap_mm);
        // A countersunk head is twice as wide as its shank (common practice).
        const double wanted =
            piece::trim_width_mm(gap, edge_distance_mm, stock::screw_shank_mm(s.job.fixing_rules.screw_gauge));
        if (edge.trim_mm >= wanted) continue;
        add(out, CheckId::edge_too_thin, Severity::mind, s.piece.id,
            fmt::format("The trim over '{}' is narrow", edge.name),
            fmt::format("{:.0f} mm; a gap of {:.1f} mm with screws on both sides of it wants {:.1f} mm", edge.trim_mm,
                        gap, wanted),
            "Take a wider trim, or screw it on one side only.");
    }
}

void lids_too_loose(const Subject& s, Findings& out) {
    const double kerf = s.job.cutting.tool == job::Tool::router ? s.job.cutting.cutter_mm : s.job.cutting.kerf_mm;
    for (const auto& o : s.piece.openings) {
        if (o.lid != piece::LidFrom::own_opening) continue;
        const auto lid = piece::own_lid(o.lid_clearance_mm, kerf, s.job.coating.film_mm);
        if (lid.planed_mm < -0.1)
            add(out, CheckId::lid_too_loose, Severity::mind, s.piece.id,
                fmt::format("The lid of '{}' comes out loose", o.name),
                fmt::format(
                    "the saw takes {:.1f} mm, coats give back {:.1f} mm: {:.1f} mm a side instead of {:.1f} mm",
                    lid.saw_mm, lid.coats_mm, lid.saw_mm - lid.coats_mm, o.lid_clearance_mm),
                "Take a thinner blade, lip the lid's edge, or cut it from another part of the sheet.");
        if (!piece::can_be_plunged(o))
            add(out, CheckId::lid_too_loose, Severity::mind, s.piece.id,
                fmt::format("'{}' has no straight side for the saw to plunge into", o.name),
                "its lid is what is cut out: a hole to begin in would stay in it",
                "Give it straight sides, or cut the lid from another part of the sheet.");
    }
}

void pattern_advised(const Subject& s, Findings& out) {
    if (!job::wants_pattern(s.piece, s.result)) return;
    add(out, CheckId::pattern_advised, Severity::note, s.piece.id,
        fmt::format("A trial pattern is worth its sheet for {}", s.piece.name),
        fmt::format("one cut in twenty is off by more than {:.1f} mm somewhere; {:.1f} mm are wanted",
                    s.result.forecast->now.likely_largest_mm, s.piece.wanted_fit_mm),
        "Take more readings, or cut it first in thin sheet, offer that up, and type in Pieces what daylight it "
        "shows.");
}

}  // namespace bevelsmith::review
