// The table of taped distances by which a part goes back where it stood.
#pragma once

#include <QString>

#include "job/job.h"
#include "piece/outline.h"

namespace bevelsmith::paper {

/// From each of the job's marks to each of the piece's taped places, as HTML; empty where the job has no marks.
QString ties_table(const job::Job& job, const piece::Outline& outline);

}  // namespace bevelsmith::paper
