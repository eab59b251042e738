#include "piece/levels.h"

#include <algorithm>
#include <cmath>

#include "piece/bearing.h"

namespace bevelsmith::piece {
namespace {

constexpr double touches_mm = 0.5, farthest_mm = 60;
constexpr double step_mm = 0.5;
constexpr std::size_t most_packers = 6;

bool upper_is_a(const Outline& shape) {
    return shape.frame.normal.z() < 0;
}

/// How many steps of half a millimetre stay open, then how many pieces it takes.
std::pair<int, std::size_t> cost_of(const Packing& p) {
    return {static_cast<int>(std::floor(p.left_mm / step_mm + 1e-9)), p.pieces_mm.size()};
}

void pack(double left_mm, const std::vector<double>& stock, std::size_t from, Packing& now, Packing& best) {
    now.left_mm = left_mm;
    const auto better = std::tuple(cost_of(now), left_mm) < std::tuple(cost_of(best), best.left_mm);
    if (better) best = now;
    if (now.pieces_mm.size() == most_packers) return;
    for (std::size_t k = from; k < stock.size(); ++k) {
        if (stock[k] > left_mm + 1e-9) continue;
        now.pieces_mm.push_back(stock[k]);
        pack(std::max(0.0, left_mm - stock[k]), stock, k, now, best);
        now.pieces_mm.pop_back();
    }
    now.left_mm = left_mm;
}

}  // namespace

std::optional<Stack> stack_of(const PieceSpec& spec, const Outline& shape) {
    if (!lies_level(shape)) return std::nullopt;
    Stack out;
    const Vec3 a = shape.frame.to_space(geometry::centroid(shape.face_a)), n = shape.frame.normal;
    const double up_a = a.z(), up_b = a.z() + n.z() * shape.thickness_mm;
    out.covering_mm = upper_is_a(shape) ? spec.covering_a_mm : spec.covering_b_mm;
    out.under_mm = upper_is_a(shape) ? spec.covering_b_mm : spec.covering_a_mm;
    out.skins_mm = std::min(shape.thickness_mm, stock::thickness_mm(spec.layup, 0));
    out.sheet_mm = shape.thickness_mm - out.skins_mm;
    out.bedding_mm = spec.bedding_mm;
    out.finished_up_mm = std::max(up_a, up_b) + out.covering_mm;
    out.bearer_up_mm =
        out.finished_up_mm - out.covering_mm - out.skins_mm - out.sheet_mm - out.under_mm - out.bedding_mm;
    return out;
}

Packing packing_for(double gap_mm, std::vector<double> stock_mm) {
    std::erase_if(stock_mm, [](double t) { return t < step_mm; });
    std::sort(stock_mm.begin(), stock_mm.end(), std::greater<>());
    stock_mm.erase(std::unique(stock_mm.begin(), stock_mm.end()), stock_mm.end());
    Packing now, best;
    best.left_mm = std::max(0.0, gap_mm);
    pack(best.left_mm, stock_mm, 0, now, best);
    return best;
}

double recess_mm(double seat_mm, double drop_mm, double panel_mm) {
    return seat_mm + drop_mm - panel_mm;
}

std::vector<ToPack> to_pack(const PieceSpec& spec, const Outline& shape, const std::vector<Obstacle>& ledges,
                            const std::vector<double>& stock_mm) {
    std::vector<ToPack> out;
    const auto stack = stack_of(spec, shape);
    if (!stack) return out;
    for (const Obstacle& ledge : ledges) {
        double widest = -HUGE_VAL, length = 0;
        bool under = false;
        for (std::size_t i = 0; i + 1 < ledge.path.size(); ++i) {
            constexpr int steps = 20;
            for (int k = 0; k <= steps; ++k) {
                const Vec3 p = ledge.path[i] + (ledge.path[i + 1] - ledge.path[i]) * k / steps;
                if (!geometry::contains(shape.face_a.outer, shape.frame.to_plane(p))) continue;
                const double gap = stack->bearer_up_mm - (p.z() + ledge.height_mm / 2);
                under = true, widest = std::max(widest, gap);
                if (k < steps) length += (ledge.path[i + 1] - ledge.path[i]).norm() / steps;
            }
        }
        if (under && widest > touches_mm && widest <= farthest_mm)
            out.push_back({ledge.id, ledge.name, widest, length, ledge.width_mm, packing_for(widest, stock_mm)});
    }
    return out;
}

}  // namespace bevelsmith::piece
