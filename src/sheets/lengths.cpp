#include "sheets/lengths.h"

#include <fmt/format.h>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <map>
#include <numeric>

#include "sheets/laid_lengths.h"
#include "sheets/patterns.h"
#include "units/quantity.h"
#include "units/ranges.h"
#include "units/stop.h"

namespace bevelsmith::sheets {
namespace {

using Clock = std::chrono::steady_clock;

/// What a plan that costs less than `cost` costs at most.
double next_below(const Cutting& cutting, double cost) {
    return cutting.grain > 0 ? cost - cutting.grain : cost - 1e-6 * std::max(1.0, cost);
}
/// The least that a whole plan can cost when no relaxed one costs less than `bound`.
double rounded_up(const Cutting& cutting, double bound) {
    return cutting.grain > 0 ? std::ceil(bound / cutting.grain - 1e-6) * cutting.grain : bound;
}

class PatternSearch {
  public:
    PatternSearch(const Cutting& cutting, double seconds, const KeepGoing& keep_going)
        : cutting_(cutting),
          end_(Clock::now() + std::chrono::duration_cast<Clock::duration>(std::chrono::duration<double>(seconds))),
          keep_going_(keep_going) {
        for (const BarKind& k : cutting.kinds) {
            dearest_ = std::max(dearest_, k.cost);
            if (std::find(grades_.begin(), grades_.end(), k.grade) == grades_.end()) grades_.push_back(k.grade);
        }
    }

    std::vector<Pattern> best;  ///< one a bar
    double cost = HUGE_VAL, bound = 0;
    bool proved = false;

    void run() {
        std::vector<int> wanted, left;
        for (const Want& i : cutting_.items) wanted.push_back(i.wanted);
        for (const BarKind& k : cutting_.kinds) left.push_back(k.count);
        take({}, wanted, left);
        const double relaxed = relax(wanted, left);
        if (std::isinf(relaxed)) return;  // there is not enough stock for all
        bound = rounded_up(cutting_, relaxed);
        if (is_proved()) return;
        dive(wanted, left);
        if (is_proved() || !in_time()) return;
        std::vector<Pattern> that_fit;
        for (std::size_t p = 0; p < patterns_.size(); ++p)
            if (fits_[p]) that_fit.push_back(patterns_[p]);
        whole(that_fit, 0.4);
        if (is_proved() || !in_time()) return;
        close_gap(relaxed);
    }

  private:
    struct Prices {
        std::vector<double> items, kinds;
    };
    bool in_time() const {
        if (keep_going_) ask(keep_going_);
        return Clock::now() < end_;
    }
    double seconds_left() const { return std::chrono::duration<double>(end_ - Clock::now()).count(); }
    bool is_proved() {
        proved = proved || cost <= bound + tiny * std::max(1.0, bound);
        return proved;
    }

    /// Whether it was not known yet.
    bool keep(const Pattern& p) {
        if (!known_.emplace(p, patterns_.size()).second) return false;
        patterns_.push_back(p), fits_.push_back(fits(cutting_, p));
        return true;
    }
    /// Without what is worth least for its length, until the rest fits.
    Pattern trimmed(Pattern p, const Prices& now) const {
        while (!fits(cutting_, p)) {
            std::size_t least = p.taken.size();
            const auto each = [&](std::size_t i) { return now.items[i] / cutting_.items[i].least_steps(); };
            for (std::size_t i = 0; i < p.taken.size(); ++i)
                if (p.taken[i] > 0 && (least == p.taken.size() || each(i) < each(least))) least = i;
            --p.taken[least];
        }
        return p;
    }

    /// Patterns taken so far, and what is still wanted filled bar by bar with the longest that fits: a whole plan.
    void take(std::vector<Pattern> plan, std::vector<int> wanted, std::vector<int> left) {
        while (std::any_of(wanted.begin(), wanted.end(), [](int w) { return w > 0; })) {
            Pattern next;
            double least = HUGE_VAL;
            for (std::size_t k = 0; k < cutting_.kinds.size(); ++k) {
                if (left[k] == 0) continue;
                Pattern p{static_cast<int>(k), std::vector<int>(cutting_.items.size(), 0)};
                int used = 0;
                for (std::size_t i = 0; i < cutting_.items.size(); ++i) {
                    if (wanted[i] <= 0 || !may(cutting_.items[i], cutting_.kinds[k])) continue;
                    p.taken[i] = room_for(cutting_, p, i, wanted[i]);
                    used += p.taken[i] * cutting_.items[i].least_steps();
                }
                if (used == 0) continue;
                const double each = cutting_.kinds[k].cost / used;
                if (each < least) least = each, next = p;
            }
            if (std::isinf(least)) return;
            for (std::size_t i = 0; i < wanted.size(); ++i) wanted[i] -= next.taken[i];
            if (left[static_cast<std::size_t>(next.kind)] > 0) --left[static_cast<std::size_t>(next.kind)];
            keep(next);
            plan.push_back(next);
        }
        double sum = 0;
        for (const Pattern& p : plan) sum += cutting_.kinds[static_cast<std::size_t>(p.kind)].cost;
        if (sum < cost - tiny) cost = sum, best = std::move(plan);
    }

    Prices prices_of(const Program& program) const {
        Prices out;
        for (std::size_t i = 0; i < cutting_.items.size(); ++i) out.items.push_back(std::max(0.0, program.price(i)));
        for (std::size_t k = 0; k < cutting_.kinds.size(); ++k)
            out.kinds.push_back(std::min(0.0, program.price_of_kind(k)));
        return out;
    }
    /// Between prices that gave the best bound and those of now: new ones jump about, and what is bought at prices
    /// between serves both (P. Wentges, Int. Trans. Oper. Res. 4, 1997; from memory).
    static Prices between(const Prices& steady, const Prices& now) {
        constexpr double keep = 0.6;
        Prices out = now;
        for (std::size_t i = 0; i < now.items.size(); ++i)
            out.items[i] = keep * steady.items[i] + (1 - keep) * now.items[i];
        for (std::size_t k = 0; k < now.kinds.size(); ++k)
            out.kinds[k] = keep * steady.kinds[k] + (1 - keep) * now.kinds[k];
        return out;
    }

    /// Keeps the patterns that are worth more than they cost `now`, looked for at the prices `at`. Returns what no
    /// relaxed plan costs less than: the prices brought down until no pattern is worth more than it costs
    /// (A.A. Farley, Oper. Res. 38, 1990; from memory).
    double buy(const Prices& at, const Prices& now, const std::vector<int>& wanted, const std::vector<int>& left,
               bool& more) {
        double dearer = 0, sum = 0;
        // What is wanted in all, not only now: what is found serves later as well.
        std::vector<int> all;
        for (const Want& i : cutting_.items) all.push_back(i.wanted);
        for (const std::string& grade : grades_) {
            knapsack_.solve(grade, at.items, all);
            for (std::size_t k = 0; k < cutting_.kinds.size(); ++k) {
                const BarKind& kind = cutting_.kinds[k];
                if (left[k] == 0 || kind.grade != grade) continue;
                dearer = std::max(dearer, (knapsack_.value(k) + at.kinds[k]) / kind.cost);
                const Pattern p = knapsack_.pattern(k);
                if (worth(p, now) <= kind.cost - now.kinds[k] + 1e-6 * dearest_) continue;
                if (!keep(p)) continue;
                more = true;
                if (!fits_.back()) keep(trimmed(p, now));
            }
        }
        for (std::size_t i = 0; i < wanted.size(); ++i) sum += wanted[i] * at.items[i];
        for (std::size_t k = 0; k < left.size(); ++k)
            if (left[k] > 0) sum += left[k] * at.kinds[k];
        return dearer > 0 ? sum / dearer : 0;
    }
    static double worth(const Pattern& p, const Prices& at) {
        double out = 0;
        for (std::size_t i = 0; i < p.taken.size(); ++i) out += p.taken[i] * at.items[i];
        return out;
    }

    /// The relaxed cost of what is wanted, with all patterns that it needs, or what it costs at least where time
    /// ends; prices_ and amounts_ are of its solution.
    double relax(const std::vector<int>& wanted, const std::vector<int>& left) {
        Program program(cutting_);
        for (std::size_t i = 0; i < wanted.size(); ++i) {
            program.set_wanted(i, wanted[i]);
            program.add_way_out(i, 1000 * dearest_);
        }
        for (std::size_t k = 0; k < left.size(); ++k) program.set_left(k, left[k]);
        std::size_t in = 0;
        double least = 0;
        Prices steady;
        while (true) {
            for (; in < patterns_.size(); ++in) program.add(patterns_[in]);
            if (!program.solve()) return HUGE_VAL;
            prices_ = prices_of(program);
            bool more = false;
            const auto look = [&](const Prices& at) {
                const double bound_there = buy(at, prices_, wanted, left, more);
                if (bound_there > least) least = bound_there, steady = at;
            };
            if (!steady.items.empty()) look(between(steady, prices_));
            if (!more) look(prices_);
            if (more && in_time()) continue;
            amounts_.clear();
            for (std::size_t p = 0; p < in; ++p) amounts_.push_back(program.amount(p));
            if (!more && program.unmet() > 1e-6) return HUGE_VAL;
            return more ? least : program.cost();
        }
    }

    /// Takes the whole bars of the relaxed plan, then the fullest fraction, relaxes what is left, and so on.
    void dive(std::vector<int> wanted, std::vector<int> left) {
        std::vector<Pattern> plan;
        const auto add = [&](std::size_t p, int times) {
            const Pattern& pattern = patterns_[p];
            for (int k = 0; k < times; ++k) {
                plan.push_back(pattern);
                for (std::size_t i = 0; i < wanted.size(); ++i) wanted[i] = std::max(0, wanted[i] - pattern.taken[i]);
                auto& stock = left[static_cast<std::size_t>(pattern.kind)];
                if (stock > 0) --stock;
            }
        };
        const auto amounts = amounts_;
        const Prices prices = prices_;
        while (std::any_of(wanted.begin(), wanted.end(), [](int w) { return w > 0; }) && in_time()) {
            std::size_t fullest = 0;
            double most = -1;
            bool took = false;
            for (std::size_t p = 0; p < amounts_.size(); ++p) {
                if (!fits_[p]) continue;
                const int whole_ones = static_cast<int>(std::floor(amounts_[p] + 1e-6));
                if (whole_ones > 0) add(p, whole_ones), took = true;
                const double fraction = amounts_[p] - whole_ones;
                if (fraction > most && left[static_cast<std::size_t>(patterns_[p].kind)] != 0)
                    most = fraction, fullest = p;
            }
            if (!took) {
                if (most <= 1e-6) break;
                add(fullest, 1);
            }
            take(plan, wanted, left);
            if (cost <= bound + tiny) break;
            if (std::isinf(relax(wanted, left))) break;
        }
        amounts_ = amounts;
        prices_ = prices;
    }

    /// The best whole plan of some patterns, where it is cheaper than the best; true when all were looked through.
    bool whole(const std::vector<Pattern>& patterns, double share) {
        Program program(cutting_);
        for (const Pattern& p : patterns) program.add(p);
        bool all = false;
        if (!program.solve()) return false;
        const auto amounts =
            program.whole_amounts(next_below(cutting_, cost), share * seconds_left(), patterns.size(), all);
        if (amounts.empty()) return all;
        std::vector<Pattern> plan;
        double sum = 0;
        for (std::size_t k = 0; k < amounts.size(); ++k)
            for (int n = 0; n < amounts[k]; ++n) {
                plan.push_back(patterns[k]);
                sum += cutting_.kinds[static_cast<std::size_t>(patterns[k].kind)].cost;
            }
        if (sum < cost - tiny) cost = sum, best = std::move(plan);
        return all;
    }

    /// A plan cheaper than the best uses only patterns whose reduced cost is less than the gap: all of them are
    /// listed.
    void close_gap(double relaxed) {
        const double gap = next_below(cutting_, cost) - relaxed + tiny * std::max(1.0, cost);
        if (gap < 0) {
            proved = true;
            return;
        }
        std::vector<Pattern> all;
        for (std::size_t k = 0; k < cutting_.kinds.size(); ++k) {
            if (cutting_.kinds[k].count == 0) continue;
            Pattern p{static_cast<int>(k), std::vector<int>(cutting_.items.size(), 0)};
            const double least_worth = cutting_.kinds[k].cost - prices_.kinds[k] - gap;
            if (!list(all, p, 0, cutting_.kinds[k].steps, 0, least_worth)) return;
        }
        const bool looked_through = whole(all, 0.95);
        if (looked_through) proved = true, bound = cost;
    }

    /// Every pattern from item `i` on that fits and is worth enough; false when there are too many.
    bool list(std::vector<Pattern>& out, Pattern& p, std::size_t i, int room, double worth, double least_worth) {
        if (out.size() > most_patterns || ((++listed_ & 1023U) == 0 && !in_time())) return false;
        // What the rest of the room could be worth at most.
        double more = 0;
        for (std::size_t k = i; k < cutting_.items.size(); ++k)
            if (cutting_.items[k].least_steps() <= room)
                more = std::max(more, prices_.items[k] / cutting_.items[k].least_steps());
        if (worth + more * room < least_worth) return true;
        while (i < cutting_.items.size() &&
               (cutting_.items[i].least_steps() > room ||
                !may(cutting_.items[i], cutting_.kinds[static_cast<std::size_t>(p.kind)])))
            ++i;
        if (i == cutting_.items.size()) {
            if (worth >= least_worth && fits(cutting_, p)) out.push_back(p);
            return true;
        }
        const int each = cutting_.items[i].least_steps(), most = std::min(cutting_.items[i].wanted, room / each);
        for (int n = most; n >= 0; --n) {
            p.taken[i] = n;
            if (!list(out, p, i + 1, room - n * each, worth + n * prices_.items[i], least_worth)) return false;
        }
        p.taken[i] = 0;
        return true;
    }

    const Cutting& cutting_;
    Clock::time_point end_;
    const KeepGoing& keep_going_;
    double dearest_ = 0;
    std::vector<Pattern> patterns_;
    std::vector<bool> fits_;  ///< beside the patterns: the relaxed plan may use the others as well
    std::map<Pattern, std::size_t> known_;
    Prices prices_;
    std::vector<double> amounts_;
    Knapsack knapsack_{cutting_};
    std::vector<std::string> grades_;  ///< of the kinds, each once
    unsigned listed_ = 0;
};

/// As much as there is stock for, where it is not enough for all.
std::vector<Pattern> what_there_is(const Cutting& cutting, std::vector<int>& wanted) {
    std::vector<Pattern> out;
    std::vector<std::size_t> order(cutting.kinds.size());
    std::iota(order.begin(), order.end(), 0U);
    std::stable_sort(order.begin(), order.end(),
                     [&](std::size_t a, std::size_t b) { return cutting.kinds[a].steps > cutting.kinds[b].steps; });
    for (std::size_t k : order)
        for (int n = 0; n < cutting.kinds[k].count; ++n) {
            Pattern p{static_cast<int>(k), std::vector<int>(wanted.size(), 0)};
            bool any = false;
            for (std::size_t i = 0; i < wanted.size(); ++i) {
                if (!may(cutting.items[i], cutting.kinds[k])) continue;
                p.taken[i] = room_for(cutting, p, i, wanted[i]);
                wanted[i] -= p.taken[i];
                any = any || p.taken[i] > 0;
            }
            if (any) out.push_back(p);
        }
    return out;
}

/// Patterns as bars, each part handed out once, the longest first.
LengthPlan plan_of(const LengthProblem& problem, Cutting cutting, const std::vector<Pattern>& patterns) {
    LengthPlan out;
    out.unplaced = cutting.unplaced;
    const bool by_cost = costs_known(problem);
    for (const Pattern& p : patterns) {
        const auto& bar = problem.bars[static_cast<std::size_t>(p.kind)];
        std::vector<int> parts;
        for (std::size_t i = 0; i < p.taken.size(); ++i)
            for (int n = 0; n < p.taken[i] && !cutting.items[i].parts.empty(); ++n) {
                parts.push_back(cutting.items[i].parts.back());
                cutting.items[i].parts.pop_back();
            }
        if (parts.empty()) continue;
        out.cost += by_cost ? bar.cost : bar.length_mm;
        out.bars.push_back(laid_in_bar(problem, p.kind, parts));
    }
    std::map<int, int> rest;
    for (const Want& item : cutting.items)
        for (int part : item.parts) ++rest[part];
    for (const auto& [part, count] : rest) out.unplaced.emplace_back(part, count);
    std::stable_sort(out.bars.begin(), out.bars.end(), [](const CutBar& a, const CutBar& b) {
        const auto part = [](const CutLength& one) { return one.part; };
        if (a.bar != b.bar) return a.bar < b.bar;
        return std::ranges::lexicographical_compare(a.lengths, b.lengths, {}, part, part);
    });
    return out;
}

/// Whether no kerf goes between two neighbours: neither along the flatter of their ends nor square.
bool too_close(const LengthProblem& problem, const CutLength& before, const CutLength& next) {
    constexpr double tolerance_mm = 0.01;
    const LengthPart &one = problem.parts.at(static_cast<std::size_t>(before.part)),
                     &other = problem.parts.at(static_cast<std::size_t>(next.part));
    if (next.from_mm - before.from_mm - one.length_mm >= problem.kerf_mm - tolerance_mm) return false;
    if (one.ends_seen != other.ends_seen) return true;
    const LaidLength left = laid(problem, before), right = laid(problem, next);
    const double gap = std::min(right.near_from_mm - left.near_to_mm, right.far_from_mm - left.far_to_mm);
    const double flatter = std::min(std::abs(left.right_deg), std::abs(right.left_deg));
    return gap < problem.kerf_mm / std::cos(units::radians(flatter)) - tolerance_mm;
}

}  // namespace

std::string fault_of(const LengthProblem& problem, const LengthPart& part) {
    if (!units::range::length.holds(part.length_mm)) return units::out_of_range(units::range::length, part.length_mm);
    for (double lean : {part.left_deg, part.right_deg})
        if (!units::range::end_angle.holds(lean)) return units::out_of_range(units::range::end_angle, lean);
    if (part.quantity < 0) return "it has a negative quantity";
    const LaidLength lies = laid(part, across_mm(problem, part), {});
    const double shorter = std::min(lies.near_to_mm - lies.near_from_mm, lies.far_to_mm - lies.far_from_mm);
    if (shorter <= 0)
        return fmt::format("its ends meet before the other edge: it must be longer than {:.1f} mm",
                           part.length_mm - shorter);
    return {};
}

std::string fault_of(const LengthProblem& problem) {
    if (problem.bars.empty()) return "there are no bars";
    if (problem.bars.size() > units::limit::bars.most)
        return units::too_many(units::limit::bars, problem.bars.size());
    if (!units::range::kerf.holds(problem.kerf_mm))
        return "the kerf: " + units::out_of_range(units::range::kerf, problem.kerf_mm);
    for (const auto& bar : problem.bars)
        if (!units::range::length.holds(bar.length_mm))
            return fmt::format("bar '{}': {}", bar.id, units::out_of_range(units::range::length, bar.length_mm));
    for (double side : {problem.wide_mm, problem.narrow_mm})
        if (side != 0 && !units::range::thickness.holds(side))
            return "the section: " + units::out_of_range(units::range::thickness, side);
    std::size_t copies = 0;
    for (const auto& part : problem.parts) {
        if (const auto fault = fault_of(problem, part); !fault.empty())
            return fmt::format("length '{}': {}", part.id, fault);
        copies += static_cast<std::size_t>(part.quantity);
    }
    if (copies > units::limit::bar_cuts.most) return units::too_many(units::limit::bar_cuts, copies);
    return {};
}

LengthPlan cut_lengths(const LengthProblem& problem, double seconds, const KeepGoing& keep_going) {
    const Cutting cutting = cutting_of(problem);
    if (cutting.items.empty()) {
        LengthPlan nothing = plan_of(problem, cutting, {});
        nothing.proved = true;
        return nothing;
    }
    PatternSearch search(cutting, seconds, keep_going);
    search.run();
    if (search.best.empty()) {
        std::vector<int> wanted;
        for (const Want& i : cutting.items) wanted.push_back(i.wanted);
        return plan_of(problem, cutting, what_there_is(cutting, wanted));
    }
    LengthPlan out = plan_of(problem, cutting, search.best);
    out.bound = std::min(search.bound, out.cost);
    out.proved = search.proved;
    if (out.proved) out.bound = out.cost;
    return out;
}

std::vector<std::string> violations(const LengthProblem& problem, const LengthPlan& plan) {
    std::vector<std::string> out;
    std::vector<int> cut(problem.parts.size(), 0), used(problem.bars.size(), 0);
    for (const CutBar& one : plan.bars) {
        const auto& bar = problem.bars.at(static_cast<std::size_t>(one.bar));
        ++used[static_cast<std::size_t>(one.bar)];
        for (const CutLength& length : one.lengths) {
            const auto& part = problem.parts.at(static_cast<std::size_t>(length.part));
            ++cut[static_cast<std::size_t>(length.part)];
            if (!part.grade.empty() && part.grade != bar.grade)
                out.push_back(fmt::format("'{}' is cut from a bar of another grade", part.id));
            if (part.as_drawn && (length.turned || length.rolled))
                out.push_back(fmt::format("'{}' does not lie as it is drawn", part.id));
            if (length.from_mm < 0 || length.from_mm + part.length_mm > bar.length_mm + 0.01)
                out.push_back(fmt::format("'{}' reaches beyond '{}'", part.id, bar.id));
        }
        for (std::size_t k = 1; k < one.lengths.size(); ++k)
            if (too_close(problem, one.lengths[k - 1], one.lengths[k]))
                out.push_back(fmt::format("no saw goes between two lengths of '{}'", bar.id));
    }
    for (std::size_t k = 0; k < used.size(); ++k)
        if (problem.bars[k].count >= 0 && used[k] > problem.bars[k].count)
            out.push_back(fmt::format("more of '{}' is cut than there is", problem.bars[k].id));
    for (const auto& [p, count] : plan.unplaced) cut[static_cast<std::size_t>(p)] += count;
    for (std::size_t p = 0; p < cut.size(); ++p)
        if (cut[p] != problem.parts[p].quantity)
            out.push_back(fmt::format("'{}' is wanted {} times and cut {}", problem.parts[p].id,
                                      problem.parts[p].quantity, cut[p]));
    return out;
}

}  // namespace bevelsmith::sheets
