// A photo of a template: four marks to point at, the outline found, and hands to correct it.
#pragma once

#include <QImage>
#include <QWidget>
#include <set>

#include "imaging/trace.h"

namespace bevelsmith::app {

class PhotoView : public QWidget {
    Q_OBJECT
  public:
    explicit PhotoView(QWidget* parent = nullptr);

    void show_photo(const QImage& photo, std::shared_ptr<const imaging::GreyImage> grey);
    void show_points(std::vector<imaging::TracedPoint> points);
    const std::vector<Vec2>& marks() const { return marks_; }
    /// Lines that are straight in truth, each by the places pointed at.
    const std::vector<std::vector<Vec2>>& straight() const { return straight_; }
    const std::vector<imaging::TracedPoint>& points() const { return points_; }
    /// While on, places pointed at lie along an edge that is straight in truth; each time a new one is begun.
    void point_at_straight(bool on);
    void forget_straight();
    void remove_selected();
    void keep_selected();

  signals:
    void marks_changed();
    void straight_changed();
    /// Points were removed, moved or put in by hand.
    void corrected();
    /// A point was moved to this pixel, or one is wanted there (index -1).
    void placed(int index, const QPointF& pixel);

  protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override { fit(); }
    void wheelEvent(QWheelEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

  private:
    void fit();
    QPointF at(const Vec2& pixel) const { return origin_ + scale_ * QPointF(pixel.x(), pixel.y()); }
    Vec2 pixel_at(const QPointF& widget) const;
    bool in_photo(const Vec2& pixel) const;
    void add_mark(const Vec2& pixel);
    int mark_near(const QPointF& widget) const;
    int point_near(const QPointF& widget) const;
    void move_cursor(const Vec2& by);

    QImage photo_;
    std::shared_ptr<const imaging::GreyImage> grey_;
    std::vector<Vec2> marks_;
    std::vector<std::vector<Vec2>> straight_;
    std::vector<imaging::TracedPoint> points_;
    std::set<int> selected_;
    bool pointing_straight_ = false, fitted_ = true;
    double scale_ = 1;
    QPointF origin_;
    Vec2 cursor_{0, 0};  ///< for the keyboard
    bool by_keys_ = false;
    enum class Drag { none, mark, point, band, pan } drag_ = Drag::none;
    int held_ = -1;
    QPointF from_, last_;
};

}  // namespace bevelsmith::app
