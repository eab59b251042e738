// A scan seen from above and looking forward: what is kept in ink, what is left out faint; the box that crops it can
// be dragged by its sides.
#pragma once

#include <QWidget>
#include <array>

#include "survey/cloud.h"

namespace bevelsmith::app {

class CloudPicture : public QWidget {
    Q_OBJECT
  public:
    explicit CloudPicture(QWidget* parent = nullptr);
    void show_clouds(const survey::Cloud& all, const survey::Cloud& kept);
    void show_box(const survey::CloudBox& box);
    /// Where a place of the boat stands in one of the pictures: 0 from above, 1 looking forward.
    QPointF place_of(const Vec3& at, int view) const;

  signals:
    void box_dragged(const bevelsmith::survey::CloudBox& box);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent*) override { held_ = {}; }

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
    survey::Cloud all_, kept_;
    survey::CloudBox box_, extent_;
    Side held_;
};

}  // namespace bevelsmith::app
