// The search that squeezes layouts, as its two files see it: separate.cpp pulls parts apart, squeeze.cpp says what is
// tried next. For these alone.
#pragma once

#include <cmath>
#include <numeric>
#include <optional>
#include <random>
#include <vector>

#include "sheets/separate.h"
#include "sheets/turns.h"

namespace bevelsmith::sheets {

/// What the search holds.
namespace squeezing {

using geometry::Box;

struct Item {
    int part = 0, copy = 0;
    const Turns* turns = nullptr;
    double area = 0;
    bool locked = false;
};

/// A kind of sheet: where bodies may be, and what of that box is no sheet.
struct Room {
    Box box;
    std::vector<Body> blocks;
    double area = 0;
};

struct Spot {
    int sheet = -1, turn = 0;
    Vec2 at{0, 0};
};

struct State {
    std::vector<Spot> spots;  ///< beside the items
    std::vector<int> sheets;  ///< the stock behind each
    double strip_mm = 0;      ///< of the last sheet
};

}  // namespace squeezing

/// More copies than these are laid one by one and not squeezed: each pass would look at all pairs.
inline constexpr std::size_t most_squeezed = 600;

/// Where parts may be on a kind of sheet.
squeezing::Room room_of(const Stock& stock, const Problem& problem);
/// The narrowest that a part can lie.
double least_width(const Turns& turns);
/// Uniform from 0 to 1, the same on every machine.
inline double share(std::mt19937& random) {
    return static_cast<double>(random()) / 4294967296.0;
}
/// As good to whoever sees it.
bool no_worse(const Layout& a, const Layout& b);

struct Separation::Search {
    using Box = geometry::Box;
    using Item = squeezing::Item;
    using Room = squeezing::Room;
    using Spot = squeezing::Spot;
    using State = squeezing::State;

    Search(const Problem& p, unsigned seed) : problem(p), random(seed) {
        for (const Stock& stock : p.stock) rooms.push_back(room_of(stock, p));
        stock_order.resize(p.stock.size());
        std::iota(stock_order.begin(), stock_order.end(), 0);
        std::stable_sort(stock_order.begin(), stock_order.end(), [&](int a, int b) {
            return p.stock[static_cast<std::size_t>(a)].priority < p.stock[static_cast<std::size_t>(b)].priority;
        });
    }

    /// Bodies of all parts, the largest first; false when `keep_going` said no.
    bool make_ready(const KeepGoing& keep_going) {
        const Problem& p = problem;
        turns.reserve(p.parts.size());
        for (const Part& part : p.parts) {
            if (keep_going && !keep_going()) return false;
            turns.emplace_back(part, p.spacing_mm);
        }
        for (int k = 0; k < static_cast<int>(p.parts.size()); ++k)
            for (int c = 0; c < p.parts[static_cast<std::size_t>(k)].quantity; ++c) {
                const auto& own = turns[static_cast<std::size_t>(k)];
                items.push_back({k, c, &own, geometry::area_mm2(p.parts[static_cast<std::size_t>(k)].shape), false});
            }
        std::stable_sort(items.begin(), items.end(),
                         [](const Item& a, const Item& b) { return a.turns->body(0).size > b.turns->body(0).size; });
        state.spots.assign(items.size(), {});
        lock_in();
        if (items.size() > most_squeezed) return true;
        weights.assign(items.size() * items.size(), 1.0F);
        block_weights.assign(items.size(), 1.0F);
        for (const Item& item : items) widths.push_back(least_width(*item.turns));
        return true;
    }

    /// Puts what is locked where it stays.
    void lock_in() {
        state.sheets = problem.locked.sheet_stock;
        for (const Placement& at : problem.locked.placements) {
            const auto i = std::find_if(items.begin(), items.end(), [&](const Item& item) {
                return item.part == at.part && item.copy == at.copy;
            });
            i->locked = true;
            const int turn = turns[static_cast<std::size_t>(at.part)].of(at.rotation_deg, at.turned_over);
            put(static_cast<std::size_t>(i - items.begin()), {at.sheet, turn, at.shift});
        }
    }

    const Problem& problem;
    std::mt19937 random;
    std::vector<Turns> turns;
    std::vector<Room> rooms;
    std::vector<Item> items;
    std::vector<int> stock_order;
    std::vector<float> weights;
    std::vector<float> block_weights;
    std::vector<double> widths;  ///< the least of each item in any turn
    State state, best_state;
    State home;  ///< valid, where squeezes begin: the best, or what became of it after a kick
    Layout best;
    KeepGoing going;  ///< while the first layout is built: a large part alone may take long
    double step = 0.03;
    int failures = 0;
    int drained = 0;
    int since_better = 0;   ///< squeezes that came to nothing since the last that did not
    bool draining = false;  ///< parts leave the last sheet one by one
    double left_over = 0;
    std::vector<int> active;  ///< the sheets between which parts are moved
    void all_active() {
        active.resize(state.sheets.size());
        std::iota(active.begin(), active.end(), 0);
    }
    /// What did not separate at the present narrowness, the least overlapping first.
    struct Tried {
        State state;
        double left_over = 0;
    };
    std::vector<Tried> tried;

    const Room& room(const State& s, int sheet) const {
        return rooms[static_cast<std::size_t>(s.sheets[static_cast<std::size_t>(sheet)])];
    }
    const Body& body(std::size_t item, const Spot& spot) const { return items[item].turns->body(spot.turn); }
    /// Where a body may be moved on a sheet; empty (max below min) where it does not fit.
    Box range(const State& s, int sheet, const Body& b) const {
        const Box& box = room(s, sheet).box;
        double right = box.max.x();
        if (sheet + 1 == static_cast<int>(s.sheets.size())) right = std::min(right, box.min.x() + s.strip_mm);
        return {box.min - b.box.min, Vec2(right - b.box.max.x(), box.max.y() - b.box.max.y())};
    }
    static bool empty(const Box& range) { return range.max.x() < range.min.x() || range.max.y() < range.min.y(); }
    static Vec2 clamped(const Vec2& at, const Box& range) { return at.cwiseMax(range.min).cwiseMin(range.max); }

    /// Items by the sheet that they lie on, beside state.spots.
    std::vector<std::vector<std::size_t>> members;
    void gather() {
        members.assign(state.sheets.size(), {});
        for (std::size_t i = 0; i < items.size(); ++i)
            if (const int s = state.spots[i].sheet; s >= 0 && s < static_cast<int>(members.size()))
                members[static_cast<std::size_t>(s)].push_back(i);
    }
    void put(std::size_t i, const Spot& spot) {
        const int from = state.spots[i].sheet;
        state.spots[i] = spot;
        if (from == spot.sheet) return;
        members.resize(std::max(members.size(), state.sheets.size()));
        if (from >= 0) std::erase(members[static_cast<std::size_t>(from)], i);
        if (spot.sheet >= 0) members[static_cast<std::size_t>(spot.sheet)].push_back(i);
    }

    float& weight(std::size_t i, std::size_t k) { return weights[i * items.size() + k]; }
    double weight_of(std::size_t i, std::size_t k) const {
        return weights.empty() ? 1 : static_cast<double>(weights[i * items.size() + k]);
    }

    double block_weight_of(std::size_t i) const {
        return block_weights.empty() ? 1 : static_cast<double>(block_weights[i]);
    }

    /// What an item at a spot overlaps, weighted; more than `bound` is not worked out further.
    double loss(std::size_t i, const Spot& spot, double bound) {
        const Body& own = body(i, spot);
        double sum = 0;
        for (const Body& block : room(state, spot.sheet).blocks) {
            if (overlap(own, spot.at, block, {0, 0}))
                sum += block_weight_of(i) * depth(own, spot.at, block, {0, 0}, bound);
            if (sum >= bound) return sum;
        }
        if (static_cast<std::size_t>(spot.sheet) >= members.size()) return sum;
        auto& here = members[static_cast<std::size_t>(spot.sheet)];
        for (std::size_t n = 0; n < here.size(); ++n) {
            const std::size_t k = here[n];
            const Spot& other = state.spots[k];
            if (k == i) continue;
            const Body& theirs = body(k, other);
            if (!overlap(own, spot.at, theirs, other.at)) continue;
            const double weight = weight_of(i, k);
            sum += weight * depth(own, spot.at, theirs, other.at, (bound - sum) / weight);
            if (sum >= bound) {
                // Who ends it once ends it again: places that are tried lie near each other.
                if (n > 0) std::swap(here[n], here[n - 1]);
                return sum;
            }
        }
        return sum;
    }
    bool is_free(std::size_t i, const Spot& spot) { return loss(i, spot, 1e-12) <= 0; }

    bool begin(const KeepGoing& keep_going);
    bool ahead(const State& a, const State& b) const {
        if (std::abs(measure(a) - measure(b)) > 1e-6) return measure(a) < measure(b);
        return area_on_last(a) < area_on_last(b) - 1;
    }
    std::optional<Spot> first_spot(std::size_t i, int sheet, int samples);
    bool open_sheet(std::size_t i, std::vector<int>& left, int priority);
    bool place(std::size_t i, std::vector<int>& left, std::vector<double>& used);
    void sort_sheets();
    /// What overlaps: by pair (i < k), by item with what is no sheet, and the items that are in the way.
    struct Overlaps {
        std::vector<double> pairs, blocks;
        std::vector<std::size_t> in_the_way;
        double total = 0, largest = 0;
    };
    Overlaps overlaps();
    void weigh(const Overlaps& now);
    bool separate(const KeepGoing& keep_going, bool briefly);
    void move(std::size_t i);
    struct Sample;
    Sample sample(std::size_t i, int k, bool near_by);
    std::optional<Spot> spot_of(std::size_t i, const Sample& at, int turn);
    bool into_opening(Spot& spot, const Body& b);
    struct Flush;
    std::vector<Spot> flush_spots(std::size_t i, const std::vector<int>& turns_tried);
    Spot refined(std::size_t i, Spot spot, double& value, double from, double to);
    bool squeeze(const KeepGoing& keep_going);
    bool attempt(const KeepGoing& keep_going);
    bool narrow();
    bool drain();
    void kick();
    bool start_anew();
    bool settle(bool kicked);
    double area_on_last(const State& s) const;
    /// No layout fills sheets to more than that.
    static constexpr double densest_of_all = 0.93;
    bool sheet_may_go(const State& s, double densest = densest_of_all) const;
    double strip_for_less(const State& s) const;
    double measure(const State& s) const {
        constexpr double longest_sheet_mm = 1e6;
        return longest_sheet_mm * static_cast<double>(s.sheets.size()) + s.strip_mm;
    }
    void disturb();
    void scatter(std::size_t i);
    double strip_of(const State& s) const { return strip_of(s, static_cast<int>(s.sheets.size()) - 1, false); }
    double strip_of(const State& s, int sheet, bool only_locked) const;
    void tidy();
    Layout layout_of(const State& s) const;
    bool accept();
};

}  // namespace bevelsmith::sheets
