#include "stock/material.h"

#include "units/quantity.h"

namespace bevelsmith::stock {

double resin_per_glass(GlassKind kind) {
    return kind == GlassKind::mat ? 2.25 : 1.0;
}

double glass_fraction(GlassKind kind) {
    return 1 / (1 + resin_per_glass(kind));
}

double laminate_thickness_mm(double glass_kg_m2, double fraction) {
    return glass_kg_m2 * (2.56 / fraction - 1.36) / 3.072;
}

double screw_shank_mm(int gauge) {
    return (0.060 + 0.013 * gauge) * units::mm_per_inch;
}

const std::vector<double>& screw_lengths_mm() {
    static const std::vector<double> lengths{12, 16, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80};
    return lengths;
}

double screw_mass_kg(int gauge, double length_mm) {
    constexpr double steel_kg_mm3 = 7.9e-6;
    const double radius = screw_shank_mm(gauge) / 2;
    return units::pi * radius * radius * (length_mm + 6) * steel_kg_mm3;
}

const char* glass_name(GlassKind kind) {
    switch (kind) {
        case GlassKind::mat: return "mat";
        case GlassKind::woven: return "woven";
        case GlassKind::biaxial: return "biaxial";
    }
    return "";
}

}  // namespace bevelsmith::stock
