// Bars as they are cut, one under another, each length with its ends as they lean.
#pragma once

#include <QWidget>

#include "app/document/document.h"

namespace bevelsmith::app {

class BarPicture : public QWidget {
    Q_OBJECT
  public:
    explicit BarPicture(Document& document);
    QSize sizeHint() const override;

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    Document& document_;
};

}  // namespace bevelsmith::app
