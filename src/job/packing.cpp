#include "job/packing.h"

namespace bevelsmith::job {

std::vector<piece::Obstacle> ledges_of(const Job& job) {
    std::vector<piece::Obstacle> out;
    for (const auto& o : job.obstacles)
        if (o.carries && piece::is_in_finished(o.role) && o.section == piece::Section::square) out.push_back(o);
    return out;
}

std::vector<piece::ToPack> packing_under(const Job& job, const JobPiece& piece, const piece::Outline& shape) {
    std::vector<double> stock;
    for (const auto& m : job.materials) stock.push_back(m.thickness_mm);
    return piece::to_pack(piece, shape, ledges_of(job), stock);
}

}  // namespace bevelsmith::job
