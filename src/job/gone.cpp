#include "job/gone.h"

#include <algorithm>

#include "job/in_full.h"

namespace bevelsmith::job {
namespace {

bool is_cut(const Job& job, const JobPiece& piece) {
    return is_cut(piece) || std::any_of(job.cut_sheets.begin(), job.cut_sheets.end(), [&](const CutSheet& sheet) {
               return std::any_of(sheet.parts.begin(), sheet.parts.end(),
                                  [&](const CutPart& part) { return piece_of_part(part.part_id) == piece.id; });
           });
}

}  // namespace

std::vector<GonePiece> gone_pieces(const Job& before, const Job& after) {
    std::vector<GonePiece> out;
    for (const JobPiece& piece : before.pieces) {
        const JobUnit* unit = unit_of(before, piece.id);
        if (!unit || find_piece(after, piece.id)) continue;
        const auto now =
            std::find_if(after.units.begin(), after.units.end(), [&](const JobUnit& u) { return u.id == unit->id; });
        if (now == after.units.end()) continue;
        const bool cut = is_cut(before, piece);
        if (cut || *now == *unit) out.push_back({piece.id, piece.name, cut});
    }
    return out;
}

}  // namespace bevelsmith::job
