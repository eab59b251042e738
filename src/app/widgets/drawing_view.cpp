#include "app/widgets/drawing_view.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainterPath>
#include <QWheelEvent>
#include <cmath>

#include "app/look/theme.h"

namespace bevelsmith::app {

void Pencil::pen(const QColor& colour, double width_px, Qt::PenStyle style) {
    QPen p(colour, width_px, style, Qt::RoundCap, Qt::RoundJoin);
    if (style == Qt::DashLine) p.setDashPattern({5, 4});
    painter_.setPen(p);
}

void Pencil::path(const std::vector<Vec2>& points, bool closed) {
    QPolygonF line;
    for (const Vec2& p : points) line << at(p);
    if (closed) painter_.drawPolygon(line);
    else painter_.drawPolyline(line);
}

QPainterPath path_on_screen(const geometry::Polygon& shape, const std::function<QPointF(const Vec2&)>& to) {
    // Corners nearer to one another than can be seen take most of the time of a stroke.
    constexpr double seen_px = 0.4;
    QPainterPath out;
    const auto ring = [&](const geometry::Ring& r) {
        QPointF last;
        for (std::size_t i = 0; i < r.size(); ++i) {
            const QPointF next = to(r[i]);
            if (i == 0) out.moveTo(next);
            else if ((next - last).manhattanLength() < seen_px && i + 1 < r.size()) continue;
            else out.lineTo(next);
            last = next;
        }
        out.closeSubpath();
    };
    ring(shape.outer);
    for (const auto& hole : shape.holes) ring(hole);
    return out;
}

QPainterPath Pencil::path_of(const geometry::Polygon& shape) const {
    return path_on_screen(shape, [this](const Vec2& mm) { return at(mm); });
}

void Pencil::polygon(const geometry::Polygon& shape) {
    painter_.drawPath(path_of(shape));
}

void Pencil::cross(const Vec2& mm, double arm_px) {
    const QPointF p = at(mm);
    painter_.drawLine(p - QPointF(arm_px, 0), p + QPointF(arm_px, 0));
    painter_.drawLine(p - QPointF(0, arm_px), p + QPointF(0, arm_px));
}

void Pencil::diamond(const Vec2& mm, double half_px) {
    const QPointF c = at(mm);
    painter_.drawPolygon(QPolygonF(
        {c + QPointF(0, -half_px), c + QPointF(half_px, 0), c + QPointF(0, half_px), c + QPointF(-half_px, 0)}));
}

void Pencil::text(const Vec2& mm, const QString& words, QPointF shift_px, int pixels, bool strong, bool patch) {
    painter_.setFont(Theme::font(pixels, strong));
    const QFontMetricsF metrics(painter_.font());
    QRectF box = metrics.boundingRect(words);
    box.moveCenter(at(mm) + shift_px);
    if (patch) painter_.fillRect(box.adjusted(-2, 0, 2, 0), theme().colours().paper);
    painter_.drawText(box.adjusted(-20, -2, 20, 2), Qt::AlignCenter, words);
}

void Pencil::dimension(const Vec2& a, const Vec2& b, double off_px, const QString& figure) {
    const QPointF pa = at(a), pb = at(b);
    QLineF along(pa, pb);
    if (along.length() < 1) return;
    const QPointF n = QPointF(along.dy(), -along.dx()) / along.length() * off_px;
    const QPointF ends[] = {pa + n, pb + n}, direction = (pb - pa) / along.length();
    const QPointF slash = (direction + QPointF(direction.y(), -direction.x())) * 4;
    painter_.drawLine(ends[0], ends[1]);
    for (const QPointF& e : ends) painter_.drawLine(e - slash, e + slash);
    painter_.drawLine(pa + n * 0.25, pa + n * 1.15);
    painter_.drawLine(pb + n * 0.25, pb + n * 1.15);
    painter_.save();
    painter_.setFont(Theme::font(size::text_small));
    painter_.translate((ends[0] + ends[1]) / 2);
    double turn = -along.angle();
    while (turn < -90.5) turn += 180;
    painter_.rotate(turn > 89.5 ? turn - 180 : turn);
    const QRectF box = QFontMetricsF(painter_.font()).boundingRect(figure);
    QRectF place = box;
    place.moveCenter({0, 0});
    painter_.fillRect(place.adjusted(-4, 0, 4, 0), theme().colours().paper);
    painter_.drawText(place.adjusted(-20, -2, 20, 2), Qt::AlignCenter, figure);
    painter_.restore();
}

void Pencil::grain(const geometry::Polygon& shape, double angle_rad, const QColor& colour) {
    // Of what is as small as that no line would be seen.
    constexpr double least_px = 40;
    if (px(geometry::bounding_box(shape.outer).size().norm()) < least_px) return;
    painter_.save();
    painter_.setClipPath(path_of(shape), Qt::IntersectClip);
    QColor thin = colour;
    thin.setAlphaF(0.28F);
    pen(thin, 0.8);
    const auto box = geometry::bounding_box(shape.outer);
    const Vec2 along(std::cos(angle_rad), std::sin(angle_rad)), across(-along.y(), along.x());
    const double reach = box.size().norm() / 2, step = std::max(24.0 / scale_, reach / 40);
    for (int k = -static_cast<int>(reach / step); k * step <= reach; ++k) {
        // Broken at uneven places, as grain is.
        const double shift = 0.37 * (((k * 7919) % 13) / 13.0);
        const Vec2 middle = box.centre() + across * k * step;
        line(middle - along * reach * (0.95 - shift), middle - along * reach * (0.05 + shift));
        line(middle + along * reach * (0.1 - shift), middle + along * reach * (0.9 - shift / 2));
    }
    painter_.restore();
}

DrawingView::DrawingView(QWidget* parent) : QWidget(parent) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(120, 80);
    all_ = new QPushButton("all", this);
    all_->setObjectName("quiet");
    all_->setToolTip("Everything in view again (0)");
    all_->setFocusPolicy(Qt::NoFocus);  // by keys it is 0
    all_->hide();
    connect(all_, &QPushButton::clicked, this, &DrawingView::fit);
    connect(&theme(), &Theme::changed, this, qOverload<>(&QWidget::update));
}

void DrawingView::fit() {
    follow_ = true;
    all_->hide();
    content_changed();
}

/// A person has put the view elsewhere: it stays so until "all" is asked for.
void DrawingView::moved() {
    follow_ = false;
    all_->adjustSize();
    all_->move(width() - all_->width() - 8, 6);
    all_->show();
    update();
}

void DrawingView::content_changed() {
    if (follow_) {
        const auto box = content();
        // Nothing is drawn of nothing, at whatever scale.
        const bool empty = box.width() <= 0 && box.height() <= 0;
        const QPointF size = on_screen(lies(), box.size());
        const double w = empty ? width() : std::max(std::abs(size.x()), 1e-6),
                     h = empty ? height() : std::max(std::abs(size.y()), 1e-6);
        const double room_w = std::max(40, width() - 2 * margin_px), room_h = std::max(40, height() - 2 * margin_px);
        scale_ = std::min(room_w / w, room_h / h);
        origin_ = QPointF(width() / 2.0, height() / 2.0) - scale_ * on_screen(lies(), box.centre());
    }
    update();
}

Vec2 DrawingView::to_drawing(const QPointF& p) const {
    return on_drawing(lies(), (p - origin_) / scale_);
}
QPointF DrawingView::to_widget(const Vec2& mm) const {
    return origin_ + scale_ * on_screen(lies(), mm);
}

void DrawingView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const auto& c = theme().colours();
    painter.fillRect(rect(), c.paper);
    const auto box = content();
    if (box.width() <= 0 && box.height() <= 0) {
        return draw_empty(painter);
    }
    Pencil pencil(painter, scale_, origin_, lies());
    draw(pencil);
    if (show_scale_bar) draw_scale_bar(painter);
    if (hasFocus() && by_keys_) {
        painter.setPen(QPen(c.accent, 1));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(QRectF(rect()).adjusted(1.5, 1.5, -1.5, -1.5));
    }
}

void DrawingView::draw_empty(QPainter& painter) {
    painter.setPen(theme().colours().faint);
    painter.setFont(Theme::font(15));
    painter.drawText(rect().adjusted(80, 40, -80, -40), Qt::AlignCenter | Qt::TextWordWrap, empty_words());
}

void DrawingView::draw_scale_bar(QPainter& painter) {
    const auto in = unit ? unit() : units::LengthUnit::millimetre;
    const bool inches = units::in_inches(in);
    const double one = inches ? units::mm_per_inch : 1;
    double step = (inches ? 0.5 : 10) * one;
    for (double s : inches ? std::vector<double>{0.5, 1, 2, 4, 6, 12, 24, 48, 96}
                           : std::vector<double>{10, 20, 50, 100, 200, 500, 1000, 2000})
        if (s * one * scale_ <= 140) step = s * one;
    const QString words = inches ? QString("%1 in").arg(step / one)
                                 : QString("%1 %2")
                                       .arg(step / (in == units::LengthUnit::centimetre ? 10.0
                                                    : in == units::LengthUnit::metre    ? 1000.0
                                                                                        : 1.0))
                                       .arg(QString::fromUtf8(units::symbol(in).data()));
    const QPointF at(16, height() - 16);
    painter.setPen(QPen(theme().colours().ink, 1));
    painter.drawLine(at, at + QPointF(step * scale_, 0));
    painter.drawLine(at - QPointF(0, 4), at + QPointF(0, 4));
    painter.drawLine(at + QPointF(step * scale_, -4), at + QPointF(step * scale_, 4));
    painter.setFont(Theme::font(size::text_small));
    painter.drawText(QRectF(at.x() + step * scale_ + 6, at.y() - 8, 90, 16), Qt::AlignVCenter, words);
}

void DrawingView::resizeEvent(QResizeEvent*) {
    all_->move(width() - all_->width() - 8, 6);
    content_changed();
}

void DrawingView::zoom(double factor, const QPointF& about) {
    const double next = std::clamp(scale_ * factor, 1e-3, 50.0);
    origin_ = about + (origin_ - about) * (next / scale_);
    scale_ = next;
    moved();
}

void DrawingView::wheelEvent(QWheelEvent* event) {
    zoom(std::pow(1.0015, event->angleDelta().y()), event->position());
    event->accept();
}

void DrawingView::mousePressEvent(QMouseEvent* event) {
    setFocus(Qt::MouseFocusReason);
    last_ = event->position();
    dragging_ = event->button() == Qt::LeftButton && press(to_drawing(last_));
    panning_ = !dragging_;
}

void DrawingView::mouseMoveEvent(QMouseEvent* event) {
    const QPointF now = event->position();
    if (dragging_) {
        drag(to_drawing(now));
    } else if (panning_ && event->buttons() != Qt::NoButton) {
        origin_ += now - last_;
        moved();
    } else {
        hover(to_drawing(now));
    }
    last_ = now;
}

void DrawingView::mouseReleaseEvent(QMouseEvent* event) {
    if (dragging_) release(to_drawing(event->position()));
    dragging_ = panning_ = false;
}

/// The frame that shows where the keys go matters only to those who came by keys.
void DrawingView::focusInEvent(QFocusEvent* event) {
    by_keys_ = event->reason() == Qt::TabFocusReason || event->reason() == Qt::BacktabFocusReason;
    QWidget::focusInEvent(event);
    update();
}

void DrawingView::keyPressEvent(QKeyEvent* event) {
    const QPointF middle(width() / 2.0, height() / 2.0);
    QPointF shift;
    switch (event->key()) {
        case Qt::Key_Plus:
        case Qt::Key_Equal: return zoom(1.25, middle);
        case Qt::Key_Minus: return zoom(0.8, middle);
        case Qt::Key_0: return fit();
        case Qt::Key_Left: shift = {40, 0}; break;
        case Qt::Key_Right: shift = {-40, 0}; break;
        case Qt::Key_Up: shift = {0, 40}; break;
        case Qt::Key_Down: shift = {0, -40}; break;
        default: return QWidget::keyPressEvent(event);
    }
    origin_ += shift;
    moved();
}

}  // namespace bevelsmith::app
