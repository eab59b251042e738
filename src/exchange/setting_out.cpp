#include "exchange/setting_out.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <span>

#include "units/figures.h"

namespace bevelsmith::exchange {
namespace {

using geometry::Polygon;
using geometry::Ring;
using geometry::Run;
using geometry::RunKind;
using geometry::RunPair;

/// Faces that differ by less are sawn square.
constexpr double square_mm = 0.05;
/// A row nearer to a corner than this share of the step (and than 2 mm) says nothing that the corner does not, and
/// what both are rounded by would bend the batten beyond them.
constexpr double near_corner_share = 0.25, near_corner_mm = 2;

std::span<const double> steps_of(units::LengthUnit unit) {
    static constexpr std::array metric{1000.0, 500.0, 200.0, 100.0, 50.0, 20.0, 10.0, 5.0};
    static constexpr std::array inches{609.6, 304.8, 152.4, 101.6, 50.8, 25.4, 12.7, 6.35};
    return units::in_inches(unit) ? std::span<const double>(inches) : std::span<const double>(metric);
}

// Base lines.

struct Straight {
    Vec2 from{0, 0}, to{0, 0};
    double length() const { return (to - from).norm(); }
};

/// Straight runs that lie level, or upright.
std::vector<Straight> straight_edges(const Ring& ring, bool level) {
    constexpr double lean = 1e-3;
    std::vector<Straight> out;
    for (const Run& run : geometry::runs_of(ring)) {
        if (run.kind != RunKind::straight) continue;
        const Vec2 way = run.points.back() - run.points.front();
        if (std::abs(level ? way.y() : way.x()) <= lean * way.norm())
            out.push_back({run.points.front(), run.points.back()});
    }
    return out;
}

const Straight* best_edge(const std::vector<Straight>& edges, bool level, double extent_mm) {
    constexpr double least_share = 0.25;
    const Straight* best = nullptr;
    const auto worth = [&](const Straight& e) {
        // Of two that are as good the lower, the left one.
        return e.length() - 0.2 * (level ? e.from.y() : e.from.x());
    };
    for (const Straight& e : edges)
        if (e.length() >= least_share * extent_mm && (!best || worth(e) > worth(*best))) best = &e;
    return best;
}

std::string edge_words(const Straight& edge, bool level, const geometry::Box& box, const EdgeLookup& edges) {
    const Vec2 middle = (edge.from + edge.to) / 2;
    const std::string name = edges(middle).name;
    const bool low = level ? middle.y() < box.centre().y() : middle.x() < box.centre().x();
    const std::string side =
        level ? (low ? "the lower edge" : "the upper edge") : (low ? "the left edge" : "the right edge");
    return name.empty() ? side : side + " (" + name + ")";
}

/// The longest stretch of a level or upright line within a face.
Straight struck_line(const Polygon& face, bool level, double at, const geometry::Box& box) {
    constexpr double thin_mm = 0.01;
    const Polygon band{
        geometry::rectangle(level ? geometry::Box{{box.min.x() - 1, at}, {box.max.x() + 1, at + thin_mm}}
                                  : geometry::Box{{at, box.min.y() - 1}, {at + thin_mm, box.max.y() + 1}}),
        {}};
    Straight out{level ? Vec2(box.min.x(), at) : Vec2(at, box.min.y()),
                 level ? Vec2(box.min.x(), at) : Vec2(at, box.min.y())};
    for (const auto& part : geometry::intersect({face}, {band})) {
        const auto b = geometry::bounding_box(part.outer);
        const Straight here =
            level ? Straight{{b.min.x(), at}, {b.max.x(), at}} : Straight{{at, b.min.y()}, {at, b.max.y()}};
        if (here.length() > out.length()) out = here;
    }
    return out;
}

void choose_bases(SettingOut& out, const Polygon& face_a, const EdgeLookup& edges) {
    const auto box = geometry::bounding_box(face_a.outer);
    const auto level_edges = straight_edges(face_a.outer, true), upright_edges = straight_edges(face_a.outer, false);
    const Straight *level = best_edge(level_edges, true, box.width()),
                   *upright = best_edge(upright_edges, false, box.height());
    if (level) out.level = {true, edge_words(*level, true, box, edges), level->from, level->to};
    if (upright) out.upright = {true, edge_words(*upright, false, box, edges), upright->from, upright->to};
    // A line that is struck starts at an end of the edge there is; with no edge it goes through the panel's middle.
    const auto lower = [](const BaseLineOnPanel& l) { return l.from.y() < l.to.y() ? l.from : l.to; };
    const auto left = [](const BaseLineOnPanel& l) { return l.from.x() < l.to.x() ? l.from : l.to; };
    if (!level) {
        const double at = upright ? lower(out.upright).y() : box.centre().y();
        const Straight line = struck_line(face_a, true, at, box);
        out.level = {false,
                     upright ? "a line square to it through its lower end" : "a level line struck on the panel",
                     line.from, line.to};
    }
    if (!upright) {
        const double at = level ? left(out.level).x() : box.centre().x();
        const Straight line = struck_line(face_a, false, at, box);
        out.upright = {false, level ? "a line square to it through its left end" : "a line struck square to it",
                       line.from, line.to};
    }
    out.origin = {out.upright.from.x(), out.level.from.y()};
    // From an edge all figures that matter count away from it, into the panel.
    out.leftwards = upright && out.origin.x() > box.centre().x();
    out.down = level && out.origin.y() > box.centre().y();
}

// Runs.

/// The other figure of a run where its own is `at`; nothing beyond its ends.
std::optional<double> figure_at(const std::vector<Vec2>& points, bool steep, double at) {
    const auto own = [&](const Vec2& p) { return steep ? p.y() : p.x(); };
    const auto other = [&](const Vec2& p) { return steep ? p.x() : p.y(); };
    for (std::size_t i = 0; i + 1 < points.size(); ++i) {
        const double a = own(points[i]), b = own(points[i + 1]);
        if (at < std::min(a, b) || at > std::max(a, b) || a == b) continue;
        const double t = (at - a) / (b - a);
        return other(points[i]) + t * (other(points[i + 1]) - other(points[i]));
    }
    return std::nullopt;
}

bool near_an_end(const std::vector<Vec2>& points, bool steep, double at, double step_mm) {
    const auto own = [&](const Vec2& p) { return steep ? p.y() : p.x(); };
    const double near = std::max(near_corner_mm, near_corner_share * step_mm);
    return std::abs(at - own(points.front())) < near || std::abs(at - own(points.back())) < near;
}

std::vector<SetRow> rows_of(const Run& a, const Run* b, double step_mm, const EdgeLookup& edges,
                            const SettingOut& of) {
    const bool steep = a.kind == RunKind::steep;
    const auto own = [&](const Vec2& p) { return steep ? p.y() : p.x(); };
    double least = std::min(own(a.points.front()), own(a.points.back())),
           most = std::max(own(a.points.front()), own(a.points.back()));
    if (b) {
        least = std::min({least, own(b->points.front()), own(b->points.back())});
        most = std::max({most, own(b->points.front()), own(b->points.back())});
    }
    std::vector<SetRow> out;
    for (double k = std::ceil(least / step_mm); k * step_mm <= most; ++k) {
        SetRow row;
        row.at_mm = k * step_mm;
        if (!near_an_end(a.points, steep, row.at_mm, step_mm)) row.a = figure_at(a.points, steep, row.at_mm);
        if (b && !near_an_end(b->points, steep, row.at_mm, step_mm)) row.b = figure_at(b->points, steep, row.at_mm);
        if (!row.a && !row.b) continue;
        const double across = row.a ? *row.a : *row.b;
        row.bevel_deg = edges(of.place_of(steep ? Vec2(across, row.at_mm) : Vec2(row.at_mm, across))).bevel_deg;
        out.push_back(row);
    }
    if (own(a.points.back()) < own(a.points.front())) std::reverse(out.begin(), out.end());
    return out;
}

/// The places that a run's figures give on one face, in its order.
std::vector<Vec2> through(const std::vector<SetRow>& rows, bool steep, bool face_a, const Vec2& from,
                          const Vec2& to) {
    std::vector<Vec2> out{from};
    for (const SetRow& row : rows)
        if (const auto& figure = face_a ? row.a : row.b)
            out.push_back(steep ? Vec2(*figure, row.at_mm) : Vec2(row.at_mm, *figure));
    out.push_back(to);
    return out;
}

bool is_curve(RunKind kind) {
    return kind == RunKind::steep || kind == RunKind::flat;
}

double off_batten_mm(const Run& run, const std::vector<SetRow>& rows, bool face_a) {
    const auto line = geometry::drawn_again(
        run.kind, run.radius_mm,
        through(rows, run.kind == RunKind::steep, face_a, run.points.front(), run.points.back()));
    return geometry::farthest_from_line(run.points, line).mm;
}

/// Rows at the step that was asked for, or at the first finer one at which a batten takes the curve.
void set_rows(SetRun& out, const Run& a, const Run* b, double step_mm, const EdgeLookup& edges, const SettingOut& of,
              units::LengthUnit unit) {
    for (double step = step_mm;; step = finer_step_mm(step, unit)) {
        out.step_mm = step;
        out.rows = rows_of(a, b, step, edges, of);
        const double off = std::max(off_batten_mm(a, out.rows, true), b ? off_batten_mm(*b, out.rows, false) : 0.0);
        if (off <= batten_off_mm || finer_step_mm(step, unit) >= step) return;
    }
}

struct RingMaker {
    const SettingOut& of;
    const EdgeLookup& edges;
    double step_mm;
    units::LengthUnit unit;

    EdgeThere there(const Run& run) const {
        return edges(run.points.size() > 2 ? run.points[run.points.size() / 2]
                                           : Vec2((run.points.front() + run.points.back()) / 2));
    }
    Run in_figures(Run run) const {
        for (Vec2& p : run.points) p = of.figures_of(p);
        return run;
    }
    /// The farthest that a batten through a run's rows leaves it, and at which of its points.
    geometry::Farthest off(const Run& run, const std::vector<SetRow>& rows, bool face_a) const {
        const Run here = in_figures(run);
        return geometry::farthest_from_line(
            here.points, geometry::drawn_again(here.kind, here.radius_mm,
                                               through(rows, here.kind == RunKind::steep, face_a, here.points.front(),
                                                       here.points.back())));
    }
    /// Divided where even the closest rows leave a batten off the curve: that place becomes a corner.
    std::vector<RunPair> refined(const RunPair& pair, int depth = 0) const {
        constexpr int deepest = 6;
        const Run& lead = pair.a ? *pair.a : *pair.b;
        if (!is_curve(lead.kind) || depth >= deepest) return {pair};
        const SetRun set = set_run(pair, 0, 0);
        const auto a = pair.a ? off(*pair.a, set.rows, true) : geometry::Farthest{};
        const auto b = pair.b ? off(*pair.b, set.rows, false) : geometry::Farthest{};
        if (std::max(a.mm, b.mm) <= batten_off_mm) return {pair};
        const bool at_a = a.mm >= b.mm;
        const Run& worse = at_a ? *pair.a : *pair.b;
        const Vec2 place = worse.points[at_a ? a.at : b.at];
        RunPair first{{}, {}, pair.shares_start}, second{{}, {}, pair.a && pair.b};
        for (const bool face_a : {true, false}) {
            const auto& whole = face_a ? pair.a : pair.b;
            if (!whole) continue;
            const auto at = geometry::nearest_within(*whole, place);
            if (!at) return {pair};
            const auto [one, two] = geometry::divided(*whole, *at);
            (face_a ? first.a : first.b) = one;
            (face_a ? second.a : second.b) = two;
        }
        const auto alike = [](const RunPair& p) { return !p.a || !p.b || p.a->kind == p.b->kind; };
        if (!alike(first) || !alike(second)) return {pair};
        std::vector<RunPair> out = refined(first, depth + 1);
        for (RunPair& p : refined(second, depth + 1)) out.push_back(std::move(p));
        return out;
    }
    std::vector<RunPair> refined(const std::vector<RunPair>& pairs) const {
        std::vector<RunPair> out;
        for (const RunPair& pair : pairs)
            for (RunPair& one : refined(pair)) out.push_back(std::move(one));
        return out;
    }

    SetRun set_run(const RunPair& pair, int from, int to) const {
        const Run& first = pair.a ? *pair.a : *pair.b;
        const EdgeThere here = there(first);
        SetRun out{first.kind,         here.name,         from, to, first.radius_mm, here.bevel_deg, 0, {},
                   pair.a.has_value(), pair.b.has_value()};
        if (!is_curve(first.kind)) return out;
        const Run lead = in_figures(first);
        if (pair.a && pair.b) {
            const Run other = in_figures(*pair.b);
            set_rows(out, lead, &other, step_mm, edges, of, unit);
        } else {
            set_rows(out, lead, nullptr, step_mm, edges, of, unit);
            if (!pair.a)
                for (SetRow& row : out.rows) std::swap(row.a, row.b);
        }
        return out;
    }
    /// Numbers for the corners at which runs begin, each face's runs closing on themselves.
    void add(SetRing& out, const std::vector<RunPair>& pairs) const {
        std::vector<int> starts(pairs.size(), 0);
        int shared = 0;  // the number of the last corner that both faces have
        for (std::size_t k = 0; k < pairs.size(); ++k) {
            const auto& pair = pairs[k];
            // The second face's runs begin again at the corner that the first one's began at.
            const bool again =
                pair.shares_start && !pair.a && k > 0 && shared > 0 && !pairs[k - 1].b && pairs[k - 1].a;
            if (again) {
                starts[k] = shared;
                out.corners[static_cast<std::size_t>(shared - 1)].b = of.figures_of(pair.b->points.front());
                continue;
            }
            SetCorner corner{static_cast<int>(out.corners.size()) + 1, {}, {}};
            if (pair.a) corner.a = of.figures_of(pair.a->points.front());
            if (pair.b) corner.b = of.figures_of(pair.b->points.front());
            if (pair.shares_start) shared = corner.number;
            starts[k] = corner.number;
            out.corners.push_back(corner);
        }
        for (std::size_t k = 0; k < pairs.size(); ++k)
            out.runs.push_back(set_run(pairs[k], starts[k], next_start(pairs, starts, k)));
    }
    /// The corner at which the next run of the same face begins.
    static int next_start(const std::vector<RunPair>& pairs, const std::vector<int>& starts, std::size_t k) {
        const bool of_a = pairs[k].a.has_value();
        for (std::size_t n = 1; n <= pairs.size(); ++n) {
            const auto& next = pairs[(k + n) % pairs.size()];
            if (of_a ? next.a.has_value() : next.b.has_value()) return starts[(k + n) % pairs.size()];
        }
        return starts[k];
    }
    static std::vector<RunPair> alone(const Ring& ring, bool of_a) {
        std::vector<RunPair> out;
        for (Run& run : geometry::runs_of(ring)) {
            RunPair pair{{}, {}, false};
            (of_a ? pair.a : pair.b) = std::move(run);
            out.push_back(std::move(pair));
        }
        return out;
    }
    SetRing ring(const std::string& name, const Ring& a, const Ring& b, double thickness_mm, bool alike) const {
        SetRing out{name, {}, {}};
        constexpr double far_thicknesses = 3;
        if (alike) {
            add(out, refined(alone(a, true)));
        } else if (const auto pairs = geometry::paired_runs(a, b, far_thicknesses * thickness_mm + 2)) {
            add(out, refined(*pairs));
        } else {
            auto both = alone(a, true);
            for (RunPair& pair : alone(b, false)) both.push_back(std::move(pair));
            add(out, refined(both));
        }
        return out;
    }
};

// Openings.

const PlainOpening* plain_of(const std::vector<PlainOpening>& plain, const Ring& hole) {
    constexpr double same_mm = 0.2;
    const auto box = geometry::bounding_box(hole);
    for (const auto& one : plain) {
        const Vec2 half(one.width_mm / 2, one.height_mm / 2);
        const Vec2 low = one.round ? Vec2(one.low - Vec2::Constant(one.width_mm / 2)) : one.low;
        const Vec2 size = one.round ? Vec2::Constant(one.width_mm) : Vec2(2 * half);
        if ((box.min - low).norm() < same_mm && (box.size() - size).norm() < same_mm) return &one;
    }
    return nullptr;
}

void add_openings(SettingOut& out, const Polygon& face_a, const Polygon& face_b, double thickness_mm,
                  const std::vector<PlainOpening>& plain, const RingMaker& maker) {
    const bool paired = face_a.holes.size() == face_b.holes.size();
    for (std::size_t i = 0; i < face_a.holes.size(); ++i) {
        const Ring& hole = face_a.holes[i];
        if (const auto* one = plain_of(plain, hole)) {
            // Of its corners the one nearest to where the figures begin.
            const Vec2 near = one->round ? one->low
                                         : Vec2(one->low.x() + (out.leftwards ? one->width_mm : 0),
                                                one->low.y() + (out.down ? one->height_mm : 0));
            const Vec2 at = out.figures_of(near);
            out.openings.push_back(
                {one->name, one->round, at.x(), at.y(), one->width_mm, one->height_mm, one->radius_mm});
            continue;
        }
        const Ring& behind = paired ? face_b.holes[i] : hole;
        const bool alike = geometry::farthest_mm({hole, {}}, {behind, {}}) < square_mm;
        const std::string name = maker.edges(hole.front()).name;
        out.rings.push_back(maker.ring(name.empty() ? "opening" : name, hole, behind, thickness_mm, alike));
    }
    // Row by row from below, as one marks them.
    std::stable_sort(out.openings.begin(), out.openings.end(), [](const auto& a, const auto& b) {
        return std::pair(a.name, std::pair(a.up_mm, a.across_mm)) <
               std::pair(b.name, std::pair(b.up_mm, b.across_mm));
    });
}

}  // namespace

Vec2 middle_of(const SetOpening& o) {
    return o.round ? Vec2(o.across_mm, o.up_mm) : Vec2(o.across_mm + o.width_mm / 2, o.up_mm + o.height_mm / 2);
}

double finer_step_mm(double step_mm, units::LengthUnit unit) {
    for (double step : steps_of(unit))
        if (step < step_mm - 1e-6) return step;
    return step_mm;
}

SettingOut setting_out(const Polygon& face_a, const Polygon& face_b, double thickness_mm,
                       const std::vector<PlainOpening>& plain, const EdgeLookup& edges, double step_mm,
                       units::LengthUnit unit) {
    SettingOut out;
    constexpr double least_step_mm = 5;
    step_mm = std::max(least_step_mm, step_mm);
    choose_bases(out, face_a, edges);
    const bool alike = geometry::farthest_mm({face_a.outer, {}}, {face_b.outer, {}}) < square_mm;
    const RingMaker maker{out, edges, step_mm, unit};
    SetRing outline = maker.ring("outline", face_a.outer, face_b.outer, thickness_mm, alike);
    out.rings.push_back(std::move(outline));
    add_openings(out, face_a, face_b, thickness_mm, plain, maker);
    out.faces_alike = alike;
    return out;
}

geometry::Ring drawn_again(const SettingOut& of, const SetRing& ring, bool face_a) {
    const auto corner = [&](int number) -> std::optional<Vec2> {
        const SetCorner& c = ring.corners[static_cast<std::size_t>(number - 1)];
        return face_a ? c.a : c.b;
    };
    Ring out;
    for (const SetRun& run : ring.runs) {
        const auto from = corner(run.from), to = corner(run.to);
        if (!(face_a ? run.on_a : run.on_b) || !from || !to) continue;
        // Counted one way round its arcs turn as they do in the drawing, mirrored the other way.
        const double turned = of.leftwards != of.down ? -1 : 1;
        const auto line = geometry::drawn_again(run.kind, turned * run.radius_mm,
                                                through(run.rows, run.kind == RunKind::steep, face_a, *from, *to));
        out.insert(out.end(), line.begin(), line.end() - 1);
    }
    return out;
}

SettingOut as_printed(SettingOut s, units::LengthUnit unit) {
    const auto read = [unit](double mm) { return units::printed_mm(mm, unit); };
    const auto read_place = [&](std::optional<Vec2>& p) {
        if (p) *p = Vec2(read(p->x()), read(p->y()));
    };
    for (SetRing& ring : s.rings) {
        for (SetCorner& c : ring.corners) read_place(c.a), read_place(c.b);
        for (SetRun& run : ring.runs) {
            run.radius_mm = read(run.radius_mm);
            for (SetRow& row : run.rows) {
                if (row.a) row.a = read(*row.a);
                if (row.b) row.b = read(*row.b);
            }
        }
    }
    for (SetOpening& o : s.openings)
        for (double* v : {&o.across_mm, &o.up_mm, &o.width_mm, &o.height_mm, &o.radius_mm}) *v = read(*v);
    return s;
}

}  // namespace bevelsmith::exchange
