// A scan seen from above and looking forward: what is kept in ink, what is left out faint; the box that crops it can
// be dragged by its sides, loops drawn around points, marks picked. The wheel comes nearer about the pointer.
#pragma once

#include <QPolygonF>
#include <QWidget>
#include <array>
#include <optional>

#include "survey/cloud.h"
#include "survey/own_frame.h"

namespace bevelsmith::app {

class CloudPicture : public QWidget {
    Q_OBJECT
  public:
    explicit CloudPicture(QWidget* parent = nullptr);
    /// What is there, what of it is taken over, and what lies alone and was left out before.
    void show_clouds(const survey::Cloud& all, const survey::Cloud& kept, const survey::Cloud& lonely);
    /// Drags draw a loop around points, instead of moving the box's sides.
    void draw_loops(bool on);
    /// A click takes the point under it that is nearest to the eye.
    void pick_points(bool on);
    void show_marks(std::vector<survey::SeenMark> marks);
    /// The axes are not the boat's.
    void in_own_frame(bool own);
    void show_box(const survey::CloudBox& box);
    /// Where a place of the boat stands in one of the pictures: 0 from above, 1 looking forward.
    QPointF place_of(const Vec3& at, int view) const;

  signals:
    void picked(const bevelsmith::Vec3& at);
    void box_dragged(const bevelsmith::survey::CloudBox& box);
    void looped(const bevelsmith::survey::CloudLoop& loop);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;

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
    Vec3 middle_of(int view) const;
    void draw_marks(QPainter& p, int view) const;
    double mm_at(const QPointF& at, int view, int axis) const;
    Side side_near(const QPointF& at) const;
    void finish_loop();
    /// What is drawn of a cloud: what lies in either picture, and not too much of it.
    survey::Cloud in_sight(const survey::Cloud& cloud) const;
    void choose_dots();
    std::optional<Vec3> point_at(const QPointF& at, int view) const;
    /// How near a picture has come, and which place is then in its middle.
    struct Near {
        double factor = 1;
        std::optional<Vec3> middle;
    };
    std::array<Near, 2> near_;
    std::vector<survey::SeenMark> marks_;
    bool picks_ = false, own_ = false;
    survey::Cloud whole_, whole_kept_, whole_lonely_;
    survey::Cloud all_, kept_, lonely_;  ///< as drawn
    bool loops_ = false;
    int loop_view_ = -1;  ///< in which one is being drawn
    QPolygonF loop_;
    survey::CloudBox box_, extent_;
    Side held_;
};

}  // namespace bevelsmith::app
