// A hull of straight bottoms and curved chines, read from side to side but not at its keel.
#pragma once

#include <random>
#include <vector>

#include "survey/points.h"

namespace bevelsmith {

/// A hull of straight bottoms under rounded topsides, of one metre's half breadth, whose chines are curved lines.
struct StraightBottoms {
    static double half_mm(double x) { return 950 - 6e-5 * (x - 2400) * (x - 2400); }
    static double high_mm(double x) { return 220 + 2e-5 * (x - 2400) * (x - 2400); }
    static Vec3 bottom(double x, double side, double share) {
        return {x, side * share * half_mm(x), share * high_mm(x)};
    }
    static Vec3 topside(double x, double side, double up) {
        return {x, side * (half_mm(x) + 0.32 * up - 8e-5 * up * up), high_mm(x) + up};
    }
};

/// Nine readings a side at seven stations, none nearer to the keel than a seventh of the breadth; two wrong.
inline std::vector<survey::Point> straight_bottoms(unsigned seed) {
    std::mt19937 random(seed);
    std::normal_distribution<double> off(0, 1);
    std::vector<survey::Point> out;
    for (const double side : {1.0, -1.0})
        for (double x = 1200; x <= 3600; x += 400) {
            std::vector<Vec3> there;
            for (double share : {0.15, 0.4, 0.65, 0.9}) there.push_back(StraightBottoms::bottom(x, side, share));
            for (double up : {30, 200, 400, 600, 800}) there.push_back(StraightBottoms::topside(x, side, up));
            for (Vec3 p : there) {
                p += Vec3(0.5 * off(random), 1.2 * off(random), 0.8 * off(random));
                survey::Point point;
                point.position = p, point.sigma_mm = 1.5, point.reading = static_cast<int>(out.size());
                out.push_back(point);
            }
        }
    out[20].position.y() += 45, out[70].position.z() -= 60;
    return out;
}

}  // namespace bevelsmith
