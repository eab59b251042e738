// Checks of what is cut: sheets, parts cut before a change, lengths.
#include <fmt/format.h>

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "job/in_full.h"
#include "review/checks.h"
#include "sheets/nearly.h"

namespace bevelsmith::review {

void sheet_too_small(const job::Job& job, const job::Results& results, Findings& out) {
    if (results.sheets_pending) return;
    for (const auto& sheet : results.sheets)
        for (const auto& left : sheet.layout->unplaced) {
            const auto& part = sheet.problem->parts[static_cast<std::size_t>(left.part)];
            const auto box = geometry::bounding_box(part.shape.outer);
            const auto* material = job::find_material(job, sheet.material_id);
            add(out, CheckId::sheet_too_small, Severity::stop, job::piece_of_part(part.id),
                fmt::format("{} does not fit on a sheet", sheet.part_names[static_cast<std::size_t>(left.part)]),
                fmt::format("part {:.0f} x {:.0f} mm with its grain, sheet {:.0f} x {:.0f} mm: {}", box.width(),
                            box.height(), material->sheet_width_mm, material->sheet_height_mm, left.reason),
                "Add a joint, turn the grain, or get more or larger sheets.");
        }
}

void changed_since_cut(const job::Job&, const job::Results& results, Findings& out) {
    for (const auto& sheet : results.sheets)
        for (const auto& part : sheet.changed_since_cut)
            add(out, CheckId::changed_since_cut, Severity::stop, job::piece_of_part(part.part_id),
                fmt::format("{} has changed since it was cut", part.name),
                fmt::format("its outline is up to {:.1f} mm off what was cut", part.off_mm),
                "Trim it where there is wood enough, change the piece back, or cut the part anew in Cut.");
}

/// A part that was cut, and that no piece has any more: what it belonged to was changed or moved.
void cut_and_gone(const job::Job& job, const job::Results& results, Findings& out) {
    const auto belongs = [&](const std::string& part_id) {
        const std::string piece = job::piece_of_part(part_id);
        const auto* result = results.piece(piece);
        if (!result) return false;
        const auto* shape = result->shape();
        const std::string plain = part_id.substr(0, part_id.find('#'));
        // Without an outline nobody knows which parts it has.
        return !shape || std::any_of(shape->parts.begin(), shape->parts.end(),
                                     [&](const auto& part) { return part.id == plain; });
    };
    for (const auto& sheet : job.cut_sheets)
        for (const auto& part : sheet.parts) {
            if (part.part_id.empty() || belongs(part.part_id)) continue;
            add(out, CheckId::cut_and_gone, Severity::mind, {},
                fmt::format("{} is cut, and is part of nothing now", part.name.empty() ? part.part_id : part.name),
                fmt::format("it was cut from {}; a change since has taken its place away", sheet.name),
                "Undo the change, or keep the part for something else and leave this as it is.");
        }
}

namespace {

/// More is another part (common practice: what filler and trim cover).
constexpr double most_lacking_mm = 20, least_lacking_mm = 0.2;

/// Whether an edge of the piece is one that bears a gap: it is scribed, and so filled, tabbed or covered.
bool bears_a_gap(const job::JobPiece& piece) {
    return std::any_of(piece.edges.begin(), piece.edges.end(),
                       [](const auto& e) { return e.kind == piece::EdgeKind::scribed && e.lipping_mm == 0; });
}

bool is_used(const job::SheetResult& sheets, const std::string& offcut_id) {
    return std::any_of(sheets.layout->sheet_stock.begin(), sheets.layout->sheet_stock.end(),
                       [&](int stock) { return sheets.stock_names[static_cast<std::size_t>(stock)] == offcut_id; });
}

/// A side of a part as it lies, as a direction of its piece's drawing.
Vec2 drawn_way(sheets::SheetSide side, double rotation_deg, const job::JobPiece& piece, bool turned_over) {
    static const Vec2 ways[] = {{-1, 0}, {1, 0}, {0, -1}, {0, 1}};
    Vec2 way = Eigen::Rotation2Dd(-units::radians(rotation_deg)) * ways[static_cast<std::size_t>(side)];
    if (turned_over) way.x() = -way.x();
    return Eigen::Rotation2Dd(units::radians(piece.grain_deg)) * way;
}

/// An edge of the piece at its outermost place that way which bears a gap, and how much more gap takes so much off
/// there.
struct WiderThere {
    int edge = -1;
    double gap_mm = 0;
};
std::optional<WiderThere> edge_at(const job::JobPiece& piece, const piece::Outline& shape, const Vec2& way,
                                  double short_mm) {
    const auto& marks = shape.marks;
    std::size_t outermost = marks.size();
    double far = -HUGE_VAL;
    for (const Vec2& p : shape.face_a.outer) far = std::max(far, way.dot(p));
    for (std::size_t k = 0; k < marks.size(); ++k)
        if (marks[k].kept && (outermost == marks.size() || way.dot(marks[k].a) > way.dot(marks[outermost].a)))
            outermost = k;
    constexpr double there_mm = 1, least_cosine = 0.3, spare_mm = 0.3;
    if (outermost == marks.size() || way.dot(marks[outermost].a) < far - there_mm) return std::nullopt;
    const auto& edge = piece.edges[static_cast<std::size_t>(marks[outermost].edge)];
    if (edge.kind != piece::EdgeKind::scribed || edge.lipping_mm > 0) return std::nullopt;
    const Vec2 along = (marks[std::min(outermost + 1, marks.size() - 1)].a - marks[outermost - (outermost > 0)].a);
    const double cosine = along.norm() > 0 ? std::abs(along.x() * way.y() - along.y() * way.x()) / along.norm() : 1;
    return WiderThere{marks[outermost].edge, short_mm / std::max(least_cosine, cosine) + spare_mm};
}

/// The edge along which the part lacks wood: at the side where most of it is lacking, or at the one opposite, for the
/// part may be moved over.
std::optional<WiderThere> edge_that_lacks(const job::JobPiece& piece, const piece::Outline& shape,
                                          const sheets::Nearly& lacking, bool turned_over) {
    const Vec2 way = drawn_way(lacking.side, lacking.rotation_deg, piece, turned_over);
    if (const auto here = edge_at(piece, shape, way, lacking.short_mm)) return here;
    return edge_at(piece, shape, -way, lacking.short_mm);
}

/// The part that lacks least, of those that lie on plain sheets.
void nearly_from(const job::Job& job, const job::Results& results, const job::SheetResult& sheets,
                 const job::JobOffcut& offcut, Findings& out) {
    std::optional<sheets::Nearly> best;
    std::size_t which = 0;
    for (std::size_t k = 0; k < sheets.problem->parts.size(); ++k) {
        const auto& part = sheets.problem->parts[k];
        const auto* piece = job::find_piece(job, job::piece_of_part(part.id));
        if (!piece || !bears_a_gap(*piece)) continue;
        const auto now = sheets::nearly_fits(part, offcut.shape, job.cutting.edge_margin_mm, most_lacking_mm);
        // A larger part saves more of a sheet.
        if (!now || now->short_mm < least_lacking_mm) continue;
        if (best && geometry::area_mm2(part.shape) <= geometry::area_mm2(sheets.problem->parts[which].shape))
            continue;
        best = now, which = k;
    }
    if (!best) return;
    add(out, CheckId::offcut_nearly_fits, Severity::note, job::piece_of_part(sheets.problem->parts[which].id),
        fmt::format("{} nearly comes out of the offcut {}", sheets.part_names[which],
                    offcut.name.empty() ? offcut.id : offcut.name),
        fmt::format("it lacks {:.1f} mm at its {} side, turned by {:.0f} degrees", best->short_mm,
                    sheets::word_of(best->side), best->rotation_deg),
        "Worth it where that edge is tabbed, filled or covered: leave a wider gap there, or let a patch in.");
    const std::string id = job::piece_of_part(sheets.problem->parts[which].id);
    const auto* piece = job::find_piece(job, id);
    const auto* result = results.piece(id);
    const auto* material = job::find_material(job, offcut.material_id);
    // Of a piece in parts the edge is not told from the part's side.
    if (!result || !result->shape() || result->shape()->parts.size() != 1 || !material) return;
    const bool turned_over = piece->good_face == piece::Face::b && !material->two_good_faces;
    if (const auto edge = edge_that_lacks(*piece, *result->shape(), *best, turned_over)) {
        out.back().evidence +=
            fmt::format(": along its edge '{}'", piece->edges[static_cast<std::size_t>(edge->edge)].name);
        out.back().mendings.push_back(
            {job::Mending::Kind::wider_gap, id, offcut.id, std::nullopt, edge->edge, edge->gap_mm});
    }
}

}  // namespace

/// Offcuts that nothing is cut from, and that a part only just does not fit.
void offcut_nearly_fits(const job::Job& job, const job::Results& results, Findings& out) {
    for (const auto& sheets : results.sheets) {
        if (!sheets.layout || !sheets.problem) continue;
        for (const auto& offcut : job.offcuts)
            if (offcut.material_id == sheets.material_id && !is_used(sheets, offcut.id))
                nearly_from(job, results, sheets, offcut, out);
    }
}

void bar_too_short(const job::Job&, const job::Results& results, Findings& out) {
    for (const auto& section : results.lengths) {
        for (const auto& fault : section.faults)
            add(out, CheckId::length_uncuttable, Severity::mind, {}, fault, "it is in no plan and on no list",
                "Change it under Lengths wanted in Cut's stock.");
        for (const auto& [part, count] : section.plan->unplaced)
            add(out, CheckId::no_bar, Severity::mind, {},
                fmt::format("{} of '{}' cannot be cut from {}", count,
                            section.part_names[static_cast<std::size_t>(part)], section.title),
                fmt::format("it is {:.0f} mm long", section.problem->parts[static_cast<std::size_t>(part)].length_mm),
                "Scarf it from two, or add longer bars or more of them to the stock in Cut.");
    }
}

}  // namespace bevelsmith::review
