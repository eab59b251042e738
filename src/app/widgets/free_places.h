// Where words can stand on a drawing so that they cover no mark and no other words.
#pragma once

#include <QPainterPath>
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
    bool is_free(const QRectF& box) const;
    /// Words stay within this from now on.
    void keep_within(const QRectF& area) { within_ = area; }
    /// A place for words above, below or beside a mark of this radius, as a shift of their middle from the mark's
    /// (px); it is taken from then on. Empty where all of them are taken.
    std::optional<QPointF> beside(const QPointF& mark, double radius_px, const QString& words, int pixels,
                                  bool strong);

  private:
    std::vector<QRectF> taken_;
    std::optional<QRectF> within_;
};

/// Where the middle of words of this size stands so that they lie within a shape on the screen: the place nearest
/// to `wanted`. Empty where the shape has no room for them.
std::optional<QPointF> place_within(const QPainterPath& shape, const QPointF& wanted, const QSizeF& words);

/// The box of words whose middle stands there.
QRectF box_of(const QPointF& middle, const QString& words, int pixels, bool strong);

}  // namespace bevelsmith::app
