#include "imaging/rectify.h"

#include <fmt/format.h>

#include <Eigen/Dense>
#include <Eigen/Geometry>
#include <algorithm>
#include <boost/math/tools/minima.hpp>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <optional>

#include "geometry/eigenpairs.h"
#include "units/quantity.h"

namespace bevelsmith::imaging {
namespace {

constexpr double widest_bow = 0.3;

struct Measured {
    int a, b;
    double mm;
};

std::vector<Measured> measured(const MarkDistances& d) {
    std::vector<Measured> out;
    for (int k = 0; k < 4; ++k) out.push_back({k, (k + 1) % 4, d.sides[static_cast<std::size_t>(k)]});
    if (d.diagonals[0] > 0) out.push_back({0, 2, d.diagonals[0]});
    if (d.diagonals[1] > 0) out.push_back({1, 3, d.diagonals[1]});
    return out;
}

/// Where circles of `from_a` about a and `from_b` about b meet, on the left of a to b.
std::optional<Vec2> meeting(const Vec2& a, double from_a, const Vec2& b, double from_b) {
    const double base = (b - a).norm();
    const double along = (from_a * from_a - from_b * from_b + base * base) / (2 * base);
    const double square = from_a * from_a - along * along;
    if (square < 0) return std::nullopt;
    const Vec2 u = (b - a) / base, left(-u.y(), u.x());
    return a + along * u + std::sqrt(square) * left;
}

/// A first layout that has all distances but one.
std::optional<std::array<Vec2, 4>> first_layout(const MarkDistances& d) {
    const auto& s = d.sides;
    const Vec2 one(0, 0), two(s[0], 0);
    if (d.diagonals[0] > 0) {
        const auto three = meeting(one, d.diagonals[0], two, s[1]);
        if (!three) return std::nullopt;
        const auto four = meeting(one, s[3], *three, s[2]);
        if (!four) return std::nullopt;
        return std::array{one, two, *three, *four};
    }
    const auto four = meeting(one, s[3], two, d.diagonals[1]);
    if (!four) return std::nullopt;
    const auto three = meeting(*four, s[2], two, s[1]);
    if (!three) return std::nullopt;
    return std::array{one, two, *three, *four};
}

/// Gauss-Newton on the distances; mark 1 and the direction of mark 2 stay.
double settle(std::array<Vec2, 4>& at, const std::vector<Measured>& distances) {
    double rms = 0;
    for (int round = 0; round < 30; ++round) {
        Eigen::Matrix<double, 5, 5> normal = Eigen::Matrix<double, 5, 5>::Zero();
        Eigen::Matrix<double, 5, 1> right = Eigen::Matrix<double, 5, 1>::Zero();
        double squares = 0;
        for (const Measured& m : distances) {
            const Vec2 way = at[static_cast<std::size_t>(m.b)] - at[static_cast<std::size_t>(m.a)];
            const double far = std::max(way.norm(), 1e-9);
            const Vec2 u = way / far;
            Eigen::Matrix<double, 8, 1> full = Eigen::Matrix<double, 8, 1>::Zero();
            full.segment<2>(2 * m.b) = u;
            full.segment<2>(2 * m.a) = -u;
            Eigen::Matrix<double, 5, 1> row;
            row << full[2], full.tail<4>();
            normal += row * row.transpose();
            right += row * (m.mm - far);
            squares += (m.mm - far) * (m.mm - far);
        }
        rms = std::sqrt(squares / static_cast<double>(distances.size()));
        const Eigen::Matrix<double, 5, 1> step = normal.ldlt().solve(right);
        if (!step.allFinite()) break;
        at[1].x() += step[0];
        at[2] += step.segment<2>(1);
        at[3] += step.segment<2>(3);
        if (step.norm() < 1e-9) break;
    }
    return rms;
}

bool rectangle(const MarkDistances& d) {
    const auto alike = [](double a, double b) { return std::abs(a - b) <= 0.01 * std::max(a, b); };
    return alike(d.sides[0], d.sides[2]) && alike(d.sides[1], d.sides[3]);
}

/// Twice the signed area of a triangle.
double turn(const Vec2& a, const Vec2& b, const Vec2& c) {
    return (b - a).x() * (c - a).y() - (b - a).y() * (c - a).x();
}

std::optional<std::string> quadrilateral_fault(const std::array<Vec2, 4>& q, const char* where) {
    double longest = 0;
    for (std::size_t k = 0; k < 4; ++k) longest = std::max(longest, (q[(k + 1) % 4] - q[k]).norm());
    int left = 0, right = 0;
    for (std::size_t k = 0; k < 4; ++k) {
        const double area = turn(q[k], q[(k + 1) % 4], q[(k + 2) % 4]);
        if (std::abs(area) < 0.01 * longest * longest)
            return fmt::format("three of the marks lie nearly in one line {}", where);
        ++(area > 0 ? left : right);
    }
    if (left != 0 && right != 0) return fmt::format("the marks are not in their order round the template {}", where);
    return std::nullopt;
}

double bow_of(const std::vector<Vec2>& line, const Lens& lens) {
    Vec2 mean = Vec2::Zero();
    std::vector<Vec2> at;
    for (const Vec2& p : line) at.push_back(lens.straightened(p));
    for (const Vec2& p : at) mean += p / static_cast<double>(at.size());
    Eigen::Matrix2d spread = Eigen::Matrix2d::Zero();
    for (const Vec2& p : at) spread += (p - mean) * (p - mean).transpose();
    return geometry::eigenpairs_of(spread).values[0];
}

}  // namespace

Result<MarkLayout> place_marks(const MarkDistances& d) {
    for (double side : d.sides)
        if (!(side > 0)) return Error{"measure all four sides between the marks"};
    MarkLayout out;
    const bool diagonals = d.diagonals[0] > 0 || d.diagonals[1] > 0;
    if (!diagonals) {
        if (!rectangle(d)) return Error{"the marks are no rectangle: measure a diagonal as well, both to be sure"};
        const double w = (d.sides[0] + d.sides[2]) / 2, h = (d.sides[1] + d.sides[3]) / 2;
        out.at = {Vec2(0, 0), Vec2(w, 0), Vec2(w, h), Vec2(0, h)};
        return out;
    }
    const auto first = first_layout(d);
    if (!first) return Error{"these distances cannot be: two sides are shorter than the diagonal over them"};
    out.at = *first;
    const auto distances = measured(d);
    out.misfit_mm = settle(out.at, distances);
    out.checked = distances.size() > 5;
    const double longest = *std::max_element(d.sides.begin(), d.sides.end());
    if (out.misfit_mm > std::max(3.0, 0.005 * longest))
        return Error{fmt::format("sides and diagonals disagree by {:.0f} mm: measure them again", out.misfit_mm)};
    if (const auto fault = quadrilateral_fault(out.at, "by these distances")) return Error{*fault};
    return out;
}

std::array<Vec2, 4> as_seen(std::array<Vec2, 4> face, const std::array<Vec2, 4>& px) {
    const bool face_left = turn(face[0], face[1], face[2]) > 0, photo_left = turn(px[0], px[1], px[2]) < 0;
    if (face_left != photo_left)
        for (Vec2& p : face) p.y() = -p.y();
    return face;
}

Vec2 Lens::straightened(const Vec2& pixel) const {
    const Vec2 middle(width / 2.0, height / 2.0), off = pixel - middle;
    const double r2 = off.squaredNorm() / middle.squaredNorm();
    return middle + off * (1 + bow * r2);
}

Vec2 Lens::bent(const Vec2& straight) const {
    const Vec2 middle(width / 2.0, height / 2.0), off = straight - middle;
    const double scale = middle.norm(), target = off.norm() / scale;
    if (target < 1e-12) return straight;
    double r = target;
    for (int k = 0; k < 50; ++k) {
        const double step = (r * (1 + bow * r * r) - target) / (1 + 3 * bow * r * r);
        r -= step;
        if (std::abs(step) * scale < 1e-9) break;
    }
    return middle + off * (r / target);
}

Result<Lens> lens_from_straight_lines(int width, int height, std::span<const std::vector<Vec2>> lines) {
    std::vector<const std::vector<Vec2>*> used;
    for (const auto& line : lines)
        if (line.size() >= 4) used.push_back(&line);
    if (used.empty()) return Error{"mark at least four places along an edge that is straight in truth"};
    const auto misfit = [&](double bow) {
        double sum = 0;
        for (const auto* line : used) sum += bow_of(*line, {width, height, bow});
        return sum;
    };
    constexpr int bits = 30;
    const auto [bow, least] = boost::math::tools::brent_find_minima(misfit, -widest_bow, widest_bow, bits);
    (void)least;
    return Lens{width, height, bow};
}

Result<Rectifier> Rectifier::from_marks(const std::array<Vec2, 4>& pixels, const std::array<Vec2, 4>& face_mm,
                                        const Lens& lens) {
    if (const auto fault = quadrilateral_fault(face_mm, "on the template")) return Error{*fault};
    if (const auto fault = quadrilateral_fault(pixels, "in the photo")) return Error{*fault};
    std::array<cv::Point2f, 4> from, to;
    // OpenCV keeps these in single precision; about their middle that is exact enough.
    const Vec2 middle = lens.straightened((pixels[0] + pixels[1] + pixels[2] + pixels[3]) / 4);
    for (std::size_t k = 0; k < 4; ++k) {
        const Vec2 p = lens.straightened(pixels[k]) - middle;
        from[k] = {static_cast<float>(p.x()), static_cast<float>(p.y())};
        to[k] = {static_cast<float>(face_mm[k].x()), static_cast<float>(face_mm[k].y())};
    }
    const cv::Mat h = cv::getPerspectiveTransform(from.data(), to.data());
    Eigen::Matrix3d map, shift = Eigen::Matrix3d::Identity();
    for (int i = 0; i < 3; ++i)
        for (int j = 0; j < 3; ++j) map(i, j) = h.at<double>(i, j);
    shift.topRightCorner<2, 1>() = -middle;
    Rectifier out;
    out.to_face_ = map * shift;
    out.to_pixel_ = out.to_face_.inverse();
    out.pixels_ = pixels;
    out.face_ = face_mm;
    out.lens_ = lens;
    return out;
}

Vec2 Rectifier::to_face(const Vec2& pixel) const {
    return (to_face_ * lens_.straightened(pixel).homogeneous()).hnormalized();
}

Vec2 Rectifier::to_pixel(const Vec2& face_mm) const {
    return lens_.bent((to_pixel_ * face_mm.homogeneous()).hnormalized());
}

double Rectifier::mm_per_pixel(const Vec2& pixel) const {
    Eigen::Matrix2d slope;
    for (int k = 0; k < 2; ++k)
        slope.col(k) = to_face(pixel + 0.5 * Vec2::Unit(k)) - to_face(pixel - 0.5 * Vec2::Unit(k));
    return slope.jacobiSvd().singularValues()[0];
}

double Rectifier::sigma_mm(const Vec2& pixel, double edge_px, double mark_px) const {
    const Vec2 here = to_face(pixel);
    Eigen::Matrix2d spread = Eigen::Matrix2d::Zero();
    for (std::size_t mark = 0; mark < 4; ++mark)
        for (int k = 0; k < 2; ++k) {
            auto moved = pixels_;
            moved[mark] += Vec2::Unit(k);
            const auto other = from_marks(moved, face_, lens_);
            if (!other) continue;
            const Vec2 off = (other->to_face(pixel) - here) * mark_px;
            spread += off * off.transpose();
        }
    const double marks = std::sqrt(geometry::eigenpairs_of(spread).values[1]);
    return std::hypot(marks, edge_px * mm_per_pixel(pixel));
}

namespace {

/// The lean by a homography from the face to pixels, about the picture's middle; empty where no usual lens sees it
/// so.
std::optional<double> lean_deg(const Eigen::Matrix3d& to_pixel, const Lens& lens) {
    Eigen::Matrix3d centre = Eigen::Matrix3d::Identity();
    centre(0, 2) = -lens.width / 2.0;
    centre(1, 2) = -lens.height / 2.0;
    Eigen::Matrix3d h = centre * to_pixel;
    // In picture widths, so that the two constraints weigh alike.
    h.topRows<2>() /= lens.width;
    h /= h.norm();
    const Vec3 one = h.col(0), two = h.col(1);
    const Vec2 a(one.head<2>().dot(two.head<2>()), one.head<2>().squaredNorm() - two.head<2>().squaredNorm());
    const Vec2 b(-one.z() * two.z(), two.z() * two.z() - one.z() * one.z());
    constexpr double shortest = 0.5, longest = 4;  // focal lengths of usual lenses, in picture widths
    const double inverse_square = a.dot(b) / std::max(a.squaredNorm(), 1e-30);
    if (!(inverse_square > 1 / (longest * longest)) || inverse_square > 1 / (shortest * shortest))
        return std::nullopt;
    const double focal = 1 / std::sqrt(inverse_square);
    const Vec3 u(one.x() / focal, one.y() / focal, one.z()), v(two.x() / focal, two.y() / focal, two.z());
    const Vec3 normal = u.cross(v).normalized();
    return units::degrees(std::acos(std::min(1.0, std::abs(normal.z()))));
}

}  // namespace

std::optional<double> Rectifier::tilt_deg() const {
    constexpr double mark_px = 0.7, sure_deg = 2;
    const auto lean = lean_deg(to_pixel_, lens_);
    if (!lean) return std::nullopt;
    double spread = 0;
    for (std::size_t mark = 0; mark < 4; ++mark)
        for (int k = 0; k < 2; ++k) {
            auto moved = pixels_;
            moved[mark] += mark_px * Vec2::Unit(k);
            const auto other = from_marks(moved, face_, lens_);
            const auto now = other ? lean_deg(other->to_pixel_, lens_) : std::nullopt;
            if (!now) return std::nullopt;
            spread += std::pow(*now - *lean, 2);
        }
    if (std::sqrt(spread) > sure_deg) return std::nullopt;
    return lean;
}

}  // namespace bevelsmith::imaging
