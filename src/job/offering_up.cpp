#include "job/offering_up.h"

#include <fmt/format.h>

#include <algorithm>
#include <functional>

#include "job/in_full.h"
#include "units/ranges.h"

namespace bevelsmith::job {
namespace {

std::string seen_words(const piece::FitReading& r) {
    if (r.seen == piece::Noticed::touches) return fmt::format("touches at {:.0f} mm", r.along_mm);
    if (r.seen == piece::Noticed::rocks) return fmt::format("rocks at {:.0f} mm", r.along_mm);
    return fmt::format("gap {:.1f} mm at {:.0f} mm", r.gap_mm, r.along_mm);
}

std::string surface_name(const Job& job, const std::string& id) {
    for (const auto& s : job.surfaces)
        if (s.id == id) return s.name;
    return id;
}

/// Where one surface truly runs, as readings.
survey::ReadingSet set_of(const Job& job, const JobPiece& piece, const piece::Outline& offered,
                          const std::string& surface_id, const std::vector<piece::TruePlace>& places,
                          const std::vector<piece::FitReading>& readings) {
    survey::ReadingSet out;
    out.name = fmt::format("Fitting {} of {}: {}",
                           std::count_if(piece.fittings.begin(), piece.fittings.end(), std::not_fn(is_draft)) + 1,
                           piece.name, surface_name(job, surface_id));
    out.school = survey::School::direct;
    out.surface_id = surface_id;
    out.sigma_mm = piece::usual_feeler_mm;
    for (const auto& place : places) {
        if (piece.edges[static_cast<std::size_t>(place.edge)].surface_id != surface_id) continue;
        const Vec3 p = offered.frame.to_space(place.at);
        auto& r = out.readings.emplace_back();
        r.values = {p.x(), p.y(), p.z(), 0, 0, 0};
        if (place.sigma_mm != out.sigma_mm) r.sigma_mm = place.sigma_mm;
        for (const auto& seen : readings)
            if (seen.edge == place.edge && std::abs(seen.along_mm - place.along_mm) < 0.5) r.note = seen_words(seen);
    }
    return out;
}

}  // namespace

Result<bool> enter_fitting(Job& job, const JobPiece& built, const piece::Outline& offered,
                           const std::vector<piece::FitReading>& readings, bool of_pattern, double forecast_mm) {
    if (readings.empty())
        return Error{"nothing was seen yet: type daylight, or where it touches, at one place at least"};
    if (readings.size() > units::limit::fit_readings.most)
        return Error{units::too_many(units::limit::fit_readings, readings.size())};
    if (built.fittings.size() >= units::limit::fittings.most)
        return Error{units::too_many(units::limit::fittings, built.fittings.size() + 1)};
    const auto places = piece::true_places(built, offered, readings);
    if (!places) return places.error();
    std::vector<std::string> surfaces;
    for (const auto& place : *places) {
        const std::string& id = built.edges[static_cast<std::size_t>(place.edge)].surface_id;
        if (std::find(surfaces.begin(), surfaces.end(), id) == surfaces.end()) surfaces.push_back(id);
    }
    Fitting fitting{of_pattern, readings, forecast_mm, piece::as_offered(offered), {}};
    for (const auto& id : surfaces)
        fitting.set_ids.push_back(add_readings(job, set_of(job, built, offered, id, *places, readings)).id);
    change_piece(job, built.id, [&](JobPiece& piece) {
        std::erase_if(piece.fittings, is_draft);
        piece.fittings.push_back(fitting);
        const auto stage = [](const char* name) {
            return std::find(std::begin(piece_stages), std::end(piece_stages), std::string(name)) -
                   std::begin(piece_stages);
        };
        const auto now = stage(piece.stage.c_str());
        if (of_pattern && now < stage("pattern")) piece.stage = "pattern";
        if (!of_pattern && now < stage("tried")) piece.stage = "tried";
    });
    return true;
}

double farthest_off_mm(const JobPiece& piece, const Fitting& fitting) {
    double out = 0;
    for (const auto& r : fitting.readings) {
        if (r.edge < 0 || r.edge >= static_cast<int>(piece.edges.size())) continue;
        const auto& edge = piece.edges[static_cast<std::size_t>(r.edge)];
        const double seen = r.seen == piece::Noticed::gap ? r.gap_mm : 0;
        out = std::max(out, std::abs(seen - edge.taken_off_mm() + piece::left_before_mm(edge)));
    }
    return out;
}

Kept kept_to_forecast(const Job& in_full) {
    Kept out;
    for (const auto& piece : in_full.pieces) {
        const auto first = std::find_if(piece.fittings.begin(), piece.fittings.end(),
                                        [](const Fitting& f) { return !is_draft(f) && f.forecast_mm > 0; });
        if (first == piece.fittings.end()) continue;
        ++out.pieces;
        out.kept += farthest_off_mm(piece, *first) <= first->forecast_mm + piece::usual_feeler_mm;
    }
    return out;
}

const Fitting* last_fitting(const JobPiece& piece) {
    const auto at =
        std::find_if(piece.fittings.rbegin(), piece.fittings.rend(), [](const Fitting& f) { return !is_draft(f); });
    return at == piece.fittings.rend() ? nullptr : &*at;
}

void take_back_fitting(Job& job, const std::string& piece_id) {
    std::vector<std::string> gone;
    change_piece(job, piece_id, [&](JobPiece& piece) {
        std::erase_if(piece.fittings, is_draft);
        if (piece.fittings.empty()) return;
        gone = piece.fittings.back().set_ids;
        piece.fittings.back().set_ids.clear();
        piece.fittings.back().offered = {};
    });
    std::erase_if(job.readings,
                  [&](const auto& set) { return std::find(gone.begin(), gone.end(), set.id) != gone.end(); });
}

Result<OfferedUp> offered_up(const Job& job, const std::string& piece_id,
                             const std::vector<piece::FitReading>& readings, bool of_pattern, Pipeline& pipeline,
                             const KeepGoing& keep_going) {
    const Job before = in_full(job);
    const JobPiece* built = find_piece(before, piece_id);
    if (!built) return Error{fmt::format("there is no piece '{}'", piece_id)};
    const Results as_offered = pipeline.compute_pieces(before, keep_going);
    const piece::Outline* offered = as_offered.piece(piece_id)->shape();
    if (!offered)
        return Error{fmt::format("the piece '{}' has no outline: {}", piece_id,
                                 as_offered.piece(piece_id)->outline->error().message)};
    OfferedUp out{job, {}, {}};
    if (auto entered = enter_fitting(out.job, *built, *offered, readings, of_pattern); !entered)
        return entered.error();
    const Job after = in_full(out.job);
    const Results corrected = pipeline.compute_pieces(after, keep_going);
    const piece::Outline* shape = corrected.piece(piece_id)->shape();
    if (!shape)
        return Error{fmt::format("with these the piece '{}' has no outline: {}", piece_id,
                                 corrected.piece(piece_id)->outline->error().message)};
    out.corrected = *shape;
    out.correction = piece::correct(*built, piece::as_offered(*offered), *shape, readings);
    return out;
}

bool wants_pattern(const JobPiece& piece, const PieceResult& result) {
    if (!piece::is_made(piece.role) || last_fitting(piece) || is_cut(piece) || !result.forecast) return false;
    return result.forecast->now.likely_largest_mm > piece.wanted_fit_mm;
}

}  // namespace bevelsmith::job
