#include "stock/layup.h"

#include <algorithm>
#include <cmath>

namespace bevelsmith::stock {
namespace {

double fraction_of(const Plies& plies) {
    return plies.fraction > 0 ? plies.fraction : glass_fraction(plies.glass.kind);
}

}  // namespace

double ply_thickness_mm(const Plies& plies) {
    return laminate_thickness_mm(plies.glass.mass_g_m2 / 1000, fraction_of(plies));
}

Skin skin_of(const std::vector<Plies>& plies) {
    Skin out;
    for (const Plies& one : plies) {
        const double glass = one.count * one.glass.mass_g_m2 / 1000;
        out.thickness_mm += one.count * ply_thickness_mm(one);
        out.glass_kg_m2 += glass;
        out.resin_kg_m2 += glass * (1 / fraction_of(one) - 1);
    }
    return out;
}

std::vector<ClothCut> cloth_cuts(const std::vector<Plies>& plies, double along_mm, double across_mm, double roll_mm) {
    constexpr double overlap_mm = 30;
    std::vector<ClothCut> out;
    if (roll_mm <= overlap_mm) return out;
    const auto add = [&](const Glass& glass, int count, double wide) {
        if (count == 0) return;
        for (ClothCut& one : out)
            if (one.glass == glass && one.wide_mm == wide) return void(one.count += count);
        out.push_back({glass, count, wide, along_mm});
    };
    const int whole = std::max(0, static_cast<int>(std::ceil((across_mm - roll_mm) / (roll_mm - overlap_mm) - 1e-9)));
    const double last = across_mm - whole * (roll_mm - overlap_mm);
    for (const Plies& one : plies) {
        add(one.glass, one.count * whole, roll_mm);
        add(one.glass, one.count, last);
    }
    return out;
}

double thickness_mm(const Layup& layup, double core_mm) {
    return core_mm + skin_of(layup.face_a).thickness_mm + skin_of(layup.face_b).thickness_mm;
}

double mass_kg_m2(const Layup& layup, double core_mm, double core_density_kg_m3) {
    return core_mm / 1000 * core_density_kg_m3 + skin_of(layup.face_a).mass_kg_m2() +
           skin_of(layup.face_b).mass_kg_m2() + layup.covering_a.kg_m2 + layup.covering_b.kg_m2;
}

bool is_balanced(const Layup& layup) {
    const double a = skin_of(layup.face_a).thickness_mm, b = skin_of(layup.face_b).thickness_mm;
    return std::abs(a - b) <= 0.1 * std::max(a, b);
}

}  // namespace bevelsmith::stock
