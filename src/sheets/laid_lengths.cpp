#include "sheets/laid_lengths.h"

#include <algorithm>
#include <cmath>

#include "sheets/end_joints.h"
#include "units/quantity.h"

namespace bevelsmith::sheets {
namespace {

const LengthPart& part_of(const LengthProblem& problem, const CutLength& cut) {
    return problem.parts.at(static_cast<std::size_t>(cut.part));
}

double lean_mm(double lean_deg, double across) {
    return across * std::tan(units::radians(std::abs(lean_deg)));
}

/// The leans that lie against each other.
std::pair<double, double> leans_between(const LengthProblem& problem, const CutLength& before,
                                        const CutLength& next) {
    return {laid(problem, before).right_deg, laid(problem, next).left_deg};
}

/// Puts `next` behind the last of a bar in the first way that lets it lie in the end before it, else as it is.
void add(const LengthProblem& problem, std::vector<CutLength>& lengths, CutLength next) {
    const LengthPart& part = part_of(problem, next);
    const bool either_way = part.as_drawn || std::abs(part.left_deg) == std::abs(part.right_deg);
    CutLength best = next;
    if (either_way) best.turned = false;
    if (lengths.empty()) return lengths.push_back(best);
    for (int way = 0; way < 4 && !part.as_drawn; ++way) {
        CutLength trial = next;
        trial.turned = way % 2 == 1, trial.rolled = way >= 2;
        if (trial.turned != next.turned && !either_way) continue;
        if (!lie_in_one_another(problem, lengths.back(), trial)) continue;
        best = trial;
        break;
    }
    best.from_mm = lengths.back().from_mm + part_of(problem, lengths.back()).length_mm +
                   least_distance_mm(problem, lengths.back(), best);
    lengths.push_back(best);
}

}  // namespace

double across_mm(const LengthProblem& problem, const LengthPart& part) {
    return part.ends_seen == EndsSeen::wide_side ? problem.wide_mm : problem.narrow_mm;
}

double end_saving_mm(double lean_deg, double across, double kerf_mm) {
    const double lean = units::radians(std::abs(lean_deg));
    return std::max(0.0, across * std::tan(lean) - kerf_mm * (1 / std::cos(lean) - 1));
}

LaidLength laid(const LengthPart& part, double across, const CutLength& cut) {
    LaidLength out;
    // Turned flat on the bench the near edge becomes the far one as well; rolling it over turns that back.
    out.left_deg = cut.turned ? -part.right_deg : part.left_deg;
    out.right_deg = cut.turned ? -part.left_deg : part.right_deg;
    if (cut.rolled) out.left_deg = -out.left_deg, out.right_deg = -out.right_deg;
    const double to = cut.from_mm + part.length_mm;
    const double left = lean_mm(out.left_deg, across), right = lean_mm(out.right_deg, across);
    out.near_from_mm = cut.from_mm + (out.left_deg < 0 ? left : 0);
    out.far_from_mm = cut.from_mm + (out.left_deg > 0 ? left : 0);
    out.near_to_mm = to - (out.right_deg < 0 ? right : 0);
    out.far_to_mm = to - (out.right_deg > 0 ? right : 0);
    return out;
}
LaidLength laid(const LengthProblem& problem, const CutLength& cut) {
    const LengthPart& part = part_of(problem, cut);
    return laid(part, across_mm(problem, part), cut);
}

std::string_view lies_in_words(const CutLength& cut) {
    if (cut.turned) return cut.rolled ? "turned and rolled over" : "turned";
    return cut.rolled ? "rolled over" : "as drawn";
}

bool lie_in_one_another(const LengthProblem& problem, const CutLength& before, const CutLength& next) {
    const LengthPart &one = part_of(problem, before), &other = part_of(problem, next);
    if (one.as_drawn || other.as_drawn || one.ends_seen != other.ends_seen) return false;
    const auto [right, left] = leans_between(problem, before, next);
    return right * left < 0;
}

double least_distance_mm(const LengthProblem& problem, const CutLength& before, const CutLength& next) {
    if (!lie_in_one_another(problem, before, next)) return problem.kerf_mm;
    const auto [right, left] = leans_between(problem, before, next);
    return problem.kerf_mm - end_saving_mm(std::min(std::abs(right), std::abs(left)),
                                           across_mm(problem, part_of(problem, next)), problem.kerf_mm);
}

CutBar laid_in_bar(const LengthProblem& problem, int bar, const std::vector<int>& parts) {
    constexpr double fine_mm = 0.001;
    const auto ends_of = [&](int p) {
        const LengthPart& part = problem.parts.at(static_cast<std::size_t>(p));
        if (part.as_drawn) return EndPair{};
        const auto saving = [&](double lean_deg) {
            const double most = end_saving_mm(lean_deg, across_mm(problem, part), problem.kerf_mm);
            return static_cast<int>(std::lround(most / fine_mm));
        };
        return EndPair{saving(part.left_deg), saving(part.right_deg)};
    };
    CutBar out;
    out.bar = bar;
    // Those without an end to lie in keep the order in which they come.
    for (int p : parts)
        if (ends_of(p) == EndPair{}) add(problem, out.lengths, {p});
    for (const EndsSeen seen : {EndsSeen::wide_side, EndsSeen::narrow_side}) {
        std::vector<int> those;
        std::vector<EndPair> ends;
        for (int p : parts)
            if (ends_of(p) != EndPair{} && problem.parts[static_cast<std::size_t>(p)].ends_seen == seen)
                those.push_back(p), ends.push_back(ends_of(p));
        const EndToEnd row = end_to_end(ends);
        for (std::size_t k = 0; k < row.order.size(); ++k)
            add(problem, out.lengths, {those[static_cast<std::size_t>(row.order[k])], 0, row.turned[k], false});
    }
    const double whole = problem.bars.at(static_cast<std::size_t>(bar)).length_mm;
    if (out.lengths.empty()) {
        out.left_mm = whole;
        return out;
    }
    const CutLength& last = out.lengths.back();
    const double slant = problem.kerf_mm / std::cos(units::radians(laid(problem, last).right_deg));
    out.left_mm = std::max(0.0, whole - last.from_mm - part_of(problem, last).length_mm - slant);
    return out;
}

}  // namespace bevelsmith::sheets
