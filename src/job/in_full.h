// A job with the pieces of its units among its pieces, and with every plane where it follows from another piece's.
#pragma once

#include <functional>
#include <map>
#include <string>

#include "job/job.h"

namespace bevelsmith::job {

/// The job as everything after it sees it. Pieces of units stand after the others, each with what a person changed of
/// it; a change that no longer holds (its edge is gone) is left out. Planes beside other pieces are worked out in
/// their order; where they depend on each other in a circle they stay as they are, and the pipeline says so.
Job in_full(const Job& job);

/// The job with its planes where they are now: beside other pieces, through marks, by offsets; obstacles' paths
/// likewise. What proposals are made in. Its units stay what they are.
Job settled(const Job& job);

/// By their ids, to be changed; null where there is none such.
JobUnit* find_unit(Job& job, const std::string& id);
JobPiece* find_plain_piece(Job& job, const std::string& id);

/// The unit that a piece belongs to; null where it is a piece of its own.
const JobUnit* unit_of(const Job& job, const std::string& piece_id);
/// Whether a piece is one of a unit's.
bool is_of(const std::string& piece_id, const std::string& unit_id);
/// An id for another unit: that of none, nor one by which pieces of a unit that was taken apart are still called.
std::string free_unit_id(const Job& job);
/// "front" of "U1.front".
std::string part_of(const std::string& piece_id);

/// The piece that a part on a sheet belongs to: "B1" of "B1/2" and of the copy "B1#3".
std::string piece_of_part(const std::string& part_id);

/// Changes a piece, wherever it stands: in the job, or as an adjustment beside its unit. False where there is none
/// such.
bool change_piece(Job& job, const std::string& piece_id, const std::function<void(JobPiece&)>& change);

/// A copy of a piece under an id of its own, `by_mm` farther along its plane's axis; of a unit's panel a plain piece.
/// Empty where there is none such. The new piece's id.
std::string copy_piece(Job& job, const std::string& piece_id, double by_mm);
/// Its like on the boat's other side: plane, edges, openings and the rest turned about the centre line, scribed anew
/// there; edges at other pieces end at planes where these are, but for pieces whose like on that side is known by
/// `pairs`. The new piece's id; empty where there is none such.
std::string mirror_piece(Job& job, const std::string& piece_id, const std::map<std::string, std::string>& pairs = {});

/// By part: which of the unit's numbers its panels are dragged by.
std::map<std::string, furniture::Drag> drags_in(const Job& job, const JobUnit& unit);

/// Makes plain pieces of a unit's.
void take_apart(Job& job, const std::string& unit_id);

/// What a piece offers others to end at.
piece::Neighbour neighbour_of(const Job& job, const piece::PieceSpec& piece);

}  // namespace bevelsmith::job
