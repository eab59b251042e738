#include "sheets/separate.h"

#include <algorithm>
#include <cmath>
#include <span>

#include "sheets/squeeze.h"

namespace bevelsmith::sheets {

using namespace squeezing;
using geometry::Box;
using geometry::Polygon;

Room room_of(const Stock& stock, const Problem& problem) {
    // Parts are grown by a hair less than half the spacing; the sheet's edge gives nothing away.
    const double inward = problem.edge_margin_mm - problem.spacing_mm / 2 + slack_mm(problem.spacing_mm);
    Polygon shape = geometry::oriented(stock.shape);
    if (inward != 0) shape = geometry::largest(geometry::offset(shape, -inward, geometry::Corner::mitre));
    Room out;
    if (shape.outer.size() < 3) return out;
    out.box = geometry::bounding_box(shape.outer);
    out.area = geometry::area_mm2(shape);
    if (is_plain(shape)) return out;
    for (const auto& piece : geometry::subtract({Polygon{geometry::rectangle(out.box), {}}}, {shape}))
        // A hair smaller, so that what lies against it is free: the sheet itself was drawn in by as much.
        for (const auto& block :
             geometry::offset(piece, -0.8 * slack_mm(problem.spacing_mm), geometry::Corner::mitre))
            if (geometry::area_mm2(block) > 1) out.blocks.push_back(make_body(geometry::oriented(block)));
    return out;
}

double least_width(const Turns& turns) {
    double out = HUGE_VAL;
    // The bodies of all free angles need not be made for this.
    for (int t = 0; t < turns.count(); t += turns.is_free() ? 5 : 1) out = std::min(out, turns.body(t).box.width());
    return out;
}

bool better(const Layout& a, const Layout& b) {
    if (a.unplaced.size() != b.unplaced.size()) return a.unplaced.size() < b.unplaced.size();
    if (a.sheet_stock.size() != b.sheet_stock.size()) return a.sheet_stock.size() < b.sheet_stock.size();
    return a.utilisation > b.utilisation + 1e-9;
}

bool no_worse(const Layout& a, const Layout& b) {
    return a.unplaced.size() == b.unplaced.size() && a.sheet_stock.size() == b.sheet_stock.size() &&
           a.utilisation >= b.utilisation - 1e-9;
}

/// How far parts reach on a sheet.
double Separation::Search::strip_of(const State& s, int sheet, bool only_locked) const {
    if (sheet < 0) return 0;
    double right = room(s, sheet).box.min.x();
    for (std::size_t i = 0; i < items.size(); ++i)
        if (s.spots[i].sheet == sheet && (items[i].locked || !only_locked))
            right = std::max(right, s.spots[i].at.x() + body(i, s.spots[i]).box.max.x());
    return right - room(s, sheet).box.min.x();
}

/// No sheet lies empty, and of the last one's kind none reaches less far than the last: that is the one to be
/// emptied.
void Separation::Search::tidy() {
    const int held = static_cast<int>(problem.locked.sheet_stock.size());
    std::vector<char> used(state.sheets.size(), 0);
    for (const Spot& spot : state.spots)
        if (spot.sheet >= 0) used[static_cast<std::size_t>(spot.sheet)] = 1;
    for (int s = static_cast<int>(state.sheets.size()) - 1; s >= held; --s) {
        if (used[static_cast<std::size_t>(s)]) continue;
        state.sheets.erase(state.sheets.begin() + s);
        for (Spot& spot : state.spots)
            if (spot.sheet > s) --spot.sheet;
    }
    const int last = static_cast<int>(state.sheets.size()) - 1;
    int least = last;
    for (int s = held; s < last; ++s)
        if (state.sheets[static_cast<std::size_t>(s)] == state.sheets.back() &&
            strip_of(state, s, false) < strip_of(state, least, false) - 1e-9)
            least = s;
    if (least == last) return;
    for (Spot& spot : state.spots) spot.sheet = spot.sheet == least ? last : spot.sheet == last ? least : spot.sheet;
}

Layout Separation::Search::layout_of(const State& s) const {
    Layout out;
    out.unplaced = best.unplaced;
    out.sheet_stock = s.sheets;
    for (std::size_t i = 0; i < items.size(); ++i)
        if (s.spots[i].sheet >= 0)
            out.placements.push_back({items[i].part, items[i].copy, s.spots[i].sheet,
                                      items[i].turns->rotation_deg(s.spots[i].turn), s.spots[i].at,
                                      items[i].turns->turned_over(s.spots[i].turn)});
    out.utilisation = utilisation(problem, out);
    return out;
}

/// Whether the state is a valid layout, and better than the best; it is the best then.
bool Separation::Search::accept() {
    tidy();
    Layout found = layout_of(state);
    const bool more = best.placements.empty() || better(found, best);
    if (!more && !(no_worse(found, best) && area_on_last(state) < area_on_last(best_state) - 1)) return false;
    if (!violations(problem, found).empty()) return false;
    best = std::move(found);
    state.strip_mm = strip_of(state);
    best_state = home = state;
    return true;
}

/// Coordinate descent about a spot, from large steps to small ones (as shares of its shorter side); the angle, where
/// it is free, goes a degree at a time.
Spot Separation::Search::refined(std::size_t i, Spot spot, double& value, double from, double to) {
    const Turns& own = *items[i].turns;
    const double size = body(i, spot).least;
    double by = from * size;
    const double least = std::max(0.01, to * size);
    const auto try_turn = [&](int way) {
        Spot next = spot;
        next.turn = own.beside(spot.turn, way);
        if (next.turn == spot.turn) return false;
        const Body &before = body(i, spot), &after = body(i, next);
        const Box within = range(state, spot.sheet, after);
        if (empty(within)) return false;
        next.at = clamped(spot.at + before.box.centre() - after.box.centre(), within);
        const double now = loss(i, next, value);
        if (now >= value) return false;
        spot = next, value = now;
        return true;
    };
    while (by > least && value > 0) {
        bool moved = false;
        const unsigned axis = random() % (own.is_free() ? 5U : 4U);
        if (axis == 4) {
            moved = try_turn(1) || try_turn(-1);
        } else {
            static constexpr double ways[4][2] = {{1, 0}, {0, 1}, {1, 1}, {1, -1}};
            const Box within = range(state, spot.sheet, body(i, spot));
            for (const double sign : {1.0, -1.0}) {
                Spot next = spot;
                next.at = clamped(spot.at + sign * by * Vec2(ways[axis][0], ways[axis][1]), within);
                const double now = loss(i, next, value);
                if (now >= value) continue;
                spot = next, value = now, moved = true;
                break;
            }
        }
        by *= moved ? 1.1 : 0.5;
    }
    return spot;
}

/// A place to be tried, before it is known in which turn.
struct Separation::Search::Sample {
    int sheet = 0;
    bool near_by = false;        ///< about where the item lies now
    double x = 0, y = 0;         ///< shares of the way through the room that there is
    std::optional<Spot> beside;  ///< against the box of what lies there, on one of its sides
    std::optional<Box> box;
    unsigned side = 0;
    bool opening = false;  ///< in an opening of some part
};

Separation::Search::Sample Separation::Search::sample(std::size_t i, int k, bool near_by) {
    Sample out;
    out.near_by = near_by;
    out.sheet = near_by ? state.spots[i].sheet : active[random() % active.size()];
    out.x = share(random), out.y = share(random);
    if (near_by) return out;
    // Edges of the sheet hold more than their share.
    if (k % 6 == 0) out.x = std::round(out.x);
    if (k % 6 == 1) out.y = std::round(out.y);
    out.opening = k % 9 == 4;
    if (k % 2 != 0 || static_cast<std::size_t>(out.sheet) >= members.size()) return out;
    const auto& here = members[static_cast<std::size_t>(out.sheet)];
    if (here.empty()) return out;
    const std::size_t other = here[random() % here.size()];
    out.side = random();
    if (other != i) out.beside = state.spots[other], out.box = body(other, *out.beside).box;
    return out;
}

/// The sample's place for an item in one of its turns; nothing where it does not fit there.
std::optional<Separation::Search::Spot> Separation::Search::spot_of(std::size_t i, const Sample& at, int turn) {
    Spot out{at.sheet, turn, {0, 0}};
    const Body& b = body(i, out);
    const Box to = range(state, at.sheet, b);
    if (empty(to)) return std::nullopt;
    if (at.near_by) {
        const Vec2 middle = body(i, state.spots[i]).box.centre() - b.box.centre();
        out.at = clamped(state.spots[i].at + middle + b.diameter * 0.25 * Vec2(2 * at.x - 1, 2 * at.y - 1), to);
        return out;
    }
    out.at = to.min + Vec2(at.x, at.y).cwiseProduct(to.max - to.min);
    if (at.beside) {
        const Vec2 low = at.box->min + at.beside->at, high = at.box->max + at.beside->at;
        const int axis = at.side & 1 ? 0 : 1, along = 1 - axis;
        out.at[axis] = at.side & 2 ? high[axis] - b.box.min[axis] : low[axis] - b.box.max[axis];
        // Flush with one of its ends, or anywhere along it.
        if (at.side & 4) out.at[along] = at.side & 8 ? low[along] - b.box.min[along] : high[along] - b.box.max[along];
        out.at = clamped(out.at, to);
    }
    if (at.opening && into_opening(out, b)) out.at = clamped(out.at, to);
    return out;
}

namespace {

/// A side of an item in one of its turns, and the angle of those that run the other way.
struct OwnSide {
    int turn = 0;
    const Side* side = nullptr;
    double against_rad = 0;
};

/// The sides of a body that run so, as nearly as another may lie along them.
std::span<const Side> sides_at(double angle_rad, const Body& body) {
    constexpr double parallel_rad = 0.005;
    const auto from = std::ranges::lower_bound(body.sides, angle_rad - parallel_rad, {}, &Side::angle_rad);
    auto to = from;
    while (to != body.sides.end() && to->angle_rad <= angle_rad + parallel_rad) ++to;
    return {from, to};
}

}  // namespace

/// A body that lies somewhere, along whose sides others may lie.
struct Separation::Search::Flush {
    int sheet = 0;
    const Body* body = nullptr;
    Vec2 at{0, 0};
};

/// Places where a straight side of an item lies flush with one of another's, end to end: some, at random, of those
/// that there are, which are not all looked for where there are many sides.
std::vector<Separation::Search::Spot> Separation::Search::flush_spots(std::size_t i,
                                                                      const std::vector<int>& turns_tried) {
    constexpr std::size_t most = 24, few_looks = 1000, at_random = 320;
    std::vector<Flush> others;
    for (int sheet : active) {
        for (const Body& block : room(state, sheet).blocks) others.push_back({sheet, &block, {0, 0}});
        if (static_cast<std::size_t>(sheet) >= members.size()) continue;
        for (std::size_t k : members[static_cast<std::size_t>(sheet)])
            if (k != i) others.push_back({sheet, &body(k, state.spots[k]), state.spots[k].at});
    }
    std::vector<OwnSide> own;
    for (int turn : turns_tried)
        for (const Side& side : items[i].turns->body(turn).sides)
            own.push_back({turn, &side, side_angle(side.angle_rad + M_PI)});
    std::vector<Spot> out;
    std::uint32_t seen = 0;
    const auto add = [&](const Spot& spot) {
        ++seen;
        if (out.size() < most) out.push_back(spot);
        else if (const std::size_t slot = random() % seen; slot < most) out[slot] = spot;
    };
    const std::size_t all = own.size() * others.size(), looks = all <= few_looks ? all : at_random;
    for (std::size_t look = 0; look < looks; ++look) {
        const std::size_t n = looks == all ? look : random() % all;
        const auto& [turn, side, against] = own[n % own.size()];
        const Flush& other = others[n / own.size()];
        for (const Side& theirs : sides_at(against, *other.body)) {
            add({other.sheet, turn, other.at + theirs.from - side->to});
            add({other.sheet, turn, other.at + theirs.to - side->from});
        }
    }
    std::erase_if(out, [&](Spot& spot) {
        const Box within = range(state, spot.sheet, body(i, spot));
        if (!empty(within)) spot.at = clamped(spot.at, within);
        return empty(within);
    });
    return out;
}

/// To where it overlaps least among places all over, near by and flush with others, each in all its turns where these
/// are few.
void Separation::Search::move(std::size_t i) {
    constexpr int all_over = 8, near_by = 4, few_turns = 4;
    constexpr std::size_t refined_ones = 3;
    struct Try {
        Spot spot;
        double value = HUGE_VAL;
    };
    std::vector<Try> tries;
    const double before = loss(i, state.spots[i], HUGE_VAL);
    tries.push_back({state.spots[i], before});
    const auto consider = [&](const Spot& spot) {
        const double bound = tries.size() < refined_ones ? HUGE_VAL : tries.back().value;
        const double value = loss(i, spot, bound);
        if (value >= bound) return;
        tries.push_back({spot, value});
        std::sort(tries.begin(), tries.end(), [](const Try& a, const Try& b) { return a.value < b.value; });
        if (tries.size() > refined_ones) tries.pop_back();
    };
    const Turns& own = *items[i].turns;
    const bool all_turns = !own.is_free() && own.count() <= few_turns;
    for (int k = 0; k < all_over + near_by && tries.front().value > 0; ++k) {
        const Sample at = sample(i, k, k >= all_over);
        for (int t = 0; t < (all_turns ? own.count() : 1); ++t) {
            const int turn = all_turns ? t : at.near_by && k % 2 ? state.spots[i].turn : own.random(random);
            if (const auto spot = spot_of(i, at, turn)) consider(*spot);
        }
    }
    if (tries.front().value > 0) {
        std::vector<int> turns_tried(static_cast<std::size_t>(all_turns ? own.count() : few_turns));
        for (std::size_t t = 0; t < turns_tried.size(); ++t)
            turns_tried[t] = all_turns ? static_cast<int>(t) : t == 0 ? state.spots[i].turn : own.random(random);
        for (const Spot& spot : flush_spots(i, turns_tried)) consider(spot);
    }
    Try best_try;
    for (Try& t : tries) {
        t.spot = refined(i, t.spot, t.value, 0.25, 0.02);
        if (t.value < best_try.value) best_try = t;
    }
    best_try.spot = refined(i, best_try.spot, best_try.value, 0.02, 0.0008);
    if (best_try.value <= before) put(i, best_try.spot);
}

/// What overlaps, pair by pair and with the sheet's blocks, and how much in all.
Separation::Search::Overlaps Separation::Search::overlaps() {
    Overlaps out;
    out.pairs.assign(items.size() * items.size(), 0);
    out.blocks.assign(items.size(), 0);
    std::vector<char> caught(items.size(), 0);
    const auto count = [&](double deep) { out.total += deep, out.largest = std::max(out.largest, deep); };
    for (std::size_t i = 0; i < items.size(); ++i) {
        if (state.spots[i].sheet < 0) continue;
        const Body& own = body(i, state.spots[i]);
        for (const Body& block : room(state, state.spots[i].sheet).blocks)
            if (overlap(own, state.spots[i].at, block, {0, 0})) {
                const double deep = depth(own, state.spots[i].at, block, {0, 0});
                out.blocks[i] += deep, caught[i] = 1, count(deep);
            }
        for (std::size_t k : members[static_cast<std::size_t>(state.spots[i].sheet)]) {
            if (k <= i) continue;
            const Body& other = body(k, state.spots[k]);
            if (!overlap(own, state.spots[i].at, other, state.spots[k].at)) continue;
            const double deep = depth(own, state.spots[i].at, other, state.spots[k].at);
            out.pairs[i * items.size() + k] = deep;
            caught[i] = caught[k] = 1, count(deep);
        }
    }
    for (std::size_t i = 0; i < items.size(); ++i)
        if (caught[i] && !items[i].locked) out.in_the_way.push_back(i);
    return out;
}

/// Pairs that overlap weigh more, the deeper the more; the others come back to one.
void Separation::Search::weigh(const Overlaps& now) {
    constexpr float most = 1e8F;  // far from where single precision ends
    const auto next = [&](float w, double deep) {
        if (deep <= 0) return std::max(1.0F, 0.95F * w);
        return std::min(most, w * static_cast<float>(1.2 + 0.8 * deep / now.largest));
    };
    for (std::size_t i = 0; i < items.size(); ++i) {
        block_weights[i] = next(block_weights[i], now.blocks[i]);
        for (std::size_t k = i + 1; k < items.size(); ++k)
            weight(k, i) = weight(i, k) = next(weight(i, k), now.pairs[i * items.size() + k]);
    }
}

/// Moves what overlaps until nothing does; false where it does not come to that: the state is then the one that
/// overlapped least, `left_over` says how much.
bool Separation::Search::separate(const KeepGoing& keep_going, bool briefly) {
    // Few parts come apart soon or not at all, and the next attempt is worth more; many take longer.
    constexpr int few = 20, many = 40, least_rounds = 25, most_rounds = 60;
    const int count = std::clamp(static_cast<int>(items.size()), few, many);
    const int longest = least_rounds + (most_rounds - least_rounds) * (count - few) / (many - few);
    const int patience = briefly ? least_rounds : longest, strikes = briefly || 2 * count < few + many ? 1 : 2;
    std::fill(weights.begin(), weights.end(), 1.0F);
    std::fill(block_weights.begin(), block_weights.end(), 1.0F);
    gather();
    left_over = HUGE_VAL;
    State least_state;
    for (int strike = 0; strike < strikes; ++strike) {
        const double before = left_over;
        for (int since = 0; since < patience;) {
            Overlaps now = overlaps();
            if (now.total <= 0) return true;
            since = now.total < 0.98 * left_over ? 0 : since + 1;
            if (now.total < left_over) left_over = now.total, least_state = state;
            weigh(now);
            auto& order = now.in_the_way;
            for (std::size_t k = order.size(); k > 1; --k) std::swap(order[k - 1], order[random() % k]);
            for (std::size_t i : order) {
                if (keep_going && !keep_going()) return false;
                if (loss(i, state.spots[i], 1e-12) > 0) move(i);
            }
        }
        state = least_state;
        gather();
        if (left_over > 0.98 * before) break;
    }
    return false;
}

Separation::Separation(const Problem& problem, unsigned seed) : search_(std::make_unique<Search>(problem, seed)) {}
Separation::~Separation() = default;

bool Separation::begin(const KeepGoing& keep_going) {
    return search_->begin(keep_going);
}

bool Separation::squeeze(const KeepGoing& keep_going) {
    return search_->squeeze(keep_going);
}

const Layout& Separation::best() const {
    return search_->best;
}

bool Separation::ahead_of(const Separation& other) const {
    if (better(best(), other.best())) return true;
    return no_worse(best(), other.best()) && !better(other.best(), best()) &&
           search_->area_on_last(search_->best_state) < other.search_->area_on_last(other.search_->best_state) - 1;
}

void Separation::take_over(const Separation& other) {
    if (search_->items.empty()) search_->make_ready({});
    search_->best = other.search_->best;
    search_->best_state = other.search_->best_state;
    search_->home = search_->best_state;
    search_->since_better = 0;
    search_->tried.clear();
}

}  // namespace bevelsmith::sheets
