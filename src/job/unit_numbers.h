// Which number of a unit a panel of it stands for: what changes when the panel is dragged.
#pragma once

#include <optional>
#include <string>

#include "job/job.h"

namespace bevelsmith::job {

/// One number of a unit, and the way in the boat along which it grows.
struct UnitNumber : furniture::Drag {
    std::string unit_id;
};

/// The number behind a panel: a front's distance out, a top's height, a divider's place. Empty where it follows from
/// others (a front between two bulkheads has no place of its own along the boat).
std::optional<UnitNumber> number_of(const Job& job, const std::string& piece_id);

double value_of(const Job& job, const UnitNumber& number);
void set_value(Job& job, const UnitNumber& number, double mm);

}  // namespace bevelsmith::job
