#include "hull/knowledge.h"

#include <Eigen/Cholesky>
#include <algorithm>
#include <cmath>
#include <random>

#include "geometry/polygon.h"

namespace bevelsmith::hull {
namespace {

/// So many along an edge tell all that is between them, and keep the answer quick.
constexpr std::size_t judged_places = 60;
constexpr int candidate_grid = 13;
constexpr int draws = 1000;

/// Every candidate and every judged place, with what is known of them together.
class Search {
  public:
    Search(const Surface& surface, std::vector<Place> edge, const std::vector<Place>& more, double sigma_mm)
        : targets_(static_cast<Eigen::Index>(edge.size())), noise_(sigma_mm * sigma_mm) {
        places_ = std::move(edge);
        places_.insert(places_.end(), more.begin(), more.end());
        start_ = Knowledge(surface, places_).covariance_mm2();
    }

    const std::vector<Place>& places() const { return places_; }
    double sigma_mm(Eigen::Index i) const { return std::sqrt(std::max(0.0, start_(i, i))); }

    Eigen::MatrixXd with(const std::vector<Eigen::Index>& chosen) const {
        Eigen::MatrixXd s = start_;
        for (Eigen::Index c : chosen) {
            const Eigen::VectorXd column = s.col(c);
            s.noalias() -= column * column.transpose() / (column[c] + noise_);
        }
        return s;
    }

    /// The candidate of `allowed` that helps most on top of what is known in `s`.
    Eigen::Index best(const Eigen::MatrixXd& s, const std::vector<Eigen::Index>& allowed) const {
        Eigen::Index best = -1;
        double least = std::numeric_limits<double>::infinity();
        const Eigen::ArrayXd now = s.diagonal().head(targets_).array();
        for (Eigen::Index c : allowed) {
            const Eigen::ArrayXd then = now - s.col(c).head(targets_).array().square() / (s(c, c) + noise_);
            const double sum = then.cube().sum();
            if (sum < least) least = sum, best = c;
        }
        return best;
    }

    double worst_mm(const Eigen::MatrixXd& s) const {
        return std::sqrt(std::max(0.0, s.diagonal().head(targets_).maxCoeff()));
    }

  private:
    Eigen::Index targets_;
    double noise_;
    std::vector<Place> places_;
    Eigen::MatrixXd start_;
};

double distance_to_ring(const geometry::Ring& ring, const Vec2& p) {
    double least = std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i < ring.size(); ++i)
        least = std::min(least, geometry::distance_to_segment_mm(p, ring[i], ring[(i + 1) % ring.size()]));
    return least;
}

/// A grid over the fitted domain, as far as a little beyond the readings: farther out the hull may have ended.
std::vector<Place> patch_candidates(const Surface& surface) {
    const CubicBasis &bs = surface.basis_s(), &bv = surface.basis_v();
    const geometry::Ring& ring = surface.data().surveyed;
    const double beyond = 0.05 * std::hypot(bs.high() - bs.low(), bv.high() - bv.low());
    std::vector<Place> out;
    for (int i = 0; i < candidate_grid; ++i)
        for (int j = 0; j < candidate_grid; ++j) {
            const Place p{bs.low() + (bs.high() - bs.low()) * i / (candidate_grid - 1),
                          bv.low() + (bv.high() - bv.low()) * j / (candidate_grid - 1)};
            const Vec2 at(p.s, p.v);
            if (geometry::contains(ring, at) || distance_to_ring(ring, at) < beyond) out.push_back(p);
        }
    return out;
}

}  // namespace

Knowledge::Knowledge(const Surface& surface, std::span<const Place> places) {
    const auto& d = surface.data();
    const auto n = static_cast<Eigen::Index>(places.size());
    // With A = L L' the covariance of rows X is (L^-1 X')' (L^-1 X').
    Eigen::MatrixXd half(0, n);
    for (Eigen::Index i = 0; i < n; ++i) {
        const Place& p = places[static_cast<std::size_t>(i)];
        const CellRow row = cell_row(d.basis_s, d.basis_v, p.s, p.v);
        const auto index = cell_functions(d.basis_s, d.basis_v, row.cell);
        Eigen::VectorXd x = Eigen::VectorXd::Zero(d.coefficients.size());
        for (std::size_t k = 0; k < 16; ++k) x[index[k]] = row.weight[static_cast<int>(k)];
        const Eigen::VectorXd y = d.factor->half_solve(x, *std::min_element(index.begin(), index.end()));
        if (half.rows() == 0) half.resize(y.size(), n);
        half.col(i) = 1000 * std::sqrt(d.scale) * surface.at(p).ray_cosine * y;
    }
    covariance_ = half.transpose() * half;
    // Lumps are short: what is known of one place says nothing of them at the next.
    covariance_.diagonal().array() += surface.lumps_mm() * surface.lumps_mm();
}

void Knowledge::take_reading(Eigen::Index place, double sigma_mm) {
    const Eigen::VectorXd column = covariance_.col(place);
    covariance_.noalias() -= column * column.transpose() / (column[place] + sigma_mm * sigma_mm);
}

FitForecast forecast_fit(const Eigen::MatrixXd& covariance_mm2, double limit_mm) {
    const Eigen::Index n = covariance_mm2.rows();
    if (n == 0) return {};
    Eigen::MatrixXd padded = covariance_mm2;
    padded.diagonal().array() += 1e-8 * std::max(covariance_mm2.diagonal().maxCoeff(), 1e-12);
    const Eigen::MatrixXd root = Eigen::LLT<Eigen::MatrixXd>(padded).matrixL();
    std::mt19937 random(1);
    std::normal_distribution<double> normal;
    std::vector<double> largest(draws);
    Eigen::VectorXd z(n);
    for (double& most : largest) {
        for (Eigen::Index i = 0; i < n; ++i) z[i] = normal(random);
        most = (root.triangularView<Eigen::Lower>() * z).cwiseAbs().maxCoeff();
    }
    std::sort(largest.begin(), largest.end());
    FitForecast out;
    for (double most : largest) out.expected_largest_mm += most / draws;
    out.likely_largest_mm = largest[draws * 95 / 100];
    out.chance_within =
        static_cast<double>(std::upper_bound(largest.begin(), largest.end(), limit_mm) - largest.begin()) / draws;
    return out;
}

std::vector<Place> thinned(std::span<const Place> places, std::size_t most) {
    if (places.size() <= most) return {places.begin(), places.end()};
    std::vector<Place> out;
    for (std::size_t k = 0; k < most; ++k) out.push_back(places[k * (places.size() - 1) / (most - 1)]);
    return out;
}

std::vector<Suggestion> suggest_readings(const Surface& surface, std::span<const Place> edge,
                                         const SuggestionOptions& options) {
    if (edge.empty()) return {};
    const Search search(surface, thinned(edge, judged_places), patch_candidates(surface), options.sigma_mm);
    std::vector<Eigen::Index> allowed;
    for (Eigen::Index i = 0; i < static_cast<Eigen::Index>(search.places().size()); ++i)
        if (!options.reachable || options.reachable(search.places()[static_cast<std::size_t>(i)]))
            allowed.push_back(i);
    if (allowed.empty()) return {};
    std::vector<Eigen::Index> chosen;
    const auto free = [&](const std::vector<Eigen::Index>& taken) {
        std::vector<Eigen::Index> out;
        for (Eigen::Index i : allowed)
            if (std::find(taken.begin(), taken.end(), i) == taken.end()) out.push_back(i);
        return out;
    };
    for (int k = 0; k < options.how_many && chosen.size() < allowed.size(); ++k)
        chosen.push_back(search.best(search.with(chosen), free(chosen)));
    for (int round = 0; round < 3; ++round) {
        bool better = false;
        for (auto& one : chosen) {
            std::vector<Eigen::Index> others;
            for (const auto& other : chosen)
                if (&other != &one) others.push_back(other);
            const Eigen::Index now = search.best(search.with(others), free(others));
            better = better || now != one;
            one = now;
        }
        if (!better) break;
    }
    std::vector<Suggestion> out;
    std::vector<Eigen::Index> taken;
    while (!chosen.empty()) {  // the most useful first
        const Eigen::Index next = search.best(search.with(taken), chosen);
        chosen.erase(std::find(chosen.begin(), chosen.end(), next));
        taken.push_back(next);
        const Place& place = search.places()[static_cast<std::size_t>(next)];
        out.push_back(
            {place, surface.at(place).position, search.sigma_mm(next), search.worst_mm(search.with(taken))});
    }
    return out;
}

PatchNext next_over_patch(const Surface& surface, const SuggestionOptions& options) {
    constexpr int rows = 11, columns = 9;
    const CubicBasis &bs = surface.basis_s(), &bv = surface.basis_v();
    std::vector<Place> patch;
    for (int i = 0; i < rows; ++i)
        for (int j = 0; j < columns; ++j) {
            const Place p{bs.low() + (bs.high() - bs.low()) * (i + 0.5) / rows,
                          bv.low() + (bv.high() - bv.low()) * (j + 0.5) / columns};
            if (surface.surrounded(p)) patch.push_back(p);
        }
    PatchNext out;
    for (const Place& p : patch) out.worst_mm = std::max(out.worst_mm, surface.sigma_mm(p));
    out.suggestions = suggest_readings(surface, patch, options);
    return out;
}

}  // namespace bevelsmith::hull
