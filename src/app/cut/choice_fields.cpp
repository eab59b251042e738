#include "app/cut/choice_fields.h"

#include <algorithm>

#include "job/cut_sheets.h"
#include "job/in_full.h"
#include "sheets/place_on.h"
#include "units/ranges.h"

namespace bevelsmith::app {
namespace {

using What = CutChoice::What;

QString length(const Document& d, double mm) {
    return d.length(mm);
}

void pin(Document& document, CutState& state, const std::string& part_id) {
    const auto* r = state.result();
    if (!r) return;
    // Pinning keeps the layout as it stands: the machine lays out the rest when that is let go.
    auto lock = job::lock_layout(*r, *r->layout);
    for (auto& at : lock.placements) at.pinned = state.is_pinned(at.part_id) != (at.part_id == part_id);
    document.edit(state.is_pinned(part_id) ? "Unpin a part" : "Pin a part",
                  [&](job::Job& job) { job::use_layout(job, lock); });
}

/// To where it finds room on another sheet; where there is none, the drawing says so.
void send(Document& document, CutState& state, const std::string& part_id, int sheet) {
    const auto* r = state.result();
    if (!r) return;
    sheets::Problem free = *r->problem;
    free.locked = {};  // by hand a pinned part may be moved
    const auto at = std::find_if(r->layout->placements.begin(), r->layout->placements.end(), [&](const auto& one) {
        return free.parts[static_cast<std::size_t>(one.part)].id == part_id;
    });
    if (at == r->layout->placements.end()) return;
    const auto which = static_cast<std::size_t>(at - r->layout->placements.begin());
    const auto moved = sheets::moved_to_sheet(free, *r->layout, which, sheet);
    if (!moved) return state.refuse(QString("Sheet %1 has no room for it beside what lies there.").arg(sheet + 1));
    auto lock = job::lock_layout(*r, *moved);
    for (auto& one : lock.placements) one.pinned = state.is_pinned(one.part_id);
    document.edit("Send a part to another sheet", [&](job::Job& job) { job::use_layout(job, lock); });
}

void add_part(FieldList& fields, Document& document, CutState& state) {
    const auto* r = state.result();
    const auto part = std::find_if(r->problem->parts.begin(), r->problem->parts.end(),
                                   [&](const auto& p) { return p.id == state.choice.part_id; });
    if (part == r->problem->parts.end()) return;
    const auto k = static_cast<std::size_t>(part - r->problem->parts.begin());
    const auto size = geometry::bounding_box(part->shape.outer).size();
    fields.heading(QString::fromStdString(part->id + ", " + r->part_names[k]));
    fields.heading(
        QString("%1 along the grain, %2 across").arg(length(document, size.x()), length(document, size.y())));
    std::vector<int> there;  // the sheets that it may go to, as the menu names them
    QStringList names;
    const int sheets = static_cast<int>(r->layout->sheet_stock.size());
    for (int s = 0; s < sheets; ++s) {
        if (s == state.choice.sheet) continue;
        there.push_back(s);
        names << QString("sheet %1").arg(s + 1);
    }
    there.push_back(sheets);
    names << "a sheet of its own";
    fields.menu("Send it to another sheet", names, [&document, &state, id = part->id, there](const QVariant& v) {
        send(document, state, id, there[static_cast<std::size_t>(v.toInt())]);
    });
    fields.button(state.is_pinned(part->id) ? "Unpin it" : "Pin it where it lies",
                  [&document, &state, id = part->id] { pin(document, state, id); });
}

/// What of the sheet is left to be used, and what is lost between the parts, and to what.
void add_what_is_left(FieldList& fields, const Document& document, const CutState& state, int sheet) {
    job::Job trial = document.job();
    trial.cut_sheets.clear();
    job::mark_cut(trial, *state.result(), sheet);
    if (trial.cut_sheets.empty()) return;
    const auto& cut = trial.cut_sheets.front();
    double kept = 0, parts = 0;
    for (const auto& piece : job::rest_of(cut, trial.cutting)) kept += geometry::area_mm2(piece);
    for (const auto& part : cut.parts) parts += geometry::area_mm2(part.outline);
    const double lost = std::max(0.0, geometry::area_mm2(cut.shape) - parts - kept);
    fields.heading(QString("%1 can be kept, %2 is lost").arg(document.area(kept), document.area(lost)));
    fields.heading(
        QString("lost to saw and edge, and under %1 wide").arg(length(document, trial.cutting.least_offcut_mm)));
}

void add_sheet(FieldList& fields, Document& document, CutState& state) {
    const auto* r = state.result();
    const int s = state.choice.sheet;
    double used = 0;
    int parts = 0;
    for (const auto& at : r->layout->placements)
        if (at.sheet == s) {
            used += geometry::area_mm2(r->problem->parts[static_cast<std::size_t>(at.part)].shape);
            ++parts;
        }
    const auto stock = static_cast<std::size_t>(r->layout->sheet_stock[static_cast<std::size_t>(s)]);
    const double whole = geometry::area_mm2(r->problem->stock[stock].shape);
    const auto& offcut = r->stock_names[stock];
    fields.heading(offcut.empty() ? QString("Sheet %1").arg(s + 1) : "Offcut " + QString::fromStdString(offcut));
    fields.heading(
        QString("%1 %2, %3 % used").arg(parts).arg(parts == 1 ? "part" : "parts").arg(100 * used / whole, 0, 'f', 0));
    add_what_is_left(fields, document, state, s);
    fields.button("It has been cut", [&document, &state, s] {
        const auto* result = state.result();
        if (!result) return;
        const auto computed = *result;
        document.edit("Mark a sheet as cut",
                      [&](job::Job& job) { state.cut_next = job::mark_cut(job, computed, s); });
    });
}

void add_cut_sheet(FieldList& fields, Document& document, CutState& state) {
    const auto& cut = *state.cut_sheets()[static_cast<std::size_t>(state.choice.sheet)];
    const std::string id = cut.id;
    fields.heading(QString("%1, cut: %2").arg(QString::fromStdString(id), QString::fromStdString(cut.name)));
    const auto rest = job::rest_of(cut, document.job().cutting);
    double left = 0;
    for (const auto& piece : rest) left += geometry::area_mm2(piece);
    fields.heading(rest.empty()
                       ? QString("nothing of use is left of it")
                       : QString("%1, %2, left")
                             .arg(rest.size() == 1 ? QString("one offcut") : QString("%1 offcuts").arg(rest.size()))
                             .arg(document.area(left)));
    if (!cut.rest_kept && !rest.empty())
        fields.button("Keep what is left", [&document, id] {
            document.edit("Keep what is left of a sheet", [&](job::Job& job) { job::keep_rest(job, id); });
        });
    job::Job trial = document.job();
    if (job::mark_not_cut(trial, id))
        fields.button("It is not cut after all", [&document, id] {
            document.edit("Take a cut sheet back", [&](job::Job& job) { job::mark_not_cut(job, id); });
        });
    QStringList parts{"choose one"};
    std::vector<std::string> ids{{}};
    for (const auto& part : cut.parts) {
        if (part.part_id.rfind('-', 0) == 0) continue;
        parts << QString::fromStdString(part.part_id + ", " + part.name);
        ids.push_back(part.part_id);
    }
    if (ids.size() < 2) return;
    fields.choice("part to be cut anew", 0, parts, [&state, chosen = ids](const QVariant& v) {
        state.anew =
            chosen[static_cast<std::size_t>(std::clamp<int>(v.toInt(), 0, static_cast<int>(chosen.size()) - 1))];
    });
    fields.button("Cut that part anew", [&document, &state, material = cut.material_id] {
        if (state.anew.empty()) return;
        document.edit("Cut a part anew", [&](job::Job& job) { job::cut_anew(job, material, state.anew); });
        state.anew.clear();
    });
}

}  // namespace

void add_choice_fields(FieldList& fields, Document& document, CutState& state) {
    if (!state.result()) return;
    switch (state.choice.what) {
        case What::part: return add_part(fields, document, state);
        case What::sheet: return add_sheet(fields, document, state);
        case What::cut_sheet: return add_cut_sheet(fields, document, state);
        case What::nothing: return;
    }
}

void add_rule_fields(FieldList& fields, Document& document) {
    const auto& now = document.job().cutting;
    using R = job::CuttingRules;
    const auto by = [&document](auto change) {
        return [&document, change](const QVariant& v) {
            document.edit("Change how it is cut", [&](job::Job& job) { change(job.cutting, v); });
        };
    };
    const auto set = [&by](double R::*member) {
        return by([member](R& rules, const QVariant& v) { rules.*member = v.toDouble(); });
    };
    namespace range = units::range;
    fields.choice("cut with", static_cast<int>(now.tool), {"jigsaw", "track saw", "router"},
                  by([](R& rules, const QVariant& v) { rules.tool = static_cast<job::Tool>(v.toInt()); }));
    fields.length("between parts", now.spacing_mm, set(&R::spacing_mm), range::spacing.least, range::spacing.most)
        .length("sheet's edge left", now.edge_margin_mm, set(&R::edge_margin_mm), range::spacing.least,
                range::spacing.most);
    if (now.tool == job::Tool::router)
        fields.length("cutter, across", now.cutter_mm, set(&R::cutter_mm), range::kerf.least, range::kerf.most);
    if (now.tool == job::Tool::track_saw)
        fields.toggle("from edge to edge, rectangles", now.guillotine,
                      by([](R& rules, const QVariant& v) { rules.guillotine = v.toBool(); }));
    fields
        .degrees("off the grain's direction by at most", now.grain_tolerance_deg, set(&R::grain_tolerance_deg),
                 range::grain_tolerance.least, range::grain_tolerance.most)
        .length("least offcut kept, wide", now.least_offcut_mm, set(&R::least_offcut_mm), range::sheet.least,
                range::sheet.most)
        .length("width of the saw cut, lengths", now.kerf_mm, set(&R::kerf_mm), range::kerf.least, range::kerf.most)
        .number("bought as a reserve", "%", now.reserve_percent, set(&R::reserve_percent), range::percent.least,
                range::percent.most);
}

}  // namespace bevelsmith::app
