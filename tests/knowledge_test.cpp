// What is known of an edge as a whole, forecasts, and where to measure next.
#include <catch2/catch.hpp>

#include <cmath>
#include <iostream>
#include <random>

#include "hull/knowledge.h"
#include "hull/section.h"
#include "job/pipeline.h"
#include "support/study.h"
#include "support/virtual_jobs.h"

using namespace bevelsmith;
using practice::Spot;
using virtual_jobs::high;
using virtual_jobs::low;

namespace {

using Reach = std::function<bool(const Spot&)>;

/// An even spread with the rim, every other column half a step on.
std::vector<Spot> even(int columns, int rows, const Reach& reach) {
    std::vector<Spot> out;
    for (int i = 0; i < columns; ++i) {
        const int n = rows - i % 2;
        for (int j = 0; j < n; ++j) {
            double t = j / (rows - 1.0);
            if (i % 2) t = j == 0 ? 0 : j == n - 1 ? 1 : (j + 0.5) / (rows - 1.0);
            const Spot spot{low.x_mm + (high.x_mm - low.x_mm) * i / (columns - 1.0),
                            low.angle + (high.angle - low.angle) * t};
            if (reach(spot)) out.push_back(spot);
        }
    }
    return out;
}

Spot spot_of(const Vec3& p) {
    return {p.x(), std::atan2(p.z(), p.y())};
}

bool on_the_piece(const Vec3& p) {
    const double angle = spot_of(p).angle;
    return angle >= low.angle && angle <= high.angle;
}

/// A bulkhead at `x` on a boat, and ways to spend readings on it.
struct Trial {
    practice::VirtualBoat boat;
    double x;
    Reach reach;
    unsigned seed;
    hull::FitOptions options{};

    practice::Hand hand() const {
        practice::Hand out;
        out.random.seed(seed);
        return out;
    }
    void take(std::vector<survey::Point>& points, const std::vector<Spot>& spots, practice::Hand& by) const {
        const auto more = virtual_jobs::points_of(practice::read_points(boat, spots, by));
        points.insert(points.end(), more.begin(), more.end());
    }
    double largest_gap(const std::vector<survey::Point>& points) const {
        const auto fit = hull::fit_surface(points, options);
        REQUIRE(fit.ok());
        const auto runs = hull::cut_section(fit->surface, {Vec3::UnitX(), x}, 18);
        REQUIRE(runs.ok());
        double out = 0;
        for (const auto& run : *runs)
            for (const auto& p : run.points)
                if (on_the_piece(p.a)) out = std::max(out, std::abs(boat.outside_mm(p.a)));
        return out;
    }
    /// One reading after the other where it is said to help most.
    std::vector<survey::Point> as_suggested(std::vector<survey::Point> points, int more, practice::Hand by) const {
        for (; more > 0; --more) {
            const auto fit = hull::fit_surface(points, options);
            REQUIRE(fit.ok());
            const auto runs = hull::cut_section(fit->surface, {Vec3::UnitX(), x}, 18);
            REQUIRE(runs.ok());
            std::vector<hull::Place> edge;
            for (const auto& run : *runs)
                for (const auto& p : run.points)
                    if (on_the_piece(p.a)) edge.push_back(p.place);
            hull::SuggestionOptions how;
            how.how_many = std::min(5, more);
            how.reachable = [&](const hull::Place& place) {
                const Spot s = spot_of(fit->surface.at(place).position);
                return s.x_mm > 0 && s.x_mm < practice::VirtualBoat::length_mm && s.angle > low.angle - 0.02 &&
                       s.angle < high.angle + 0.02 && reach(s);
            };
            const auto where = hull::suggest_readings(fit->surface, edge, how);
            REQUIRE_FALSE(where.empty());
            take(points, {spot_of(where.front().position)}, by);
        }
        return points;
    }
};

struct Gaps {
    double suggested = 0, even_over_patch = 0, along_section = 0;
};

/// `usual`: where the first readings and the even spread are taken. `reach`: where suggestions may lie.
Gaps mean_gaps(const std::function<Reach(double x)>& usual, const std::function<Reach(double x)>& reach) {
    const int bulkheads = cases(100, 12);
    constexpr int more = 6;
    Gaps out;
    for (unsigned k = 0; k < static_cast<unsigned>(bulkheads); ++k) {
        practice::BoatSpec spec;
        spec.form = k % 2 ? practice::HullForm::flared_bow : practice::HullForm::round_bilge;
        spec.seed = 900 + k;
        std::mt19937 random(k + 1);
        const double x = std::uniform_real_distribution<double>(600, 2400)(random);
        Trial trial{practice::VirtualBoat(spec), x, reach(x), 1000 + k};
        trial.options.inside = Vec3(1500, 0, 0);
        practice::Hand by = trial.hand();
        std::vector<survey::Point> first;
        trial.take(first, even(5, 6, usual(x)), by);
        out.suggested += trial.largest_gap(trial.as_suggested(first, more, by)) / bulkheads;

        int columns = 5;
        while (even(columns, 6, usual(x)).size() < first.size() + more) ++columns;
        std::vector<Spot> spread = even(columns, 6, usual(x));
        while (spread.size() > first.size() + more)
            spread.erase(spread.begin() + static_cast<std::ptrdiff_t>(random() % spread.size()));
        std::vector<survey::Point> evenly;
        practice::Hand another = trial.hand();
        trial.take(evenly, spread, another);
        out.even_over_patch += trial.largest_gap(evenly) / bulkheads;

        std::vector<Spot> line;
        for (int i = 0; i < more; ++i) {
            const Spot s{x, low.angle + (high.angle - low.angle) * i / (more - 1.0)};
            if (trial.reach(s)) line.push_back(s);
        }
        trial.take(first, line, by);
        out.along_section += trial.largest_gap(first) / bulkheads;
    }
    std::cout << "largest true gap, mean of " << bulkheads << " bulkheads: as suggested " << out.suggested
              << " mm, evenly over the patch " << out.even_over_patch << " mm, evenly along the section "
              << out.along_section << " mm\n";
    return out;
}

Reach everywhere(double) {
    return [](const Spot&) { return true; };
}

hull::FittedSurface fitted(const virtual_jobs::VirtualJob& job) {
    auto fit = hull::fit_surface(job.points, job.options);
    REQUIRE(fit.ok());
    return std::move(fit.value());
}

std::vector<hull::Place> edge_at(const hull::Surface& surface, double x) {
    std::vector<hull::Place> out;
    for (const auto& run : virtual_jobs::runs_of(surface, {Vec3::UnitX(), x}, 18))
        for (const auto& p : run.points)
            if (p.in_survey) out.push_back(p.place);
    return out;
}

}  // namespace

TEST_CASE("readings as suggested make a smaller gap than as many spread evenly", "[knowledge]") {
    const Gaps gaps = mean_gaps(everywhere, everywhere);
    CHECK(gaps.suggested < 0.85 * gaps.even_over_patch);
    CHECK(gaps.suggested < gaps.along_section);
}

TEST_CASE("where the readings have a hole, suggestions fill it", "[knowledge]") {
    const auto hole = [](double x) -> Reach { return [x](const Spot& s) { return std::abs(s.x_mm - x) > 450; }; };
    const Gaps gaps = mean_gaps(hole, everywhere);
    CHECK(gaps.suggested < 0.60 * gaps.even_over_patch);
}

TEST_CASE("where a strip is out of reach, suggestions go beside it", "[knowledge]") {
    const auto strip = [](double x) -> Reach { return [x](const Spot& s) { return std::abs(s.x_mm - x) > 200; }; };
    const Gaps gaps = mean_gaps(strip, strip);
    CHECK(gaps.suggested < 0.60 * gaps.even_over_patch);
}

TEST_CASE("joint knowledge agrees with the surface's own, place by place", "[knowledge]") {
    const auto fit = fitted(virtual_jobs::scattered(3, 90));
    const auto edge = edge_at(fit.surface, 1400);
    const hull::Knowledge known(fit.surface, edge);
    for (std::size_t i = 0; i < edge.size(); ++i)
        CHECK(known.sigma_mm(static_cast<Eigen::Index>(i)) == Approx(fit.surface.sigma_mm(edge[i])).epsilon(1e-6));
    CHECK(known.covariance_mm2().isApprox(known.covariance_mm2().transpose()));
}

TEST_CASE("a reading taken leaves at its place what two sources of knowledge leave", "[knowledge]") {
    const auto fit = fitted(virtual_jobs::scattered(4, 90));
    hull::Knowledge known(fit.surface, edge_at(fit.surface, 1400));
    const double before = known.sigma_mm(10), other = known.sigma_mm(40);
    known.take_reading(10, 1.5);
    // 1/s'² = 1/s² + 1/r² (derived).
    CHECK(known.sigma_mm(10) == Approx(1 / std::sqrt(1 / (before * before) + 1 / (1.5 * 1.5))));
    CHECK(known.sigma_mm(40) <= other * (1 + 1e-12));
}

TEST_CASE("a forecast of independent errors is what order statistics say", "[knowledge]") {
    // The largest of n independent |N(0,1)| stays below x with probability (2 Phi(x) - 1)^n (derived).
    const int n = 12;
    const Eigen::MatrixXd unit = Eigen::MatrixXd::Identity(n, n);
    const double one = std::erf(2.5 / std::sqrt(2.0));
    CHECK(hull::forecast_fit(unit, 2.5).chance_within == Approx(std::pow(one, n)).margin(3 * 0.016));
    // Wholly dependent errors are one error; its mean size is sqrt(2/pi) (derived).
    const Eigen::MatrixXd same = Eigen::MatrixXd::Constant(n, n, 4.0);
    CHECK(hull::forecast_fit(same, 3).expected_largest_mm == Approx(2 * std::sqrt(2 / M_PI)).epsilon(0.06));
    CHECK(hull::forecast_fit(Eigen::MatrixXd(0, 0), 1).chance_within == 1);
}

TEST_CASE("suggestions come with what they would bring, worst first, and keep to what can be reached",
          "[knowledge]") {
    const auto fit = fitted(virtual_jobs::scattered(5, 60));
    const auto edge = edge_at(fit.surface, 1400);
    double worst = 0;
    for (const auto& p : edge) worst = std::max(worst, fit.surface.sigma_mm(p));
    hull::SuggestionOptions how;
    how.how_many = 5;
    const auto all = hull::suggest_readings(fit.surface, edge, how);
    REQUIRE(all.size() == 5);
    for (std::size_t i = 0; i < all.size(); ++i) {
        CHECK(all[i].worst_mm <= (i ? all[i - 1].worst_mm : worst) + 1e-9);
        CHECK((fit.surface.at(all[i].place).position - all[i].position).norm() < 1e-9);
    }
    how.reachable = [&](const hull::Place& p) { return fit.surface.at(p).position.x() > 1800; };
    for (const auto& s : hull::suggest_readings(fit.surface, edge, how)) CHECK(s.position.x() > 1800);
    how.reachable = [](const hull::Place&) { return false; };
    CHECK(hull::suggest_readings(fit.surface, edge, how).empty());
    CHECK(hull::suggest_readings(fit.surface, {}, {}).empty());
}

TEST_CASE("over the whole patch, readings are proposed where they lower its worst uncertainty", "[knowledge]") {
    const auto job = virtual_jobs::scattered(2, 60);
    const auto fit = hull::fit_surface(job.points, job.options).value();
    for (int n : {1, 5}) {
        hull::SuggestionOptions how;
        how.how_many = n;
        const auto next = hull::next_over_patch(fit.surface, how);
        REQUIRE(next.suggestions.size() == static_cast<std::size_t>(n));
        double before = next.worst_mm * 1.001;
        for (const auto& s : next.suggestions) {
            CHECK(s.worst_mm <= before);
            before = s.worst_mm;
        }
        CHECK(next.suggestions.back().worst_mm < next.worst_mm);
    }
}

TEST_CASE("a reading at or beyond the rim is asked for where the piece stands there, and not where it does not",
          "[knowledge]") {
    // Readings from 400 to 2400; a bulkhead at the rim, and one in the middle of them.
    practice::Hand hand;
    const practice::VirtualBoat boat({});
    const auto points = virtual_jobs::points_of(practice::read_points(
        boat, practice::random_spots(70, {400, low.angle}, {2400, high.angle}, hand.random), hand));
    hull::FitOptions options;
    options.inside = Vec3(1500, 0, 0);
    const auto fit = hull::fit_surface(points, options).value();
    const auto at_rim = [&](double x) {
        std::vector<hull::Place> edge;
        for (const auto& run : virtual_jobs::runs_of(fit.surface, {Vec3::UnitX(), x}, 18))
            for (const auto& p : run.points) edge.push_back(p.place);
        int out = 0;
        for (const auto& s : hull::suggest_readings(fit.surface, edge, {3, 1.5, {}}))
            out += s.position.x() > 2340 ? 1 : 0;
        return out;
    };
    CHECK(at_rim(2395) >= 2);
    CHECK(at_rim(1400) == 0);
}

TEST_CASE("after a frame or two the spots to measure next lie on the hull, not in mid-air", "[knowledge]") {
    int spots = 0;
    for (unsigned seed = 1; seed <= static_cast<unsigned>(cases(12, 3)); ++seed)
        for (const double apart : {20.0, 150.0}) {
            const practice::VirtualBoat boat({static_cast<practice::HullForm>(seed % 3), 0, 0, seed});
            practice::Hand hand{1.5, 0, std::mt19937(seed)};
            job::Job job = job::empty_job();
            // Three lines beside one frame, read from the bilge up.
            for (const double x : {1500 - apart, 1500.0, 1500 + apart}) {
                std::vector<practice::Spot> places;
                for (double a = -1.4; a <= -0.2; a += 0.11) places.push_back({x, a});
                auto set = practice::read_points(boat, places, hand);
                set.surface_id = "hull";
                job::add_readings(job, set);
            }
            job::Pipeline pipeline;
            const auto results = pipeline.compute(job);
            const auto* hull = results.surface("hull");
            // Where that is too little for a surface nothing is proposed.
            if (!hull->fitted()) {
                CHECK_FALSE(hull->next);
                continue;
            }
            REQUIRE(hull->next);
            for (const auto& spot : hull->next->suggestions) {
                INFO("seed " << seed << ", " << apart << " mm apart");
                CHECK(std::abs(boat.outside_mm(spot.position)) < 30);
                ++spots;
            }
        }
    CHECK(spots > 6);
}
