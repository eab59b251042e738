#include "hull/ridges.h"

#include <fmt/format.h>
#include <Eigen/Geometry>

#include <algorithm>
#include <cmath>

#include "hull/fit_stages.h"
#include "hull/kink_search.h"
#include "hull/section.h"
#include "units/quantity.h"

namespace bevelsmith::hull {
namespace {

constexpr std::size_t most_readings = 600;

/// Readings enough to judge by: all of a survey, a share of a scan without what is before it.
std::vector<std::size_t> judged_by(const FittedSurface& fit, std::span<const survey::Point> points) {
    const bool scan = points.size() > most_readings;
    const std::size_t step = std::max<std::size_t>(1, (points.size() + most_readings - 1) / most_readings);
    std::vector<std::size_t> out;
    for (std::size_t i = 0; i < points.size(); i += step)
        if (!scan || !fit.report.readings[i].suspect) out.push_back(i);
    return out;
}

KinkModel model_of(const Surface& surface, std::span<const survey::Point> points) {
    ChartData data = chart_data(surface.chart(), points);
    for (int i = 0; i < data.count(); ++i) data.weight[i] *= cosine_weight(surface.at({data.s[i], data.v[i]}));
    Smoother smoother = make_smoother(surface.chart(), data, first_knots(surface.chart(), data, {}));
    return {std::move(data), std::move(smoother)};
}

/// Where the boat's centre plane cuts a surface that was read on both sides of it.
std::optional<KinkLine> centre_line(const Surface& surface, std::span<const survey::Point> points) {
    const auto on_side = [&](double sign) {
        return std::any_of(points.begin(), points.end(), [&](const auto& p) { return sign * p.position.y() > 0; });
    };
    if (!on_side(1) || !on_side(-1)) return std::nullopt;
    const auto runs = cut_section(surface, {Vec3::UnitY(), 0}, 1);
    if (!runs || runs->size() != 1) return std::nullopt;
    auto along = runs->front().points;
    const double low = surface.basis_s().low(), length = surface.basis_s().high() - low;
    std::sort(along.begin(), along.end(), [](const auto& a, const auto& b) { return a.place.s < b.place.s; });
    constexpr double most_of_it = 0.7;
    if (along.back().place.s - along.front().place.s < most_of_it * length) return std::nullopt;
    const KinkLine ends{along.front().place.v, along.back().place.v};
    return KinkLine{ends.v_low, ends.v_high, along[along.size() / 2].place.v - ends.at(0.5), true};
}

std::vector<Vec3> places_along(const Surface& surface, const KinkLine& line, double from, double to) {
    std::vector<Vec3> out;
    constexpr int spots = 9;
    const double low = surface.basis_s().low(), high = surface.basis_s().high();
    for (int k = 0; k < spots; ++k) {
        const double along = from + (to - from) * k / (spots - 1);
        out.push_back(surface.at({low + along * (high - low), line.at(along)}).position);
    }
    return out;
}

/// The kink of a surface at a hard line of its own: by how much its normal turns, in the mean over the line.
Ridge kink_of(const Surface& surface, const std::vector<Vec3>& line) {
    const ChartPoint middle = surface.locate(line[line.size() / 2]);
    double v = middle.v, nearest = 1e9;
    for (const HardLine& hard : surface.chart().hard_lines)
        if (std::abs(hard.mean - middle.v) < nearest) nearest = std::abs(hard.mean - middle.v), v = hard.mean;
    constexpr double step = 1e-4;
    Ridge out;
    double turn = 0;
    for (const Vec3& p : line) {
        const double s = surface.locate(p).s;
        out.line.push_back(surface.at({s, v}).position);
        const Vec3 below = surface.at({s, v - step}).normal, above = surface.at({s, v + step}).normal;
        const Vec3 across = surface.at({s, v + step}).position - surface.at({s, v - step}).position;
        // Normals that point away from each other stand over a corner that stands out.
        const double size = std::atan2(below.cross(above).norm(), below.dot(above));
        turn += (above - below).dot(across) > 0 ? size : -size;
    }
    out.kink_deg = units::degrees(turn / static_cast<double>(line.size()));
    return out;
}

std::vector<Ridge> ridges_of(const Surface& surface, std::span<const survey::Point> readings,
                             const FitOptions& options, const KinkLines& lines) {
    FitOptions with = options;
    with.chart = surface.chart().kind == Chart::Kind::plane ? ChartChoice::plane : ChartChoice::axis;
    for (const KinkLine& line : lines) with.hard_lines.push_back(places_along(surface, line, 0.05, 0.95));
    std::vector<Ridge> out;
    const auto kinked = fit_surface(readings, with);
    if (!kinked) return out;
    for (const auto& line : with.hard_lines) {
        Ridge ridge = kink_of(kinked->surface, line);
        if (std::abs(ridge.kink_deg) < ridge_kink_deg) return {};
        out.push_back(std::move(ridge));
    }
    return out;
}

KinksTried told(const KinkFit& fit, double smooth_badness) {
    return {static_cast<int>(fit.lines.size()), 1000 * fit.rms_m,
            static_cast<int>(std::count(fit.left_out.begin(), fit.left_out.end(), true)),
            (smooth_badness - fit.badness) / 2};
}

}  // namespace

std::string Ridges::evidence() const {
    std::string out;
    for (const KinksTried& t : tried) {
        if (any() && t.kinks > static_cast<int>(lines.size())) break;
        const std::string with = t.kinks == 0   ? "as a smooth surface the readings leave"
                                 : t.kinks == 1 ? ", with one line"
                                                : fmt::format(", with {} lines", t.kinks);
        out += fmt::format("{} {:.1f} mm", with, t.rms_mm);
        if (t.wrong > 0) out += fmt::format(" and {} look{} wrong", t.wrong, t.wrong == 1 ? "s" : "");
    }
    return out;
}

Ridges find_ridges(const FittedSurface& fit, std::span<const survey::Point> points, const FitOptions& options,
                   const KeepGoing& keep_going) {
    Ridges out;
    const Surface& surface = fit.surface;
    if (surface.chart().closed || !options.hard_lines.empty()) return out;
    const auto judged = judged_by(fit, points);
    if (judged.size() < fewest_judged) return out;
    std::vector<survey::Point> readings;
    for (std::size_t i : judged) readings.push_back(points[i]);
    const KinkModel model = model_of(surface, readings);
    const auto found = search_kinks(model, centre_line(surface, readings), keep_going);
    if (found.likeliest.empty()) return out;
    const double smooth = found.one_by_one.front().badness;
    for (const KinkFit& tried : found.one_by_one) out.tried.push_back(told(tried, smooth));
    // The likeliest all of whose lines are kinks to speak of: a keel that the readings leave open does not take the
    // chines with it.
    constexpr int looked_at = 3;  // each takes a fit of its own
    for (int k = 0; k < std::min(looked_at, static_cast<int>(found.likeliest.size())); ++k) {
        const KinkFit& likeliest = found.likeliest[static_cast<std::size_t>(k)];
        if (likeliest.lines.empty()) break;
        ask(keep_going);
        std::vector<survey::Point> good;
        for (std::size_t i = 0; i < readings.size(); ++i)
            if (!likeliest.left_out[i]) good.push_back(readings[i]);
        out.lines = ridges_of(surface, good, options, likeliest.lines);
        if (!out.any()) continue;
        // What was not judged, of a scan, is as the fit found it.
        for (const auto& reading : fit.report.readings) out.wrong.push_back(reading.suspect);
        out.wrong.resize(points.size(), false);
        for (std::size_t i = 0; i < judged.size(); ++i) out.wrong[judged[i]] = likeliest.left_out[i];
        out.tried.resize(std::max(out.tried.size(), out.lines.size() + 1));
        out.tried[out.lines.size()] = told(likeliest, smooth);
        break;
    }
    return out;
}

}  // namespace bevelsmith::hull
