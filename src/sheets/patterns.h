// What cutting bars is made of: equal lengths in whole steps, patterns, programs over them and the knapsack that
// finds them. For lengths.cpp alone.
#pragma once

#include <memory>
#include <string>
#include <tuple>
#include <utility>
#include <vector>

#include "sheets/end_joints.h"
#include "sheets/lengths.h"

struct glp_prob;

namespace bevelsmith::sheets {

/// More patterns than these are not put into one integer program.
inline constexpr std::size_t most_patterns = 30'000;
inline constexpr double tiny = 1e-7;

/// Equal lengths are one item, all in whole steps.
struct Want {
    int steps = 0;  ///< with one cut
    EndPair ends;
    EndsSeen ends_seen = EndsSeen::wide_side;
    int wanted = 0;
    std::string grade;
    std::vector<int> parts;  ///< one an entry
    /// What it takes of a bar at least, however its ends lie.
    int least_steps() const { return steps - (ends.left + ends.right + 1) / 2; }
};

struct BarKind {
    int steps = 0;  ///< with one cut more: the last piece needs none
    double cost = 0;
    int count = -1;
    std::string grade;
};

struct Pattern {
    int kind = 0;
    std::vector<int> taken;  ///< beside the items
    bool operator<(const Pattern& o) const { return std::tie(kind, taken) < std::tie(o.kind, o.taken); }
};

struct Cutting {
    std::vector<Want> items;
    std::vector<BarKind> kinds;
    std::vector<std::pair<int, int>> unplaced;
    double grain = 0;  ///< all costs are whole multiples of it; 0 where none was found
};

bool may(const Want& item, const BarKind& kind);
bool costs_known(const LengthProblem& problem);
Cutting cutting_of(const LengthProblem& problem);
/// Whether a pattern's lengths go into its bar, their ends lying in one another as well as they can.
bool fits(const Cutting& cutting, const Pattern& pattern);
/// How many more of an item go into a pattern, `most` at most.
int room_for(const Cutting& cutting, const Pattern& pattern, std::size_t item, int most);

/// A linear or integer program over patterns.
class Program {
  public:
    explicit Program(const Cutting& cutting);
    void set_wanted(std::size_t item, int wanted);
    void set_left(std::size_t kind, int left);
    void add(const Pattern& pattern);
    /// A column without wood that fills any want at a price that no plan would pay: a start for the simplex.
    void add_way_out(std::size_t item, double cost);
    bool solve();
    double cost() const;
    double price(std::size_t item) const;
    double price_of_kind(std::size_t kind) const;
    /// What of the wants no bar meets.
    double unmet() const;
    double amount(std::size_t pattern) const;
    /// How often each pattern is cut in the best whole solution that costs at most `most`; empty where there is none,
    /// or none was found in time. `whole` tells whether the search was whole.
    std::vector<int> whole_amounts(double most, double seconds, std::size_t patterns, bool& whole);

  private:
    int row_of(std::size_t kind) const { return static_cast<int>(cutting_.items.size() + kind) + 1; }
    const Cutting& cutting_;
    std::unique_ptr<glp_prob, void (*)(glp_prob*)> lp_;
    int ways_out_ = 0;
};

/// The most that pieces of one bar are worth: a knapsack with so many of each, by one table over the steps of all
/// kinds of a grade. Each takes its least steps; where both ends of all are alike, a bar takes besides what the
/// greatest of them could save (its two outer ends, which lie against nothing), and then the pattern fits as it is.
/// Others may not: see fits().
class Knapsack {
  public:
    explicit Knapsack(const Cutting& cutting);
    void solve(const std::string& grade, const std::vector<double>& worth, const std::vector<int>& wanted);
    /// Of the grade that was solved last.
    double value(std::size_t kind) const { return best_[kind].value; }
    Pattern pattern(std::size_t kind) const;

  private:
    struct Lot {
        int item = 0, count = 0, steps = 0;
        double worth = 0;
    };
    struct Best {
        double value = 0;
        std::size_t lots = 0, room = 0;
    };
    void add_lots(std::size_t item, double worth, int wanted);
    void fill(std::size_t lot);
    void read(const std::string& grade, int lost);
    const Cutting& cutting_;
    std::vector<std::size_t> order_;  ///< lengths with like ends first, by what these save
    std::vector<double> table_;
    std::vector<Lot> lots_;
    std::vector<std::vector<bool>> chosen_;
    std::vector<Best> best_;  ///< beside the kinds
};

}  // namespace bevelsmith::sheets
