#include "app/shape/scene_view.h"

#include <Eigen/Geometry>

#include <QGuiApplication>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QOffscreenSurface>
#include <QOpenGLContext>
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

constexpr const char* vertex_shader = R"(
attribute vec3 position; attribute vec3 normal; attribute vec4 colour;
uniform mat4 matrix; uniform vec3 eye; uniform float spot;
varying vec4 shade; varying float inside;
void main() {
    gl_Position = matrix * vec4(position, 1.0);
    gl_PointSize = spot;
    float light = 1.0;
    // Seen from inside the boat when the outward normal points away from the eye.
    inside = dot(normal, normal) > 0.5 ? -dot(normal, normalize(eye - position)) : 1.0;
    if (dot(normal, normal) > 0.5) light = 0.62 + 0.38 * abs(dot(normalize(normal), normalize(eye - position)));
    shade = vec4(colour.rgb * light, colour.a);
})";
constexpr const char* fragment_shader = R"(
varying vec4 shade; varying float inside;
uniform float pass;
void main() {
    if (pass < 0.5 && inside < 0.0) discard;
    if (pass > 0.5 && inside >= 0.0) discard;
    gl_FragColor = pass > 0.5 ? vec4(shade.rgb, 0.16) : shade;
})";

}  // namespace

bool opengl_works() {
    static const bool works = [] {
        if (QGuiApplication::platformName() == "offscreen" || QGuiApplication::platformName() == "minimal")
            return false;
        QOffscreenSurface surface;
        surface.create();
        QOpenGLContext context;
        return surface.isValid() && context.create() && context.makeCurrent(&surface);
    }();
    return works;
}

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

SceneWords::SceneWords(QWidget& view, const Camera& camera, const Scene& scene)
    : QWidget(&view), camera_(camera), scene_(scene) {
    setAttribute(Qt::WA_TransparentForMouseEvents);
    resize(view.size());
    view.installEventFilter(this);
}

bool SceneWords::eventFilter(QObject* view, QEvent* event) {
    if (event->type() == QEvent::Resize) resize(static_cast<QWidget*>(view)->size());
    return false;
}

void SceneWords::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const QSizeF view(size());
    const auto& c = theme().colours();
    p.setRenderHint(QPainter::Antialiasing);
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
    p.setPen(c.faint);
    p.drawText(QRectF(12, 8, view.width() - 24, 16), Qt::AlignLeft,
               "slate: known well; pale: hardly, or beyond the readings; seen through from outside");
}

GlSceneView::GlSceneView(Camera& camera) : camera_(camera), buffer_(QOpenGLBuffer::VertexBuffer) {
    QSurfaceFormat format;
    format.setDepthBufferSize(24);
    format.setStencilBufferSize(8);
    setFormat(format);
    words_ = new SceneWords(*this, camera_, scene_);
}

GlSceneView::~GlSceneView() {
    makeCurrent();
    buffer_.destroy();
    program_.removeAllShaders();
    doneCurrent();
}

void GlSceneView::show_scene(const Scene& scene) {
    scene_ = scene;
    stale_ = true;
    update();
    words_->update();
}

void GlSceneView::initializeGL() {
    initializeOpenGLFunctions();
    program_.addShaderFromSourceCode(QOpenGLShader::Vertex, vertex_shader);
    program_.addShaderFromSourceCode(QOpenGLShader::Fragment, fragment_shader);
    program_.link();
    buffer_.create();
}

void GlSceneView::upload() {
    std::vector<Vertex> out;
    const auto add = [&](const Vec3& p, const Vec3& n, const QColor& c) {
        out.push_back({{static_cast<float>(p.x()), static_cast<float>(p.y()), static_cast<float>(p.z())},
                       {static_cast<float>(n.x()), static_cast<float>(n.y()), static_cast<float>(n.z())},
                       {c.redF(), c.greenF(), c.blueF(), c.alphaF()}});
    };
    const auto range = [&](std::size_t first) {
        return Range{static_cast<int>(first), static_cast<int>(out.size() - first)};
    };
    for (const auto& t : scene_.triangles)
        for (std::size_t k = 0; k < 3; ++k) add(t.corner[k], t.normal[k], t.colour[k]);
    triangles_ = range(0);
    lines_.clear(), rings_.clear(), covers_.clear(), spots_.clear();
    for (const auto& line : scene_.lines) {
        const std::size_t first = out.size();
        for (const Vec3& p : line.points) add(p, Vec3::Zero(), line.colour);
        lines_.push_back(range(first));
    }
    for (const auto& plate : scene_.plates) {
        for (const auto& ring : plate.rings) {
            const std::size_t first = out.size();
            for (const Vec3& p : ring) add(p, Vec3::Zero(), plate.fill);
            rings_.push_back(range(first));
        }
        // The outer ring's own points, fanned, cover everything that the stencil lets through.
        covers_.push_back(rings_[rings_.size() - plate.rings.size()]);
    }
    for (const auto& spots : scene_.spots) {
        const std::size_t first = out.size();
        for (const Vec3& p : spots.at) add(p, Vec3::Zero(), spots.colour);
        spots_.push_back(range(first));
    }
    buffer_.bind();
    buffer_.allocate(out.data(), static_cast<int>(out.size() * sizeof(Vertex)));
    buffer_.release();
    stale_ = false;
}

/// The window's own alpha stays whole, or the picture would shine through to what lies behind it.
void GlSceneView::blend_over() {
    glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ONE, GL_ONE_MINUS_SRC_ALPHA);
}

void GlSceneView::draw_range(int first, int count, unsigned mode) {
    glDrawArrays(mode, first, count);
}

/// Fans of all rings flip the stencil; where it is odd lies the plate.
void GlSceneView::draw_plate(int first_ring, int rings) {
    glEnable(GL_STENCIL_TEST);
    glClear(GL_STENCIL_BUFFER_BIT);
    glColorMask(GL_FALSE, GL_FALSE, GL_FALSE, GL_FALSE);
    glDepthMask(GL_FALSE);
    glStencilFunc(GL_ALWAYS, 0, 1);
    glStencilOp(GL_KEEP, GL_KEEP, GL_INVERT);
    for (int r = first_ring; r < first_ring + rings; ++r)
        draw_range(rings_[static_cast<std::size_t>(r)].first, rings_[static_cast<std::size_t>(r)].count,
                   GL_TRIANGLE_FAN);
    glColorMask(GL_TRUE, GL_TRUE, GL_TRUE, GL_TRUE);
    glStencilFunc(GL_EQUAL, 1, 1);
    glStencilOp(GL_KEEP, GL_KEEP, GL_ZERO);
    glEnable(GL_BLEND);
    blend_over();
    draw_range(rings_[static_cast<std::size_t>(first_ring)].first, rings_[static_cast<std::size_t>(first_ring)].count,
               GL_TRIANGLE_FAN);
    glDisable(GL_BLEND);
    glDepthMask(GL_TRUE);
    glDisable(GL_STENCIL_TEST);
}

void GlSceneView::draw_lines(bool above) {
    for (std::size_t k = 0; k < lines_.size(); ++k) {
        if (scene_.lines[k].above != above) continue;
        glLineWidth(scene_.lines[k].width);
        draw_range(lines_[k].first, lines_[k].count, GL_LINE_STRIP);
    }
}

void GlSceneView::paintGL() {
    if (stale_) upload();
    const QColor paper = theme().colours().paper;
    glClearColor(paper.redF(), paper.greenF(), paper.blueF(), 1);
    glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT | GL_STENCIL_BUFFER_BIT);
    glEnable(GL_DEPTH_TEST);
    glDepthFunc(GL_LEQUAL);
    program_.bind();
    program_.setUniformValue("matrix", camera_.matrix(size()));
    program_.setUniformValue("eye", gl(camera_.eye()));
    program_.setUniformValue("spot", 4.0F);
    program_.setUniformValue("pass", 0.0F);
    buffer_.bind();
    const int parts[][2] = {{0, 3}, {3, 3}, {6, 4}};
    const char* names[] = {"position", "normal", "colour"};
    for (int k = 0; k < 3; ++k) {
        program_.enableAttributeArray(names[k]);
        program_.setAttributeBuffer(names[k], GL_FLOAT,
                                    static_cast<int>(static_cast<std::size_t>(parts[k][0]) * sizeof(float)),
                                    parts[k][1], sizeof(Vertex));
    }
    glEnable(GL_POLYGON_OFFSET_FILL);
    glPolygonOffset(1, 1);
    draw_range(triangles_.first, triangles_.count, GL_TRIANGLES);
    glDisable(GL_POLYGON_OFFSET_FILL);
    int ring = 0;
    for (const auto& plate : scene_.plates) {
        draw_plate(ring, static_cast<int>(plate.rings.size()));
        ring += static_cast<int>(plate.rings.size());
    }
    draw_lines(false);
    glEnable(0x8642);  // GL_PROGRAM_POINT_SIZE, which Qt's ES headers do not name
    for (std::size_t k = 0; k < spots_.size(); ++k) {
        program_.setUniformValue("spot", scene_.spots[k].size);
        draw_range(spots_[k].first, spots_[k].count, GL_POINTS);
    }
    // The hull's outside last, as through glass.
    program_.setUniformValue("pass", 1.0F);
    glEnable(GL_BLEND);
    blend_over();
    glDepthMask(GL_FALSE);
    draw_range(triangles_.first, triangles_.count, GL_TRIANGLES);
    glDepthMask(GL_TRUE);
    glDisable(GL_BLEND);
    program_.setUniformValue("pass", 0.0F);
    glDisable(GL_DEPTH_TEST);
    draw_lines(true);
    for (const char* name : names) program_.disableAttributeArray(name);
    buffer_.release();
    program_.release();
}

PaintedSceneView::PaintedSceneView(Camera& camera) : camera_(camera) {
    new SceneWords(*this, camera_, scene_);
}

void PaintedSceneView::show_scene(const Scene& scene) {
    scene_ = scene;
    update();
}

void PaintedSceneView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), theme().colours().paper);
    const QMatrix4x4 matrix = camera_.matrix(size());
    const Vec3 eye = camera_.eye();
    std::vector<std::pair<double, const Scene::Triangle*>> order;
    for (const auto& t : scene_.triangles)
        order.emplace_back((t.corner[0] + t.corner[1] + t.corner[2] - 3 * eye).squaredNorm(), &t);
    std::sort(order.begin(), order.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
    p.setRenderHint(QPainter::Antialiasing, false);
    for (const auto& [far, t] : order) {
        QPolygonF shape(3);
        bool seen = true;
        for (std::size_t k = 0; k < 3; ++k)
            seen = seen && projected(matrix, size(), t->corner[k], shape[static_cast<int>(k)]);
        if (!seen) continue;
        const double light = 0.62 + 0.38 * std::abs(t->normal[0].dot((eye - t->corner[0]).normalized()));
        QColor c = t->colour[0];
        const bool from_inside = t->normal[0].dot(eye - t->corner[0]) <= 0;
        QColor shade = QColor::fromRgbF(c.redF() * static_cast<float>(light), c.greenF() * static_cast<float>(light),
                                        c.blueF() * static_cast<float>(light));
        shade.setAlphaF(from_inside ? 1.0F : 0.16F);
        p.setPen(from_inside ? QPen(shade) : QPen(Qt::NoPen));
        p.setBrush(shade);
        p.drawPolygon(shape);
    }
    p.setRenderHint(QPainter::Antialiasing);
    const auto line_of = [&](const std::vector<Vec3>& points) {
        QPolygonF out;
        QPointF at;
        for (const Vec3& q : points)
            if (projected(matrix, size(), q, at)) out << at;
        return out;
    };
    for (const auto& plate : scene_.plates) {
        QPainterPath path;
        for (const auto& ring : plate.rings) path.addPolygon(line_of(ring));
        p.fillPath(path, plate.fill);
    }
    p.setBrush(Qt::NoBrush);
    for (const auto& line : scene_.lines) {
        p.setPen(QPen(line.colour, line.width));
        p.drawPolyline(line_of(line.points));
    }
    QPointF at;
    for (const auto& spots : scene_.spots) {
        const QSizeF spot(spots.size, spots.size);
        for (const Vec3& q : spots.at)
            if (projected(matrix, size(), q, at))
                p.fillRect(QRectF(at - QPointF(spots.size, spots.size) / 2, spot), spots.colour);
    }
}

}  // namespace bevelsmith::app
