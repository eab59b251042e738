#include "job/layup_work.h"

namespace bevelsmith::job {
namespace {

/// Of a roll of cloth (common practice).
constexpr double roll_wide_mm = 1270;

double length_of(const std::vector<stock::ClothCut>& cuts) {
    double out = 0;
    for (const auto& c : cuts) out += c.count * c.long_mm;
    return out;
}

}  // namespace

LayupWork layup_work(const Job& job, const JobPiece& piece, const piece::Outline& shape) {
    LayupWork out;
    const double m2 = (geometry::area_mm2(shape.face_a) + geometry::area_mm2(shape.face_b)) / 2e6;
    std::vector<stock::Plies> all;
    for (const auto* face : {&piece.layup.face_a, &piece.layup.face_b}) {
        if (face->empty()) continue;
        ++out.faces;
        const stock::Skin skin = stock::skin_of(*face);
        out.glass_kg += skin.glass_kg_m2 * m2;
        out.resin_kg += skin.resin_kg_m2 * m2 * (1 + job.fixing_rules.resin_waste);
        for (const auto& one : *face) out.plies += one.count, all.push_back(one);
    }
    if (out.plies == 0) return out;
    out.hours = out.plies * m2 * job.costs.laminating_h_m2;
    out.cure_h = out.faces * job.costs.cure_h;
    const auto box = geometry::bounding_box(shape.face_a.outer);
    out.cuts = stock::cloth_cuts(all, box.width(), box.height(), roll_wide_mm);
    const auto other = stock::cloth_cuts(all, box.height(), box.width(), roll_wide_mm);
    if (length_of(other) < length_of(out.cuts)) out.cuts = other;
    out.roll_mm = length_of(out.cuts);
    return out;
}

}  // namespace bevelsmith::job
