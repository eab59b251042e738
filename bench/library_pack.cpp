#include "library_pack.h"

#define LIBNEST2D_GEOMETRIES_clipper
#define LIBNEST2D_OPTIMIZER_nlopt
#define LIBNEST2D_THREADING_std
#include <libnest2d/libnest2d.hpp>

#include <cmath>

namespace {

constexpr double units_per_mm = 1e5;

libnest2d::Coord coordinate(double mm) {
    return static_cast<libnest2d::Coord>(std::llround(mm * units_per_mm));
}

libnest2d::Item item_of(const std::vector<std::pair<double, double>>& outline) {
    // The library's rings run clockwise and are closed.
    ClipperLib::Path path;
    for (auto p = outline.rbegin(); p != outline.rend(); ++p)
        path.emplace_back(coordinate(p->first), coordinate(p->second));
    path.push_back(path.front());
    return libnest2d::Item(path);
}

}  // namespace

std::vector<PackedPart> library_pack(const std::vector<std::vector<std::pair<double, double>>>& outlines,
                                     double bin_width_mm, double bin_height_mm, double spacing_mm) {
    std::vector<libnest2d::Item> items;
    for (const auto& outline : outlines) items.push_back(item_of(outline));
    const libnest2d::Box bin(coordinate(bin_width_mm), coordinate(bin_height_mm));
    libnest2d::NestConfig<libnest2d::NfpPlacer, libnest2d::FirstFitSelection> config;
    config.placer_config.rotations = {0, M_PI / 2, M_PI, 3 * M_PI / 2};
    config.placer_config.alignment = libnest2d::NfpPlacer::Config::Alignment::BOTTOM_LEFT;
    config.placer_config.starting_point = libnest2d::NfpPlacer::Config::Alignment::BOTTOM_LEFT;
    libnest2d::nest(items, bin, coordinate(spacing_mm), config);
    std::vector<PackedPart> out;
    for (const auto& item : items)
        out.push_back({item.binId(), static_cast<double>(item.rotation()),
                       static_cast<double>(item.translation().X) / units_per_mm,
                       static_cast<double>(item.translation().Y) / units_per_mm});
    return out;
}
