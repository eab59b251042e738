#include "job/differences.h"

#include <fmt/format.h>

#include <algorithm>

namespace bevelsmith::job {
namespace {

using Kind = Difference::Kind;

std::string named(const char* what, const std::string& id, const std::string& name) {
    return name.empty() ? fmt::format("{} {}", what, id) : fmt::format("{} {} ({})", what, id, name);
}

std::string count(std::size_t n, const char* one, const char* many) {
    return fmt::format("{} {}", n, n == 1 ? one : many);
}

/// How many readings were added or taken away at the end, and how many of the rest are not as they were.
std::string readings_in_words(const JobReadingSet& before, const JobReadingSet& after) {
    const std::size_t common = std::min(before.readings.size(), after.readings.size());
    std::size_t changed = 0;
    for (std::size_t k = 0; k < common; ++k) changed += !(before.readings[k] == after.readings[k]);
    std::vector<std::string> parts;
    if (after.readings.size() > common)
        parts.push_back(count(after.readings.size() - common, "more reading", "more readings"));
    if (before.readings.size() > common)
        parts.push_back(count(before.readings.size() - common, "reading fewer", "readings fewer"));
    if (changed) parts.push_back(fmt::format("{} changed", changed));
    JobReadingSet rest = before;
    rest.readings = after.readings;
    if (!(rest == after)) parts.emplace_back("how it was measured");
    return fmt::format("{}", fmt::join(parts, ", "));
}

std::string piece_in_words(const JobPiece& before, const JobPiece& after) {
    std::vector<std::string> parts;
    if (before.name != after.name) parts.push_back(fmt::format("its name was '{}'", before.name));
    if (!(before.plane == after.plane)) parts.emplace_back("where it stands");
    if (before.edges != after.edges) parts.emplace_back("edges");
    if (before.openings != after.openings) parts.emplace_back("openings");
    if (before.limbers != after.limbers) parts.emplace_back("notches");
    if (before.joints != after.joints) parts.emplace_back("joints");
    if (before.material_id != after.material_id) parts.emplace_back("sheet");
    if (before.stage != after.stage) parts.push_back(fmt::format("{}, was {}", after.stage, before.stage));
    return parts.empty() ? "how it is made" : fmt::format("{}", fmt::join(parts, ", "));
}

/// Lists whose items have an id: what came, what went, and what is not as it was.
template <class Item, class Name, class Words>
void compare(const std::vector<Item>& before, const std::vector<Item>& after, Name name, Words words,
             std::vector<Difference>& out) {
    const auto find = [](const std::vector<Item>& in, const std::string& id) {
        return std::find_if(in.begin(), in.end(), [&](const Item& i) { return i.id == id; });
    };
    const std::size_t first = out.size();
    for (const Item& item : after) {
        const auto old = find(before, item.id);
        if (old == before.end()) out.push_back({Kind::added, name(item), {}});
        else if (!(*old == item)) out.push_back({Kind::changed, name(item), words(*old, item)});
    }
    for (const Item& item : before)
        if (find(after, item.id) == after.end()) out.push_back({Kind::removed, name(item), {}});
    if (out.size() == first && !(before == after) && !after.empty())
        out.push_back({Kind::changed, name(after.front()), "the order of its list"});
}

template <class T>
void whole(const T& before, const T& after, const char* what, std::vector<Difference>& out) {
    if (!(before == after)) out.push_back({Kind::changed, what, {}});
}

}  // namespace

std::vector<Difference> differences(const Job& before, const Job& after) {
    std::vector<Difference> out;
    if (before.name != after.name)
        out.push_back({Kind::changed, "the job's name", fmt::format("'{}', was '{}'", after.name, before.name)});
    whole(before.unit, after.unit, "the unit of lengths", out);
    whole(before.boat, after.boat, "the boat", out);
    whole(before.datum, after.datum, "the datum", out);
    const auto plain = [](const auto&, const auto&) { return std::string(); };
    compare(
        before.marks, after.marks, [](const JobMark& m) { return named("mark", m.id, m.name); }, plain, out);
    whole(before.practice, after.practice, "the practice boat", out);
    compare(
        before.surfaces, after.surfaces, [](const SurfaceSpec& s) { return named("surface", s.id, s.name); }, plain,
        out);
    compare(
        before.readings, after.readings, [](const JobReadingSet& r) { return named("readings", r.id, r.name); },
        readings_in_words, out);
    compare(
        before.materials, after.materials, [](const JobMaterial& m) { return named("sheet", m.id, m.name); }, plain,
        out);
    compare(
        before.pieces, after.pieces, [](const JobPiece& p) { return named("piece", p.id, p.name); }, piece_in_words,
        out);
    compare(
        before.units, after.units, [](const JobUnit& u) { return named("unit", u.id, u.name); }, plain, out);
    whole(before.coating, after.coating, "the coating", out);
    whole(before.fixing_rules, after.fixing_rules, "the rules for fixing", out);
    whole(before.cutting, after.cutting, "the rules for cutting", out);
    whole(before.readings_next, after.readings_next, "how many readings are proposed", out);
    compare(
        before.obstacles, after.obstacles, [](const JobObstacle& o) { return named("obstacle", o.id, o.name); },
        plain, out);
    whole(before.comfort, after.comfort, "the room that people want", out);
    whole(before.layouts, after.layouts, "kept layouts", out);
    compare(
        before.offcuts, after.offcuts, [](const JobOffcut& o) { return named("offcut", o.id, o.name); }, plain, out);
    compare(
        before.cut_sheets, after.cut_sheets, [](const CutSheet& c) { return named("cut sheet", c.id, c.name); },
        plain, out);
    compare(
        before.bars, after.bars, [](const JobBar& b) { return named("length in stock", b.id, b.name); }, plain, out);
    compare(
        before.lengths, after.lengths, [](const LengthWanted& l) { return named("length wanted", l.id, l.name); },
        plain, out);
    whole(before.costs, after.costs, "currency and rate", out);
    compare(
        before.choices, after.choices, [](const MaterialChoice& c) { return named("choice", c.id, c.name); }, plain,
        out);
    whole(before.set_aside, after.set_aside, "findings set aside", out);
    whole(before.unknown, after.unknown, "fields that this program does not know", out);
    if (before.version != after.version) out.push_back({Kind::changed, "the version of the format", {}});
    return out;
}

}  // namespace bevelsmith::job
