// Bottom-left placement of true shapes, repeated in shuffled orders.
#include <algorithm>
#include <chrono>
#include <cmath>
#include <numeric>
#include <optional>
#include <random>

#include "sheets/collision.h"
#include "sheets/layout.h"
#include "sheets/rows.h"
#include "units/quantity.h"

namespace bevelsmith::sheets {
namespace {

using Clock = std::chrono::steady_clock;
using geometry::Box;
using geometry::Polygon;

/// Outlines are simplified by this much (outwards) for the search; violations() judges the true shapes.
constexpr double cover_tolerance_mm = 0.15;
/// Corners count: an outline with fewer is searched as it is.
constexpr std::size_t few_corners = 24;
/// Grid of first guesses on a sheet, before sliding.
constexpr int guesses_along = 40, guesses_across = 20;

struct Turned {
    double rotation_deg;
    Footprint footprint;  ///< grown by half the spacing
};

struct Item {
    int part, copy;
    const std::vector<Turned>* turns;
    double area;
};

class Clockwork;

struct Sheet {
    int stock;
    Footprint room;
    const Clockwork* clockwork;
    std::vector<std::pair<const Footprint*, Vec2>> placed;
    std::vector<Placement> placements;
};

std::vector<double> rotations(const Part& part) {
    if (!part.any_rotation) return part.rotations_deg;
    std::vector<double> out;
    for (int k = 0; k < turns_of_any; ++k) out.push_back(360.0 / turns_of_any * k);
    return out;
}

std::vector<Turned> turned(const Part& part, double spacing_mm) {
    Polygon shape = geometry::oriented(part.shape);
    if (shape.outer.size() > few_corners) shape = geometry::simplified_cover(shape, cover_tolerance_mm);
    if (spacing_mm > 0) {
        auto grown = geometry::offset(shape, spacing_mm / 2, geometry::Corner::mitre);
        if (!grown.empty()) shape = geometry::largest(std::move(grown));
    }
    std::vector<Turned> out;
    for (double r : rotations(part))
        out.push_back({r, make_footprint(geometry::transformed(shape, units::radians(r), {0, 0}))});
    return out;
}

/// The room a grown part may fill on a sheet; an offcut that falls apart counts by its largest piece.
Footprint room_of(const Stock& stock, const Problem& problem) {
    const double inward = problem.edge_margin_mm - problem.spacing_mm / 2;
    if (inward == 0) return make_footprint(geometry::oriented(stock.shape));
    return make_footprint(geometry::largest(geometry::offset(stock.shape, -inward, geometry::Corner::mitre)));
}

/// Thrown inside this file only: the time of a search is up, or nobody wants it any more.
struct TimeUp {};

/// Asked before each test of a place, so that large parts do not hold the search up.
class Clockwork {
  public:
    Clockwork(Clock::time_point end, const KeepGoing& keep_going) : end_(end), keep_going_(keep_going) {}
    void tick() const {
        if (Clock::now() >= end_ || (++ticks_ % 64 == 0 && keep_going_ && !keep_going_())) throw TimeUp{};
    }

  private:
    Clock::time_point end_;
    const KeepGoing& keep_going_;
    mutable unsigned ticks_ = 0;
};

bool is_free(const Sheet& sheet, const Footprint& f, const Vec2& shift) {
    sheet.clockwork->tick();
    if (!within(f, shift, sheet.room)) return false;
    return std::none_of(sheet.placed.begin(), sheet.placed.end(),
                        [&](const auto& other) { return collide(f, shift, *other.first, other.second); });
}

/// As far as it goes in direction `step` without leaving free places, to 0.01 mm.
Vec2 slide(const Sheet& sheet, const Footprint& f, Vec2 at, Vec2 step) {
    for (; step.norm() > 0.01; step /= 2)
        while (is_free(sheet, f, at + step)) at += step;
    return at;
}

Vec2 settled(const Sheet& sheet, const Footprint& f, Vec2 at) {
    for (int k = 0; k < 3; ++k) {
        const Vec2 before = at;
        at = slide(sheet, f, at, {-32, 0});
        at = slide(sheet, f, at, {0, -32});
        if ((at - before).norm() < 0.02) break;
    }
    return at;
}

/// Left edges worth trying: the sheet's own, beside each placed part, and a grid.
std::vector<double> candidate_lefts(const Sheet& sheet, const Footprint& f) {
    std::vector<double> out{sheet.room.box.min.x()};
    for (const auto& [other, shift] : sheet.placed) out.push_back(other->box.max.x() + shift.x());
    const double free = sheet.room.box.width() - f.box.width();
    for (int k = 1; k <= guesses_along; ++k) out.push_back(sheet.room.box.min.x() + free * k / guesses_along);
    std::sort(out.begin(), out.end());
    return out;
}

std::vector<double> candidate_bottoms(const Sheet& sheet, const Footprint& f) {
    std::vector<double> out{sheet.room.box.min.y(), sheet.room.box.max.y() - f.box.height()};
    for (const auto& [other, shift] : sheet.placed) out.push_back(other->box.max.y() + shift.y());
    const double free = sheet.room.box.height() - f.box.height();
    for (int k = 1; k < guesses_across; ++k) out.push_back(sheet.room.box.min.y() + free * k / guesses_across);
    std::sort(out.begin(), out.end());
    return out;
}

struct Spot {
    double rotation_deg = 0;
    const Footprint* footprint = nullptr;
    Vec2 shift{0, 0};
    double cost = HUGE_VAL;
};

/// Least reach to the right decides, height second.
double cost_of(const Footprint& f, const Vec2& at) {
    return f.box.max.x() + at.x() + 0.05 * (f.box.max.y() + at.y());
}

void try_rotation(const Sheet& sheet, const Turned& turn, Spot& best) {
    const Footprint& f = turn.footprint;
    if (f.box.width() > sheet.room.box.width() + 1e-9 || f.box.height() > sheet.room.box.height() + 1e-9) return;
    for (double left : candidate_lefts(sheet, f)) {
        // Sliding gains at most a column; much farther right than the best cannot win.
        if (left + f.box.width() > best.cost + 200) return;
        bool found = false;
        for (double bottom : candidate_bottoms(sheet, f)) {
            const Vec2 start = Vec2(left, bottom) - f.box.min;
            if (!is_free(sheet, f, start)) continue;
            const Vec2 at = settled(sheet, f, start);
            found = true;
            if (cost_of(f, at) < best.cost) best = {turn.rotation_deg, &f, at, cost_of(f, at)};
        }
        if (found) return;  // farther right is no better in this rotation
    }
}

std::optional<Spot> find_spot(const Sheet& sheet, const Item& item) {
    Spot best;
    for (const Turned& turn : *item.turns) try_rotation(sheet, turn, best);
    if (!best.footprint) return std::nullopt;
    return best;
}

void put(Sheet& sheet, int index, const Item& item, const Spot& spot) {
    sheet.placed.emplace_back(spot.footprint, spot.shift);
    sheet.placements.push_back({item.part, item.copy, index, spot.rotation_deg, spot.shift});
}

class Nester {
  public:
    /// Throws TimeUp when the parts alone take too long to make ready.
    Nester(const Problem& problem, const Clockwork& clockwork) : problem_(problem) {
        for (const Part& part : problem.parts) {
            clockwork.tick();
            turns_.push_back(turned(part, problem.spacing_mm));
        }
        for (const Stock& stock : problem.stock) rooms_.push_back(room_of(stock, problem));
        for (int p = 0; p < static_cast<int>(problem.parts.size()); ++p)
            for (int c = 0; c < problem.parts[static_cast<std::size_t>(p)].quantity; ++c)
                items_.push_back({p, c, &turns_[static_cast<std::size_t>(p)],
                                  geometry::area_mm2(turns_[static_cast<std::size_t>(p)].front().footprint.shape)});
        std::stable_sort(items_.begin(), items_.end(), [](const Item& a, const Item& b) { return a.area > b.area; });
        stock_order_.resize(problem.stock.size());
        std::iota(stock_order_.begin(), stock_order_.end(), 0);
        std::stable_sort(stock_order_.begin(), stock_order_.end(), [&](int a, int b) {
            return problem.stock[static_cast<std::size_t>(a)].priority <
                   problem.stock[static_cast<std::size_t>(b)].priority;
        });
    }

    const std::vector<Item>& items() const { return items_; }

    /// The parts in this order. What the time does not reach goes in rows behind.
    Layout lay(const std::vector<Item>& order, const Clockwork& clockwork) {
        std::vector<Sheet> sheets;
        Layout layout;
        std::vector<int> left;
        for (const Stock& s : problem_.stock) left.push_back(s.count < 0 ? static_cast<int>(order.size()) : s.count);
        std::size_t reached = 0;
        try {
            for (; reached < order.size(); ++reached) {
                const Item& item = order[reached];
                if (!place_on_open(sheets, item) && !open_sheet(sheets, left, item, clockwork))
                    layout.unplaced.push_back({item.part, item.copy, reason(item, clockwork)});
            }
        } catch (const TimeUp&) {}
        for (const Sheet& s : sheets) {
            layout.sheet_stock.push_back(s.stock);
            layout.placements.insert(layout.placements.end(), s.placements.begin(), s.placements.end());
        }
        std::vector<Wanted> rest;
        for (; reached < order.size(); ++reached) rest.push_back({order[reached].part, order[reached].copy});
        add_in_rows(problem_, rest, layout);
        layout.utilisation = utilisation(problem_, layout);
        return layout;
    }

  private:
    static bool place_on_open(std::vector<Sheet>& sheets, const Item& item) {
        for (int s = 0; s < static_cast<int>(sheets.size()); ++s)
            if (const auto spot = find_spot(sheets[static_cast<std::size_t>(s)], item)) {
                put(sheets[static_cast<std::size_t>(s)], s, item, *spot);
                return true;
            }
        return false;
    }

    bool open_sheet(std::vector<Sheet>& sheets, std::vector<int>& left, const Item& item,
                    const Clockwork& clockwork) {
        for (int stock : stock_order_) {
            if (left[static_cast<std::size_t>(stock)] <= 0) continue;
            Sheet fresh{stock, rooms_[static_cast<std::size_t>(stock)], &clockwork, {}, {}};
            if (fresh.room.shape.outer.size() < 3) continue;
            const auto spot = find_spot(fresh, item);
            if (!spot) continue;
            --left[static_cast<std::size_t>(stock)];
            put(fresh, static_cast<int>(sheets.size()), item, *spot);
            sheets.push_back(std::move(fresh));
            return true;
        }
        return false;
    }

    std::string reason(const Item& item, const Clockwork& clockwork) const {
        for (const Footprint& room : rooms_) {
            const Sheet empty{0, room, &clockwork, {}, {}};
            if (room.shape.outer.size() >= 3 && find_spot(empty, item)) return "no sheet is left for it";
        }
        return "it is larger than every sheet in every allowed direction";
    }

    const Problem& problem_;
    std::vector<std::vector<Turned>> turns_;
    std::vector<Footprint> rooms_;
    std::vector<Item> items_;
    std::vector<int> stock_order_;
};

/// Fewer parts left over, then fewer sheets, then a shorter last sheet.
bool better(const Layout& a, const Layout& b) {
    if (a.unplaced.size() != b.unplaced.size()) return a.unplaced.size() < b.unplaced.size();
    if (a.sheet_stock.size() != b.sheet_stock.size()) return a.sheet_stock.size() < b.sheet_stock.size();
    return a.utilisation > b.utilisation;
}

/// Swaps a few neighbours of the order by size: large parts stay early.
std::vector<Item> shuffled(std::vector<Item> order, std::mt19937& random) {
    if (order.size() < 2) return order;
    const auto swaps = 1 + random() % (order.size() / 2 + 1);
    for (std::size_t k = 0; k < swaps; ++k) {
        const std::size_t i = random() % order.size();
        const std::size_t reach = 1 + random() % std::min<std::size_t>(order.size() - 1, 8);
        std::swap(order[i], order[(i + reach) % order.size()]);
    }
    return order;
}

/// Takes out what the exact judgement refuses, so that nothing invalid is ever handed out. The search errs on the
/// safe side, so this finds nothing unless an outline is stranger than the search can see.
void take_out_invalid(const Problem& problem, Layout& layout) {
    while (!layout.placements.empty() && !violations(problem, layout).empty()) {
        const Placement& last = layout.placements.back();
        layout.unplaced.push_back({last.part, last.copy, "no valid place was found for it"});
        layout.placements.pop_back();
    }
    int used = 0;
    for (const Placement& at : layout.placements) used = std::max(used, at.sheet + 1);
    layout.sheet_stock.resize(static_cast<std::size_t>(used));
    layout.utilisation = utilisation(problem, layout);
}

Layout all_in_rows(const Problem& problem) {
    std::vector<Wanted> wanted;
    for (int p = 0; p < static_cast<int>(problem.parts.size()); ++p)
        for (int c = 0; c < problem.parts[static_cast<std::size_t>(p)].quantity; ++c) wanted.push_back({p, c});
    Layout out;
    add_in_rows(problem, wanted, out);
    take_out_invalid(problem, out);
    return out;
}

}  // namespace

Layout nest(const Problem& problem, const NestOptions& options) {
    const auto start = Clock::now();
    const auto elapsed = [&] { return std::chrono::duration<double>(Clock::now() - start).count(); };
    // The judgement of a layout takes time as well, most of all the first time.
    constexpr double for_judging = 0.1;
    const auto end = start + std::chrono::duration_cast<Clock::duration>(
                                 std::chrono::duration<double>(options.seconds * (1 - for_judging)));
    const Clockwork clockwork(end, options.keep_going);
    std::mt19937 random(options.seed);
    Layout best;
    try {
        Nester nester(problem, clockwork);
        std::vector<Item> order = nester.items();
        best = nester.lay(order, clockwork);
        take_out_invalid(problem, best);
        // A search that was cut off in its first order may have done worse than no search.
        if (Clock::now() >= end)
            if (Layout rows = all_in_rows(problem); better(rows, best)) best = std::move(rows);
        for (int round = 1; options.rounds <= 0 || round < options.rounds; ++round) {
            const double share = options.rounds > 0 ? static_cast<double>(round) / options.rounds
                                                    : std::min(1.0, elapsed() / std::max(options.seconds, 1e-9));
            if (options.progress &&
                !options.progress({share, static_cast<int>(best.sheet_stock.size()), best.utilisation}))
                break;
            clockwork.tick();
            std::vector<Item> other = shuffled(order, random);
            Layout layout = nester.lay(other, clockwork);
            if (!better(layout, best) || !violations(problem, layout).empty()) continue;
            best = std::move(layout);
            order = std::move(other);
        }
    } catch (const TimeUp&) {
        if (best.placements.empty()) best = all_in_rows(problem);
    }
    best.seconds = elapsed();
    return best;
}

}  // namespace bevelsmith::sheets
