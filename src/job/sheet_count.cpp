#include "job/sheet_count.h"

#include <fmt/format.h>

namespace bevelsmith::job {

SheetCount sheet_count(const SheetResult& result, const sheets::Layout& layout) {
    SheetCount out;
    for (int stock : layout.sheet_stock)
        ++(result.stock_names[static_cast<std::size_t>(stock)].empty() ? out.sheets : out.offcuts);
    return out;
}

SheetCount sheet_count(const SheetResult& result) {
    return result.layout ? sheet_count(result, *result.layout) : SheetCount{};
}

std::string in_words(const SheetCount& count) {
    const std::string sheets = fmt::format("{} {}", count.sheets, count.sheets == 1 ? "sheet" : "sheets");
    const std::string offcuts = fmt::format("{} {}", count.offcuts, count.offcuts == 1 ? "offcut" : "offcuts");
    return count.offcuts == 0 ? sheets : count.sheets == 0 ? offcuts : sheets + ", " + offcuts;
}

}  // namespace bevelsmith::job
