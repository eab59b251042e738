#include "job/sheet_count.h"

#include <fmt/format.h>

#include <cmath>

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

WithoutPlace without_place(const sheets::Problem& problem, const sheets::Layout& layout,
                           const stock::SheetMaterial& material) {
    constexpr double usual_use = 0.7;  // common practice: of a sheet of shaped parts
    WithoutPlace out;
    double area = 0;
    for (const auto& one : layout.unplaced) {
        ++out.parts;
        area += geometry::area_mm2(problem.parts[static_cast<std::size_t>(one.part)].shape);
    }
    out.sheets = std::ceil(area / (usual_use * material.sheet_width_mm * material.sheet_height_mm));
    return out;
}

std::string words_of(const WithoutPlace& of) {
    if (of.parts == 0) return {};
    return fmt::format("{} no place on a sheet: counted by {} area",
                       of.parts == 1 ? "1 part has" : fmt::format("{} parts have", of.parts),
                       of.parts == 1 ? "its" : "their");
}

std::string in_words(const SheetCount& count) {
    const std::string sheets = fmt::format("{} {}", count.sheets, count.sheets == 1 ? "sheet" : "sheets");
    const std::string offcuts = fmt::format("{} {}", count.offcuts, count.offcuts == 1 ? "offcut" : "offcuts");
    return count.offcuts == 0 ? sheets : count.sheets == 0 ? offcuts : sheets + ", " + offcuts;
}

}  // namespace bevelsmith::job
