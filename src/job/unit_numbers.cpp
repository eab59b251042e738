#include "job/unit_numbers.h"

#include <algorithm>

#include "furniture/kinds.h"
#include "job/in_full.h"

namespace bevelsmith::job {

std::optional<UnitNumber> number_of(const Job& job, const std::string& piece_id) {
    const JobUnit* unit = unit_of(job, piece_id);
    if (!unit) return std::nullopt;
    const auto drags = drags_in(job, *unit);
    const auto found = drags.find(part_of(piece_id));
    if (found == drags.end()) return std::nullopt;
    return UnitNumber{found->second, unit->id};
}

double value_of(const Job& job, const UnitNumber& number) {
    for (const JobUnit& unit : job.units)
        if (unit.id == number.unit_id) {
            if (number.field) return unit.*number.field;
            return number.divider < unit.dividers_mm.size() ? unit.dividers_mm[number.divider] : 0;
        }
    return 0;
}

void set_value(Job& job, const UnitNumber& number, double mm) {
    JobUnit* unit = find_unit(job, number.unit_id);
    if (!unit) return;
    if (!number.field) {
        if (number.divider < unit->dividers_mm.size()) unit->dividers_mm[number.divider] = mm;
        return;
    }
    unit->*number.field = furniture::is_place(number.field) ? mm : std::max(0.0, mm);
}

}  // namespace bevelsmith::job
