// Figures as they stand on papers: what a tape or rule shows, with a sign where the truth lies between two marks.
#pragma once

#include <string>

#include "units/quantity.h"

namespace bevelsmith::units {

/// A length as a figure without its unit: tenths of a millimetre, thousandths of an inch; in fractions the nearest
/// one, with + where the length is a shade more (over a quarter of a mark) and − where it is a shade less. What is
/// read back is within a tenth of a millimetre, or a quarter of a fraction's mark (1/64 in of sixteenths).
std::string figure(double length_mm, LengthUnit unit);
/// The same with its unit.
std::string figure_with_unit(double length_mm, LengthUnit unit);
/// The length that such a figure tells: in the middle of what it may stand for (mm).
double printed_mm(double length_mm, LengthUnit unit);
/// The same read from the text. Fails where it is no such figure.
Result<double> read_figure_mm(const std::string& text, LengthUnit unit);

/// What + and − mean, for a paper's foot; empty where figures have none.
std::string figure_note(LengthUnit unit);

/// "millimetres", "inches", "feet and inches": for sentences.
std::string unit_in_words(LengthUnit unit);

/// How lengths stand in tables and drawings for other programs: decimal, of this many millimetres, under this name.
struct TableUnit {
    const char* name;
    double mm;
    int decimals;  ///< that say a tenth of a millimetre
};
TableUnit table_unit(LengthUnit unit);

/// A round length to check a printer by: 100 mm, or 4 in.
double check_length_mm(LengthUnit unit);

}  // namespace bevelsmith::units
