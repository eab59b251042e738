#include <fmt/format.h>

#include <algorithm>

#include "furniture/kinds.h"
#include "job/in_full.h"
#include "piece/beam_ends.h"
#include "piece/clash.h"
#include "piece/features.h"
#include "piece/hole_rows.h"
#include "piece/joints.h"
#include "piece/limits.h"
#include "piece/meeting_line.h"
#include "review/checks.h"

namespace bevelsmith::review {

void carried(const Subject& s, Findings& out) {
    if (!s.result.bearing) return;
    const auto& bearing = *s.result.bearing;
    if (bearing.lines.empty()) {
        add(out, CheckId::carried_by_nothing, Severity::stop, s.piece.id,
            fmt::format("Nothing carries {}", s.piece.name),
            "no edge of it meets a surface or another piece, and nothing stands under it",
            "Let an edge stop at a bulkhead or at the hull, or set a divider under it.");
        return;
    }
    const auto* unit = job::unit_of(s.job, s.piece.id);
    const bool walked_on =
        s.piece.kind == "sole panel" || (unit && furniture::kind_of(*unit).use == furniture::Use::walking);
    const double ratio = walked_on ? s.job.comfort.sole_span : s.job.comfort.seat_span;
    const double most = ratio * s.shape.thickness_mm;
    if (bearing.span_mm <= most) return;
    add(out, CheckId::span_too_wide, Severity::mind, s.piece.id,
        fmt::format("{} spans wide for its thickness", s.piece.name),
        fmt::format("clear span {:.0f} mm; {:.0f} times {:.1f} mm is {:.0f} mm", bearing.span_mm, ratio,
                    s.shape.thickness_mm, most),
        "Set a divider, beam or bearer under it, or take a thicker panel. Floors and soles that carry people on "
        "passage want a designer's word.");
}

void joint_in_air(const Subject& s, Findings& out) {
    if (!s.result.bearing) return;
    for (int k : s.result.bearing->joints_in_air) {
        const auto& joint = s.shape.joints[static_cast<std::size_t>(k)];
        add(out, CheckId::joint_in_air, Severity::mind, s.piece.id,
            fmt::format("A {} of {} has nothing under it", piece::joint_word(joint.kind), s.piece.name),
            fmt::format("at {:.0f} mm {}, no divider, beam or cleat carries two thirds of it", joint.at_mm,
                        joint.upright ? "across" : "up the drawing"),
            "Move it over a divider, scarf it, or strap it.");
    }
}

void in_the_way(const Subject& s, Findings& out) {
    for (const auto& obstacle : s.job.obstacles) {
        if (obstacle.notches || !piece::reaches(obstacle, s.piece.plane, s.shape.thickness_mm)) continue;
        const auto met = geometry::intersect(piece::room_for(obstacle, s.shape.frame, s.shape.thickness_mm),
                                             {s.shape.face_a, s.shape.face_b});
        if (geometry::total_area_mm2(met) < 1) continue;
        const auto box = geometry::bounding_box(geometry::largest(met).outer);
        add(out, CheckId::in_the_way, Severity::stop, s.piece.id,
            fmt::format("{} stands where {} is to go", obstacle.name, s.piece.name),
            fmt::format("{:.0f} mm by {:.0f} mm of it, with {:.0f} mm of clearance", box.width(), box.height(),
                        obstacle.clearance_mm),
            "Let the piece be cut around it, or move one of the two.");
    }
}

void rail_too_narrow(const Subject& s, Findings& out) {
    for (std::size_t k = 0; k < s.piece.openings.size(); ++k) {
        const auto& o = s.piece.openings[k];
        if (o.rail_mm <= 0) continue;
        const double left = piece::rail_left_mm(s.piece, k, s.shape);
        if (left >= o.rail_mm - 0.05) continue;
        add(out, CheckId::rail_too_narrow, Severity::mind, s.piece.id,
            fmt::format("Too little wood around '{}'", o.name),
            fmt::format("{:.0f} mm are left, {:.0f} mm wanted all round", left, o.rail_mm),
            "Move the opening, make it smaller or the piece larger.");
    }
}

void lift_hole_too_small(const Subject& s, Findings& out) {
    if (!s.piece.removable) return;
    for (const auto& row : s.piece.rows)
        if (row.diameter_mm < piece::finger_hole_mm)
            add(out, CheckId::no_lift_hole, Severity::note, s.piece.id,
                fmt::format("A finger does not go into '{}'", row.name),
                fmt::format("{:.0f} mm holes; a finger wants {:.0f} mm", row.diameter_mm, piece::finger_hole_mm),
                "Make the holes larger, or fit a lifting ring.");
}

void no_room_to_swell(const Subject& s, Findings& out) {
    const auto* m = job::find_material(s.job, s.piece.material_id);
    if (!m || m->swelling_percent <= 0) return;
    const auto turned = geometry::transformed(s.shape.face_a.outer, -units::radians(s.piece.grain_deg), {0, 0});
    const double width = geometry::bounding_box(turned).height();
    const double grows =
        piece::swelling_mm(width, m->swelling_percent / 100, m->moisture_cut_percent, m->moisture_afloat_percent);
    for (const auto& tight : piece::too_tight(s.piece, s.shape, grows)) {
        const auto& edge = s.piece.edges[static_cast<std::size_t>(tight.edge)];
        add(out, CheckId::no_room_to_swell, Severity::mind, s.piece.id,
            fmt::format("{} has no room to swell at '{}'", s.piece.name, edge.name),
            fmt::format(
                "solid wood {:.0f} mm wide grows by {:.1f} mm from {:.0f} % to {:.0f} % of moisture; {:.1f} mm "
                "of gap here, {:.1f} mm wanted",
                width, grows, m->moisture_cut_percent, m->moisture_afloat_percent, tight.gap_mm, tight.wanted_mm),
            "Leave a larger gap, or let the grain run the other way.");
    }
}

/// Of a sole beam the depth at mid-span against its clear length along the upper edge.
void beam_too_shallow(const Subject& s, Findings& out) {
    constexpr double most_ratio = 15;  // span over depth, common practice for timber and ply beams under a sole
    if (s.piece.kind != "sole beam") return;
    const auto box = geometry::bounding_box(s.shape.face_a.outer);
    const double span = box.width();
    const auto upright = piece::spans_within(s.shape.face_a, {{box.centre().x(), box.min.y()}, {0, 1}});
    if (upright.empty()) return;
    const double depth = upright.back().to - upright.back().from;
    if (depth >= span / most_ratio) return;
    add(out, CheckId::beam_too_shallow, Severity::mind, s.piece.id,
        fmt::format("{} is shallow for its span", s.piece.name),
        fmt::format("{:.0f} mm deep in the middle of {:.0f} mm; a fifteenth is {:.0f} mm", depth, span,
                    span / most_ratio),
        "Lower it further into the bilge, double it, or carry it in the middle.");
}

namespace {

std::string place_words(const Vec3& p) {
    return fmt::format("fwd {:.0f} mm, {:.0f} mm to {}, up {:.0f} mm", p.x(), std::abs(p.y()),
                       p.y() < 0 ? "starboard" : "port", p.z());
}

const char* end_in_words(double port_mm) {
    constexpr double in_the_middle_mm = 30;
    if (std::abs(port_mm) < in_the_middle_mm) return " on the centre line";
    return port_mm < 0 ? " to starboard" : " to port";
}

}  // namespace

void beam_end_in_air(const Subject& s, Findings& out) {
    if (s.piece.kind != "sole beam") return;
    std::vector<piece::Carrier> others;
    for (std::size_t i = 0; i < s.results.pieces.size(); ++i)
        if (const auto* shape = s.results.pieces[i].shape(); shape && shape != &s.shape)
            others.push_back({&s.job.pieces[i], shape});
    for (const Vec2& end : piece::free_beam_ends(s.piece, s.shape, others))
        add(out, CheckId::beam_end_in_air, Severity::stop, s.piece.id,
            fmt::format("{} rests on nothing at its end{}", s.piece.name,
                        std::abs(s.shape.frame.u.y()) < 0.5 ? "" : end_in_words(s.shape.frame.to_space(end).y())),
            fmt::format("the end at {}: no hull, bulkhead, bearer or cleat is there",
                        place_words(s.shape.frame.to_space(end))),
            "Let the beam reach the hull or a bulkhead, or set a bearer or a cleat under its end.");
}

void mirrored_only(const Subject& s, Findings& out) {
    constexpr double shares[] = {0.08, 0.36, 0.64, 0.92};
    for (std::size_t e = 0; e < s.piece.edges.size(); ++e) {
        const auto& edge = s.piece.edges[e];
        const auto* surface = edge.kind == piece::EdgeKind::scribed ? s.results.surface(edge.surface_id) : nullptr;
        if (!surface || surface->points.empty() ||
            std::any_of(surface->points.begin(), surface->points.end(), [](const auto& p) { return p.reading >= 0; }))
            continue;
        std::vector<const piece::EdgeMark*> kept;
        for (const auto& mark : s.shape.marks)
            if (mark.kept && mark.edge == static_cast<int>(e)) kept.push_back(&mark);
        if (kept.empty()) continue;
        std::string spots;
        for (double share : shares) {
            const auto& mark = *kept[static_cast<std::size_t>(share * static_cast<double>(kept.size() - 1))];
            spots += (spots.empty() ? "" : "; ") + place_words(s.shape.frame.to_space(mark.a));
        }
        add(out, CheckId::mirrored_unchecked, Severity::mind, s.piece.id,
            fmt::format("'{}' of {} is known from the other side's readings only", edge.name, s.piece.name),
            "sides differ by 5 to 30 mm and more; read the hull at " + spots,
            "Take these check readings before it is cut; they join the mirrored ones.");
    }
}

namespace {

/// Of a piece's face the share that lies on either side of another's middle plane; the smaller of the two.
double share_beyond(const piece::Outline& piece, const piece::Outline& other) {
    const Vec3 n = other.frame.normal;
    const double d = n.dot(other.frame.origin) + other.thickness_mm / 2;
    const Vec2 side(n.dot(piece.frame.u), n.dot(piece.frame.v));
    if (side.norm() < 1e-3) return 0.5;
    const auto box = geometry::bounding_box(piece.face_a.outer);
    constexpr int steps = 24;
    int here = 0, beyond = 0;
    for (int i = 0; i < steps; ++i)
        for (int k = 0; k < steps; ++k) {
            const Vec2 q = box.min + Vec2((i + 0.5) / steps * box.width(), (k + 0.5) / steps * box.height());
            if (!geometry::contains(piece.face_a.outer, q)) continue;
            ++(n.dot(piece.frame.to_space(q)) < d ? here : beyond);
        }
    return here + beyond == 0 ? 0.5 : static_cast<double>(std::min(here, beyond)) / (here + beyond);
}

/// One stops at the other where it only reaches into or a little beyond it, and the other does not wait for it.
void offer_to_stop(const job::JobPiece& piece, const piece::Outline& shape, const job::JobPiece& other,
                   const piece::Outline& other_shape, Finding& finding) {
    constexpr double most_lost = 0.35;
    const bool waits = std::any_of(other.edges.begin(), other.edges.end(), [&](const auto& e) {
        return e.kind == piece::EdgeKind::piece && e.piece_id == piece.id;
    });
    if (waits || share_beyond(shape, other_shape) > most_lost) return;
    finding.mendings.push_back(
        {job::Mending::Kind::stop_at, piece.id, other.id, shape.frame.to_space(geometry::centroid(shape.face_a))});
}

}  // namespace

void clashes(const job::Job& job, const job::Results& results, Findings& out) {
    // A box around each, so that only those near each other are looked at.
    struct Box {
        Vec3 low = Vec3::Constant(1e9), high = Vec3::Constant(-1e9);
    };
    std::vector<Box> boxes(results.pieces.size());
    for (std::size_t i = 0; i < boxes.size(); ++i) {
        const auto* shape = results.pieces[i].shape();
        if (!shape || !piece::is_in_finished(job.pieces[i].role)) continue;
        for (const Vec2& q : shape->face_a.outer) {
            const Vec3 p = shape->frame.to_space(q), behind = p + shape->thickness_mm * shape->frame.normal;
            boxes[i].low = boxes[i].low.cwiseMin(p).cwiseMin(behind);
            boxes[i].high = boxes[i].high.cwiseMax(p).cwiseMax(behind);
        }
    }
    for (std::size_t i = 0; i < boxes.size(); ++i)
        for (std::size_t k = i + 1; k < boxes.size(); ++k) {
            // Two things that stand there already stand as they stand.
            if (!piece::is_made(job.pieces[i].role) && !piece::is_made(job.pieces[k].role)) continue;
            if ((boxes[i].low.array() > boxes[k].high.array()).any() ||
                (boxes[k].low.array() > boxes[i].high.array()).any())
                continue;
            const auto clash = piece::clash_of(*results.pieces[i].shape(), *results.pieces[k].shape());
            if (!clash) continue;
            add(out, CheckId::reaches_into_another, Severity::stop, job.pieces[k].id,
                fmt::format("{} and {} want the same place", job.pieces[k].name, job.pieces[i].name),
                fmt::format("along {:.0f} mm about {}", clash->length_mm, place_words(clash->at)),
                "Let one stop at the other, let it through by a slot, or move one of them.");
            offer_to_stop(job.pieces[k], *results.pieces[k].shape(), job.pieces[i], *results.pieces[i].shape(),
                          out.back());
            offer_to_stop(job.pieces[i], *results.pieces[i].shape(), job.pieces[k], *results.pieces[k].shape(),
                          out.back());
        }
}

void room_for_people(const job::Job& job, const job::Results& results, Findings& out) {
    for (const auto& unit : job.units) {
        const auto* result = results.unit(unit.id);
        if (!result) continue;
        const auto first = std::find_if(results.pieces.begin(), results.pieces.end(),
                                        [&](const auto& p) { return job::is_of(p.id, unit.id); });
        for (const auto& room : result->room)
            if (!room.enough() && first != results.pieces.end())
                add(out, CheckId::room_for_people, Severity::mind, first->id,
                    fmt::format("{}: {} {}", unit.name, room.name, room.at_most ? "is far" : "is small"),
                    fmt::format("{:.0f} mm; {} {:.0f} mm are wanted", room.mm, room.at_most ? "at most" : "at least",
                                room.wanted_mm),
                    "Move the unit or what it ends at, or change in Pieces what is wanted.");
    }
    for (const auto& [id, room] : results.doorways) {
        const auto* piece = job::find_piece(job, id);
        if (room.enough() || !piece) continue;
        add(out, CheckId::room_for_people, Severity::mind, id, fmt::format("{}: {} is small", piece->name, room.name),
            fmt::format("{:.0f} mm; at least {:.0f} mm are wanted", room.mm, room.wanted_mm),
            "Make the opening wider, or change in Pieces what is wanted.");
    }
}

}  // namespace bevelsmith::review
