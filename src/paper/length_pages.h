// Bars as they are cut, on paper.
#pragma once

#include "job/pipeline.h"
#include "paper/page.h"

namespace bevelsmith::paper {

/// Every bar to scale with its lengths as they lie, and beside each where it is marked along both edges.
void length_pages(Paper& paper, const job::Job& job, const job::Results& results, const QSizeF& page_mm);

}  // namespace bevelsmith::paper
