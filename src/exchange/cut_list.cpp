#include "exchange/cut_list.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "exchange/plain_text.h"
#include "job/cut_sheets.h"
#include "job/in_full.h"
#include "job/shopping.h"
#include "units/quantity.h"

namespace bevelsmith::exchange {
namespace {

using units::degrees;

Vec2 size_along_grain(const geometry::Polygon& shape, double grain_deg) {
    return geometry::bounding_box(geometry::transformed(shape.outer, -units::radians(grain_deg), {0, 0})).size();
}

std::string hand_of(const piece::Outline& shape) {
    const Vec3 middle = shape.frame.to_space(geometry::centroid(shape.face_a));
    constexpr double on_centre_mm = 30;
    if (std::abs(middle.y()) < on_centre_mm) return "middle";
    return middle.y() > 0 ? "port" : "starboard";
}

std::string edges_in_words(const job::JobPiece& piece) {
    std::vector<std::string> out;
    for (const auto& e : piece.edges) {
        std::vector<std::string> more;
        if (e.gap_mm > 0) more.push_back(fmt::format("gap {:.1f}", e.gap_mm));
        if (e.covering_mm > 0) more.push_back(fmt::format("covering {:.1f}", e.covering_mm));
        if (e.lipping_mm > 0) more.push_back(fmt::format("lipping {:.1f}", e.lipping_mm));
        if (e.leave_on_mm > 0) more.push_back(fmt::format("leave on {:.1f}", e.leave_on_mm));
        if (e.overhang_mm > 0) more.push_back(fmt::format("overhang {:.1f}", e.overhang_mm));
        if (e.fillet_mm > 0) more.push_back(fmt::format("relieve {:.1f}", e.fillet_mm));
        out.push_back(more.empty() ? e.name : fmt::format("{}: {}", e.name, fmt::join(more, ", ")));
    }
    return fmt::format("{}", fmt::join(out, "; "));
}

std::string face_up(const job::Job& job, const job::JobPiece& piece) {
    // A jigsaw's blade tears the upper face, a track saw's the lower (common practice).
    const bool good_is_a = piece.good_face == piece::Face::a;
    const bool good_up = job.cutting.tool != job::Tool::jigsaw;
    return fmt::format("{} ({})", good_is_a == good_up ? "A" : "B", good_up ? "good face up" : "good face down");
}

std::string tilt_note(double tilt_deg) {
    if (std::abs(tilt_deg) > base_limit_deg)
        return fmt::format("beyond the base's {:.0f} degrees: cut square outside the line, and plane it down",
                           base_limit_deg);
    return {};
}

}  // namespace

std::vector<CutRow> cut_list(const job::Job& job, const job::Results& results) {
    std::vector<CutRow> out;
    for (std::size_t i = 0; i < job.pieces.size() && i < results.pieces.size(); ++i) {
        const auto& piece = job.pieces[i];
        const auto* shape = results.pieces[i].shape();
        const auto* material = job::find_material(job, piece.material_id);
        if (!shape || !material) continue;
        const auto* unit = job::unit_of(job, piece.id);
        for (const auto& part : shape->parts) {
            CutRow row;
            row.part_id = part.id;
            row.piece = part.name.empty() ? piece.name : part.name;
            row.unit = unit ? unit->name : piece.place;
            row.kind = piece.kind, row.hand = hand_of(*shape), row.material = material->name;
            row.thickness_mm = shape->thickness_mm, row.quantity = piece.copies;
            const bool differs = shape->cut_differs();
            const Vec2 finished =
                size_along_grain(differs ? part.finished_a : part.face_a, piece.grain_deg)
                    .cwiseMax(size_along_grain(differs ? part.finished_b : part.face_b, piece.grain_deg));
            const Vec2 sheet = size_along_grain(part.larger, piece.grain_deg);
            row.finished_along_mm = finished.x(), row.finished_across_mm = finished.y();
            row.sheet_along_mm = sheet.x(), row.sheet_across_mm = sheet.y();
            row.blank_along_mm = part.blank_along_mm, row.blank_across_mm = part.blank_across_mm;
            row.grain_deg = piece.grain_deg;
            row.edges = edges_in_words(piece);
            row.least_bevel_deg = degrees(shape->least_bevel_rad);
            row.largest_bevel_deg = degrees(shape->largest_bevel_rad);
            row.good_face = piece.good_face == piece::Face::a ? "A" : "B";
            row.cut = job::cut_from(job, piece.material_id, part.id) != nullptr;
            out.push_back(std::move(row));
        }
    }
    return out;
}

std::vector<std::string> cut_list_heads() {
    return {"part",
            "piece",
            "unit or place",
            "kind",
            "side",
            "material",
            "thickness_mm",
            "quantity",
            "finished_along_mm",
            "finished_across_mm",
            "sheet_along_mm",
            "sheet_across_mm",
            "blank_along_mm",
            "blank_across_mm",
            "grain_deg",
            "edges",
            "bevel_from_deg",
            "bevel_to_deg",
            "good face",
            "cut"};
}

std::vector<std::string> cells_of(const CutRow& r) {
    const auto mm = [](double v) { return fmt::format("{:.1f}", v); };
    return {r.part_id,
            r.piece,
            r.unit,
            r.kind,
            r.hand,
            r.material,
            mm(r.thickness_mm),
            std::to_string(r.quantity),
            mm(r.finished_along_mm),
            mm(r.finished_across_mm),
            mm(r.sheet_along_mm),
            mm(r.sheet_across_mm),
            mm(r.blank_along_mm),
            mm(r.blank_across_mm),
            mm(r.grain_deg),
            r.edges,
            mm(r.least_bevel_deg),
            mm(r.largest_bevel_deg),
            r.good_face,
            r.cut ? "yes" : "no"};
}

std::string cut_list_csv(const std::vector<CutRow>& rows) {
    std::string out = csv_line(cut_list_heads());
    for (const auto& row : rows) out += csv_line(cells_of(row));
    return out;
}

std::vector<EdgeCut> edge_cuts(const job::Job& job, const job::JobPiece& piece, const piece::Outline& shape) {
    std::vector<EdgeCut> straight, curved;
    const std::string up = face_up(job, piece);
    for (const auto& edge : shape.edges_a) {
        if (edge.source == piece::EdgeSource::scribed) continue;  // by its runs, below
        const double tilt = degrees(edge.bevel_rad);
        const bool is_straight = edge.last == edge.first + 1 || edge.source == piece::EdgeSource::straight;
        (is_straight ? straight : curved)
            .push_back({piece.id, edge.name, is_straight, edge.length_mm, tilt, up, tilt_note(tilt)});
    }
    for (const auto& wall : shape.slot_walls) {
        const double tilt = degrees(wall.bevel_rad);
        straight.push_back({piece.id, "slot for " + wall.name, true, wall.length_mm(), tilt, up, tilt_note(tilt)});
    }
    std::vector<const piece::EdgeMark*> kept;
    for (const auto& mark : shape.marks)
        if (mark.kept) kept.push_back(&mark);
    for (const auto& run : shape.bevel_runs) {
        if (run.last >= static_cast<int>(kept.size())) continue;
        const auto& from = *kept[static_cast<std::size_t>(run.first)];
        const auto& to = *kept[static_cast<std::size_t>(run.last)];
        const double tilt = degrees(run.mean_rad);
        curved.push_back({piece.id, piece.edges[static_cast<std::size_t>(from.edge)].name, false,
                          to.arc_mm - from.arc_mm, tilt, up, tilt_note(tilt)});
    }
    const auto longer = [](const EdgeCut& a, const EdgeCut& b) { return a.length_mm > b.length_mm; };
    std::stable_sort(straight.begin(), straight.end(), longer);
    straight.insert(straight.end(), curved.begin(), curved.end());
    return straight;
}

std::string edge_cuts_csv(const job::Job& job, const job::Results& results) {
    std::string out = csv_line({"piece", "order", "edge", "straight", "length_mm", "tilt_deg", "face up", "note"});
    for (std::size_t i = 0; i < job.pieces.size() && i < results.pieces.size(); ++i) {
        const auto* shape = results.pieces[i].shape();
        if (!shape) continue;
        int order = 1;
        for (const auto& cut : edge_cuts(job, job.pieces[i], *shape))
            out += csv_line({cut.part_id, std::to_string(order++), cut.edge, cut.straight ? "yes" : "no",
                             fmt::format("{:.1f}", cut.length_mm), fmt::format("{:.1f}", cut.tilt_deg), cut.face_up,
                             cut.note});
    }
    return out;
}

std::string shopping_csv(const job::Job& job, const job::Results& results) {
    std::string out = csv_line({"what", "in", "needed", "in stock", "to buy", "price of one", "sum", "currency"});
    for (const auto& line : job::shopping_list(job, results))
        out += csv_line({line.what, line.of_what, fmt::format("{:.6g}", line.needed),
                         fmt::format("{:.0f}", line.in_stock), fmt::format("{:.0f}", line.to_buy),
                         fmt::format("{:.2f}", line.price), fmt::format("{:.2f}", line.sum()), job.costs.currency});
    return out;
}

std::vector<std::string> length_heads() {
    return {"section", "bar",          "bar_mm",     "cut",         "length_mm", "left_deg", "right_deg",
            "lean on", "near_from_mm", "near_to_mm", "far_from_mm", "far_to_mm", "lies",     "left_of_bar_mm"};
}

std::vector<std::vector<std::string>> length_cells(const job::Results& results) {
    std::vector<std::vector<std::string>> out;
    const auto mm = [](double value) { return fmt::format("{:.1f}", value); };
    for (const auto& section : results.lengths) {
        int number = 0;
        for (const auto& bar : section.plan->bars) {
            ++number;
            for (const auto& cut : bar.lengths) {
                const auto index = static_cast<std::size_t>(cut.part);
                const auto& part = section.problem->parts[index];
                const auto lies = sheets::laid(*section.problem, cut);
                const bool square = part.left_deg == 0 && part.right_deg == 0;
                out.push_back({section.title, std::to_string(number),
                               mm(section.problem->bars[static_cast<std::size_t>(bar.bar)].length_mm),
                               section.part_names[index], mm(part.length_mm), fmt::format("{:.4g}", lies.left_deg),
                               fmt::format("{:.4g}", lies.right_deg),
                               square                                            ? ""
                               : part.ends_seen == sheets::EndsSeen::narrow_side ? "narrow side"
                                                                                 : "wide side",
                               mm(lies.near_from_mm), mm(lies.near_to_mm), mm(lies.far_from_mm), mm(lies.far_to_mm),
                               std::string(sheets::lies_in_words(cut)), mm(bar.left_mm)});
            }
        }
    }
    return out;
}

std::string lengths_csv(const job::Results& results) {
    std::string out = csv_line(length_heads());
    for (const auto& cells : length_cells(results)) out += csv_line(cells);
    return out;
}

}  // namespace bevelsmith::exchange
