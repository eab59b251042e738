#include "app/shape/scene.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "app/look/theme.h"

namespace bevelsmith::app {
namespace {

QColor mixed(const QColor& a, const QColor& b, double share) {
    const double t = std::clamp(share, 0.0, 1.0);
    return QColor::fromRgbF(static_cast<float>(a.redF() + (b.redF() - a.redF()) * t),
                            static_cast<float>(a.greenF() + (b.greenF() - a.greenF()) * t),
                            static_cast<float>(a.blueF() + (b.blueF() - a.blueF()) * t));
}

/// Slate where the surface is known to a millimetre, fading to paper where its 95 % band reaches 6 mm or where
/// there are no readings around.
QColor colour_of(const hull::Mesh& mesh, int row, int column) {
    const auto& c = theme().colours();
    const auto& node = mesh.at(row, column);
    // The rim of the survey fades over a few nodes instead of in steps.
    int around = 0, all = 0;
    for (int i = std::max(0, row - 2); i <= std::min(mesh.rows - 1, row + 2); ++i)
        for (int j = std::max(0, column - 2); j <= std::min(mesh.columns - 1, column + 2); ++j)
            ++all, around += mesh.at(i, j).surrounded;
    const double outside = std::clamp(1.5 - 2.0 * around / all, 0.0, 1.0);
    const QColor known = mixed(c.certain, c.paper, 0.35), unknown = mixed(c.paper, c.line, 0.6);
    return mixed(known, unknown, std::max(outside, (1.96 * node.sigma_mm - 1) / 5));
}

void add_mesh(Scene& out, const hull::Mesh& mesh) {
    std::vector<QColor> colours;
    for (int i = 0; i < mesh.rows; ++i)
        for (int j = 0; j < mesh.columns; ++j) colours.push_back(colour_of(mesh, i, j));
    const auto index = [&](int i, int j) { return static_cast<std::size_t>(i * mesh.columns + j); };
    const auto triangle = [&](std::size_t a, std::size_t b, std::size_t c) {
        const auto& n = mesh.nodes;
        out.triangles.push_back({{n[a].position, n[b].position, n[c].position},
                                 {n[a].normal, n[b].normal, n[c].normal},
                                 {colours[a], colours[b], colours[c]}});
    };
    for (int i = 0; i + 1 < mesh.rows; ++i)
        for (int j = 0; j + 1 < mesh.columns; ++j) {
            triangle(index(i, j), index(i + 1, j), index(i + 1, j + 1));
            triangle(index(i, j), index(i + 1, j + 1), index(i, j + 1));
        }
}

std::vector<Vec3> ring_in_space(const geometry::PlaneFrame& frame, const geometry::Ring& ring, double off_mm) {
    std::vector<Vec3> out;
    for (const Vec2& p : ring) out.push_back(frame.to_space(p) + frame.normal * off_mm);
    return out;
}

void add_piece(Scene& out, const piece::Outline& shape, bool selected) {
    const auto& c = theme().colours();
    Scene::Plate plate;
    plate.fill = selected ? mixed(c.wood, c.accent, 0.25) : c.wood;
    plate.normal = shape.frame.normal;
    plate.rings.push_back(ring_in_space(shape.frame, shape.face_a.outer, 0));
    for (const auto& hole : shape.face_a.holes) plate.rings.push_back(ring_in_space(shape.frame, hole, 0));
    const QColor edge = plate.edge = selected ? c.accent : c.ink;
    const auto closed = [&](std::vector<Vec3> ring, float width) {
        ring.push_back(ring.front());
        out.lines.push_back({std::move(ring), edge, width});
    };
    for (const auto& ring : plate.rings) closed(ring, selected ? 2.0F : 1.2F);
    closed(ring_in_space(shape.frame, shape.face_b.outer, shape.thickness_mm), 1);
    out.plates.push_back(std::move(plate));
}

/// Chines and other hard lines, where the surface kinks.
void add_hard_lines(Scene& out, const hull::Surface& surface) {
    constexpr int steps = 32;
    const double low = surface.basis_s().low(), high = surface.basis_s().high();
    for (const hull::HardLine& line : surface.chart().hard_lines) {
        std::vector<Vec3> points;
        for (int k = 0; k <= steps; ++k)
            points.push_back(surface.at({low + (high - low) * k / steps, line.mean}).position);
        out.lines.push_back({std::move(points), theme().colours().ink, 1.6F, true});
    }
}

/// A scan's readings are small, so that the surface is seen between them.
void add_readings(Scene& out, const job::SurfaceResult& surface) {
    const auto& c = theme().colours();
    const bool many = surface.points.size() > 1000;
    Scene::Spots good{{}, c.ink, many ? 1.5F : 4.0F}, doubtful{{}, c.stop, many ? 3.0F : 8.0F};
    for (std::size_t k = 0; k < surface.points.size(); ++k) {
        (surface.doubts(k) ? doubtful : good).at.push_back(surface.points[k].position);
    }
    for (auto* spots : {&good, &doubtful})
        if (!spots->at.empty()) out.spots.push_back(std::move(*spots));
}

constexpr float opening_deg = 35;  // of the camera, upright

void set_box(Scene& out) {
    bool first = true;
    const auto take = [&](const Vec3& p) {
        if (first) out.low = out.high = p;
        first = false;
        out.low = out.low.cwiseMin(p);
        out.high = out.high.cwiseMax(p);
    };
    for (const auto& t : out.triangles) take(t.corner[0]);
    for (const auto& spots : out.spots)
        for (const Vec3& p : spots.at) take(p);
}

void add_section_plane(Scene& out, const geometry::Plane& plane) {
    const auto frame = geometry::upright_frame(plane);
    geometry::Box box{{1e30, 1e30}, {-1e30, -1e30}};
    for (int k = 0; k < 8; ++k) {
        const Vec2 q = frame.to_plane({k & 1 ? out.low.x() : out.high.x(), k & 2 ? out.low.y() : out.high.y(),
                                       k & 4 ? out.low.z() : out.high.z()});
        box.min = box.min.cwiseMin(q);
        box.max = box.max.cwiseMax(q);
    }
    box.min -= Vec2(60, 60);
    box.max += Vec2(60, 60);
    auto ring = ring_in_space(frame, geometry::rectangle(box), 0);
    ring.push_back(ring.front());
    out.lines.push_back({ring, theme().colours().accent, 1.2F});
}

}  // namespace

Scene scene_of(const Computed& computed, const QString& selected, const geometry::Plane& section) {
    Scene out;
    const auto& c = theme().colours();
    for (const auto& surface : computed.results.surfaces) {
        if (surface.mesh) add_mesh(out, *surface.mesh);
        if (surface.ridges)
            for (const auto& ridge : surface.ridges->lines) out.lines.push_back({ridge.line, c.accent, 3, true});
        if (surface.fitted()) add_hard_lines(out, surface.fitted()->surface);
        add_readings(out, surface);
        if (surface.fitted() && out.inward.isZero()) out.inward = surface.fitted()->report.inside.toward;
    }
    set_box(out);
    if (out.empty()) return out;
    for (const auto& piece : computed.results.pieces)
        if (const auto* shape = piece.shape()) add_piece(out, *shape, QString::fromStdString(piece.id) == selected);
    add_section_plane(out, section);
    return out;
}

void Camera::look_at(const Scene& scene, double aspect) {
    const double reach = 0.92 * std::tan(opening_deg / 2 * M_PI / 180);
    target = (scene.low + scene.high) / 2;
    // What is flat, as a survey is at its beginning, is not looked at edge-on.
    const Vec3 extent = scene.high - scene.low;
    constexpr double flat = 0.25;
    if (extent.y() < flat * extent.x()) turn = 62;
    else if (extent.x() < flat * extent.y()) turn = 18;
    if (extent.z() < flat * std::min(extent.x(), extent.y())) rise = 55;
    // From inside the boat, where one sees the surface as it is measured.
    if (std::abs(scene.inward.y()) > 0.3) turn = std::abs(turn) * (scene.inward.y() > 0 ? -1 : 1);
    distance_mm = 1;
    const Vec3 back = (eye() - target).normalized(), right = Vec3::UnitZ().cross(back).normalized(),
               up = back.cross(right);
    distance_mm = 500;
    const auto keep = [&](const Vec3& p) {
        const Vec3 q = p - target;
        const double off = std::max(std::abs(up.dot(q)), std::abs(right.dot(q)) / aspect);
        distance_mm = std::max(distance_mm, back.dot(q) + off / reach);
    };
    // Of what is built in, or what there is: the middle of what is seen, and as near as all of it can be seen.
    std::vector<Vec3> shown;
    for (const auto& plate : scene.plates)
        for (const auto& ring : plate.rings) shown.insert(shown.end(), ring.begin(), ring.end());
    if (shown.empty() || !scene.near_side_cut_away) {
        for (const auto& t : scene.triangles) shown.push_back(t.corner[0]);
        for (const auto& spots : scene.spots) shown.insert(shown.end(), spots.at.begin(), spots.at.end());
    }
    if (shown.empty()) return;
    for (int round = 0; round < 4; ++round) {
        distance_mm = 500;
        for (const Vec3& p : shown) keep(p);
        // Near things reach farther across the picture: what is to be in the middle is what is seen, not the box.
        Vec2 low(1e9, 1e9), high(-1e9, -1e9);
        for (const Vec3& p : shown) {
            const Vec3 q = p - target;
            const Vec2 at = Vec2(right.dot(q), up.dot(q)) / std::max(1.0, distance_mm - back.dot(q));
            low = low.cwiseMin(at), high = high.cwiseMax(at);
        }
        const Vec2 off = (low + high) / 2 * distance_mm;
        target += off.x() * right + off.y() * up;
    }
    distance_mm = 500;
    for (const Vec3& p : shown) keep(p);
}

Vec3 Camera::eye() const {
    const double a = turn * M_PI / 180, b = rise * M_PI / 180;
    return target + distance_mm * Vec3(-std::cos(a) * std::cos(b), -std::sin(a) * std::cos(b), std::sin(b));
}

QMatrix4x4 Camera::matrix(const QSizeF& view) const {
    QMatrix4x4 out;
    const double aspect = view.width() / std::max(1.0, view.height());
    out.perspective(opening_deg, static_cast<float>(aspect), static_cast<float>(distance_mm / 50),
                    static_cast<float>(distance_mm * 6));
    const Vec3 from = eye();
    const auto v = [](const Vec3& p) {
        return QVector3D(static_cast<float>(p.x()), static_cast<float>(p.y()), static_cast<float>(p.z()));
    };
    out.lookAt(v(from), v(target), {0, 0, 1});
    return out;
}

void Camera::orbit(const QPointF& pixels) {
    turn -= pixels.x() * 0.4;
    rise = std::clamp(rise + pixels.y() * 0.4, -85.0, 85.0);
}

void Camera::pan(const QPointF& pixels, const QSizeF& view) {
    const Vec3 forward = (target - eye()).normalized(), right = forward.cross(Vec3::UnitZ()).normalized(),
               up = right.cross(forward);
    const double mm_per_pixel = 2 * distance_mm * std::tan(17.5 * M_PI / 180) / std::max(1.0, view.height());
    target += (-right * pixels.x() + up * pixels.y()) * mm_per_pixel;
}

void Camera::zoom(double factor) {
    distance_mm = std::clamp(distance_mm / factor, 100.0, 1e6);
}

}  // namespace bevelsmith::app
