// The boat as what it is: hull, panels in their wood, pipes and tanks, nothing of the measuring.
#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "app/look/theme.h"
#include "app/shape/scene.h"
#include "piece/solid.h"

namespace bevelsmith::app {
namespace {

QColor toned(const QColor& a, const QColor& b, double share) {
    const auto t = static_cast<float>(share);
    return QColor::fromRgbF(a.redF() + (b.redF() - a.redF()) * t, a.greenF() + (b.greenF() - a.greenF()) * t,
                            a.blueF() + (b.blueF() - a.blueF()) * t);
}

void add_flat(std::vector<Scene::Triangle>& out, const Vec3& a, const Vec3& b, const Vec3& c, const QColor& colour) {
    const Vec3 n = (b - a).cross(c - a);
    if (n.norm() < 1e-9) return;
    const Vec3 normal = n.normalized();
    out.push_back({{a, b, c}, {normal, normal, normal}, {colour, colour, colour}});
}

/// What stands there already is of old wood, greyer than what is made.
void add_body(Scene& out, const piece::Outline& shape, bool selected, bool is_made) {
    const auto& c = theme().colours();
    const QColor plain =
        is_made ? toned(c.wood, QColor(176, 124, 62), 0.45) : toned(c.wood, QColor(132, 128, 120), 0.75);
    const QColor wood = selected ? toned(plain, c.accent, 0.3) : plain;
    const QColor end_grain = toned(wood, Qt::black, 0.18);
    const auto body = piece::solid_of(shape, shape.face_a, shape.face_b);
    for (const auto& face : body.faces) {
        Scene::Plate plate;
        plate.fill = wood;
        plate.edge = selected ? c.accent : c.ink;
        plate.normal = shape.frame.normal;
        plate.rings.push_back(face.outer);
        plate.rings.insert(plate.rings.end(), face.holes.begin(), face.holes.end());
        for (auto ring : plate.rings) {
            ring.push_back(ring.front());
            out.lines.push_back({std::move(ring), plate.edge, selected ? 2.0F : 1.0F});
        }
        out.plates.push_back(std::move(plate));
    }
    for (const auto& side : body.sides) add_flat(out.solids, side[0], side[1], side[2], end_grain);
}

/// The hull in one tone, its rim and some sections as lines.
void add_hull(Scene& out, const hull::Mesh& mesh) {
    const auto& c = theme().colours();
    const QColor tone = toned(c.certain, c.paper, 0.45);
    const auto triangle = [&](const hull::Mesh::Node& p, const hull::Mesh::Node& q, const hull::Mesh::Node& r) {
        out.triangles.push_back(
            {{p.position, q.position, r.position}, {p.normal, q.normal, r.normal}, {tone, tone, tone}});
    };
    for (int i = 0; i + 1 < mesh.rows; ++i)
        for (int j = 0; j + 1 < mesh.columns; ++j) {
            triangle(mesh.at(i, j), mesh.at(i + 1, j), mesh.at(i + 1, j + 1));
            triangle(mesh.at(i, j), mesh.at(i + 1, j + 1), mesh.at(i, j + 1));
        }
    constexpr int stations = 6;
    const auto line = [&](auto node, int count, float width) {
        Scene::Line made{{}, toned(c.certain, c.ink, 0.3), width};
        for (int k = 0; k < count; ++k)
            made.points.push_back(node(k).position), made.normals.push_back(node(k).normal);
        out.lines.push_back(std::move(made));
    };
    for (int k = 0; k <= stations; ++k) {
        const int i = k * (mesh.rows - 1) / stations;
        line([&](int j) { return mesh.at(i, j); }, mesh.columns, k == 0 || k == stations ? 1.4F : 0.7F);
    }
    for (const int j : {0, mesh.columns - 1}) line([&](int i) { return mesh.at(i, j); }, mesh.rows, 1.4F);
}

/// A run of a section along its path: pipes round, all else square.
void add_obstacle(Scene& out, const piece::Obstacle& obstacle) {
    const auto& c = theme().colours();
    const QColor tone = toned(c.faint, c.certain, 0.35);
    const bool round = obstacle.section == piece::Section::round;
    const int corners = round ? 20 : 4;
    for (std::size_t k = 0; k + 1 < obstacle.path.size(); ++k) {
        const Vec3 from = obstacle.path[k], to = obstacle.path[k + 1];
        if ((to - from).norm() < 1e-6) continue;
        const Vec3 way = (to - from).normalized();
        const bool upright = std::abs(way.z()) > 0.98;
        const Vec3 level = upright ? Vec3(Vec3::UnitY()) : Vec3(Vec3::UnitZ().cross(way).normalized());
        const Vec3 other = way.cross(level);
        const double wide = obstacle.width_mm / 2, high = (round ? obstacle.width_mm : obstacle.height_mm) / 2;
        std::vector<Vec3> rim;
        for (int i = 0; i < corners; ++i) {
            const double angle = 2 * M_PI * (i + 0.5) / corners, stretch = round ? 1 : std::sqrt(2.0);
            rim.push_back(stretch * (std::cos(angle) * wide * level + std::sin(angle) * high * other));
        }
        for (std::size_t i = 0; i < rim.size(); ++i) {
            const Vec3 &a = rim[i], &b = rim[(i + 1) % rim.size()];
            add_flat(out.solids, from + a, from + b, to + b, tone);
            add_flat(out.solids, from + a, to + b, to + a, tone);
            for (const Vec3& end : {from, to}) add_flat(out.solids, end, end + a, end + b, tone);
            if (!round) out.lines.push_back({{from + a, to + a}, c.ink, 1});
        }
        for (const Vec3& end : {from, to}) {
            std::vector<Vec3> ring;
            for (const Vec3& p : rim) ring.push_back(end + p);
            ring.push_back(ring.front());
            out.lines.push_back({std::move(ring), c.ink, 1});
        }
    }
}

void take(Scene& out, bool& first, const Vec3& p) {
    if (first) out.low = out.high = p;
    first = false;
    out.low = out.low.cwiseMin(p);
    out.high = out.high.cwiseMax(p);
}

/// Where the work is: all that is built in, with some room; the hull where nothing is.
void set_work_box(Scene& out) {
    bool first = true;
    for (const auto& plate : out.plates)
        for (const auto& ring : plate.rings)
            for (const Vec3& p : ring) take(out, first, p);
    if (!first) return;
    for (const auto& t : out.triangles) take(out, first, t.corner[0]);
}

}  // namespace

Scene boat_scene_of(const Computed& computed, const QString& selected,
                    const std::function<bool(const std::string&)>& hidden) {
    Scene out;
    out.near_side_cut_away = true;
    for (const auto& surface : computed.results.surfaces) {
        if (surface.mesh) add_hull(out, *surface.mesh);
        if (surface.fitted() && out.inward.isZero()) out.inward = surface.fitted()->report.inside.toward;
    }
    for (const auto& piece : computed.results.pieces) {
        const auto* shape = piece.shape();
        const auto* spec = job::find_piece(computed.job, piece.id);
        if (shape && spec && !hidden(piece.id))
            add_body(out, *shape, QString::fromStdString(piece.id) == selected, piece::is_made(spec->role));
    }
    for (const auto& obstacle : computed.job.obstacles) add_obstacle(out, obstacle);
    set_work_box(out);
    return out;
}

}  // namespace bevelsmith::app
