// The drawing and the ribbon of Measure: readings with the curve they make, and how each one fits.
#pragma once

#include "app/measure/set_picture.h"
#include "app/widgets/drawing_view.h"

namespace bevelsmith::app {

/// What Measure's places share: the set shown and the reading pointed at.
class MeasureState : public QObject {
    Q_OBJECT
  public:
    explicit MeasureState(Document& document);
    Document& document;
    const SetPicture& picture() const { return picture_; }
    const job::JobReadingSet* set() const;
    int set_index() const { return set_; }
    int reading() const { return reading_; }
    void show_set(int index);
    void point_at(int reading);

  signals:
    void changed();  ///< set, readings or residuals
    void pointed(int reading);

  private:
    void rebuild();
    int set_ = 0, reading_ = -1;
    SetPicture picture_;
};

class MeasureDrawing : public DrawingView {
    Q_OBJECT
  public:
    explicit MeasureDrawing(MeasureState& state);

  signals:
    /// A loop was drawn, with Control held, around these readings.
    void looped(const std::vector<int>& readings);

  protected:
    bool press(const Vec2& mm) override;
    void drag(const Vec2& mm) override;
    void release(const Vec2& mm) override;
    geometry::Box content() const override;
    void draw(Pencil& pencil) override;
    QString empty_words() const override;
    void hover(const Vec2& mm) override;
    void leave() override { state_.point_at(-1); }

  private:
    static void draw_aid(Pencil& pencil, const Aid& aid);
    void draw_aids(Pencil& pencil);
    void name_aids(Pencil& pencil);
    void draw_levels(Pencil& pencil);
    void draw_empty(QPainter& painter) override;
    void draw_held(QPainter& painter);
    void draw_curves(Pencil& pencil);
    void draw_readings(Pencil& pencil);
    void draw_next(Pencil& pencil);
    MeasureState& state_;
    geometry::Ring loop_;  ///< while it is drawn
};

/// Readings in their order with residuals as bars against the band they should keep to.
class MeasureRibbon : public QWidget {
    Q_OBJECT
  public:
    explicit MeasureRibbon(MeasureState& state);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent*) override { state_.point_at(-1); }

  private:
    double x_of(int reading) const;
    void draw_histogram(QPainter& p);
    MeasureState& state_;
};

}  // namespace bevelsmith::app
