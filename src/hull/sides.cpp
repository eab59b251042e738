#include "hull/sides.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace bevelsmith::hull {

std::vector<SideDifference> side_differences(const Surface& other, std::span<const survey::Point> points,
                                             double stretch_mm) {
    struct Sum {
        double total = 0, largest = 0, variance = 0;
        int count = 0;
    };
    if (points.empty()) return {};
    double aft = points[0].position.x();
    for (const auto& p : points) aft = std::min(aft, p.position.x());
    aft = std::floor(aft / stretch_mm) * stretch_mm;
    std::map<int, Sum> stretches;
    for (const auto& p : points) {
        const Vec3 mirrored(p.position.x(), -p.position.y(), p.position.z());
        const ChartPoint c = other.locate(mirrored);
        const Place place{c.s, c.v};
        if (!other.surrounded(place)) continue;
        Sum& sum = stretches[static_cast<int>((p.position.x() - aft) / stretch_mm)];
        const double off = other.distance_mm(mirrored);
        sum.total += off;
        if (std::abs(off) > std::abs(sum.largest)) sum.largest = off;
        sum.variance += p.sigma_mm * p.sigma_mm + std::pow(other.sigma_mm(place), 2);
        ++sum.count;
    }
    std::vector<SideDifference> out;
    for (const auto& [k, sum] : stretches)
        out.push_back({aft + k * stretch_mm, aft + (k + 1) * stretch_mm, sum.count, sum.total / sum.count,
                       sum.largest, std::sqrt(sum.variance) / sum.count});
    return out;
}

}  // namespace bevelsmith::hull
