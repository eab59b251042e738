#include "hull/section.h"

#include <Eigen/Geometry>
#include <Eigen/LU>
#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

#include "hull/parallel.h"
#include "units/ranges.h"

namespace bevelsmith::hull {
namespace {

constexpr double on_plane_mm = 1e-7;      ///< a tenth of the promised 1e-6
constexpr std::size_t many_points = 100;  ///< more are shared among the processors

/// F over a grid of the domain, and the crossings of its cell edges.
class Grid {
  public:
    Grid(const Surface& surface, const geometry::Plane& plane)
        : surface_(surface), plane_(plane), s_(nodes(surface.basis_s())), v_(nodes(surface.basis_v())) {
        wraps_ = surface.basis_v().periodic();
        const Eigen::MatrixXd heights = surface.heights_m(s_, v_);
        value_.resize(heights.rows(), heights.cols());
        for (int i = 0; i <= ns(); ++i)
            for (int j = 0; j <= nv(); ++j) {
                const Vec3 at = surface.bare() ? surface.chart().to_space({s_[i], v_[j], heights(i, j)})
                                               : surface.at({s_[i], v_[j]}).position;
                const double f = plane.distance_mm(at);
                value_(i, j) = f == 0 ? 1e-12 : f;  // a node exactly on the plane counts as beyond it
            }
    }

    /// Polylines of places where the plane cuts, closed ones with the first place repeated at the end.
    std::vector<std::vector<Place>> contours();

  private:
    /// Four to a knot interval, fewer where the intervals are many; a crease is always among them.
    static Eigen::VectorXd nodes(const CubicBasis& b) {
        const int parts = std::clamp((48 + b.intervals() - 1) / b.intervals(), b.intervals() > 40 ? 2 : 4, 12);
        Eigen::VectorXd out(b.intervals() * parts + 1);
        for (int k = 0; k < b.intervals(); ++k) {
            const double from = b.breaks()[static_cast<std::size_t>(k)],
                         to = b.breaks()[static_cast<std::size_t>(k) + 1];
            for (int q = 0; q < parts; ++q) out[k * parts + q] = from + (to - from) * q / parts;
        }
        out[out.size() - 1] = b.high();
        return out;
    }
    int ns() const { return static_cast<int>(s_.size()) - 1; }
    int nv() const { return static_cast<int>(v_.size()) - 1; }
    /// Between nodes for a share of a step.
    Place place(int i, int j, double share_s, double share_v) const {
        const int i1 = std::min(i + 1, ns()), j1 = std::min(j + 1, nv());
        return {s_[i] + share_s * (s_[i1] - s_[i]), v_[j] + share_v * (v_[j1] - v_[j])};
    }
    double distance(const Place& p) const { return plane_.distance_mm(surface_.at(p).position); }

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

    const Surface& surface_;
    const geometry::Plane& plane_;
    Eigen::VectorXd s_, v_;
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

/// Where a straight line between the two nodes' values is zero: Newton finishes on the surface.
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

/// Newton along the steepest direction of F in the chart.
std::optional<Place> onto_plane(const Surface& surface, const geometry::Plane& plane, Place p) {
    for (int k = 0; k < 20; ++k) {
        const SurfacePoint here = surface.at(p);
        const double f = plane.distance_mm(here.position);
        if (std::abs(f) < on_plane_mm) return p;
        const double fs = plane.normal.dot(here.along_s), fv = plane.normal.dot(here.along_v);
        const double square = fs * fs + fv * fv;
        if (square < 1e-12) return std::nullopt;
        p.s -= f * fs / square;
        p.v -= f * fv / square;
    }
    return std::nullopt;
}

/// The place of face B on the normal section through `a`, whose edge runs along `tangent`.
std::optional<Place> opposite_face(const Surface& surface, const geometry::Plane& face_b, const Vec3& a,
                                   const Vec3& tangent, Place p) {
    for (int k = 0; k < 30; ++k) {
        const SurfacePoint here = surface.at(p);
        const Eigen::Vector2d f(face_b.distance_mm(here.position), tangent.dot(here.position - a));
        if (f.cwiseAbs().maxCoeff() < on_plane_mm) return p;
        Eigen::Matrix2d jacobian;
        jacobian << face_b.normal.dot(here.along_s), face_b.normal.dot(here.along_v), tangent.dot(here.along_s),
            tangent.dot(here.along_v);
        if (std::abs(jacobian.determinant()) < 1e-9) return std::nullopt;
        const Eigen::Vector2d step = jacobian.inverse() * f;
        if (!step.allFinite() || step.norm() > 10) return std::nullopt;
        p.s -= step.x();
        p.v -= step.y();
    }
    return std::nullopt;
}

/// Whether a place lies no farther outside the fitted domain than a twentieth of it: beyond, a continued cubic
/// is fiction.
bool near_domain(const Surface& surface, const Place& p) {
    const auto near = [](const CubicBasis& b, double x) {
        const double slack = 0.05 * (b.high() - b.low());
        return b.periodic() || (x > b.low() - slack && x < b.high() + slack);
    };
    return near(surface.basis_s(), p.s) && near(surface.basis_v(), p.v);
}

/// The shorter way from a to b in v, across the cut of a closed chart where that is shorter.
double v_step(const Surface& surface, double from, double to) {
    double step = to - from;
    if (!surface.basis_v().periodic()) return step;
    const double turn = surface.basis_v().high() - surface.basis_v().low();
    return step - turn * std::round(step / turn);
}

/// Equally spaced places along a traced contour, both ends kept.
std::vector<Place> resampled_smooth(const Surface& surface, const std::vector<Place>& line,
                                    const SectionOptions& options) {
    std::vector<double> arc(line.size(), 0);
    for (std::size_t i = 1; i < line.size(); ++i)
        arc[i] = arc[i - 1] + (surface.at(line[i]).position - surface.at(line[i - 1]).position).norm();
    const double length = arc.back();
    // A section over places far apart is drawn with fewer points, not with millions.
    constexpr auto most = static_cast<double>(units::limit::section_points.most);
    const int pieces =
        std::max(options.fewest_points - 1, static_cast<int>(std::ceil(std::min(length / options.step_mm, most))));
    std::vector<Place> out;
    std::size_t k = 1;
    for (int n = 0; n <= pieces; ++n) {
        const double want = length * n / pieces;
        while (k + 1 < line.size() && arc[k] < want) ++k;
        const double span = arc[k] - arc[k - 1];
        const double t = span > 0 ? (want - arc[k - 1]) / span : 0;
        out.push_back({line[k - 1].s + t * (line[k].s - line[k - 1].s),
                       line[k - 1].v + t * v_step(surface, line[k - 1].v, line[k].v)});
    }
    return out;
}

/// The same, with the corners kept where the contour crosses a crease.
std::vector<Place> resampled(const Surface& surface, const std::vector<Place>& line, const SectionOptions& options) {
    const auto& creases = surface.basis_v().creases();
    std::vector<Place> out, stretch;
    for (std::size_t i = 0; i < line.size(); ++i) {
        stretch.push_back(line[i]);
        const bool corner =
            std::any_of(creases.begin(), creases.end(), [&](double c) { return std::abs(line[i].v - c) < 1e-9; });
        if (!(corner && stretch.size() > 1) && i + 1 < line.size()) continue;
        if (stretch.size() < 2) continue;
        const auto places = resampled_smooth(surface, stretch, options);
        out.insert(out.end(), places.begin() + (out.empty() ? 0 : 1), places.end());
        stretch.assign(1, line[i]);
    }
    return out;
}

/// How the bevel changes with the height and the slopes at a place (delta method). The edge itself moves with the
/// height, along the surface to where the plane then meets it; the surface's own curvature turns the bevel there.
Vec3 bevel_gradient(const Surface& surface, const geometry::Plane& plane, const Place& at, double bevel_rad) {
    const SlopeJet jet = surface.slopes(at);
    const double outward = surface.data().outward, cosine = std::max(0.05, std::cos(bevel_rad));
    const auto sine = [&](const Place& p, const SlopeJet& j) {
        const ChartJet c = surface.chart().jet(p.s, p.v, j.height, j.along_s, j.along_v);
        return outward * plane.normal.dot(c.along_s.cross(c.along_v).normalized());
    };
    constexpr double step = 1e-5;
    Vec3 out;
    out[0] = sine(at, {jet.height + step, jet.along_s, jet.along_v}) -
             sine(at, {jet.height - step, jet.along_s, jet.along_v});
    out[1] = sine(at, {jet.height, jet.along_s + step, jet.along_v}) -
             sine(at, {jet.height, jet.along_s - step, jet.along_v});
    out[2] = sine(at, {jet.height, jet.along_s, jet.along_v + step}) -
             sine(at, {jet.height, jet.along_s, jet.along_v - step});
    out /= 2 * step;
    const SurfacePoint here = surface.at(at);
    const ChartJet chart = surface.chart().jet(at.s, at.v, jet.height, jet.along_s, jet.along_v);
    const Vec2 f(plane.normal.dot(here.along_s), plane.normal.dot(here.along_v));  // mm per chart metre
    if (f.squaredNorm() > 1e-6) {
        const Vec2 move =
            -1000 * plane.normal.dot(chart.ray) / f.squaredNorm() * f;  // of the edge, per metre of height
        const double size = 1e-4 / std::max(move.norm(), 1e-9);
        const Place ahead{at.s + size * move.x(), at.v + size * move.y()},
            behind{at.s - size * move.x(), at.v - size * move.y()};
        out[0] += (sine(ahead, surface.slopes(ahead)) - sine(behind, surface.slopes(behind))) / (2 * size);
    }
    return out / -cosine;
}

std::optional<SectionPoint> section_point(const Surface& surface, const geometry::Plane& plane, double thickness_mm,
                                          const Place& start) {
    const auto place_a = onto_plane(surface, plane, start);
    if (!place_a || !near_domain(surface, *place_a)) return std::nullopt;
    const SurfacePoint here = surface.at(*place_a);
    const Vec3 tangent = here.normal.cross(plane.normal).normalized();
    const geometry::Plane face_b{plane.normal, plane.d_mm + thickness_mm};
    const auto place_b = opposite_face(surface, face_b, here.position, tangent, *place_a);
    if (!place_b || !near_domain(surface, *place_b)) return std::nullopt;
    SectionPoint point;
    point.a = here.position;
    point.b = surface.at(*place_b).position;
    point.normal = here.normal;
    point.bevel_rad = -std::asin(std::clamp(plane.normal.dot(here.normal), -1.0, 1.0));
    point.place = *place_a;
    const Eigen::Matrix3d covariance = surface.slope_covariance(*place_a);
    point.sigma_mm =
        std::hypot(1000 * std::sqrt(std::max(0.0, covariance(0, 0))) * here.ray_cosine, surface.lumps_mm());
    const Vec3 gradient = bevel_gradient(surface, plane, *place_a, point.bevel_rad);
    point.bevel_sigma_rad =
        std::hypot(std::sqrt(std::max(0.0, gradient.dot(covariance * gradient))), surface.lump_slope_rad());
    point.in_survey = surface.surrounded(*place_a) && surface.surrounded(*place_b);
    return point;
}

/// Turned so that it runs along normal(surface) x normal(plane), arc lengths set.
SectionRun finished(SectionRun run, const geometry::Plane& plane) {
    double along = 0;
    for (std::size_t i = 1; i < run.points.size(); ++i)
        along += (run.points[i].a - run.points[i - 1].a).dot(run.points[i].normal.cross(plane.normal));
    if (along < 0) std::reverse(run.points.begin(), run.points.end());
    for (std::size_t i = 1; i < run.points.size(); ++i)
        run.points[i].arc_mm = run.points[i - 1].arc_mm + (run.points[i].a - run.points[i - 1].a).norm();
    return run;
}

}  // namespace

Result<std::vector<SectionRun>> cut_section(const Surface& surface, const geometry::Plane& plane, double thickness_mm,
                                            const SectionOptions& options) {
    std::vector<SectionRun> runs;
    bool any_face_a = false;
    std::size_t total = 0;
    for (const auto& line : Grid(surface, plane).contours()) {
        if (line.size() < 2) continue;
        if (total > units::limit::section_points.most)
            return Error{"the plane cuts the surface along more than 200 m of edge: look for readings far off"};
        any_face_a = true;
        const auto places = resampled(surface, line, options);
        total += places.size();
        const double gap = (surface.at(line.front()).position - surface.at(line.back()).position).norm();
        SectionRun run;
        run.closed = line.size() > 4 && gap < 1e-6;
        std::vector<std::optional<SectionPoint>> points(places.size());
        in_parallel(static_cast<std::ptrdiff_t>(places.size()), places.size() > many_points, [&](std::ptrdiff_t i) {
            const auto k = static_cast<std::size_t>(i);
            points[k] = section_point(surface, plane, thickness_mm, places[k]);
        });
        for (const auto& point : points) {
            if (point) {
                run.points.push_back(*point);
            } else {  // face B leaves the surface here: what came before is a run of its own
                run.closed = false;
                if (run.points.size() > 1) runs.push_back(finished(std::move(run), plane));
                run = {};
            }
        }
        if (run.points.size() > 1) runs.push_back(finished(std::move(run), plane));
    }
    if (!any_face_a) return Error{"the plane misses the surface"};
    if (runs.empty()) return Error{"face B lies beyond the surface: the piece is too thick for it there"};
    return runs;
}

std::vector<BevelRun> bevel_runs(std::span<const SectionPoint> points, double band_rad) {
    std::vector<BevelRun> out;
    for (int i = 0; i < static_cast<int>(points.size());) {
        BevelRun run{i, i, 0, points[static_cast<std::size_t>(i)].bevel_rad,
                     points[static_cast<std::size_t>(i)].bevel_rad};
        double sum = 0;
        for (int k = i; k < static_cast<int>(points.size()); ++k) {
            const double bevel = points[static_cast<std::size_t>(k)].bevel_rad;
            const double least = std::min(run.least_rad, bevel), most = std::max(run.most_rad, bevel);
            if (most - least > band_rad) break;
            run.least_rad = least;
            run.most_rad = most;
            run.last = k;
            sum += bevel;
        }
        run.mean_rad = sum / (run.last - run.first + 1);
        i = run.last + 1;
        out.push_back(run);
    }
    return out;
}

}  // namespace bevelsmith::hull
