// Penalised least squares for a tensor-product cubic spline, smoothing chosen by restricted maximum likelihood.
//
// Minimises  sum w (y - f)² + integral( ls f_sss² + 3 ls^(2/3) lv^(1/3) f_ssv² + 3 ls^(1/3) lv^(2/3) f_svv² + lv
// f_vvv² ). The criterion for (ls, lv), twice the negative log likelihood, is  Q + log|X'WX + P| - log|P|+ + prior
// (S.N. Wood, Generalized Additive Models, 2nd ed., ch. 6; derived). Units: metres.
#pragma once

#include <Eigen/Core>
#include <map>
#include <memory>
#include <mutex>
#include <optional>
#include <vector>

#include "hull/block_cholesky.h"
#include "hull/surface.h"

namespace bevelsmith::hull {

/// Loops over more readings than this are shared among the processors.
inline constexpr int many_at_a_time = 4000;

/// Readings in chart coordinates with the weight of each (1/m²; zero leaves a reading out).
struct ChartData {
    /// What an angle read at a spot says: along_s h_s + along_v h_v + of_height h = value, a statement on the slopes.
    struct Slope {
        double s = 0, v = 0, of_height = 0, along_s = 0, along_v = 0, value = 0;
        double weight = 0;  ///< 1/variance of the value
    };
    Eigen::VectorXd s, v, height, weight;
    std::vector<Slope> slopes{};
    int count() const { return static_cast<int>(s.size()); }
};

/// Strengths of the penalty as powers of ten.
struct Smoothing {
    double log10_s = 3, log10_v = 2.5;
};

/// Where the smoothing is believed to be before the readings speak. Valid for hull sides of 1 to 10 m read to
/// millimetres; scales with the square of the size (derived; tested on patches of 1 to 4 m).
struct SmoothingPrior {
    Smoothing mean{3.0, 2.5};
    double sd_s = 1.0, sd_v = 1.5;
};

/// A solved fit for fixed weights and smoothing.
struct Solution {
    Eigen::VectorXd coefficients;
    BlockCholesky factor;      ///< of X'WX + P
    double penalised_sum = 0;  ///< Q = sum w r² + penalty
};

/// Holds what does not change while smoothing is searched: basis, penalty terms, normal equations.
class Smoother {
  public:
    Smoother(CubicBasis basis_s, CubicBasis basis_v, SmoothingPrior prior);

    /// Takes readings and weights. Heights are counted from their weighted mean inside.
    void set_data(const ChartData& data);
    /// Empty when the readings do not determine the surface.
    std::optional<Solution> solve(const Smoothing& smoothing) const;
    /// Twice the negative restricted log likelihood, prior included, up to a constant: what the search makes least.
    /// Very large where the readings do not determine the surface.
    double criterion(const Smoothing& smoothing) const;
    /// The same of a solution at hand.
    double criterion(const Solution& solution, const Smoothing& smoothing) const;

    /// Searches a grid about the prior, then BOBYQA (M. Powell, 2009) from its best.
    std::optional<Smoothing> search() const;
    /// BOBYQA alone, from `start`.
    std::optional<Smoothing> improve(const Smoothing& start) const;

    /// How far the coefficients are open because the smoothing itself is: two columns D, D D' is the covariance that
    /// comes on top of the solution's own, to first order (Kass and Steffey 1989; Wood, Pya and Saefken 2016, from
    /// memory). The smoothing's covariance is that of a normal distribution with the criterion's curvature, no wider
    /// than the prior. Nine solutions; no columns where a neighbouring one fails.
    Eigen::MatrixXd smoothing_doubt(const Smoothing& at) const;

    /// Number of polynomials that the penalty leaves free (6, and 3 more for each crease; 3 around a closed axis).
    int null_dimension() const { return static_cast<int>(pins_.size()); }
    int coefficient_count() const { return basis_s_.count() * basis_v_.count(); }
    const CubicBasis& basis_s() const { return basis_s_; }
    const CubicBasis& basis_v() const { return basis_v_; }
    const SmoothingPrior& prior() const { return prior_; }

  private:
    void add_slopes(const ChartData& data);
    double log_penalty_determinant(double log10_ratio) const;
    double exact_log_penalty_determinant(double log10_ratio) const;
    BlockBand penalty(const Smoothing& smoothing) const;
    double prior_term(const Smoothing& smoothing) const;

    CubicBasis basis_s_, basis_v_;
    SmoothingPrior prior_;
    std::vector<BlockBand> terms_;  ///< penalty of f_sss, f_ssv, f_svv, f_vvv
    std::vector<int> pins_;         ///< coefficients whose removal makes the penalty definite
    BlockBand normal_;              ///< X'WX
    Eigen::VectorXd right_;         ///< X'Wy
    double sum_squares_ = 0;        ///< y'Wy
    double mean_ = 0;
    /// log|P|+ at steps of the log ratio, filled when asked for. The bases alone decide it, so that copies, which may
    /// be at work in several threads, share it.
    struct Determinants {
        std::mutex mutex;
        std::map<int, double> at_step;
    };
    std::shared_ptr<Determinants> determinants_ = std::make_shared<Determinants>();
};

}  // namespace bevelsmith::hull
