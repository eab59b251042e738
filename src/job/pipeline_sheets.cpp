// The pipeline's stage of sheets: what is still to be cut, from what, and what has been kept of a layout.
#include <fmt/format.h>

#include <algorithm>

#include "job/cut_sheets.h"
#include "job/guarded.h"
#include "job/kept_layouts.h"
#include "job/pipeline.h"
#include "piece/lid.h"
#include "sheets/carried_over.h"
#include "sheets/guillotine.h"

namespace bevelsmith::job {
namespace {

/// Offcuts before whole sheets.
constexpr int offcuts_first = 10;
/// A part that is the same on both faces within this has square edges, and may be cut from either.
constexpr double square_mm = 0.05;
/// A part that differs from what was cut by less has not changed.
constexpr double unchanged_mm = 0.3;

/// A part as it lies on a sheet: grain along the sheet's width, good face up.
sheets::Part sheet_part(const piece::Part& part, const JobPiece& piece, const JobMaterial& material,
                        const CuttingRules& rules) {
    sheets::Part out;
    out.id = part.id;
    out.rotations_deg = material.has_grain ? std::vector<double>{0, 180} : std::vector<double>{0, 90, 180, 270};
    out.tolerance_deg = material.has_grain ? rules.grain_tolerance_deg : 0;
    out.either_face = material.two_good_faces && geometry::farthest_mm(part.face_a, part.face_b) < square_mm;
    out.shape = geometry::transformed(part.larger, -units::radians(piece.grain_deg), {0, 0});
    if (piece.good_face == piece::Face::b && !material.two_good_faces) out.shape = geometry::mirrored(out.shape);
    const Vec2 corner = geometry::bounding_box(out.shape.outer).min;
    out.shape = geometry::oriented(geometry::transformed(out.shape, 0, -corner));
    return out;
}

void add_stock(const Job& job, const JobMaterial& m, SheetResult& out, sheets::Problem& problem) {
    sheets::Stock plain;
    plain.shape.outer = geometry::rectangle({{0, 0}, {m.sheet_width_mm, m.sheet_height_mm}});
    plain.count = m.sheets_in_stock;
    problem.stock.push_back(plain);
    out.stock_names.emplace_back();
    for (const auto& offcut : job.offcuts) {
        if (offcut.material_id != m.id) continue;
        problem.stock.push_back({geometry::oriented(offcut.shape), 1, offcuts_first});
        out.stock_names.push_back(offcut.id);
    }
}

int stock_of(const SheetResult& result, const std::string& offcut_id) {
    const auto at = std::find(result.stock_names.begin(), result.stock_names.end(), offcut_id);
    return at == result.stock_names.end() ? -1 : static_cast<int>(at - result.stock_names.begin());
}

bool said_cut(const SheetResult& result, const std::string& part_id) {
    return std::find(result.said_cut.begin(), result.said_cut.end(), part_id) != result.said_cut.end();
}

/// Sheets on which only parts lay that are said to be cut are gone from a kept layout: the others move up. Gives back
/// which each was; empty where nothing moved.
std::vector<int> close_gaps(const LockedLayout& lock, const SheetResult& result,
                            std::vector<sheets::Placement>& placements) {
    const bool any = std::any_of(lock.placements.begin(), lock.placements.end(),
                                 [&](const auto& at) { return said_cut(result, at.part_id); });
    if (!any) return {};
    std::vector<int> left;
    for (const auto& at : placements) left.push_back(at.sheet);
    std::sort(left.begin(), left.end());
    left.erase(std::unique(left.begin(), left.end()), left.end());
    for (auto& at : placements)
        at.sheet = static_cast<int>(std::lower_bound(left.begin(), left.end(), at.sheet) - left.begin());
    return left;
}

/// Kept placements against today's parts and stock; says why where one does not hold.
struct Unlocked {
    sheets::Locked held;
    std::string fault;
};

Unlocked unlock(const LockedLayout& lock, const SheetResult& result, const sheets::Problem& problem,
                bool only_pinned) {
    Unlocked out;
    for (const LockedPlacement& at : lock.placements) {
        if (only_pinned && !at.pinned) continue;
        const auto part = std::find_if(problem.parts.begin(), problem.parts.end(),
                                       [&](const auto& p) { return p.id == at.part_id; });
        if (part == problem.parts.end()) {
            // It is gone or cut, and with it what was kept of it.
            if (only_pinned || said_cut(result, at.part_id)) continue;
            return {{}, fmt::format("part '{}' is gone", at.part_id)};
        }
        out.held.placements.push_back({static_cast<int>(part - problem.parts.begin()),
                                       0,
                                       at.sheet,
                                       at.rotation_deg,
                                       {at.x_mm, at.y_mm},
                                       at.turned_over});
    }
    const std::vector<int> left = close_gaps(lock, result, out.held.placements);
    int sheets_used = 0;
    for (const auto& at : out.held.placements) sheets_used = std::max(sheets_used, at.sheet + 1);
    // No sheet lies empty between used ones, so that there are never more sheets than parts; beside pinned parts lie
    // those that are laid out anew.
    const std::size_t parts = only_pinned ? problem.parts.size() : lock.placements.size();
    if (sheets_used > static_cast<int>(parts))
        return {{}, fmt::format("it names sheet {} for {} parts", sheets_used, parts)};
    for (int s = 0; s < sheets_used; ++s) {
        const auto before = static_cast<std::size_t>(left.empty() ? s : left[static_cast<std::size_t>(s)]);
        const std::string id = before < lock.sheets.size() ? lock.sheets[before] : std::string();
        const int stock = stock_of(result, id);
        if (stock < 0) return {{}, fmt::format("the offcut '{}' is gone", id)};
        out.held.sheet_stock.push_back(stock);
    }
    return out;
}

Result<sheets::Layout> held_layout(const LockedLayout& lock, const SheetResult& result,
                                   const sheets::Problem& problem) {
    auto kept = unlock(lock, result, problem, false);
    if (!kept.fault.empty()) return Error{kept.fault};
    sheets::Layout layout{kept.held.sheet_stock, kept.held.placements, {}, 0, 0};
    if (const auto left = sheets::left_out(problem, layout); !left.empty())
        return Error{fmt::format("part '{}' has been added since", left.front())};
    if (const auto wrong = sheets::violations(problem, layout); !wrong.empty()) return Error{wrong.front()};
    layout.utilisation = sheets::utilisation(problem, layout);
    return layout;
}

/// The layout that a person keeps, where it holds: every part of today on it, nothing of yesterday.
void use_kept(const LockedLayout& lock, const sheets::Problem& problem, SheetResult& out) {
    auto layout = held_layout(lock, out, problem);
    out.locked = layout.ok();
    out.broken_lock = layout ? "" : layout.error().message;
    if (layout) out.layout = std::make_shared<const sheets::Layout>(std::move(layout.value()));
}

/// Pinned parts stay where they are when the rest is laid out anew.
void hold_pinned(const LockedLayout& lock, sheets::Problem& problem, SheetResult& out) {
    auto kept = unlock(lock, out, problem, true);
    if (kept.fault.empty() && kept.held.placements.empty()) return;
    if (kept.fault.empty()) {
        problem.locked = kept.held;
        kept.fault = sheets::fault_of(problem);
    }
    if (kept.fault.empty()) return;
    problem.locked = {};
    out.broken_lock = fmt::format("the pinned parts are laid out anew: {}", kept.fault);
}

/// A part that was cut, against what it would be today.
void compare_with_cut(const JobMaterial& material, const CutSheet& sheet, const std::string& name,
                      const sheets::Part& part, SheetResult& out) {
    for (const CutPart& cut : sheet.parts) {
        if (cut.part_id != part.id) continue;
        const geometry::Polygon now =
            geometry::transformed(cut.turned_over ? geometry::mirrored(part.shape) : part.shape,
                                  units::radians(cut.rotation_deg), {cut.x_mm, cut.y_mm});
        const double off = geometry::farthest_mm(now, cut.outline);
        if (off > unchanged_mm) out.changed_since_cut.push_back({part.id, name, material.id, off});
    }
}

/// The trial pattern of a part: face A as it is offered up, square edges, in any direction of the thin sheet.
piece::Part pattern_of(const piece::Part& part) {
    piece::Part out;
    out.id = part.id + pattern_suffix;
    out.name = part.name + ", trial pattern";
    out.face_a = out.face_b = out.larger = piece::offered_face(part.face_a, part.finished_a);
    return out;
}

void add_patterns(const Job& job, const JobMaterial& material, const Results& so_far, SheetResult& out,
                  sheets::Problem& problem) {
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        const JobPiece& piece = job.pieces[i];
        const auto* shape = made_shape(piece, so_far.pieces[i]);
        if (!shape || piece.pattern_material != material.id || !pattern_to_cut(piece)) continue;
        for (const auto& part : shape->parts) {
            if (piece::is_lid(part)) continue;
            const piece::Part pattern = pattern_of(part);
            auto laid = sheet_part(pattern, piece, material, job.cutting);
            laid.rotations_deg = {0, 90, 180, 270};
            if (const auto* cut = cut_from(job, material.id, laid.id)) {
                compare_with_cut(material, *cut, pattern.name, laid, out);
                continue;
            }
            problem.parts.push_back(std::move(laid));
            out.part_names.push_back(pattern.name);
        }
    }
}

}  // namespace

SheetResult Pipeline::sheet_result(const Job& job, const JobMaterial& material, const Results& so_far,
                                   const KeepGoing& keep_going) {
    SheetResult out;
    out.material_id = material.id;
    sheets::Problem problem;
    problem.name = material.name;
    problem.spacing_mm = job.cutting.spacing_mm;
    problem.edge_margin_mm = job.cutting.edge_margin_mm;
    add_stock(job, material, out, problem);
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        const auto* shape = made_shape(job.pieces[i], so_far.pieces[i]);
        if (job.pieces[i].material_id != material.id || !shape) continue;
        for (const auto& part : shape->parts)
            for (int copy = 1; copy <= sheets_cut(job.pieces[i]); ++copy) {
                auto laid = sheet_part(part, job.pieces[i], material, job.cutting);
                if (copy > 1) laid.id += fmt::format("#{}", copy);
                const std::string name = copy > 1 ? fmt::format("{} ({})", part.name, copy) : part.name;
                if (const auto* cut = cut_from(job, material.id, laid.id)) {
                    compare_with_cut(material, *cut, name, laid, out);
                    continue;
                }
                if (is_cut(job.pieces[i])) {
                    out.said_cut.push_back(laid.id);
                    continue;
                }
                problem.parts.push_back(std::move(laid));
                out.part_names.push_back(name);
            }
    }
    add_patterns(job, material, so_far, out, problem);
    if (problem.parts.empty()) {
        out.problem = std::make_shared<const sheets::Problem>(std::move(problem));
        const bool any = std::any_of(job.cut_sheets.begin(), job.cut_sheets.end(),
                                     [&](const auto& c) { return c.material_id == material.id; });
        if (any || !out.said_cut.empty()) out.layout = std::make_shared<const sheets::Layout>();
        return out;
    }
    for (const LockedLayout& lock : job.layouts) {
        if (lock.material_id != material.id || !lock.in_use) continue;
        const bool whole =
            std::any_of(lock.placements.begin(), lock.placements.end(), [](const auto& at) { return !at.pinned; });
        const auto kept = std::count_if(lock.placements.begin(), lock.placements.end(),
                                        [&](const auto& at) { return !said_cut(out, at.part_id); });
        if (whole || static_cast<std::size_t>(kept) == problem.parts.size()) use_kept(lock, problem, out);
        if (!out.locked) hold_pinned(lock, problem, out);
    }
    out.problem = std::make_shared<const sheets::Problem>(problem);
    if (out.locked) return out;
    out.layout = best_layout({std::move(problem), job.cutting.seed, job.cutting.guillotine}, keep_going);
    return out;
}

std::shared_ptr<const sheets::Layout> Pipeline::best_layout(const LayoutInput& input, const KeepGoing& keep_going) {
    auto best = layouts_.get(input, [&](const LayoutInput& in) {
        sheets::NestOptions options;
        options.rounds = usual_nesting_rounds;
        options.seconds = usual_nesting_seconds;
        options.seed = in.seed;
        options.keep_going = keep_going;
        const bool saw = in.guillotine && in.problem.locked.placements.empty() && sheets::all_rectangles(in.problem);
        auto layout = saw ? sheets::nest_guillotine(in.problem, options) : sheets::nest(in.problem, options);
        ask(keep_going);
        return layout;
    });
    layouts_.each([&](const LayoutInput& known, const sheets::Layout& layout) {
        if (known.guillotine != input.guillotine) return;
        auto over = sheets::carried_over(layout, known.problem, input.problem);
        if (over && sheets::cheaper(input.problem, *over, *best))
            best = std::make_shared<const sheets::Layout>(std::move(*over));
    });
    return best;
}

void Pipeline::lay_out_sheets(const Job& job, Results& results, const KeepGoing& keep_going) {
    std::vector<SheetResult> sheets;
    for (const auto& material : job.materials) {
        ask(keep_going);
        tell(fmt::format("the sheets of '{}'", material.name));
        guarded(results.faults, fmt::format("the sheets of '{}'", material.name), {}, [&] {
            auto result = sheet_result(job, material, results, keep_going);
            if (result.layout) sheets.push_back(std::move(result));
        });
    }
    results.sheets = std::move(sheets);
    results.sheets_pending = false;
}

Result<sheets::Layout> kept_layout(const LockedLayout& lock, const SheetResult& sheets) {
    sheets::Problem free = *sheets.problem;
    free.locked = {};
    return held_layout(lock, sheets, free);
}

LockedLayout lock_layout(const SheetResult& sheets, const sheets::Layout& layout) {
    LockedLayout out;
    out.material_id = sheets.material_id;
    for (int stock : layout.sheet_stock) out.sheets.push_back(sheets.stock_names[static_cast<std::size_t>(stock)]);
    while (!out.sheets.empty() && out.sheets.back().empty()) out.sheets.pop_back();
    const auto& held = sheets.problem->locked.placements;
    for (const auto& at : layout.placements)
        out.placements.push_back({sheets.problem->parts[static_cast<std::size_t>(at.part)].id, at.sheet,
                                  at.rotation_deg, at.shift.x(), at.shift.y(), at.turned_over,
                                  std::find(held.begin(), held.end(), at) != held.end()});
    return out;
}

void use_layout(Job& job, const LockedLayout& layout) {
    std::erase_if(job.layouts, [&](const auto& l) { return l.material_id == layout.material_id && l.in_use; });
    job.layouts.push_back(layout);
    job.layouts.back().in_use = true;
}

}  // namespace bevelsmith::job
