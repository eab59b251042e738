#include "furniture/unit.h"

#include <fmt/format.h>

#include <cctype>

#include "furniture/builders.h"
#include "furniture/kinds.h"

namespace bevelsmith::furniture {

using piece::PieceSpec;

std::string capital(std::string word) {
    word[0] = static_cast<char>(std::toupper(word[0]));
    return word;
}

void add_lid(Builder& b, PieceSpec& top, std::size_t k, double from_mm, double to_mm, double in, double out,
             double upper) {
    const UnitSpec& u = b.unit;
    const double from = from_mm + u.rail_mm, to = to_mm - u.rail_mm;
    if (to - from < least_opening_mm) return;
    const std::string part = fmt::format("lid {}", k + 1);
    top.openings.push_back(b.level_box(part, from, to, in, out));
    PieceSpec& p = b.level(part, fmt::format("Lid {}, {}", k + 1, u.name), upper);
    p.kind = "lift-out";
    b.drags[part] = b.drags.count("sole")
                        ? b.drags["sole"]
                        : Drag{&UnitSpec::height_mm, 0, Vec3::UnitZ(), u.foot_mm, "its height over the sole"};
    p.removable = true;
    p.at = b.point((from + to) / 2, (in + out) / 2, upper);
    p.edges = {b.forward_of(from), b.aft_of(to), b.outboard_of(in), b.inboard_of(out)};
    for (auto& edge : p.edges) edge.gap_mm = u.clearance_mm;
    // Its corners are those of the opening, less the clearance.
    piece::EdgeSpec ring;
    ring.kind = piece::EdgeKind::free;
    ring.name = "corners";
    ring.closed = true;
    ring.gap_mm = u.clearance_mm;
    const auto box = b.level_box(part, from, to, in, out);
    const Vec2 low(box.left_mm, box.bottom_mm), size(box.width_mm, box.height_mm);
    for (const Vec2& share : {Vec2(0, 0), Vec2(1, 0), Vec2(1, 1), Vec2(0, 1)})
        ring.line.push_back({low + size.cwiseProduct(share), box.radius_mm, false});
    p.edges.push_back(ring);
}

UnitSpec::UnitSpec() = default;
UnitSpec::UnitSpec(const UnitSpec&) = default;
UnitSpec::UnitSpec(UnitSpec&&) noexcept = default;
UnitSpec& UnitSpec::operator=(const UnitSpec&) = default;
UnitSpec& UnitSpec::operator=(UnitSpec&&) noexcept = default;
UnitSpec::~UnitSpec() = default;
bool UnitSpec::operator==(const UnitSpec&) const = default;

UnitSpec usual_unit(UnitKind kind) {
    UnitSpec out;
    out.kind = kind;
    out.name = capital(kind_of(kind).name);
    kind_of(kind).usual_numbers(out);
    return out;
}

std::vector<PieceSpec> pieces_of(const UnitSpec& unit, const Thickness& thickness, const piece::PieceLookup& pieces) {
    Builder b(unit, thickness, pieces);
    kind_of(unit).build(b);
    return {b.panels.begin(), b.panels.end()};
}

std::map<std::string, Drag> drags_of(const UnitSpec& unit, const Thickness& thickness,
                                     const piece::PieceLookup& pieces) {
    Builder b(unit, thickness, pieces);
    kind_of(unit).build(b);
    return b.drags;
}

}  // namespace bevelsmith::furniture
