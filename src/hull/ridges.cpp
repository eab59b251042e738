#include "hull/ridges.h"

#include <fmt/format.h>
#include <Eigen/Geometry>

#include <algorithm>
#include <cmath>

#include "hull/fit_stages.h"
#include "hull/kinks.h"
#include "hull/parallel.h"
#include "units/quantity.h"

namespace bevelsmith::hull {
namespace {

constexpr int ends_tried = 25;  ///< places of a line's ends along v
constexpr std::size_t most_readings = 600;
constexpr std::size_t starts_tried = 4;
constexpr int most_kinks = 3;  ///< the keel and both chines
/// What a line must be worth in badness: three numbers say where it lies, which none but it needs.
constexpr double line_costs = 20;

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

KinkLines all_lines(const Smoother& smoother) {
    const double low = smoother.basis_v().low(), width = smoother.basis_v().high() - low;
    KinkLines out;
    for (int i = 1; i < ends_tried; ++i)
        for (int j = 1; j < ends_tried; ++j)
            out.push_back({low + width * i / ends_tried, low + width * j / ends_tried, 0});
    return out;
}

/// The lines that would help most, no two of them close together.
KinkLines most_promising(const KinkModel& model, const KinkFit& so_far, const KinkLines& all) {
    const Smoothing usual = model.smoother().prior().mean;
    const double width = model.smoother().basis_v().high() - model.smoother().basis_v().low();
    KinkLines out;
    for (double stiffer : {0.0, 1.5}) {
        const auto gain = model.gains(so_far, {usual.log10_s + stiffer, usual.log10_v + stiffer}, all);
        std::vector<std::size_t> order(all.size());
        for (std::size_t k = 0; k < order.size(); ++k) order[k] = k;
        std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return gain[a] > gain[b]; });
        std::size_t taken = 0;
        for (std::size_t k : order) {
            if (gain[k] <= 0 || taken == starts_tried / 2) break;
            const bool near = std::any_of(out.begin(), out.end(), [&](const KinkLine& kept) {
                return std::abs(kept.v_low - all[k].v_low) + std::abs(kept.v_high - all[k].v_high) <
                       3 * width / ends_tried;
            });
            if (near) continue;
            out.push_back(all[k]);
            ++taken;
        }
    }
    return out;
}

/// One line more than `so_far` has, wherever that is best; from the readings it doubts, and from none doubted.
std::optional<KinkFit> with_one_more(const KinkModel& model, const KinkFit& so_far, const KeepGoing& keep_going) {
    const KinkLines all = all_lines(model.smoother());
    KinkFit undoubted = so_far;
    undoubted.left_out.assign(undoubted.left_out.size(), false);
    struct Start {
        KinkLines lines;
        std::vector<bool> left_out;
    };
    std::vector<Start> starts;
    for (const KinkFit& from : {so_far, undoubted}) {
        ask(keep_going);
        for (const KinkLine& line : most_promising(model, from, all)) {
            starts.push_back({so_far.lines, from.left_out});
            starts.back().lines.push_back(line);
        }
        if (so_far.left_out == undoubted.left_out) break;
    }
    std::vector<std::optional<KinkFit>> ends(starts.size());
    in_parallel(static_cast<std::ptrdiff_t>(starts.size()), true, [&](std::ptrdiff_t k) {
        ask(keep_going);
        const auto& start = starts[static_cast<std::size_t>(k)];
        ends[static_cast<std::size_t>(k)] = model.best_near(start.lines, start.left_out);
    });
    std::optional<KinkFit> best;
    for (auto& end : ends)
        if (end && (!best || end->badness < best->badness)) best = std::move(end);
    return best;
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
    auto best = model.best_near({}, {});
    if (!best) return out;
    const double smooth = best->badness;
    out.tried.push_back(told(*best, smooth));
    KinkFit last = *best;
    const auto cost = [](const KinkFit& f) { return f.badness + line_costs * static_cast<double>(f.lines.size()); };
    for (int kinks = 1; kinks <= most_kinks; ++kinks) {
        auto more = with_one_more(model, last, keep_going);
        if (!more) break;
        last = *more;
        out.tried.push_back(told(last, smooth));
        if (cost(last) < cost(*best)) best = last;
    }
    if (best->lines.empty()) return out;
    std::vector<survey::Point> good;
    for (std::size_t i = 0; i < readings.size(); ++i)
        if (!best->left_out[i]) good.push_back(readings[i]);
    out.lines = ridges_of(surface, good, options, best->lines);
    if (!out.any()) return out;
    // What was not judged, of a scan, is as the fit found it.
    for (const auto& reading : fit.report.readings) out.wrong.push_back(reading.suspect);
    out.wrong.resize(points.size(), false);
    for (std::size_t i = 0; i < judged.size(); ++i) out.wrong[judged[i]] = best->left_out[i];
    return out;
}

}  // namespace bevelsmith::hull
