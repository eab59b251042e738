// Pages that are taken to the boat: where a piece's lines are drawn, what comes off it once it was offered up, and
// how things stood before they were taken out.
#pragma once

#include <string>

#include "job/pipeline.h"
#include "piece/at_boat.h"
#include "units/result.h"

namespace bevelsmith::paper {

/// A4 upright: a sketch that numbers the stations, offsets of both faces' lines, ties, diagonals, supports, and how
/// two people prove it with a tape. Needs a QGuiApplication.
Result<bool> write_setting_out(const job::Job& job, const job::JobPiece& piece, const job::PieceResult& result,
                               const piece::AtBoat& at_boat, const std::string& path);

/// The shaving guide of the piece's last fitting. Fails where it has none, or no outline.
Result<bool> write_shaving_guide(const job::Job& job, const job::JobPiece& piece, const job::PieceResult& result,
                                 const std::string& path);

/// What stands there and is taken out or goes back: where its corners and holes sit from the marks, and what it needs
/// before it goes back. Fails where there is none such.
Result<bool> write_old_state(const job::Job& job, const job::Results& results, const std::string& path);

}  // namespace bevelsmith::paper
