// A job's strokes in a small box.
#pragma once

#include <QWidget>
#include <vector>

#include "geometry/vec.h"

namespace bevelsmith::app {

class Silhouette : public QWidget {
    Q_OBJECT
  public:
    explicit Silhouette(std::vector<std::vector<Vec2>> strokes, QSize size = {56, 44});

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    std::vector<std::vector<Vec2>> strokes_;  ///< in a box of 1 x 1, up upwards
};

}  // namespace bevelsmith::app
