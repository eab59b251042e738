#include "sheets/nearly.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "units/quantity.h"

namespace bevelsmith::sheets {
namespace {

using geometry::Polygon;
using geometry::Ring;

constexpr double densely_mm = 60, first_step_mm = 64, last_step_mm = 0.1;
/// Less is drawn by the same pencil.
constexpr double contact_mm = 0.02;

std::vector<Vec2> dense(const Ring& ring) {
    std::vector<Vec2> out;
    for (std::size_t i = 0; i < ring.size(); ++i) {
        const Vec2 way = ring[(i + 1) % ring.size()] - ring[i];
        const int steps = std::max(1, static_cast<int>(way.norm() / densely_mm));
        for (int k = 0; k < steps; ++k) out.push_back(ring[i] + way * k / steps);
    }
    return out;
}

/// The nearest place of the outline and of its holes.
Vec2 nearest_on(const Polygon& shape, const Vec2& p) {
    Vec2 out = p;
    double least = HUGE_VAL;
    const auto along = [&](const Ring& ring) {
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const Vec2 a = ring[i], way = ring[(i + 1) % ring.size()] - a;
            const double share = std::clamp(way.dot(p - a) / std::max(way.squaredNorm(), 1e-12), 0.0, 1.0);
            const Vec2 q = a + share * way;
            if ((q - p).norm() < least) least = (q - p).norm(), out = q;
        }
    };
    along(shape.outer);
    for (const Ring& hole : shape.holes) along(hole);
    return out;
}

/// The side of the part towards which wood is lacking.
SheetSide side_of(const Vec2& outwards) {
    if (std::abs(outwards.x()) > std::abs(outwards.y())) return outwards.x() < 0 ? SheetSide::left : SheetSide::right;
    return outwards.y() < 0 ? SheetSide::bottom : SheetSide::top;
}

/// What is lacking at each side of the part: where it lies outside of the room, or a corner of the room stands into
/// it.
struct Lacking {
    std::array<double, 4> mm{};
    double sum() const { return mm[0] + mm[1] + mm[2] + mm[3]; }
};

class Search {
  public:
    Search(const Polygon& part, const Polygon& room) : part_(part), room_(room), rim_(dense(part.outer)) {
        for (const Vec2& p : dense(room.outer)) corners_.push_back(p);
        for (const Ring& hole : room.holes)
            for (const Vec2& p : dense(hole)) corners_.push_back(p);
    }
    Lacking at(const Vec2& shift) const {
        Lacking out;
        const auto take = [&](const Vec2& outwards) {
            double& most = out.mm[static_cast<std::size_t>(side_of(outwards))];
            most = std::max(most, outwards.norm());
        };
        for (const Vec2& p : rim_)
            if (!geometry::contains(room_, p + shift)) take(p + shift - nearest_on(room_, p + shift));
        for (const Vec2& q : corners_)
            if (geometry::contains(part_, q - shift)) take(nearest_on(part_, q - shift) - (q - shift));
        return out;
    }
    /// Downhill from a place, by ever smaller steps. Of places as good as each other the one it began at: pushed into
    /// a corner, one side alone is lacking.
    std::pair<Lacking, Vec2> from(Vec2 shift) const {
        Lacking best = at(shift);
        for (double step = first_step_mm; step >= last_step_mm && best.sum() > 0;) {
            bool better = false;
            for (const Vec2& way : {Vec2(1, 0), Vec2(-1, 0), Vec2(0, 1), Vec2(0, -1)}) {
                const Lacking now = at(shift + step * way);
                if (now.sum() >= best.sum() - 1e-6) continue;
                best = now, shift += step * way, better = true;
                break;
            }
            if (!better) step /= 2;
        }
        return {best, shift};
    }

  private:
    const Polygon &part_, &room_;
    std::vector<Vec2> rim_, corners_;
};

}  // namespace

const char* word_of(SheetSide side) {
    constexpr const char* words[] = {"left", "right", "lower", "upper"};
    return words[static_cast<int>(side)];
}

std::optional<Nearly> nearly_fits(const Part& part, const Polygon& offcut, double margin_mm, double most_mm) {
    const auto inset = geometry::offset(offcut, -margin_mm, geometry::Corner::mitre);
    if (inset.empty()) return std::nullopt;
    const Polygon room = geometry::largest(inset);
    const auto room_box = geometry::bounding_box(room.outer);
    std::optional<Nearly> out;
    for (const double angle : part.rotations_deg) {
        const Polygon turned = geometry::transformed(part.shape, units::radians(angle), {0, 0});
        const auto box = geometry::bounding_box(turned.outer);
        const Vec2 spare = room_box.size() - box.size();
        if (spare.x() < -2 * most_mm || spare.y() < -2 * most_mm) continue;
        if (geometry::area_mm2(turned) > geometry::area_mm2(room) + 2 * most_mm * (box.width() + box.height()))
            continue;
        const Search search(turned, room);
        for (const double x : {0.0, 1.0, 0.5})
            for (const double y : {0.0, 1.0, 0.5}) {
                const Vec2 start = room_box.min - box.min + spare.cwiseProduct(Vec2(x, y));
                const auto [off, shift] = search.from(start);
                const double lacking = off.sum() < contact_mm ? 0 : off.sum();
                if (lacking > most_mm || (out && lacking >= out->short_mm - 1e-6)) continue;
                const auto most = std::max_element(off.mm.begin(), off.mm.end()) - off.mm.begin();
                out = Nearly{lacking, static_cast<SheetSide>(most), angle, shift};
                if (lacking == 0) return out;
            }
    }
    return out;
}

}  // namespace bevelsmith::sheets
