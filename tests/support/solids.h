// Pieces as bodies of wood: that none reaches into another.
#pragma once

#include "job/pipeline.h"

namespace solids {

using namespace bevelsmith;

/// Every corner and edge of one piece's faces, and points within it, lie in no other piece by more than `deep_mm`;
/// a failure names the two and the place. Pieces without an outline are passed over.
void check_no_overlap(const job::Results& results, double deep_mm);

}  // namespace solids
