// What laminating a panel takes: hours, days of cure, and its cloth as it is cut off the roll.
#pragma once

#include <vector>

#include "job/job.h"
#include "piece/outline.h"

namespace bevelsmith::job {

struct LayupWork {
    int faces = 0;                      ///< that get plies: each is laid and cured before the panel is turned over
    int plies = 0;                      ///< on both faces
    double hours = 0;                   ///< of hands: plies x area x Costs::laminating_h_m2
    double cure_h = 0;                  ///< until it can be cut: faces x Costs::cure_h
    double glass_kg = 0, resin_kg = 0;  ///< resin with the job's waste
    std::vector<stock::ClothCut> cuts;  ///< by cloth
    double roll_mm = 0;                 ///< off every roll, in all
};
/// Of one panel as it lies in its drawing; all zero of a plain sheet. Laid out along or up the drawing, whichever
/// takes less off the roll.
LayupWork layup_work(const Job& job, const JobPiece& piece, const piece::Outline& shape);

}  // namespace bevelsmith::job
