#include "hull/inner_face.h"

#include <Eigen/Geometry>
#include <Eigen/LU>
#include <algorithm>
#include <cmath>

namespace bevelsmith::hull {
namespace {

constexpr double difference_m = 1e-5;
/// Layers beside a crease are asked for so far from it: a limit that runs along the chine is meant to end there.
constexpr double beside_crease_m = 0.002;
/// A crease that turns less than this is none where both sides are as thick; where they are not, what ends there ends
/// in a step.
constexpr double least_turn = 1e-4, least_turn_of_a_cut = 0.15;

enum class Side { low, high };

/// Four to a knot interval, fewer where the intervals are many.
std::vector<double> nodes_of(const CubicBasis& b, double low, double high) {
    const int parts = std::clamp((48 + b.intervals() - 1) / b.intervals(), b.intervals() > 40 ? 2 : 4, 12);
    std::vector<double> out;
    for (int k = 0; k < b.intervals(); ++k) {
        const double from = b.breaks()[static_cast<std::size_t>(k)], to = b.breaks()[static_cast<std::size_t>(k) + 1];
        if (from < low - 1e-12 || to > high + 1e-12) continue;
        for (int q = 0; q < parts; ++q) out.push_back(from + (to - from) * q / parts);
    }
    out.push_back(high);
    return out;
}

bool near_interval(const CubicBasis& b, double x) {
    const double slack = 0.05 * (b.high() - b.low());
    return b.periodic() || (x > b.low() - slack && x < b.high() + slack);
}

/// A corner of the layers: the crease, what the sides are turned to, how thick they are.
struct Corner {
    Vec3 at, along;          ///< on the crease, and its direction
    Vec3 normal[2];          ///< of the lower and of the upper side
    double thickness_mm[2];  ///< beside it
    double opens = 0;        ///< sine of the turn, positive where the corner opens into the boat
    bool alike() const { return std::abs(thickness_mm[0] - thickness_mm[1]) < 1e-9; }
    bool turns() const { return std::abs(opens) > (alike() ? least_turn : least_turn_of_a_cut); }
    Vec3 mitre() const { return at - thickness_mm[0] * (normal[0] + normal[1]) / (1 + normal[0].dot(normal[1])); }
};

/// How far from a mitre a filling reaches on either side (mm).
double filling_mm(const Corners& corners) {
    return corners.kind == CornerKind::filled ? corners.fill_mm : 0;
}

/// Stretch `k` between creases at `thickness_mm`.
class Patch : public InnerFace {
  public:
    Patch(const Surface& surface, int k, double thickness_mm)
        : surface_(surface), k_(k), t_(thickness_mm), creases_(surface.basis_v().creases()) {
        low_ = k == 0 ? surface.basis_v().low() : creases_[static_cast<std::size_t>(k) - 1];
        high_ = k == last() ? surface.basis_v().high() : creases_[static_cast<std::size_t>(k)];
    }
    Vec3 position(const Place& p) const override {
        const double v = within(p.v);
        const Vec3 here = moved({p.s, v});
        if (v == p.v || std::abs(v - p.v) <= seam_m) return here;
        // Beyond a crease: straight on.
        const double back = p.v > v ? -difference_m : difference_m;
        return here + (p.v - v) / back * (moved({p.s, v + back}) - here);
    }
    SurfacePoint at(const Place& p) const override {
        return t_ == 0 && within(p.v) == p.v ? surface_.fitted(p) : InnerFace::at(p);
    }
    std::vector<Vec3> grid() const override;
    Vec3 outward(const Place& p) const override { return surface_.fitted({p.s, within(p.v)}).normal; }
    Place below(const Place& p) const override { return {p.s, within(p.v)}; }
    bool holds(const Place& p) const override;
    bool near(const Place& p) const override {
        if (!near_interval(surface_.basis_s(), p.s)) return false;
        if (surface_.basis_v().periodic()) return true;
        const double slack = 0.05 * (surface_.basis_v().high() - surface_.basis_v().low());
        return p.v > low_ - (creased(Side::low) ? beyond_m() : slack) - 1e-9 &&
               p.v < high_ + (creased(Side::high) ? beyond_m() : slack) + 1e-9;
    }
    std::vector<double> nodes_s() const override {
        return nodes_of(surface_.basis_s(), surface_.basis_s().low(), surface_.basis_s().high());
    }
    std::vector<double> nodes_v() const override {
        std::vector<double> out = nodes_of(surface_.basis_v(), low_, high_);
        const int steps = surface_.bare() ? 1 : 4;
        for (int q = 1; q <= steps && creased(Side::high); ++q) out.push_back(high_ + beyond_m() * q / steps);
        for (int q = 1; q <= steps && creased(Side::low); ++q) out.insert(out.begin(), low_ - beyond_m() * q / steps);
        return out;
    }
    bool closed() const override { return surface_.basis_v().periodic(); }
    std::optional<double> folds_at_radius_mm(const Place& p) const override;
    /// Along its normal, to the face gone on straight; positive outside.
    double distance_mm(const Vec3& p, const Place& start) const;
    Corner corner(Side side, double s) const;

    int k() const { return k_; }
    double thickness_mm() const { return t_; }

  private:
    static constexpr double seam_m = 1e-9;  ///< at a crease the surface's own places are those of the upper side
    int last() const { return static_cast<int>(creases_.size()); }
    bool creased(Side side) const { return side == Side::low ? k_ > 0 : k_ < last(); }
    double within(double v) const {
        if (creased(Side::low)) v = std::max(v, low_);
        return creased(Side::high) ? std::min(v, high_ - seam_m) : v;
    }
    Vec3 moved(const Place& p) const {
        const SurfacePoint bare = surface_.fitted(p);
        return bare.position - t_ * bare.normal;
    }
    /// How far beyond a crease it may hold (m of the chart, which is never less than it is in space).
    double beyond_m() const { return (2.5 * surface_.thickest_layers_mm() + 10) / 1000; }
    double layers_at(const Place& p) const {
        return layer_thickness_mm(surface_.data().layers, surface_.fitted(p).position);
    }
    double beside() const { return std::min(beside_crease_m, (high_ - low_) / 4); }
    double inmost(double v) const {
        if (creased(Side::low)) v = std::max(v, low_ + beside());
        return creased(Side::high) ? std::min(v, high_ - beside()) : v;
    }
    bool holds_at(Side side, const Place& p) const;

    const Surface& surface_;
    int k_ = 0;
    double t_ = 0;
    const std::vector<double>& creases_;
    double low_ = 0, high_ = 0;
};

std::vector<Vec3> Patch::grid() const {
    if (!surface_.bare() || !creases_.empty()) return InnerFace::grid();
    const auto s = nodes_s(), v = nodes_v();
    const auto vector = [](const std::vector<double>& x) {
        return Eigen::Map<const Eigen::VectorXd>(x.data(), static_cast<Eigen::Index>(x.size()));
    };
    // All at once is ten times as quick as one by one.
    const Eigen::MatrixXd heights = surface_.heights_m(vector(s), vector(v));
    std::vector<Vec3> out;
    for (std::size_t i = 0; i < s.size(); ++i)
        for (std::size_t j = 0; j < v.size(); ++j)
            out.push_back(surface_.chart().to_space(
                {s[i], v[j], heights(static_cast<Eigen::Index>(i), static_cast<Eigen::Index>(j))}));
    return out;
}

double Patch::distance_mm(const Vec3& p, const Place& start) const {
    constexpr int most_rounds = 40;
    Place q = start;
    SurfacePoint here = at(q);
    for (int k = 0; k < most_rounds; ++k) {
        const Vec3 off = p - here.position;
        Eigen::Matrix2d metric;
        metric << here.along_s.squaredNorm(), here.along_s.dot(here.along_v), here.along_s.dot(here.along_v),
            here.along_v.squaredNorm();
        const Vec2 step = metric.inverse() * Vec2(off.dot(here.along_s), off.dot(here.along_v));
        if (!step.allFinite()) break;
        q.s += step.x(), q.v += step.y();
        here = at(q);
        if (step.norm() < 1e-11) break;
    }
    return here.normal.dot(p - here.position);
}

Corner Patch::corner(Side side, double s) const {
    const Patch lower(surface_, side == Side::low ? k_ - 1 : k_, 0), upper(surface_, lower.k_ + 1, 0);
    const double v = upper.low_;
    const SurfacePoint below = surface_.fitted({s, lower.within(v)}), above = surface_.fitted({s, v});
    Corner out;
    out.at = above.position;
    out.along = above.along_s.normalized();
    out.normal[0] = below.normal, out.normal[1] = above.normal;
    out.thickness_mm[0] = layers_at({s, lower.inmost(v)}), out.thickness_mm[1] = layers_at({s, upper.inmost(v)});
    const Vec3 onwards = (above.along_v - above.along_v.dot(out.along) * out.along).normalized();
    out.opens = -below.normal.dot(onwards);
    return out;
}

bool Patch::holds(const Place& p) const {
    if (std::abs(layers_at({p.s, inmost(p.v)}) - t_) > 1e-9) return false;
    for (Side side : {Side::low, Side::high})
        if (creased(side) && !holds_at(side, p)) return false;
    return true;
}

bool Patch::holds_at(Side side, const Place& p) const {
    const double crease = side == Side::low ? low_ : high_;
    const double inside_m = side == Side::low ? p.v - crease : crease - p.v;
    if (surface_.bare()) return inside_m >= 0;
    // Farther than this from the crease nothing on its other side can reach.
    const Corners& asked = surface_.data().corners;
    if (inside_m * 1000 > 8 * surface_.thickest_layers_mm() + 20 + filling_mm(asked)) return true;
    const Corner c = corner(side, p.s);
    const double other = c.thickness_mm[side == Side::low ? 0 : 1];
    const bool rounded = asked.kind == CornerKind::rounded && c.opens < 0 && c.alike();
    if ((t_ == 0 && other == 0) || !c.turns() || rounded) return inside_m >= 0;
    const Patch neighbour(surface_, side == Side::low ? k_ - 1 : k_ + 1, other);
    const double off = neighbour.distance_mm(position(p), {p.s, crease});
    if (c.opens < 0) return off >= 0;
    const bool filled = asked.kind == CornerKind::filled && c.alike();
    return off <= (filled ? -asked.fill_mm * c.opens : 0);
}

std::optional<double> Patch::folds_at_radius_mm(const Place& p) const {
    if (t_ == 0) return std::nullopt;
    const Place bare{p.s, inmost(p.v)};
    const SurfacePoint fit = surface_.fitted(bare), inner = at(bare);
    Eigen::Matrix2d metric, mixed;
    metric << fit.along_s.squaredNorm(), fit.along_s.dot(fit.along_v), fit.along_s.dot(fit.along_v),
        fit.along_v.squaredNorm();
    mixed << fit.along_s.dot(inner.along_s), fit.along_s.dot(inner.along_v), fit.along_v.dot(inner.along_s),
        fit.along_v.dot(inner.along_v);
    // Its eigenvalues are 1 - t / radius. The real part of the lesser, in closed form: the general solver takes the
    // compiler a quarter of a minute.
    const Eigen::Matrix2d stretch = metric.inverse() * mixed;
    const double middle = stretch.trace() / 2;
    const double least = middle - std::sqrt(std::max(0.0, middle * middle - stretch.determinant()));
    if (least > 0.01) return std::nullopt;
    return t_ / (1 - least);
}

/// What rounds or fills the corner at a crease, where both sides are `thickness_mm` thick.
class CornerFace : public InnerFace {
  public:
    CornerFace(const Surface& surface, int crease, double thickness_mm)
        : surface_(surface),
          lower_(surface, crease, thickness_mm),
          t_(thickness_mm),
          v_(surface.basis_v().creases()[static_cast<std::size_t>(crease)]) {}
    Vec3 position(const Place& p) const override {
        const Corner c = lower_.corner(Side::high, p.s);
        if (rounds()) return c.at - t_ * between(c, p.v);
        const Vec3 first = c.mitre() + fill() * away(c, 0), second = c.mitre() + fill() * away(c, 1);
        return first + p.v * (second - first);
    }
    Vec3 outward(const Place& p) const override { return between(lower_.corner(Side::high, p.s), p.v); }
    Place below(const Place& p) const override { return {p.s, v_}; }
    bool holds(const Place& p) const override {
        if (p.v < 0 || p.v > 1) return false;
        const Corner c = lower_.corner(Side::high, p.s);
        return c.alike() && c.turns() && std::abs(c.thickness_mm[0] - t_) < 1e-9 && (c.opens < 0) == rounds();
    }
    bool near(const Place& p) const override {
        return near_interval(surface_.basis_s(), p.s) && p.v > -0.5 && p.v < 1.5;
    }
    std::vector<double> nodes_s() const override {
        return nodes_of(surface_.basis_s(), surface_.basis_s().low(), surface_.basis_s().high());
    }
    std::vector<double> nodes_v() const override { return {0, 0.125, 0.25, 0.375, 0.5, 0.625, 0.75, 0.875, 1}; }

  private:
    bool rounds() const { return surface_.data().corners.kind == CornerKind::rounded; }
    double fill() const { return surface_.data().corners.fill_mm; }
    /// From one side's normal to the other's, turning evenly.
    static Vec3 between(const Corner& c, double share) {
        const double turn = std::acos(std::clamp(c.normal[0].dot(c.normal[1]), -1.0, 1.0));
        if (turn < 1e-6) return c.normal[0];
        return (std::sin((1 - share) * turn) * c.normal[0] + std::sin(share * turn) * c.normal[1]) / std::sin(turn);
    }
    /// Square to the crease along a side, away from it.
    static Vec3 away(const Corner& c, int side) {
        const Vec3 way = c.normal[side].cross(c.along).normalized();
        return way.dot(c.normal[1 - side]) * c.opens > 0 ? Vec3(-way) : way;
    }

    const Surface& surface_;
    Patch lower_;
    double t_ = 0, v_ = 0;
};

}  // namespace

SurfacePoint InnerFace::at(const Place& p) const {
    constexpr double h = difference_m;
    SurfacePoint out;
    out.position = position(p);
    out.along_s = (position({p.s + h, p.v}) - position({p.s - h, p.v})) / (2 * h);
    out.along_v = (position({p.s, p.v + h}) - position({p.s, p.v - h})) / (2 * h);
    const Vec3 across = out.along_s.cross(out.along_v), outwards = outward(p);
    out.normal =
        across.norm() < 1e-9 ? outwards : Vec3(std::copysign(1.0, across.dot(outwards)) * across.normalized());
    return out;
}

Vec3 left_of_corner(const Surface& surface, const Place& place) {
    const auto& creases = surface.basis_v().creases();
    const Vec3 bare = surface.fitted(place).position;
    const auto k = std::upper_bound(creases.begin(), creases.end(), place.v) - creases.begin();
    const Patch patch(surface, static_cast<int>(k), layer_thickness_mm(surface.data().layers, bare));
    if (creases.empty() || patch.holds(place)) return patch.position(place);
    // Away from the crease that is nearest, until it is left.
    double nearest = creases.front();
    for (double c : creases)
        if (std::abs(c - place.v) < std::abs(nearest - place.v)) nearest = c;
    const double reach_mm = 4 * surface.thickest_layers_mm() + 10 + filling_mm(surface.data().corners);
    const double reach_m = std::copysign(reach_mm / 1000, place.v - nearest);
    double lost = 0, left = 1;
    if (!patch.holds({place.s, place.v + reach_m})) return patch.position(place);
    for (int halving = 0; halving < 20; ++halving) {
        const double middle = (lost + left) / 2;
        (patch.holds({place.s, place.v + middle * reach_m}) ? left : lost) = middle;
    }
    return patch.position({place.s, place.v + left * reach_m});
}

std::vector<Vec3> InnerFace::grid() const {
    const auto s = nodes_s(), v = nodes_v();
    std::vector<Vec3> out;
    for (double at_s : s)
        for (double at_v : v) out.push_back(position({at_s, at_v}));
    return out;
}

std::vector<std::unique_ptr<InnerFace>> inner_faces(const Surface& surface) {
    std::vector<std::unique_ptr<InnerFace>> out;
    const int creases = static_cast<int>(surface.basis_v().creases().size());
    const bool corners = surface.data().corners.kind != CornerKind::mitred;
    for (double thickness : layer_thicknesses_mm(surface.data().layers)) {
        for (int k = 0; k <= creases; ++k) out.push_back(std::make_unique<Patch>(surface, k, thickness));
        for (int k = 0; k < creases && corners && thickness > 0; ++k)
            out.push_back(std::make_unique<CornerFace>(surface, k, thickness));
    }
    return out;
}

}  // namespace bevelsmith::hull
