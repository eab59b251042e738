// How many whole sheets a layout takes, and how many offcuts: only the first are bought.
#pragma once

#include <string>

#include "job/pipeline.h"

namespace bevelsmith::job {

struct SheetCount {
    int sheets = 0, offcuts = 0;
};
/// Of a layout of these parts; by default the one that they have.
SheetCount sheet_count(const SheetResult& result, const sheets::Layout& layout);
SheetCount sheet_count(const SheetResult& result);

/// "12 sheets", "1 sheet, 2 offcuts", "1 offcut".
std::string in_words(const SheetCount& count);

}  // namespace bevelsmith::job
