// The grammar behind parse_length_mm.
#pragma once

#include <string_view>

#include "units/quantity.h"

namespace bevelsmith::units {

/// Plain text of a quantity: typographic quotes, fractions and minus signs replaced by ASCII.
std::string normalise_typography(std::string_view text);

/// A decimal number at the start of `text`, with a decimal comma allowed; advances `text` past it.
/// Fails without moving when there is none.
Result<double> take_number(std::string_view& text);

/// Evaluates sums, products and brackets of lengths. See parse_length_mm for what is understood.
Result<double> evaluate_length_mm(std::string_view text, LengthUnit plain);

}  // namespace bevelsmith::units
