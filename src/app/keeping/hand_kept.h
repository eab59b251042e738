// What a person's hand does over all their jobs: the record of each job that was saved, by its file, in the state
// folder.
#pragma once

#include <QString>

#include "app/document/document.h"
#include "job/hand_record.h"

namespace bevelsmith::app {

/// Keeps what a job says of the hand, in the place of what it said before; of a job that says nothing nothing is
/// kept. A record that cannot be kept is nobody's work: nothing is said.
void keep_hand(const QString& path, const job::HandRecord& record);

struct HandOverJobs {
    job::HandRecord record;
    int jobs = 0;
};
/// Over all jobs that are kept, but the one in that file: its own is known better while it is open.
HandOverJobs hand_over_other_jobs(const QString& path);

/// "Of your last 20 pieces that were offered up 19 kept to their forecast.": over this job and the others; empty
/// where none was.
QString kept_words(const Document& document);

/// A scatter is offered as the usual uncertainty from so many readings on.
inline constexpr int readings_to_tell = 20;

}  // namespace bevelsmith::app
