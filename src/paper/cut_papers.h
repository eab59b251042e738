// Papers of the whole job to take to the saw: the cut list, every sheet's plan with its sequence, labels for the
// parts.
#pragma once

#include <string>

#include "job/pipeline.h"

namespace bevelsmith::paper {

/// On A4: the cut list; a page a sheet, to scale with part marks, in the order in which they are cut and, where a
/// track saw can go from edge to edge, with its cuts numbered; every bar with its lengths; labels of 70 x 37 mm, 24 a
/// page, one a part: id, piece, unit, face, which way is up and forward. Needs a QGuiApplication. Atomic. Fails when
/// nothing is laid out.
Result<bool> write_cut_papers(const job::Job& job, const job::Results& results, const std::string& path);

}  // namespace bevelsmith::paper
