#include "app/widgets/free_places.h"

#include <QFontMetricsF>
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

std::optional<QPointF> FreePlaces::beside(const QPointF& mark, double r, const QString& words, int pixels,
                                          bool strong) {
    const double half = box_of({}, words, pixels, strong).width() / 2;
    for (const QPointF& shift : {QPointF(0, -r - 10), QPointF(0, r + 10), QPointF(r + 6 + half, 0),
                                 QPointF(-r - 6 - half, 0), QPointF(0, -r - 26), QPointF(0, r + 26)}) {
        const QRectF box = box_of(mark + shift, words, pixels, strong);
        if (std::any_of(taken_.begin(), taken_.end(), [&](const QRectF& t) { return t.intersects(box); })) continue;
        take(box);
        return shift;
    }
    return std::nullopt;
}

}  // namespace bevelsmith::app
