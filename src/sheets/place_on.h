// One part sent to another sheet of a layout.
#pragma once

#include <optional>

#include "sheets/layout.h"

namespace bevelsmith::sheets {

/// The layout with placement `which` on sheet `sheet` (sheets.size() for a new one of the stock that its own sheet is
/// of), where it finds room beside what lies there, in any of its allowed turns; what lies there stays. A sheet that
/// is left empty is gone. Nothing where no room is found, or no such sheet is in stock. Takes at most a second.
std::optional<Layout> moved_to_sheet(const Problem& problem, const Layout& layout, std::size_t which, int sheet);

}  // namespace bevelsmith::sheets
