#include "units/figures.h"

#include <cmath>

namespace bevelsmith::units {
namespace {

/// Where the length lies from its nearest mark, in shares of a mark: -0.5 to 0.5 of its size, not of its sign.
struct Mark {
    double nearest_mm = 0;  ///< of the length without its sign
    int shade = 0;          ///< +1 a shade more, -1 a shade less
};
constexpr double plain_share = 0.25;

Mark mark_of(double length_mm, int marks) {
    const double at = std::abs(length_mm) / mm_per_inch * marks, nearest = std::round(at), off = at - nearest;
    return {nearest / marks * mm_per_inch, off > plain_share ? 1 : off < -plain_share ? -1 : 0};
}

constexpr const char *more = "+", *less = "−", *minus = "−";

bool cut_end(std::string& text, const std::string& end) {
    if (!text.ends_with(end)) return false;
    text.erase(text.size() - end.size());
    return true;
}

}  // namespace

std::string figure(double length_mm, LengthUnit unit) {
    const int marks = marks_to_the_inch(unit);
    const Mark mark = marks > 0 ? mark_of(length_mm, marks) : Mark{std::abs(length_mm), 0};
    const std::string size = format_length_number(mark.nearest_mm, unit);
    const bool nothing = size.find_first_of("123456789") == std::string::npos && mark.shade == 0;
    return (length_mm < 0 && !nothing ? minus : "") + size + (mark.shade > 0 ? more : mark.shade < 0 ? less : "");
}

std::string figure_with_unit(double length_mm, LengthUnit unit) {
    if (unit == LengthUnit::feet_inches) return figure(length_mm, unit);
    return figure(length_mm, unit) + " " + std::string(symbol(unit));
}

double printed_mm(double length_mm, LengthUnit unit) {
    const auto back = read_figure_mm(figure(length_mm, unit), unit);
    return back ? *back : length_mm;
}

Result<double> read_figure_mm(const std::string& text, LengthUnit unit) {
    std::string rest = text;
    double shade = 0;
    if (marks_to_the_inch(unit) > 0) shade = cut_end(rest, more) ? 1 : cut_end(rest, less) ? -1 : 0;
    const bool negative = rest.starts_with(minus);
    if (negative) rest.erase(0, std::string(minus).size());
    const auto size = parse_length_mm(rest, unit);
    if (!size) return size;
    const double shaded =
        *size + (marks_to_the_inch(unit) > 0 ? shade * shade_share / marks_to_the_inch(unit) * mm_per_inch : 0);
    return negative ? -shaded : shaded;
}

std::string figure_note(LengthUnit unit) {
    return marks_to_the_inch(unit) > 0 ? "+ a shade more than the mark, − a shade less." : "";
}

std::string unit_in_words(LengthUnit unit) {
    switch (unit) {
        case LengthUnit::centimetre: return "centimetres";
        case LengthUnit::metre: return "metres";
        case LengthUnit::inch:
        case LengthUnit::inch_sixteenths:
        case LengthUnit::inch_thirty_seconds: return "inches";
        case LengthUnit::feet_inches: return "feet and inches";
        case LengthUnit::millimetre: break;
    }
    return "millimetres";
}

TableUnit table_unit(LengthUnit unit) {
    switch (unit) {
        case LengthUnit::centimetre: return {"cm", 10, 2};
        case LengthUnit::metre: return {"m", 1000, 4};
        case LengthUnit::millimetre: return {"mm", 1, 1};
        default: return {"in", mm_per_inch, 4};
    }
}

double check_length_mm(LengthUnit unit) {
    return in_inches(unit) ? 4 * mm_per_inch : 100;
}

}  // namespace bevelsmith::units
