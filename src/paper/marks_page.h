// The page of reference marks: what keeps its place on the boat, and the taped distances that put a piece back.
#pragma once

#include <string>

#include "job/pipeline.h"
#include "units/result.h"

class QPagedPaintDevice;

namespace bevelsmith::paper {

/// Marks with what they were measured from; how the boat leans; for each piece the distance from each mark to each
/// taped place of face A. A4 upright, as many pages as it takes. Needs a QGuiApplication.
void paint_marks(const job::Job& job, const job::Results& results, QPagedPaintDevice& device);
/// The same into a PDF, atomically. Fails where there are no marks, or the file cannot be written.
Result<bool> write_marks(const job::Job& job, const job::Results& results, const std::string& path);

}  // namespace bevelsmith::paper
