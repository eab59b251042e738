#include "job/trial_build.h"

#include <map>

#include "job/in_full.h"

namespace bevelsmith::job {

Results tried_out(const Job& full, const Results& results, const std::function<bool(const JobPiece&)>& wanted) {
    const auto surfaces = [&](const std::string& id) -> const hull::Surface* {
        const auto* s = results.surface(id);
        return s ? s->face.get() : nullptr;
    };
    std::map<std::string, piece::Neighbour> held;
    for (const auto& p : full.pieces) held.emplace(p.id, neighbour_of(full, p));
    const auto pieces = [&](const std::string& id) -> const piece::Neighbour* {
        const auto at = held.find(id);
        return at == held.end() ? nullptr : &at->second;
    };
    Results out;
    for (const JobPiece& p : full.pieces) {
        const double thickness = thickness_of(full, p);
        if (!wanted(p)) continue;
        PieceResult& result = out.pieces.emplace_back();
        result.id = p.id;
        if (thickness <= 0) continue;
        result.outline = std::make_shared<const Result<piece::Outline>>(
            piece::compute_outline(p, thickness, surfaces, full.boat.passage, {}, {pieces, {}}));
    }
    return out;
}

}  // namespace bevelsmith::job
