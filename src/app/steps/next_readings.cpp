#include "app/steps/next_readings.h"

namespace bevelsmith::app {

std::optional<NextReadings> next_readings(const Document& document, const std::string& surface_id) {
    const auto computed = document.computed();
    const auto* piece = computed->results.piece(document.selected_piece().toStdString());
    if (piece && piece->forecast) {
        const auto& forecast = *piece->forecast;
        if (forecast.suggestions.empty()) return std::nullopt;
        return NextReadings{QString::fromStdString(piece->id), forecast.worst_mm, forecast.suggestions,
                            forecast.surface_id};
    }
    const auto* surface = computed->results.surface(surface_id);
    if (!surface || !surface->next || surface->next->suggestions.empty()) return std::nullopt;
    for (const auto& spec : computed->job.surfaces)
        if (spec.id == surface_id)
            return NextReadings{QString::fromStdString(spec.name), surface->next->worst_mm,
                                surface->next->suggestions, surface_id};
    return std::nullopt;
}

}  // namespace bevelsmith::app
