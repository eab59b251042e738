#include "job/unit_numbers.h"

#include <algorithm>
#include <cstdlib>

#include "job/in_full.h"

namespace bevelsmith::job {
namespace {

bool begins(const std::string& text, const char* with) {
    return text.rfind(with, 0) == 0;
}

/// "divider 2", "beam 2 far" stand for the second from aft, in whatever order they were given.
std::optional<std::size_t> divider_index(const JobUnit& unit, const std::string& part) {
    const auto number = static_cast<std::size_t>(std::atoi(part.c_str() + part.find(' ')));
    std::vector<std::size_t> order(unit.dividers_mm.size());
    for (std::size_t k = 0; k < order.size(); ++k) order[k] = k;
    std::sort(order.begin(), order.end(),
              [&](std::size_t a, std::size_t b) { return unit.dividers_mm[a] < unit.dividers_mm[b]; });
    if (number < 1 || number > order.size()) return std::nullopt;
    return order[number - 1];
}

}  // namespace

std::optional<UnitNumber> number_of(const Job& job, const std::string& piece_id) {
    const JobUnit* unit = unit_of(job, piece_id);
    if (!unit) return std::nullopt;
    using U = furniture::UnitSpec;
    const std::string part = part_of(piece_id);
    const Vec3 out = unit->side == furniture::Side::port ? Vec3(Vec3::UnitY()) : Vec3(-Vec3::UnitY());
    UnitNumber n{unit->id, nullptr, 0, Vec3::UnitX(), 0, ""};
    if (begins(part, "divider") || begins(part, "beam")) {
        const auto k = divider_index(*unit, part);
        if (!k) return std::nullopt;
        n.divider = *k,
        n.words = begins(part, "beam") ? "where the beam stands, fwd" : "where the divider stands, fwd";
    } else if (part == "aft end") {
        n.field = &U::from_mm, n.words = "the after end, fwd";
    } else if (part == "fwd end") {
        n.field = &U::to_mm, n.words = "the forward end, fwd";
    } else if (part == "top" || begins(part, "lid") || begins(part, "shelf")) {
        const bool sole = unit->kind == furniture::UnitKind::sole;
        n.field = sole ? &U::foot_mm : &U::height_mm, n.way = Vec3::UnitZ(),
        n.words = sole ? "the sole's height" : "its height over the sole";
        n.base_mm = sole ? 0 : unit->foot_mm;
    } else if (part == "raised top") {
        n.field = &U::raised_by_mm, n.way = Vec3::UnitZ(), n.words = "the raised part, over the sole",
        n.base_mm = unit->foot_mm;
    } else if (part == "raised aft") {
        n.field = &U::raised_from_mm, n.words = "the raised part's after end, fwd";
    } else if (part == "raised fwd") {
        n.field = &U::raised_to_mm, n.words = "the raised part's forward end, fwd";
    } else if (part == "raised near") {
        n.field = &U::raised_half_mm, n.way = out, n.words = "the raised part's half width";
    } else if (part == "sole") {
        n.field = &U::foot_mm, n.way = Vec3::UnitZ(), n.words = "the sole's height";
    } else if (part == "front" || part == "toe board" || begins(part, "fiddle") || part == "near side") {
        n.field = &U::front_mm, n.way = out, n.words = "the front, from the centre line";
    } else if (part == "far side") {
        n.field = &U::front_mm, n.way = -out, n.words = "the side, from the centre line";
    } else {
        return std::nullopt;
    }
    return n;
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
    const bool signed_one =
        number.field == &furniture::UnitSpec::foot_mm || number.field == &furniture::UnitSpec::from_mm ||
        number.field == &furniture::UnitSpec::to_mm || number.field == &furniture::UnitSpec::raised_from_mm ||
        number.field == &furniture::UnitSpec::raised_to_mm;
    unit->*number.field = signed_one ? mm : std::max(0.0, mm);
}

}  // namespace bevelsmith::job
