// Lengths of one bar laid end to end. For lengths.cpp alone.
#pragma once

#include <vector>

#include "sheets/lengths.h"

namespace bevelsmith::sheets {

/// How wide a section is where the ends of a part are seen to lean.
double across_mm(const LengthProblem& problem, const LengthPart& part);
LaidLength laid(const LengthPart& part, double across_mm, const CutLength& cut);
/// Whether `next` lies in the leaning end of `before`: seen on one side, and leaning opposite ways.
bool lie_in_one_another(const LengthProblem& problem, const CutLength& before, const CutLength& next);
/// From the last long point of `before` to the first of `next`: the kerf, less what their ends save.
double least_distance_mm(const LengthProblem& problem, const CutLength& before, const CutLength& next);
/// Parts in a bar, one an entry, so that they take least of it: square ones first, then by the side that they lean
/// on. Those that may lie with the same face up do.
CutBar laid_in_bar(const LengthProblem& problem, int bar, const std::vector<int>& parts);

}  // namespace bevelsmith::sheets
