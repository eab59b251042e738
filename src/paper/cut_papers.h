// Papers of the whole job to take to the saw: the cut list, every sheet's plan with its sequence, labels for the
// parts.
#pragma once

#include <string>

#include "job/pipeline.h"
#include "paper/tiles.h"

namespace bevelsmith::paper {

/// What the cut papers are printed on.
struct CutPaperOptions {
    Size size = Size::a4;     ///< a roll counts as A4
    std::string labels = {};  ///< a label sheet's id; empty for labels in a file of their own
};

/// The cut list; a page a sheet and the figures of its parts; every bar with its lengths; labels where they are asked
/// for. Needs a QGuiApplication. Atomic. Fails when there is nothing to cut. Throws Stopped when `keep_going` says
/// no.
Result<bool> write_cut_papers(const job::Job& job, const job::Results& results, const CutPaperOptions& options,
                              const std::string& path, const KeepGoing& keep_going = {});

}  // namespace bevelsmith::paper
