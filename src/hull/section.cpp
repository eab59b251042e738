#include "hull/section.h"

#include <fmt/format.h>

#include <Eigen/Geometry>
#include <Eigen/LU>
#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>

#include "hull/contours.h"
#include "hull/parallel.h"

namespace bevelsmith::hull {
namespace {

/// The place of face B on the normal section through `a`, whose edge runs along `tangent`.
std::optional<Place> opposite_face(const InnerFace& face, const geometry::Plane& face_b, const Vec3& a,
                                   const Vec3& tangent, Place p) {
    for (int k = 0; k < 30; ++k) {
        const SurfacePoint here = face.at(p);
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
    const SurfacePoint here = surface.fitted(at);
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

/// Face B where faces of the surface give way to each other: what meets face A's normal section there.
class OtherFace {
  public:
    explicit OtherFace(const std::vector<Chain>& chains) : chains_(chains) {}
    struct Met {
        std::size_t chain = 0;
        double at = 0;  ///< spots from the chain's start, with a fraction
        Vec3 position;
    };
    /// The nearest place of face B in the plane through `a` square to `tangent`.
    std::optional<Met> met(const Vec3& a, const Vec3& tangent, double no_farther_mm) const {
        return nearest(no_farther_mm, a, [&](const Vec3& p, const Vec3& q) -> std::optional<double> {
            const double from = tangent.dot(p - a), to = tangent.dot(q - a);
            if ((from > 0) == (to > 0)) return std::nullopt;
            return from / (from - to);
        });
    }
    /// The nearest corner of face B: beyond a sharp one a normal section meets nothing.
    std::optional<Vec3> corner_by(const Vec3& a, double no_farther_mm) const {
        std::optional<Vec3> out;
        for (const Chain& chain : chains_)
            for (const std::size_t i : chain.corners)
                if (const double far = (chain.spots[i].position - a).norm(); far < no_farther_mm)
                    no_farther_mm = far, out = chain.spots[i].position;
        return out;
    }
    /// Where a place of face B lies along it.
    std::optional<Met> along(const Vec3& b) const {
        constexpr double on_it_mm = 1;
        return nearest(on_it_mm, b, [&](const Vec3& p, const Vec3& q) -> std::optional<double> {
            const double square = (q - p).squaredNorm();
            return square > 0 ? std::clamp((b - p).dot(q - p) / square, 0.0, 1.0) : 0;
        });
    }
    const std::vector<Chain>& chains() const { return chains_; }

  private:
    template <class Share>
    std::optional<Met> nearest(double no_farther_mm, const Vec3& to, Share share) const {
        std::optional<Met> out;
        for (std::size_t c = 0; c < chains_.size(); ++c)
            for (std::size_t i = 0; i + 1 < chains_[c].spots.size(); ++i) {
                const Vec3 &p = chains_[c].spots[i].position, &q = chains_[c].spots[i + 1].position;
                const auto t = share(p, q);
                if (!t) continue;
                const Vec3 here = p + *t * (q - p);
                if ((here - to).norm() < no_farther_mm) {
                    no_farther_mm = (here - to).norm();
                    out = Met{c, static_cast<double>(i) + *t, here};
                }
            }
        return out;
    }
    const std::vector<Chain>& chains_;
};

/// Both faces of a piece where its edge lies at one spot of face A.
std::optional<SectionPoint> section_point(const Surface& surface, const geometry::Plane& plane, double thickness_mm,
                                          const Spot& spot, const OtherFace* other) {
    const InnerFace& face = *spot.face;
    const SurfacePoint here = face.at(spot.place);
    const Vec3 tangent = here.normal.cross(plane.normal).normalized();
    const geometry::Plane face_b{plane.normal, plane.d_mm + thickness_mm};
    const auto place_b = opposite_face(face, face_b, spot.position, tangent, spot.place);
    SectionPoint point;
    point.a = spot.position;
    point.normal = here.normal;
    point.bevel_rad = -std::asin(std::clamp(plane.normal.dot(here.normal), -1.0, 1.0));
    point.place = face.below(spot.place);
    if (place_b && face.near(*place_b) && (!other || face.holds(*place_b))) {
        point.b = face.position(*place_b);
        point.in_survey = surface.surrounded(point.place) && surface.surrounded(face.below(*place_b));
    } else {
        // On another face beyond a corner; farther than a bevel can be sawn it is another edge.
        constexpr double steepest = 4;
        const double far = steepest * thickness_mm + 1;
        const auto met = other ? other->met(spot.position, tangent, far) : std::nullopt;
        const auto corner = other && !met ? other->corner_by(spot.position, far) : std::nullopt;
        if (!met && !corner) return std::nullopt;
        point.b = met ? met->position : *corner;
        point.in_survey = surface.surrounded(point.place);
    }
    const Eigen::Matrix3d covariance = surface.slope_covariance(point.place);
    point.sigma_mm =
        std::hypot(1000 * std::sqrt(std::max(0.0, covariance(0, 0))) * surface.fitted(point.place).ray_cosine,
                   surface.lumps_mm());
    const Vec3 gradient = bevel_gradient(surface, plane, point.place, point.bevel_rad);
    point.bevel_sigma_rad =
        std::hypot(std::sqrt(std::max(0.0, gradient.dot(covariance * gradient))), surface.lump_slope_rad());
    return point;
}

/// Face B's own corners put among the points, where they lie between two of these.
void add_corners_of_b(std::vector<SectionPoint>& points, const OtherFace& other) {
    constexpr double apart_mm = 1e-3;
    for (std::size_t c = 0; c < other.chains().size(); ++c) {
        const Chain& chain = other.chains()[c];
        for (const std::size_t corner : chain.corners) {
            const Vec3 at = chain.spots[corner].position;
            const double want = static_cast<double>(corner);
            double before = 0;
            bool known = false;
            for (std::size_t i = 0; i < points.size(); ++i) {
                if ((points[i].b - at).norm() < apart_mm) break;
                constexpr double near_mm = 60;
                if ((points[i].b - at).norm() > near_mm) {
                    known = false;
                    continue;
                }
                const auto met = other.along(points[i].b);
                if (!met || met->chain != c) {
                    known = false;
                    continue;
                }
                if (known && (before - want) * (met->at - want) < 0) {
                    SectionPoint more = points[i];
                    const double share = (want - before) / (met->at - before);
                    more.a = points[i - 1].a + share * (points[i].a - points[i - 1].a);
                    more.b = at;
                    points.insert(points.begin() + static_cast<std::ptrdiff_t>(i), more);
                    break;
                }
                before = met->at;
                known = true;
            }
        }
    }
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

/// The points of a chain, parted where face B leaves the surface.
void add_runs(std::vector<SectionRun>& runs, const Surface& surface, const geometry::Plane& plane,
              double thickness_mm, const Chain& chain, const OtherFace* other) {
    std::vector<std::optional<SectionPoint>> points(chain.spots.size());
    in_parallel(static_cast<std::ptrdiff_t>(points.size()), points.size() > many_points, [&](std::ptrdiff_t i) {
        const auto k = static_cast<std::size_t>(i);
        points[k] = section_point(surface, plane, thickness_mm, chain.spots[k], other);
    });
    SectionRun run;
    run.closed = chain.closed;
    const auto finish = [&] {
        if (run.points.size() < 2) return;
        if (other) add_corners_of_b(run.points, *other);
        runs.push_back(finished(std::move(run), plane));
    };
    for (const auto& point : points) {
        if (point) {
            run.points.push_back(*point);
        } else {
            run.closed = false;
            finish();
            run = {};
        }
    }
    finish();
}

Error no_room(const Surface& surface, const Fold& fold) {
    return Error{fmt::format(
        "{} mm of layers have no room where the surface turns with a radius of {:.0f} mm ({:.0f} mm along the boat, "
        "{:.0f} mm up): make them thinner there, end them before it, or, if it is a chine or the keel, read it as a "
        "line",
        fmt::format("{:.4g}", surface.thickest_layers_mm()), fold.radius_mm, fold.at.x(), fold.at.z())};
}

}  // namespace

Result<std::vector<SectionRun>> cut_section(const Surface& surface, const geometry::Plane& plane, double thickness_mm,
                                            const SectionOptions& options) {
    const auto faces = inner_faces(surface);
    const Contours face_a(faces, plane, surface, options);
    if (face_a.too_long())
        return Error{"the plane cuts the surface along more than 200 m of edge: look for readings far off"};
    if (face_a.fold()) return no_room(surface, *face_a.fold());
    if (face_a.chains().empty()) return Error{"the plane misses the surface"};
    std::optional<Contours> face_b;
    std::optional<OtherFace> other;
    if (faces.size() > 1) {
        const geometry::Plane behind{plane.normal, plane.d_mm + thickness_mm};
        face_b.emplace(faces, behind, surface, options);
        if (face_b->fold()) return no_room(surface, *face_b->fold());
        other.emplace(face_b->chains());
    }
    std::vector<SectionRun> runs;
    for (const Chain& chain : face_a.chains())
        add_runs(runs, surface, plane, thickness_mm, chain, other ? &*other : nullptr);
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
