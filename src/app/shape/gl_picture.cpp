#include "app/shape/gl_picture.h"

#include <QGuiApplication>
#include <QOpenGLFramebufferObject>

#include "app/look/theme.h"

namespace bevelsmith::app {
namespace {

QVector3D gl(const Vec3& p) {
    return {static_cast<float>(p.x()), static_cast<float>(p.y()), static_cast<float>(p.z())};
}

constexpr const char* vertex_shader = R"(
attribute vec3 position; attribute vec3 normal; attribute vec4 colour;
uniform mat4 matrix; uniform vec3 eye; uniform float spot;
varying vec4 shade; varying float inside;
void main() {
    gl_Position = matrix * vec4(position, 1.0);
    gl_PointSize = spot;
    float light = 1.0;
    inside = 1.0;
    if (dot(normal, normal) > 0.5) {
        vec3 view = normalize(eye - position);
        // Seen from inside the boat when the outward normal points away from the eye.
        inside = -dot(normal, view);
        // Either side is lit as the one that is seen; a lamp over the port quarter tells faces of a corner apart.
        vec3 seen = dot(normal, view) < 0.0 ? -normalize(normal) : normalize(normal);
        light = 0.50 + 0.22 * dot(seen, view) + 0.34 * max(0.0, dot(seen, normalize(vec3(-0.45, 0.35, 0.82))));
    }
    shade = vec4(colour.rgb * light, colour.a);
})";
constexpr const char* fragment_shader = R"(
varying vec4 shade; varying float inside;
uniform float pass;
void main() {
    if (pass < 0.5 && inside < 0.0) discard;
    if (pass > 0.5 && pass < 1.5 && inside >= 0.0) discard;
    gl_FragColor = pass > 0.5 && pass < 1.5 ? vec4(shade.rgb, 0.16) : shade;
})";
/// What a pass draws: surfaces from inside, surfaces from outside as glass, whatever is solid or flat.
constexpr float from_inside = 0, from_outside = 1, all_of_it = 2;

}  // namespace

std::unique_ptr<GlPicture> GlPicture::make() {
    if (QGuiApplication::platformName() == "offscreen" || QGuiApplication::platformName() == "minimal")
        return nullptr;
    std::unique_ptr<GlPicture> out(new GlPicture);
    out->surface_.create();
    if (!out->surface_.isValid() || !out->context_.create() || !out->context_.makeCurrent(&out->surface_))
        return nullptr;
    out->initializeOpenGLFunctions();
    out->program_.addShaderFromSourceCode(QOpenGLShader::Vertex, vertex_shader);
    out->program_.addShaderFromSourceCode(QOpenGLShader::Fragment, fragment_shader);
    if (!out->program_.link() || !out->buffer_.create()) return nullptr;
    return out;
}

GlPicture::GlPicture() : buffer_(QOpenGLBuffer::VertexBuffer) {}

GlPicture::~GlPicture() {
    if (!context_.isValid() || !context_.makeCurrent(&surface_)) return;
    buffer_.destroy();
    program_.removeAllShaders();
    paper_.reset();
    context_.doneCurrent();
}

QImage GlPicture::draw(const Scene& scene, bool changed, const Camera& camera, const QSize& size) {
    if (size.isEmpty() || !context_.makeCurrent(&surface_)) return {};
    if (!paper_ || paper_->size() != size) {
        QOpenGLFramebufferObjectFormat format;
        format.setAttachment(QOpenGLFramebufferObject::CombinedDepthStencil);
        format.setSamples(4);
        paper_ = std::make_unique<QOpenGLFramebufferObject>(size, format);
    }
    if (!paper_->bind()) return {};
    if (changed) upload(scene);
    glViewport(0, 0, size.width(), size.height());
    paint(scene, camera, size);
    QImage out = paper_->toImage();
    paper_->release();
    return out;
}

void GlPicture::upload(const Scene& scene) {
    std::vector<Vertex> out;
    const auto add = [&](const Vec3& p, const Vec3& n, const QColor& c) {
        out.push_back({{static_cast<float>(p.x()), static_cast<float>(p.y()), static_cast<float>(p.z())},
                       {static_cast<float>(n.x()), static_cast<float>(n.y()), static_cast<float>(n.z())},
                       {c.redF(), c.greenF(), c.blueF(), c.alphaF()}});
    };
    const auto range = [&](std::size_t first) {
        return Range{static_cast<int>(first), static_cast<int>(out.size() - first)};
    };
    for (const auto& t : scene.triangles)
        for (std::size_t k = 0; k < 3; ++k) add(t.corner[k], t.normal[k], t.colour[k]);
    triangles_ = range(0);
    const std::size_t first_solid = out.size();
    for (const auto& t : scene.solids)
        for (std::size_t k = 0; k < 3; ++k) add(t.corner[k], t.normal[k], t.colour[k]);
    solids_ = range(first_solid);
    lines_.clear(), rings_.clear(), spots_.clear();
    for (const auto& line : scene.lines) {
        const std::size_t first = out.size();
        for (std::size_t k = 0; k < line.points.size(); ++k)
            add(line.points[k], line.normals.empty() ? Vec3(Vec3::Zero()) : line.normals[k], line.colour);
        lines_.push_back(range(first));
    }
    for (const auto& plate : scene.plates) {
        for (const auto& ring : plate.rings) {
            const std::size_t first = out.size();
            for (const Vec3& p : ring) add(p, plate.normal, plate.fill);
            rings_.push_back(range(first));
        }
    }
    for (const auto& spots : scene.spots) {
        const std::size_t first = out.size();
        for (const Vec3& p : spots.at) add(p, Vec3::Zero(), spots.colour);
        spots_.push_back(range(first));
    }
    buffer_.bind();
    buffer_.allocate(out.data(), static_cast<int>(out.size() * sizeof(Vertex)));
    buffer_.release();
}

/// The picture's own alpha stays whole, or the paper would shine through it.
void GlPicture::blend_over() {
    glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ONE, GL_ONE_MINUS_SRC_ALPHA);
}

void GlPicture::draw_range(int first, int count, unsigned mode) {
    glDrawArrays(mode, first, count);
}

/// Fans of all rings flip the stencil; where it is odd lies the plate. Drawing takes the marks away again.
void GlPicture::draw_plate(int first_ring, int rings) {
    glEnable(GL_STENCIL_TEST);
    glColorMask(GL_FALSE, GL_FALSE, GL_FALSE, GL_FALSE);
    glDepthMask(GL_FALSE);
    glStencilFunc(GL_ALWAYS, 0, 1);
    glStencilOp(GL_KEEP, GL_INVERT, GL_INVERT);
    for (int r = first_ring; r < first_ring + rings; ++r)
        draw_range(rings_[static_cast<std::size_t>(r)].first, rings_[static_cast<std::size_t>(r)].count,
                   GL_TRIANGLE_FAN);
    glColorMask(GL_TRUE, GL_TRUE, GL_TRUE, GL_TRUE);
    glDepthMask(GL_TRUE);
    glStencilFunc(GL_EQUAL, 1, 1);
    glStencilOp(GL_ZERO, GL_ZERO, GL_ZERO);
    draw_range(rings_[static_cast<std::size_t>(first_ring)].first, rings_[static_cast<std::size_t>(first_ring)].count,
               GL_TRIANGLE_FAN);
    glDisable(GL_STENCIL_TEST);
}

void GlPicture::draw_lines(const Scene& scene, bool above) {
    for (std::size_t k = 0; k < lines_.size(); ++k) {
        if (scene.lines[k].above != above) continue;
        program_.setUniformValue("pass", scene.lines[k].normals.empty() ? all_of_it : from_inside);
        glLineWidth(scene.lines[k].width);
        draw_range(lines_[k].first, lines_[k].count, GL_LINE_STRIP);
    }
    program_.setUniformValue("pass", all_of_it);
}

void GlPicture::paint(const Scene& scene, const Camera& camera, const QSize& size) {
    const QColor paper = theme().colours().paper;
    glClearColor(paper.redF(), paper.greenF(), paper.blueF(), 1);
    glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT | GL_STENCIL_BUFFER_BIT);
    glEnable(GL_DEPTH_TEST);
    glDepthFunc(GL_LEQUAL);
    program_.bind();
    program_.setUniformValue("matrix", camera.matrix(size));
    program_.setUniformValue("eye", gl(camera.eye()));
    program_.setUniformValue("spot", 4.0F);
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
    program_.setUniformValue("pass", from_inside);
    draw_range(triangles_.first, triangles_.count, GL_TRIANGLES);
    program_.setUniformValue("pass", all_of_it);
    draw_range(solids_.first, solids_.count, GL_TRIANGLES);
    int ring = 0;
    for (const auto& plate : scene.plates) {
        draw_plate(ring, static_cast<int>(plate.rings.size()));
        ring += static_cast<int>(plate.rings.size());
    }
    glDisable(GL_POLYGON_OFFSET_FILL);
    draw_lines(scene, false);
    glEnable(0x8642);  // GL_PROGRAM_POINT_SIZE, which Qt's ES headers do not name
    for (std::size_t k = 0; k < spots_.size(); ++k) {
        program_.setUniformValue("spot", scene.spots[k].size);
        draw_range(spots_[k].first, spots_[k].count, GL_POINTS);
    }
    if (!scene.near_side_cut_away) {
        // The hull's outside last, as through glass.
        program_.setUniformValue("pass", from_outside);
        glEnable(GL_BLEND);
        blend_over();
        glDepthMask(GL_FALSE);
        draw_range(triangles_.first, triangles_.count, GL_TRIANGLES);
        glDepthMask(GL_TRUE);
        glDisable(GL_BLEND);
        program_.setUniformValue("pass", all_of_it);
    }
    glDisable(GL_DEPTH_TEST);
    draw_lines(scene, true);
    for (const char* name : names) program_.disableAttributeArray(name);
    buffer_.release();
    program_.release();
}

}  // namespace bevelsmith::app
