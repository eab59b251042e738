#include "app/shape/scene_view.h"

#include <Eigen/Geometry>

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainterPath>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "app/look/theme.h"

namespace bevelsmith::app {
namespace {

QVector3D gl(const Vec3& p) {
    return {static_cast<float>(p.x()), static_cast<float>(p.y()), static_cast<float>(p.z())};
}

/// A place in pixels; false behind the eye.
bool projected(const QMatrix4x4& matrix, const QSizeF& size, const Vec3& p, QPointF& out) {
    const QVector4D clip = matrix * QVector4D(gl(p), 1);
    if (clip.w() <= 1e-3F) return false;
    out = {(clip.x() / clip.w() + 1) / 2 * size.width(), (1 - clip.y() / clip.w()) / 2 * size.height()};
    return true;
}

}  // namespace

CameraControl::CameraControl(QWidget& view, Camera& camera) : QObject(&view), view_(view), camera_(camera) {
    view_.installEventFilter(this);
    view_.setFocusPolicy(Qt::StrongFocus);
}

bool CameraControl::key(int key) {
    switch (key) {
        case Qt::Key_Left: camera_.orbit({-20, 0}); break;
        case Qt::Key_Right: camera_.orbit({20, 0}); break;
        case Qt::Key_Up: camera_.orbit({0, 20}); break;
        case Qt::Key_Down: camera_.orbit({0, -20}); break;
        case Qt::Key_Plus:
        case Qt::Key_Equal: camera_.zoom(1.2); break;
        case Qt::Key_Minus: camera_.zoom(1 / 1.2); break;
        case Qt::Key_0: emit show_all(); break;
        default: return false;
    }
    emit moved();
    return true;
}

bool CameraControl::eventFilter(QObject*, QEvent* event) {
    if (event->type() == QEvent::KeyPress) return key(static_cast<QKeyEvent*>(event)->key());
    if (event->type() == QEvent::Wheel) {
        camera_.zoom(std::pow(1.0015, static_cast<QWheelEvent*>(event)->angleDelta().y()));
        emit moved();
        return true;
    }
    if (event->type() == QEvent::MouseButtonPress) {
        last_ = static_cast<QMouseEvent*>(event)->position();
        view_.setFocus(Qt::MouseFocusReason);
        return true;
    }
    if (event->type() == QEvent::MouseMove) {
        auto* mouse = static_cast<QMouseEvent*>(event);
        const QPointF by = mouse->position() - last_;
        last_ = mouse->position();
        if (mouse->buttons() == Qt::NoButton) return false;
        if (mouse->buttons() == Qt::LeftButton && !(mouse->modifiers() & Qt::ShiftModifier)) camera_.orbit(by);
        else camera_.pan(by, view_.size());
        emit moved();
        return true;
    }
    return false;
}

SceneView::SceneView(Camera& camera, Draws draws) : camera_(camera), draws_(draws) {}
SceneView::~SceneView() = default;

void SceneView::show_scene(const Scene& scene) {
    scene_ = scene;
    stale_ = true;
    update();
}

void SceneView::paintEvent(QPaintEvent*) {
    // Only when it is first looked at: setting up OpenGL takes a while.
    if (draws_ == Draws::by_opengl && !gl_) {
        gl_ = GlPicture::make();
        if (!gl_) draws_ = Draws::by_painter;
    }
    QPainter p(this);
    p.fillRect(rect(), theme().colours().paper);
    if (gl_) {
        QImage picture = gl_->draw(scene_, stale_, camera_, size() * devicePixelRatioF());
        picture.setDevicePixelRatio(devicePixelRatioF());
        p.drawImage(0, 0, picture);
        stale_ = false;
    } else {
        paint_scene(p, size());
    }
    p.setRenderHint(QPainter::Antialiasing);
    draw_words(p);
}

void SceneView::draw_words(QPainter& p) const {
    const QSizeF view(size());
    const auto& c = theme().colours();
    p.setFont(Theme::font(size::text_small));
    if (scene_.empty()) {
        p.setPen(c.faint);
        p.setFont(Theme::font(15));
        p.drawText(QRectF({0, 0}, view).adjusted(60, 20, -60, -20), Qt::AlignCenter | Qt::TextWordWrap,
                   "No surface yet.\n\nIt is made from the readings: three stations or more, twelve readings or "
                   "more. Go back to Measure.");
        return;
    }
    // The boat's directions as they look from here, in a corner that the picture leaves free.
    const Vec3 forward = (camera_.target - camera_.eye()).normalized();
    const Vec3 right = forward.cross(Vec3::UnitZ()).normalized(), up = right.cross(forward);
    const QPointF from(58, view.height() - 54);
    QColor patch = c.paper;
    patch.setAlpha(210);
    p.setPen(Qt::NoPen);
    p.setBrush(patch);
    p.drawEllipse(from, 54, 50);
    p.setBrush(Qt::NoBrush);
    const char* names[] = {"fwd", "port", "up"};
    for (int k = 0; k < 3; ++k) {
        const QPointF along(right[k], -up[k]);
        const double length = std::hypot(along.x(), along.y());
        p.setPen(QPen(c.ink, 1.4));
        p.drawLine(from, from + along * 30);
        if (length < 0.15) continue;  // it points at the eye, and its word would lie on the others
        p.drawText(QRectF(from + along * 30 + along / length * 14 - QPointF(20, 9), QSizeF(40, 18)), Qt::AlignCenter,
                   names[k]);
    }
    const QString words = scene_.near_side_cut_away
                              ? "drag to turn, wheel to come nearer, 0 for all; the near side of the hull is cut away"
                              : "slate: known well; pale: hardly, or beyond the readings; seen through from outside";
    const QRectF line(12, 8, p.fontMetrics().horizontalAdvance(words) + 4.0, 16);
    p.fillRect(line.adjusted(-4, -2, 2, 2), patch);
    p.setPen(c.faint);
    p.drawText(line, Qt::AlignLeft, words);
}

namespace {

/// A flat thing to be painted: a triangle of a surface or body, or a plate.
struct Flat {
    double away = 0;  ///< from the eye, squared
    const Scene::Triangle* triangle = nullptr;
    const Scene::Plate* plate = nullptr;
    bool body = false;
};

QColor lit(const QColor& c, const Vec3& normal, const Vec3& view) {
    const Vec3 seen = normal.dot(view) < 0 ? Vec3(-normal) : normal;
    const double light = std::min(
        1.0, 0.50 + 0.22 * seen.dot(view) + 0.34 * std::max(0.0, seen.dot(Vec3(-0.45, 0.35, 0.82).normalized())));
    const auto f = static_cast<float>(light);
    return QColor::fromRgbF(c.redF() * f, c.greenF() * f, c.blueF() * f);
}

std::vector<Flat> far_ones_first(const Scene& scene, const Vec3& eye) {
    std::vector<Flat> out;
    const auto add = [&](const Scene::Triangle& t, bool body) {
        out.push_back({((t.corner[0] + t.corner[1] + t.corner[2]) / 3 - eye).squaredNorm(), &t, nullptr, body});
    };
    for (const auto& t : scene.triangles) add(t, false);
    for (const auto& t : scene.solids) add(t, true);
    for (const auto& plate : scene.plates) {
        Vec3 sum = Vec3::Zero();
        for (const Vec3& p : plate.rings.front()) sum += p / static_cast<double>(plate.rings.front().size());
        out.push_back({(sum - eye).squaredNorm(), nullptr, &plate, true});
    }
    std::sort(out.begin(), out.end(), [](const Flat& a, const Flat& b) { return a.away > b.away; });
    return out;
}

}  // namespace

QImage SceneView::picture(const QSize& pixels) const {
    if (gl_) {
        // Drawn anew in that size; what the window shows is drawn again with it.
        return gl_->draw(scene_, true, camera_, pixels);
    }
    QImage out(pixels, QImage::Format_RGB32);
    out.fill(theme().colours().paper);
    QPainter p(&out);
    paint_scene(p, pixels);
    return out;
}

/// The same picture without OpenGL: far faces first.
void SceneView::paint_scene(QPainter& p, const QSizeF& view) const {
    const QMatrix4x4 matrix = camera_.matrix(view);
    const Vec3 eye = camera_.eye();
    const auto line_of = [&](const std::vector<Vec3>& points) {
        QPolygonF out;
        QPointF at;
        for (const Vec3& q : points)
            if (projected(matrix, view, q, at)) out << at;
        return out;
    };
    const auto paint_triangle = [&](const Flat& flat) {
        const auto& t = *flat.triangle;
        QPolygonF shape(3);
        for (std::size_t k = 0; k < 3; ++k)
            if (!projected(matrix, view, t.corner[k], shape[static_cast<int>(k)])) return;
        const Vec3 way = (eye - t.corner[0]).normalized();
        const bool whole = flat.body || t.normal[0].dot(way) <= 0;
        if (!whole && scene_.near_side_cut_away) return;
        QColor shade = lit(t.colour[0], t.normal[0], way);
        shade.setAlphaF(whole ? 1.0F : 0.16F);
        p.setPen(whole ? QPen(shade) : QPen(Qt::NoPen));
        p.setBrush(shade);
        p.drawPolygon(shape);
    };
    p.setRenderHint(QPainter::Antialiasing, false);
    for (const Flat& flat : far_ones_first(scene_, eye)) {
        if (flat.triangle) {
            paint_triangle(flat);
            continue;
        }
        QPainterPath path;
        for (const auto& ring : flat.plate->rings) path.addPolygon(line_of(ring)), path.closeSubpath();
        p.setPen(QPen(flat.plate->edge, 1));
        p.setBrush(lit(flat.plate->fill, flat.plate->normal, (eye - flat.plate->rings.front().front()).normalized()));
        p.drawPath(path);
    }
    p.setRenderHint(QPainter::Antialiasing);
    p.setBrush(Qt::NoBrush);
    // What is a body's edge was painted with it: lines alone would be seen through what stands before them.
    for (const auto& line : scene_.lines) {
        if (scene_.near_side_cut_away && !line.above) continue;
        p.setPen(QPen(line.colour, line.width));
        p.drawPolyline(line_of(line.points));
    }
    QPointF at;
    for (const auto& spots : scene_.spots) {
        const QSizeF spot(spots.size, spots.size);
        for (const Vec3& q : spots.at)
            if (projected(matrix, view, q, at))
                p.fillRect(QRectF(at - QPointF(spots.size, spots.size) / 2, spot), spots.colour);
    }
}

}  // namespace bevelsmith::app
