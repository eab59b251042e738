// A layout made for other stock, taken over: more stock, or a larger sheet, never needs more sheets than before.
#pragma once

#include <optional>

#include "sheets/layout.h"

namespace bevelsmith::sheets {

/// A layout of the same parts on the stock of `problem`: each sheet on one of the same shape or, a plain one, on the
/// smallest plain one that holds it. Empty where the parts, the spacing or the margin are others, or where it does
/// not hold (`violations`: more sheets of a stock than there are, a pinned part elsewhere).
std::optional<Layout> carried_over(const Layout& layout, const Problem& from, const Problem& problem);

/// Fewer parts without a place, then fewer sheets of the stock that is used last, then as `better`: what is bought
/// counts before what lies there already.
bool cheaper(const Problem& problem, const Layout& a, const Layout& b);

}  // namespace bevelsmith::sheets
