#include "hull/contours.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "hull/parallel.h"
#include "units/ranges.h"

namespace bevelsmith::hull {
namespace {

constexpr double at_border_m = 1e-3;  ///< an end so near the surface's border is where the surface ends

/// F over a grid of a face, and the crossings of its cell edges.
class Grid {
  public:
    Grid(const InnerFace& face, const geometry::Plane& plane)
        : face_(face), plane_(plane), s_(face.nodes_s()), v_(face.nodes_v()), wraps_(face.closed()) {
        value_.resize(ns() + 1, nv() + 1);
        const auto nodes = face.grid();
        for (int i = 0; i <= ns(); ++i)
            for (int j = 0; j <= nv(); ++j) {
                const double f = plane.distance_mm(nodes[static_cast<std::size_t>(i * (nv() + 1) + j)]);
                value_(i, j) = f == 0 ? 1e-12 : f;  // a node exactly on the plane counts as beyond it
            }
    }
    /// Polylines of places where the plane cuts, closed ones with the first place repeated at the end.
    std::vector<std::vector<Place>> contours();

  private:
    int ns() const { return static_cast<int>(s_.size()) - 1; }
    int nv() const { return static_cast<int>(v_.size()) - 1; }
    double s(int i) const { return s_[static_cast<std::size_t>(i)]; }
    double v(int j) const { return v_[static_cast<std::size_t>(j)]; }
    /// Between nodes for a share of a step.
    Place place(int i, int j, double share_s, double share_v) const {
        const int i1 = std::min(i + 1, ns()), j1 = std::min(j + 1, nv());
        return {s(i) + share_s * (s(i1) - s(i)), v(j) + share_v * (v(j1) - v(j))};
    }
    double distance(const Place& p) const { return plane_.distance_mm(face_.position(p)); }
    /// Edges are numbered: two a node, along s and along v; a wrapped column is column 0.
    long edge_key(int i, int j, bool along_s) const {
        const int column = wraps_ && j == nv() ? 0 : j;
        return 2L * (static_cast<long>(i) * (nv() + 1) + column) + (along_s ? 1 : 0);
    }
    void link(long a, long b) {
        links_[a].push_back(b);
        links_[b].push_back(a);
    }
    void march(int i, int j);
    Place crossing(long key) const;
    std::vector<Place> follow(long start);

    const InnerFace& face_;
    const geometry::Plane& plane_;
    std::vector<double> s_, v_;
    bool wraps_ = false;
    Eigen::MatrixXd value_;
    std::map<long, std::vector<long>> links_;
};

void Grid::march(int i, int j) {
    // Corners counter-clockwise, and the edge after each.
    const double f[] = {value_(i, j), value_(i + 1, j), value_(i + 1, j + 1), value_(i, j + 1)};
    const long edge[] = {edge_key(i, j, true), edge_key(i + 1, j, false), edge_key(i, j + 1, true),
                         edge_key(i, j, false)};
    std::vector<long> cut;
    for (int k = 0; k < 4; ++k)
        if ((f[k] > 0) != (f[(k + 1) % 4] > 0)) cut.push_back(edge[k]);
    if (cut.size() == 2) link(cut[0], cut[1]);
    if (cut.size() == 4) {  // a saddle: the centre says which corners hang together
        const bool centre = distance(place(i, j, 0.5, 0.5)) > 0;
        if (centre == (f[0] > 0)) {
            link(cut[0], cut[1]);
            link(cut[2], cut[3]);
        } else {
            link(cut[3], cut[0]);
            link(cut[1], cut[2]);
        }
    }
}

/// Where a straight line between the two nodes' values is zero: Newton finishes on the face.
Place Grid::crossing(long key) const {
    const bool along_s = key % 2 == 1;
    const int i = static_cast<int>(key / 2 / (nv() + 1)), j = static_cast<int>(key / 2 % (nv() + 1));
    const double here = value_(i, j), next = along_s ? value_(i + 1, j) : value_(i, j + 1);
    const double t = here / (here - next);
    return along_s ? place(i, j, t, 0) : place(i, j, 0, t);
}

std::vector<Place> Grid::follow(long start) {
    std::vector<Place> line{crossing(start)};
    for (long here = start;;) {
        auto& next = links_[here];
        if (next.empty()) break;
        const long to = next.back();
        next.pop_back();
        auto& back = links_[to];
        back.erase(std::find(back.begin(), back.end(), here));
        line.push_back(crossing(to));
        here = to;
    }
    return line;
}

std::vector<std::vector<Place>> Grid::contours() {
    for (int i = 0; i < ns(); ++i)
        for (int j = 0; j < nv(); ++j) march(i, j);
    std::vector<long> ends, all;
    for (const auto& [key, to] : links_) {
        if (to.size() == 1) ends.push_back(key);
        all.push_back(key);
    }
    std::vector<std::vector<Place>> out;
    for (const auto* starts : {&ends, &all})
        for (long key : *starts)
            if (!links_[key].empty()) out.push_back(follow(key));
    return out;
}

/// The shorter way from a to b in v, across the cut of a closed chart where that is shorter.
double v_step(const Surface& surface, const InnerFace& face, double from, double to) {
    const double step = to - from;
    if (!face.closed()) return step;
    const double turn = surface.basis_v().high() - surface.basis_v().low();
    return step - turn * std::round(step / turn);
}

/// Equally spaced places along a traced contour, both ends kept.
std::vector<Place> resampled(const Surface& surface, const InnerFace& face, const std::vector<Place>& line,
                             const SectionOptions& spacing) {
    std::vector<double> arc(line.size(), 0);
    Vec3 before = face.position(line.front());
    for (std::size_t i = 1; i < line.size(); ++i) {
        const Vec3 here = face.position(line[i]);
        arc[i] = arc[i - 1] + (here - before).norm();
        before = here;
    }
    const double length = arc.back();
    // A section over places far apart is drawn with fewer points, not with millions.
    constexpr auto most = static_cast<double>(units::limit::section_points.most);
    const int pieces =
        std::max(spacing.fewest_points - 1, static_cast<int>(std::ceil(std::min(length / spacing.step_mm, most))));
    std::vector<Place> out;
    std::size_t k = 1;
    for (int n = 0; n <= pieces; ++n) {
        const double want = length * n / pieces;
        while (k + 1 < line.size() && arc[k] < want) ++k;
        const double span = arc[k] - arc[k - 1];
        const double t = span > 0 ? (want - arc[k - 1]) / span : 0;
        out.push_back({line[k - 1].s + t * (line[k].s - line[k - 1].s),
                       line[k - 1].v + t * v_step(surface, face, line[k - 1].v, line[k].v)});
    }
    return out;
}

/// Whether the surface itself ends at a place.
bool at_border(const Surface& surface, const InnerFace& face, const Place& p) {
    const auto& s = surface.basis_s();
    if (p.s < s.low() + at_border_m || p.s > s.high() - at_border_m) return true;
    const Place below = face.below(p);
    const auto& v = surface.basis_v();
    return !v.periodic() && (below.v < v.low() + at_border_m || below.v > v.high() - at_border_m);
}

/// Where along the way from a place that the face holds to one that it does not the face ends.
Place last_held(const InnerFace& face, const geometry::Plane& plane, Place held, Place lost) {
    constexpr int halvings = 45;
    for (int k = 0; k < halvings; ++k) {
        const auto middle = onto_plane(face, plane, {(held.s + lost.s) / 2, (held.v + lost.v) / 2});
        if (!middle) break;
        (face.holds(*middle) ? held : lost) = *middle;
    }
    return held;
}

}  // namespace

std::optional<Place> onto_plane(const InnerFace& face, const geometry::Plane& plane, Place p) {
    for (int k = 0; k < 20; ++k) {
        if (std::abs(plane.distance_mm(face.position(p))) < on_plane_mm) return p;
        const SurfacePoint here = face.at(p);
        const double f = plane.distance_mm(here.position);
        const double fs = plane.normal.dot(here.along_s), fv = plane.normal.dot(here.along_v);
        const double square = fs * fs + fv * fv;
        if (square < 1e-12) return std::nullopt;
        p.s -= f * fs / square;
        p.v -= f * fv / square;
    }
    return std::nullopt;
}

Contours::Contours(const std::vector<std::unique_ptr<InnerFace>>& faces, const geometry::Plane& plane,
                   const Surface& surface, const SectionOptions& spacing)
    : plane_(plane), surface_(surface), spacing_(spacing) {
    for (const auto& face : faces) trace(*face);
    chain();
}

void Contours::trace(const InnerFace& face) {
    for (const auto& line : Grid(face, plane_).contours()) {
        if (line.size() < 2) continue;
        if (total_ > units::limit::section_points.most) {
            too_long_ = true;
            return;
        }
        const auto places = resampled(surface_, face, line, spacing_);
        total_ += places.size();
        cut(face, places);
    }
}

void Contours::cut(const InnerFace& face, const std::vector<Place>& line) {
    struct Sample {
        Place place;
        bool on_plane = false, held = false;
        std::optional<double> folds;
    };
    std::vector<Sample> samples(line.size());
    in_parallel(static_cast<std::ptrdiff_t>(line.size()), line.size() > many_points, [&](std::ptrdiff_t n) {
        const auto i = static_cast<std::size_t>(n);
        const auto place = onto_plane(face, plane_, line[i]);
        if (!place || !face.near(*place)) return;
        samples[i] = {*place, true, face.holds(*place), std::nullopt};
        if (samples[i].held && surface_.surrounded(face.below(*place)))
            samples[i].folds = face.folds_at_radius_mm(*place);
    });
    for (const Sample& s : samples)
        if (s.folds && !fold_) fold_ = Fold{face.position(s.place), *s.folds};
    const std::size_t n = samples.size();
    const bool loop = n > 4 && (face.position(line.front()) - face.position(line.back())).norm() < 1e-6;
    if (loop && !std::all_of(samples.begin(), samples.end(), [](const Sample& s) { return s.held; })) {
        // Begun where nothing is held, so that no stretch is cut in two by where the contour begins.
        samples.pop_back();
        const auto lost = std::find_if(samples.begin(), samples.end(), [](const Sample& s) { return !s.held; });
        std::rotate(samples.begin(), lost, samples.end());
        samples.push_back(samples.front());
    }
    const auto spot = [&](const Place& p) { return Spot{&face, p, face.position(p)}; };
    const auto add_end = [&](Stretch& to, const Sample& held, const Sample& lost) {
        if (!lost.on_plane) return false;  // the surface goes no farther there
        const Place end = last_held(face, plane_, held.place, lost.place);
        to.spots.push_back(spot(end));
        return true;
    };
    for (std::size_t i = 0; i < samples.size();) {
        if (!samples[i].held) {
            ++i;
            continue;
        }
        Stretch out;
        if (i > 0) {
            out.cut_at_front = add_end(out, samples[i], samples[i - 1]);
        } else {
            out.cut_at_front = !at_border(surface_, face, samples[i].place);
        }
        for (; i < samples.size() && samples[i].held; ++i) out.spots.push_back(spot(samples[i].place));
        if (i < samples.size()) {
            out.cut_at_back = add_end(out, samples[i - 1], samples[i]);
        } else {
            out.cut_at_back = !at_border(surface_, face, samples[i - 1].place);
        }
        out.closed = loop && out.spots.size() == samples.size();
        if (out.closed) out.cut_at_front = out.cut_at_back = false;
        if (out.spots.size() > 1) stretches_.push_back(std::move(out));
    }
}

std::vector<Contours::End> Contours::ends_of_stretches() const {
    std::vector<End> out;
    for (std::size_t i = 0; i < stretches_.size(); ++i) {
        const Stretch& s = stretches_[i];
        out.push_back({i, true, s.cut_at_front, s.spots.front().position, -1});
        out.push_back({i, false, s.cut_at_back, s.spots.back().position, -1});
    }
    return out;
}

/// Ends that are cut belong to each other, the nearest first: at a mitre they lie on one another, at a step the
/// layer's thickness apart.
void Contours::join(std::vector<End>& ends) const {
    struct Pair {
        double apart_mm;
        std::size_t a, b;
    };
    const double most_mm = 20 + 1.5 * surface_.thickest_layers_mm();
    const auto face = [&](const End& e) { return stretches_[e.stretch].spots.front().face; };
    std::vector<Pair> pairs;
    for (std::size_t a = 0; a < ends.size(); ++a)
        for (std::size_t b = a + 1; b < ends.size(); ++b) {
            if (!ends[a].cut || !ends[b].cut || face(ends[a]) == face(ends[b])) continue;
            const double apart = (ends[a].position - ends[b].position).norm();
            if (apart < most_mm) pairs.push_back({apart, a, b});
        }
    std::stable_sort(pairs.begin(), pairs.end(),
                     [](const Pair& x, const Pair& y) { return x.apart_mm < y.apart_mm; });
    for (const Pair& p : pairs)
        if (ends[p.a].joined < 0 && ends[p.b].joined < 0) {
            ends[p.a].joined = static_cast<long>(p.b);
            ends[p.b].joined = static_cast<long>(p.a);
        }
}

/// The stretch's spots behind those of the chain, from the end by which it is entered.
void Contours::add(Chain& chain, const End& entry) const {
    auto spots = stretches_[entry.stretch].spots;
    if (!entry.front) std::reverse(spots.begin(), spots.end());
    if (!chain.spots.empty()) {
        chain.corners.push_back(chain.spots.size() - 1);
        // A mitre is one corner, a step has two.
        constexpr double one_corner_mm = 1e-3;
        const bool same = (spots.front().position - chain.spots.back().position).norm() < one_corner_mm;
        if (!same) chain.corners.push_back(chain.spots.size());
        spots.erase(spots.begin(), spots.begin() + (same ? 1 : 0));
    }
    chain.spots.insert(chain.spots.end(), spots.begin(), spots.end());
    chain.closed = stretches_[entry.stretch].closed;
}

Chain Contours::follow(const std::vector<End>& ends, std::size_t start, std::vector<bool>& taken) const {
    Chain out;
    for (std::size_t entry = start;;) {
        const End& in = ends[entry];
        taken[in.stretch] = true;
        add(out, in);
        const long next = ends[2 * in.stretch + (in.front ? 1 : 0)].joined;
        if (next < 0) return out;
        entry = static_cast<std::size_t>(next);
        if (!taken[ends[entry].stretch]) continue;
        out.closed = entry == start;
        if (out.closed) out.spots.push_back(out.spots.front());
        return out;
    }
}

void Contours::chain() {
    auto ends = ends_of_stretches();
    join(ends);
    std::vector<bool> taken(stretches_.size(), false);
    // From open ends first; what is left are rings.
    for (const bool open : {true, false})
        for (std::size_t e = 0; e < ends.size(); ++e)
            if (!taken[ends[e].stretch] && (!open || ends[e].joined < 0)) chains_.push_back(follow(ends, e, taken));
}

}  // namespace bevelsmith::hull
