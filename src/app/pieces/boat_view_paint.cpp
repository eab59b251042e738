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

/// What a panel meets there: the hull, or what lies on it.
QString faced_by(const job::Job& job, const std::string& surface_id, const Vec3& at) {
    for (const auto& surface : job.surfaces)
        if (surface.id == surface_id)
            if (const auto* layer = hull::innermost(surface.layers, at); layer && !layer->name.empty())
                return QString::fromStdString(layer->name) + " on the hull";
    return "hull";
}

}  // namespace

void BoatView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(rect(), theme().colours().paper);
    if (box_.empty) return draw_empty(p);
    draw_cuts(p);
    if (hasFocus()) {
        p.setPen(QPen(theme().colours().line, 1));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5));
    }
}

void BoatView::draw_cuts(QPainter& p) {
    for (Cut cut : shown()) {
        p.save();
        p.setClipRect(room(cut).adjusted(-between_px / 2 + 1, -2, between_px / 2 - 1, between_px / 2 - 1));
        draw_cut(p, cut);
        p.restore();
        draw_caption(p, cut);
    }
    if (!alone_) draw_close_up(p);
    draw_snap(p);
    draw_hand(p);
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
    const auto& computed = seen_;
    const auto& now = cuts_[index(cut)];
    const std::string selected = state_.document.selected_piece().toStdString();
    const auto id_of = [&](const exchange::CutPiece& piece) { return computed->results.pieces[piece.piece].id; };
    QColor fine = c.faint;
    fine.setAlphaF(0.45F);
    p.setBrush(Qt::NoBrush);
    for (const auto& piece : now.pieces) {
        const bool chosen = id_of(piece) == selected;
        p.setPen(QPen(chosen ? c.accent : fine, chosen ? 1.2 : 0.7));
        for (const auto& ring : piece.beyond) p.drawPath(path_on_screen({ring, {}}, to));
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
        const bool chosen = id_of(piece) == selected || among_chosen(id_of(piece)),
                   pointed = id_of(piece) == pointed_;
        p.setPen(QPen(chosen ? c.accent : c.ink, chosen || pointed ? 1.6 : 1));
        p.setBrush(c.wood);
        // What stands there already is hatched; what comes out of it is only outlined.
        if (const auto role = computed->job.pieces[piece.piece].role; role != piece::Role::made) {
            p.setBrush(piece::is_in_finished(role) ? QBrush(chosen ? c.accent : c.ink, Qt::BDiagPattern)
                                                   : QBrush(Qt::NoBrush));
            if (!piece::is_in_finished(role)) p.setPen(QPen(chosen ? c.accent : c.ink, 1, Qt::DashLine));
        }
        for (const auto& wood : piece.wood) p.drawPath(path_on_screen(wood, to));
    }
    draw_obstacles(p, cut, to);
    draw_ghost(p, cut, to);
}

/// What is about to be added, in copper.
void BoatView::draw_ghost(QPainter& p, Cut cut, const std::function<QPointF(const Vec2&)>& to) {
    const auto& c = theme().colours();
    QColor wash = c.accent;
    wash.setAlphaF(0.18F);
    for (const auto& piece : ghost_[index(cut)]) {
        p.setPen(QPen(c.accent, 0.8, Qt::DotLine));
        p.setBrush(Qt::NoBrush);
        for (const auto& ring : piece.beyond) p.drawPath(path_on_screen({ring, {}}, to));
        p.setPen(QPen(c.accent, 1.6));
        p.setBrush(wash);
        for (const auto& wood : piece.wood) p.drawPath(path_on_screen(wood, to));
    }
}

/// What stands in the boat before the joinery, where it is cut: hatched.
void BoatView::draw_obstacles(QPainter& p, Cut cut, const std::function<QPointF(const Vec2&)>& to) {
    const auto& c = theme().colours();
    for (const auto& obstacle : seen_->job.obstacles) {
        const bool stays = piece::is_in_finished(obstacle.role);
        p.setBrush(stays ? QBrush(c.certain, Qt::BDiagPattern) : QBrush(Qt::NoBrush));
        p.setPen(QPen(c.certain, obstacle.id == pointed_obstacle_ ? 1.8 : 1, stays ? Qt::SolidLine : Qt::DashLine));
        for (const auto& stuff : obstacle_in(cut, obstacle)) p.drawPath(path_on_screen(stuff, to));
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
    const double at = at_mm(cut);
    const QString place = cut == Cut::profile ? state_.document.off_centre(at) : state_.document.length(at);
    const char* way = cut == Cut::section   ? " fwd, looking forward"
                      : cut == Cut::profile ? ", from starboard"
                                            : " up, from above";
    p.setPen(theme().colours().faint);
    p.setFont(Theme::font(size::text_small));
    const QRectF space = room(cut);
    const QString words = QString("%1 at %2%3").arg(name_of(cut), place, way);
    p.drawText(QRectF(space.left(), space.top() - 20, space.width(), 16), Qt::AlignLeft,
               p.fontMetrics().elidedText(words, Qt::ElideRight, static_cast<int>(space.width())));
    const auto hidden = state_.document.hidden().size();
    if (hidden == 0 || cut != shown().front()) return;
    p.drawText(QRectF(space.left(), space.top() - 20, space.width(), 16), Qt::AlignRight,
               QString("%1 hidden; Shift H shows").arg(hidden));
}

/// Where the chosen piece comes nearest to the hull in the section, else the middle of it.
BoatView::CloseUp BoatView::close_up_of_selected() const {
    const auto frame = exchange::frame_of(Cut::section);
    const auto& section = cuts_[index(Cut::section)];
    const std::string selected = state_.document.selected_piece().toStdString();
    CloseUp out{Cut::section, frame.to_drawing((box_.low + box_.high) / 2)};
    double nearest = 1e18;
    const auto try_at = [&](const Vec2& q) {
        for (const auto& hull : section.hull)
            for (const auto& run : hull.runs)
                for (const auto& point : run.points)
                    if (const double off = (frame.to_drawing(point.a) - q).norm(); off < nearest)
                        nearest = off, out.at = q;
    };
    const auto& ghost = ghost_[index(Cut::section)];
    for (const auto& piece : ghost.empty() ? section.pieces : ghost)
        if (!ghost.empty() || seen_->results.pieces[piece.piece].id == selected)
            for (const auto& wood : piece.wood)
                for (const Vec2& q : wood.outer) try_at(q);
    return out;
}

/// The place pointed at, or the chosen piece's at the hull, larger; beside it what is what, with leader lines.
void BoatView::draw_close_up(QPainter& p) {
    constexpr double picture_share = 0.5;
    const QRectF space = close_up_room();
    const QRectF picture(space.left(), space.top(), picture_share * space.width(), space.height());
    const QRectF column(picture.right() + 14, space.top(), space.right() - picture.right() - 14, space.height());
    const CloseUp at = close_up_ ? *close_up_ : close_up_of_selected();
    const double scale = scale_ * closer;
    const auto to = [&](const Vec2& mm) {
        const Vec2 off = mm - at.at;
        return picture.center() + scale * QPointF(off.x(), -off.y());
    };
    p.save();
    p.setClipRect(picture);
    draw_content(p, at.cut, to, scale);
    p.restore();
    draw_labels(p, labels_of(at, picture, to), column);
    p.setPen(theme().colours().faint);
    const QString words = QString("close-up of the %1, %2 times as large").arg(name_of(at.cut)).arg(closer);
    p.drawText(QRectF(space.left(), space.top() - 20, space.width(), 16), Qt::AlignLeft,
               p.fontMetrics().elidedText(words, Qt::ElideRight, static_cast<int>(space.width())));
}

/// What is seen in the close-up: the wood that is cut, each piece once, and the hull.
std::vector<BoatView::Label> BoatView::labels_of(const CloseUp& close_up, const QRectF& picture,
                                                 const std::function<QPointF(const Vec2&)>& to) const {
    std::vector<Label> out;
    const auto& now = cuts_[index(close_up.cut)];
    const auto frame = exchange::frame_of(close_up.cut);
    for (const auto& piece : now.pieces)
        for (const auto& wood : piece.wood) {
            QPolygonF drawn;
            for (const Vec2& q : wood.outer) drawn << to(q);
            const QPolygonF seen = drawn.intersected(QPolygonF(picture));
            if (seen.isEmpty()) continue;
            const auto* shape = seen_->results.pieces[piece.piece].shape();
            const auto& spec = seen_->job.pieces[piece.piece];
            out.push_back({seen.boundingRect().center(), QString::fromStdString(spec.name),
                           ", " + state_.document.length(shape->thickness_mm), QString::fromStdString(spec.id)});
            break;
        }
    for (const auto& hull : now.hull)
        for (const auto& run : hull.runs) {
            const auto off = [&](const hull::SectionPoint& q) {
                return (frame.to_drawing(q.a) - close_up.at).norm();
            };
            const auto nearest = std::min_element(run.points.begin(), run.points.end(),
                                                  [&](const auto& a, const auto& b) { return off(a) < off(b); });
            if (nearest == run.points.end() || !picture.contains(to(frame.to_drawing(nearest->a)))) continue;
            out.push_back({to(frame.to_drawing(nearest->a)),
                           faced_by(seen_->job, hull.surface_id, nearest->a),
                           nearest->in_survey ? ", " + state_.document.band(nearest->sigma_mm) : ", not read",
                           {}});
        }
    return out;
}

/// A long name gives way to what the piece is known by in the list, the figure to that.
QString BoatView::words_within(const Label& label, double room, const QFontMetricsF& metrics) {
    const QString& known = label.id.isEmpty() ? label.name : label.id;
    for (const QString& words : {label.name + label.figure, known + label.figure})
        if (metrics.horizontalAdvance(words) <= room) return words;
    return metrics.elidedText(known, Qt::ElideRight, room);
}

void BoatView::draw_labels(QPainter& p, std::vector<Label> labels, const QRectF& column) const {
    constexpr std::size_t most = 7;
    constexpr double line_px = 18;
    const auto& c = theme().colours();
    std::sort(labels.begin(), labels.end(), [](const Label& a, const Label& b) { return a.at.y() < b.at.y(); });
    if (labels.size() > most) labels.resize(most);
    p.setFont(Theme::font(size::text_small));
    double y = column.top() + line_px;
    for (std::size_t k = 0; k < labels.size(); ++k) {
        const QFontMetricsF metrics(p.font());
        const QString words = words_within(labels[k], column.width(), metrics);
        const double lowest = column.bottom() - line_px * static_cast<double>(labels.size() - k);
        y = std::max(y, std::min(labels[k].at.y(), lowest));
        p.setPen(QPen(c.faint, 0.8));
        p.drawLine(QPointF(column.left() - 4, y), labels[k].at);
        p.setBrush(c.ink);
        p.setPen(Qt::NoPen);
        p.drawEllipse(labels[k].at, 1.8, 1.8);
        p.setPen(c.ink);
        p.drawText(QRectF(column.left(), y - line_px / 2, column.width(), line_px), Qt::AlignLeft | Qt::AlignVCenter,
                   words);
        y += line_px;
    }
}

void BoatView::draw_snap(QPainter& p) {
    const QString words = snapped_to();
    if (words.isEmpty()) return;
    const auto& c = theme().colours();
    p.setFont(Theme::font(size::text_small, true));
    QRectF box = QFontMetricsF(p.font()).boundingRect(words);
    box.moveCenter(last_ + QPointF(0, -22));
    box.moveLeft(std::clamp(box.left(), 4.0, width() - box.width() - 4));
    p.fillRect(box.adjusted(-3, -1, 3, 1), c.paper);
    p.setPen(c.accent);
    p.drawText(box.adjusted(-10, -2, 10, 2), Qt::AlignCenter, words);
}

/// What the keys do with what is in hand, along the view's foot.
void BoatView::draw_hand(QPainter& p) {
    if (hand_.empty()) return;
    const auto& c = theme().colours();
    const bool inches = units::in_inches(state_.document.unit());
    const auto figure = hand_.figure();
    const QString what = !figure_fault_.isEmpty()   ? figure_fault_
                         : !hand_.words().isEmpty() ? hand_.words()
                         : figure                   ? figure->words
                                                    : QString("taken hold of");
    const QString keys = pulling_ ? QString("Shift: a tenth as fast, to %1").arg(inches ? "1/32 in" : "1 mm")
                                  : QString("arrow keys %1, with Shift %2%3; Esc lets go")
                                        .arg(inches ? "1/32 in" : "1 mm", inches ? "1/4 in" : "10 mm",
                                             figure ? "; or type the figure" : "");
    constexpr double beside = 26;
    const QRectF strip(beside, height() - 23.0, width() - 2 * beside, 18);
    p.fillRect(strip.adjusted(-6, -1, 6, 1), c.paper);
    p.setFont(Theme::font(size::text_small, true));
    p.setPen(figure_fault_.isEmpty() ? c.accent : c.stop);
    const double wide = std::min(p.fontMetrics().horizontalAdvance(what) + 12.0, 0.55 * strip.width());
    p.drawText(QRectF(strip.left(), strip.top(), wide, strip.height()), Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(what, Qt::ElideRight, static_cast<int>(wide)));
    p.setFont(Theme::font(size::text_small));
    p.setPen(c.faint);
    p.drawText(strip.adjusted(wide + 8, 0, 0, 0), Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(keys, Qt::ElideRight, static_cast<int>(strip.width() - wide - 8)));
}

}  // namespace bevelsmith::app
