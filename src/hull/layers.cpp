#include "hull/layers.h"

#include <algorithm>

namespace bevelsmith::hull {
namespace {

bool within(double x, const std::optional<double>& from, const std::optional<double>& to) {
    return !(from && x < *from) && !(to && x >= *to);
}

/// A place in each stretch that the limits make of an axis.
std::vector<double> between(std::vector<double> limits) {
    std::sort(limits.begin(), limits.end());
    limits.erase(std::unique(limits.begin(), limits.end()), limits.end());
    if (limits.empty()) return {0};
    std::vector<double> out{limits.front() - 1};
    for (std::size_t i = 0; i + 1 < limits.size(); ++i) out.push_back((limits[i] + limits[i + 1]) / 2);
    out.push_back(limits.back() + 1);
    return out;
}

bool lies_at(const Layer& layer, const Vec3& at) {
    return within(at.x(), layer.from_x_mm, layer.to_x_mm) && within(at.z(), layer.from_z_mm, layer.to_z_mm);
}

}  // namespace

double layer_thickness_mm(const std::vector<Layer>& layers, const Vec3& at) {
    double out = 0;
    for (const Layer& layer : layers)
        if (lies_at(layer, at)) out += layer.thickness_mm;
    return out;
}

const Layer* innermost(const std::vector<Layer>& layers, const Vec3& at) {
    const auto it = std::find_if(layers.rbegin(), layers.rend(), [&](const Layer& l) { return lies_at(l, at); });
    return it == layers.rend() ? nullptr : &*it;
}

std::vector<double> layer_thicknesses_mm(const std::vector<Layer>& layers) {
    std::vector<double> x, z, out;
    for (const Layer& layer : layers) {
        for (const auto& limit : {layer.from_x_mm, layer.to_x_mm})
            if (limit) x.push_back(*limit);
        for (const auto& limit : {layer.from_z_mm, layer.to_z_mm})
            if (limit) z.push_back(*limit);
    }
    for (double at_x : between(x))
        for (double at_z : between(z)) out.push_back(layer_thickness_mm(layers, {at_x, 0, at_z}));
    std::sort(out.begin(), out.end());
    out.erase(std::unique(out.begin(), out.end()), out.end());
    return out;
}

}  // namespace bevelsmith::hull
