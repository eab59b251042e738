// The checks by name, and where what each of them finds is mended.
#pragma once

#include <string_view>
#include <vector>

namespace bevelsmith::review {

/// The step in which a finding is looked at and mended.
enum class MendedIn { measure, shape, pieces, fix, cut };

struct Check {
    std::string_view name;
    MendedIn step = MendedIn::pieces;
};

/// All of them, in the order in which they run. A finding's `check` is one of these names.
const std::vector<Check>& checks();
/// The one of this name; null when there is none.
const Check* check_named(std::string_view name);

}  // namespace bevelsmith::review
