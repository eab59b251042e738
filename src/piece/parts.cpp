#include "piece/parts.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "piece/joints.h"
#include "units/quantity.h"

namespace bevelsmith::piece {
namespace {

using geometry::Box;
using geometry::Polygon;

/// More joints than this and the piece should be thought about again, not cut up further.
constexpr int most_joints = 8;

std::vector<JointSpec> sorted(std::vector<JointSpec> joints, bool upright) {
    std::erase_if(joints, [&](const JointSpec& j) { return j.upright != upright; });
    std::sort(joints.begin(), joints.end(), [](const auto& a, const auto& b) { return a.at_mm < b.at_mm; });
    return joints;
}

/// The bands between joint lines, each reaching past its joints as these want.
std::vector<std::pair<double, double>> bands(const std::vector<JointSpec>& joints, double low, double high,
                                             double thickness) {
    std::vector<std::pair<double, double>> out;
    double from = low;
    for (const JointSpec& j : joints) {
        const auto [lower, upper] = reach_past_mm(j, thickness);
        out.emplace_back(from, j.at_mm + lower);
        from = j.at_mm - upper;
    }
    out.emplace_back(from, high);
    return out;
}

std::vector<Polygon> cut_to(const Polygon& whole, const Box& box) {
    return geometry::intersect({whole}, {Polygon{geometry::rectangle(box), {}}});
}

void set_blank(Part& part, const PieceSpec& spec) {
    const auto turned = geometry::transformed(part.larger.outer, -units::radians(spec.grain_deg), {0, 0});
    part.blank = geometry::bounding_box(turned);
    part.blank.min -= Vec2::Constant(spec.blank_margin_mm);
    part.blank.max += Vec2::Constant(spec.blank_margin_mm);
    part.blank_along_mm = part.blank.width();
    part.blank_across_mm = part.blank.height();
}

std::string side_name(int index, int count) {
    if (count == 2) return index == 0 ? "left half" : "right half";
    return fmt::format("part {} of {}", index + 1, count);
}

/// What of the finished piece belongs to a part: within its band, and where the part is.
Polygon finished_of(const Polygon& whole, const Box& window, const Polygon& part) {
    Polygon out;
    double most = 0;
    for (Polygon& candidate : cut_to(whole, window)) {
        const double shared = geometry::total_area_mm2(geometry::intersect({candidate}, {part}));
        if (shared > most) most = shared, out = std::move(candidate);
    }
    return out;
}

std::vector<Part> parts_of(const PieceSpec& spec, const Passage& passage, const Outline& outline,
                           const KeepGoing& keep_going) {
    const Polygon whole = geometry::largest(geometry::unite({outline.sheet_a}, {outline.sheet_b}));
    Box box = geometry::bounding_box(whole.outer);
    // Lippings stand beyond what is cut.
    for (const Polygon* finished : {&outline.face_a, &outline.face_b})
        for (const Vec2& p : finished->outer) box.min = box.min.cwiseMin(p), box.max = box.max.cwiseMax(p);
    std::vector<Part> parts;
    for (const auto& [left, right] :
         bands(sorted(outline.joints, true), box.min.x() - 1, box.max.x() + 1, outline.thickness_mm))
        for (const auto& [low, high] :
             bands(sorted(outline.joints, false), box.min.y() - 1, box.max.y() + 1, outline.thickness_mm)) {
            const Box window{{left, low}, {right, high}};
            // A doorway through a joint leaves a band in several parts.
            ask(keep_going);
            for (const Polygon& larger : cut_to(whole, window)) {
                Part part;
                part.larger = larger;
                part.face_a = geometry::largest(geometry::intersect({outline.sheet_a}, {larger}));
                part.face_b = geometry::largest(geometry::intersect({outline.sheet_b}, {larger}));
                if (geometry::area_mm2(part.face_a) < 1) continue;
                part.passing_width_mm = geometry::minimum_width(larger.outer).width_mm;
                part.passes = panel_passes(larger.outer, outline.thickness_mm, passage);
                if (outline.cut_differs()) {
                    part.finished_a = finished_of(outline.face_a, window, larger);
                    part.finished_b = finished_of(outline.face_b, window, larger);
                }
                set_blank(part, spec);
                parts.push_back(std::move(part));
            }
        }
    for (std::size_t i = 0; i < parts.size(); ++i) {
        const bool single = parts.size() == 1;
        parts[i].id = single ? spec.id : fmt::format("{}/{}", spec.id, i + 1);
        parts[i].name =
            single ? spec.name
                   : fmt::format("{}, {}", spec.name, side_name(static_cast<int>(i), static_cast<int>(parts.size())));
    }
    return parts;
}

/// A scarf through the middle of the widest part that will not pass, across its longer side, clear of openings
/// where the middle can be moved by a quarter of the part.
JointSpec scarf_through(const PieceSpec& spec, const Part& part) {
    const Box box = geometry::bounding_box(part.larger.outer);
    JointSpec joint;
    joint.kind = JointKind::scarf;
    joint.slope = spec.scarf_slope;
    joint.upright = box.width() >= box.height();
    joint.at_mm = joint.upright ? box.centre().x() : box.centre().y();
    return joint;
}

bool all_go(const Outline& outline, const SheetRoom& sheet) {
    return std::all_of(outline.parts.begin(), outline.parts.end(),
                       [&](const Part& part) { return part.passes && fits_sheet(part, sheet); });
}

/// So many scarfs at even distances, upright or level.
std::vector<JointSpec> even_scarfs(const PieceSpec& spec, const Outline& outline, int count, bool upright) {
    const Box box = geometry::bounding_box(outline.sheet_a.outer);
    const double low = upright ? box.min.x() : box.min.y(), high = upright ? box.max.x() : box.max.y();
    std::vector<JointSpec> out;
    for (int k = 1; k <= count; ++k) {
        JointSpec& joint = out.emplace_back();
        joint.kind = JointKind::scarf, joint.slope = spec.scarf_slope, joint.upright = upright;
        joint.at_mm = low + (high - low) * k / (count + 1);
    }
    return out;
}

/// The fewest even scarfs with which every part passes and fits the sheet; `outline` as it was where there are none.
void divide_for_sheet(const PieceSpec& spec, const Passage& passage, const SheetRoom& sheet, Outline& outline,
                      const KeepGoing& keep_going) {
    const Box box = geometry::bounding_box(outline.sheet_a.outer);
    const bool along = box.width() >= box.height();
    for (int n = 1; n <= most_joints; ++n)
        for (const bool upright : {along, !along}) {
            Outline trial = outline;
            trial.joints = even_scarfs(spec, outline, n, upright);
            trial.parts = parts_of(spec, passage, trial, keep_going);
            if (!all_go(trial, sheet)) continue;
            trial.joints_added = n;
            outline = std::move(trial);
            return;
        }
}

}  // namespace

bool fits_sheet(const Part& part, const SheetRoom& sheet) {
    const auto within = [&](double along, double across) {
        return along <= sheet.along_mm + 1e-6 && across <= sheet.across_mm + 1e-6;
    };
    return within(part.blank_along_mm, part.blank_across_mm) ||
           (!sheet.grain && within(part.blank_across_mm, part.blank_along_mm));
}

void divide(const PieceSpec& spec, const Passage& passage, const std::optional<SheetRoom>& sheet, Outline& outline,
            const KeepGoing& keep_going) {
    const bool own = outline.joints.empty();
    outline.parts = parts_of(spec, passage, outline, keep_going);
    while (spec.split_for_passage && static_cast<int>(outline.joints.size()) < most_joints) {
        const auto stuck =
            std::max_element(outline.parts.begin(), outline.parts.end(), [](const Part& a, const Part& b) {
                return (a.passes ? 0 : a.passing_width_mm) < (b.passes ? 0 : b.passing_width_mm);
            });
        if (stuck == outline.parts.end() || stuck->passes) break;
        outline.joints.push_back(scarf_through(spec, *stuck));
        ++outline.joints_added;
        outline.parts = parts_of(spec, passage, outline, keep_going);
    }
    // Joints that a person gave stay as they are.
    if (own && sheet && spec.split_for_passage && !all_go(outline, *sheet))
        divide_for_sheet(spec, passage, *sheet, outline, keep_going);
}

}  // namespace bevelsmith::piece
