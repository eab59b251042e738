#include "survey/points.h"

#include <fmt/format.h>

#include <Eigen/Geometry>
#include <algorithm>
#include <charconv>
#include <cmath>

#include "units/quantity.h"

namespace bevelsmith::survey {
namespace {

std::string frame_fault(const ReadingSet& set) {
    if (!has_frame(set.school)) return {};
    const bool ordinates = set.school == School::ordinates;
    const char* what = ordinates ? "line and measuring direction" : "plane's two directions";
    if (std::abs(set.along.norm() - 1) > 1e-6 || std::abs(set.toward.norm() - 1) > 1e-6)
        return fmt::format("'{}': the {} must have a length of 1", set.name, what);
    if (std::abs(set.along.dot(set.toward)) > 1e-6)
        return fmt::format("'{}': the {} must be square to each other", set.name, what);
    return {};
}

Error reading_fault(const ReadingSet& set, int index, const std::string& why) {
    return Error{fmt::format("'{}', reading {}: {}. Correct it, or set it aside", set.name, index + 1, why)};
}

Result<std::vector<Point>> mirrored_points(std::span<const ReadingSet> sets, const ReadingSet& mirror, int index) {
    if (mirror.mirror_of == mirror.surface_id || mirror.mirror_of.empty())
        return Error{fmt::format("'{}': say which other surface is mirrored", mirror.name)};
    std::vector<ReadingSet> others(sets.begin(), sets.end());
    std::erase_if(others, [](const ReadingSet& s) { return s.school == School::mirrored; });
    auto points = points_of(others, mirror.mirror_of);
    if (!points) return points;
    for (Point& p : points.value()) {
        p.position.y() = -p.position.y();
        p.inboard.y() = -p.inboard.y();
        p.sigma_mm = std::hypot(p.sigma_mm, mirror.sigma_mm);
        p.set = index;
        p.reading = -1;
    }
    return points;
}

std::vector<std::vector<Vec3>> lines_read_on(std::span<const ReadingSet> sets, const std::string& surface_id) {
    std::vector<std::vector<Vec3>> out;
    for (const ReadingSet& set : sets) {
        if (!set.hard_line || set.surface_id != surface_id) continue;
        std::vector<Vec3> line;
        for (const Reading& r : set.readings)
            if (const auto at = locate(set, r); at && !r.disabled && r.mark.empty()) line.push_back(at->position);
        if (line.size() >= 2) out.push_back(std::move(line));
    }
    return out;
}

/// The set without its readings, and with the middle of its named marks as the place one stood at where none is
/// given: found once, not for each reading.
ReadingSet stand_of(const ReadingSet& set) {
    ReadingSet out = set;
    std::erase_if(out.readings, [](const Reading& r) { return r.mark.empty(); });
    if (out.stood || out.readings.empty()) return out;
    Vec3 sum = Vec3::Zero();
    int count = 0;
    for (const Reading& r : out.readings)
        if (const auto at = locate(set, r); at && !r.disabled) sum += at->position, ++count;
    out.readings.clear();
    if (count > 0) out.stood = sum / count;
    return out;
}

std::string swapped_digits(double typed_mm, double expected_mm, double tolerance_mm) {
    const std::string digits = fmt::format("{:.0f}", std::abs(typed_mm));
    for (std::size_t i = 0; i + 1 < digits.size(); ++i) {
        std::string other = digits;
        std::swap(other[i], other[i + 1]);
        long long whole = 0;
        std::from_chars(other.data(), other.data() + other.size(), whole);
        const double value = std::copysign(static_cast<double>(whole), typed_mm);
        if (other != digits && std::abs(value - expected_mm) <= tolerance_mm)
            return fmt::format("two digits swapped? {:.0f} mm would fit", value);
    }
    return {};
}

}  // namespace

geometry::Plane plane_of(const ReadingSet& set) {
    Vec3 normal = set.along.cross(set.toward), on = set.origin;
    if (!has_frame(set.school)) {
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
        if (set.school == School::mirrored) {
            if (auto more = mirrored_points(sets, set, s)) out.insert(out.end(), more->begin(), more->end());
            else return more;
            continue;
        }
        const ReadingSet stand = stand_of(set);
        for (int i = 0; i < static_cast<int>(set.readings.size()); ++i) {
            const Reading& r = set.readings[static_cast<std::size_t>(i)];
            if (r.disabled || !r.mark.empty()) continue;
            const auto at = locate(set, r);
            if (!at) return reading_fault(set, i, at.error().message);
            if (!(at->sigma_mm > 0) || !std::isfinite(at->sigma_mm))
                return reading_fault(set, i, "the uncertainty of a reading is a positive number");
            if (set.school == School::bevel_gauge) continue;
            const Vec3 inboard = toward_instrument(stand, r, at->position);
            out.push_back({at->position, at->sigma_mm, s, i, inboard});
            if (set.school != School::strip_edges) continue;
            const auto [from, to] = edge_of(r);
            for (const Vec2& end : {from, to})
                out.push_back({set.origin + set.along * end.x() + set.toward * end.y(), at->sigma_mm, s, i, inboard});
        }
    }
    return out;
}

std::vector<FeltBevel> bevels_of(std::span<const ReadingSet> sets, const std::string& surface_id) {
    std::vector<FeltBevel> out;
    for (int s = 0; s < static_cast<int>(sets.size()); ++s) {
        const ReadingSet& set = sets[static_cast<std::size_t>(s)];
        if (set.surface_id != surface_id || set.school != School::bevel_gauge) continue;
        for (int i = 0; i < static_cast<int>(set.readings.size()); ++i) {
            const Reading& r = set.readings[static_cast<std::size_t>(i)];
            const auto at = locate(set, r);
            if (r.disabled || !r.mark.empty() || !at) continue;
            double mean = r.values[2];
            for (const auto& more : r.again) mean += more[2];
            mean /= static_cast<double>(1 + r.again.size());
            out.push_back({at->position, plane_of(set).normal, units::radians(mean),
                           units::radians(set.angle_sigma_deg) / std::sqrt(at->taken), s, i});
        }
    }
    return out;
}

std::vector<std::vector<Vec3>> hard_lines_of(std::span<const ReadingSet> sets, const std::string& surface_id) {
    auto out = lines_read_on(sets, surface_id);
    for (const ReadingSet& set : sets) {
        if (set.school != School::mirrored || set.surface_id != surface_id || set.mirror_of == surface_id) continue;
        for (auto& line : lines_read_on(sets, set.mirror_of)) {
            for (Vec3& p : line) p.y() = -p.y();
            out.push_back(std::move(line));
        }
    }
    return out;
}

std::string guess_slip(double typed_mm, double expected_mm, double tolerance_mm, bool inches) {
    const double off = typed_mm - expected_mm;
    if (std::abs(typed_mm + expected_mm) <= tolerance_mm && std::abs(typed_mm) > 2 * tolerance_mm)
        return "the other side? the sign turned round would fit";
    if (auto text = inches ? std::string() : swapped_digits(typed_mm, expected_mm, std::min(tolerance_mm, 4.0));
        !text.empty())
        return text;
    const std::vector<double> slips =
        inches ? std::vector<double>{25.4, 50.8, 127, 254, 304.8} : std::vector<double>{10, 50, 100, 1000};
    for (double slip : slips)
        if (std::abs(std::abs(off) - slip) <= std::min(tolerance_mm, slip / 3))
            return fmt::format("{:.4g} mm misread? {:.1f} mm would fit", slip, typed_mm - std::copysign(slip, off));
    if (std::abs(typed_mm * 2.54 - expected_mm) <= tolerance_mm && std::abs(typed_mm) > 20)
        return "inches read as centimetres?";
    return {};
}

}  // namespace bevelsmith::survey
