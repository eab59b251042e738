#include "weight/weight.h"

#include <cmath>

namespace bevelsmith::weight {
namespace {

Vec3 centre_of(const piece::Outline& o) {
    // Between the faces' centroids, weighted by their areas.
    const double a = geometry::area_mm2(o.face_a), b = geometry::area_mm2(o.face_b);
    const Vec3 ca = o.frame.to_space(geometry::centroid(o.face_a));
    const Vec3 cb = o.frame.to_space(geometry::centroid(o.face_b)) + o.frame.normal * o.thickness_mm;
    return (a * ca + b * cb) / (a + b);
}

/// The fixing runs along the edge: its centre is the edge's own.
Vec3 edge_centre(const piece::Outline& o, const Vec3& otherwise) {
    Vec2 moment(0, 0);
    double length = 0;
    for (std::size_t i = 1; i < o.marks.size(); ++i) {
        if (!o.marks[i].kept || !o.marks[i - 1].kept) continue;
        const double step = (o.marks[i].a - o.marks[i - 1].a).norm();
        moment += step * (o.marks[i].a + o.marks[i - 1].a) / 2;
        length += step;
    }
    return length > 0 ? Vec3(o.frame.to_space(moment / length) + o.frame.normal * o.thickness_mm / 2) : otherwise;
}

}  // namespace

PieceMass weigh(const piece::Outline& o, double panel_kg_m2, const stock::Coating& coating,
                const fixing::Plan& fixing) {
    double a = geometry::area_mm2(o.face_a), b = geometry::area_mm2(o.face_b);
    for (const auto& lid : o.lids) a += geometry::area_mm2(lid.shape), b += geometry::area_mm2(lid.shape);
    PieceMass out;
    const Vec3 centre = centre_of(o);
    out.panel = {(a + b) / 2 * 1e-6 * panel_kg_m2, centre};
    out.coating = {(a + b) * 1e-6 * coating.mass_kg_m2, centre};
    out.fixing = {fixing.mass_kg, edge_centre(o, centre)};
    const Mass all[] = {out.panel, out.coating, out.fixing};
    out.total = sum(all);
    return out;
}

Mass sum(std::span<const Mass> masses) {
    Mass out;
    for (const Mass& m : masses) {
        out.mass_kg += m.mass_kg;
        out.centre_mm += m.mass_kg * m.centre_mm;
    }
    if (out.mass_kg > 0) out.centre_mm /= out.mass_kg;
    return out;
}

Attitude attitude(const Mass& added, const Mass& removed, const Hydrostatics& boat) {
    if (!(boat.displacement_kg > 0 && boat.gm_m > 0 && boat.mctc_tm > 0)) return {};
    const double all_kg = boat.displacement_kg + added.mass_kg - removed.mass_kg;
    if (all_kg <= 0) return {};
    const Vec3 lever(boat.flotation_x_mm, 0, 0);
    const Vec3 moment_kg_m =
        (added.mass_kg * (added.centre_mm - lever) - removed.mass_kg * (removed.centre_mm - lever)) / 1000;
    return {true, std::atan(moment_kg_m.y() / (all_kg * boat.gm_m)), moment_kg_m.x() / 1000 / boat.mctc_tm};
}

double box_metacentric_radius_m(double side_m, double draught_m) {
    return side_m * side_m / (12 * draught_m);
}

double moment_to_change_trim_tm(double displacement_t, double gm_l_m, double length_m) {
    return displacement_t * gm_l_m / (100 * length_m);
}

}  // namespace bevelsmith::weight
