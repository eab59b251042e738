// A scene drawn by OpenGL into a picture, away from any window: a window that holds an OpenGL widget is slower to
// come up.
#pragma once

#include <QImage>
#include <QOffscreenSurface>
#include <QOpenGLBuffer>
#include <QOpenGLContext>
#include <QOpenGLFunctions>
#include <QOpenGLShaderProgram>
#include <memory>
#include <vector>

#include "app/shape/scene.h"

class QOpenGLFramebufferObject;

namespace bevelsmith::app {

class GlPicture : protected QOpenGLFunctions {
  public:
    /// Null where this platform has no OpenGL.
    static std::unique_ptr<GlPicture> make();
    ~GlPicture();
    /// The scene as `camera` sees it, in pixels. `changed`: not the scene of the last call. Null where drawing fails.
    QImage draw(const Scene& scene, bool changed, const Camera& camera, const QSize& size);

  private:
    struct Vertex {
        float position[3], normal[3], colour[4];
    };
    GlPicture();
    void upload(const Scene& scene);
    void paint(const Scene& scene, const Camera& camera, const QSize& size);
    void blend_over();
    void draw_range(int first, int count, unsigned mode);
    void draw_plate(int first_ring, int rings);
    void draw_lines(const Scene& scene, bool above);

    QOffscreenSurface surface_;
    QOpenGLContext context_;
    QOpenGLShaderProgram program_;
    QOpenGLBuffer buffer_;
    std::unique_ptr<QOpenGLFramebufferObject> paper_;
    /// Vertices in the buffer: triangles first, those of bodies, then each line, each plate's rings, the spots.
    struct Range {
        int first = 0, count = 0;
    };
    Range triangles_, solids_;
    std::vector<Range> lines_, rings_, spots_;
};

}  // namespace bevelsmith::app
