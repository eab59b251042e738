// A drawing to scale on paper: zoom, pan, hover, drag. Subclasses draw in millimetres, up upwards.
#pragma once

#include <QPainter>
#include <QPushButton>
#include <QWidget>
#include <cmath>
#include <functional>
#include <vector>

#include "geometry/polygon.h"
#include "units/quantity.h"

namespace bevelsmith::app {

/// How the drawing lies before the reader: its v up, or turned to the right so that v points there (of a level plane
/// v is forward: a plan then has the bow at right and port up, as all plans here).
enum class Orientation { upright, turned };

/// The one in which pieces of this plane are shown.
inline Orientation orientation_of(const geometry::Plane& plane) {
    return std::abs(plane.normal.z()) > 0.9 * plane.normal.norm() ? Orientation::turned : Orientation::upright;
}

/// A direction of the drawing on the screen, whose y is down; and back.
inline QPointF on_screen(Orientation lies, const Vec2& d) {
    return lies == Orientation::upright ? QPointF(d.x(), -d.y()) : QPointF(d.y(), d.x());
}
inline Vec2 on_drawing(Orientation lies, const QPointF& d) {
    return lies == Orientation::upright ? Vec2(d.x(), -d.y()) : Vec2(d.y(), d.x());
}

/// A shape with its holes on the screen, by where its places are there.
QPainterPath path_on_screen(const geometry::Polygon& shape, const std::function<QPointF(const Vec2&)>& to);

/// Draws in millimetres of the drawing with pens and text in pixels.
class Pencil {
  public:
    Pencil(QPainter& painter, double scale, QPointF origin, Orientation lies)
        : painter_(painter), scale_(scale), origin_(origin), lies_(lies) {}

    QPointF at(const Vec2& mm) const { return origin_ + scale_ * way(mm); }
    /// A direction of the drawing as one of the screen, as long.
    QPointF way(const Vec2& d) const { return on_screen(lies_, d); }
    double px(double mm) const { return scale_ * mm; }
    QPainter& painter() { return painter_; }

    void pen(const QColor& colour, double width_px = 1.2, Qt::PenStyle style = Qt::SolidLine);
    void fill(const QBrush& brush) { painter_.setBrush(brush); }
    void line(const Vec2& a, const Vec2& b) { painter_.drawLine(at(a), at(b)); }
    void path(const std::vector<Vec2>& points, bool closed = false);
    void polygon(const geometry::Polygon& shape);
    QPainterPath path_of(const geometry::Polygon& shape) const;
    /// A small cross of `arm_px`.
    void cross(const Vec2& mm, double arm_px);
    /// An open diamond of half-width `half_px`: a proposal.
    void diamond(const Vec2& mm, double half_px);
    /// Text centred on a place, moved by pixels, on a patch of paper so that lines do not strike it through.
    void text(const Vec2& mm, const QString& words, QPointF shift_px = {0, 0}, int pixels = 11, bool strong = false,
              bool patch = true);
    /// A dimension line between two places with its figure, `off_px` to the side of them.
    void dimension(const Vec2& a, const Vec2& b, double off_px, const QString& figure);
    /// Hairlines in the direction of the grain, inside of `shape`.
    void grain(const geometry::Polygon& shape, double angle_rad, const QColor& colour);

  private:
    QPainter& painter_;
    double scale_;
    QPointF origin_;
    Orientation lies_;
};

class DrawingView : public QWidget {
    Q_OBJECT
  public:
    std::function<units::LengthUnit()> unit;  ///< of the scale bar; millimetres where it is not set
    explicit DrawingView(QWidget* parent = nullptr);

    /// Shows everything, and goes on doing so as the content changes, until a person zooms or pans.
    void fit();
    Vec2 to_drawing(const QPointF& widget) const;
    QPointF to_widget(const Vec2& mm) const;
    double scale() const { return scale_; }

  protected:
    /// The box that fit() shows; an empty one shows `empty_words`.
    virtual geometry::Box content() const = 0;
    virtual void draw(Pencil& pencil) = 0;
    virtual QString empty_words() const { return {}; }
    virtual Orientation lies() const { return Orientation::upright; }
    /// What stands there while there is nothing to draw.
    virtual void draw_empty(QPainter& painter);
    virtual void hover(const Vec2& mm) { (void)mm; }
    virtual void leave() {}
    /// A press with the left button; true starts a drag, false pans.
    virtual bool press(const Vec2& mm) {
        (void)mm;
        return false;
    }
    virtual void drag(const Vec2& mm) { (void)mm; }
    virtual void release(const Vec2& mm) { (void)mm; }

    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void wheelEvent(QWheelEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent*) override { fit(); }
    void leaveEvent(QEvent*) override { leave(); }
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;

    /// To be called when content() may have changed.
    void content_changed();
    /// Pixels left free round the content.
    int margin_px = 56;
    bool show_scale_bar = true;

  private:
    void zoom(double factor, const QPointF& about);
    void draw_scale_bar(QPainter& painter);

    void moved();

    QPushButton* all_;  ///< brings everything back into view
    double scale_ = 1;
    QPointF origin_;
    bool follow_ = true, dragging_ = false, panning_ = false, by_keys_ = false;
    QPointF last_;
};

}  // namespace bevelsmith::app
