// Where a piece that is too large wants joints: for the sheet it is cut from, and for its way into the boat.
#pragma once

#include <string>
#include <vector>

#include "piece/bearing.h"

namespace bevelsmith::piece {

struct JointProposal {
    std::vector<JointSpec> joints;  ///< all that the piece should have
    std::vector<std::string> over;  ///< the pieces that they land on, by name
    bool for_sheet = false, for_passage = false;
};

/// The fewest joints across the piece with which every part fits a sheet and passes; nothing where it does so as it
/// is, or where eight are not enough. A level panel is divided over what carries it (a joint that lands on a divider
/// or a beam, where one lies within a quarter of a part of the even division), and else by a strapped butt, which
/// wants nothing under it; what stands, by scarfs of the piece's slope. Joints that do not land keep 50 mm from
/// the sides of openings along which they run, where there is such a place (common practice: glue wants wood).
JointProposal propose_joints(const PieceSpec& spec, const Outline& shape, const Passage& passage,
                             const SheetRoom& sheet, const std::vector<Carrier>& others);

}  // namespace bevelsmith::piece
