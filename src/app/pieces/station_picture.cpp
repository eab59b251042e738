#include "app/pieces/station_picture.h"

#include <algorithm>
#include <cmath>

#include "app/look/theme.h"

namespace bevelsmith::app {

void StationPicture::draw(Pencil& pencil) {
    const auto* s = shape();
    if (!s || !at_) return;
    draw_face(pencil);
    const auto& c = theme().colours();
    const Vec2 middle = geometry::centroid(s->face_a);
    std::vector<QPointF> taken;
    // Corners first: of numbers that would lie on each other theirs stand.
    for (const bool corners : {true, false})
        for (const auto& station : at_->stations) {
            if (station.is_corner != corners) continue;
            const Vec2 at = s->frame.to_plane(station.a);
            const QPointF out = pencil.way((at - middle).normalized()), where = pencil.at(at) + 14 * out;
            pencil.pen(corners ? c.accent : c.certain, corners ? 2 : 1);
            pencil.fill(Qt::NoBrush);
            pencil.painter().drawEllipse(pencil.at(at), corners ? 4 : 2.5, corners ? 4 : 2.5);
            const bool near = std::any_of(taken.begin(), taken.end(), [&](const QPointF& other) {
                return std::hypot(where.x() - other.x(), where.y() - other.y()) < 18;
            });
            if (near) continue;
            taken.push_back(where);
            pencil.pen(corners ? c.ink : c.faint, 1);
            pencil.text(at, QString::number(station.number), 14 * out, size::text_small, false, false);
        }
}

}  // namespace bevelsmith::app
