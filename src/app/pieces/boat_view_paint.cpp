#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/look/theme.h"
#include "app/pieces/boat_view.h"

namespace bevelsmith::app {
namespace {

using exchange::Cut;

constexpr Cut all_cuts[] = {Cut::section, Cut::profile, Cut::plan};
constexpr double grip_px = 5;
/// The close-up is this much larger than the cuts.
constexpr double closer = 7;

QString name_of(Cut cut) {
    return cut == Cut::section ? "section" : cut == Cut::profile ? "profile" : "plan";
}

QPainterPath path_of(const geometry::Polygon& shape, const std::function<QPointF(const Vec2&)>& to) {
    QPainterPath out;
    const auto ring = [&](const geometry::Ring& r) {
        for (std::size_t i = 0; i < r.size(); ++i) i ? out.lineTo(to(r[i])) : out.moveTo(to(r[i]));
        out.closeSubpath();
    };
    ring(shape.outer);
    for (const auto& hole : shape.holes) ring(hole);
    return out;
}

}  // namespace

void BoatView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(rect(), theme().colours().paper);
    if (box_.empty) return draw_empty(p);
    for (Cut cut : shown()) {
        p.save();
        p.setClipRect(room(cut).adjusted(-between_px / 2 + 1, -2, between_px / 2 - 1, between_px / 2 - 1));
        draw_cut(p, cut);
        p.restore();
        draw_caption(p, cut);
    }
    if (!alone_) draw_close_up(p);
    draw_snap(p);
    if (hasFocus()) {
        p.setPen(QPen(theme().colours().line, 1));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5));
    }
}

void BoatView::draw_empty(QPainter& p) {
    p.setPen(theme().colours().faint);
    p.setFont(Theme::font(15));
    p.drawText(rect().adjusted(80, 40, -80, -40), Qt::AlignCenter | Qt::TextWordWrap,
               "Here the boat will stand in section, profile and plan, with everything that is built into her.\n\n"
               "Measure first: it is drawn from the readings.");
}

void BoatView::draw_cut(QPainter& p, Cut cut) {
    draw_content(
        p, cut, [this, cut](const Vec2& mm) { return on_paper(cut, mm); }, scale_);
    if (!alone_) draw_lines(p, cut);
}

void BoatView::draw_content(QPainter& p, Cut cut, const std::function<QPointF(const Vec2&)>& to, double scale) {
    const auto& c = theme().colours();
    const auto computed = state_.document.computed();
    const auto& now = cuts_[index(cut)];
    const std::string selected = state_.document.selected_piece().toStdString();
    const auto id_of = [&](const exchange::CutPiece& piece) { return computed->results.pieces[piece.piece].id; };
    QColor fine = c.faint;
    fine.setAlphaF(0.45F);
    p.setBrush(Qt::NoBrush);
    for (const auto& piece : now.pieces) {
        const bool chosen = id_of(piece) == selected;
        p.setPen(QPen(chosen ? c.accent : fine, chosen ? 1.2 : 0.7));
        for (const auto& ring : piece.beyond) p.drawPath(path_of({ring, {}}, to));
    }
    const auto frame = exchange::frame_of(cut);
    for (const auto& hull : now.hull)
        for (const auto& run : hull.runs)
            for (std::size_t i = 1; i < run.points.size(); ++i) {
                const auto& point = run.points[i];
                const QLineF line(to(frame.to_drawing(run.points[i - 1].a)), to(frame.to_drawing(point.a)));
                if (point.in_survey) {
                    p.setPen(QPen(c.halo, std::max(3.0, 3.92 * point.sigma_mm * scale), Qt::SolidLine, Qt::FlatCap));
                    p.drawLine(line);
                }
                // What is not known fades out.
                QColor ink = c.certain;
                ink.setAlphaF(point.in_survey ? 1.0F : 0.22F);
                p.setPen(QPen(ink, point.in_survey ? 1.8 : 1.2));
                p.drawLine(line);
            }
    for (const auto& piece : now.pieces) {
        const bool chosen = id_of(piece) == selected, pointed = id_of(piece) == pointed_;
        p.setPen(QPen(chosen ? c.accent : c.ink, chosen || pointed ? 1.6 : 1));
        p.setBrush(c.wood);
        for (const auto& wood : piece.wood) p.drawPath(path_of(wood, to));
    }
}

/// The other two cuts, in copper, with a grip at the end.
void BoatView::draw_lines(QPainter& p, Cut cut) {
    const auto& c = theme().colours();
    const QRectF space = room(cut).adjusted(-8, 0, 8, 8);
    for (Cut other : all_cuts) {
        if (other == cut) continue;
        const QPointF at = to_widget(cut, axis_of(other) * at_mm(other));
        const bool upright = std::abs(axis_of(other).dot(exchange::frame_of(cut).right)) > 0.5;
        QColor thin = c.accent;
        thin.setAlphaF(other == lively_ ? 0.9F : 0.5F);
        p.setPen(QPen(thin, 1));
        const QLineF line = upright ? QLineF(at.x(), space.top(), at.x(), space.bottom())
                                    : QLineF(space.left(), at.y(), space.right(), at.y());
        p.drawLine(line);
        p.setPen(QPen(c.accent, 1.4));
        p.setBrush(other == lively_ ? c.accent : c.paper);
        p.drawEllipse(line.p2(), grip_px, grip_px);
    }
}

void BoatView::draw_caption(QPainter& p, Cut cut) {
    const char* way = cut == Cut::section   ? "fwd, looking forward"
                      : cut == Cut::profile ? "to port, from starboard"
                                            : "up, from above";
    p.setPen(theme().colours().faint);
    p.setFont(Theme::font(size::text_small));
    const QRectF space = room(cut);
    p.drawText(QRectF(space.left(), space.top() - 20, space.width(), 16), Qt::AlignLeft,
               QString("%1 at %2 %3").arg(name_of(cut), state_.document.length(at_mm(cut)), way));
}

/// The place pointed at, or the chosen piece's first place, larger: what is what with its leader line.
void BoatView::draw_close_up(QPainter& p) {
    const auto& c = theme().colours();
    const QRectF space = close_up_room();
    CloseUp at;
    if (close_up_) {
        at = *close_up_;
    } else {
        const std::string selected = state_.document.selected_piece().toStdString();
        at.at = exchange::frame_of(Cut::section).to_drawing((box_.low + box_.high) / 2);
        // Where it comes nearest to the hull.
        double nearest = 1e18;
        const auto frame = exchange::frame_of(Cut::section);
        for (const auto& piece : cuts_[index(Cut::section)].pieces) {
            if (state_.document.computed()->results.pieces[piece.piece].id != selected) continue;
            for (const auto& wood : piece.wood)
                for (const Vec2& q : wood.outer)
                    for (const auto& hull : cuts_[index(Cut::section)].hull)
                        for (const auto& run : hull.runs)
                            for (const auto& point : run.points)
                                if (const double off = (frame.to_drawing(point.a) - q).norm(); off < nearest)
                                    nearest = off, at.at = q;
        }
    }
    const double scale = scale_ * closer;
    const auto to = [&](const Vec2& mm) {
        const Vec2 off = mm - at.at;
        return space.center() + scale * QPointF(off.x(), -off.y());
    };
    p.save();
    p.setClipRect(space);
    draw_content(p, at.cut, to, scale);
    p.restore();
    // Names at the right, each with a line to its wood.
    struct Label {
        QPointF at;
        QString words;
    };
    std::vector<Label> labels;
    const auto computed = state_.document.computed();
    const auto& now = cuts_[index(at.cut)];
    for (const auto& piece : now.pieces)
        for (const auto& wood : piece.wood) {
            QPolygonF drawn;
            for (const Vec2& q : wood.outer) drawn << to(q);
            const QPolygonF seen = drawn.intersected(QPolygonF(space));
            if (seen.isEmpty()) continue;
            const QRectF box = seen.boundingRect();
            const auto& spec = computed->job.pieces[piece.piece];
            const auto* shape = computed->results.pieces[piece.piece].shape();
            labels.push_back({box.center(), QString("%1, %2").arg(QString::fromStdString(spec.name),
                                                                  state_.document.length(shape->thickness_mm))});
            break;
        }
    for (const auto& hull : now.hull)
        for (const auto& run : hull.runs) {
            const hull::SectionPoint* nearest = nullptr;
            const auto frame = exchange::frame_of(at.cut);
            for (const auto& point : run.points)
                if (!nearest ||
                    (frame.to_drawing(point.a) - at.at).norm() < (frame.to_drawing(nearest->a) - at.at).norm())
                    nearest = &point;
            if (nearest && space.contains(to(frame.to_drawing(nearest->a))))
                labels.push_back({to(frame.to_drawing(nearest->a)),
                                  nearest->in_survey ? "hull, known to " + state_.document.band(nearest->sigma_mm)
                                                     : QString("hull, beyond the readings")});
        }
    std::sort(labels.begin(), labels.end(), [](const Label& a, const Label& b) { return a.at.y() < b.at.y(); });
    p.setFont(Theme::font(size::text_small));
    constexpr std::size_t most = 7;
    if (labels.size() > most) labels.resize(most);
    double y = space.top() + 12;
    for (const Label& label : labels) {
        const QFontMetricsF metrics(p.font());
        const QString words = metrics.elidedText(label.words, Qt::ElideRight, space.width() * 0.42);
        const double wide = metrics.horizontalAdvance(words);
        y = std::max(y, std::min(label.at.y(), space.bottom() - 16.0 * static_cast<double>(labels.size())));
        const QRectF box(space.right() - wide - 2, y - 8, wide + 2, 16);
        p.setPen(QPen(c.faint, 0.8));
        p.drawLine(QPointF(box.left() - 3, y), label.at);
        p.setBrush(c.ink);
        p.setPen(Qt::NoPen);
        p.drawEllipse(label.at, 1.8, 1.8);
        p.fillRect(box.adjusted(-2, 0, 2, 0), c.paper);
        p.setPen(c.ink);
        p.drawText(box, Qt::AlignRight | Qt::AlignVCenter, words);
        y += 18;
    }
    p.setPen(c.faint);
    p.drawText(QRectF(space.left(), space.top() - 20, space.width(), 16), Qt::AlignLeft,
               QString("close-up of the %1, %2 times as large").arg(name_of(at.cut)).arg(closer));
}

void BoatView::draw_snap(QPainter& p) {
    if (snapped_to_.isEmpty()) return;
    const auto& c = theme().colours();
    p.setFont(Theme::font(size::text_small, true));
    QRectF box = QFontMetricsF(p.font()).boundingRect(snapped_to_);
    box.moveCenter(last_ + QPointF(0, -22));
    box.moveLeft(std::clamp(box.left(), 4.0, width() - box.width() - 4));
    p.fillRect(box.adjusted(-3, -1, 3, 1), c.paper);
    p.setPen(c.accent);
    p.drawText(box.adjusted(-10, -2, 10, 2), Qt::AlignCenter, snapped_to_);
}

}  // namespace bevelsmith::app
