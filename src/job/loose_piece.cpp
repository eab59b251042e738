#include "job/loose_piece.h"

#include <algorithm>
#include <cmath>

namespace bevelsmith::job {
namespace {

constexpr double post_mm = 45, post_high_mm = 800, bracket_mm = 120, board_high_mm = 300, taper_mm = 30;

struct Bounds {
    Vec3 low = Vec3::Constant(1e9), high = Vec3::Constant(-1e9);
};
Bounds bounds_of(const Results& results) {
    Bounds out;
    for (const auto& s : results.surfaces)
        for (const auto& p : s.points)
            out.low = out.low.cwiseMin(p.position), out.high = out.high.cwiseMax(p.position);
    if (out.low.x() > out.high.x()) return {Vec3(0, -500, 0), Vec3(2000, 500, 1000)};
    return out;
}

piece::EdgeSpec straight(const char* name, const Vec2& side, double at_mm) {
    piece::EdgeSpec out;
    out.kind = piece::EdgeKind::straight;
    out.name = name, out.side = side, out.at_mm = at_mm;
    return out;
}

piece::EdgeSpec around(std::vector<piece::FreePoint> line) {
    piece::EdgeSpec out;
    out.kind = piece::EdgeKind::free;
    out.name = "outline";
    out.closed = true;
    out.line = std::move(line);
    return out;
}

}  // namespace

bool is_loose(StartingKind kind) {
    return kind == StartingKind::corner_post || kind == StartingKind::bracket || kind == StartingKind::wash_board;
}

void fill_loose_piece(JobPiece& p, const Job& job, const Results& results, StartingKind kind,
                      std::optional<double> at_mm) {
    const Bounds box = bounds_of(results);
    const double step = step_mm(job);
    const auto to_step = [step](double mm) { return std::round(mm / step) * step; };
    const Vec3 middle = (box.low + box.high) / 2;
    const double usual = kind == StartingKind::wash_board ? box.low.x() : middle.x();
    p.plane = {Vec3::UnitX(), at_mm.value_or(to_step(usual))};
    // u runs to starboard.
    const double u = to_step(-middle.y() / 2), foot = to_step(box.low.z() + 0.25 * (box.high.z() - box.low.z()));
    p.structural = false;
    switch (kind) {
        case StartingKind::corner_post:
            p.grain_deg = 90;
            p.removable = false;
            p.edges = {straight("left", {-1, 0}, -u), straight("right", {1, 0}, u + post_mm),
                       straight("bottom", {0, -1}, -foot), straight("top", {0, 1}, foot + post_high_mm)};
            break;
        case StartingKind::bracket:
            p.copies = 4;
            p.removable = false;
            p.edges = {around({{{u, foot}, 0, false},
                               {{u + bracket_mm, foot + bracket_mm - 20}, 10, false},
                               {{u + bracket_mm, foot + bracket_mm}, 0, false},
                               {{u, foot + bracket_mm}, 0, false}})};
            break;
        default: {
            const double half = job.boat.passage.width_mm / 2;
            p.removable = true;
            p.edges = {around({{{-half + taper_mm / 2, foot}, 0, false},
                               {{half - taper_mm / 2, foot}, 0, false},
                               {{half, foot + board_high_mm}, 0, false},
                               {{-half, foot + board_high_mm}, 0, false}})};
        }
    }
}

}  // namespace bevelsmith::job
