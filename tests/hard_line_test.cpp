// Surfaces with chines, layers on them, bevels felt at spots, and fits made fairer or closer.
#include <catch2/catch.hpp>

#include <cmath>

#include "hull/section.h"
#include "support/shapes.h"
#include "support/study.h"
#include "support/virtual_jobs.h"
#include "units/quantity.h"

using namespace bevelsmith;

namespace {

/// Scattered readings of a chined hull, the chine read as well.
virtual_jobs::VirtualJob chined(unsigned seed, double sigma_mm) {
    practice::BoatSpec spec;
    spec.form = practice::HullForm::hard_chine;
    spec.seed = seed;
    virtual_jobs::VirtualJob out{practice::VirtualBoat(spec), {}, {}, {}};
    out.hand.sigma_mm = sigma_mm;
    out.hand.random.seed(seed);
    out.options.inside = Vec3(1500, 0, 0);
    auto points = practice::read_points(
        out.boat, practice::random_spots(110, virtual_jobs::low, virtual_jobs::high, out.hand.random), out.hand);
    points.sigma_mm = std::max(sigma_mm, 0.2);
    out.points = virtual_jobs::points_of(points);
    auto line = virtual_jobs::chine_of(out.boat, out.hand, 250);
    line.sigma_mm = points.sigma_mm;
    const auto more = virtual_jobs::points_of(line);
    out.points.insert(out.points.end(), more.begin(), more.end());
    out.options.hard_lines = survey::hard_lines_of(std::vector{line}, "hull");
    return out;
}

std::string refusal(const std::vector<survey::Point>& points, const hull::FitOptions& options) {
    const auto fit = hull::fit_surface(points, options);
    REQUIRE_FALSE(fit.ok());
    return fit.error().message;
}

}  // namespace

TEST_CASE("a chine stays sharp: within a millimetre at it, half a degree beside it, everywhere", "[hard_line]") {
    for (double sigma_mm : {0.0, 0.5, 1.0}) {
        double at_chine = 0, beside_deg = 0, squares = 0, smooth = 0;
        for (unsigned seed = 1; seed <= static_cast<unsigned>(cases(12, 4)); ++seed) {
            auto job = chined(seed, sigma_mm);
            const auto fit = hull::fit_surface(job.points, job.options);
            REQUIRE(fit.ok());
            CHECK(fit->surface.chart().words().find("hard line") != std::string::npos);
            job.options.hard_lines.clear();
            const auto without = hull::fit_surface(job.points, job.options);
            REQUIRE(without.ok());
            for (double x : {300.0, 600.0, 1000.0, 1400.0, 1800.0, 2300.0, 2700.0}) {
                const Vec3 chine = job.boat.chine(x);
                const double off = std::abs(fit->surface.distance_mm(chine));
                at_chine = std::max(at_chine, off);
                squares += off * off;
                smooth += std::pow(without->surface.distance_mm(chine), 2);
                for (const auto& run : virtual_jobs::runs_of(fit->surface, {Vec3::UnitX(), x}, 18))
                    for (const auto& p : run.points) {
                        const double away = (p.a - chine).norm();
                        if (away < 20 || away > 150) continue;
                        const double off_rad = p.bevel_rad + std::asin(job.boat.normal(p.a).x());
                        beside_deg = std::max(beside_deg, units::degrees(std::abs(off_rad)));
                    }
            }
        }
        WARN("readings of " << sigma_mm << " mm: at most " << at_chine << " mm off at the chine, " << beside_deg
                            << " degrees beside it, at 7 stations of each hull");
        CHECK(at_chine < 1.0);
        CHECK(beside_deg < 0.5);
        CHECK(smooth > 4 * squares);  // what a fit without the line makes of it
    }
}

TEST_CASE("a section has its corner on the chine", "[hard_line]") {
    const auto job = chined(3, 0);
    const auto fit = hull::fit_surface(job.points, job.options);
    REQUIRE(fit.ok());
    for (double x : {700.0, 1800.0}) {
        double nearest = 1e9;
        for (const auto& run : virtual_jobs::runs_of(fit->surface, {Vec3::UnitX(), x}, 18))
            for (const auto& p : run.points) nearest = std::min(nearest, (p.a - job.boat.chine(x)).norm());
        CHECK(nearest < 1.5);
    }
}

TEST_CASE("hard lines that cannot be are refused in plain words", "[hard_line]") {
    auto job = chined(4, 1);
    const auto line = job.options.hard_lines.front();
    job.options.hard_lines = {{job.boat.at(1000, -1.2), job.boat.at(1005, -0.6), job.boat.at(1000, 0.1)}};
    CHECK(refusal(job.points, job.options).find("across") != std::string::npos);
    job.options.hard_lines = {line, line};
    CHECK(refusal(job.points, job.options).find("cross or nearly touch") != std::string::npos);
    std::vector<survey::Point> above;
    for (const auto& p : job.points)
        if (p.position.z() > job.boat.chine(p.position.x()).z() - 5) above.push_back(p);
    job.options.hard_lines = {line};
    CHECK(refusal(above, job.options).find("one side of the hard line") != std::string::npos);
}

TEST_CASE("a layer moves the face that joinery meets by its thickness, where it lies", "[hard_line]") {
    const auto half = shapes::cylinder(1200, 3000, units::radians(-170), units::radians(-10));
    const auto fit = hull::fit_surface(shapes::readings(half, 30, 30, 1.5));
    REQUIRE(fit.ok());
    hull::Layer lining{"lining", 9, 1000, 2000, {}, {}};
    const hull::Surface lined = fit->surface.with_layers({lining, {"grounds", 20, {}, {}, {}, {}}});
    const auto radius_at = [&](double x) {
        double sum = 0;
        int n = 0;
        for (const auto& run : virtual_jobs::runs_of(lined, {Vec3::UnitX(), x}, 12))
            for (const auto& p : run.points) sum += std::hypot(p.a.y(), p.a.z()), ++n;
        return sum / n;
    };
    CHECK(radius_at(1500) == Approx(1200 - 29).margin(0.05));
    CHECK(radius_at(500) == Approx(1200 - 20).margin(0.05));
    CHECK(lined.distance_mm({1500, 0, -1171}) == Approx(0).margin(0.05));
    const auto leaning = hull::cut_section(lined, {Vec3(1, 0, 0.2).normalized(), 1250}, 12);
    REQUIRE(leaning.ok());
    for (const auto& p : leaning->front().points)
        if (p.a.x() > 1030 && p.a.x() < 1970) CHECK(std::hypot(p.a.y(), p.a.z()) == Approx(1171).margin(0.1));
}

TEST_CASE("a felt bevel tells the surface how it is turned at the rim", "[hard_line]") {
    // Over many noisy jobs: with the true bevel felt at the rim, the fit's bevel there errs less.
    double without = 0, with = 0;
    for (int k = 0; k < 20; ++k) {
        auto job = virtual_jobs::scattered(k, 50);
        const Vec3 spot = job.boat.at(1500, virtual_jobs::high.angle - 0.03);
        const double truth = -std::asin(job.boat.normal(spot).x());
        const auto error = [&] {
            const auto fit = hull::fit_surface(job.points, job.options);
            REQUIRE(fit.ok());
            const auto c = fit->surface.locate(spot);
            if (!job.options.bevels.empty()) CHECK(std::abs(fit->report.bevel_off_deg.front()) < 2);
            return -std::asin(fit->surface.at({c.s, c.v}).normal.x()) - truth;
        };
        without += std::pow(error(), 2);
        survey::FeltBevel felt;
        felt.position = spot;
        felt.bevel_rad = truth;
        felt.sigma_rad = units::radians(0.3);
        job.options.bevels = {felt};
        with += std::pow(error(), 2);
    }
    CHECK(std::sqrt(with) < 0.75 * std::sqrt(without));
}

TEST_CASE("fairer or closer: the residuals become what was allowed", "[hard_line]") {
    auto job = virtual_jobs::scattered(2, 90);
    for (double allowed : {0.9, 2.0, 4.0}) {
        job.options.allowed_residual_mm = allowed;
        const auto fit = hull::fit_surface(job.points, job.options);
        REQUIRE(fit.ok());
        CHECK(fit->report.rms_mm == Approx(allowed).epsilon(0.05));
    }
}

TEST_CASE("two hard lines that would meet beyond their ends leave every place a place", "[hard_line]") {
    hull::Chart chart;
    const auto warped =
        chart.with_hard_lines({{Vec3(0, 0, 0), Vec3(1000, 300, 0)}, {Vec3(0, 800, 0), Vec3(1000, 500, 0)}});
    REQUIRE(warped.ok());
    for (double x = -500; x < 3000; x += 100)
        for (double y = -500; y < 1500; y += 50) {
            const auto c = warped->to_chart({x, y, 70});
            CHECK(std::isfinite(c.v));
            // Where the lines are apart the way back is the way there.
            if (x <= 1200) CHECK((warped->to_space(c) - Vec3(x, y, 70)).norm() < 1e-6);
        }
}
