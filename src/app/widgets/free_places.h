// Where words can stand on a drawing so that they cover no mark and no other words.
#pragma once

#include <QPointF>
#include <QRectF>
#include <QString>
#include <optional>
#include <vector>

namespace bevelsmith::app {

class FreePlaces {
  public:
    /// Something stands there.
    void take(const QRectF& box) { taken_.push_back(box); }
    /// A place for words above, below or beside a mark of this radius, as a shift of their middle from the mark's
    /// (px); it is taken from then on. Empty where all of them are taken.
    std::optional<QPointF> beside(const QPointF& mark, double radius_px, const QString& words, int pixels,
                                  bool strong);

  private:
    std::vector<QRectF> taken_;
};

/// The box of words whose middle stands there.
QRectF box_of(const QPointF& middle, const QString& words, int pixels, bool strong);

}  // namespace bevelsmith::app
