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

/// Parts that a layout has no place for, for lack of stock or of a sheet that is large enough.
struct WithoutPlace {
    int parts = 0;
    /// What they take by their area, at what is usually used of a sheet, so that no list says too little.
    double sheets = 0;
};
WithoutPlace without_place(const sheets::Problem& problem, const sheets::Layout& layout,
                           const stock::SheetMaterial& material);
/// "3 parts have no place: counted by their area"; empty where all have one.
std::string words_of(const WithoutPlace& parts);

/// "12 sheets", "1 sheet, 2 offcuts", "1 offcut".
std::string in_words(const SheetCount& count);

}  // namespace bevelsmith::job
