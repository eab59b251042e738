#include "job/cut_sheets.h"

#include <fmt/format.h>

#include <algorithm>
#include <iterator>

#include "job/drawn_shapes.h"
#include "job/in_full.h"

namespace bevelsmith::job {
namespace {

CutSheet as_cut(const SheetResult& sheets, int sheet) {
    CutSheet out;
    out.material_id = sheets.material_id;
    const auto stock = static_cast<std::size_t>(sheets.layout->sheet_stock[static_cast<std::size_t>(sheet)]);
    out.shape = sheets.problem->stock[stock].shape;
    for (const auto& at : sheets.layout->placements) {
        if (at.sheet != sheet) continue;
        const auto part = static_cast<std::size_t>(at.part);
        out.parts.push_back({sheets.problem->parts[part].id, sheets.part_names[part], at.rotation_deg, at.shift.x(),
                             at.shift.y(), at.turned_over, sheets::placed(*sheets.problem, at)});
    }
    return out;
}

bool has_part(const CutSheet& cut, const LockedPlacement& at) {
    return std::any_of(cut.parts.begin(), cut.parts.end(), [&](const CutPart& p) { return p.part_id == at.part_id; });
}

/// The kept layouts go on without a sheet; the cut one remembers what it was in them.
void without_sheet(Job& job, CutSheet& cut, int sheet) {
    for (auto& layout : job.layouts) {
        if (layout.material_id != cut.material_id) continue;
        SheetBefore before{layout.name, layout.in_use, sheet, {}, {}};
        std::copy_if(layout.placements.begin(), layout.placements.end(), std::back_inserter(before.placements),
                     [&](const auto& at) { return has_part(cut, at); });
        if (layout.in_use && static_cast<std::size_t>(sheet) < layout.sheets.size())
            before.offcut_id = layout.sheets[static_cast<std::size_t>(sheet)];
        if (!before.placements.empty()) cut.before.push_back(std::move(before));
        std::erase_if(layout.placements, [&](const auto& at) { return has_part(cut, at); });
        if (!layout.in_use) continue;
        for (auto& at : layout.placements)
            if (at.sheet > sheet) --at.sheet;
        if (static_cast<std::size_t>(sheet) < layout.sheets.size())
            layout.sheets.erase(layout.sheets.begin() + sheet);
    }
    std::erase_if(job.layouts, [](const auto& l) { return l.placements.empty(); });
}

/// Puts a sheet back into the kept layouts that it was taken from, at its place, with its pins.
void with_sheet_again(Job& job, const CutSheet& cut) {
    for (const SheetBefore& before : cut.before) {
        auto at = std::find_if(job.layouts.begin(), job.layouts.end(), [&](const LockedLayout& l) {
            return l.material_id == cut.material_id && l.in_use == before.in_use && l.name == before.layout;
        });
        if (at == job.layouts.end()) {
            // Nothing was left of it without this sheet; or another is in use now, which is left alone.
            const bool other =
                before.in_use && std::any_of(job.layouts.begin(), job.layouts.end(), [&](const auto& l) {
                    return l.material_id == cut.material_id && l.in_use;
                });
            if (other) continue;
            LockedLayout made;
            made.material_id = cut.material_id, made.name = before.layout, made.in_use = before.in_use;
            job.layouts.push_back(made);
            at = job.layouts.end() - 1;
        }
        if (before.in_use) {
            const auto sheet = static_cast<std::size_t>(before.sheet);
            for (auto& placed : at->placements)
                if (placed.sheet >= before.sheet) ++placed.sheet;
            if (!before.offcut_id.empty() || sheet < at->sheets.size()) {
                if (at->sheets.size() < sheet) at->sheets.resize(sheet);
                at->sheets.insert(at->sheets.begin() + before.sheet, before.offcut_id);
            }
        }
        for (const LockedPlacement& placed : before.placements)
            if (!cut_from(job, cut.material_id, placed.part_id)) at->placements.push_back(placed);
    }
}

/// Pieces with all their parts cut are cut; what they were before is kept with the sheet.
void set_stages(Job& job, const SheetResult& sheets, CutSheet& cut) {
    for (const CutPart& part : cut.parts) {
        const std::string id = piece_of_part(part.part_id);
        const bool pattern = part.part_id.ends_with(pattern_suffix);
        const bool more = std::any_of(sheets.problem->parts.begin(), sheets.problem->parts.end(), [&](const auto& p) {
            return piece_of_part(p.id) == id && p.id.ends_with(pattern_suffix) == pattern &&
                   !cut_from(job, cut.material_id, p.id);
        });
        if (more) continue;
        change_piece(job, id, [&](JobPiece& piece) {
            if (piece.stage != "planned" && piece.stage != "measured" && (pattern || piece.stage != "pattern"))
                return;
            cut.stages_before.push_back({id, piece.stage});
            piece.stage = pattern ? "pattern" : "cut";
        });
    }
}

std::string rest_name(const CutSheet& sheet) {
    return "rest of " + sheet.id;
}

}  // namespace

const CutSheet* cut_from(const Job& job, const std::string& material_id, const std::string& part_id) {
    for (const auto& sheet : job.cut_sheets)
        if (sheet.material_id == material_id)
            for (const auto& part : sheet.parts)
                if (part.part_id == part_id) return &sheet;
    return nullptr;
}

std::string mark_cut(Job& job, const SheetResult& sheets, int sheet) {
    if (!sheets.layout || sheet < 0 || sheet >= static_cast<int>(sheets.layout->sheet_stock.size())) return {};
    CutSheet cut = as_cut(sheets, sheet);
    if (cut.parts.empty()) return {};
    std::vector<std::string> taken;
    for (const auto& c : job.cut_sheets) taken.push_back(c.id);
    cut.id = free_id("C", taken);
    const auto stock = static_cast<std::size_t>(sheets.layout->sheet_stock[static_cast<std::size_t>(sheet)]);
    const std::string offcut = sheets.stock_names[stock];
    if (offcut.empty()) {
        cut.name = "sheet";
        for (auto& m : job.materials)
            if (m.id == cut.material_id && m.sheets_in_stock > 0) --m.sheets_in_stock;
    } else {
        for (const auto& o : job.offcuts)
            if (o.id == offcut) cut.name = o.name, cut.offcut_id = o.id;
        std::erase_if(job.offcuts, [&](const auto& o) { return o.id == offcut; });
    }
    without_sheet(job, cut, sheet);
    job.cut_sheets.push_back(cut);
    set_stages(job, sheets, cut);
    job.cut_sheets.back().stages_before = cut.stages_before;
    return cut.id;
}

bool mark_not_cut(Job& job, const std::string& id) {
    const auto found =
        std::find_if(job.cut_sheets.begin(), job.cut_sheets.end(), [&](const auto& c) { return c.id == id; });
    if (found == job.cut_sheets.end()) return false;
    const CutSheet cut = *found;
    if (std::any_of(job.cut_sheets.begin(), job.cut_sheets.end(),
                    [&](const auto& c) { return c.name == rest_name(cut); }))
        return false;
    job.cut_sheets.erase(found);
    std::erase_if(job.offcuts, [&](const auto& o) { return o.name == rest_name(cut); });
    if (cut.name == "sheet") {
        for (auto& m : job.materials)
            if (m.id == cut.material_id && m.sheets_in_stock >= 0) ++m.sheets_in_stock;
    } else {
        std::vector<std::string> taken;
        for (const auto& o : job.offcuts) taken.push_back(o.id);
        JobOffcut back;
        const bool free = std::find(taken.begin(), taken.end(), cut.offcut_id) == taken.end();
        back.id = free && !cut.offcut_id.empty() ? cut.offcut_id : free_id("O", taken);
        back.name = cut.name, back.material_id = cut.material_id, back.shape = cut.shape;
        job.offcuts.push_back(back);
    }
    for (const CutPart& part : cut.parts) {
        const std::string id_of_piece = piece_of_part(part.part_id);
        const auto was = std::find_if(cut.stages_before.begin(), cut.stages_before.end(),
                                      [&](const StageBefore& s) { return s.piece_id == id_of_piece; });
        change_piece(job, id_of_piece, [&](JobPiece& piece) {
            if (piece.stage == "cut") piece.stage = was == cut.stages_before.end() ? "measured" : was->stage;
        });
    }
    with_sheet_again(job, cut);
    return true;
}

void cut_anew(Job& job, const std::string& material_id, const std::string& part_id) {
    for (auto& sheet : job.cut_sheets) {
        if (sheet.material_id != material_id) continue;
        for (auto& part : sheet.parts) {
            if (part.part_id != part_id) continue;
            // It is wood no more: it stays drawn, under a name that no part has.
            part.name += ", put aside";
            part.part_id = fmt::format("-{}", part.part_id);
            change_piece(job, piece_of_part(part_id), [](JobPiece& piece) {
                if (piece.stage == "cut") piece.stage = "measured";
            });
            return;
        }
    }
}

std::vector<geometry::Polygon> rest_of(const CutSheet& sheet, const CuttingRules& rules) {
    std::vector<geometry::Polygon> taken;
    for (const auto& part : sheet.parts)
        for (auto& grown : geometry::offset(part.outline, rules.spacing_mm, geometry::Corner::round))
            taken = geometry::unite(taken, {std::move(grown)});
    // What a disc of the least width reaches: narrower necks and slivers are lost.
    const double half = rules.least_offcut_mm / 2;
    std::vector<geometry::Polygon> out;
    for (const auto& left : geometry::subtract({sheet.shape}, taken))
        for (const auto& core : geometry::offset(left, -half, geometry::Corner::mitre))
            for (auto& usable : geometry::offset(core, half, geometry::Corner::round))
                for (auto& piece : geometry::intersect({std::move(usable)}, {left}))
                    out.push_back(geometry::oriented(std::move(piece)));
    std::sort(out.begin(), out.end(),
              [](const auto& a, const auto& b) { return geometry::area_mm2(a) > geometry::area_mm2(b); });
    return out;
}

int keep_rest(Job& job, const std::string& id) {
    const auto found =
        std::find_if(job.cut_sheets.begin(), job.cut_sheets.end(), [&](const auto& c) { return c.id == id; });
    if (found == job.cut_sheets.end() || found->rest_kept) return 0;
    found->rest_kept = true;
    const auto rest = rest_of(*found, job.cutting);
    int kept = 0;
    for (const auto& shape : rest)
        if (add_offcut(job, found->material_id, rest_name(*found), shape)) ++kept;
    return kept;
}

}  // namespace bevelsmith::job
