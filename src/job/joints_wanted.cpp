#include "job/joints_wanted.h"

#include "job/in_full.h"

namespace bevelsmith::job {

piece::SheetRoom sheet_room(const Job& job, const JobMaterial& material, const piece::PieceSpec& piece) {
    // A hair less, so that what just fits here does so wherever layouts are judged.
    constexpr double hair_mm = 0.5;
    const double margin = 2 * (job.cutting.edge_margin_mm - piece.blank_margin_mm) + hair_mm;
    return {material.sheet_width_mm - margin, material.sheet_height_mm - margin, material.has_grain};
}

piece::JointProposal joints_wanted(const Job& job, const Results& results, const std::string& piece_id) {
    const JobPiece* piece = find_piece(job, piece_id);
    const PieceResult* result = results.piece(piece_id);
    const JobMaterial* material = piece ? find_material(job, piece->material_id) : nullptr;
    if (!result || !result->shape() || !material) return {};
    std::vector<piece::Carrier> others;
    for (std::size_t i = 0; i < job.pieces.size() && i < results.pieces.size(); ++i)
        if (const auto* shape = results.pieces[i].shape();
            shape && job.pieces[i].id != piece_id && piece::is_in_finished(job.pieces[i].role))
            others.push_back({&job.pieces[i], shape});
    return piece::propose_joints(*piece, *result->shape(), job.boat.passage, sheet_room(job, *material, *piece),
                                 others);
}

}  // namespace bevelsmith::job
