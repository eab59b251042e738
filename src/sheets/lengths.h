// Lengths from bars of stock: cleats, bearers, lippings, planks and trim, cut with the least cost.
#pragma once

#include <string>
#include <vector>

#include "units/stop.h"

namespace bevelsmith::sheets {

/// A length to be cut `quantity` times, over its long points. Ends may lean off square; each is cut from the full
/// length, nothing is counted for ends that would lie in one another.
struct LengthPart {
    std::string id;
    double length_mm = 0;
    int quantity = 1;
    std::string grade;  ///< empty: any bar will do
    bool operator==(const LengthPart&) const = default;
};

/// A kind of bar that it may be cut from.
struct BarStock {
    std::string id;
    double length_mm = 0;
    double cost = 0;  ///< of one; where a bar has none, all count by their length
    int count = -1;   ///< -1: as many as needed
    std::string grade;
    bool operator==(const BarStock&) const = default;
};

struct LengthProblem {
    double kerf_mm = 3;
    std::vector<BarStock> bars;
    std::vector<LengthPart> parts;
    bool operator==(const LengthProblem&) const = default;
};

/// One bar with what is cut from it, in that order.
struct CutBar {
    int bar = 0;             ///< of LengthProblem::bars
    std::vector<int> parts;  ///< of LengthProblem::parts, one an entry
    double left_mm = 0;      ///< behind the last cut
    bool operator==(const CutBar&) const = default;
};

struct LengthPlan {
    std::vector<CutBar> bars;
    std::vector<std::pair<int, int>> unplaced;  ///< part and how many of it, where no bar is left or long enough
    double cost = 0;                            ///< of all bars, or their length where costs are not known
    double bound = 0;                           ///< no plan costs less
    bool proved = false;                        ///< that none is cheaper
    bool operator==(const LengthPlan&) const = default;
};

/// What is wrong with a problem before any work is done on it; empty when nothing is.
std::string fault_of(const LengthProblem& problem);

/// The cheapest plan. Lengths count to a tenth of a millimetre, to half of one on bars over 10 m.
///
/// Column generation over cutting patterns (P.C. Gilmore, R.E. Gomory, Oper. Res. 9, 1961, and 11, 1963; from memory)
/// gives a bound; patterns rounded one by one, and an integer program over those generated, give plans; where a gap
/// stays, every pattern that a better plan could use is listed by its reduced cost and the program solved over all of
/// them. Linear and integer programs by GLPK. Where there are too many such patterns, or `seconds` end, `proved`
/// stays false. Precondition: fault_of(problem) is empty.
LengthPlan cut_lengths(const LengthProblem& problem, double seconds = 2, const KeepGoing& keep_going = {});

/// What is wrong with a plan, told apart from how it was made: empty when it holds.
std::vector<std::string> violations(const LengthProblem& problem, const LengthPlan& plan);

}  // namespace bevelsmith::sheets
