#include "units/ranges.h"

#include <fmt/format.h>

namespace bevelsmith::units {
namespace {

std::string with_unit(double value, std::string_view unit) {
    return unit.empty() ? fmt::format("{:.10g}", value) : fmt::format("{:.10g} {}", value, unit);
}

}  // namespace

std::string out_of_range(const Range& range, double value) {
    return fmt::format("{} is out of range: from {:.10g} to {} ({})", with_unit(value, range.unit), range.least,
                       with_unit(range.most, range.unit), range.why);
}

std::string too_many(const Limit& limit, std::size_t count) {
    return fmt::format("{} is too many: {} are at most {} ({})", count, limit.name, limit.most, limit.why);
}

}  // namespace bevelsmith::units
