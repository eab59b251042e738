#include "job/silhouette.h"

#include <algorithm>

#include "geometry/polygon.h"
#include "survey/points.h"

namespace bevelsmith::job {
namespace {

constexpr std::size_t most_places = 24;
constexpr std::size_t most_strokes = 40;

/// The positions of each set, thinned to a stroke's worth.
std::vector<std::vector<Vec3>> strokes_in_space(const Job& job) {
    std::vector<std::vector<Vec3>> out;
    const auto sets = readings_in_boat(job);
    if (!sets) return out;
    for (const auto& spec : job.surfaces) {
        const auto points = survey::points_of(*sets, spec.id);
        if (!points) continue;
        std::vector<std::vector<Vec3>> of_set(job.readings.size());
        for (const auto& p : *points)
            if (p.set >= 0 && p.set < static_cast<int>(of_set.size()))
                of_set[static_cast<std::size_t>(p.set)].push_back(p.position);
        for (const auto& all : of_set) {
            if (all.empty() || out.size() >= most_strokes) continue;
            const std::size_t step = (all.size() + most_places - 1) / most_places;
            auto& stroke = out.emplace_back();
            for (std::size_t k = 0; k < all.size(); k += step) stroke.push_back(all[k]);
        }
    }
    return out;
}

}  // namespace

std::vector<std::vector<Vec2>> silhouette(const Job& job) {
    const auto space = strokes_in_space(job);
    std::vector<std::vector<Vec2>> out;
    if (space.empty()) return out;
    Vec3 low = space.front().front(), high = low;
    for (const auto& stroke : space)
        for (const Vec3& p : stroke) low = low.cwiseMin(p), high = high.cwiseMax(p);
    const Vec3 size = high - low;
    // Across the boat where she was measured across, else along her.
    const bool from_aft = size.y() > size.x() / 20;
    const double span = std::max({from_aft ? size.y() : size.x(), size.z(), 1e-6});
    for (const auto& stroke : space) {
        auto& line = out.emplace_back();
        for (const Vec3& p : stroke) {
            const double across = from_aft ? high.y() - p.y() : p.x() - low.x();
            line.emplace_back(across / span, (p.z() - low.z()) / span);
        }
    }
    return out;
}

}  // namespace bevelsmith::job
