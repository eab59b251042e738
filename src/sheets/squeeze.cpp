// What a search tries next: the first layout, narrower strips, sheets drained.
#include <algorithm>
#include <cmath>

#include "sheets/squeeze.h"

namespace bevelsmith::sheets {

using namespace squeezing;
using geometry::Box;

namespace {

bool fits(const Turns& turns, const Box& room) {
    for (int t = 0; t < turns.count(); ++t) {
        const Box& box = turns.body(t).box;
        if (box.width() <= room.width() && box.height() <= room.height()) return true;
    }
    return false;
}

}  // namespace

/// Moves a spot into an opening of some part on its sheet that is large enough; false where there is none.
bool Separation::Search::into_opening(Spot& spot, const Body& b) {
    if (static_cast<std::size_t>(spot.sheet) >= members.size()) return false;
    std::vector<Box> openings;
    for (std::size_t k : members[static_cast<std::size_t>(spot.sheet)])
        for (const Box& hole : body(k, state.spots[k]).openings)
            if (hole.width() > b.box.width() && hole.height() > b.box.height())
                openings.push_back({hole.min + state.spots[k].at, hole.max + state.spots[k].at});
    if (openings.empty()) return false;
    const Box& in = openings[random() % openings.size()];
    const Box to{in.min - b.box.min, in.max - b.box.max};
    spot.at = to.min + Vec2(share(random), share(random)).cwiseProduct(to.max - to.min);
    return true;
}

/// A free place of a sheet, slid left and down.
std::optional<Spot> Separation::Search::first_spot(std::size_t i, int sheet, int samples) {
    std::optional<Spot> out;
    double least = HUGE_VAL;
    for (int k = 0; k < samples && (k % 8 != 0 || !going || going()); ++k) {
        Spot spot{sheet, items[i].turns->random(random), {0, 0}};
        const Body& b = body(i, spot);
        const Box to = range(state, sheet, b);
        if (empty(to)) continue;
        // The corner and the lower edge first.
        const double x = k < 4 ? 0 : share(random), y = k < 4 ? 0 : k % 3 == 0 ? 0 : share(random);
        spot.at = to.min + Vec2(x, y).cwiseProduct(to.max - to.min);
        if (k % 5 == 4 && into_opening(spot, b)) spot.at = clamped(spot.at, to);
        const double cost = spot.at.x() + b.box.max.x() + 0.1 * (spot.at.y() + b.box.max.y());
        if (cost > least + 150 || !is_free(i, spot)) continue;
        for (int round = 0; round < 2; ++round)
            for (const Vec2& way : {Vec2(-1, 0), Vec2(0, -1)})
                for (double by = 96; by > 0.2; by /= 2)
                    while (true) {
                        Spot next = spot;
                        next.at = clamped(spot.at + by * way, to);
                        if ((next.at - spot.at).norm() < 1e-6 || !is_free(i, next)) break;
                        spot = next;
                    }
        const double settled = spot.at.x() + b.box.max.x() + 0.1 * (spot.at.y() + b.box.max.y());
        if (settled < least) least = settled, out = spot;
    }
    return out;
}

/// A new sheet of one of those stocks that come before or at a priority.
bool Separation::Search::open_sheet(std::size_t i, std::vector<int>& left, int priority) {
    for (int stock : stock_order) {
        const auto k = static_cast<std::size_t>(stock);
        if (left[k] <= 0 || rooms[k].area <= 0 || problem.stock[k].priority > priority) continue;
        state.sheets.push_back(stock);
        state.strip_mm = rooms[k].box.width();
        constexpr int thorough = 600;
        if (const auto spot = first_spot(i, static_cast<int>(state.sheets.size()) - 1, thorough)) {
            --left[k];
            put(i, *spot);
            return true;
        }
        state.sheets.pop_back();
    }
    return false;
}

/// On the sheets that are begun and those still in stock, those first that are to be used first.
bool Separation::Search::place(std::size_t i, std::vector<int>& left, std::vector<double>& used) {
    constexpr int samples = 110;
    std::vector<int> priorities;
    for (int stock : stock_order) {
        const int p = problem.stock[static_cast<std::size_t>(stock)].priority;
        if (priorities.empty() || priorities.back() != p) priorities.push_back(p);
    }
    for (int priority : priorities) {
        for (int s = 0; s < static_cast<int>(state.sheets.size()); ++s) {
            const auto stock = static_cast<std::size_t>(state.sheets[static_cast<std::size_t>(s)]);
            if (problem.stock[stock].priority != priority) continue;
            if (used[static_cast<std::size_t>(s)] + items[i].area > room(state, s).area) continue;
            // Only the last sheet is narrowed, and not yet.
            state.strip_mm = room(state, static_cast<int>(state.sheets.size()) - 1).box.width();
            if (const auto spot = first_spot(i, s, samples)) {
                put(i, *spot);
                return true;
            }
        }
        if (open_sheet(i, left, priority)) return true;
    }
    return false;
}

/// Sheets in the order in which stock is used, so that the one to be emptied is of the last kind.
void Separation::Search::sort_sheets() {
    const auto held = static_cast<std::ptrdiff_t>(problem.locked.sheet_stock.size());
    std::vector<int> order(state.sheets.size());
    std::iota(order.begin(), order.end(), 0);
    std::stable_sort(order.begin() + held, order.end(), [&](int a, int b) {
        const auto priority = [&](int s) {
            return problem.stock[static_cast<std::size_t>(state.sheets[static_cast<std::size_t>(s)])].priority;
        };
        return priority(a) < priority(b);
    });
    std::vector<int> sheets, now_at(order.size());
    for (std::size_t k = 0; k < order.size(); ++k) {
        sheets.push_back(state.sheets[static_cast<std::size_t>(order[k])]);
        now_at[static_cast<std::size_t>(order[k])] = static_cast<int>(k);
    }
    state.sheets = std::move(sheets);
    for (Spot& spot : state.spots)
        if (spot.sheet >= 0) spot.sheet = now_at[static_cast<std::size_t>(spot.sheet)];
    gather();
}

bool Separation::Search::begin(const KeepGoing& keep_going) {
    going = keep_going;
    if (!make_ready(keep_going)) return false;
    std::vector<int> left;
    for (const Stock& s : problem.stock) left.push_back(s.count < 0 ? static_cast<int>(items.size()) : s.count);
    for (int s : state.sheets) --left[static_cast<std::size_t>(s)];
    best = {};
    std::vector<double> used(state.sheets.size(), 0);
    // What is placed so far is kept; the rest is another's.
    const auto cut_off = [&] {
        state.strip_mm = strip_of(state);
        best = layout_of(state);
        return false;
    };
    for (const Placement& at : problem.locked.placements)
        used[static_cast<std::size_t>(at.sheet)] +=
            geometry::area_mm2(problem.parts[static_cast<std::size_t>(at.part)].shape);
    for (std::size_t i = 0; i < items.size(); ++i) {
        if (keep_going && !keep_going()) return cut_off();
        if (items[i].locked) continue;
        if (!place(i, left, used)) {
            if (keep_going && !keep_going()) return cut_off();  // no time, no verdict
            const bool too_large =
                std::all_of(rooms.begin(), rooms.end(), [&](const Room& r) { return !fits(*items[i].turns, r.box); });
            best.unplaced.push_back(
                {items[i].part, items[i].copy,
                 too_large ? "it is larger than every sheet in every allowed direction" : "no sheet is left for it"});
            continue;
        }
        used.resize(state.sheets.size(), 0);
        used[static_cast<std::size_t>(state.spots[i].sheet)] += items[i].area;
    }
    sort_sheets();
    state.strip_mm = strip_of(state);
    return accept();
}

/// Anywhere, where it overlaps little.
void Separation::Search::scatter(std::size_t i) {
    Spot best_spot;
    double least = HUGE_VAL;
    for (int k = 0; k < 60; ++k) {
        Spot spot{active[random() % active.size()], items[i].turns->random(random), {0, 0}};
        const Box to = range(state, spot.sheet, body(i, spot));
        if (empty(to)) continue;
        spot.at = to.min + Vec2(share(random), share(random)).cwiseProduct(to.max - to.min);
        const double value = loss(i, spot, least);
        if (value < least || best_spot.sheet < 0) least = std::min(least, value), best_spot = spot;
    }
    if (best_spot.sheet >= 0) put(i, best_spot);
}

/// Whether the parts could lie on one sheet less, filling the others to no more than a share of them.
bool Separation::Search::sheet_may_go(const State& s, double densest) const {
    double all = 0, rest = 0;
    for (const Item& item : items) all += item.area;
    for (int k = 0; k + 1 < static_cast<int>(s.sheets.size()); ++k) rest += room(s, k).area;
    return all < densest * rest;
}

/// A narrower last strip, or one sheet less; what no longer lies within is put elsewhere. False where nothing is left
/// to be gained.
bool Separation::Search::narrow() {
    const int last = static_cast<int>(state.sheets.size()) - 1;
    if (last < 0) return false;
    double narrowest = HUGE_VAL;
    for (std::size_t i = 0; i < items.size(); ++i)
        if (state.spots[i].sheet == last && !items[i].locked) narrowest = std::min(narrowest, widths[i]);
    const double now = home.strip_mm, strip = std::max(now * (1 - step), strip_of(state, last, true));
    if (strip >= now) return false;  // what is locked there ends the squeeze
    std::vector<std::size_t> out;
    const bool may_go = last >= static_cast<int>(problem.locked.sheet_stock.size()) && last > 0;
    // Part by part, which is quick; now and then the whole sheet, which takes as long as fifty of those.
    const bool stuck = since_better >= 3, one_less = sheet_may_go(home);
    // Where the others are filled to little the whole sheet goes at once.
    constexpr double loose = 0.78;
    const double seldom = sheet_may_go(home, loose) ? 0.5 : 0.96;
    const double part_by_part = strip < narrowest || (stuck && one_less) ? seldom : stuck ? 0.8 : 0;
    if (may_go && share(random) < part_by_part) return draining = drain();
    if (may_go && (strip < narrowest || (stuck && one_less && share(random) < 0.5))) {
        state.sheets.pop_back();
        all_active();
        state.strip_mm = room(state, last - 1).box.width();
        for (std::size_t i = 0; i < items.size(); ++i)
            if (state.spots[i].sheet == last) out.push_back(i);
    } else {
        state.strip_mm = strip;
    }
    for (std::size_t i = 0; i < items.size(); ++i) {
        Spot& spot = state.spots[i];
        if (spot.sheet < 0 || spot.sheet >= static_cast<int>(state.sheets.size()) || items[i].locked) continue;
        const Box to = range(state, spot.sheet, body(i, spot));
        if (empty(to)) out.push_back(i);
        else spot.at = clamped(spot.at, to);
    }
    for (std::size_t i : out) state.spots[i].sheet = -1;
    gather();
    for (std::size_t i : out) scatter(i);
    // What fits nowhere now ends the squeeze.
    return std::all_of(out.begin(), out.end(), [&](std::size_t i) { return state.spots[i].sheet >= 0; });
}

/// The last sheet cannot be narrower than its parts are: one of them goes to another sheet, and where a smaller one
/// finds room in its place, that comes back. So the others fill up, a little at a time.
bool Separation::Search::drain() {
    const int last = static_cast<int>(state.sheets.size()) - 1;
    std::vector<std::size_t> here, there;
    active = {static_cast<int>(random() % static_cast<unsigned>(last))};
    if (last > 1 && random() % 2 == 0) active.push_back(static_cast<int>(random() % static_cast<unsigned>(last)));
    gather();
    for (std::size_t i : members[static_cast<std::size_t>(last)])
        if (!items[i].locked) here.push_back(i);
    if (here.empty()) return false;
    const std::size_t out = here[random() % here.size()];
    for (std::size_t i : members[static_cast<std::size_t>(active.front())])
        if (!items[i].locked && items[i].area < 0.97 * items[out].area) there.push_back(i);
    put(out, {-1, state.spots[out].turn, {0, 0}});
    // What comes back may take up more of the strip, as long as it is smaller.
    state.strip_mm = strip_for_less(state);
    if (!there.empty() && random() % 4 != 0) {
        // What is nearly as large leaves the least to be gained, and that comes off most often.
        std::size_t back = there[random() % there.size()];
        for (int k = 0; k < 2; ++k)
            if (const std::size_t other = there[random() % there.size()]; items[other].area > items[back].area)
                back = other;
        const Spot before = state.spots[back];
        put(back, {-1, before.turn, {0, 0}});
        const auto spot = first_spot(back, last, 80);
        put(back, spot ? *spot : before);
    }
    scatter(out);
    return state.spots[out].sheet >= 0;
}

/// How wide the last strip may become for the sake of less wood on it: as wide as its sheet where the sheet could go.
double Separation::Search::strip_for_less(const State& s) const {
    const double whole = room(s, static_cast<int>(s.sheets.size()) - 1).box.width();
    return sheet_may_go(s) ? whole : std::min(whole, 1.05 * s.strip_mm);
}

double Separation::Search::area_on_last(const State& s) const {
    double out = 0;
    for (std::size_t i = 0; i < items.size(); ++i)
        if (s.spots[i].sheet == static_cast<int>(s.sheets.size()) - 1) out += items[i].area;
    return out;
}

/// Large parts change places, so that the search does not come back to where it was.
void Separation::Search::disturb() {
    // Those that make up two thirds of the area: small ones find their way anyhow. What has no place has none to
    // give.
    double all = 0, sum = 0;
    for (std::size_t i = 0; i < items.size(); ++i)
        if (state.spots[i].sheet >= 0) all += items[i].area;
    std::vector<std::size_t> large;
    for (std::size_t i = 0; i < items.size() && sum < 0.67 * all; ++i) {
        if (state.spots[i].sheet < 0) continue;
        sum += items[i].area;
        if (!items[i].locked) large.push_back(i);
    }
    if (large.size() < 2) return;
    const std::size_t a = large[random() % large.size()];
    // Of about one size: what is much larger would lie on several.
    constexpr double alike = 1.6;
    std::erase_if(large, [&](std::size_t i) {
        const double ratio = items[i].area / items[a].area;
        return i != a && (ratio > alike || ratio < 1 / alike);
    });
    const std::size_t b = large[random() % large.size()];
    if (a == b) return;
    const auto centre = [&](std::size_t i) -> Vec2 {
        return state.spots[i].at + body(i, state.spots[i]).box.centre();
    };
    const Vec2 at_a = centre(a), at_b = centre(b);
    std::swap(state.spots[a].sheet, state.spots[b].sheet);
    for (const auto& [i, at] : {std::pair(a, at_b), std::pair(b, at_a)}) {
        const Box to = range(state, state.spots[i].sheet, body(i, state.spots[i]));
        state.spots[i].at = empty(to) ? to.min : clamped(at - body(i, state.spots[i]).box.centre(), to);
    }
    gather();
}

/// Valid again: where the next squeezes begin, if it gained anything or was a kick; true where it is the best.
bool Separation::Search::settle(bool kicked) {
    tidy();
    state.strip_mm = strip_of(state);
    // A drained sheet gets emptier before it gets narrower.
    const bool emptier = draining && state.sheets.size() <= home.sheets.size() &&
                         area_on_last(state) < area_on_last(home) - 1 &&
                         state.strip_mm <= strip_for_less(home) + 1e-6;
    if (!kicked && !emptier && !ahead(state, home)) return false;
    home = state;
    since_better = 0;
    step = kicked ? 0.03 : std::min(0.035, 1.25 * step);
    tried.clear();
    return accept();
}

/// A few large parts change places in the best layout, with some room to settle.
void Separation::Search::kick() {
    state = best_state;
    all_active();
    draining = false;
    const int last = static_cast<int>(state.sheets.size()) - 1;
    state.strip_mm = std::min(room(state, last).box.width(), state.strip_mm * (1.02 + 0.08 * share(random)));
    gather();
    for (unsigned k = 1 + random() % 3; k > 0; --k) disturb();
}

/// Another first layout, the larger parts first on the whole; false where some part finds no place in it.
bool Separation::Search::start_anew() {
    std::vector<std::pair<double, std::size_t>> order;
    for (std::size_t i = 0; i < items.size(); ++i)
        order.emplace_back(items[i].turns->body(0).size * (0.75 + 0.5 * share(random)), i);
    std::sort(order.begin(), order.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
    state = {};
    state.spots.assign(items.size(), {});
    members.clear();
    lock_in();
    std::vector<int> left;
    for (const Stock& s : problem.stock) left.push_back(s.count < 0 ? static_cast<int>(items.size()) : s.count);
    std::vector<double> used(state.sheets.size(), 0);
    for (const auto& [key, i] : order) {
        if (going && !going()) return false;
        if (!place(i, left, used)) return false;
        used.resize(state.sheets.size(), 0);
        used[static_cast<std::size_t>(state.spots[i].sheet)] += items[i].area;
    }
    sort_sheets();
    state.strip_mm = strip_of(state);
    return true;
}

/// To move one part to another sheet takes a fraction of what a squeeze does: several of those count as one.
bool Separation::Search::squeeze(const KeepGoing& keep_going) {
    constexpr int quick_ones = 6;
    for (int k = 0; k < quick_ones; ++k) {
        draining = false;
        if (attempt(keep_going)) return true;
        if (!draining || (keep_going && !keep_going())) return false;
    }
    return false;
}

bool Separation::Search::attempt(const KeepGoing& keep_going) {
    if (weights.empty() || best_state.sheets.empty()) return false;
    constexpr double least_step = 0.005, within_reach = 1.08;
    constexpr int most_tried = 20, most_in_vain = 40, soon = 12;
    bool kicked = false;
    // What stays far from the best is given up soon.
    const bool near =
        home.sheets.size() <= best_state.sheets.size() && home.strip_mm <= within_reach * best_state.strip_mm;
    if (since_better >= (near ? most_in_vain : soon)) {
        going = keep_going;
        if (problem.locked.placements.empty() && share(random) < 0.6) {
            if (start_anew()) settle(true);
            return false;
        }
        kick();
        kicked = true;
    } else if (tried.empty()) {
        state = home;
        all_active();
        draining = false;
        if (!narrow()) {
            step = std::max(least_step, step / 2);
            ++since_better;
            return false;
        }
    } else {
        // The one that failed least, most often.
        const double u = share(random);
        state = tried[static_cast<std::size_t>(u * u * static_cast<double>(tried.size()))].state;
        all_active();
        draining = false;
        // What was too narrow for it may be wide enough when less is asked.
        const double looser = home.strip_mm * (1 - least_step);
        if (state.sheets.size() == home.sheets.size() && state.strip_mm < looser) state.strip_mm = looser;
        if (share(random) < 0.6) disturb();
    }
    const bool separated = separate(keep_going, draining);
    if (keep_going && !keep_going()) return false;
    if (separated) return settle(kicked);
    if (kicked) return false;  // another part, another place
    if (draining) {
        if (++drained % 24 == 0) ++since_better;
        return false;
    }
    ++since_better;
    tried.push_back({state, left_over});
    std::sort(tried.begin(), tried.end(), [](const Tried& a, const Tried& b) { return a.left_over < b.left_over; });
    if (++failures % most_tried != 0) return false;
    // That was too much to ask.
    tried.clear();
    step = std::max(least_step, step / 2);
    return false;
}

}  // namespace bevelsmith::sheets
