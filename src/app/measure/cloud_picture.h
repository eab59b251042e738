// A scan seen from above and from ahead: what is kept in ink, what is left out faint.
#pragma once

#include <QWidget>

#include "survey/cloud.h"

namespace bevelsmith::app {

class CloudPicture : public QWidget {
    Q_OBJECT
  public:
    explicit CloudPicture(QWidget* parent = nullptr);
    void show_clouds(const survey::Cloud& all, const survey::Cloud& kept);

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    void draw(QPainter& painter, const QRectF& place, int across, int up, const QString& words) const;
    survey::Cloud all_, kept_;
};

}  // namespace bevelsmith::app
