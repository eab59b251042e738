#include "sheets/loss.h"

#include <algorithm>
#include <cmath>

// The innermost loops in wide registers where the machine has them (this file is compiled with -O3, see CMakeLists).
// The same sums in the same order everywhere, so that a seed gives the same layout on every machine; a sanitizer does
// not bear the choice at load time.
#if defined(__x86_64__) && defined(__GNUC__) && !defined(__clang__) && !defined(__SANITIZE_ADDRESS__) && \
    !defined(__SANITIZE_THREAD__)
#define BEVELSMITH_WIDE __attribute__((target_clones("avx2", "default")))
#else
#define BEVELSMITH_WIDE
#endif

namespace bevelsmith::sheets {
namespace {

constexpr std::size_t few_poles = 8, most_poles = 16;
/// Few are enough where they cover the most of it; beyond that only what is cut up is covered by more.
constexpr double good_cover = 0.88, enough_cover = 0.7;
/// Poles are looked for on a grid of so many places, and moved to their best from there.
constexpr int grid = 28;
/// Poles are looked at so many at a time.
constexpr std::size_t lanes = 8;
using Lanes = Eigen::Array<float, lanes, 1>;
/// Circles that share less than this only touch.
constexpr float touch_mm = 0.02F;

double distance_to_edges(const Body& b, double x, double y) {
    double best = HUGE_VAL;
    for (std::size_t k = 0; k < b.x0.size(); ++k) {
        const double dx = b.x1[k] - b.x0[k], dy = b.y1[k] - b.y0[k];
        const double length2 = dx * dx + dy * dy;
        const double t = length2 > 0 ? std::clamp(((x - b.x0[k]) * dx + (y - b.y0[k]) * dy) / length2, 0.0, 1.0) : 0;
        const double ex = x - b.x0[k] - t * dx, ey = y - b.y0[k] - t * dy;
        best = std::min(best, ex * ex + ey * ey);
    }
    return std::sqrt(best);
}

/// By crossing number over all rings: within a hole is outside.
bool holds(const Body& b, double x, double y) {
    bool in = false;
    for (std::size_t k = 0; k < b.x0.size(); ++k)
        if ((b.y0[k] > y) != (b.y1[k] > y) && x < (b.x1[k] - b.x0[k]) * (y - b.y0[k]) / (b.y1[k] - b.y0[k]) + b.x0[k])
            in = !in;
    return in;
}

/// The radius that a circle about a place could have beside those that are there.
double room_at(const Body& b, double x, double y) {
    if (!holds(b, x, y)) return -1;
    double out = distance_to_edges(b, x, y);
    for (std::size_t k = 0; k < b.r.size(); ++k) {
        const double cx = b.cx[k], cy = b.cy[k], r = b.r[k];
        out = std::min(out, std::hypot(x - cx, y - cy) - r);
    }
    return out;
}

void add_poles(Body& b, double area) {
    const Vec2 step = b.box.size() / grid;
    double covered = 0;
    while (b.r.size() < most_poles && covered < (b.r.size() < few_poles ? good_cover : enough_cover) * area) {
        double best = -1, x = 0, y = 0;
        for (int i = 0; i < grid; ++i)
            for (int k = 0; k < grid; ++k) {
                const double px = b.box.min.x() + (i + 0.5) * step.x(), py = b.box.min.y() + (k + 0.5) * step.y();
                const double room = room_at(b, px, py);
                if (room > best) best = room, x = px, y = py;
            }
        if (best <= 0.5) break;
        for (double closer = std::max(step.x(), step.y()) / 2; closer > 0.1; closer /= 2)
            for (const auto& [dx, dy] : {std::pair(1, 0), std::pair(-1, 0), std::pair(0, 1), std::pair(0, -1)})
                if (const double room = room_at(b, x + closer * dx, y + closer * dy); room > best)
                    best = room, x += closer * dx, y += closer * dy;
        // Smaller than a hundredth of the first a circle says nothing more.
        if (!b.r.empty() && best < 0.04 * static_cast<double>(b.r.front())) break;
        b.cx.push_back(static_cast<float>(x)), b.cy.push_back(static_cast<float>(y));
        b.r.push_back(static_cast<float>(best));
        covered += M_PI * best * best;
    }
    if (!b.r.empty()) return;
    const Vec2 middle = b.box.centre();
    b.cx.push_back(static_cast<float>(middle.x())), b.cy.push_back(static_cast<float>(middle.y()));
    b.r.push_back(0.5F);
}

/// The sides along which others may lie, by their angles: long ones where these are most of the shape, else the
/// chords of its curves as well.
std::vector<Side> straight_sides(const Body& b) {
    constexpr double long_share = 0.15, chord_share = 0.03, most_of_it = 0.6;
    std::vector<Side> chords, long_ones;
    double all = 0, in_long_ones = 0;
    for (std::size_t k = 0; k < b.x0.size(); ++k) {
        const Vec2 from(b.x0[k], b.y0[k]), to(b.x1[k], b.y1[k]), along = to - from;
        const Side side{side_angle(std::atan2(along.y(), along.x())), from, to};
        all += along.norm();
        if (along.norm() > chord_share * b.diameter) chords.push_back(side);
        if (along.norm() > long_share * b.diameter) long_ones.push_back(side), in_long_ones += along.norm();
    }
    auto& out = in_long_ones > most_of_it * all ? long_ones : chords;
    std::ranges::sort(out, {}, &Side::angle_rad);
    return out;
}

/// Whether a circle reaches into any of others, by more than touching.
bool reaches_any(const float* cx, const float* cy, const float* r, std::size_t count, float x, float y, float own) {
    for (std::size_t k = 0; k < count; k += lanes) {
        const Lanes ex = x - Lanes::Map(cx + k), ey = y - Lanes::Map(cy + k);
        const Lanes reach = (own + Lanes::Map(r + k)).max(0.0F);
        if ((ex.square() + ey.square() - reach.square()).minCoeff() < 0) return true;
    }
    return false;
}

bool poles_overlap(const Body& a, const Body& b, double dx, double dy) {
    const auto x = static_cast<float>(dx), y = static_cast<float>(dy);
    const auto left = static_cast<float>(b.box.min.x()), right = static_cast<float>(b.box.max.x()),
               low = static_cast<float>(b.box.min.y()), high = static_cast<float>(b.box.max.y());
    for (std::size_t i = 0; i < a.poles; ++i) {
        const float cx = a.cx[i] + x, cy = a.cy[i] + y, r = a.r[i];
        if (cx + r < left || cx - r > right || cy + r < low || cy - r > high) continue;
        if (reaches_any(b.cx.data(), b.cy.data(), b.r.data(), b.r.size(), cx, cy, r - touch_mm)) return true;
    }
    return false;
}

/// Circles of one body, the largest first.
struct Circles {
    const float *x, *y, *r;
    std::size_t count;
};

/// How deep circles lie in others, decayed where they are apart, each pair by the smaller radius, added up; what
/// comes to more than `enough` is not summed further. `radii`: of the others, added up. `box`: left, low, right, high
/// of these.
BEVELSMITH_WIDE float penetrations(Circles own, float dx, float dy, Circles theirs, float radii, const float* box,
                                   float eps, float enough) {
    alignas(32) float sums[lanes] = {};
    float sum = 0;
    for (std::size_t i = 0; i < own.count; ++i) {
        // What lies far from the whole of the other is not looked at circle by circle.
        const float x = own.x[i] + dx, y = own.y[i] + dy, r = own.r[i];
        const float out_x = std::max(std::max(box[0] - x, x - box[2]), 0.0F);
        const float out_y = std::max(std::max(box[1] - y, y - box[3]), 0.0F);
        const float away = std::max(out_x, out_y) - r;
        if (away > 6 * eps) {
            sums[0] += eps * eps / (2 * eps + away) * radii;
        } else {
            for (std::size_t k = 0; k < theirs.count; k += lanes)
                for (std::size_t l = 0; l < lanes; ++l) {
                    const float ex = x - theirs.x[k + l], ey = y - theirs.y[k + l], its = theirs.r[k + l];
                    const float deep = r + its - std::sqrt(ex * ex + ey * ey);
                    // What decays ends at eps where they are deeper than that: no choice lane by lane.
                    const float decayed = eps * eps / (2 * eps - std::min(deep, eps)) + std::max(deep - eps, 0.0F);
                    sums[l] += decayed * std::min(its, r);
                }
        }
        // The largest come first and mostly tell enough: asked after 1, 2, 4, 8 of them.
        if ((i & (i + 1)) != 0 && i + 1 != own.count) continue;
        sum = ((sums[0] + sums[4]) + (sums[1] + sums[5])) + ((sums[2] + sums[6]) + (sums[3] + sums[7]));
        if (sum > enough) break;
    }
    return sum;
}

struct Edges {
    std::vector<double> x0, y0, x1, y1;
    std::size_t count = 0;
    void make_room(std::size_t most) {
        count = 0;
        if (x0.size() >= most) return;
        for (auto* list : {&x0, &y0, &x1, &y1}) list->resize(most);
    }
};

/// Those whose boxes reach into a rectangle, moved by a shift.
void edges_within(const Body& b, double dx, double dy, double left, double low, double right, double high,
                  Edges& out) {
    out.make_room(b.x0.size() + 1);
    std::size_t n = 0;
    for (std::size_t k = 0; k < b.x0.size(); ++k) {
        const double x0 = b.x0[k] + dx, x1 = b.x1[k] + dx, y0 = b.y0[k] + dy, y1 = b.y1[k] + dy;
        out.x0[n] = x0, out.y0[n] = y0, out.x1[n] = x1, out.y1[n] = y1;
        // Without branches: which edges are near is as good as random.
        n += static_cast<std::size_t>(
            static_cast<int>(std::max(x0, x1) >= left) & static_cast<int>(std::min(x0, x1) <= right) &
            static_cast<int>(std::max(y0, y1) >= low) & static_cast<int>(std::min(y0, y1) <= high));
    }
    out.count = n;
}

/// Whether an edge crosses any of the others. What lies on a line counts as outside of it: with all insides at the
/// left of their edges, shapes that touch do not cross, and shapes that share a sheet's edge and overlap do.
BEVELSMITH_WIDE int crosses_any(double ax, double ay, double bx, double by, const double* x0, const double* y0,
                                const double* x1, const double* y1, std::size_t count) {
    const double dx = bx - ax, dy = by - ay;
    int found = 0;
    for (std::size_t k = 0; k < count; ++k) {
        const double c0 = dx * (y0[k] - ay) - dy * (x0[k] - ax), c1 = dx * (y1[k] - ay) - dy * (x1[k] - ax);
        const double ex = x1[k] - x0[k], ey = y1[k] - y0[k];
        const double d0 = ex * (ay - y0[k]) - ey * (ax - x0[k]), d1 = ex * (by - y0[k]) - ey * (bx - x0[k]);
        found |= static_cast<int>((c0 > 0) != (c1 > 0)) & static_cast<int>((d0 > 0) != (d1 > 0));
    }
    return found;
}

}  // namespace

double slack_mm(double spacing_mm) {
    return spacing_mm >= 0.05 ? 0.012 : 0;
}

Body make_body(const geometry::Polygon& shape) {
    Body out;
    const auto add = [&out](const geometry::Ring& ring) {
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const Vec2 &a = ring[i], &b = ring[(i + 1) % ring.size()];
            out.x0.push_back(a.x()), out.y0.push_back(a.y()), out.x1.push_back(b.x()), out.y1.push_back(b.y());
        }
    };
    add(shape.outer);
    for (const auto& hole : shape.holes) {
        add(hole);
        out.openings.push_back(geometry::bounding_box(hole));
    }
    out.box = geometry::bounding_box(shape.outer);
    const double hull = std::abs(geometry::area_mm2(geometry::convex_hull(shape.outer)));
    out.size = std::pow(std::max(hull, 1.0), 0.25);
    out.diameter = out.box.size().norm();
    out.least = std::min(out.box.width(), out.box.height());
    out.sides = straight_sides(out);
    add_poles(out, std::abs(geometry::area_mm2(shape)));
    out.poles = out.r.size();
    for (float r : out.r) out.radii += r;
    // What fills up is nowhere near anything, and has no size.
    constexpr float nowhere = 1e9F;
    while (out.r.size() % lanes != 0) out.cx.push_back(nowhere), out.cy.push_back(nowhere), out.r.push_back(0);
    return out;
}

Body turned(const Body& body, double angle_rad) {
    Body out = body;
    const double c = std::cos(angle_rad), s = std::sin(angle_rad);
    const auto turn = [c, s]<class Number>(std::vector<Number>& x, std::vector<Number>& y) {
        for (std::size_t k = 0; k < x.size(); ++k) {
            const auto before = static_cast<double>(x[k]), up = static_cast<double>(y[k]);
            x[k] = static_cast<Number>(c * before - s * up);
            y[k] = static_cast<Number>(s * before + c * up);
        }
    };
    turn(out.x0, out.y0), turn(out.x1, out.y1), turn(out.cx, out.cy);
    out.sides = straight_sides(out);
    out.box = {Vec2::Constant(HUGE_VAL), Vec2::Constant(-HUGE_VAL)};
    for (std::size_t k = 0; k < out.x0.size(); ++k) {
        out.box.min = out.box.min.cwiseMin(Vec2(out.x0[k], out.y0[k]));
        out.box.max = out.box.max.cwiseMax(Vec2(out.x0[k], out.y0[k]));
    }
    // Of an opening that lies askew the turned box's inner one: as large as can be said without its outline.
    for (geometry::Box& hole : out.openings) {
        const Vec2 middle = hole.centre(), half = hole.size() / 2;
        const double square = std::min(half.x(), half.y()) / std::max(1e-9, std::abs(c) + std::abs(s));
        const bool quarter = std::abs(c * s) < 1e-9;
        const Vec2 reach = !quarter ? Vec2(square, square) : std::abs(c) > 0.5 ? half : Vec2(half.y(), half.x());
        const Vec2 at(c * middle.x() - s * middle.y(), s * middle.x() + c * middle.y());
        hole = {at - reach, at + reach};
    }
    out.least = std::min(out.box.width(), out.box.height());
    return out;
}

Body mirrored(const Body& body) {
    Body out = body;
    // Edges run the other way, so that the inside stays at their left.
    for (std::size_t k = 0; k < body.x0.size(); ++k) {
        out.x0[k] = -body.x1[k], out.y0[k] = body.y1[k];
        out.x1[k] = -body.x0[k], out.y1[k] = body.y0[k];
    }
    out.sides = straight_sides(out);
    for (float& x : out.cx) x = -x;
    out.box.min.x() = -body.box.max.x(), out.box.max.x() = -body.box.min.x();
    for (std::size_t k = 0; k < body.openings.size(); ++k) {
        out.openings[k].min.x() = -body.openings[k].max.x();
        out.openings[k].max.x() = -body.openings[k].min.x();
    }
    return out;
}

bool overlap(const Body& a, const Vec2& shift_a, const Body& b, const Vec2& shift_b) {
    const Vec2 low_a = a.box.min + shift_a, high_a = a.box.max + shift_a, low_b = b.box.min + shift_b,
               high_b = b.box.max + shift_b;
    const double left = std::max(low_a.x(), low_b.x()), right = std::min(high_a.x(), high_b.x());
    const double low = std::max(low_a.y(), low_b.y()), high = std::min(high_a.y(), high_b.y());
    if (left >= right || low >= high) return false;
    const double dx = shift_a.x() - shift_b.x(), dy = shift_a.y() - shift_b.y();
    if (poles_overlap(a, b, dx, dy)) return true;
    thread_local Edges of_a, of_b;
    edges_within(a, shift_a.x(), shift_a.y(), left, low, right, high, of_a);
    edges_within(b, shift_b.x(), shift_b.y(), left, low, right, high, of_b);
    for (std::size_t i = 0; i < of_a.count && of_b.count > 0; ++i)
        if (crosses_any(of_a.x0[i], of_a.y0[i], of_a.x1[i], of_a.y1[i], of_b.x0.data(), of_b.y0.data(),
                        of_b.x1.data(), of_b.y1.data(), of_b.count))
            return true;
    // No edges cross: one lies within the other, or they are apart.
    return holds(b, static_cast<double>(a.cx[0]) + dx, static_cast<double>(a.cy[0]) + dy) ||
           holds(a, static_cast<double>(b.cx[0]) - dx, static_cast<double>(b.cy[0]) - dy);
}

double depth(const Body& a, const Vec2& shift_a, const Body& b, const Vec2& shift_b, double bound) {
    const auto dx = static_cast<float>(shift_a.x() - shift_b.x()), dy = static_cast<float>(shift_a.y() - shift_b.y());
    const double eps = 0.01 * std::max(a.diameter, b.diameter), sizes = a.size * b.size;
    const double enough = (bound / sizes) * (bound / sizes) / M_PI;
    const float box[4] = {static_cast<float>(b.box.min.x()), static_cast<float>(b.box.min.y()),
                          static_cast<float>(b.box.max.x()), static_cast<float>(b.box.max.y())};
    const float sum = penetrations({a.cx.data(), a.cy.data(), a.r.data(), a.poles}, dx, dy,
                                   {b.cx.data(), b.cy.data(), b.r.data(), b.r.size()}, b.radii, box,
                                   static_cast<float>(eps), static_cast<float>(std::min(enough, 1e30)));
    return std::sqrt(M_PI * static_cast<double>(sum) + eps * eps) * sizes;
}

}  // namespace bevelsmith::sheets
