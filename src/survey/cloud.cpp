#include "survey/cloud.h"

#include <algorithm>
#include <cmath>
#include <unordered_map>

#include "geometry/polygon.h"
#include "survey/cubes.h"

namespace bevelsmith::survey {
namespace {

/// A loop with the box around it, which most points do not lie in.
struct BoxedLoop {
    geometry::Polygon shape;
    geometry::Box box;
    int across, up;
    explicit BoxedLoop(const CloudLoop& loop) : shape{loop.ring, {}}, across(loop.across), up(loop.up) {
        box = geometry::bounding_box(loop.ring);
    }
    bool holds(const Vec3& p) const {
        const Vec2 q(p[across], p[up]);
        return shape.outer.size() > 2 && (q.array() >= box.min.array()).all() &&
               (q.array() <= box.max.array()).all() && geometry::contains(shape, q);
    }
};

}  // namespace

CloudBox box_of(std::span<const Vec3> cloud) {
    if (cloud.empty()) return {};
    CloudBox out{cloud[0], cloud[0]};
    for (const Vec3& p : cloud) {
        out.low = out.low.cwiseMin(p);
        out.high = out.high.cwiseMax(p);
    }
    return out;
}

Cloud cropped(std::span<const Vec3> cloud, const CloudCut& cut) {
    const std::vector<BoxedLoop> loops(cut.loops.begin(), cut.loops.end());
    Cloud out;
    for (const Vec3& p : cloud) {
        if (cut.low && (p.array() < cut.low->array()).any()) continue;
        if (cut.high && (p.array() > cut.high->array()).any()) continue;
        if (cut.plane && std::abs(cut.plane->distance_mm(p)) > cut.slab_mm) continue;
        if (std::any_of(loops.begin(), loops.end(), [&](const BoxedLoop& loop) { return loop.holds(p); })) continue;
        out.push_back(p);
    }
    return out;
}

Cloud thinned(std::span<const Vec3> cloud, double cell_mm) {
    struct Cell {
        Vec3 sum = Vec3::Zero();
        int count = 0;
        double nearest = std::numeric_limits<double>::infinity();
    };
    std::unordered_map<std::uint64_t, std::size_t, SpreadBits> known;
    std::vector<Cell> cells;
    std::vector<std::uint32_t> cell_of(cloud.size());
    for (std::size_t i = 0; i < cloud.size(); ++i) {
        const auto [at, fresh] = known.try_emplace(cube_of(cloud[i], cell_mm), cells.size());
        if (fresh) cells.emplace_back();
        Cell& cell = cells[at->second];
        cell.sum += cloud[i];
        ++cell.count;
        cell_of[i] = static_cast<std::uint32_t>(at->second);
    }
    Cloud out(cells.size());
    for (std::size_t i = 0; i < cloud.size(); ++i) {
        Cell& cell = cells[cell_of[i]];
        const double far = (cloud[i] - cell.sum / cell.count).squaredNorm();
        if (far >= cell.nearest) continue;
        cell.nearest = far;
        out[cell_of[i]] = cloud[i];
    }
    return out;
}

Cloud cut_cloud(std::span<const Vec3> cloud, const CloudCut& cut) {
    Cloud out = cropped(cloud, cut);
    return cut.cell_mm > 0 && !out.empty() ? thinned(out, cut.cell_mm) : out;
}

double cell_for(std::span<const Vec3> cloud, std::size_t wanted) {
    if (cloud.size() <= wanted) return 0;
    // The points lie on surfaces, so that cells go with the square of their edge; a few tries settle it.
    const CloudBox box = box_of(cloud);
    double cell = std::max(1.0, (box.high - box.low).norm() / std::sqrt(static_cast<double>(wanted)));
    for (int k = 0; k < 4; ++k) {
        const double left = static_cast<double>(thinned(cloud, cell).size());
        cell = std::max(1.0, cell * std::sqrt(left / static_cast<double>(wanted)));
    }
    return std::round(cell);
}

}  // namespace bevelsmith::survey
