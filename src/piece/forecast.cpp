#include "piece/forecast.h"

#include <algorithm>
#include <map>

namespace bevelsmith::piece {
namespace {

/// So many places of an edge say how it will fit: errors of the surface run smoothly between them.
constexpr std::size_t judged_places = 60;

/// Suggestions are made when together they bring the worst uncertainty below this share of what it is.
constexpr double worth_a_trip = 0.9;

struct EdgePlaces {
    const hull::Surface* surface = nullptr;
    std::vector<hull::Place> places;
    double worst_mm = 0;
};

std::map<std::string, EdgePlaces> kept_places(const PieceSpec& spec, const Outline& outline,
                                              const SurfaceLookup& surfaces) {
    std::map<std::string, EdgePlaces> out;
    for (const EdgeMark& mark : outline.marks) {
        if (!mark.kept) continue;
        const std::string& id = spec.edges[static_cast<std::size_t>(mark.edge)].surface_id;
        EdgePlaces& here = out[id];
        if (!here.surface) here.surface = surfaces(id);
        here.places.push_back(mark.place);
        here.worst_mm = std::max(here.worst_mm, mark.sigma_mm);
    }
    std::erase_if(out, [](const auto& entry) { return entry.second.surface == nullptr; });
    for (auto& [id, here] : out) here.places = hull::thinned(here.places, judged_places);
    return out;
}

/// Different surfaces err independently.
Eigen::MatrixXd side_by_side(const std::vector<Eigen::MatrixXd>& blocks) {
    Eigen::Index size = 0;
    for (const auto& b : blocks) size += b.rows();
    Eigen::MatrixXd out = Eigen::MatrixXd::Zero(size, size);
    Eigen::Index at = 0;
    for (const auto& b : blocks) {
        out.block(at, at, b.rows(), b.rows()) = b;
        at += b.rows();
    }
    return out;
}

}  // namespace

Forecast forecast(const PieceSpec& spec, const Outline& outline, const SurfaceLookup& surfaces,
                  const ForecastOptions& options) {
    Forecast out;
    const auto edges = kept_places(spec, outline, surfaces);
    if (edges.empty()) return out;
    const auto worst = std::max_element(edges.begin(), edges.end(), [](const auto& a, const auto& b) {
        return a.second.worst_mm < b.second.worst_mm;
    });
    out.surface_id = worst->first;
    out.worst_mm = worst->second.worst_mm;
    for (const EdgeMark& mark : outline.marks)
        if (mark.kept) out.worst_bevel_rad = std::max(out.worst_bevel_rad, mark.bevel_sigma_rad);
    hull::SuggestionOptions how;
    how.how_many = options.suggestions;
    how.sigma_mm = options.reading_sigma_mm;
    out.suggestions = hull::suggest_readings(*worst->second.surface, worst->second.places, how);

    // Where all is known well, more readings would be a trip for nothing.
    if (!out.suggestions.empty() && out.suggestions.back().worst_mm > worth_a_trip * out.worst_mm)
        out.suggestions.clear();

    std::vector<Eigen::MatrixXd> now, then;
    for (const auto& [id, edge] : edges) {
        std::vector<hull::Place> places = edge.places;
        const auto kept = static_cast<Eigen::Index>(places.size());
        if (id == out.surface_id)
            for (const auto& s : out.suggestions) places.push_back(s.place);
        hull::Knowledge known(*edge.surface, places);
        now.push_back(known.covariance_mm2().topLeftCorner(kept, kept));
        for (Eigen::Index i = kept; i < static_cast<Eigen::Index>(places.size()); ++i)
            known.take_reading(i, options.reading_sigma_mm);
        then.push_back(known.covariance_mm2().topLeftCorner(kept, kept));
    }
    out.now = hull::forecast_fit(side_by_side(now), spec.wanted_fit_mm);
    out.then = hull::forecast_fit(side_by_side(then), spec.wanted_fit_mm);
    return out;
}

}  // namespace bevelsmith::piece
