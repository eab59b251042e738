#include "survey/points.h"

#include <fmt/format.h>

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

namespace bevelsmith::survey {
namespace {

bool is_finite(const Reading& r) {
    return std::isfinite(r.values[0]) && std::isfinite(r.values[1]) && std::isfinite(r.values[2]);
}

std::string frame_fault(const ReadingSet& set) {
    if (set.school == School::direct) return {};
    const bool ordinates = set.school == School::ordinates;
    const char* what = ordinates ? "line and measuring direction" : "pattern's two directions";
    if (std::abs(set.along.norm() - 1) > 1e-6 || std::abs(set.toward.norm() - 1) > 1e-6)
        return fmt::format("'{}': the {} must have a length of 1", set.name, what);
    if (std::abs(set.along.dot(set.toward)) > 1e-6)
        return fmt::format("'{}': the {} must be square to each other", set.name, what);
    return {};
}

std::string swapped_digits(double typed_mm, double expected_mm, double tolerance_mm) {
    const std::string digits = fmt::format("{:.0f}", std::abs(typed_mm));
    for (std::size_t i = 0; i + 1 < digits.size(); ++i) {
        std::string other = digits;
        std::swap(other[i], other[i + 1]);
        const double value = std::copysign(std::stod(other), typed_mm);
        if (other != digits && std::abs(value - expected_mm) <= tolerance_mm)
            return fmt::format("two digits swapped? {:.0f} would fit", value);
    }
    return {};
}

}  // namespace

double default_sigma_mm(School school) {
    return school == School::strip_pattern ? 1.0 : 1.5;
}

std::vector<std::string_view> value_names(School school) {
    switch (school) {
        case School::ordinates: return {"station", "distance"};
        case School::strip_pattern: return {"across", "up"};
        case School::direct: break;
    }
    return {"fwd", "port", "up"};
}

std::string_view school_name(School school) {
    switch (school) {
        case School::ordinates: return "ordinates from a line";
        case School::strip_pattern: return "strip pattern";
        case School::direct: break;
    }
    return "points in the boat";
}

Vec3 position_of(const ReadingSet& set, const Reading& reading) {
    const auto& v = reading.values;
    if (set.school == School::direct) return {v[0], v[1], v[2]};
    return set.origin + set.along * v[0] + set.toward * v[1];
}

geometry::Plane plane_of(const ReadingSet& set) {
    Vec3 normal = set.along.cross(set.toward), on = set.origin;
    if (set.school == School::direct) {
        Vec3 sum = Vec3::Zero(), squares = Vec3::Zero();
        for (const Reading& r : set.readings) {
            const Vec3 p(r.values[0], r.values[1], r.values[2]);
            sum += p;
            squares += p.cwiseAbs2();
        }
        const double n = std::max<double>(1, static_cast<double>(set.readings.size()));
        on = sum / n;
        int axis = 0;
        (squares / n - on.cwiseAbs2()).minCoeff(&axis);
        normal = Vec3::Unit(axis);
    }
    if (normal.norm() < 1e-9) normal = Vec3::UnitX();
    normal.normalize();
    int largest = 0;
    normal.cwiseAbs().maxCoeff(&largest);
    if (normal[largest] < 0) normal = -normal;
    return {normal, normal.dot(on)};
}

Result<std::vector<Point>> points_of(std::span<const ReadingSet> sets, const std::string& surface_id) {
    std::vector<Point> out;
    for (int s = 0; s < static_cast<int>(sets.size()); ++s) {
        const ReadingSet& set = sets[static_cast<std::size_t>(s)];
        if (set.surface_id != surface_id) continue;
        if (auto fault = frame_fault(set); !fault.empty()) return Error{fault};
        for (int i = 0; i < static_cast<int>(set.readings.size()); ++i) {
            const Reading& r = set.readings[static_cast<std::size_t>(i)];
            if (r.disabled) continue;
            const double sigma = r.sigma_mm.value_or(set.sigma_mm);
            if (!is_finite(r) || !(sigma > 0) || !std::isfinite(sigma))
                return Error{
                    fmt::format("'{}': reading {} is not a number with a positive uncertainty", set.name, i + 1)};
            out.push_back({position_of(set, r), sigma, s, i});
        }
    }
    return out;
}

std::string guess_slip(double typed_mm, double expected_mm, double tolerance_mm) {
    const double off = typed_mm - expected_mm;
    if (std::abs(typed_mm + expected_mm) <= tolerance_mm && std::abs(typed_mm) > 2 * tolerance_mm)
        return "the other side? the sign turned round would fit";
    if (auto text = swapped_digits(typed_mm, expected_mm, std::min(tolerance_mm, 4.0)); !text.empty()) return text;
    for (double slip : {10.0, 50.0, 100.0, 1000.0})
        if (std::abs(std::abs(off) - slip) <= std::min(tolerance_mm, slip / 3))
            return fmt::format("{:.0f} mm misread? {:.0f} would fit", slip, typed_mm - std::copysign(slip, off));
    if (std::abs(typed_mm * 2.54 - expected_mm) <= tolerance_mm && std::abs(typed_mm) > 20)
        return "inches read as centimetres?";
    return {};
}

}  // namespace bevelsmith::survey
