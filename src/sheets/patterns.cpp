#include "sheets/patterns.h"

#include <glpk.h>

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <numeric>

namespace bevelsmith::sheets {
namespace {

constexpr int most_steps_of_a_bar = 20'000;

/// The largest amount that all costs are multiples of, to a hundred-thousandth.
double common_grain(const std::vector<BarKind>& kinds) {
    constexpr double unit = 1e-3;
    long long out = 0;
    for (const BarKind& k : kinds) {
        const double many = k.cost / unit;
        if (std::abs(many - std::round(many)) > 1e-4 * unit + 1e-6 * many) return 0;
        out = std::gcd(out, std::llround(many));
    }
    return static_cast<double>(out) * unit;
}

/// What the ends of a length can save, in whole steps, the greater one first: it may lie either way round.
EndPair ends_of(const LengthProblem& problem, const LengthPart& part, double step) {
    if (part.as_drawn) return {};
    const double across = part.ends_seen == EndsSeen::wide_side ? problem.wide_mm : problem.narrow_mm;
    const auto steps = [&](double lean_deg) {
        return static_cast<int>(std::floor(end_saving_mm(lean_deg, across, problem.kerf_mm) / step + 1e-6));
    };
    const auto [less, more] = std::minmax({steps(part.left_deg), steps(part.right_deg)});
    return {more, less};
}

/// What a pattern takes if all its ends could save all they can, and if none did.
std::pair<int, int> steps_between(const Cutting& cutting, const Pattern& pattern) {
    std::pair<int, int> out{0, 0};
    for (std::size_t i = 0; i < pattern.taken.size(); ++i) {
        out.first += pattern.taken[i] * cutting.items[i].least_steps();
        out.second += pattern.taken[i] * cutting.items[i].steps;
    }
    return out;
}

/// What the lengths of a pattern save that are seen to lean on one side.
int saved_steps(const Cutting& cutting, const Pattern& pattern, EndsSeen seen) {
    std::vector<EndPair> ends;
    for (std::size_t i = 0; i < pattern.taken.size(); ++i)
        if (cutting.items[i].ends_seen == seen && cutting.items[i].ends.left > 0)
            ends.insert(ends.end(), static_cast<std::size_t>(pattern.taken[i]), cutting.items[i].ends);
    return end_to_end(ends).saved;
}

}  // namespace

bool fits(const Cutting& cutting, const Pattern& pattern) {
    const int room = cutting.kinds[static_cast<std::size_t>(pattern.kind)].steps;
    const auto [least, most] = steps_between(cutting, pattern);
    if (most <= room || least > room) return most <= room;
    return most - saved_steps(cutting, pattern, EndsSeen::wide_side) -
               saved_steps(cutting, pattern, EndsSeen::narrow_side) <=
           room;
}
int room_for(const Cutting& cutting, const Pattern& pattern, std::size_t item, int most) {
    const int room = cutting.kinds[static_cast<std::size_t>(pattern.kind)].steps;
    const auto [least_used, most_used] = steps_between(cutting, pattern);
    int sure = std::clamp((room - most_used) / cutting.items[item].steps, 0, most);
    int beyond = std::clamp((room - least_used) / cutting.items[item].least_steps(), sure, most) + 1;
    // How far ends that lie in one another stretch it, no sum tells: halve the range.
    Pattern with = pattern;
    while (sure + 1 < beyond) {
        const int middle = sure + (beyond - sure) / 2;
        with.taken[item] = pattern.taken[item] + middle;
        (fits(cutting, with) ? sure : beyond) = middle;
    }
    return sure;
}

bool may(const Want& item, const BarKind& kind) {
    return (item.grade.empty() || item.grade == kind.grade) && item.steps <= kind.steps;
}

bool costs_known(const LengthProblem& problem) {
    return std::all_of(problem.bars.begin(), problem.bars.end(), [](const BarStock& b) { return b.cost > 0; });
}

Cutting cutting_of(const LengthProblem& problem) {
    Cutting out;
    double longest = 0;
    for (const auto& bar : problem.bars) longest = std::max(longest, bar.length_mm + problem.kerf_mm);
    double step = 0.1;
    while (longest / step > most_steps_of_a_bar) step += 0.1;
    const bool by_cost = costs_known(problem);
    for (const auto& bar : problem.bars)
        out.kinds.push_back({static_cast<int>(std::floor((bar.length_mm + problem.kerf_mm) / step + 1e-6)),
                             by_cost ? bar.cost : bar.length_mm, bar.count, bar.grade});
    std::map<std::tuple<int, std::string, int, int, EndsSeen>, Want> items;
    for (int p = 0; p < static_cast<int>(problem.parts.size()); ++p) {
        const auto& part = problem.parts[static_cast<std::size_t>(p)];
        Want one;
        one.steps = static_cast<int>(std::ceil((part.length_mm + problem.kerf_mm) / step - 1e-6));
        one.ends = ends_of(problem, part, step), one.ends_seen = part.ends_seen, one.grade = part.grade;
        if (std::none_of(out.kinds.begin(), out.kinds.end(),
                         [&](const BarKind& k) { return k.count != 0 && may(one, k); })) {
            if (part.quantity > 0) out.unplaced.emplace_back(p, part.quantity);
            continue;
        }
        Want& item = items.try_emplace({-one.steps, part.grade, one.ends.left, one.ends.right, one.ends_seen}, one)
                         .first->second;
        item.wanted += part.quantity;
        item.parts.insert(item.parts.end(), static_cast<std::size_t>(part.quantity), p);
    }
    for (auto& [key, item] : items)
        if (item.wanted > 0) out.items.push_back(std::move(item));
    // Steps in common make the tables of the pricing short.
    int common = 0;
    for (const Want& i : out.items) common = std::gcd(std::gcd(common, i.steps), std::gcd(i.ends.left, i.ends.right));
    if (common > 1) {
        for (Want& i : out.items) i.steps /= common, i.ends.left /= common, i.ends.right /= common;
        for (BarKind& k : out.kinds) k.steps /= common;
    }
    out.grain = common_grain(out.kinds);
    return out;
}

namespace {

/// The library holds memory for every thread that has used it, until that thread says that it is done.
glp_prob* new_program() {
    struct Environment {
        ~Environment() { glp_free_env(); }
    };
    thread_local const Environment held;
    (void)held;
    return glp_create_prob();
}

}  // namespace

Program::Program(const Cutting& cutting) : cutting_(cutting), lp_(new_program(), &glp_delete_prob) {
    glp_term_out(GLP_OFF);
    glp_set_obj_dir(lp_.get(), GLP_MIN);
    glp_add_rows(lp_.get(), static_cast<int>(cutting.items.size() + cutting.kinds.size()));
    for (std::size_t i = 0; i < cutting.items.size(); ++i) set_wanted(i, cutting.items[i].wanted);
    for (std::size_t k = 0; k < cutting.kinds.size(); ++k) set_left(k, cutting.kinds[k].count);
}
void Program::set_wanted(std::size_t item, int wanted) {
    glp_set_row_bnds(lp_.get(), static_cast<int>(item) + 1, GLP_LO, wanted, 0);
}
void Program::set_left(std::size_t kind, int left) {
    glp_set_row_bnds(lp_.get(), row_of(kind), left < 0 ? GLP_FR : GLP_UP, 0, left);
}
void Program::add(const Pattern& pattern) {
    std::vector<int> rows{0};
    std::vector<double> values{0};
    for (std::size_t i = 0; i < pattern.taken.size(); ++i)
        if (pattern.taken[i] > 0) rows.push_back(static_cast<int>(i) + 1), values.push_back(pattern.taken[i]);
    rows.push_back(row_of(static_cast<std::size_t>(pattern.kind))), values.push_back(1);
    const int column = glp_add_cols(lp_.get(), 1);
    glp_set_col_bnds(lp_.get(), column, GLP_LO, 0, 0);
    glp_set_obj_coef(lp_.get(), column, cutting_.kinds[static_cast<std::size_t>(pattern.kind)].cost);
    glp_set_mat_col(lp_.get(), column, static_cast<int>(rows.size()) - 1, rows.data(), values.data());
}
void Program::add_way_out(std::size_t item, double cost) {
    const int column = glp_add_cols(lp_.get(), 1);
    glp_set_col_bnds(lp_.get(), column, GLP_LO, 0, 0);
    glp_set_obj_coef(lp_.get(), column, cost);
    const int rows[] = {0, static_cast<int>(item) + 1};
    const double values[] = {0, 1};
    glp_set_mat_col(lp_.get(), column, 1, rows, values);
    ++ways_out_;
}
bool Program::solve() {
    glp_smcp how;
    glp_init_smcp(&how);
    how.msg_lev = GLP_MSG_OFF;
    return glp_simplex(lp_.get(), &how) == 0 && glp_get_status(lp_.get()) == GLP_OPT;
}
double Program::cost() const {
    return glp_get_obj_val(lp_.get());
}
double Program::price(std::size_t item) const {
    return glp_get_row_dual(lp_.get(), static_cast<int>(item) + 1);
}
double Program::price_of_kind(std::size_t kind) const {
    return glp_get_row_dual(lp_.get(), row_of(kind));
}
double Program::unmet() const {
    double out = 0;
    for (int c = 1; c <= ways_out_; ++c) out += glp_get_col_prim(lp_.get(), c);
    return out;
}
double Program::amount(std::size_t pattern) const {
    return glp_get_col_prim(lp_.get(), ways_out_ + static_cast<int>(pattern) + 1);
}
std::vector<int> Program::whole_amounts(double most, double seconds, std::size_t patterns, bool& whole) {
    for (int c = 1; c <= ways_out_; ++c) glp_set_col_bnds(lp_.get(), c, GLP_FX, 0, 0);
    for (std::size_t k = 0; k < patterns; ++k)
        glp_set_col_kind(lp_.get(), ways_out_ + static_cast<int>(k) + 1, GLP_IV);
    const int limit = glp_add_rows(lp_.get(), 1);
    std::vector<int> columns{0};
    std::vector<double> costs{0};
    for (int c = ways_out_ + 1; c <= glp_get_num_cols(lp_.get()); ++c)
        columns.push_back(c), costs.push_back(glp_get_obj_coef(lp_.get(), c));
    glp_set_mat_row(lp_.get(), limit, static_cast<int>(columns.size()) - 1, columns.data(), costs.data());
    glp_set_row_bnds(lp_.get(), limit, GLP_UP, 0, most + tiny * std::max(1.0, most));
    glp_iocp how;
    glp_init_iocp(&how);
    how.msg_lev = GLP_MSG_OFF;
    how.presolve = GLP_ON;
    how.gmi_cuts = how.mir_cuts = how.cov_cuts = GLP_ON;
    how.tm_lim = std::max(1, static_cast<int>(1000 * seconds));
    const int ended = glp_intopt(lp_.get(), &how);
    const int status = glp_mip_status(lp_.get());
    whole = (ended == 0 && (status == GLP_OPT || status == GLP_NOFEAS)) || ended == GLP_ENOPFS || ended == GLP_ENODFS;
    if (status != GLP_OPT && status != GLP_FEAS) return {};
    std::vector<int> out;
    for (std::size_t k = 0; k < patterns; ++k)
        out.push_back(static_cast<int>(std::lround(glp_mip_col_val(lp_.get(), ways_out_ + static_cast<int>(k) + 1))));
    return out;
}

namespace {

/// What the outer ends of a bar lose when these are the greatest in it; none that is sure where ends are unlike.
constexpr int unlike = std::numeric_limits<int>::max();
int lost_at_the_ends(const Want& item) {
    return item.ends.left == item.ends.right ? item.ends.left : unlike;
}

}  // namespace

Knapsack::Knapsack(const Cutting& cutting)
    : cutting_(cutting), order_(cutting.items.size()), best_(cutting.kinds.size()) {
    std::iota(order_.begin(), order_.end(), 0U);
    std::stable_sort(order_.begin(), order_.end(), [&](std::size_t a, std::size_t b) {
        return lost_at_the_ends(cutting.items[a]) < lost_at_the_ends(cutting.items[b]);
    });
}
void Knapsack::add_lots(std::size_t item, double worth, int wanted) {
    const int steps = cutting_.items[item].least_steps();
    // 1, 2, 4 .. of them and the rest: every number up to what is wanted or fits.
    int left = std::min(wanted, (static_cast<int>(table_.size()) - 1) / steps);
    for (int lot = 1; left > 0; lot *= 2) {
        const int take = std::min(lot, left);
        left -= take;
        lots_.push_back({static_cast<int>(item), take, take * steps, take * worth});
        fill(lots_.size() - 1);
    }
}
void Knapsack::fill(std::size_t lot) {
    if (chosen_.size() <= lot) chosen_.emplace_back();
    auto& chosen = chosen_[lot];
    chosen.assign(table_.size(), false);
    const auto steps = static_cast<std::size_t>(lots_[lot].steps);
    for (std::size_t at = table_.size(); at-- > steps;) {
        const double with = table_[at - steps] + lots_[lot].worth;
        if (with > table_[at] + 1e-12) table_[at] = with, chosen[at] = true;
    }
}
void Knapsack::read(const std::string& grade, int lost) {
    for (std::size_t k = 0; k < best_.size(); ++k) {
        const BarKind& kind = cutting_.kinds[k];
        if (kind.grade != grade || lost > kind.steps) continue;
        const auto room = static_cast<std::size_t>(kind.steps - lost);
        if (table_[room] > best_[k].value) best_[k] = {table_[room], lots_.size(), room};
    }
}

void Knapsack::solve(const std::string& grade, const std::vector<double>& worth, const std::vector<int>& wanted) {
    int longest = 0;
    for (std::size_t k = 0; k < best_.size(); ++k) {
        best_[k] = {};
        if (cutting_.kinds[k].grade == grade) longest = std::max(longest, cutting_.kinds[k].steps);
    }
    table_.assign(static_cast<std::size_t>(longest) + 1, 0);
    lots_.clear();
    for (std::size_t k = 0; k < order_.size(); ++k) {
        const std::size_t i = order_[k];
        const Want& item = cutting_.items[i];
        if (worth[i] > tiny && wanted[i] > 0 && (item.grade.empty() || item.grade == grade))
            add_lots(i, worth[i], wanted[i]);
        const int lost = lost_at_the_ends(item);
        if (k + 1 == order_.size() || lost_at_the_ends(cutting_.items[order_[k + 1]]) != lost)
            read(grade, lost == unlike ? 0 : lost);
    }
}

Pattern Knapsack::pattern(std::size_t kind) const {
    Pattern out{static_cast<int>(kind), std::vector<int>(cutting_.items.size(), 0)};
    std::size_t at = best_[kind].room;
    for (std::size_t k = best_[kind].lots; k-- > 0;)
        if (chosen_[k][at]) {
            out.taken[static_cast<std::size_t>(lots_[k].item)] += lots_[k].count;
            at -= static_cast<std::size_t>(lots_[k].steps);
        }
    return out;
}

}  // namespace bevelsmith::sheets
