#include "app/widgets/silhouette.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <utility>

#include "app/look/theme.h"

namespace bevelsmith::app {

Silhouette::Silhouette(std::vector<std::vector<Vec2>> strokes, QSize size) : strokes_(std::move(strokes)) {
    setFixedSize(size);
    setAccessibleName("silhouette");
}

void Silhouette::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto& c = theme().colours();
    p.setPen(QPen(c.line, 1));
    p.setBrush(c.paper);
    p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), size::unit, size::unit);
    if (strokes_.empty()) {
        p.setPen(c.faint);
        p.setFont(Theme::font(size::text_small));
        return p.drawText(rect(), Qt::AlignCenter, "no\nreadings");
    }
    Vec2 most(0, 0);
    for (const auto& stroke : strokes_)
        for (const Vec2& q : stroke) most = most.cwiseMax(q);
    const QRectF room = QRectF(rect()).adjusted(5, 5, -5, -5);
    const double scale = std::min(room.width() / std::max(most.x(), 1e-6), room.height() / std::max(most.y(), 1e-6));
    const auto at = [&](const Vec2& q) {
        return QPointF(room.center().x() + (q.x() - most.x() / 2) * scale,
                       room.center().y() - (q.y() - most.y() / 2) * scale);
    };
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(c.certain, 1.2));
    for (const auto& stroke : strokes_) {
        if (stroke.size() < 3) {
            for (const Vec2& q : stroke) p.drawEllipse(at(q), 1, 1);
            continue;
        }
        QPainterPath path(at(stroke.front()));
        for (const Vec2& q : stroke) path.lineTo(at(q));
        p.drawPath(path);
    }
}

}  // namespace bevelsmith::app
