#include "piece/fitting.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "piece/best_move.h"

namespace bevelsmith::piece {
namespace {

/// A reading a little beyond the edge's end is one at its end.
constexpr double beyond_end_mm = 10;
/// Steps of the shaving guide.
constexpr double guide_step_mm = 50;
/// Less is neither shaved nor seen.
constexpr double nothing_mm = 0.1;

/// Wood left on for shaving; nothing without a spec, for the finished edge.
double left_on_mm(const PieceSpec* spec, const EdgeMark& mark) {
    return spec ? left_before_mm(spec->edges[static_cast<std::size_t>(mark.edge)]) / std::cos(mark.bevel_rad) : 0;
}

/// A place on the edge as it was offered up, with the way out of the piece there.
struct OnEdge {
    Vec2 a{0, 0}, b{0, 0}, out_a{1, 0}, out_b{1, 0};
    double arc_mm = 0, bevel_rad = 0;
};

Vec2 way_out(const Vec2& from, const Vec2& to) {
    const Vec2 along = to - from;
    return Vec2(along.y(), -along.x()).normalized();
}

OnEdge between(const PieceSpec* spec, const EdgeMark& first, const EdgeMark& next, double share) {
    OnEdge out;
    out.out_a = way_out(first.a, next.a), out.out_b = way_out(first.b, next.b);
    out.bevel_rad = first.bevel_rad + share * (next.bevel_rad - first.bevel_rad);
    const double more = left_on_mm(spec, first);
    out.a = first.a + share * (next.a - first.a) + more * out.out_a;
    out.b = first.b + share * (next.b - first.b) + more * out.out_b;
    out.arc_mm = first.arc_mm + share * (next.arc_mm - first.arc_mm);
    return out;
}

/// The edge's kept stretches, each from mark to mark.
template <class Each>
void each_stretch(const Outline& shape, int edge, Each each) {
    for (std::size_t i = 0; i + 1 < shape.marks.size(); ++i) {
        const EdgeMark &m = shape.marks[i], &n = shape.marks[i + 1];
        if (m.edge == edge && n.edge == edge && m.kept && n.kept && (n.a - m.a).norm() > 1e-9) each(m, n);
    }
}

std::optional<OnEdge> place_on(const PieceSpec* spec, const Outline& shape, int edge, double along_mm) {
    std::optional<OnEdge> out, nearest;
    double off = beyond_end_mm;
    each_stretch(shape, edge, [&](const EdgeMark& m, const EdgeMark& n) {
        const double share = (along_mm - m.arc_mm) / (n.arc_mm - m.arc_mm);
        if (share >= 0 && share <= 1) out = between(spec, m, n, share);
        const double clamped = std::clamp(share, 0.0, 1.0);
        const double miss = std::abs(m.arc_mm + clamped * (n.arc_mm - m.arc_mm) - along_mm);
        if (miss < off) off = miss, nearest = between(spec, m, n, clamped);
    });
    return out ? out : nearest;
}

double ends_at(const Outline& shape, int edge) {
    double out = 0;
    each_stretch(shape, edge, [&](const EdgeMark&, const EdgeMark& n) { out = std::max(out, n.arc_mm); });
    return out;
}

std::string edge_name(const PieceSpec& spec, int edge) {
    return spec.edges[static_cast<std::size_t>(edge)].name;
}

/// How much wood stands beyond a place of the corrected edge: to the outline as it was offered up, positive where the
/// place lies within that.
double wood_beyond_mm(const geometry::Ring& offered, const Vec2& p) {
    double nearest = HUGE_VAL;
    for (std::size_t i = 0; i < offered.size(); ++i)
        nearest =
            std::min(nearest, geometry::distance_to_segment_mm(p, offered[i], offered[(i + 1) % offered.size()]));
    return geometry::contains(offered, p) ? nearest : -nearest;
}

std::vector<int> edges_read(const std::vector<FitReading>& readings) {
    std::vector<int> out;
    for (const FitReading& r : readings) out.push_back(r.edge);
    std::sort(out.begin(), out.end());
    out.erase(std::unique(out.begin(), out.end()), out.end());
    return out;
}

/// As far as readings speak: a little beyond the first and the last of an edge.
void guide_along(const Offered& offered, const Outline& corrected, int edge, const std::vector<FitReading>& readings,
                 Correction& out) {
    constexpr double speaks_beyond_mm = 75;
    double first = HUGE_VAL, last = -HUGE_VAL;
    for (const FitReading& r : readings)
        if (r.edge == edge) first = std::min(first, r.along_mm), last = std::max(last, r.along_mm);
    const double from = std::max(0.0, first - speaks_beyond_mm),
                 to = std::min(ends_at(corrected, edge), last + speaks_beyond_mm);
    const int begin = static_cast<int>(std::ceil(from / guide_step_mm)),
              end = static_cast<int>(std::ceil(to / guide_step_mm));
    for (int k = begin; k <= end && !offered.face_a.outer.empty(); ++k) {
        const double along = std::min(to, k * guide_step_mm);
        const auto at = place_on(nullptr, corrected, edge, along);
        if (!at || std::abs(at->arc_mm - along) > beyond_end_mm) continue;
        out.guide.push_back({static_cast<int>(out.guide.size()) + 1, edge, at->arc_mm, at->a, at->out_a,
                             wood_beyond_mm(offered.face_a.outer, at->a),
                             wood_beyond_mm(offered.face_b.outer, at->b)});
    }
}

void find_missing(const PieceSpec& spec, Correction& out) {
    bool open = false;
    for (const Shaving& s : out.guide) {
        out.widest_mm = std::max(out.widest_mm, -s.off_a_mm);
        out.most_off_mm = std::max({out.most_off_mm, s.off_a_mm, s.off_b_mm});
        if (s.off_a_mm > -nothing_mm) {
            open = false;
            continue;
        }
        if (!open || out.missing.back().edge != s.edge)
            out.missing.push_back({s.edge, s.along_mm, s.along_mm, 0, true});
        open = true;
        Missing& m = out.missing.back();
        m.to_mm = s.along_mm, m.most_mm = std::max(m.most_mm, -s.off_a_mm);
        m.fits_wanted = m.most_mm <= spec.wanted_fit_mm;
    }
}

/// What must not open when the piece is moved: the edges that were read, as far as daylight shows or wood is to go,
/// and all others that meet something, where it fits as it is.
std::vector<Contact> contacts_of(const PieceSpec& spec, const Outline& shape, const Correction& by) {
    std::vector<Contact> out;
    std::vector<int> read;
    for (const Shaving& s : by.guide) {
        out.push_back({s.at, s.out, -s.off_a_mm});
        read.push_back(s.edge);
    }
    constexpr double step_mm = 100;
    const auto& ring = shape.face_a.outer;
    for (const Edge& edge : shape.edges_a) {
        if (edge.spec < 0 || (edge.source != EdgeSource::scribed && edge.source != EdgeSource::straight)) continue;
        const EdgeKind kind = spec.edges[static_cast<std::size_t>(edge.spec)].kind;
        if (kind != EdgeKind::scribed && kind != EdgeKind::piece) continue;
        if (std::find(read.begin(), read.end(), edge.spec) != read.end()) continue;
        for (std::size_t i = static_cast<std::size_t>(edge.first); i != static_cast<std::size_t>(edge.last);) {
            const std::size_t next = (i + 1) % ring.size();
            const Vec2 way = ring[next] - ring[i];
            const int steps = std::max(1, static_cast<int>(way.norm() / step_mm));
            if (way.norm() > 1)
                for (int k = 0; k <= steps; ++k)
                    out.push_back({ring[i] + way * k / steps, way_out(ring[i], ring[next]), 0});
            i = next;
        }
    }
    return out;
}

void advise(const PieceSpec& spec, const std::vector<FitReading>& readings, Correction& out) {
    const auto say = [&](std::string words) { out.advice.push_back(std::move(words)); };
    std::string rocks;
    for (const std::size_t k : out.rocks_on)
        rocks += fmt::format("{}'{}' at {:.0f} mm", rocks.empty() ? "" : " and ", edge_name(spec, readings[k].edge),
                             readings[k].along_mm);
    if (!rocks.empty()) say(fmt::format("It rocks on {}: shave there first, then look again at the rest.", rocks));
    if (out.most_off_mm > nothing_mm)
        say(fmt::format("Take off what the guide says, {:.1f} mm at most.", out.most_off_mm));
    const bool all_fit =
        std::all_of(out.missing.begin(), out.missing.end(), [](const Missing& m) { return m.fits_wanted; });
    if (out.best_move && !all_fit)
        say(fmt::format("Moved and turned as said, the widest daylight is {:.1f} mm instead of {:.1f} mm.",
                        out.best_move->left_mm, out.widest_mm));
    for (const Missing& m : out.missing) {
        if (m.fits_wanted) continue;
        const std::string where = fmt::format("'{}' from {:.0f} to {:.0f} mm: {:.1f} mm of daylight",
                                              edge_name(spec, m.edge), m.from_mm, m.to_mm, m.most_mm);
        say(m.most_mm <= most_filled_mm ? where + " are filled or covered; no shaving brings wood back."
                                        : where + " are too wide to fill: cut a new blank to the corrected outline.");
    }
    if (out.most_off_mm <= nothing_mm && all_fit) say("It fits as wanted: nothing is to be done.");
}

}  // namespace

Result<std::vector<TruePlace>> true_places(const PieceSpec& spec, const Outline& offered,
                                           const std::vector<FitReading>& readings) {
    std::vector<TruePlace> out;
    for (std::size_t k = 0; k < readings.size(); ++k) {
        const FitReading& r = readings[k];
        const auto wrong = [&](const std::string& why) {
            return Error{fmt::format("reading {}: {}", k + 1, why), static_cast<int>(k) + 1};
        };
        if (r.edge < 0 || r.edge >= static_cast<int>(spec.edges.size()))
            return wrong(fmt::format("'{}' has no edge {}", spec.name, r.edge));
        if (spec.edges[static_cast<std::size_t>(r.edge)].kind != EdgeKind::scribed)
            return wrong(fmt::format("the edge '{}' is not scribed to a surface: its fit is a saw's, not the hull's",
                                     edge_name(spec, r.edge)));
        const auto at = place_on(&spec, offered, r.edge, r.along_mm);
        if (!at)
            return wrong(fmt::format("{:.0f} mm is not on the edge '{}', which is {:.0f} mm long", r.along_mm,
                                     edge_name(spec, r.edge), ends_at(offered, r.edge)));
        const double gap = r.seen == Noticed::gap ? r.gap_mm : 0;
        out.push_back({r.edge, at->arc_mm, at->a + gap / std::cos(at->bevel_rad) * at->out_a, r.sigma_mm});
    }
    std::stable_sort(out.begin(), out.end(), [](const TruePlace& a, const TruePlace& b) {
        return std::pair(a.edge, a.along_mm) < std::pair(b.edge, b.along_mm);
    });
    return out;
}

geometry::Polygon offered_face(const geometry::Polygon& cut, const geometry::Polygon& finished) {
    // Clipping moves corners by a hair: what no lipping widens stays as it is.
    constexpr double no_lipping_mm2 = 10;
    if (finished.outer.empty() || geometry::total_area_mm2(geometry::subtract({finished}, {cut})) < no_lipping_mm2)
        return cut;
    return geometry::largest(geometry::unite({cut}, {finished}));
}

Offered as_offered(const Outline& shape) {
    if (!shape.cut_differs()) return {shape.face_a, shape.face_b};
    return {offered_face(shape.sheet_a, shape.face_a), offered_face(shape.sheet_b, shape.face_b)};
}

double left_before_mm(const EdgeSpec& edge) {
    return std::max(0.0, edge.leave_on_mm - edge.lipping_mm);
}

Correction correct(const PieceSpec& spec, const Offered& offered, const Outline& corrected,
                   const std::vector<FitReading>& readings) {
    Correction out;
    for (const int edge : edges_read(readings)) guide_along(offered, corrected, edge, readings, out);
    find_missing(spec, out);
    for (std::size_t k = 0; k < readings.size(); ++k)
        if (readings[k].seen == Noticed::rocks && readings[k].edge < static_cast<int>(spec.edges.size()))
            out.rocks_on.push_back(k);
    out.trimmed_a = geometry::largest(geometry::intersect({offered.face_a}, {corrected.face_a}));
    out.trimmed_b = geometry::largest(geometry::intersect({offered.face_b}, {corrected.face_b}));
    const Move move = best_move(contacts_of(spec, corrected, out), geometry::centroid(corrected.face_a));
    if (move.left_mm < out.widest_mm - nothing_mm) out.best_move = move;
    advise(spec, readings, out);
    return out;
}

}  // namespace bevelsmith::piece
