// The 3-D view: by OpenGL where there is one, else painted; mouse and keys are the same.
#pragma once

#include <QPainter>
#include <QWidget>
#include <memory>

#include "app/shape/gl_picture.h"
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

/// The scene as the camera sees it, with the boat's directions in words and the key to the colours.
class SceneView : public QWidget {
    Q_OBJECT
  public:
    /// By OpenGL where there is one, else by QPainter.
    enum class Draws { by_opengl, by_painter };
    explicit SceneView(Camera& camera, Draws draws = Draws::by_opengl);
    ~SceneView() override;
    void show_scene(const Scene& scene);
    bool by_opengl() const { return gl_ != nullptr; }
    /// What is seen, without words, in so many pixels.
    QImage picture(const QSize& pixels) const;

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    void paint_scene(QPainter& painter, const QSizeF& view) const;
    void draw_words(QPainter& painter) const;

    Camera& camera_;
    Draws draws_;
    Scene scene_;
    std::unique_ptr<GlPicture> gl_;
    bool stale_ = true;
};

}  // namespace bevelsmith::app
