#include "app/measure/photo_view.h"

#include <QKeyEvent>
#include <QPainter>
#include <cmath>

#include "app/look/theme.h"

namespace bevelsmith::app {
namespace {

constexpr double reach_px = 10;  ///< of the mouse, on the screen

double settling_reach(const QImage& photo) {
    return std::clamp(photo.width() * 0.011, 6.0, 60.0);
}

}  // namespace

PhotoView::PhotoView(QWidget* parent) : QWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(320, 240);
    setAccessibleName("photo");
    setMouseTracking(true);
}

void PhotoView::show_photo(const QImage& photo, std::shared_ptr<const imaging::GreyImage> grey) {
    photo_ = photo;
    grey_ = std::move(grey);
    marks_.clear();
    straight_.clear();
    points_.clear();
    selected_.clear();
    cursor_ = Vec2(photo.width() / 2.0, photo.height() / 2.0);
    fitted_ = true;
    fit();
    emit marks_changed();
}

void PhotoView::show_points(std::vector<imaging::TracedPoint> points) {
    points_ = std::move(points);
    selected_.clear();
    update();
}

void PhotoView::point_at_straight(bool on) {
    pointing_straight_ = on;
    if (on) straight_.emplace_back();
    else std::erase_if(straight_, [](const auto& line) { return line.empty(); });
    setCursor(on ? Qt::CrossCursor : Qt::ArrowCursor);
}

void PhotoView::forget_straight() {
    straight_.clear();
    if (pointing_straight_) straight_.emplace_back();
    emit straight_changed();
    update();
}

void PhotoView::remove_selected() {
    if (selected_.empty()) return;
    std::vector<imaging::TracedPoint> kept;
    for (int i = 0; i < static_cast<int>(points_.size()); ++i)
        if (!selected_.count(i)) kept.push_back(points_[static_cast<std::size_t>(i)]);
    show_points(std::move(kept));
    emit corrected();
}

void PhotoView::keep_selected() {
    if (selected_.empty()) return;
    std::vector<imaging::TracedPoint> kept;
    for (int i : selected_) kept.push_back(points_[static_cast<std::size_t>(i)]);
    show_points(std::move(kept));
    emit corrected();
}

void PhotoView::fit() {
    if (!fitted_ || photo_.isNull()) return;
    scale_ = std::min(width() / static_cast<double>(photo_.width()), height() / static_cast<double>(photo_.height()));
    origin_ = {(width() - scale_ * photo_.width()) / 2, (height() - scale_ * photo_.height()) / 2};
    update();
}

Vec2 PhotoView::pixel_at(const QPointF& widget) const {
    return {(widget.x() - origin_.x()) / scale_, (widget.y() - origin_.y()) / scale_};
}

bool PhotoView::in_photo(const Vec2& p) const {
    return p.x() >= 0 && p.y() >= 0 && p.x() < photo_.width() && p.y() < photo_.height();
}

void PhotoView::add_mark(const Vec2& pixel) {
    if (!in_photo(pixel) || !grey_) return;
    if (pointing_straight_) {
        straight_.back().push_back(pixel);
        emit straight_changed();
    } else if (marks_.size() < 4) {
        marks_.push_back(imaging::settled_mark(*grey_, pixel, settling_reach(photo_)));
        emit marks_changed();
    }
    update();
}

int PhotoView::mark_near(const QPointF& widget) const {
    for (std::size_t k = 0; k < marks_.size(); ++k)
        if (QLineF(at(marks_[k]), widget).length() < reach_px) return static_cast<int>(k);
    return -1;
}

int PhotoView::point_near(const QPointF& widget) const {
    int nearest = -1;
    double best = reach_px;
    for (std::size_t i = 0; i < points_.size(); ++i)
        if (const double d = QLineF(at(points_[i].pixel), widget).length(); d < best) {
            best = d;
            nearest = static_cast<int>(i);
        }
    return nearest;
}

void PhotoView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    const auto& c = theme().colours();
    p.fillRect(rect(), c.paper);
    p.setFont(Theme::font(size::text_small));
    if (photo_.isNull()) {
        p.setPen(c.faint);
        p.drawText(rect().adjusted(30, 0, -30, 0), Qt::AlignCenter | Qt::TextWordWrap,
                   "A template photographed flat, on a ground of another shade, with four dark marks on its face at "
                   "measured distances. The straighter from above the better; to 35 degrees aslant is fine.");
        return;
    }
    p.drawImage(QRectF(origin_, QSizeF(scale_ * photo_.width(), scale_ * photo_.height())), photo_);
    for (std::size_t i = 0; i < points_.size(); ++i) {
        const bool chosen = selected_.count(static_cast<int>(i)) > 0;
        p.setPen(QPen(chosen ? c.accent : points_[i].sure ? QColor(20, 90, 170) : c.stop, chosen ? 2.4 : 1.4));
        const QPointF q = at(points_[i].pixel);
        p.drawLine(q - QPointF(3, 3), q + QPointF(3, 3));
        p.drawLine(q - QPointF(3, -3), q + QPointF(3, -3));
    }
    const auto label = [&](const QPointF& q, const QString& words) {
        const QRectF box(q + QPointF(8, -20), QSizeF(QFontMetricsF(p.font()).horizontalAdvance(words) + 8, 16));
        p.fillRect(box, c.field);
        p.setPen(c.ink);
        p.drawText(box, Qt::AlignCenter, words);
    };
    for (std::size_t k = 0; k < marks_.size(); ++k) {
        const QPointF q = at(marks_[k]);
        p.setPen(QPen(c.accent, 2));
        p.drawEllipse(q, 8, 8);
        p.drawLine(q - QPointF(4, 0), q + QPointF(4, 0));
        p.drawLine(q - QPointF(0, 4), q + QPointF(0, 4));
        label(q, QString::number(k + 1));
    }
    p.setPen(QPen(c.mind, 2));
    for (const auto& line : straight_)
        for (const Vec2& s : line) p.drawEllipse(at(s), 4, 4);
    if (drag_ == Drag::band) {
        p.setPen(QPen(c.accent, 1, Qt::DashLine));
        p.drawRect(QRectF(from_, last_).normalized());
    }
    if (by_keys_ && hasFocus()) {
        const QPointF q = at(cursor_);
        p.setPen(QPen(c.accent, 1.4));
        p.drawLine(q - QPointF(14, 0), q + QPointF(14, 0));
        p.drawLine(q - QPointF(0, 14), q + QPointF(0, 14));
    }
    if (hasFocus()) {
        p.setPen(QPen(c.accent, 1));
        p.drawRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5));
    }
}

void PhotoView::wheelEvent(QWheelEvent* event) {
    if (photo_.isNull()) return;
    fitted_ = false;
    const double factor = std::clamp(std::pow(1.0015, event->angleDelta().y()), 0.2, 5.0);
    const double next = std::clamp(scale_ * factor, 0.02, 20.0);
    origin_ = event->position() - (event->position() - origin_) * (next / scale_);
    scale_ = next;
    update();
}

void PhotoView::mousePressEvent(QMouseEvent* event) {
    by_keys_ = false;
    from_ = last_ = event->position();
    if (event->button() != Qt::LeftButton) {
        drag_ = Drag::pan;
        return;
    }
    held_ = mark_near(from_);
    if (!pointing_straight_ && held_ >= 0) drag_ = Drag::mark;
    else if (pointing_straight_ || marks_.size() < 4) add_mark(pixel_at(from_));
    else if ((held_ = point_near(from_)) >= 0) drag_ = Drag::point;
    else drag_ = Drag::band;
}

void PhotoView::mouseMoveEvent(QMouseEvent* event) {
    const QPointF now = event->position();
    if (drag_ == Drag::pan) {
        fitted_ = false;
        origin_ += now - last_;
    }
    if (drag_ == Drag::mark && in_photo(pixel_at(now))) marks_[static_cast<std::size_t>(held_)] = pixel_at(now);
    if (drag_ == Drag::point && in_photo(pixel_at(now)))
        points_[static_cast<std::size_t>(held_)].pixel = pixel_at(now);
    last_ = now;
    if (drag_ != Drag::none) update();
}

void PhotoView::mouseReleaseEvent(QMouseEvent* event) {
    const Drag was = std::exchange(drag_, Drag::none);
    const bool moved = QLineF(from_, event->position()).length() > 3;
    if (was == Drag::mark) {
        auto& mark = marks_[static_cast<std::size_t>(held_)];
        mark = imaging::settled_mark(*grey_, mark, settling_reach(photo_));
        emit marks_changed();
    }
    if (was == Drag::point) {
        if (moved)
            emit placed(held_, QPointF(points_[static_cast<std::size_t>(held_)].pixel.x(),
                                       points_[static_cast<std::size_t>(held_)].pixel.y()));
        else selected_ = {held_};
    }
    if (was == Drag::band) {
        selected_.clear();
        const QRectF band = QRectF(from_, event->position()).normalized();
        for (std::size_t i = 0; i < points_.size(); ++i)
            if (band.contains(at(points_[i].pixel))) selected_.insert(static_cast<int>(i));
    }
    update();
}

void PhotoView::mouseDoubleClickEvent(QMouseEvent* event) {
    const Vec2 pixel = pixel_at(event->position());
    if (marks_.size() == 4 && in_photo(pixel)) emit placed(-1, QPointF(pixel.x(), pixel.y()));
}

void PhotoView::move_cursor(const Vec2& by) {
    by_keys_ = true;
    cursor_ += by / std::max(scale_, 1e-6);
    cursor_ = cursor_.cwiseMax(Vec2(0, 0)).cwiseMin(Vec2(photo_.width() - 1.0, photo_.height() - 1.0));
    update();
}

void PhotoView::keyPressEvent(QKeyEvent* event) {
    if (photo_.isNull()) return QWidget::keyPressEvent(event);
    const double step = event->modifiers() & Qt::ShiftModifier ? 20 : 2;
    const int last = static_cast<int>(points_.size()) - 1, now = selected_.empty() ? -1 : *selected_.begin();
    switch (event->key()) {
        case Qt::Key_Left: return move_cursor({-step, 0});
        case Qt::Key_Right: return move_cursor({step, 0});
        case Qt::Key_Up: return move_cursor({0, -step});
        case Qt::Key_Down: return move_cursor({0, step});
        case Qt::Key_Return:
        case Qt::Key_Enter:
            if (marks_.size() < 4 || pointing_straight_) return add_mark(cursor_);
            emit placed(selected_.size() == 1 ? now : -1, QPointF(cursor_.x(), cursor_.y()));
            return;
        case Qt::Key_Backspace:
            if (pointing_straight_ && !straight_.back().empty()) straight_.back().pop_back(), emit straight_changed();
            else if (!marks_.empty()) marks_.pop_back(), emit marks_changed();
            return update();
        case Qt::Key_PageDown:
        case Qt::Key_PageUp: {
            if (last < 0) return;
            const int next = event->key() == Qt::Key_PageDown ? now + 1 : now - 1;
            const int chosen = (next + last + 1) % (last + 1);
            if (event->modifiers() & Qt::ShiftModifier) selected_.insert(chosen);
            else selected_ = {chosen};
            cursor_ = points_[static_cast<std::size_t>(chosen)].pixel;
            by_keys_ = true;
            return update();
        }
        case Qt::Key_Delete: return remove_selected();
        case Qt::Key_0: fitted_ = true; return fit();
        default: QWidget::keyPressEvent(event);
    }
}

void PhotoView::focusInEvent(QFocusEvent* event) {
    by_keys_ = event->reason() == Qt::TabFocusReason || event->reason() == Qt::OtherFocusReason;
    update();
}

void PhotoView::focusOutEvent(QFocusEvent*) {
    update();
}

}  // namespace bevelsmith::app
