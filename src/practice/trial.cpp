#include "practice/trial.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "hull/fit.h"
#include "practice/instruments.h"
#include "survey/points.h"

namespace bevelsmith::practice {
namespace {

constexpr double beside_mm = 250;  ///< of the sections to either side
constexpr int tries = 3;

/// Where the kept edge runs in the true boat: station and angle, in order.
std::vector<Spot> edge_spots(const piece::Outline& outline) {
    std::vector<Spot> out;
    for (const auto& mark : outline.marks) {
        if (!mark.kept) continue;
        const Vec3 p = outline.frame.to_space(mark.a);
        double angle = std::atan2(p.z(), p.y());
        if (angle > std::numbers::pi / 2) angle -= 2 * std::numbers::pi;
        out.push_back({p.x(), angle});
    }
    return out;
}

void add_evenly(std::vector<Spot>& spots, const std::vector<Spot>& edge, int count, double shift_mm) {
    for (int i = 0; i < count; ++i) {
        const double at = count > 1 ? static_cast<double>(i) / (count - 1) : 0.5;
        Spot spot = edge[static_cast<std::size_t>(at * static_cast<double>(edge.size() - 1))];
        spot.x_mm = std::clamp(spot.x_mm + shift_mm, 0.0, VirtualBoat::length_mm);
        spots.push_back(spot);
    }
}

/// Both chines and the keel as a careful hand reads them; none where the boat has none.
std::vector<std::vector<Vec3>> chines_of(const VirtualBoat& boat) {
    if (boat.spec().form != HullForm::hard_chine) return {};
    std::vector<std::vector<Vec3>> out(3);
    constexpr int stations = 7;
    for (int k = 0; k < stations; ++k) {
        const double x = VirtualBoat::length_mm * k / (stations - 1);
        for (HullLine line : {HullLine::port_chine, HullLine::starboard_chine, HullLine::keel})
            out[static_cast<std::size_t>(line)].push_back(boat.on_line(line, x));
    }
    return out;
}

/// The largest misfit along the edge of a boat surveyed so; empty when no surface comes of it.
std::optional<double> reached(const VirtualBoat& boat, const std::vector<Spot>& edge, const std::vector<Spot>& spots,
                              double sigma_mm, unsigned seed) {
    Hand hand;
    hand.sigma_mm = sigma_mm;
    hand.random.seed(seed);
    const std::vector sets{read_points(boat, spots, hand)};
    const auto points = survey::points_of(sets, "hull");
    if (!points) return std::nullopt;
    hull::FitOptions options;
    options.inside = Vec3(VirtualBoat::length_mm / 2, 0, 0);
    options.hard_lines = chines_of(boat);
    const auto fit = hull::fit_surface(*points, options);
    if (!fit) return std::nullopt;
    double largest = 0;
    for (const Spot& spot : edge)
        largest = std::max(largest, std::abs(fit->surface.distance_mm(boat.at(spot.x_mm, spot.angle))));
    return largest;
}

}  // namespace

Trial offer_up(const piece::Outline& outline, const VirtualBoat& boat, double wanted_mm) {
    Trial out;
    double squares = 0;
    for (const auto& mark : outline.marks) {
        if (!mark.kept) continue;
        const Vec3 p = outline.frame.to_space(mark.a);
        // The gap asked for was taken off in the panel's plane; along the normal it is that times cos(bevel).
        const double asked = mark.gap_mm * std::cos(mark.bevel_rad);
        const double gap = -boat.outside_mm(p) - asked;
        out.gaps.push_back({mark.a, mark.arc_mm, gap});
        out.widest_mm = std::max(out.widest_mm, gap);
        out.fouling_mm = std::max(out.fouling_mm, -gap);
        squares += gap * gap;
    }
    out.rms_mm = out.gaps.empty() ? 0 : std::sqrt(squares / static_cast<double>(out.gaps.size()));
    out.largest_mm = std::max(out.widest_mm, out.fouling_mm);
    for (double left = out.largest_mm; left > wanted_mm && out.trips < 20; left /= 2) ++out.trips;
    return out;
}

std::vector<piece::FitReading> gaps_felt(const piece::Outline& outline, const VirtualBoat& boat, double step_mm,
                                         Hand& hand) {
    std::vector<piece::FitReading> out;
    const auto& marks = outline.marks;
    for (std::size_t i = 0; i < marks.size(); ++i) {
        if (!marks[i].kept) continue;
        const bool begins = i == 0 || !marks[i - 1].kept, ends = i + 1 == marks.size() || !marks[i + 1].kept;
        const bool far = !out.empty() && (out.back().edge != marks[i].edge ||
                                          std::abs(marks[i].arc_mm - out.back().along_mm) >= step_mm - 1e-6);
        if (!begins && !ends && !far) continue;
        const double gap = -boat.outside_mm(outline.frame.to_space(marks[i].a)) + hand.error_mm();
        out.push_back(
            {marks[i].edge, marks[i].arc_mm, piece::Noticed::gap, std::round(10 * gap) / 10, hand.sigma_mm});
    }
    return out;
}

std::optional<BestPossible> best_possible(const piece::Outline& outline, const VirtualBoat& boat, int readings,
                                          double sigma_mm, const std::function<bool()>& keep_going) {
    const auto edge = edge_spots(outline);
    if (edge.size() < 2 || readings < hull::fewest_readings) return std::nullopt;
    std::optional<BestPossible> best;
    for (double share : {0.34, 0.5, 0.67}) {
        const int along = std::max(4, static_cast<int>(std::round(share * readings)));
        const int aft = (readings - along) / 2, fore = readings - along - aft;
        if (aft < 3) continue;
        std::vector<Spot> spots;
        add_evenly(spots, edge, along, 0);
        add_evenly(spots, edge, aft, -beside_mm);
        add_evenly(spots, edge, fore, beside_mm);
        double sum = 0;
        int counted = 0;
        for (unsigned seed = 1; seed <= tries; ++seed) {
            if (keep_going && !keep_going()) return std::nullopt;
            if (const auto largest = reached(boat, edge, spots, sigma_mm, seed)) sum += *largest, ++counted;
        }
        if (counted == tries && (!best || sum / tries < best->largest_mm)) best = BestPossible{sum / tries, share};
    }
    return best;
}

double score(double best_mm, double reached_mm, int trips) {
    constexpr double second_trip = 60;
    return std::min(trips > 1 ? second_trip : 100.0, 100 * best_mm / reached_mm);
}

}  // namespace bevelsmith::practice
