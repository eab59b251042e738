#include "hull/kink_search.h"

#include <algorithm>
#include <cmath>

#include "hull/parallel.h"

namespace bevelsmith::hull {
namespace {

constexpr int ends_tried = 25;  ///< places of a line's ends along v
constexpr std::size_t starts_tried = 4;
constexpr int most_kinks = 3;  ///< the keel and both chines
/// What a line must be worth in badness: three numbers say where it lies, which none but it needs.
constexpr double line_costs = 20;
/// A keel lies where it lies: on the centre line.
constexpr double keel_costs = 4;
constexpr double hardly_helps = 4;

double cost(const KinkFit& fit) {
    double sum = fit.badness;
    for (const KinkLine& line : fit.lines) sum += line.held ? keel_costs : line_costs;
    return sum;
}

KinkLines all_lines(const Smoother& smoother) {
    const double low = smoother.basis_v().low(), width = smoother.basis_v().high() - low;
    KinkLines out;
    for (int i = 1; i < ends_tried; ++i)
        for (int j = 1; j < ends_tried; ++j)
            out.push_back({low + width * i / ends_tried, low + width * j / ends_tried, 0});
    return out;
}

/// The lines that would help most, no two of them close together.
KinkLines most_promising(const KinkModel& model, const KinkFit& so_far, const Smoothing& at, const KinkLines& all) {
    const double width = model.smoother().basis_v().high() - model.smoother().basis_v().low();
    KinkLines out;
    for (double stiffer : {0.0, 1.5}) {
        const auto gain = model.gains(so_far, {at.log10_s + stiffer, at.log10_v + stiffer}, all);
        std::vector<std::size_t> order(all.size());
        for (std::size_t k = 0; k < order.size(); ++k) order[k] = k;
        std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return gain[a] > gain[b]; });
        std::size_t taken = 0;
        for (std::size_t k : order) {
            if (gain[k] <= 0 || taken == starts_tried / 2) break;
            const bool near = std::any_of(out.begin(), out.end(), [&](const KinkLine& kept) {
                return std::abs(kept.v_low - all[k].v_low) + std::abs(kept.v_high - all[k].v_high) <
                       3 * width / ends_tried;
            });
            if (near) continue;
            out.push_back(all[k]);
            ++taken;
        }
    }
    return out;
}

struct Start {
    KinkLines lines;
    std::vector<bool> left_out;
    Smoothing at;
};

std::vector<KinkFit> run_from(const KinkModel& model, const std::vector<Start>& starts, const KeepGoing& keep_going) {
    std::vector<std::optional<KinkFit>> ends(starts.size());
    in_parallel(static_cast<std::ptrdiff_t>(starts.size()), true, [&](std::ptrdiff_t k) {
        ask(keep_going);
        const auto& start = starts[static_cast<std::size_t>(k)];
        ends[static_cast<std::size_t>(k)] = model.best_near(start.lines, start.left_out, start.at);
    });
    std::vector<KinkFit> out;
    for (auto& end : ends)
        if (end) out.push_back(std::move(*end));
    return out;
}

std::optional<KinkFit> best_of(const KinkModel& model, const std::vector<Start>& starts,
                               const KeepGoing& keep_going) {
    auto ends = run_from(model, starts, keep_going);
    const auto best = std::min_element(ends.begin(), ends.end(),
                                       [](const auto& a, const auto& b) { return a.badness < b.badness; });
    return best == ends.end() ? std::nullopt : std::optional(std::move(*best));
}

/// Not where so many readings are doubted that it is no fit: looking on there takes long and leads nowhere.
bool worth_going_on(const KinkFit& fit) {
    constexpr double many = 0.06;
    const auto doubted = static_cast<double>(std::count(fit.left_out.begin(), fit.left_out.end(), true));
    return doubted < many * static_cast<double>(fit.left_out.size());
}

/// Where straight runs are curves in the chart, what lies between kinks is loose: such a smoothing lies in a hollow
/// of its own, which is not found from the usual one.
std::optional<KinkFit> smooth_fit(const KinkModel& model, const KeepGoing& keep_going) {
    constexpr double looser = 3;
    const Smoothing usual = model.smoother().prior().mean;
    return best_of(model, {{{}, {}, usual}, {{}, {}, {usual.log10_s, usual.log10_v - looser}}}, keep_going);
}

void add_starts(std::vector<Start>& starts, const KinkModel& model, const KinkFit& from, const Smoothing& at,
                const KinkLines& all) {
    for (const KinkLine& line : most_promising(model, from, at, all)) {
        starts.push_back({from.lines, from.left_out, at});
        starts.back().lines.push_back(line);
    }
}

/// One line more than `so_far` has, wherever that is best; from the readings it doubts, and from none doubted. Then
/// once more from the smoothing that was found.
std::optional<KinkFit> with_one_more(const KinkModel& model, const KinkFit& so_far, const KeepGoing& keep_going) {
    const KinkLines all = all_lines(model.smoother());
    const Smoothing usual = model.smoother().prior().mean;
    KinkFit undoubted = so_far;
    undoubted.left_out.assign(undoubted.left_out.size(), false);
    std::vector<Start> starts;
    for (const KinkFit& from : {so_far, undoubted}) {
        ask(keep_going);
        add_starts(starts, model, from, usual, all);
        if (so_far.left_out == undoubted.left_out) break;
    }
    auto best = best_of(model, starts, keep_going);
    constexpr double another_hollow = 1;  // decades of smoothing
    if (!best || !worth_going_on(*best) ||
        (std::abs(best->smoothing.log10_v - usual.log10_v) < another_hollow &&
         std::abs(best->smoothing.log10_s - usual.log10_s) < another_hollow))
        return best;
    starts.clear();
    KinkFit again = so_far;
    again.left_out = best->left_out;
    // The lines that were there have moved aside for the new one.
    again.lines.assign(best->lines.begin(), best->lines.end() - 1);
    add_starts(starts, model, again, best->smoothing, all);
    auto better = best_of(model, starts, keep_going);
    return better && better->badness < best->badness ? better : best;
}

/// The same fits with a keel: in place of a line that runs near the centre line, or besides the others.
std::vector<KinkFit> with_keel(const KinkModel& model, const std::vector<KinkFit>& fits, const KinkLine& keel,
                               const KeepGoing& keep_going) {
    constexpr double near = 0.12;  // as a share of the surface's width: as far as a search moves a line
    const double width = model.smoother().basis_v().high() - model.smoother().basis_v().low();
    std::vector<Start> starts;
    for (const KinkFit& fit : fits) {
        Start start{fit.lines, fit.left_out, fit.smoothing};
        std::erase_if(start.lines,
                      [&](const KinkLine& l) { return std::abs(l.at(0.5) - keel.at(0.5)) < near * width; });
        // Not tried where it cannot be worth its cost: by how much it helps, all else as it is, is soon known.
        if (!worth_going_on(fit)) continue;
        KinkFit without = fit;
        without.lines = start.lines;
        if (model.gains(without, fit.smoothing, std::vector{keel}).front() < keel_costs) continue;
        start.lines.push_back(keel);
        starts.push_back(std::move(start));
    }
    return run_from(model, starts, keep_going);
}

/// A line that was taken in on the way may have become idle since: the fit without each of those that were searched.
std::vector<KinkFit> one_less(const KinkModel& model, const KinkFit& fit, const KeepGoing& keep_going) {
    std::vector<Start> starts;
    for (std::size_t k = 0; k < fit.lines.size() && fit.lines.size() > 1; ++k) {
        if (fit.lines[k].held) continue;
        starts.push_back({fit.lines, fit.left_out, fit.smoothing});
        starts.back().lines.erase(starts.back().lines.begin() + static_cast<std::ptrdiff_t>(k));
    }
    return run_from(model, starts, keep_going);
}

}  // namespace

KinksFound search_kinks(const KinkModel& model, std::optional<KinkLine> keel, const KeepGoing& keep_going) {
    KinksFound out;
    const auto smooth = smooth_fit(model, keep_going);
    if (!smooth) return out;
    out.one_by_one.push_back(*smooth);
    for (int kinks = 1; kinks <= most_kinks; ++kinks) {
        auto more = with_one_more(model, out.one_by_one.back(), keep_going);
        if (!more) break;
        const double gained = out.one_by_one.back().badness - more->badness;
        out.one_by_one.push_back(*more);
        // What one line hardly helps no second one will.
        if (gained < hardly_helps) break;
    }
    auto& all = out.likeliest;
    all = out.one_by_one;
    if (keel) {
        const auto keeled = with_keel(model, out.one_by_one, *keel, keep_going);
        all.insert(all.end(), keeled.begin(), keeled.end());
    }
    const auto cheaper = [](const auto& a, const auto& b) { return cost(a) < cost(b); };
    const auto fewer = one_less(model, *std::min_element(all.begin(), all.end(), cheaper), keep_going);
    all.insert(all.end(), fewer.begin(), fewer.end());
    std::stable_sort(all.begin(), all.end(), cheaper);
    return out;
}

}  // namespace bevelsmith::hull
