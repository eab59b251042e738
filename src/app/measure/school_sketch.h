// How each school of templating is held: a small drawing of the instrument, and which number is which.
#pragma once

#include <QWidget>

#include "survey/reading.h"

namespace bevelsmith::app {

/// Draws `school` into `box`: the hull in slate, what is held in wood, the numbers that are typed in words.
void draw_school(QPainter& painter, const QRectF& box, survey::School school);

class SchoolSketch : public QWidget {
    Q_OBJECT
  public:
    explicit SchoolSketch(QWidget* parent = nullptr);
    void show_school(survey::School school);
    survey::School school() const { return school_; }

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    survey::School school_ = survey::School::ordinates;
};

}  // namespace bevelsmith::app
