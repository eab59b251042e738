// Lengths from bars of stock: cleats, bearers, lippings, planks and trim, cut with the least cost.
#pragma once

#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "units/stop.h"

namespace bevelsmith::sheets {

/// On which of a bar's sides an end is seen to lean: cut flat on the wide one, or stood on edge.
enum class EndsSeen { wide_side, narrow_side };

/// A length to be cut `quantity` times, over its long points. Both ends lean on one side of the section; an end that
/// leans both ways is not told.
struct LengthPart {
    std::string id;
    double length_mm = 0;
    int quantity = 1;
    std::string grade;  ///< empty: any bar will do
    /// Off square, with the length lying before one. Positive: its long point is on the near edge; negative: on the
    /// far one. So 45 and 45 is the side of a frame, 45 and -45 a length that is as long on both edges.
    double left_deg = 0, right_deg = 0;
    EndsSeen ends_seen = EndsSeen::wide_side;
    bool as_drawn = false;  ///< a moulding: neither turned end for end nor rolled over, so nothing lies in its ends
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
    double wide_mm = 0, narrow_mm = 0;  ///< the section of all bars; 0: nothing is counted for ends that lean
    std::vector<BarStock> bars;
    std::vector<LengthPart> parts;
    bool operator==(const LengthProblem&) const = default;
};

/// Where a length lies in its bar, and how.
struct CutLength {
    int part = 0;                         ///< of LengthProblem::parts
    double from_mm = 0;                   ///< of its first long point, from the bar's left end
    bool turned = false, rolled = false;  ///< end for end; over its near edge, so that the near edge is the far one
    bool operator==(const CutLength&) const = default;
};

/// A length's ends as it lies in its bar, from the bar's left end along both edges.
struct LaidLength {
    double left_deg = 0, right_deg = 0;
    double near_from_mm = 0, near_to_mm = 0, far_from_mm = 0, far_to_mm = 0;
};
LaidLength laid(const LengthProblem& problem, const CutLength& cut);
/// "as drawn", "turned", "rolled over", "turned and rolled over".
std::string_view lies_in_words(const CutLength& cut);

/// One bar with what is cut from it, in that order.
struct CutBar {
    int bar = 0;  ///< of LengthProblem::bars
    std::vector<CutLength> lengths;
    double left_mm = 0;  ///< behind the last cut, of its shorter edge
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

/// What an end may save against another one that leans as far or farther the other way: the length by which one lies
/// in the other less what the slanting kerf takes more than a square one. Of `across_mm` seen from its side.
/// (derived)
double end_saving_mm(double lean_deg, double across_mm, double kerf_mm);

/// What is wrong with a problem before any work is done on it; empty when nothing is.
std::string fault_of(const LengthProblem& problem);
/// The same of one length, in the problem's section.
std::string fault_of(const LengthProblem& problem, const LengthPart& part);

/// The cheapest plan. Lengths count to a tenth of a millimetre, to half of one on bars over 10 m.
///
/// Ends that lean lie in one another: any timber that may be turned and rolled can lie so that each leaning end meets
/// one that leans the other way, which saves the lesser of what both could; the order that saves most is exact
/// (sheets/end_joints.h). An end seen on the other side of the section, and a square one, save nothing. Where the
/// section is thinner than the kerf a little less may be saved than could be.
///
/// Column generation over cutting patterns (P.C. Gilmore, R.E. Gomory, Oper. Res. 9, 1961, and 11, 1963; from memory)
/// gives a bound (each length counted without half of what its ends could save, which no order beats); patterns
/// rounded one by one, and an integer program over those generated, give plans; where a gap stays, every pattern that
/// a better plan could use is listed by its reduced cost and the program solved over all of them. Linear and integer
/// programs by GLPK. Where there are too many such patterns, or `seconds` end, `proved` stays false. Precondition:
/// fault_of(problem) is empty.
LengthPlan cut_lengths(const LengthProblem& problem, double seconds = 2, const KeepGoing& keep_going = {});

/// What is wrong with a plan, told apart from how it was made: empty when it holds.
std::vector<std::string> violations(const LengthProblem& problem, const LengthPlan& plan);

}  // namespace bevelsmith::sheets
