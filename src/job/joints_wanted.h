// Joints for a piece that is larger than its sheet or than the way into the boat.
#pragma once

#include <string>

#include "job/pipeline.h"
#include "piece/joint_proposal.h"

namespace bevelsmith::job {

/// The largest blank that a piece's sheet gives: parts lie on it without the margin that their blanks have.
piece::SheetRoom sheet_room(const Job& job, const JobMaterial& material, const piece::PieceSpec& piece);

/// As `piece::propose_joints`, for the sheets of the piece's material, the boat's passage and what else stands in the
/// boat. `job` is one in full, with its results. Nothing where the piece has no outline.
piece::JointProposal joints_wanted(const Job& job, const Results& results, const std::string& piece_id);

}  // namespace bevelsmith::job
