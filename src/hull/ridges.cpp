#include "hull/ridges.h"

#include <algorithm>
#include <cmath>
#include <nlopt.hpp>

#include "hull/fit_stages.h"
#include "hull/parallel.h"
#include "units/quantity.h"

namespace bevelsmith::hull {
namespace {

constexpr int ends_tried = 25;        ///< places of the line's ends along v
constexpr double most_slant = 0.6;    ///< of a line: v over s
constexpr double most_bend = 0.15;    ///< of a line, as a share of the surface's width
constexpr int fewest_on_a_side = 12;  ///< readings on each side of the line
constexpr std::size_t fewest_readings_in_all = 40, most_readings = 600;
constexpr std::size_t lines_fitted = 4;
constexpr double no_line = 1e30;  ///< how badly a line does that cannot be fitted
constexpr double stiffer = 1.5;   ///< than usual, in powers of ten

/// Readings enough to judge by: all of a survey, a share of a scan; slips left out.
std::vector<survey::Point> judged_by(const FittedSurface& fit, std::span<const survey::Point> points) {
    const std::size_t step = std::max<std::size_t>(1, (points.size() + most_readings - 1) / most_readings);
    std::vector<survey::Point> out;
    for (std::size_t i = 0; i < points.size(); i += step)
        if (!fit.report.readings[i].suspect) out.push_back(points[i]);
    return out;
}

/// A parabola over the chart.
struct Line {
    double v_low = 0, v_high = 0;  ///< at the two ends of s
    double bend = 0;               ///< in the middle, off the straight line between the ends
    double strength = 0;

    /// `along` runs from 0 to 1 over s.
    double at(double along) const { return v_low + along * (v_high - v_low) + 4 * along * (1 - along) * bend; }
};

/// A stiff fit of the readings, its residuals, and what it cannot follow of other shapes.
class StiffFit {
  public:
    StiffFit(const Surface& surface, std::span<const survey::Point> points)
        : data_(chart_data(surface.chart(), points)),
          smoother_(make_smoother(surface.chart(), data_, first_knots(surface.chart(), data_, {}))) {
        for (int i = 0; i < data_.count(); ++i) {
            const SurfacePoint here = surface.at({data_.s[i], data_.v[i]});
            data_.weight[i] *= cosine_weight(here);
            rows_.push_back(cell_row(smoother_.basis_s(), smoother_.basis_v(), data_.s[i], data_.v[i]));
            functions_.push_back(cell_functions(smoother_.basis_s(), smoother_.basis_v(), rows_.back().cell));
        }
        smoother_.set_data(data_);
        const Smoothing usual = smoother_.prior().mean;
        solution_ = smoother_.solve({usual.log10_s + stiffer, usual.log10_v + stiffer});
        if (solution_) residual_ = residuals_of(smoother_, *solution_, data_, data_.weight).height;
    }

    bool ok() const { return solution_.has_value(); }
    const Smoother& smoother() const { return smoother_; }

    double strength(const Line& line) const {
        const double low = smoother_.basis_s().low(), high = smoother_.basis_s().high();
        const Eigen::ArrayXd along = (data_.s.array() - low) / (high - low);
        const Eigen::VectorXd off =
            data_.v.array() - line.v_low - along * (line.v_high - line.v_low) - 4 * line.bend * along * (1 - along);
        const auto above = (off.array() > 0).count();
        if (above < fewest_on_a_side || off.size() - above < fewest_on_a_side) return 0;
        const Eigen::VectorXd kink = off.cwiseAbs();
        const Eigen::VectorXd weighted = data_.weight.cwiseProduct(not_followed(kink));
        const double square = kink.dot(weighted);
        return square > 0 ? std::abs(residual_.dot(weighted)) / std::sqrt(square) : 0;
    }

  private:
    /// f - S f.
    Eigen::VectorXd not_followed(const Eigen::VectorXd& f) const {
        Eigen::VectorXd right = Eigen::VectorXd::Zero(smoother_.coefficient_count());
        for (int i = 0; i < data_.count(); ++i) {
            const auto k = static_cast<std::size_t>(i);
            const double w = data_.weight[i] * f[i];
            for (std::size_t a = 0; a < 16; ++a)
                right[functions_[k][a]] += w * rows_[k].weight[static_cast<Eigen::Index>(a)];
        }
        const Eigen::VectorXd b = solution_->factor.solve(right);
        Eigen::VectorXd out = f;
        for (int i = 0; i < data_.count(); ++i) {
            const auto k = static_cast<std::size_t>(i);
            for (std::size_t a = 0; a < 16; ++a)
                out[i] -= rows_[k].weight[static_cast<Eigen::Index>(a)] * b[functions_[k][a]];
        }
        return out;
    }

    ChartData data_;
    Smoother smoother_;
    std::vector<CellRow> rows_;
    std::vector<std::array<int, 16>> functions_;
    std::optional<Solution> solution_;
    Eigen::VectorXd residual_;
};

/// The best lines, no two of them close together.
std::vector<Line> best_lines(const StiffFit& stiff) {
    const double low = stiff.smoother().basis_v().low(), width = stiff.smoother().basis_v().high() - low;
    const double length = stiff.smoother().basis_s().high() - stiff.smoother().basis_s().low();
    std::vector<Line> all;
    for (int i = 1; i < ends_tried; ++i)
        for (int j = 1; j < ends_tried; ++j) {
            Line line{low + width * i / ends_tried, low + width * j / ends_tried, 0, 0};
            if (std::abs(line.v_high - line.v_low) > most_slant * length) continue;
            line.strength = stiff.strength(line);
            if (line.strength > ridge_strength) all.push_back(line);
        }
    std::sort(all.begin(), all.end(), [](const Line& a, const Line& b) { return a.strength > b.strength; });
    std::vector<Line> out;
    for (const Line& line : all) {
        const bool near = std::any_of(out.begin(), out.end(), [&](const Line& kept) {
            return std::abs(kept.v_low - line.v_low) + std::abs(kept.v_high - line.v_high) < 3 * width / ends_tried;
        });
        if (!near) out.push_back(line);
        if (out.size() == lines_fitted) break;
    }
    return out;
}

/// Makes `badness` of a line least, near `start`.
template <class Badness>
Line best_near(const Line& start, double width, Badness badness) {
    const double reach = 2 * width / ends_tried;
    nlopt::opt search(nlopt::LN_BOBYQA, 3);
    search.set_min_objective(
        [](const std::vector<double>& x, std::vector<double>&, void* context) {
            return (*static_cast<Badness*>(context))(Line{x[0], x[1], x[2], 0});
        },
        &badness);
    search.set_lower_bounds({start.v_low - reach, start.v_high - reach, start.bend - most_bend * width});
    search.set_upper_bounds({start.v_low + reach, start.v_high + reach, start.bend + most_bend * width});
    search.set_initial_step(reach / 4);
    search.set_xtol_abs(5e-4 * width);
    search.set_maxeval(80);
    std::vector<double> x{start.v_low, start.v_high, start.bend};
    double least = 0;
    try {
        search.optimize(x, least);
    } catch (const std::exception&) {
        return start;
    }
    return {x[0], x[1], x[2], start.strength};
}

std::vector<Vec3> places_along(const Surface& surface, const Line& line, double from, double to) {
    std::vector<Vec3> out;
    constexpr int spots = 9;
    const double low = surface.basis_s().low(), high = surface.basis_s().high();
    for (int k = 0; k < spots; ++k) {
        const double along = from + (to - from) * k / (spots - 1);
        out.push_back(surface.at({low + along * (high - low), line.at(along)}).position);
    }
    return out;
}

Place place_of(const Surface& surface, const Vec3& p) {
    const ChartPoint c = surface.locate(p);
    return {c.s, c.v};
}

/// Where the readings want a line that the stiff fit's residuals have found: the one with which a fit as stiff as
/// usual leaves least.
Line settled_line(const Surface& surface, std::span<const survey::Point> readings, const Line& start) {
    const Chart& plain = surface.chart();
    Eigen::VectorXd cosines(readings.size());
    for (std::size_t i = 0; i < readings.size(); ++i)
        cosines[static_cast<Eigen::Index>(i)] = cosine_weight(surface.at(place_of(surface, readings[i].position)));
    return best_near(start, surface.basis_v().high() - surface.basis_v().low(), [&](const Line& line) {
        const auto chart = plain.with_hard_lines({places_along(surface, line, 0.05, 0.95)});
        if (!chart) return no_line;
        ChartData data = chart_data(*chart, readings);
        data.weight.array() *= cosines.array();
        Smoother smoother = make_smoother(*chart, data, first_knots(*chart, data, {}));
        smoother.set_data(data);
        const auto solution = smoother.solve(smoother.prior().mean);
        return solution ? solution->penalised_sum : no_line;
    });
}

/// The kink of a surface at its one hard line: by how much its normal turns, in the mean over the line.
Ridge kink_of(const FittedSurface& fit, const std::vector<Vec3>& line) {
    const Surface& surface = fit.surface;
    const double v = surface.chart().hard_lines.front().mean, step = 1e-4;
    Ridge out;
    double jump = 0, sd = 0;
    for (const Vec3& p : line) {
        const double s = surface.locate(p).s;
        const Place below{s, v - step}, above{s, v + step};
        out.line.push_back(surface.at({s, v}).position);
        // Tangents of slope a and b turn by their angles' difference; its sd is at most both sides' together.
        jump += std::atan(surface.slopes(below).along_v) - std::atan(surface.slopes(above).along_v);
        for (const Place& side : {below, above})
            sd += std::sqrt(surface.slope_covariance(side)(2, 2)) / (1 + std::pow(surface.slopes(side).along_v, 2));
    }
    const auto n = static_cast<double>(line.size());
    // Heights count outwards over a plane seen from inside, and away from the axis around one.
    const ChartPoint c = surface.locate(line.front());
    const Vec3 ray = surface.chart().jet(c.s, c.v, c.height, 0, 0).ray;
    const bool outwards = ray.dot(surface.at({c.s, c.v}).normal) > 0;
    out.kink_deg = units::degrees(jump / n) * (outwards ? 1 : -1);
    out.strength = std::abs(jump) / std::max(sd, 1e-12);
    return out;
}

}  // namespace

std::optional<Ridge> find_ridge(const FittedSurface& fit, std::span<const survey::Point> points,
                                const FitOptions& options) {
    const Surface& surface = fit.surface;
    if (surface.chart().closed || !options.hard_lines.empty()) return std::nullopt;
    const auto readings = judged_by(fit, points);
    if (readings.size() < fewest_readings_in_all) return std::nullopt;
    const StiffFit stiff(surface, readings);
    if (!stiff.ok()) return std::nullopt;
    FitOptions with_line = options;
    with_line.chart = surface.chart().kind == Chart::Kind::plane ? ChartChoice::plane : ChartChoice::axis;
    with_line.find_slips = false;
    const double width = surface.basis_v().high() - surface.basis_v().low();
    const auto lines = best_lines(stiff);
    std::vector<std::optional<Ridge>> ridges(lines.size());
    in_parallel(static_cast<std::ptrdiff_t>(lines.size()), true, [&](std::ptrdiff_t k) {
        const auto n = static_cast<std::size_t>(k);
        const Line sharp = best_near(lines[n], width, [&](const Line& l) { return -stiff.strength(l); });
        const auto places = places_along(surface, settled_line(surface, readings, sharp), 0.05, 0.95);
        FitOptions with_this = with_line;
        with_this.hard_lines = {places};
        const auto kinked = fit_surface(readings, with_this);
        if (kinked && !kinked->surface.chart().hard_lines.empty()) ridges[n] = kink_of(*kinked, places);
    });
    std::optional<Ridge> best;
    for (const auto& ridge : ridges) {
        if (!ridge || std::abs(ridge->kink_deg) < ridge_kink_deg || ridge->strength < ridge_strength) continue;
        if (!best || ridge->strength > best->strength) best = ridge;
    }
    return best;
}

}  // namespace bevelsmith::hull
