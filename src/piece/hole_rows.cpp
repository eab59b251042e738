#include "piece/hole_rows.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "units/ranges.h"

namespace bevelsmith::piece {
namespace {

/// How many holes fit side by side in a length, a diameter apart.
int most_in(double length_mm, double diameter_mm) {
    if (length_mm < diameter_mm) return 0;
    return 1 + static_cast<int>(std::floor((length_mm - diameter_mm) / (2 * diameter_mm) + 1e-9));
}

double place(double low, double length, double diameter, int index, int count) {
    if (count == 1) return low + length / 2;
    return low + diameter / 2 + (length - diameter) * index / (count - 1);
}

}  // namespace

Result<HoleLayout> laid_out(const HoleRow& row) {
    const double each_cm2 = M_PI * row.diameter_mm * row.diameter_mm / 400;
    const int most_columns = most_in(row.width_mm, row.diameter_mm),
              most_rows = most_in(row.height_mm, row.diameter_mm);
    const double wanted = std::max(1.0, std::ceil(row.wanted_cm2 / each_cm2 - 1e-9));
    if (wanted > static_cast<double>(most_columns) * most_rows)
        return Error{
            fmt::format("'{}': holes of {:.0f} mm in {:.0f} x {:.0f} mm give {:.1f} cm² of free area, {:.1f} "
                        "cm² is wanted; make the field or the holes larger",
                        row.name, row.diameter_mm, row.width_mm, row.height_mm, most_columns * most_rows * each_cm2,
                        row.wanted_cm2)};
    if (wanted > static_cast<double>(units::limit::holes.most))
        return Error{
            fmt::format("'{}': {:.1f} cm² of holes of {:.0f} mm would be {:.0f} holes, and {} are the most; make "
                        "them larger, or cut one opening and cover it with a grille",
                        row.name, row.wanted_cm2, row.diameter_mm, wanted, units::limit::holes.most)};
    HoleLayout out;
    out.rows = static_cast<int>(std::ceil(wanted / most_columns));
    out.columns = static_cast<int>(std::ceil(wanted / out.rows));
    for (int r = 0; r < out.rows; ++r)
        for (int c = 0; c < out.columns; ++c)
            out.centres.emplace_back(place(row.left_mm, row.width_mm, row.diameter_mm, c, out.columns),
                                     place(row.bottom_mm, row.height_mm, row.diameter_mm, r, out.rows));
    out.free_cm2 = each_cm2 * static_cast<double>(out.centres.size());
    return out;
}

std::vector<OpeningSpec> holes_of(const HoleRow& row, const HoleLayout& layout) {
    std::vector<OpeningSpec> out;
    const double r = row.diameter_mm / 2;
    for (const Vec2& at : layout.centres)
        out.push_back({row.name, at.x() - r, at.y() - r, row.diameter_mm, row.diameter_mm, r});
    return out;
}

}  // namespace bevelsmith::piece
