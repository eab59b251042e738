#include "hull/layers.h"

#include <algorithm>

namespace bevelsmith::hull {
namespace {

/// 1 inside the limits, 0 outside, the ramp in between centred on the limit.
double share(double x, const std::optional<double>& from, const std::optional<double>& to) {
    double out = 1;
    if (from) out = std::min(out, (x - *from) / layer_ramp_mm + 0.5);
    if (to) out = std::min(out, (*to - x) / layer_ramp_mm + 0.5);
    return std::clamp(out, 0.0, 1.0);
}

}  // namespace

double layer_thickness_mm(const std::vector<Layer>& layers, const Vec3& at) {
    double out = 0;
    for (const Layer& layer : layers)
        out += layer.thickness_mm * share(at.x(), layer.from_x_mm, layer.to_x_mm) *
               share(at.z(), layer.from_z_mm, layer.to_z_mm);
    return out;
}

}  // namespace bevelsmith::hull
