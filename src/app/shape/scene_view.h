// The 3-D view: by OpenGL where there is one, else painted; mouse and keys are the same.
#pragma once

#include <QOpenGLBuffer>
#include <QOpenGLFunctions>
#include <QOpenGLShaderProgram>
#include <QOpenGLWidget>
#include <QPainter>

#include "app/shape/scene.h"

namespace bevelsmith::app {

/// Turns mouse and keys into camera moves for the widget it watches. Left drag orbits, right or middle drag (or
/// Shift) pans, the wheel zooms; arrows orbit, + and - zoom, 0 shows everything.
class CameraControl : public QObject {
    Q_OBJECT
  public:
    CameraControl(QWidget& view, Camera& camera);

  signals:
    void moved();
    void show_all();

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    bool key(int key);
    QWidget& view_;
    Camera& camera_;
    QPointF last_;
};

/// The boat's directions in words and the key to the colours, laid over a view as large as that view.
class SceneWords : public QWidget {
    Q_OBJECT
  public:
    SceneWords(QWidget& view, const Camera& camera, const Scene& scene);

  protected:
    void paintEvent(QPaintEvent*) override;
    bool eventFilter(QObject* view, QEvent* event) override;

  private:
    const Camera& camera_;
    const Scene& scene_;
};

class GlSceneView : public QOpenGLWidget, protected QOpenGLFunctions {
    Q_OBJECT
  public:
    explicit GlSceneView(Camera& camera);
    ~GlSceneView() override;
    void show_scene(const Scene& scene);

  protected:
    void initializeGL() override;
    void paintGL() override;

  private:
    struct Vertex {
        float position[3], normal[3], colour[4];
    };
    void upload();
    void blend_over();
    void draw_range(int first, int count, unsigned mode);
    void draw_plate(int first_ring, int rings);
    void draw_lines(bool above);

    Camera& camera_;
    Scene scene_;
    QOpenGLShaderProgram program_;
    QOpenGLBuffer buffer_;
    /// Vertices in the buffer: triangles first, then each line, each plate's rings, the spots.
    struct Range {
        int first = 0, count = 0;
    };
    Range triangles_;
    std::vector<Range> lines_, rings_, covers_;
    std::vector<Range> spots_;
    bool stale_ = true;
    SceneWords* words_;
};

/// The same picture by QPainter, far faces first, for where there is no OpenGL.
class PaintedSceneView : public QWidget {
    Q_OBJECT
  public:
    explicit PaintedSceneView(Camera& camera);
    void show_scene(const Scene& scene);

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    Camera& camera_;
    Scene scene_;
};

/// Whether a window of this platform can show OpenGL. (Qt's offscreen platform crashes on it.)
bool opengl_works();

}  // namespace bevelsmith::app
