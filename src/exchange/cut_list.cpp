#include "exchange/cut_list.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "exchange/plain_text.h"
#include "job/cut_sheets.h"
#include "job/in_full.h"
#include "job/shopping.h"
#include "piece/lid.h"
#include "units/figures.h"

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

std::string edges_in_words(const job::JobPiece& piece, units::LengthUnit unit) {
    std::vector<std::string> out;
    const auto told = [unit](const char* what, double mm) {
        return fmt::format("{} {}", what, units::format_length(mm, unit));
    };
    for (const auto& e : piece.edges) {
        std::vector<std::string> more;
        if (e.gap_mm > 0) more.push_back(told("gap", e.gap_mm));
        if (e.covering_mm > 0) more.push_back(told("covering", e.covering_mm));
        if (e.lipping_mm > 0) more.push_back(told("lipping", e.lipping_mm));
        if (e.leave_on_mm > 0) more.push_back(told("leave on", e.leave_on_mm));
        if (e.overhang_mm > 0) more.push_back(told("overhang", e.overhang_mm));
        if (e.fillet_mm > 0) more.push_back(told("relieve", e.fillet_mm));
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

/// The trial pattern of a part: face A, lippings and all, out of a thin sheet, square edges.
CutRow pattern_row(CutRow row, const piece::Part& part, const job::JobMaterial& thin) {
    row.part_id += job::pattern_suffix, row.piece += ", trial pattern";
    row.material = thin.name, row.thickness_mm = thin.thickness_mm, row.quantity = 1;
    const Vec2 size = size_along_grain(piece::offered_face(part.face_a, part.finished_a), row.grain_deg);
    row.finished_along_mm = row.sheet_along_mm = row.blank_along_mm = size.x();
    row.finished_across_mm = row.sheet_across_mm = row.blank_across_mm = size.y();
    row.edges = "square all round: face A only", row.least_bevel_deg = row.largest_bevel_deg = 0;
    row.good_face = "either";
    return row;
}

std::string tilt_note(double tilt_deg) {
    if (std::abs(tilt_deg) > base_limit_deg)
        return fmt::format(
            "bevel {:.1f} degrees, beyond the base's {:.0f}: cut square outside the line, and plane it down",
            tilt_deg, base_limit_deg);
    return {};
}

}  // namespace

std::vector<CutRow> cut_list(const job::Job& job, const job::Results& results) {
    std::vector<CutRow> out;
    for (std::size_t i = 0; i < job.pieces.size() && i < results.pieces.size(); ++i) {
        const auto& piece = job.pieces[i];
        const auto* shape = job::made_shape(piece, results.pieces[i]);
        const auto* material = job::find_material(job, piece.material_id);
        if (!shape || !material) continue;
        const auto* unit = job::unit_of(job, piece.id);
        for (const auto& part : shape->parts) {
            CutRow row;
            row.part_id = part.id;
            row.piece = part.name.empty() ? piece.name : part.name;
            row.unit = unit ? unit->name : piece.place;
            row.kind = piece.kind, row.hand = hand_of(*shape), row.material = material->name;
            row.thickness_mm = shape->thickness_mm, row.quantity = job::sheets_cut(piece);
            const bool lid = piece::is_lid(part), differs = shape->cut_differs() && !lid;
            const Vec2 finished =
                size_along_grain(differs ? part.finished_a : part.face_a, piece.grain_deg)
                    .cwiseMax(size_along_grain(differs ? part.finished_b : part.face_b, piece.grain_deg));
            const Vec2 sheet = size_along_grain(part.larger, piece.grain_deg);
            row.finished_along_mm = finished.x(), row.finished_across_mm = finished.y();
            row.sheet_along_mm = sheet.x(), row.sheet_across_mm = sheet.y();
            row.blank_along_mm = part.blank_along_mm, row.blank_across_mm = part.blank_across_mm;
            row.grain_deg = piece.grain_deg;
            row.edges = lid ? "square all round" : edges_in_words(piece, job.unit);
            if (piece.sheets_thick > 1)
                row.edges = fmt::format("glued up of {} sheets, then cut; {}", piece.sheets_thick, row.edges);
            row.least_bevel_deg = lid ? 0 : degrees(shape->least_bevel_rad);
            row.largest_bevel_deg = lid ? 0 : degrees(shape->largest_bevel_rad);
            row.good_face = piece.good_face == piece::Face::a ? "A" : "B";
            row.cut = job::cut_from(job, piece.material_id, part.id) != nullptr;
            if (const auto* thin =
                    job::pattern_to_cut(piece) && !lid ? job::find_material(job, piece.pattern_material) : nullptr)
                out.push_back(pattern_row(row, part, *thin));
            out.push_back(std::move(row));
        }
    }
    return out;
}

namespace {

/// A length in a table's unit.
std::string in_table(double mm, units::LengthUnit unit) {
    const auto table = units::table_unit(unit);
    return fmt::format("{:.{}f}", mm / table.mm, table.decimals);
}
/// A head with the unit that its column is in.
std::string head(const char* name, units::LengthUnit unit) {
    return fmt::format("{}_{}", name, units::table_unit(unit).name);
}

}  // namespace

std::vector<std::string> cut_list_heads(units::LengthUnit unit) {
    return {"part",
            "piece",
            "unit or place",
            "kind",
            "side",
            "material",
            head("thickness", unit),
            "quantity",
            head("finished_along", unit),
            head("finished_across", unit),
            head("sheet_along", unit),
            head("sheet_across", unit),
            head("blank_along", unit),
            head("blank_across", unit),
            "grain_deg",
            "edges",
            "bevel_from_deg",
            "bevel_to_deg",
            "good face",
            "cut"};
}

std::vector<std::string> cells_of(const CutRow& r, units::LengthUnit unit) {
    const auto length = [unit](double mm) { return in_table(mm, unit); };
    const auto angle = [](double deg) { return fmt::format("{:.1f}", deg); };
    return {r.part_id,
            r.piece,
            r.unit,
            r.kind,
            r.hand,
            r.material,
            length(r.thickness_mm),
            std::to_string(r.quantity),
            length(r.finished_along_mm),
            length(r.finished_across_mm),
            length(r.sheet_along_mm),
            length(r.sheet_across_mm),
            length(r.blank_along_mm),
            length(r.blank_across_mm),
            angle(r.grain_deg),
            r.edges,
            angle(r.least_bevel_deg),
            angle(r.largest_bevel_deg),
            r.good_face,
            r.cut ? "yes" : "no"};
}

std::string cut_list_csv(const std::vector<CutRow>& rows, units::LengthUnit unit) {
    std::string out = csv_line(cut_list_heads(unit));
    for (const auto& row : rows) out += csv_line(cells_of(row, unit));
    return out;
}

std::vector<EdgeCut> edge_cuts(const job::Job& job, const job::JobPiece& piece, const piece::Outline& shape) {
    std::vector<EdgeCut> straight, curved;
    const std::string up = face_up(job, piece);
    for (const auto& edge : shape.cut_edges()) {
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
    const auto& marks = shape.cut_marks();
    for (const auto& run : piece::kept_bevel_runs(marks)) {
        const auto &from = marks[static_cast<std::size_t>(run.first)],
                   &to = marks[static_cast<std::size_t>(run.last)];
        const double tilt = degrees(run.mean_rad);
        curved.push_back({piece.id, piece.edges[static_cast<std::size_t>(from.edge)].name, false,
                          to.arc_mm - from.arc_mm, tilt, up, tilt_note(tilt)});
    }
    const auto longer = [](const EdgeCut& a, const EdgeCut& b) { return a.length_mm > b.length_mm; };
    std::stable_sort(straight.begin(), straight.end(), longer);
    straight.insert(straight.end(), curved.begin(), curved.end());
    return straight;
}

std::vector<std::string> edge_cut_heads(units::LengthUnit unit) {
    return {"piece", "order", "edge", "straight", head("length", unit), "tilt_deg", "face up", "note"};
}

std::vector<std::string> cells_of(const EdgeCut& cut, int order, units::LengthUnit unit) {
    // Past what the base tilts to there is nothing to set: it is cut square.
    const bool beyond = std::abs(cut.tilt_deg) > base_limit_deg;
    return {cut.part_id,
            std::to_string(order),
            cut.edge,
            cut.straight ? "yes" : "no",
            in_table(cut.length_mm, unit),
            beyond ? "0.0" : fmt::format("{:.1f}", cut.tilt_deg),
            cut.face_up,
            cut.note};
}

std::string edge_cuts_csv(const job::Job& job, const job::Results& results) {
    std::string out = csv_line(edge_cut_heads(job.unit));
    for (std::size_t i = 0; i < job.pieces.size() && i < results.pieces.size(); ++i) {
        const auto* shape = job::made_shape(job.pieces[i], results.pieces[i]);
        if (!shape) continue;
        int order = 1;
        for (const auto& cut : edge_cuts(job, job.pieces[i], *shape))
            out += csv_line(cells_of(cut, order++, job.unit));
    }
    return out;
}

std::string shopping_csv(const job::Job& job, const job::Results& results) {
    std::string out =
        csv_line({"what", "in", "needed", "in stock", "to buy", "price of one", "sum", "currency", "note"});
    for (const auto& line : job::shopping_list(job, results))
        out += csv_line({units::in_unit(line.what, job.unit), line.of_what, fmt::format("{:.6g}", line.needed),
                         fmt::format("{:.0f}", line.in_stock), fmt::format("{:.0f}", line.to_buy),
                         fmt::format("{:.2f}", line.price), fmt::format("{:.2f}", line.sum()), job.costs.currency,
                         line.note});
    return out;
}

std::vector<std::string> length_heads(units::LengthUnit unit) {
    return {"section",
            "bar",
            head("bar", unit),
            "cut",
            head("length", unit),
            "left_deg",
            "right_deg",
            "lean on",
            head("near_from", unit),
            head("near_to", unit),
            head("far_from", unit),
            head("far_to", unit),
            "lies",
            head("left_of_bar", unit)};
}

std::vector<std::vector<std::string>> length_cells(const job::Results& results, units::LengthUnit unit) {
    std::vector<std::vector<std::string>> out;
    const auto mm = [unit](double value) { return in_table(value, unit); };
    for (const auto& section : results.lengths) {
        int number = 0;
        for (const auto& bar : section.plan->bars) {
            ++number;
            for (const auto& cut : bar.lengths) {
                const auto index = static_cast<std::size_t>(cut.part);
                const auto& part = section.problem->parts[index];
                const auto lies = sheets::laid(*section.problem, cut);
                const bool square = part.left_deg == 0 && part.right_deg == 0;
                out.push_back({units::in_unit(section.title, unit), std::to_string(number),
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

std::string lengths_csv(const job::Results& results, units::LengthUnit unit) {
    std::string out = csv_line(length_heads(unit));
    for (const auto& cells : length_cells(results, unit)) out += csv_line(cells);
    return out;
}

}  // namespace bevelsmith::exchange
