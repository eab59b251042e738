// Steps between states of a job as JSON patches (RFC 6902), so that a journal can hold many states in little room.
#pragma once

#include <string>
#include <string_view>

#include "units/result.h"

namespace bevelsmith::job {

/// A patch, as JSON text, that makes `to` out of `from`. Precondition: both are valid JSON.
std::string patch_between(std::string_view from, std::string_view to);

/// What the patch makes of a text, as JSON text in one line. Fails where the patch does not apply.
Result<std::string> patched(std::string_view text, std::string_view patch);

}  // namespace bevelsmith::job
