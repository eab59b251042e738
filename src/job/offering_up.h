// A piece, or its trial pattern, offered up: what was seen along its edges becomes part of the job.
#pragma once

#include <string>
#include <vector>

#include "job/pipeline.h"
#include "piece/fitting.h"

namespace bevelsmith::job {

/// Enters a fitting: the readings stay with the piece, and where surfaces truly run by them becomes a set of readings
/// a surface, with the feeler's uncertainty, which other pieces gain from too. The piece's next outline runs through
/// those places. `forecast_mm` is what one cut in twenty was to be off by (0: not known). `offered` is its outline as
/// it was offered up, `built` the piece with its unit's numbers. Fails, naming the reading, where one is on no
/// scribed edge; nothing is changed then. A draft is done with.
Result<bool> enter_fitting(Job& job, const JobPiece& built, const piece::Outline& offered,
                           const std::vector<piece::FitReading>& readings, bool of_pattern, double forecast_mm = 0);

/// How many pieces whose forecast was known kept to it when they were first offered up: no reading farther off than
/// what one cut in twenty was to be.
struct Kept {
    int pieces = 0, kept = 0;
};
Kept kept_to_forecast(const Job& in_full);
/// Of one fitting: how far its readings are from what was to be left, at most (mm, square to the surface).
double farthest_off_mm(const JobPiece& piece, const Fitting& fitting);

/// Readings that are being typed and were not entered yet: nothing follows from them.
inline bool is_draft(const Fitting& fitting) {
    return fitting.set_ids.empty();
}
/// The last that was entered, null where there is none.
const Fitting* last_fitting(const JobPiece& piece);

/// Takes the last fitting of a piece out again, with its sets of readings: what was typed is a draft again.
void take_back_fitting(Job& job, const std::string& piece_id);

/// A fitting together with what comes of it.
struct OfferedUp {
    Job job;  ///< with the fitting entered
    piece::Outline corrected;
    piece::Correction correction;
};
/// Enters a fitting and works the piece out anew.
Result<OfferedUp> offered_up(const Job& job, const std::string& piece_id,
                             const std::vector<piece::FitReading>& readings, bool of_pattern, Pipeline& pipeline,
                             const KeepGoing& keep_going = {});

/// Where a trial pattern is worth its sheet: the forecast band is wider than the fit wanted, and it has not been
/// tried yet.
bool wants_pattern(const JobPiece& piece, const PieceResult& result);

}  // namespace bevelsmith::job
