// Checks of what is cut: sheets, parts cut before a change, lengths.
#include <fmt/format.h>

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "job/in_full.h"
#include "piece/joints.h"
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

/// What is at the outermost place of the piece that way: its edge there, if it is one that bears more gap, how much
/// more takes so much off there, and where a patch is let in instead.
struct Lacking {
    int wider_edge = -1;
    double wider_mm = 0;
    std::string edge_name;
    std::optional<piece::JointSpec> patch;
    double patch_mm = 0;  ///< how wide the patch is where it is widest
};

constexpr double there_mm = 1, spare_mm = 0.3;

double farthest(const geometry::Polygon& face, const Vec2& way) {
    double far = -HUGE_VAL;
    for (const Vec2& p : face.outer) far = std::max(far, way.dot(p));
    return far;
}

/// The edge that lies farthest that way: of those that reach there the one that does so for longest.
std::string edge_name_at(const piece::Outline& shape, const Vec2& way) {
    const auto& ring = shape.face_a.outer;
    const double far = farthest(shape.face_a, way);
    std::string out;
    double best = -HUGE_VAL;
    for (const auto& edge : shape.edges_a) {
        double sum = 0, count = 0, most = -HUGE_VAL;
        for (int i = edge.first;; i = (i + 1) % static_cast<int>(ring.size())) {
            const double there = way.dot(ring[static_cast<std::size_t>(i)]);
            sum += there, ++count, most = std::max(most, there);
            if (i == edge.last) break;
        }
        if (most > far - there_mm && sum / count > best) best = sum / count, out = edge.name;
    }
    return out;
}

/// An edge bears more gap where it is scribed, and so filled, tabbed or covered.
void find_wider(Lacking& out, const job::JobPiece& piece, const piece::Outline& shape, const Vec2& way,
                double short_mm) {
    const double far = farthest(shape.face_a, way);
    const auto& marks = shape.marks;
    std::size_t outermost = marks.size();
    for (std::size_t k = 0; k < marks.size(); ++k)
        if (marks[k].kept && (outermost == marks.size() || way.dot(marks[k].a) > way.dot(marks[outermost].a)))
            outermost = k;
    if (outermost == marks.size() || way.dot(marks[outermost].a) < far - there_mm) return;
    const auto& edge = piece.edges[static_cast<std::size_t>(marks[outermost].edge)];
    if (edge.kind != piece::EdgeKind::scribed || edge.lipping_mm > 0) return;
    constexpr double least_cosine = 0.3;
    const Vec2 along = (marks[std::min(outermost + 1, marks.size() - 1)].a - marks[outermost - (outermost > 0)].a);
    const double cosine = along.norm() > 0 ? std::abs(along.x() * way.y() - along.y() * way.x()) / along.norm() : 1;
    out.wider_edge = marks[outermost].edge;
    out.wider_mm = short_mm / std::max(least_cosine, cosine) + spare_mm;
}

/// A patch along a side of the drawing: scarfed on, so far in that what is left is short enough. Narrower than the
/// least, glue has nothing to hold (common practice).
void find_patch(Lacking& out, const piece::Outline& shape, const Vec2& way, double short_mm) {
    constexpr double square = 1e-3, least_patch_mm = 40;
    const bool upright = std::abs(way.y()) < square;
    if (!upright && std::abs(way.x()) > square) return;
    piece::JointSpec joint;
    joint.kind = piece::JointKind::scarf, joint.upright = upright;
    const auto [lower, upper] = piece::reach_past_mm(joint, shape.thickness_mm);
    const bool at_upper = (upright ? way.x() : way.y()) > 0;
    const double main_reach = at_upper ? lower : upper, patch_reach = at_upper ? upper : lower;
    const double in = std::max(short_mm + spare_mm + main_reach, least_patch_mm);
    const double far = std::max(farthest(shape.sheet_a, way), farthest(shape.sheet_b, way));
    joint.at_mm = (at_upper ? 1 : -1) * (far - in);
    out.patch = joint, out.patch_mm = in + patch_reach;
}

/// At the side where most of the part is lacking, or at the one opposite, for the part may be moved over: rather
/// where the edge bears a gap.
Lacking what_lacks(const job::JobPiece& piece, const piece::Outline& shape, const sheets::Nearly& lacking,
                   bool turned_over) {
    const Vec2 side = drawn_way(lacking.side, lacking.rotation_deg, piece, turned_over);
    Lacking first;
    for (const Vec2& way : {side, Vec2(-side)}) {
        Lacking here;
        here.edge_name = edge_name_at(shape, way);
        find_wider(here, piece, shape, way, lacking.short_mm);
        if (piece.joints.empty()) find_patch(here, shape, way, lacking.short_mm);
        if (here.wider_edge >= 0) return here;
        if (way == side) first = here;
    }
    return first;
}

/// The part that lacks least, of those that lie on plain sheets.
void nearly_from(const job::Job& job, const job::Results& results, const job::SheetResult& sheets,
                 const job::JobOffcut& offcut, Findings& out) {
    std::optional<sheets::Nearly> best;
    std::size_t which = 0;
    for (std::size_t k = 0; k < sheets.problem->parts.size(); ++k) {
        const auto& part = sheets.problem->parts[k];
        const auto* piece = job::find_piece(job, job::piece_of_part(part.id));
        if (!piece) continue;
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
        "Worth it where that edge is filled, tabbed or covered (a wider gap), or where a joint may show (a patch).");
    const std::string id = job::piece_of_part(sheets.problem->parts[which].id);
    const auto* piece = job::find_piece(job, id);
    const auto* result = results.piece(id);
    const auto* material = job::find_material(job, offcut.material_id);
    // Of a piece in parts, a lid or a pattern the edge is not told from the part's side.
    const std::string& part_id = sheets.problem->parts[which].id;
    if (!result || !result->shape() || result->shape()->parts.size() != 1 || !material ||
        result->shape()->parts[0].id != part_id.substr(0, part_id.find('#')))
        return;
    const bool turned_over = piece->good_face == piece::Face::b && !material->two_good_faces;
    const Lacking there = what_lacks(*piece, *result->shape(), *best, turned_over);
    auto& finding = out.back();
    if (!there.edge_name.empty()) finding.evidence += fmt::format(": along its edge '{}'", there.edge_name);
    if (there.wider_edge >= 0)
        finding.mendings.push_back(
            {job::Mending::Kind::wider_gap, id, offcut.id, std::nullopt, there.wider_edge, there.wider_mm});
    if (there.patch)
        finding.mendings.push_back(
            {job::Mending::Kind::let_in, id, offcut.id, std::nullopt, -1, there.patch_mm, there.patch});
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
