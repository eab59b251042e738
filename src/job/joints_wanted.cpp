#include "job/joints_wanted.h"

#include "job/in_full.h"

namespace bevelsmith::job {

piece::JointProposal joints_wanted(const Job& job, const Results& results, const std::string& piece_id) {
    const JobPiece* piece = find_piece(job, piece_id);
    const PieceResult* result = results.piece(piece_id);
    const JobMaterial* material = piece ? find_material(job, piece->material_id) : nullptr;
    if (!result || !result->shape() || !material) return {};
    std::vector<piece::Carrier> others;
    for (std::size_t i = 0; i < job.pieces.size() && i < results.pieces.size(); ++i)
        if (const auto* shape = results.pieces[i].shape(); shape && job.pieces[i].id != piece_id)
            others.push_back({&job.pieces[i], shape});
    // Parts lie on the sheet without the margin that their blanks have.
    const double margin = 2 * (job.cutting.edge_margin_mm - piece->blank_margin_mm);
    return piece::propose_joints(
        *piece, *result->shape(), job.boat.passage,
        {material->sheet_width_mm - margin, material->sheet_height_mm - margin, material->has_grain}, others);
}

}  // namespace bevelsmith::job
