#include "geometry/contour.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "geometry/arcs.h"
#include "geometry/batten.h"

namespace bevelsmith::geometry {
namespace {

constexpr double corner_rad = 10 * M_PI / 180;

double turn_between(const Vec2& in, const Vec2& on) {
    return std::atan2(in.x() * on.y() - in.y() * on.x(), in.dot(on));
}

/// Without points that lie on one another or on the line between their neighbours.
Ring tidy(const Ring& ring) {
    constexpr double same_mm = 1e-3, straight_rad = 2e-5;
    Ring out;
    for (const Vec2& p : ring)
        if (out.empty() || (p - out.back()).norm() > same_mm) out.push_back(p);
    while (out.size() > 3 && (out.front() - out.back()).norm() <= same_mm) out.pop_back();
    for (std::size_t i = 0; out.size() > 3 && i < out.size();) {
        const Vec2 &before = out[(i + out.size() - 1) % out.size()], &after = out[(i + 1) % out.size()];
        if (std::abs(turn_between(out[i] - before, after - out[i])) < straight_rad)
            out.erase(out.begin() + static_cast<std::ptrdiff_t>(i));
        else ++i;
    }
    return out;
}

/// Without corners of a step that nobody marks out.
Ring without_steps(Ring ring) {
    constexpr double step_mm = 1.5, moved_mm = 0.2;
    for (std::size_t i = 0; ring.size() > 4 && i < ring.size();) {
        const std::size_t n = ring.size();
        const Vec2 &before = ring[(i + n - 1) % n], &after = ring[(i + 1) % n];
        const bool is_step = std::min((ring[i] - before).norm(), (after - ring[i]).norm()) < step_mm &&
                             distance_to_segment_mm(ring[i], before, after) < moved_mm &&
                             std::abs(turn_between(ring[i] - before, after - ring[i])) > corner_rad;
        if (is_step) ring.erase(ring.begin() + static_cast<std::ptrdiff_t>(i));
        else ++i;
    }
    return ring;
}

double turn_at(const Ring& ring, std::size_t i) {
    const std::size_t n = ring.size();
    return turn_between(ring[i] - ring[(i + n - 1) % n], ring[(i + 1) % n] - ring[i]);
}

/// Begun where no curve and no arc goes over its end: at its sharpest corner, or where its longest side begins.
Ring begun_at_corner(Ring ring) {
    // Chords of an arc turn by less, however small its radius.
    constexpr double sharp_rad = 35 * M_PI / 180;
    std::size_t first = 0, longest = 0;
    const auto side = [&](std::size_t i) { return (ring[(i + 1) % ring.size()] - ring[i]).norm(); };
    for (std::size_t i = 1; i < ring.size(); ++i) {
        if (std::abs(turn_at(ring, i)) > std::abs(turn_at(ring, first)) + 1e-6) first = i;
        if (side(i) > side(longest)) longest = i;
    }
    if (std::abs(turn_at(ring, first)) < sharp_rad) first = longest;
    std::rotate(ring.begin(), ring.begin() + static_cast<std::ptrdiff_t>(first), ring.end());
    return ring;
}

/// One stretch between neighbouring points of the tidied ring, or an arc over several of them.
struct Piece {
    std::vector<Vec2> points;
    double radius = 0;                 ///< of an arc that a compass draws
    bool straight = false;             ///< a line for sure, not a chord of a curve
    Vec2 way_in{1, 0}, way_out{1, 0};  ///< directions at its ends
    explicit Piece(std::vector<Vec2> of, double radius_mm = 0)
        : points(std::move(of)),
          radius(radius_mm),
          way_in(points[1] - points[0]),
          way_out(points.back() - points[points.size() - 2]) {}
};

std::vector<Vec2> arc_points(const Vec2& a, const Vec2& b, double bulge) {
    const double angle = 4 * std::atan(bulge), chord = (b - a).norm(), radius = chord / (2 * std::sin(angle / 2));
    const Vec2 along = (b - a) / chord, left(-along.y(), along.x());
    const Vec2 centre = (a + b) / 2 + left * radius * std::cos(angle / 2);
    constexpr double chord_off_mm = 0.02;
    const double step = 2 * std::acos(std::max(0.0, 1 - chord_off_mm / std::max(std::abs(radius), 0.03)));
    const int n = std::max(4, static_cast<int>(std::ceil(std::abs(angle) / step)));
    std::vector<Vec2> out;
    for (int k = 0; k <= n; ++k) {
        const double at = angle * k / n, c = std::cos(at), s = std::sin(at);
        const Vec2 from = a - centre;
        out.push_back(centre + Vec2(c * from.x() - s * from.y(), s * from.x() + c * from.y()));
    }
    out.front() = a, out.back() = b;
    return out;
}

Vec2 centre_of(const Piece& arc) {
    const Vec2 &a = arc.points.front(), &b = arc.points[1], along = (b - a).normalized(), left(-along.y(), along.x());
    const double half = (b - a).norm() / 2;
    return (a + b) / 2 +
           left * std::copysign(std::sqrt(std::max(0.0, arc.radius * arc.radius - half * half)), arc.radius);
}

/// Arcs of one circle that follow one another as one, then in equal shares that a radius tells well.
std::vector<Piece> with_even_arcs(const std::vector<Piece>& pieces) {
    constexpr double same_mm = 0.1, most_turn = 95 * M_PI / 180;
    std::vector<Piece> out;
    for (std::size_t i = 0; i < pieces.size();) {
        if (pieces[i].radius == 0) {
            out.push_back(pieces[i++]);
            continue;
        }
        const Vec2 centre = centre_of(pieces[i]);
        const double radius = pieces[i].radius;
        std::vector<Vec2> points = pieces[i].points;
        std::size_t k = i + 1;
        for (; k < pieces.size() && std::abs(pieces[k].radius - radius) < same_mm &&
               (centre_of(pieces[k]) - centre).norm() < same_mm;
             ++k)
            points.insert(points.end(), pieces[k].points.begin() + 1, pieces[k].points.end());
        double turn = 0;
        for (std::size_t n = 0; n + 1 < points.size(); ++n)
            turn += std::abs(turn_between(points[n] - centre, points[n + 1] - centre));
        const auto shares = std::min(points.size() - 1, static_cast<std::size_t>(std::ceil(turn / most_turn)));
        for (std::size_t n = 0; n < shares; ++n) {
            const std::size_t from = n * (points.size() - 1) / shares, to = (n + 1) * (points.size() - 1) / shares;
            out.emplace_back(std::vector<Vec2>(points.begin() + static_cast<std::ptrdiff_t>(from),
                                               points.begin() + static_cast<std::ptrdiff_t>(to) + 1),
                             radius);
        }
        i = k;
    }
    return out;
}

std::vector<Piece> pieces_of(const Ring& ring) {
    const auto corners = with_arcs(ring);
    std::vector<Piece> out;
    for (std::size_t i = 0; i < corners.size(); ++i) {
        const Vec2 &a = corners[i].at, &b = corners[(i + 1) % corners.size()].at;
        if (corners[i].bulge == 0) {
            out.emplace_back(std::vector<Vec2>{a, b});
            continue;
        }
        const double bulge = corners[i].bulge, radius = (b - a).norm() * (1 + bulge * bulge) / (4 * bulge);
        const auto chords = arc_points(a, b, bulge);
        if (std::abs(radius) <= largest_compass_mm) {
            out.emplace_back(chords, radius);
            continue;
        }
        for (std::size_t k = 0; k + 1 < chords.size(); ++k)
            out.emplace_back(std::vector<Vec2>{chords[k], chords[k + 1]});
    }
    out = with_even_arcs(out);
    // A chord that would leave its curve by more than curves are drawn to is a line.
    constexpr double chord_off_mm = 0.3, long_mm = 300;
    const std::size_t n = out.size();
    for (std::size_t i = 0; i < n; ++i) {
        if (out[i].radius != 0) continue;
        const double before = std::abs(turn_between(out[(i + n - 1) % n].way_out, out[i].way_in));
        const double after = std::abs(turn_between(out[i].way_out, out[(i + 1) % n].way_in));
        const double length = out[i].way_in.norm();
        out[i].straight = length >= long_mm || length * std::min(before, after) / 8 > chord_off_mm;
    }
    return out;
}

/// Which way a curve may be taken up to a point of it, and where it has to change.
bool goes(const Vec2& d, bool steep, double sign) {
    constexpr double least = 0.5;
    return sign * (steep ? d.y() : d.x()) >= least * d.norm();
}

void add_curve(std::vector<Run>& out, const std::vector<Vec2>& points) {
    for (std::size_t first = 0; first + 1 < points.size();) {
        const Vec2 start = points[first + 1] - points[first];
        // Where both would serve, the one that holds for longer.
        std::size_t farthest = first + 1;
        bool best = std::abs(start.y()) >= std::abs(start.x());
        for (const bool steep : {true, false}) {
            const double sign = (steep ? start.y() : start.x()) < 0 ? -1 : 1;
            std::size_t k = first;
            while (k + 1 < points.size() && goes(points[k + 1] - points[k], steep, sign)) ++k;
            if (k > farthest) farthest = k, best = steep;
        }
        Run run{best ? RunKind::steep : RunKind::flat, {}, 0};
        run.points.assign(points.begin() + static_cast<std::ptrdiff_t>(first),
                          points.begin() + static_cast<std::ptrdiff_t>(farthest) + 1);
        if (run.points.size() == 2) run.kind = RunKind::straight;
        out.push_back(std::move(run));
        first = farthest;
    }
}

/// Runs with curves whole, as if steep.
std::vector<Run> whole_runs(const Ring& ring) {
    const Ring clean = begun_at_corner(without_steps(tidy(ring)));
    std::vector<Run> out;
    if (clean.size() < 3) return out;
    const auto pieces = pieces_of(clean);
    bool open = false;  // the last run is a curve that may go on
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        const Piece& p = pieces[i];
        const bool line = p.straight || p.radius != 0;
        const bool corner = i > 0 && std::abs(turn_between(pieces[i - 1].way_out, p.way_in)) >= corner_rad;
        if (!line && open && !corner) {
            out.back().points.insert(out.back().points.end(), p.points.begin() + 1, p.points.end());
            continue;
        }
        out.push_back({p.radius != 0 ? RunKind::arc : line ? RunKind::straight : RunKind::steep, p.points, p.radius});
        open = !line;
    }
    for (Run& run : out)
        if (run.kind == RunKind::steep && run.points.size() == 2) run.kind = RunKind::straight;
    return out;
}

void add_divided(std::vector<Run>& out, const Run& run) {
    if (run.kind == RunKind::steep) add_curve(out, run.points);
    else out.push_back(run);
}

std::size_t nearest_point(const std::vector<Vec2>& points, const Vec2& p) {
    std::size_t best = 0;
    for (std::size_t i = 1; i < points.size(); ++i)
        if ((points[i] - p).squaredNorm() < (points[best] - p).squaredNorm()) best = i;
    return best;
}

bool is_monotonic(const Run& run) {
    if (run.kind != RunKind::steep && run.kind != RunKind::flat) return true;
    const auto at = [&](const Vec2& p) { return run.kind == RunKind::steep ? p.y() : p.x(); };
    const double sign = at(run.points.back()) < at(run.points.front()) ? -1 : 1;
    for (std::size_t i = 0; i + 1 < run.points.size(); ++i)
        if (sign * (at(run.points[i + 1]) - at(run.points[i])) <= 0) return false;
    return true;
}

/// A curve on both faces divided where that of face A is; false where B's has no such places.
bool add_divided_alike(std::vector<RunPair>& out, const Run& a, const Run& b) {
    std::vector<Run> of_a;
    add_divided(of_a, a);
    std::size_t from = 0;
    for (std::size_t k = 0; k < of_a.size(); ++k) {
        const bool last = k + 1 == of_a.size();
        const std::size_t to = last ? b.points.size() - 1 : nearest_point(b.points, of_a[k].points.back());
        if (to <= from) return false;
        Run of_b{of_a[k].kind, {}, b.radius_mm};
        of_b.points.assign(b.points.begin() + static_cast<std::ptrdiff_t>(from),
                           b.points.begin() + static_cast<std::ptrdiff_t>(to) + 1);
        if (of_b.kind == RunKind::straight && of_b.points.size() > 2 && a.kind == RunKind::steep) return false;
        if (!is_monotonic(of_b)) return false;
        out.push_back({std::move(of_a[k]), std::move(of_b), true});
        from = to;
    }
    return true;
}

/// Corners that lie nearest to one another, both ways, in the order of both rings.
std::vector<std::pair<std::size_t, std::size_t>> shared_corners(const std::vector<Run>& a, const std::vector<Run>& b,
                                                                double far_mm) {
    const auto nearest = [](const std::vector<Run>& runs, const Vec2& p) {
        std::size_t best = 0;
        for (std::size_t i = 1; i < runs.size(); ++i)
            if ((runs[i].points.front() - p).norm() < (runs[best].points.front() - p).norm()) best = i;
        return best;
    };
    std::vector<std::pair<std::size_t, std::size_t>> out;
    if (a.empty() || b.empty()) return out;
    for (std::size_t i = 0; i < a.size(); ++i) {
        const Vec2& p = a[i].points.front();
        const std::size_t j = nearest(b, p);
        if ((b[j].points.front() - p).norm() > far_mm || nearest(a, b[j].points.front()) != i) continue;
        const bool in_order = out.empty() || (j + b.size() - out.front().second) % b.size() >
                                                 (out.back().second + b.size() - out.front().second) % b.size();
        if (in_order) out.emplace_back(i, j);
    }
    return out;
}

/// Runs of one ring alone; the first begins at a corner that is shared.
void add_apart(std::vector<RunPair>& out, const std::vector<Run>& runs, std::size_t first, std::size_t count,
               bool of_a) {
    std::vector<Run> divided;
    for (std::size_t k = 0; k < count; ++k) add_divided(divided, runs[(first + k) % runs.size()]);
    for (std::size_t k = 0; k < divided.size(); ++k) {
        RunPair pair{{}, {}, k == 0};
        (of_a ? pair.a : pair.b) = std::move(divided[k]);
        out.push_back(std::move(pair));
    }
}

}  // namespace

std::vector<Run> runs_of(const Ring& ring) {
    std::vector<Run> out;
    for (const Run& run : whole_runs(ring)) add_divided(out, run);
    return out;
}

std::optional<std::vector<RunPair>> paired_runs(const Ring& ring_a, const Ring& ring_b, double far_mm) {
    const auto a = whole_runs(ring_a), b = whole_runs(ring_b);
    const auto shared = shared_corners(a, b, far_mm);
    if (shared.size() < 2) return std::nullopt;
    std::vector<RunPair> out;
    for (std::size_t k = 0; k < shared.size(); ++k) {
        const auto [i, j] = shared[k];
        const auto [next_i, next_j] = shared[(k + 1) % shared.size()];
        const std::size_t of_a = (next_i + a.size() - i - 1) % a.size() + 1,
                          of_b = (next_j + b.size() - j - 1) % b.size() + 1;
        if (of_a == 1 && of_b == 1 && a[i].kind == b[j].kind) {
            std::vector<RunPair> both;
            if (add_divided_alike(both, a[i], b[j])) {
                out.insert(out.end(), both.begin(), both.end());
                continue;
            }
        }
        add_apart(out, a, i, of_a, true);
        add_apart(out, b, j, of_b, false);
    }
    return out;
}

std::vector<Vec2> drawn_again(RunKind kind, double radius_mm, const std::vector<Vec2>& through) {
    if (kind == RunKind::straight || through.size() < 2) return through;
    if (kind != RunKind::arc) return batten(through);
    const Vec2 &a = through.front(), &b = through.back();
    const double half = std::min(1.0, (b - a).norm() / (2 * std::abs(radius_mm)));
    return arc_points(a, b, (radius_mm < 0 ? -1 : 1) * std::tan(std::asin(half) / 2));
}

Farthest farthest_from_line(const std::vector<Vec2>& points, const std::vector<Vec2>& line) {
    Farthest out;
    for (std::size_t k = 0; k < points.size(); ++k) {
        double nearest = std::numeric_limits<double>::infinity();
        for (std::size_t i = 0; i + 1 < line.size(); ++i)
            nearest = std::min(nearest, distance_to_segment_mm(points[k], line[i], line[i + 1]));
        if (nearest > out.mm) out = {k, nearest};
    }
    return out;
}

std::pair<Run, Run> divided(const Run& run, std::size_t at) {
    const auto middle = run.points.begin() + static_cast<std::ptrdiff_t>(at);
    Run first{run.kind, {run.points.begin(), middle + 1}, run.radius_mm},
        second{run.kind, {middle, run.points.end()}, run.radius_mm};
    for (Run* half : {&first, &second})
        if (half->points.size() == 2) half->kind = RunKind::straight, half->radius_mm = 0;
    return {first, second};
}

std::optional<std::size_t> nearest_within(const Run& run, const Vec2& place) {
    if (run.points.size() < 3) return std::nullopt;
    std::size_t best = 1;
    for (std::size_t i = 2; i + 1 < run.points.size(); ++i)
        if ((run.points[i] - place).squaredNorm() < (run.points[best] - place).squaredNorm()) best = i;
    return best;
}

}  // namespace bevelsmith::geometry
