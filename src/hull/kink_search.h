// Where a surface kinks, if it does: the lines that make the readings likeliest.
#pragma once

#include <optional>
#include <vector>

#include "hull/kinks.h"
#include "units/stop.h"

namespace bevelsmith::hull {

struct KinksFound {
    /// With no line, one, two, three, each with one more than the last, as far as there were readings for it.
    std::vector<KinkFit> one_by_one;
    /// These and others that follow from them, the likeliest first. A line must be worth more than what can be had by
    /// chance from lines that may lie anywhere; a keel, which lies where it lies, need not be worth as much.
    std::vector<KinkFit> likeliest;
};

/// `keel`: the boat's centre line on the surface, where there are readings on both sides of it. Empty where nothing
/// can be fitted. Throws Stopped when `keep_going` says no.
KinksFound search_kinks(const KinkModel& model, std::optional<KinkLine> keel, const KeepGoing& keep_going);

}  // namespace bevelsmith::hull
