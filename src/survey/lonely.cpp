#include "survey/lonely.h"

#include <algorithm>
#include <array>
#include <cstdint>
#include <nanoflann.hpp>
#include <unordered_map>

#include "survey/cubes.h"

namespace bevelsmith::survey {
namespace {

constexpr std::size_t fewest = 200, company = 8, sample = 4000;
constexpr double keep_so_many = 0.9, wider = 2.5, least_region = 0.001;

/// The cloud as nanoflann asks for it.
struct Places {
    std::span<const Vec3> cloud;
    std::size_t kdtree_get_point_count() const { return cloud.size(); }
    double kdtree_get_pt(std::size_t i, std::size_t k) const { return cloud[i][static_cast<Eigen::Index>(k)]; }
    template <class Box>
    bool kdtree_get_bbox(Box&) const {
        return false;
    }
};
using Tree = nanoflann::KDTreeSingleIndexAdaptor<nanoflann::L2_Simple_Adaptor<double, Places>, Places, 3>;

double reach_of(std::span<const Vec3> cloud) {
    const Places places{cloud};
    const Tree tree(3, places, nanoflann::KDTreeSingleIndexAdaptorParams(20));
    std::vector<double> far;
    for (std::size_t k = 0; k < std::min(sample, cloud.size()); ++k) {
        // By the golden section: no row of the scanner is all of it.
        const double share = std::fmod(static_cast<double>(k) * 0.6180339887498949, 1.0);
        const Vec3& at = cloud[static_cast<std::size_t>(share * static_cast<double>(cloud.size()))];
        std::array<std::uint32_t, company + 1> index{};
        std::array<double, company + 1> squared{};
        tree.knnSearch(at.data(), company + 1, index.data(), squared.data());  // the first is the point itself
        far.push_back(std::sqrt(squared.back()));
    }
    const auto at = far.begin() + static_cast<std::ptrdiff_t>(keep_so_many * static_cast<double>(far.size() - 1));
    std::nth_element(far.begin(), at, far.end());
    return wider * *at;
}

struct Cube {
    std::size_t points = 0, around = 0;  ///< in it; in it and those that touch it
    int region = -1;
};
using Cubes = std::unordered_map<std::uint64_t, Cube, SpreadBits>;

template <class Visit>
void each_touching(Cubes& cubes, std::uint64_t cube, Visit visit) {
    for (int dx = -1; dx <= 1; ++dx)
        for (int dy = -1; dy <= 1; ++dy)
            for (int dz = -1; dz <= 1; ++dz)
                if (const auto at = cubes.find(cube_beside(cube, dx, dy, dz)); at != cubes.end()) visit(*at);
}

/// Numbers the regions of cubes with company; how many points each has.
std::vector<std::size_t> grow_regions(Cubes& cubes, const KeepGoing& keep_going) {
    std::vector<std::size_t> out;
    std::vector<std::uint64_t> front;
    for (auto& [cube, first] : cubes) {
        if (first.region >= 0 || first.around <= company) continue;
        ask(keep_going);
        const int region = static_cast<int>(out.size());
        out.push_back(0);
        first.region = region;
        front.assign(1, cube);
        while (!front.empty()) {
            const std::uint64_t now = front.back();
            front.pop_back();
            out.back() += cubes.at(now).points;
            each_touching(cubes, now, [&](auto& entry) {
                if (entry.second.region >= 0 || entry.second.around <= company) return;
                entry.second.region = region;
                front.push_back(entry.first);
            });
        }
    }
    return out;
}

}  // namespace

Sorted sorted_by_company(std::span<const Vec3> cloud, const KeepGoing& keep_going) {
    Sorted out;
    if (cloud.size() >= fewest) out.reach = reach_of(cloud);
    // Points on top of one another have no spacing to judge by.
    if (!(out.reach > 0)) {
        out.dense.assign(cloud.begin(), cloud.end());
        return out;
    }
    Cubes cubes;
    for (const Vec3& p : cloud) ++cubes[cube_of(p, out.reach)].points;
    ask(keep_going);
    for (auto& [cube, content] : cubes)
        each_touching(cubes, cube, [&](const auto& entry) { content.around += entry.second.points; });
    const auto regions = grow_regions(cubes, keep_going);
    const double least = std::max(static_cast<double>(company), least_region * static_cast<double>(cloud.size()));
    for (const Vec3& p : cloud) {
        const int region = cubes.at(cube_of(p, out.reach)).region;
        const bool kept = region >= 0 && static_cast<double>(regions[static_cast<std::size_t>(region)]) >= least;
        (kept ? out.dense : out.lonely).push_back(p);
    }
    return out;
}

}  // namespace bevelsmith::survey
