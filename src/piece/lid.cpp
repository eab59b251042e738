#include "piece/lid.h"

#include <fmt/format.h>

#include <algorithm>

#include "piece/features.h"
#include "units/quantity.h"

namespace bevelsmith::piece {
namespace {

constexpr double spare_mm = 1;

void set_blank(Part& part, const PieceSpec& spec) {
    const auto turned = geometry::transformed(part.larger.outer, -units::radians(spec.grain_deg), {0, 0});
    part.blank = geometry::bounding_box(turned);
    part.blank.min -= Vec2::Constant(spec.blank_margin_mm);
    part.blank.max += Vec2::Constant(spec.blank_margin_mm);
    part.blank_along_mm = part.blank.width(), part.blank_across_mm = part.blank.height();
}

}  // namespace

OwnLid own_lid(double clearance_mm, double kerf_mm, double film_mm) {
    const double coats = 2 * film_mm;
    return {kerf_mm, coats, clearance_mm + coats - kerf_mm};
}

bool can_be_plunged(const OpeningSpec& opening) {
    constexpr double least_straight_mm = 120;
    if (!opening.line.empty()) return false;
    const double radius = std::min({opening.radius_mm, opening.width_mm / 2, opening.height_mm / 2});
    return std::min(opening.width_mm, opening.height_mm) - 2 * radius >= least_straight_mm;
}

std::vector<Lid> lids_of(const PieceSpec& spec, double film_mm) {
    std::vector<Lid> out;
    for (std::size_t k = 0; k < spec.openings.size(); ++k) {
        const OpeningSpec& o = spec.openings[k];
        if (o.lid == LidFrom::none) continue;
        const auto smaller =
            geometry::offset(opening_shape(o), -(o.lid_clearance_mm + 2 * film_mm), geometry::Corner::round);
        if (smaller.empty()) continue;
        out.push_back({static_cast<int>(k), o.lid, geometry::largest(smaller)});
    }
    return out;
}

std::vector<Part> lid_parts(const PieceSpec& spec, const std::vector<Lid>& lids, double thickness_mm,
                            const Passage& passage) {
    std::vector<Part> out;
    for (const Lid& lid : lids) {
        if (lid.from != LidFrom::the_sheet) continue;
        Part part;
        const auto& name = spec.openings[static_cast<std::size_t>(lid.opening)].name;
        part.id = fmt::format("{}/lid {}", spec.id, lid.opening + 1);
        part.name = fmt::format("{}, lid of {}", spec.name, name);
        part.face_a = part.face_b = part.larger = lid.shape;
        part.passing_width_mm = geometry::minimum_width(lid.shape.outer).width_mm;
        part.passes = panel_passes(lid.shape.outer, thickness_mm, passage);
        set_blank(part, spec);
        out.push_back(std::move(part));
    }
    return out;
}

bool is_lid(const Part& part) {
    return part.id.find("/lid ") != std::string::npos;
}

double trim_width_mm(double gap_mm, double edge_distance_mm, double head_radius_mm) {
    return gap_mm + 2 * (edge_distance_mm + head_radius_mm);
}

double least_lipping_mm(const EdgeSpec& edge) {
    return edge.planing_mm + edge.round_mm + spare_mm;
}

}  // namespace bevelsmith::piece
