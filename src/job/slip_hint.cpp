#include "job/slip_hint.h"

#include <fmt/format.h>

#include <cmath>
#include <limits>

#include "survey/points.h"

namespace bevelsmith::job {
namespace {

constexpr double tolerance_sigmas = 4;
/// A number that moves the point nearly along the surface cannot explain a residual.
constexpr double least_leverage = 0.15;

/// How far the reading is from the surface when its number `k` is `value`.
double off_mm(const survey::ReadingSet& set, survey::Reading reading, std::size_t k, double value,
              const hull::Surface& surface) {
    reading.values[k] = value;
    const auto at = survey::locate(set, reading);
    return at ? surface.distance_mm(at->position) : std::numeric_limits<double>::quiet_NaN();
}

}  // namespace

std::string slip_hint(const survey::ReadingSet& set, const survey::Reading& reading, const hull::Surface& surface,
                      bool inches) {
    const auto columns = survey::columns_of(set);
    const double tolerance = tolerance_sigmas * std::max(1.0, reading.sigma_mm.value_or(set.sigma_mm));
    std::string hints;
    for (std::size_t k = 0; k < columns.size(); ++k) {
        if (columns[k].kind != survey::Column::Kind::length) continue;
        const double typed = reading.values[k];
        double value = typed;
        for (int round = 0; round < 12; ++round) {  // Newton on one number; the slope from a step of a millimetre
            const double off = off_mm(set, reading, k, value, surface);
            const double slope = off_mm(set, reading, k, value + 1, surface) - off;
            if (!(std::abs(slope) >= least_leverage) || std::abs(off) < 1e-3) break;
            value -= off / slope;
        }
        if (!(std::abs(off_mm(set, reading, k, value, surface)) < 0.1)) continue;
        const std::string guess = survey::guess_slip(typed, value, tolerance, inches);
        if (!guess.empty()) hints += fmt::format("{}{}: {}", hints.empty() ? "" : "; or ", columns[k].name, guess);
    }
    return hints;
}

std::string suspect_words(const survey::ReadingSet& set, int reading, double residual_mm,
                          const hull::Surface& surface) {
    constexpr double fairly_square = 0.3;
    const auto& r = set.readings[static_cast<std::size_t>(reading)];
    const std::string which = fmt::format("reading {} ({})", reading + 1, survey::reading_terms(set, r));
    const auto at = survey::locate(set, r);
    const bool one_length = set.school == survey::School::ordinates || set.school == survey::School::laser_meter;
    if (at && one_length) {
        const Vec3 way =
            set.school == survey::School::ordinates ? set.toward : (at->position - set.origin).normalized();
        const auto c = surface.locate(at->position);
        if (const double square = surface.at({c.s, c.v}).normal.dot(way); std::abs(square) > fairly_square) {
            const double more = residual_mm / square;
            return fmt::format("{}: the {} is {:.1f} mm too {}", which,
                               set.school == survey::School::ordinates ? "distance" : "range", std::abs(more),
                               more > 0 ? "large" : "small");
        }
    }
    return fmt::format("{} lies {:.1f} mm {}", which, std::abs(residual_mm), residual_mm > 0 ? "outside" : "inside");
}

}  // namespace bevelsmith::job
