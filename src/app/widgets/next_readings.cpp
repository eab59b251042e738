#include "app/widgets/next_readings.h"

namespace bevelsmith::app {

namespace {

/// A reading that gains less than this is not worth the trip.
constexpr double least_gain_mm = 0.3, least_gain_share = 0.1;

}  // namespace

std::vector<hull::Suggestion> worth_the_trip(std::vector<hull::Suggestion> spots, double now_mm) {
    const double least = std::max(least_gain_mm / 1.96, least_gain_share * now_mm);
    if (!spots.empty() && now_mm - spots.back().worst_mm < least) spots.clear();
    return spots;
}

std::optional<NextReadings> next_readings(const Document& document, const std::string& surface_id) {
    const auto computed = document.computed();
    const auto* piece = computed->results.piece(document.selected_piece().toStdString());
    if (piece && piece->forecast) {
        const auto& forecast = *piece->forecast;
        auto spots = worth_the_trip(forecast.suggestions, forecast.worst_mm);
        if (spots.empty()) return std::nullopt;
        return NextReadings{QString::fromStdString(piece->id), forecast.worst_mm, std::move(spots),
                            forecast.surface_id};
    }
    const auto* surface = computed->results.surface(surface_id);
    if (!surface || !surface->next) return std::nullopt;
    auto spots = worth_the_trip(surface->next->suggestions, surface->next->worst_mm);
    if (spots.empty()) return std::nullopt;
    for (const auto& spec : computed->job.surfaces)
        if (spec.id == surface_id)
            return NextReadings{QString::fromStdString(spec.name), surface->next->worst_mm, std::move(spots),
                                surface_id};
    return std::nullopt;
}

}  // namespace bevelsmith::app
