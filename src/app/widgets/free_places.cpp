#include "app/widgets/free_places.h"

#include <QFontMetricsF>
#include <QLineF>
#include <algorithm>

#include "app/look/theme.h"

namespace bevelsmith::app {

QRectF box_of(const QPointF& middle, const QString& words, int pixels, bool strong) {
    constexpr double around_px = 3;
    const QFontMetricsF metrics(Theme::font(pixels, strong));
    QRectF out(0, 0, metrics.horizontalAdvance(words) + 2 * around_px, metrics.height());
    out.moveCenter(middle);
    return out;
}

bool FreePlaces::is_free(const QRectF& box) const {
    return std::none_of(taken_.begin(), taken_.end(), [&](const QRectF& t) { return t.intersects(box); });
}

std::optional<QPointF> FreePlaces::beside(const QPointF& mark, double r, const QString& words, int pixels,
                                          bool strong) {
    const double half = box_of({}, words, pixels, strong).width() / 2;
    for (QPointF shift : {QPointF(0, -r - 10), QPointF(0, r + 10), QPointF(r + 6 + half, 0),
                          QPointF(-r - 6 - half, 0), QPointF(0, -r - 26), QPointF(0, r + 26)}) {
        // Above and below, words near a side stand askew of their mark.
        if (within_ && shift.x() == 0)
            shift.rx() = std::clamp(mark.x(), within_->left() + half,
                                    std::max(within_->left() + half, within_->right() - half)) -
                         mark.x();
        const QRectF box = box_of(mark + shift, words, pixels, strong);
        if (!is_free(box) || (within_ && !within_->contains(box))) continue;
        take(box);
        return shift;
    }
    return std::nullopt;
}

std::optional<QPointF> place_within(const QPainterPath& shape, const QPointF& wanted, const QSizeF& words) {
    const auto box_at = [&](const QPointF& middle) {
        return QRectF(middle - QPointF(words.width() / 2, words.height() / 2), words);
    };
    if (shape.contains(box_at(wanted))) return wanted;
    // A grid over where its middle can be, the nearest place first.
    const QRectF room =
        shape.boundingRect().adjusted(words.width() / 2, words.height() / 2, -words.width() / 2, -words.height() / 2);
    if (room.width() < 0 || room.height() < 0) return std::nullopt;
    constexpr int steps = 12;
    std::vector<QPointF> places;
    for (int i = 0; i <= steps; ++i)
        for (int j = 0; j <= steps; ++j)
            places.push_back(room.topLeft() + QPointF(room.width() * i, room.height() * j) / steps);
    const auto off = [&](const QPointF& p) { return QLineF(p, wanted).length(); };
    std::sort(places.begin(), places.end(), [&](const QPointF& a, const QPointF& b) { return off(a) < off(b); });
    const auto found =
        std::find_if(places.begin(), places.end(), [&](const QPointF& p) { return shape.contains(box_at(p)); });
    return found == places.end() ? std::nullopt : std::optional(*found);
}

}  // namespace bevelsmith::app
