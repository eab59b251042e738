#include "furniture/room.h"

#include "furniture/kinds.h"

#include <algorithm>
#include <cmath>
#include <tuple>

namespace bevelsmith::furniture {
namespace {

/// A first-order distance is good near a surface: steps end well before it and are halved there.
constexpr double step_mm = 25;
/// What touches the start of a way (the panel one sits on) is not in the way.
constexpr double start_mm = 2;
constexpr double hip_mm = 900, shoulder_mm = 1400, knee_mm = 400;
constexpr double hips_over_seat_mm = 120, shoulders_over_seat_mm = 550;
constexpr double head_from_end_mm = 400, feet_from_end_mm = 250;
/// A sitting person's head is so far before the back.
constexpr double head_before_back_mm = 150;

/// Whether a place is known to lie outside of a surface.
bool beyond(const hull::Surface& s, const Vec3& p) {
    const auto at = s.locate(p);
    return s.in_domain({at.s, at.v}) && s.distance_mm(p) > 0;
}

/// Where a way goes through a surface. Over its rim it does not: what is beyond there is so without a wall between.
std::optional<double> to_surface(const hull::Surface& s, const Vec3& from, const Vec3& way, double most) {
    constexpr double on_it_mm = 2;
    bool was_beyond = false;
    for (double at = step_mm; at <= most; at += step_mm) {
        const bool is_beyond = beyond(s, from + at * way);
        if (is_beyond && !was_beyond) {
            double in = at - step_mm, out = at;
            for (int k = 0; k < 12; ++k) {
                const double half = (in + out) / 2;
                (beyond(s, from + half * way) ? out : in) = half;
            }
            if (std::abs(s.distance_mm(from + in * way)) < on_it_mm) return in;
        }
        was_beyond = is_beyond;
    }
    return std::nullopt;
}

/// Along a panel one runs into its edge, where one goes within its thickness.
std::optional<double> to_edge(const piece::Outline& shape, const Vec3& from, const Vec3& way) {
    const double behind = shape.frame.normal.dot(from - shape.frame.origin);
    if (behind < 0 || behind > shape.thickness_mm) return std::nullopt;
    const Vec2 at = shape.frame.to_plane(from), along = (shape.frame.to_plane(from + way) - at).normalized(),
               across(-along.y(), along.x());
    std::optional<double> best;
    const auto& ring = shape.face_a.outer;
    for (std::size_t i = 0; i < ring.size(); ++i) {
        const Vec2 a = ring[i] - at, b = ring[(i + 1) % ring.size()] - at;
        const double da = across.dot(a), db = across.dot(b);
        if ((da > 0) == (db > 0)) continue;
        const double there = along.dot(a + (b - a) * (da / (da - db)));
        if (there >= start_mm && (!best || there < *best)) best = there;
    }
    return best;
}

std::optional<double> to_panel(const piece::Outline& shape, const Vec3& from, const Vec3& way) {
    const double run = shape.frame.normal.dot(way);
    if (std::abs(run) < 0.05) return to_edge(shape, from, way);
    std::optional<double> best;
    for (const double behind : {0.0, shape.thickness_mm}) {
        const double at = (shape.frame.normal.dot(shape.frame.origin - from) + behind) / run;
        if (at < start_mm || (best && at >= *best)) continue;
        const auto& face = behind > 0 ? shape.face_b : shape.face_a;
        if (geometry::contains(face, shape.frame.to_plane(from + at * way))) best = at;
    }
    return best;
}

const piece::Outline* panel(const Inside& inside, const UnitSpec& unit, const std::string& part) {
    for (const Standing& one : inside.panels)
        if (one.id == unit.id + "." + part) return one.shape;
    return nullptr;
}

/// From the first to the last place of a level panel on a line athwartships or along; in the boat's coordinate
/// `axis`.
struct Stretch {
    double from = 0, to = 0;
    double length() const { return to - from; }
};
std::optional<Stretch> across_panel(const piece::Outline& shape, const Vec3& at, int axis) {
    const Vec2 here = shape.frame.to_plane(at);
    const Vec3 unit = Vec3::Unit(axis);
    const Vec2 way = shape.frame.to_plane(at + unit) - here, across(-way.y(), way.x());
    double low = HUGE_VAL, high = -HUGE_VAL;
    for (std::size_t i = 0; i < shape.face_a.outer.size(); ++i) {
        const Vec2 a = shape.face_a.outer[i], b = shape.face_a.outer[(i + 1) % shape.face_a.outer.size()];
        const double da = across.dot(a - here), db = across.dot(b - here);
        if ((da > 0) == (db > 0)) continue;
        const double s = way.dot(a + (b - a) * (da / (da - db)) - here);
        low = std::min(low, s), high = std::max(high, s);
    }
    if (low >= high) return std::nullopt;
    return Stretch{at[axis] + low, at[axis] + high};
}

Vec3 middle_of(const piece::Outline& shape) {
    return shape.frame.to_space(geometry::centroid(shape.face_a));
}

/// The widest part of a panel athwartships at a station; the place is its middle.
struct Breadth {
    double mm = 0;
    Vec3 middle = Vec3::Zero();
    double outboard = 0;
};
std::optional<Breadth> breadth_at(const piece::Outline& top, const Vec3& middle, double x) {
    Vec3 at = middle;
    at.x() = x;
    const auto width = across_panel(top, at, 1);
    if (!width) return std::nullopt;
    at.y() = (width->from + width->to) / 2;
    return Breadth{width->length(), at, std::abs(width->from) > std::abs(width->to) ? width->from : width->to};
}

void add_headroom(std::vector<Room>& out, const Inside& inside, const Vec3& at, const char* name, double wanted) {
    if (const auto over = clear_mm(inside, at, Vec3::UnitZ())) out.push_back({name, *over, wanted, false, at});
}

void add_lying(std::vector<Room>& out, const piece::Outline& top, double cushion_mm, const Inside& inside,
               const Comfort& c) {
    const Vec3 middle = middle_of(top);
    auto length = across_panel(top, middle, 0);
    if (!length) return;
    // The infill lies in the after end of a berth in the bow.
    for (const Vec2& p : top.face_a.outer) length->from = std::min(length->from, top.frame.to_space(p).x());
    out.push_back({"lying length", length->length(), c.lying_length_mm, false, middle});
    // One lies with the head where it is wider.
    const auto aft = breadth_at(top, middle, length->from + head_from_end_mm),
               fwd = breadth_at(top, middle, length->to - head_from_end_mm);
    if (!aft || !fwd) return;
    const bool head_aft = aft->mm >= fwd->mm;
    const auto& head = head_aft ? aft : fwd;
    out.push_back({"width at the shoulders", head->mm, c.shoulder_width_mm, false, head->middle});
    if (const auto feet =
            breadth_at(top, middle, head_aft ? length->to - feet_from_end_mm : length->from + feet_from_end_mm))
        out.push_back({"width at the feet", feet->mm, c.foot_width_mm, false, feet->middle});
    add_headroom(out, inside, head->middle + Vec3(0, 0, 1 + cushion_mm), "headroom lying", c.lying_headroom_mm);
}

void add_sitting(std::vector<Room>& out, const UnitSpec& unit, const piece::Outline& top, const Inside& inside,
                 const Comfort& c) {
    const Vec3 middle = middle_of(top);
    const auto width = breadth_at(top, middle, middle.x());
    if (!width) return;
    Vec3 head = width->middle;
    head.y() = width->outboard - (width->outboard > 0 ? 1 : -1) * head_before_back_mm;
    // One sits on the cushion.
    add_headroom(out, inside, head + Vec3(0, 0, 1 + unit.cushion_mm), "sitting headroom", c.sitting_headroom_mm);
    const double side = unit.side == Side::port ? 1 : -1;
    const Vec3 knee(middle.x(), side * (unit.front_mm - 1), unit.foot_mm + knee_mm + unit.cushion_mm);
    if (const auto room = clear_mm(inside, knee, -side * Vec3::UnitY()))
        out.push_back({"knee room", *room, c.knee_room_mm, false, knee});
    // Between what stands at its ends, at the seat and at the shoulders.
    const auto seat = across_panel(top, middle, 0);
    for (const auto& [over, name, wanted] :
         {std::tuple(hips_over_seat_mm, "width at the hips", c.seat_hip_mm),
          {shoulders_over_seat_mm, "width at the shoulders", c.seat_shoulder_mm}}) {
        const Vec3 at = head + Vec3(0, 0, unit.cushion_mm + over);
        const auto aft = clear_mm(inside, at, -Vec3::UnitX()), fwd = clear_mm(inside, at, Vec3::UnitX());
        // Over a low bulkhead there is more air, and no more seat.
        if (aft && fwd && seat)
            out.push_back({name, std::min(*aft + *fwd, seat->length() + 2 * unit.joint_gap_mm), wanted, false, at});
    }
}

/// The level that one sits on beside a table on one side of it, over the stations that it has: the settee whose front
/// is the nearest.
struct SeatBeside {
    const UnitSpec* unit = nullptr;
    double level_mm = 0;  ///< up, loaded
    double at_mm = 0;     ///< fwd: the middle of what they share
};
std::optional<SeatBeside> seat_beside(const std::vector<UnitSpec>& units, const Inside& inside, const Stretch& table,
                                      Side side) {
    std::optional<SeatBeside> best;
    for (const UnitSpec& one : units) {
        const auto* seat = kind_of(one).use == Use::sitting && one.side == side ? panel(inside, one, "top") : nullptr;
        const auto along = seat ? across_panel(*seat, middle_of(*seat), 0) : std::nullopt;
        if (!along) continue;
        const double from = std::max(along->from, table.from), to = std::min(along->to, table.to);
        if (to <= from || (best && best->unit->front_mm <= one.front_mm)) continue;
        best = SeatBeside{&one, one.foot_mm + one.height_mm + one.cushion_mm, (from + to) / 2};
    }
    return best;
}

/// For each seat beside a table: how far the table stands over it, what is left for the thighs, and the way in, which
/// is what is left between the table's edge and what is behind the seat, at the table's height.
void add_eating(std::vector<Room>& out, const UnitSpec& table, const std::vector<UnitSpec>& units,
                const piece::Outline& top, const Inside& inside, const Comfort& c) {
    const Vec3 middle = middle_of(top);
    const auto along = across_panel(top, middle, 0);
    if (!along) return;
    const double upper = table.foot_mm + table.height_mm;
    for (const auto& [side, way, which] :
         {std::tuple(Side::port, 1.0, " to port"), {Side::starboard, -1.0, " to starboard"}}) {
        const auto seat = seat_beside(units, inside, *along, side);
        if (!seat) continue;
        Vec3 there = middle;
        there.x() = seat->at_mm;
        const auto width = across_panel(top, there, 1);
        if (!width) continue;
        const Vec3 edge(seat->at_mm, way > 0 ? width->to : width->from, upper);
        out.push_back(
            {std::string("table over the seat") + which, upper - seat->level_mm, c.over_seat_mm, true, edge});
        out.push_back({std::string("room for the thighs") + which, upper - top.thickness_mm - seat->level_mm,
                       c.thigh_room_mm, false, edge});
        // Just over the top, so that it does not stand in its own way.
        if (const auto clear = clear_mm(inside, edge + Vec3(0, way * start_mm, start_mm), way * Vec3::UnitY()))
            out.push_back({std::string("way in at the table") + which, *clear + start_mm, c.way_in_mm, false, edge});
    }
}

/// Clear width about the centre line at a height: between what stands to port and to starboard.
std::optional<double> passage_at(const Inside& inside, const Vec3& at) {
    const auto port = clear_mm(inside, at, Vec3::UnitY()), starboard = clear_mm(inside, at, -Vec3::UnitY());
    if (!port || !starboard) return std::nullopt;
    return *port + *starboard;
}

/// Doorways: the clear width in a panel that stands across the way; empty where it does not.
std::optional<double> doorway_at(const piece::Outline& shape, const Vec3& at) {
    if (std::abs(shape.frame.normal.x()) < 0.7) return std::nullopt;
    const Vec2 here = shape.frame.to_plane(at);
    for (const auto& hole : shape.face_a.holes) {
        if (!geometry::contains(hole, here)) continue;
        double low = -HUGE_VAL, high = HUGE_VAL;
        for (std::size_t i = 0; i < hole.size(); ++i) {
            const Vec2 a = hole[i], b = hole[(i + 1) % hole.size()];
            if ((a.y() > here.y()) == (b.y() > here.y())) continue;
            const double u = a.x() + (b.x() - a.x()) * (here.y() - a.y()) / (b.y() - a.y());
            (u < here.x() ? low : high) = u < here.x() ? std::max(low, u) : std::min(high, u);
        }
        if (std::isfinite(low) && std::isfinite(high)) return high - low;
    }
    return std::nullopt;
}

void add_narrowest(std::vector<Room>& out, const Inside& inside, const Stretch& way, double foot, double up,
                   const char* name, double wanted) {
    Room least{name, HUGE_VAL, wanted, false, Vec3::Zero()};
    const auto take = [&](const std::optional<double>& width, const Vec3& at) {
        if (width && *width < least.mm) least.mm = *width, least.at = at;
    };
    constexpr int stations = 12;
    for (int k = 0; k < stations; ++k) {
        const Vec3 at(way.from + (k + 0.5) / stations * way.length(), 0, foot + up);
        take(passage_at(inside, at), at);
    }
    for (const Standing& one : inside.panels) {
        const auto& frame = one.shape->frame;
        if (std::abs(frame.normal.x()) < 0.7) continue;
        const Vec3 at(frame.normal.dot(frame.origin - Vec3(0, 0, foot + up)) / frame.normal.x(), 0, foot + up);
        if (at.x() > way.from && at.x() < way.to) take(doorway_at(*one.shape, at), at);
    }
    if (std::isfinite(least.mm)) out.push_back(least);
}

/// Whether furniture stands there: under its top nobody does.
bool under_a_top(const std::vector<UnitSpec>& units, const Inside& inside, const Vec3& at) {
    return std::any_of(units.begin(), units.end(), [&](const UnitSpec& unit) {
        const auto* top = panel(inside, unit, "top");
        return top && geometry::contains(top->face_a, top->frame.to_plane(at));
    });
}

/// Where one stands on a sole: on its raised part where that is.
Vec3 stand_on(const UnitSpec& sole, Vec3 at) {
    const bool raised = sole.raised_by_mm > 0 && at.x() > sole.raised_from_mm && at.x() < sole.raised_to_mm &&
                        std::abs(at.y()) < sole.raised_half_mm;
    at.z() = sole.foot_mm + (raised ? sole.raised_by_mm : 0) + 1;
    return at;
}

void add_standing(std::vector<Room>& out, const UnitSpec& unit, const std::vector<UnitSpec>& units,
                  const piece::Outline& sole, const Inside& inside, const Comfort& c) {
    Vec3 middle = middle_of(sole);
    if (!unit.half) middle.y() = 0;
    const auto way = across_panel(sole, middle, 0);
    if (!way) return;
    Room least{"standing headroom", HUGE_VAL, c.standing_headroom_mm, false, middle};
    constexpr int stations = 12;
    for (int k = 0; k < stations; ++k) {
        const Vec3 at = stand_on(unit, {way->from + (k + 0.5) / stations * way->length(), middle.y(), 0});
        if (under_a_top(units, inside, at)) continue;
        const auto over = clear_mm(inside, at, Vec3::UnitZ());
        if (over && *over < least.mm) least.mm = *over, least.at = at;
    }
    if (std::isfinite(least.mm)) out.push_back(least);
    if (unit.half) return;
    add_narrowest(out, inside, *way, unit.foot_mm, hip_mm, "passage at the hips", c.hip_passage_mm);
    add_narrowest(out, inside, *way, unit.foot_mm, shoulder_mm, "passage at the shoulders", c.shoulder_passage_mm);
}

/// The narrowest clear way from what stands along a side to what is opposite, at one height.
void add_passage_from(std::vector<Room>& out, const Inside& inside, const Stretch& along, const Vec3& start,
                      double way, const char* name, double wanted) {
    Room least{name, HUGE_VAL, wanted, false, start};
    constexpr int stations = 12;
    for (int k = 0; k < stations; ++k) {
        const Vec3 at(along.from + (k + 0.5) / stations * along.length(), start.y(), start.z());
        // Over a low deck nobody stands.
        if (std::any_of(inside.surfaces.begin(), inside.surfaces.end(),
                        [&](const auto* surface) { return beyond(*surface, at); }))
            continue;
        const auto clear = clear_mm(inside, at, way * Vec3::UnitY());
        if (clear && *clear < least.mm) least.mm = *clear, least.at = at;
    }
    if (std::isfinite(least.mm)) out.push_back(least);
}

void add_passage_before(std::vector<Room>& out, const UnitSpec& unit, const piece::Outline& top, const Inside& inside,
                        const Comfort& c) {
    const auto along = across_panel(top, middle_of(top), 0);
    if (!along) return;
    const double side = unit.side == Side::port ? 1 : -1,
                 start = side * (unit.front_mm - unit.overhang_mm - start_mm);
    add_passage_from(out, inside, *along, {0, start, unit.foot_mm + hip_mm}, -side, "passage before it at the hips",
                     c.hip_passage_mm);
    add_passage_from(out, inside, *along, {0, start, unit.foot_mm + shoulder_mm}, -side,
                     "passage before it at the shoulders", c.shoulder_passage_mm);
}

/// Past an engine box one goes on the wider side, as wide as it is where the box and the hips are.
void add_passage_beside(std::vector<Room>& out, const UnitSpec& unit, const piece::Outline& top, const Inside& inside,
                        const Comfort& c) {
    const auto along = across_panel(top, middle_of(top), 0);
    if (!along) return;
    const double up = unit.foot_mm + std::min(hip_mm, unit.height_mm / 2);
    const double start = unit.front_mm + unit.overhang_mm + start_mm;
    std::vector<Room> sides;
    for (const double side : {1.0, -1.0})
        add_passage_from(sides, inside, *along, {0, side * start, up}, side, "passage beside it", c.hip_passage_mm);
    const auto wider =
        std::max_element(sides.begin(), sides.end(), [](const Room& a, const Room& b) { return a.mm < b.mm; });
    if (wider != sides.end()) out.push_back(*wider);
}

void add_reach(std::vector<Room>& out, const piece::Outline& level, const UnitSpec& unit, const Comfort& c) {
    const Vec3 middle = middle_of(level);
    if (const auto width = breadth_at(level, middle, middle.x()))
        out.push_back({"reach to the back", std::abs(width->outboard) - unit.front_mm, c.reach_mm, true, middle});
}

}  // namespace

std::optional<double> clear_mm(const Inside& inside, const Vec3& from, const Vec3& way, double most_mm) {
    std::optional<double> best;
    const auto take = [&](const std::optional<double>& at) {
        if (at && *at <= most_mm && (!best || *at < *best)) best = at;
    };
    for (const Standing& one : inside.panels) take(to_panel(*one.shape, from, way));
    for (const auto* surface : inside.surfaces) take(to_surface(*surface, from, way, best.value_or(most_mm)));
    return best;
}

std::vector<Room> room_of(const UnitSpec& unit, const std::vector<UnitSpec>& units, const Inside& inside,
                          const Comfort& comfort) {
    std::vector<Room> out;
    const auto* top = panel(inside, unit, kind_of(unit).level);
    if (!top) return out;
    switch (kind_of(unit).use) {
        case Use::lying: add_lying(out, *top, unit.cushion_mm, inside, comfort); break;
        case Use::sitting: add_sitting(out, unit, *top, inside, comfort); break;
        case Use::walking: add_standing(out, unit, units, *top, inside, comfort); break;
        case Use::reaching: add_reach(out, *top, unit, comfort); break;
        case Use::eating: add_eating(out, unit, units, *top, inside, comfort); break;
        case Use::nothing: break;
    }
    return out;
}

namespace {

/// How far soles reach along the boat, with what stands at their ends.
std::vector<Stretch> soled(const std::vector<UnitSpec>& units, const Inside& inside) {
    constexpr double bulkhead_mm = 100;
    std::vector<Stretch> out;
    for (const UnitSpec& unit : units)
        if (const auto* sole =
                kind_of(unit).use == Use::walking && !unit.half ? panel(inside, unit, "sole") : nullptr)
            if (const auto along = across_panel(*sole, Vec3(middle_of(*sole).x(), 0, unit.foot_mm), 0))
                out.push_back({along->from - bulkhead_mm, along->to + bulkhead_mm});
    return out;
}

bool over_any(const std::vector<Stretch>& soles, double x) {
    return std::any_of(soles.begin(), soles.end(), [&](const auto& s) { return x > s.from && x < s.to; });
}

}  // namespace

std::vector<Room> passages_of(const UnitSpec& unit, const std::vector<UnitSpec>& units, const Inside& inside,
                              const Comfort& comfort) {
    std::vector<Room> out;
    const auto* top = panel(inside, unit, "top");
    if (!top || over_any(soled(units, inside), middle_of(*top).x())) return out;
    switch (kind_of(unit).passed) {
        case Passed::before_it: add_passage_before(out, unit, *top, inside, comfort); break;
        case Passed::beside_it: add_passage_beside(out, unit, *top, inside, comfort); break;
        case Passed::not_told: break;
    }
    return out;
}

std::vector<Doorway> doorways_of(const std::vector<UnitSpec>& units, const Inside& inside, const Comfort& comfort) {
    const auto soles = soled(units, inside);
    std::vector<Doorway> out;
    for (const Standing& one : inside.panels) {
        if (std::abs(one.shape->frame.normal.x()) < 0.7) continue;
        for (const auto& hole : one.shape->face_a.holes) {
            const auto box = geometry::bounding_box(hole);
            const Vec3 at = one.shape->frame.to_space({box.centre().x(), box.min.y()});
            if (box.height() < hip_mm || over_any(soles, at.x())) continue;
            for (const auto& [up, name, wanted] :
                 {std::tuple(hip_mm, "doorway at the hips", comfort.hip_passage_mm),
                  std::tuple(shoulder_mm, "doorway at the shoulders", comfort.shoulder_passage_mm)}) {
                const Vec2 there = one.shape->frame.to_plane(at + Vec3(0, 0, up - 1));
                if (const auto width = doorway_at(*one.shape, one.shape->frame.to_space(there)))
                    out.push_back({one.id, {name, *width, wanted, false, one.shape->frame.to_space(there)}});
            }
        }
    }
    return out;
}

}  // namespace bevelsmith::furniture
