#include "app/pieces/fitting_picture.h"

#include <algorithm>
#include <cmath>

#include "app/look/theme.h"

namespace bevelsmith::app {
namespace {

constexpr double near_px = 30;

}  // namespace

FittingPicture::FittingPicture(Document& document) : PiecePicture(document, "the piece and what was seen", 210) {}

void FittingPicture::show_fitting(Shown shown) {
    shown_ = std::move(shown);
    content_changed();
}

std::optional<Vec2> FittingPicture::on_edge(int edge, double along_mm) const {
    const auto* s = shape();
    for (std::size_t i = 0; s && i + 1 < s->marks.size(); ++i) {
        const auto &m = s->marks[i], &n = s->marks[i + 1];
        if (m.edge != edge || n.edge != edge || !m.kept || !n.kept || n.arc_mm <= m.arc_mm) continue;
        const double share = (along_mm - m.arc_mm) / (n.arc_mm - m.arc_mm);
        if (share >= 0 && share <= 1) return m.a + share * (n.a - m.a);
    }
    return std::nullopt;
}

bool FittingPicture::press(const Vec2& mm) {
    const auto* s = shape();
    if (!s) return false;
    double nearest = near_px / scale();
    const piece::EdgeMark* found = nullptr;
    for (const auto& m : s->marks)
        if (m.kept && (m.a - mm).norm() < nearest) nearest = (m.a - mm).norm(), found = &m;
    if (!found) return false;
    emit pointed(found->edge, found->arc_mm);
    return true;
}

void FittingPicture::draw(Pencil& pencil) {
    if (!shape()) return;
    draw_face(pencil);
    if (shown_.guide.empty()) draw_stations(pencil);
    else draw_guide(pencil);
    draw_readings(pencil);
}

void FittingPicture::draw_stations(Pencil& pencil) const {
    const auto& c = theme().colours();
    const Vec2 middle = geometry::centroid(shape()->face_a);
    QPointF last(-1e9, -1e9);
    double end = 0;
    for (const auto& m : shape()->marks)
        if (m.kept && m.edge == shown_.edge) end = std::max(end, m.arc_mm);
    for (int k = 0; k * shown_.step_mm <= end; ++k) {
        const auto at = on_edge(shown_.edge, k * shown_.step_mm);
        if (!at) continue;
        const QPointF out = pencil.way((*at - middle).normalized());
        pencil.pen(c.certain, 1);
        pencil.painter().drawLine(pencil.at(*at), pencil.at(*at) + 5 * out);
        const QPointF where = pencil.at(*at) + 15 * out;
        if (std::hypot(where.x() - last.x(), where.y() - last.y()) < 22) continue;
        last = where;
        pencil.pen(c.faint, 1);
        pencil.text(*at, QString::number(k + 1), 15 * out, size::text_small, false, false);
    }
    if (const auto next = on_edge(shown_.edge, shown_.next_mm)) {
        pencil.pen(c.accent, 2);
        pencil.fill(Qt::NoBrush);
        pencil.painter().drawEllipse(pencil.at(*next), 6, 6);
    }
}

void FittingPicture::draw_readings(Pencil& pencil) const {
    const auto& c = theme().colours();
    for (const auto& r : shown_.readings) {
        const auto at = on_edge(r.edge, r.along_mm);
        if (!at) continue;
        const bool fouls = r.seen == piece::Noticed::gap && r.gap_mm < 0;
        const QColor shade = r.seen != piece::Noticed::gap ? c.mind : fouls ? c.stop : c.certain;
        pencil.pen(shade, 1.6);
        pencil.fill(shade);
        if (r.seen == piece::Noticed::rocks) {
            const QPointF p = pencil.at(*at);
            pencil.painter().drawPolygon(QPolygonF({p + QPointF(0, -6), p + QPointF(6, 5), p + QPointF(-6, 5)}));
        } else {
            pencil.painter().drawEllipse(pencil.at(*at), 3.5, 3.5);
        }
    }
}

/// How much comes off, or is missing, as bars square to the edge, many times larger than they are.
void FittingPicture::draw_guide(Pencil& pencil) const {
    const auto& c = theme().colours();
    double most = 1;
    for (const auto& s : shown_.guide) most = std::max(most, std::abs(s.off_a_mm));
    constexpr double longest_px = 22;
    for (const auto& s : shown_.guide) {
        const QPointF out = pencil.way(s.out);
        const bool off = s.off_a_mm > 0;
        pencil.pen(off ? c.accent : c.stop, 3);
        pencil.painter().drawLine(pencil.at(s.at), pencil.at(s.at) - longest_px * s.off_a_mm / most * out);
    }
    // Numbered as in the table; numbers keep clear of each other.
    QPointF last(-1e9, -1e9);
    const Vec2 middle = geometry::centroid(shape()->face_a);
    for (const auto& s : shown_.guide) {
        // Into the piece, and away from its corners.
        const QPointF where =
            pencil.at(s.at) - (longest_px + 12) * pencil.way((s.out + (s.at - middle).normalized()).normalized());
        if (std::hypot(where.x() - last.x(), where.y() - last.y()) < 24) continue;
        last = where;
        pencil.pen(c.faint, 1);
        pencil.text(s.at, QString::number(s.number), where - pencil.at(s.at), size::text_small, false, false);
    }
}

}  // namespace bevelsmith::app
