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

/// Of places X: with A = L L' their covariance is (L^-1 X')' (L^-1 X') in mm², lumps left out, and what the
/// smoothing's own uncertainty adds. The second factor.
Eigen::MatrixXd half_of(const Surface& surface, std::span<const Place> places) {
    const auto& d = surface.data();
    const auto n = static_cast<Eigen::Index>(places.size());
    Eigen::MatrixXd half(0, n);
    for (Eigen::Index i = 0; i < n; ++i) {
        const Place& p = places[static_cast<std::size_t>(i)];
        const CellRow row = cell_row(d.basis_s, d.basis_v, p.s, p.v);
        const auto index = cell_functions(d.basis_s, d.basis_v, row.cell);
        Eigen::VectorXd x = Eigen::VectorXd::Zero(d.coefficients.size());
        for (std::size_t k = 0; k < 16; ++k) x[index[k]] = row.weight[static_cast<int>(k)];
        const Eigen::VectorXd y = d.factor->half_solve(x, *std::min_element(index.begin(), index.end()));
        const Eigen::RowVectorXd doubt = doubt_of(d, row);
        if (half.rows() == 0) half.resize(y.size() + doubt.size(), n);
        half.col(i) << std::sqrt(d.scale) * y, doubt.transpose();
        half.col(i) *= 1000 * surface.at(p).ray_cosine;
    }
    return half;
}

/// Lumps are short: what is known of one place says nothing of them at the next.
double lump_variance_mm2(const Surface& surface) {
    return surface.lumps_mm() * surface.lumps_mm();
}

/// The judged places, of which there are few, and all candidates, of which only what they tell of those is looked at.
class Search {
  public:
    Search(const Surface& surface, std::vector<Place> edge, const std::vector<Place>& more, double sigma_mm)
        : targets_(static_cast<Eigen::Index>(edge.size())),
          noise_(sigma_mm * sigma_mm),
          lumps_(lump_variance_mm2(surface)) {
        places_ = std::move(edge);
        places_.insert(places_.end(), more.begin(), more.end());
        half_ = half_of(surface, places_);
        start_.cross = half_.leftCols(targets_).transpose() * half_;
        start_.cross.diagonal().array() += lumps_;
        start_.variance = half_.colwise().squaredNorm().transpose().array() + lumps_;
    }

    /// What is known with some readings taken.
    struct Known {
        Eigen::MatrixXd cross;     ///< covariance of the judged places (rows) with all
        Eigen::VectorXd variance;  ///< of all
    };

    const std::vector<Place>& places() const { return places_; }
    double sigma_mm(Eigen::Index i) const { return std::sqrt(std::max(0.0, start_.variance[i])); }

    Known with(const std::vector<Eigen::Index>& chosen) const {
        Known now = start_;
        std::vector<Eigen::VectorXd> taken;  // each reading's covariance with all, over its standard deviation
        for (Eigen::Index c : chosen) {
            Eigen::VectorXd column = half_.transpose() * half_.col(c);
            column[c] += lumps_;
            for (const auto& t : taken) column -= t[c] * t;
            column /= std::sqrt(column[c] + noise_);
            now.cross.noalias() -= column.head(targets_) * column.transpose();
            now.variance -= column.cwiseAbs2();
            taken.push_back(std::move(column));
        }
        return now;
    }

    /// The candidate of `allowed` that helps most on top of what is known.
    Eigen::Index best(const Known& known, const std::vector<Eigen::Index>& allowed) const {
        Eigen::Index best = -1;
        double least = std::numeric_limits<double>::infinity();
        const Eigen::ArrayXd now = known.variance.head(targets_).array();
        for (Eigen::Index c : allowed) {
            const Eigen::ArrayXd then = now - known.cross.col(c).array().square() / (known.variance[c] + noise_);
            const double sum = then.cube().sum();
            if (sum < least) least = sum, best = c;
        }
        return best;
    }

    double worst_mm(const Known& known) const {
        return std::sqrt(std::max(0.0, known.variance.head(targets_).maxCoeff()));
    }

  private:
    Eigen::Index targets_;
    double noise_, lumps_;
    std::vector<Place> places_;
    Eigen::MatrixXd half_;
    Known start_;
};

/// Independent standard normal numbers: a column for each place, a row for each draw. The same for every edge, so
/// that two forecasts differ by what is known and not by chance.
Eigen::MatrixXd normals(Eigen::Index places) {
    const auto make = [](Eigen::Index columns) {
        std::mt19937 random(1);
        std::normal_distribution<double> normal;
        Eigen::MatrixXd out(draws, columns);
        for (Eigen::Index c = 0; c < columns; ++c)
            for (Eigen::Index r = 0; r < draws; ++r) out(r, c) = normal(random);
        return out;
    };
    static const Eigen::MatrixXd kept = make(3 * static_cast<Eigen::Index>(judged_places));
    return places <= kept.cols() ? Eigen::MatrixXd(kept.leftCols(places)) : make(places);
}

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
    const Eigen::MatrixXd half = half_of(surface, places);
    covariance_ = half.transpose() * half;
    covariance_.diagonal().array() += lump_variance_mm2(surface);
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
    const Eigen::VectorXd drawn = (normals(n) * root.transpose()).cwiseAbs().rowwise().maxCoeff();
    std::vector<double> largest(drawn.begin(), drawn.end());
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
