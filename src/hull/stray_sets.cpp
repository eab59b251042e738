#include "hull/stray_sets.h"

#include "hull/fit_stages.h"
#include "hull/parallel.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

namespace bevelsmith::hull {
namespace {

using survey::Point;

constexpr int most_strays = 3;
constexpr std::size_t tried_at_once = 5;
constexpr int fewest_of_a_set = 3, most_of_a_set = 400;
/// Enough for the shape of a side, and quick.
constexpr int plain_intervals = 6;
constexpr double plainly_off_mm = 15, plainly_off_sigmas = 6;

double median(std::vector<double> values) {
    if (values.empty()) return 0;
    const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
    std::nth_element(values.begin(), middle, values.end());
    return *middle;
}

std::map<int, int> readings_of_sets(std::span<const Point> points) {
    std::map<int, int> out;
    for (const Point& p : points) ++out[p.set];
    return out;
}

std::vector<Point> without(std::span<const Point> points, const std::set<int>& sets) {
    std::vector<Point> out;
    for (const Point& p : points)
        if (!sets.count(p.set)) out.push_back(p);
    return out;
}

/// A set all of which lies on one side of the centre line while three or more others all lie on the other.
std::set<int> on_the_other_side(std::span<const Point> points) {
    constexpr double clear_mm = 50;
    std::map<int, std::pair<double, double>> reach;  // least and most y
    for (const Point& p : points) {
        auto [it, fresh] = reach.try_emplace(p.set, p.position.y(), p.position.y());
        it->second.first = std::min(it->second.first, p.position.y());
        it->second.second = std::max(it->second.second, p.position.y());
    }
    std::vector<int> port, starboard;
    for (const auto& [set, y] : reach) {
        if (y.first > clear_mm) port.push_back(set);
        else if (y.second < -clear_mm) starboard.push_back(set);
        else return {};
    }
    if (port.size() == 1 && starboard.size() >= 3) return {port.front()};
    if (starboard.size() == 1 && port.size() >= 3) return {starboard.front()};
    return {};
}

/// How far a set lies off a surface that it had no part in.
struct Off {
    double mm = 0, sigmas = 0;
};
Off off(const Surface& surface, std::span<const Point> points, int set) {
    std::vector<double> mm, sigmas;
    for (const Point& p : points) {
        if (p.set != set) continue;
        const ChartPoint c = surface.locate(p.position);
        const double away = std::abs(surface.distance_mm(p.position));
        const double known = surface.sigma_mm({c.s, c.v});
        mm.push_back(away);
        sigmas.push_back(away / std::hypot(known, p.sigma_mm));
    }
    return {median(std::move(mm)), median(std::move(sigmas))};
}

/// The same report about all readings: those of sets left out are suspects, held against the surface.
FittedSurface told_of_all(FittedSurface fit, std::span<const Point> all, const std::set<int>& strays) {
    std::vector<ReadingFit> readings;
    std::size_t next = 0;
    for (const Point& p : all) {
        if (!strays.count(p.set)) {
            readings.push_back(fit.report.readings[next++]);
            continue;
        }
        ReadingFit out;
        out.residual_mm = fit.surface.distance_mm(p.position);
        out.studentised = out.residual_mm / p.sigma_mm;
        out.suspect = true;
        readings.push_back(out);
    }
    fit.report.readings = std::move(readings);
    fit.report.stray_sets.assign(strays.begin(), strays.end());
    return fit;
}

/// How far each set lies off a plain fit of the others in one chart. Sets without which there is no surface, and very
/// large ones, are not asked.
std::map<int, Off> held_against_others(const Chart& chart, std::span<const Point> points, const FitOptions& options,
                                       const KeepGoing& keep_going) {
    FitOptions plain = options;
    plain.find_slips = false;
    plain.intervals_s = plain.intervals_v = plain_intervals;
    std::vector<int> asked;
    for (const auto& [set, count] : readings_of_sets(points))
        if (count >= fewest_of_a_set && count <= most_of_a_set) asked.push_back(set);
    std::vector<std::optional<Off>> found(asked.size());
    in_parallel(static_cast<std::ptrdiff_t>(asked.size()), true, [&](std::ptrdiff_t k) {
        const int set = asked[static_cast<std::size_t>(k)];
        const std::vector<Point> rest = without(points, {set});
        if (too_few_yet(rest)) return;
        const auto fit = fit_in_chart(rest, {chart, 0, 0}, plain, keep_going);
        if (fit) found[static_cast<std::size_t>(k)] = off(fit->surface, points, set);
    });
    std::map<int, Off> out;
    for (std::size_t k = 0; k < asked.size(); ++k)
        if (found[k]) out[asked[k]] = *found[k];
    return out;
}

/// Whether the others are rid of what a set did to them. In a chart that suits a stray set little is certain, so
/// that it is mostly the others' agreement that tells.
bool freed(const Off& away, double others_now_mm, double others_before_mm) {
    if (away.sigmas > plainly_off_sigmas) return others_now_mm < others_before_mm + 1;
    return others_before_mm > plainly_off_mm && others_now_mm < 0.3 * others_before_mm;
}

/// The most plainly off first; where the first fit failed, every set may be the cause.
std::vector<int> suspects_first(const std::map<int, Off>& held, std::span<const Point> points, bool fitted) {
    std::vector<int> out;
    for (const auto& [set, count] : readings_of_sets(points)) {
        const auto it = held.find(set);
        if (fitted ? it != held.end() && it->second.mm > plainly_off_mm : count >= fewest_of_a_set)
            out.push_back(set);
    }
    const auto far = [&](int set) { return held.count(set) ? held.at(set).sigmas : 0; };
    std::stable_sort(out.begin(), out.end(), [&](int a, int b) { return far(a) > far(b); });
    if (fitted && out.size() > tried_at_once) out.resize(tried_at_once);
    return out;
}

/// What the sets but one are off in the mean, each counted as 200 mm at most.
double disagreement_mm(const std::map<int, Off>& held, int but) {
    double sum = 0, count = 0;
    for (const auto& [set, off] : held) {
        if (set == but) continue;
        sum += std::min(off.mm, 200.0);
        ++count;
    }
    return count > 0 ? sum / count : 200;
}

/// Two sets cannot outvote one another, and each set more costs a fit of all the others.
bool worth_asking(std::span<const Point> points) {
    constexpr std::size_t most_readings_fitted = 50'000;
    const std::size_t sets = readings_of_sets(points).size();
    return sets > 2 && sets * points.size() <= most_readings_fitted;
}

/// The set whose leaving makes the rest agree, with the fit of the rest.
struct Stray {
    int set = -1;
    Result<FittedSurface> rest = Error{};
};
Stray find_stray(const Result<FittedSurface>& fit, std::span<const Point> points, const FitOptions& options,
                 const KeepGoing& keep_going) {
    std::map<int, Off> held;
    if (fit) held = held_against_others(fit->surface.chart(), points, options, keep_going);
    Stray best;
    double least = 200;
    for (int set : suspects_first(held, points, fit.ok())) {
        const std::vector<Point> rest = without(points, {set});
        auto tried = fit_surface(rest, options, keep_going);
        if (!tried) continue;
        const Off away = off(tried->surface, points, set);
        if (away.mm < plainly_off_mm) continue;
        const double now =
            disagreement_mm(held_against_others(tried->surface.chart(), rest, options, keep_going), set);
        if (now >= least || !freed(away, now, fit ? disagreement_mm(held, set) : 200)) continue;
        least = now;
        best = {set, std::move(tried)};
        if (now < plainly_off_mm) break;
    }
    return best;
}

}  // namespace

Result<FittedSurface> fit_sets(std::span<const Point> all, const FitOptions& options, const KeepGoing& keep_going) {
    std::set<int> strays = on_the_other_side(all);
    std::vector<Point> points = without(all, strays);
    auto fit = fit_surface(points, options, keep_going);
    if (!strays.empty() && !fit) {
        strays.clear();
        points = without(all, strays);
        fit = fit_surface(points, options, keep_going);
    }
    while (static_cast<int>(strays.size()) < most_strays && worth_asking(points) &&
           static_cast<int>(points.size()) >= fewest_readings) {
        Stray stray = find_stray(fit, points, options, keep_going);
        if (stray.set < 0) break;
        strays.insert(stray.set);
        points = without(all, strays);
        fit = std::move(stray.rest);
    }
    if (!fit || strays.empty()) return fit;
    return told_of_all(std::move(fit.value()), all, strays);
}

}  // namespace bevelsmith::hull
