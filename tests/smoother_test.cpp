// The penalised least squares and its restricted likelihood against a dense solution written out from the formulas
// (S.N. Wood, Generalized Additive Models, 2nd ed., ch. 6; derived): same minimum, same criterion up to a constant.
#include <catch2/catch.hpp>

#include <Eigen/Cholesky>
#include <Eigen/LU>
#include <cmath>
#include <random>

#include "geometry/eigenpairs.h"
#include "hull/smoother.h"

using namespace bevelsmith::hull;

namespace {

constexpr double ln10 = 2.302585092994046;

/// Gram matrix of derivatives by composite Simpson within each knot interval, an integration of its own.
Eigen::MatrixXd gram(const CubicBasis& basis, int derivative) {
    const int n = basis.count(), steps = 64;
    Eigen::MatrixXd out = Eigen::MatrixXd::Zero(n, n);
    const double width = (basis.high() - basis.low()) / basis.intervals(), h = width / steps;
    for (int span = 0; span < basis.intervals(); ++span)
        for (int k = 0; k <= steps; ++k) {
            // Nudged inside, so that the one-sided value at a knot is the interval's own.
            const double inside = k == 0 ? 1e-9 : k == steps ? -1e-9 : 0;
            const auto local = basis.at(basis.low() + span * width + k * h + inside, derivative);
            const double mass = h / 3 * (k == 0 || k == steps ? 1 : k % 2 ? 4 : 2);
            for (std::size_t a = 0; a < 4; ++a)
                for (std::size_t b = 0; b < 4; ++b)
                    out(local.index[a], local.index[b]) += mass * local.weight[a] * local.weight[b];
        }
    return out;
}

Eigen::MatrixXd kron(const Eigen::MatrixXd& a, const Eigen::MatrixXd& b) {
    Eigen::MatrixXd out(a.rows() * b.rows(), a.cols() * b.cols());
    for (Eigen::Index i = 0; i < a.rows(); ++i)
        for (Eigen::Index j = 0; j < a.cols(); ++j)
            out.block(i * b.rows(), j * b.cols(), b.rows(), b.cols()) = a(i, j) * b;
    return out;
}

struct Dense {
    Eigen::MatrixXd x, p;
    Eigen::VectorXd y, w;
    int null_dimension = 6;  ///< quadratics in two variables

    Eigen::VectorXd solution() const {
        const Eigen::MatrixXd a = x.transpose() * w.asDiagonal() * x + p;
        return a.ldlt().solve(x.transpose() * (w.array() * y.array()).matrix());
    }
    /// Q + log|X'WX + P| - log|P|+, by eigenvalues.
    double criterion() const {
        const Eigen::VectorXd b = solution(), r = y - x * b;
        const double q = (w.array() * r.array().square()).sum() + b.dot(p * b);
        const Eigen::MatrixXd a = x.transpose() * w.asDiagonal() * x + p;
        const Eigen::VectorXd all = bevelsmith::geometry::eigenpairs_of(a).values,
                              penalty = bevelsmith::geometry::eigenpairs_of(p).values;
        double out = q + all.array().log().sum();
        for (Eigen::Index k = null_dimension; k < p.rows(); ++k) out -= std::log(penalty[k]);
        return out;
    }
};

ChartData noisy(int count, unsigned seed) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> place(0.02, 0.98);
    std::normal_distribution<double> error(0, 0.0015);
    ChartData data{Eigen::VectorXd(count), Eigen::VectorXd(count), Eigen::VectorXd(count), Eigen::VectorXd(count)};
    for (int i = 0; i < count; ++i) {
        data.s[i] = 2.0 * place(random);
        data.v[i] = 1.4 * place(random);
        data.height[i] =
            0.8 + 0.2 * std::sin(2 * data.s[i]) + 0.1 * data.v[i] * data.v[i] * data.v[i] + error(random);
        data.weight[i] = 1 / (0.0015 * 0.0015) * (i % 5 == 0 ? 0.25 : 1.0);
    }
    return data;
}

const CubicBasis basis_s(0, 2, 5), basis_v(0, 1.4, 4);

Dense dense(const ChartData& data, const Smoothing& at) {
    Dense out;
    const int n = basis_s.count() * basis_v.count();
    out.x = Eigen::MatrixXd::Zero(data.count(), n);
    for (int i = 0; i < data.count(); ++i) {
        const auto s = basis_s.at(data.s[i]), v = basis_v.at(data.v[i]);
        for (std::size_t a = 0; a < 4; ++a)
            for (std::size_t b = 0; b < 4; ++b)
                out.x(i, s.index[a] * basis_v.count() + v.index[b]) += s.weight[a] * v.weight[b];
    }
    out.y = data.height;
    out.w = data.weight;
    const double ls = std::exp(ln10 * at.log10_s), lv = std::exp(ln10 * at.log10_v);
    Eigen::MatrixXd gs[4], gv[4];
    for (int d = 0; d < 4; ++d) gs[d] = gram(basis_s, d), gv[d] = gram(basis_v, d);
    out.p = ls * kron(gs[3], gv[0]) + 3 * std::cbrt(ls * ls * lv) * kron(gs[2], gv[1]) +
            3 * std::cbrt(ls * lv * lv) * kron(gs[1], gv[2]) + lv * kron(gs[0], gv[3]);
    return out;
}

Smoother smoother_of(const ChartData& data) {
    Smoother out(basis_s, basis_v, {});
    out.set_data(data);
    return out;
}

double prior_term(const Smoothing& at) {
    const SmoothingPrior prior;
    return std::pow((at.log10_s - prior.mean.log10_s) / prior.sd_s, 2) +
           std::pow((at.log10_v - prior.mean.log10_v) / prior.sd_v, 2);
}

}  // namespace

TEST_CASE("the banded fit is the dense fit", "[smoother]") {
    const ChartData data = noisy(90, 1);
    const Smoother smoother = smoother_of(data);
    for (const Smoothing at : {Smoothing{3, 2.5}, Smoothing{0, 0}, Smoothing{5, 1}, Smoothing{-1, 4}}) {
        const auto solution = smoother.solve(at);
        REQUIRE(solution);
        const Dense oracle = dense(data, at);
        const Eigen::VectorXd fitted = oracle.x * oracle.solution(), ours = oracle.x * solution->coefficients;
        CHECK((fitted - ours).cwiseAbs().maxCoeff() < 1e-7);
    }
}

TEST_CASE("the restricted likelihood differs from the dense one by a constant only", "[smoother]") {
    const ChartData data = noisy(90, 2);
    const Smoother smoother = smoother_of(data);
    const Smoothing first{3, 2.5};
    const double constant = smoother.criterion(first) - prior_term(first) - dense(data, first).criterion();
    for (const Smoothing at : {Smoothing{2, 2}, Smoothing{4, 1}, Smoothing{1, 3.5}}) {
        const double ours = smoother.criterion(at) - prior_term(at);
        CHECK(ours - dense(data, at).criterion() == Approx(constant).margin(0.02));
    }
}

TEST_CASE("the search ends where no neighbour is better", "[smoother]") {
    const ChartData data = noisy(90, 3);
    const Smoother smoother = smoother_of(data);
    const auto found = smoother.search();
    REQUIRE(found);
    const double least = smoother.criterion(*found);
    for (double ds : {-0.8, 0.0, 0.8})
        for (double dv : {-0.8, 0.0, 0.8})
            CHECK(smoother.criterion({found->log10_s + ds, found->log10_v + dv}) > least - 0.05);
}

TEST_CASE("a reading's predicted variance is that of the dense inverse", "[smoother]") {
    const ChartData data = noisy(70, 4);
    const Smoothing at{3, 2.5};
    const auto solution = smoother_of(data).solve(at);
    REQUIRE(solution);
    const Dense oracle = dense(data, at);
    const Eigen::MatrixXd inverse = (oracle.x.transpose() * oracle.w.asDiagonal() * oracle.x + oracle.p).inverse();
    const CellBlocks covariance(basis_s, basis_v, solution->factor.band_of_inverse());
    for (int i = 0; i < 20; ++i) {
        const double variance = covariance.variance(cell_row(basis_s, basis_v, data.s[i], data.v[i]));
        CHECK(variance == Approx(oracle.x.row(i).dot(inverse * oracle.x.row(i).transpose())).epsilon(1e-4));
    }
}

TEST_CASE("what the smoothing's own uncertainty adds is what an integration over it finds", "[smoother]") {
    // The law of total variance: over a grid of smoothings, each weighed by its likelihood, the heights vary by so
    // much.
    const ChartData data = noisy(60, 6);
    const Smoother smoother = smoother_of(data);
    const auto found = smoother.search();
    REQUIRE(found);
    const Eigen::MatrixXd doubt = smoother.smoothing_doubt(*found);
    REQUIRE(doubt.cols() == 2);
    const double least = smoother.criterion(*found);
    double weight = 0;
    Eigen::VectorXd mean = Eigen::VectorXd::Zero(smoother.coefficient_count()), square = mean;
    for (double ds = -4; ds <= 4; ds += 0.25)
        for (double dv = -4; dv <= 4; dv += 0.25) {
            const Smoothing at{found->log10_s + ds, found->log10_v + dv};
            const double w = std::exp(-(smoother.criterion(at) - least) / 2);
            const Eigen::VectorXd c = smoother.solve(at)->coefficients;
            weight += w, mean += w * c, square += w * c.cwiseAbs2();
        }
    mean /= weight;
    const double integrated = (square / weight - mean.cwiseAbs2()).sum();
    // To first order: within a factor of two.
    CHECK(doubt.squaredNorm() > integrated / 2);
    CHECK(doubt.squaredNorm() < integrated * 2);
}

TEST_CASE("a reading of no weight does not count", "[smoother]") {
    ChartData data = noisy(80, 5);
    const auto before = smoother_of(data).solve({3, 2.5});
    data.height[7] += 0.5;
    data.weight[7] = 0;
    ChartData without = data;
    without.height[7] = -3;
    CHECK((smoother_of(data).solve({3, 2.5})->coefficients - smoother_of(without).solve({3, 2.5})->coefficients)
              .norm() < 1e-9);
    CHECK((smoother_of(data).solve({3, 2.5})->coefficients - before->coefficients).norm() > 1e-6);
}

TEST_CASE("heights far from zero lose nothing", "[smoother]") {
    // A hull stands metres from the chart's origin; the fit counts heights from their mean.
    ChartData data = noisy(80, 6), raised = data;
    raised.height.array() += 40;
    const auto low = smoother_of(data).solve({3, 2.5}), high = smoother_of(raised).solve({3, 2.5});
    CHECK((high->coefficients.array() - 40 - low->coefficients.array()).abs().maxCoeff() < 1e-9);
    CHECK(high->penalised_sum == Approx(low->penalised_sum).epsilon(1e-6));
}

TEST_CASE("a basis with a crease sums to one and kinks there and nowhere else", "[smoother]") {
    const CubicBasis basis(-1, 2, 9, false, {0.3});
    CHECK(basis.count() == basis.intervals() + 5);
    const auto dense = [&](double x, int derivative) {
        Eigen::VectorXd out = Eigen::VectorXd::Zero(basis.count());
        const auto local = basis.at(x, derivative);
        for (std::size_t k = 0; k < 4; ++k) out[local.index[k]] = local.weight[k];
        return out;
    };
    for (double x = -1; x <= 2; x += 0.01) {
        CHECK(dense(x, 0).sum() == Approx(1));
        CHECK(dense(x, 1).sum() == Approx(0).margin(1e-9));
    }
    constexpr double near = 1e-9;
    for (double at : basis.breaks()) {
        if (at == basis.low() || at == basis.high()) continue;
        const bool crease = at == 0.3;
        CHECK((dense(at - near, 0) - dense(at + near, 0)).norm() < 1e-6);
        CHECK(((dense(at - near, 1) - dense(at + near, 1)).norm() > 0.1) == crease);
        CHECK(((dense(at - near, 2) - dense(at + near, 2)).norm() > 0.1) == crease);
    }
    const auto jet = basis.jet(0.71);
    for (std::size_t k = 0; k < 4; ++k) {
        CHECK(jet.value.weight[k] == Approx(basis.at(0.71).weight[k]));
        CHECK(jet.slope[k] == Approx(basis.at(0.71, 1).weight[k]));
    }
}

TEST_CASE("the penalty leaves quadratics free, and beyond a crease three more", "[smoother]") {
    for (bool creased : {false, true}) {
        const CubicBasis s(0, 3, 5), v(0, 2, 6, false, creased ? std::vector<double>{0.8} : std::vector<double>{});
        Eigen::MatrixXd p = Eigen::MatrixXd::Zero(s.count() * v.count(), s.count() * v.count());
        for (int k = 0; k < 4; ++k) p += (k % 3 == 0 ? 1 : 3) * kron(s.gram(3 - k), v.gram(k));
        const Eigen::VectorXd e = bevelsmith::geometry::eigenpairs_of(p).values;
        const int free = static_cast<int>((e.array() < 1e-9 * e.maxCoeff()).count());
        CHECK(free == (creased ? 9 : 6));
        CHECK(Smoother(s, v, {}).null_dimension() == free);
    }
}
