// A scan seen from above and looking forward: what is kept in ink, what is left out faint; the box that crops it can
// be dragged by its sides.
#pragma once

#include <QPolygonF>
#include <QWidget>
#include <array>

#include "survey/cloud.h"

namespace bevelsmith::app {

class CloudPicture : public QWidget {
    Q_OBJECT
  public:
    explicit CloudPicture(QWidget* parent = nullptr);
    /// What is there, what of it is taken over, and what lies alone and was left out before.
    void show_clouds(const survey::Cloud& all, const survey::Cloud& kept, const survey::Cloud& lonely);
    /// Drags draw a loop around points, instead of moving the box's sides.
    void draw_loops(bool on);
    void show_box(const survey::CloudBox& box);
    /// Where a place of the boat stands in one of the pictures: 0 from above, 1 looking forward.
    QPointF place_of(const Vec3& at, int view) const;

  signals:
    void box_dragged(const bevelsmith::survey::CloudBox& box);
    void looped(const bevelsmith::survey::CloudLoop& loop);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;

  private:
    struct View {
        int across = 0, up = 1;
        double sign = 1;  ///< -1 where the axis runs to the left
        QString words;
    };
    /// A side of the box: its picture, its axis, and whether it is the high one.
    struct Side {
        int view = -1, axis = 0;
        bool high = false;
    };
    std::array<View, 2> views() const;
    QRectF room(int view) const;
    double scale(int view) const;
    double mm_at(const QPointF& at, int view, int axis) const;
    Side side_near(const QPointF& at) const;
    void finish_loop();
    survey::Cloud all_, kept_, lonely_;
    bool loops_ = false;
    int loop_view_ = -1;  ///< in which one is being drawn
    QPolygonF loop_;
    survey::CloudBox box_, extent_;
    Side held_;
};

}  // namespace bevelsmith::app
