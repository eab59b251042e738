// The penalised spline: basis, banded Cholesky, what the fit does with noise, slips, sparse and folded readings.
#include <catch2/catch.hpp>

#include <Eigen/Cholesky>
#include <Eigen/LU>
#include <cmath>
#include <random>
#include <tuple>

#include "geometry/eigenpairs.h"
#include "hull/far_off.h"
#include "hull/fit.h"
#include "hull/fit_stages.h"
#include "hull/mesh.h"
#include "support/shapes.h"
#include "support/study.h"
#include "units/quantity.h"

using namespace bevelsmith;
using namespace bevelsmith::hull;

namespace {

Eigen::MatrixXd dense(const BlockBand& band) {
    Eigen::MatrixXd out(band.size(), band.size());
    for (int k = 0; k < band.size(); ++k) out.col(k) = band.times(Eigen::VectorXd::Unit(band.size(), k));
    return out;
}

/// A random positive definite matrix whose entries lie within one block of the diagonal.
BlockBand random_band(int size, int block, unsigned seed) {
    std::mt19937 random(seed);
    std::normal_distribution<double> entry(0, 1);
    BlockBand out(size, block);
    for (int i = 0; i < size; ++i)
        for (int j = 0; j <= i; ++j)
            if (i / block - j / block <= 1) out.add(i, j, i == j ? 6.0 * block : entry(random));
    return out;
}

/// Shares of points inside the 95 % band over some fits of one shape.
struct Coverage {
    int inside = 0, all = 0;
    double rms_mm = 0;
};

Coverage coverage_of(const shapes::Shape& shape, int across, int along, int jobs) {
    Coverage out;
    double squares = 0;
    for (int seed = 1; seed <= jobs; ++seed) {
        const auto fit =
            fit_surface(shapes::readings(shape, across, along, 1.5, 1.5, static_cast<std::uint32_t>(seed)));
        REQUIRE(fit.ok());
        for (double u = 0.1; u < 0.95; u += 0.1)
            for (double v = 0.1; v < 0.95; v += 0.1) {
                const Vec3 p = shape.at(u, v);
                const auto c = fit->surface.locate(p);
                const double off = fit->surface.distance_mm(p), sigma = fit->surface.sigma_mm({c.s, c.v});
                ++out.all;
                out.inside += std::abs(off) <= 1.96 * sigma;
                squares += off * off;
            }
    }
    out.rms_mm = std::sqrt(squares / out.all);
    return out;
}

}  // namespace

TEST_CASE("cubic B-splines sum to one and their derivatives to zero", "[fit]") {
    // Partition of unity (C. de Boor, A Practical Guide to Splines, ch. IX).
    for (bool periodic : {false, true}) {
        const CubicBasis basis(-1.5, 2.5, 9, periodic);
        for (double x = -1.5; x <= 2.5; x += 0.07)
            for (int d = 0; d < 4; ++d) {
                double sum = 0;
                for (double w : basis.at(x, d).weight) sum += w;
                REQUIRE(sum == Approx(d == 0 ? 1 : 0).margin(1e-9));
            }
    }
}

TEST_CASE("derivatives of the basis agree with differences", "[fit]") {
    const CubicBasis basis(0, 3, 7);
    const auto value = [&](double x, int d) {
        double sum = 0;
        const auto local = basis.at(x, d);
        for (std::size_t k = 0; k < 4; ++k) sum += local.weight[k] * std::sin(1.0 + local.index[k]);
        return sum;
    };
    const double h = 1e-5;
    for (double x = 0.1; x < 2.9; x += 0.31)
        for (int d = 0; d < 2; ++d)
            CHECK(value(x, d + 1) == Approx((value(x + h, d) - value(x - h, d)) / (2 * h)).margin(1e-4));
}

TEST_CASE("the Gram matrix integrates products of the basis", "[fit]") {
    const CubicBasis basis(0, 2, 5);
    const Eigen::MatrixXd gram = basis.gram(0);
    // All functions sum to one, so all entries sum to the length of the interval (derived).
    CHECK(gram.sum() == Approx(2));
    CHECK((gram - gram.transpose()).norm() < 1e-12);
    // Third derivatives of quadratics vanish: three more functions than the rank.
    const Eigen::MatrixXd third = basis.gram(3);
    const Eigen::VectorXd eigenvalues = geometry::eigenpairs_of(third).values;
    CHECK(eigenvalues[2] / eigenvalues.maxCoeff() < 1e-10);
    CHECK(eigenvalues[3] / eigenvalues.maxCoeff() > 1e-10);
}

TEST_CASE("block Cholesky solves, and knows the determinant, as a dense one does", "[fit]") {
    // Library oracle: Eigen's dense LLT.
    for (const auto& [size, block] : {std::pair{12, 4}, std::pair{23, 5}, std::pair{40, 9}, std::pair{7, 7}}) {
        const BlockBand band = random_band(size, block, static_cast<unsigned>(size));
        const Eigen::MatrixXd a = dense(band);
        const auto factor = BlockCholesky::factor(band);
        REQUIRE(factor);
        const Eigen::LLT<Eigen::MatrixXd> oracle(a);
        const Eigen::VectorXd right = Eigen::VectorXd::LinSpaced(size, -1, 2);
        CHECK((factor->solve(right) - oracle.solve(right)).norm() < 1e-10);
        const Eigen::MatrixXd lower = oracle.matrixL();
        CHECK(factor->log_determinant() == Approx(2 * lower.diagonal().array().log().sum()));
        CHECK(factor->half_solve(right, 0).squaredNorm() == Approx(right.dot(oracle.solve(right))));
    }
}

TEST_CASE("the band of the inverse is that of the dense inverse", "[fit]") {
    // Library oracle: Eigen's dense inverse.
    for (const auto& [size, block] : {std::pair{12, 4}, std::pair{23, 5}, std::pair{40, 9}, std::pair{7, 7}}) {
        const BlockBand band = random_band(size, block, static_cast<unsigned>(size) + 50);
        const Eigen::MatrixXd inverse = dense(band).inverse();
        const BlockBand ours = BlockCholesky::factor(band)->band_of_inverse();
        for (int i = 0; i < size; ++i)
            for (int j = 0; j < size; ++j)
                if (std::abs(i / block - j / block) <= 1) CHECK(ours.at(i, j) == Approx(inverse(i, j)).margin(1e-12));
    }
}

TEST_CASE("a matrix that is not positive definite has no factor", "[fit]") {
    BlockBand band(6, 3);
    for (int i = 0; i < 6; ++i) band.add(i, i, i == 4 ? -1 : 1);
    CHECK_FALSE(BlockCholesky::factor(band));
}

TEST_CASE("a surface that is a quadratic over its chart is met exactly, whatever the smoothing", "[fit]") {
    // The third-order penalty leaves quadratics alone (derived).
    std::vector<survey::Point> points;
    for (int i = 0; i <= 12; ++i)
        for (int k = 0; k <= 12; ++k) {
            const double x = i * 100.0, z = k * 80.0;
            points.push_back(
                {Vec3(x, 800 + 0.1 * x - 1e-4 * x * x + 0.2 * z - 2e-4 * z * z + 5e-5 * x * z, z), 1.5, 0, 0});
        }
    FitOptions options;
    options.chart = ChartChoice::plane;
    options.inside = Vec3(600, 0, 500);
    const auto fit = fit_surface(points, options);
    REQUIRE(fit.ok());
    for (const auto& p : points) CHECK(std::abs(fit->surface.distance_mm(p.position)) < 0.02);
}

TEST_CASE("normals point out of the boat and square to the surface", "[fit]") {
    const auto tube = shapes::cylinder(900, 2500, units::radians(-170), units::radians(-10));
    const auto fit = fit_surface(shapes::readings(tube, 24, 20, 1.0));
    REQUIRE(fit.ok());
    for (double u = 0.15; u < 0.9; u += 0.1)
        for (double v = 0.15; v < 0.9; v += 0.1) {
            const auto c = fit->surface.locate(tube.at(u, v));
            const auto here = fit->surface.at({c.s, c.v});
            CHECK(here.normal.dot(tube.normal(tube.at(u, v))) > 0.9999);
            CHECK(std::abs(here.normal.dot(here.along_s.normalized())) < 1e-9);
        }
}

TEST_CASE("a point inside the boat decides which way is out", "[fit]") {
    const auto side = shapes::wigley_side(9000, 2800, 1100);
    const auto points = shapes::readings(side, 16, 12, 1.5);
    FitOptions options;
    options.inside = Vec3(0, 0, -300);
    CHECK(fit_surface(points, options)->surface.at({0, 0}).normal.y() > 0.5);
    options.inside = Vec3(0, 5000, -300);
    CHECK(fit_surface(points, options)->surface.at({0, 0}).normal.y() < -0.5);
}

TEST_CASE("the 95 % band holds the truth as often as it says, or nearly", "[fit]") {
    // Over 40 simulated jobs of 80 readings the share should be 92-99 % (feasibility study); one job's points err
    // together, so the sampling error of the share is about 1.5 %.
    for (const auto& shape : {shapes::wigley_side(4000, 2000, 1100), shapes::cylinder(1200, 2500, -2.6, -0.5)}) {
        const Coverage c = coverage_of(shape, 8, 10, cases(40, 16));
        INFO("coverage " << 1.0 * c.inside / c.all << ", rms " << c.rms_mm);
        CHECK(c.inside > 0.90 * c.all);
        // A band that is too wide holds everything.
        CHECK(c.inside < 0.995 * c.all);
        CHECK(c.rms_mm < 1.2);
    }
}

TEST_CASE("a figure too many stretches no chart: the fit is the others', and the reading is told", "[fit]") {
    const auto side = shapes::wigley_side(4000, 2000, 1100);
    for (std::uint32_t seed = 1; seed <= 6; ++seed) {
        auto points = shapes::readings(side, 10, 10, 1.5, 1.5, seed);
        CHECK(far_off(points).empty());
        const std::size_t wrong = 17 * seed % points.size();
        auto others = points;
        others.erase(others.begin() + static_cast<std::ptrdiff_t>(wrong));
        const int axis = seed % 2 == 0 ? 1 : 2;
        points[wrong].position[axis] += axis == 1 ? 7200 : -7200;
        REQUIRE(far_off(points) == std::vector<int>{static_cast<int>(wrong)});
        const auto fit = fit_surface(points), without = fit_surface(others);
        REQUIRE((fit.ok() && without.ok()));
        CHECK(fit->report.coefficients == without->report.coefficients);
        CHECK(fit->report.log10_smoothing_s == without->report.log10_smoothing_s);
        REQUIRE(fit->report.readings.size() == points.size());
        CHECK(fit->report.readings[wrong].suspect);
        CHECK(std::abs(fit->report.readings[wrong].studentised) > 100);
        const auto after = std::min(wrong + 1, points.size() - 1);
        CHECK(fit->report.readings[after].residual_mm == without->report.readings[after - 1].residual_mm);
        // Not left out where nobody wants slips found.
        FitOptions options;
        options.find_slips = false;
        CHECK(fit_surface(points, options)->report.suspects() == 0);
    }
    // A whole station elsewhere is no slip of the pen; nor is a lone one a little beyond the last.
    auto points = shapes::readings(side, 10, 10, 1.5, 1.5, 3);
    for (std::size_t k = 0; k < 10; ++k) points[k].position.y() -= 9000;
    CHECK(far_off(points).empty());
    points = shapes::readings(side, 10, 10, 1.5, 1.5, 3);
    points[5].position.x() += 1500;
    CHECK(far_off(points).empty());
}

TEST_CASE("a slip of 30 mm is found and named, and clean readings raise no alarm", "[fit]") {
    const auto side = shapes::wigley_side(4000, 2000, 1100);
    int found = 0, alarms = 0;
    const int jobs = cases(40, 16);
    for (std::uint32_t seed = 1; seed <= static_cast<std::uint32_t>(jobs); ++seed) {
        auto points = shapes::readings(side, 10, 10, 1.5, 1.5, seed);
        const auto clean = fit_surface(points);
        REQUIRE(clean.ok());
        alarms += clean->report.suspects() > 0;
        const std::size_t wrong = 11 + seed * 2 % 77;
        points[wrong].position += 30 * side.normal(points[wrong].position);
        const auto fit = fit_surface(points);
        REQUIRE(fit.ok());
        found += fit->report.readings[wrong].suspect;
        if (fit->report.readings[wrong].suspect)
            CHECK(fit->report.readings[wrong].residual_mm == Approx(30).margin(8));
    }
    CHECK(found >= jobs * 92 / 100);
    CHECK(alarms <= 3);
}

TEST_CASE("two slips at once are both found", "[fit]") {
    const auto side = shapes::wigley_side(4000, 2000, 1100);
    auto points = shapes::readings(side, 12, 12, 1.5, 1.5, 5);
    points[40].position += 60 * side.normal(points[40].position);
    points[100].position -= 45 * side.normal(points[100].position);
    const auto fit = fit_surface(points);
    REQUIRE(fit.ok());
    CHECK(fit->report.readings[40].suspect);
    CHECK(fit->report.readings[100].suspect);
    CHECK(fit->report.suspects() == 2);
    CHECK(fit->report.rms_mm < 2);
}

TEST_CASE("a slip left in is a matter of choice", "[fit]") {
    const auto side = shapes::wigley_side(4000, 2000, 1100);
    auto points = shapes::readings(side, 10, 10, 1.5, 1.5, 3);
    points[44].position += 80 * side.normal(points[44].position);
    FitOptions options;
    options.find_slips = false;
    const auto fit = fit_surface(points, options);
    REQUIRE(fit.ok());
    CHECK(fit->report.suspects() == 0);
    CHECK(fit->report.max_mm > 20);
}

TEST_CASE("readings that scatter more than declared are told of", "[fit]") {
    const auto side = shapes::wigley_side(4000, 2000, 1100);
    const auto fit = fit_surface(shapes::readings(side, 16, 14, 1.0, 4.0, 9));
    REQUIRE(fit.ok());
    CHECK(fit->report.scatter > 2);
    REQUIRE_FALSE(fit->report.warnings.empty());
    CHECK(fit_surface(shapes::readings(side, 16, 14, 1.5, 1.5, 9))->report.scatter == Approx(1).margin(0.25));
}

TEST_CASE("of few readings the scatter is itself uncertain, and the band is wider for it", "[fit]") {
    // Published table of Student's t: 97.5 % at 30 degrees of freedom is 2.042, at 60 2.000. Of a plane chart six
    // polynomials are free, and what was declared counts as fifteen readings.
    const auto side = shapes::wigley_side(4000, 2000, 1100);
    FitOptions options;
    options.chart = ChartChoice::plane;
    options.find_slips = false;
    options.intervals_s = options.intervals_v = 5;
    for (const auto& [across, along, t] : {std::tuple(7, 3, 2.042), std::tuple(17, 3, 2.000)}) {
        const auto fit = fit_surface(shapes::readings(side, across, along, 1.5, 1.5, 4), options);
        REQUIRE(fit.ok());
        const double factor = std::sqrt(fit->surface.data().scale) / fit->report.scatter;
        CHECK(factor == Approx(t / 1.96).epsilon(0.0005));
    }
}

TEST_CASE("a smoothing that a person chose is not in doubt, one that readings tell is", "[fit]") {
    const auto side = shapes::wigley_side(4000, 2000, 1100);
    const auto points = shapes::readings(side, 8, 6, 1.5, 1.5, 4);
    FitOptions options;
    CHECK(fit_surface(points, options)->surface.data().doubt.cols() == 2);
    options.allowed_residual_mm = 1.5;
    CHECK(fit_surface(points, options)->surface.data().doubt.cols() == 0);
}

TEST_CASE("uncertainty grows where there are no readings", "[fit]") {
    const auto side = shapes::wigley_side(4000, 2000, 1100);
    auto points = shapes::readings(side, 14, 12, 1.5, 1.5, 4);
    std::erase_if(points, [&](const survey::Point& p) { return std::abs(p.position.x()) < 450; });
    const auto fit = fit_surface(points);
    REQUIRE(fit.ok());
    const auto sigma = [&](double u) {
        const auto c = fit->surface.locate(side.at(u, 0.5));
        return fit->surface.sigma_mm({c.s, c.v});
    };
    CHECK(sigma(0.5) > 1.5 * sigma(0.15));
}

TEST_CASE("too few readings, or too few stations, are refused in plain words", "[fit]") {
    const auto side = shapes::wigley_side(4000, 2000, 1100);
    const auto few = fit_surface(shapes::readings(side, 3, 3, 1.5));
    REQUIRE_FALSE(few.ok());
    CHECK(few.error().message.find("12") != std::string::npos);
    const auto two = fit_surface(shapes::readings(side, 2, 20, 1.5));
    REQUIRE_FALSE(two.ok());
    CHECK(two.error().message.find("third station") != std::string::npos);
    std::vector<survey::Point> line;
    for (int k = 0; k < 40; ++k) line.push_back({Vec3(k, 2 * k, 3 * k), 1.5, 0, 0});
    CHECK(fit_surface(line).error().message.find("one line") != std::string::npos);
    std::vector<survey::Point> one_spot(30, survey::Point{Vec3(1, 2, 3), 1.5, 0, 0});
    CHECK_FALSE(fit_surface(one_spot).ok());
    CHECK_FALSE(fit_surface({}).ok());
}

TEST_CASE("a closed tube laid over a plane folds over and is refused", "[fit]") {
    const auto tube = shapes::cylinder(900, 2500, -3.1, 3.0);
    FitOptions options;
    options.chart = ChartChoice::plane;
    const auto fit = fit_surface(shapes::readings(tube, 20, 40, 1.5), options);
    REQUIRE_FALSE(fit.ok());
    CHECK(fit.error().message.find("folds over") != std::string::npos);
}

TEST_CASE("the chart suits the readings and is said in plain words", "[fit]") {
    const auto whole = fit_surface(shapes::readings(shapes::cylinder(900, 2500, -3.0, -0.1), 20, 30, 1.5));
    REQUIRE(whole.ok());
    CHECK(whole->surface.chart().kind == Chart::Kind::axis);
    CHECK(whole->surface.chart().words() == "around an axis along the boat");
    FitOptions plane;
    plane.chart = ChartChoice::plane;
    const auto side = fit_surface(shapes::readings(shapes::wigley_side(9000, 2800, 1100), 16, 12, 1.5), plane);
    REQUIRE(side.ok());
    CHECK(side->surface.chart().words().find("over a plane facing") == 0);
}

TEST_CASE("charts give back the points they take", "[fit]") {
    Chart chart;
    for (auto kind : {Chart::Kind::plane, Chart::Kind::axis}) {
        chart.kind = kind;
        chart.origin = {100, -20, 300};
        chart.mean_radius_m = 1.3;
        for (const Vec3& p : {Vec3(500, 600, -700), Vec3(-20, -900, 100), Vec3(0, 30, 1200)})
            CHECK((chart.to_space(chart.to_chart(p)) - p).norm() < 1e-9);
    }
}

TEST_CASE("the same readings give the same surface, to the last bit", "[fit]") {
    const auto points = shapes::readings(shapes::wigley_side(4000, 2000, 1100), 9, 9, 1.5, 1.5, 7);
    const auto a = fit_surface(points), b = fit_surface(points);
    CHECK(a->surface.at({0.1, 0.1}).position == b->surface.at({0.1, 0.1}).position);
    CHECK(a->report.log10_smoothing_s == b->report.log10_smoothing_s);
}

TEST_CASE("smoothing scales with the size of the hull, not with its unit", "[fit]") {
    // A hull of half the size, read half as finely, is the same hull (derived): sections differ by the factor.
    const auto large = shapes::readings(shapes::wigley_side(3000, 1600, 900), 10, 10, 1.5, 1.5, 2);
    auto small = large;
    for (auto& p : small) p.position /= 2, p.sigma_mm /= 2;
    const auto a = fit_surface(large), b = fit_surface(small);
    REQUIRE((a.ok() && b.ok()));
    CHECK(b->report.rms_mm == Approx(a->report.rms_mm / 2).epsilon(0.1));
}

TEST_CASE("a mesh for pictures lies on the surface and knows where readings are", "[fit]") {
    const auto side = shapes::wigley_side(4000, 2000, 1100);
    const auto fit = fit_surface(shapes::readings(side, 12, 12, 1.5));
    const Mesh mesh = sample_mesh(fit->surface, 9, 11);
    REQUIRE(mesh.nodes.size() == 99);
    CHECK(mesh.at(4, 5).surrounded);
    CHECK_FALSE(mesh.at(0, 0).surrounded);
    for (const auto& n : mesh.nodes) {
        CHECK(std::abs(fit->surface.distance_mm(n.position)) < 1e-6);
        CHECK(n.sigma_mm > 0);
    }
}
