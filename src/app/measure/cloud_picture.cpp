#include "app/measure/cloud_picture.h"

#include <QMouseEvent>
#include <QPainter>
#include <cmath>

#include "app/look/theme.h"

namespace bevelsmith::app {
namespace {

/// More dots than this only make the picture slow. Picked by the golden section, so that no row of the scanner shows.
survey::Cloud sparse(const survey::Cloud& cloud) {
    constexpr std::size_t most = 12000;
    if (cloud.size() <= most) return cloud;
    survey::Cloud out;
    for (std::size_t k = 0; k < most; ++k) {
        const double share = std::fmod(static_cast<double>(k) * 0.6180339887498949, 1.0);
        out.push_back(cloud[static_cast<std::size_t>(share * static_cast<double>(cloud.size()))]);
    }
    return out;
}

}  // namespace

CloudPicture::CloudPicture(QWidget* parent) : QWidget(parent) {
    setMinimumHeight(210);
    setMouseTracking(true);
    setAccessibleName("the scan from above and looking forward");
}

void CloudPicture::show_clouds(const survey::Cloud& all, const survey::Cloud& kept, const survey::Cloud& lonely) {
    whole_ = all, whole_kept_ = kept, whole_lonely_ = lonely;
    const auto extent = survey::box_of(all);
    // Another scan, or another unit, is seen whole again.
    if ((extent.low - extent_.low).norm() + (extent.high - extent_.high).norm() > 1e-6) near_ = {};
    extent_ = extent;
    choose_dots();
}

void CloudPicture::choose_dots() {
    all_ = in_sight(whole_), kept_ = in_sight(whole_kept_), lonely_ = in_sight(whole_lonely_);
    update();
}

survey::Cloud CloudPicture::in_sight(const survey::Cloud& cloud) const {
    if (near_[0].factor <= 1 && near_[1].factor <= 1) return sparse(cloud);
    survey::Cloud out;
    for (const Vec3& at : cloud)
        if (room(0).contains(place_of(at, 0)) || room(1).contains(place_of(at, 1))) out.push_back(at);
    return sparse(out);
}

void CloudPicture::pick_points(bool on) {
    picks_ = on;
    setMinimumHeight(on ? 300 : 210);
    setCursor(on ? Qt::CrossCursor : Qt::ArrowCursor);
}

void CloudPicture::show_marks(std::vector<survey::SeenMark> marks) {
    marks_ = std::move(marks);
    update();
}

void CloudPicture::in_own_frame(bool own) {
    own_ = own;
    update();
}

/// The nearest to the eye of those within a few pixels: from above the highest, looking forward the aftmost.
std::optional<Vec3> CloudPicture::point_at(const QPointF& at, int view) const {
    constexpr double reach_px = 4;
    const double reach_mm = reach_px / scale(view);
    const View v = views()[static_cast<std::size_t>(view)];
    const int deep = 3 - v.across - v.up;
    const double across = mm_at(at, view, v.across), up = mm_at(at, view, v.up), toward = view == 0 ? 1 : -1;
    std::optional<Vec3> best;
    for (const Vec3& p : whole_) {
        if (std::hypot(p[v.across] - across, p[v.up] - up) > reach_mm) continue;
        if (!best || toward * p[deep] > toward * (*best)[deep]) best = p;
    }
    return best;
}

void CloudPicture::wheelEvent(QWheelEvent* event) {
    constexpr double a_notch = 120, most = 400;
    const int view = event->position().x() < width() / 2.0 ? 0 : 1;
    const View v = views()[static_cast<std::size_t>(view)];
    Near& near = near_[static_cast<std::size_t>(view)];
    const Vec3 before = near.middle.value_or((extent_.low + extent_.high) / 2);
    const double across = mm_at(event->position(), view, v.across), up = mm_at(event->position(), view, v.up);
    const double factor = std::clamp(near.factor * std::pow(1.35, event->angleDelta().y() / a_notch), 1.0, most);
    const double share = 1 - near.factor / factor;
    Vec3 middle = before;
    // What is under the pointer stays there.
    middle[v.across] += share * (across - before[v.across]);
    middle[v.up] += share * (up - before[v.up]);
    near.factor = factor;
    near.middle = factor > 1 ? std::optional<Vec3>(middle) : std::nullopt;
    choose_dots();
    event->accept();
}

void CloudPicture::mouseDoubleClickEvent(QMouseEvent* event) {
    if (picks_) return;
    near_[event->position().x() < width() / 2.0 ? 0 : 1] = {};
    choose_dots();
}

void CloudPicture::show_box(const survey::CloudBox& box) {
    box_ = box;
    update();
}

std::array<CloudPicture::View, 2> CloudPicture::views() const {
    if (own_) return {View{0, 1, 1, "x to the right, y up"}, View{1, 2, -1, "y to the left, z up"}};
    return {View{0, 1, 1, "from above, bow at right"}, View{1, 2, -1, "looking forward, starboard at right"}};
}

QRectF CloudPicture::room(int view) const {
    return QRectF(view * width() / 2.0 + 10, 26, width() / 2.0 - 20, height() - 36.0);
}

double CloudPicture::scale(int view) const {
    const View v = views()[static_cast<std::size_t>(view)];
    const Vec3 wide = extent_.high - extent_.low;
    return near_[static_cast<std::size_t>(view)].factor * std::min(room(view).width() / std::max(wide[v.across], 1.0),
                                                                   room(view).height() / std::max(wide[v.up], 1.0));
}

Vec3 CloudPicture::middle_of(int view) const {
    return near_[static_cast<std::size_t>(view)].middle.value_or((extent_.low + extent_.high) / 2);
}

QPointF CloudPicture::place_of(const Vec3& at, int view) const {
    const View v = views()[static_cast<std::size_t>(view)];
    const Vec3 off = at - middle_of(view);
    return room(view).center() + scale(view) * QPointF(v.sign * off[v.across], -off[v.up]);
}

double CloudPicture::mm_at(const QPointF& at, int view, int axis) const {
    const View v = views()[static_cast<std::size_t>(view)];
    const QPointF off = (at - room(view).center()) / scale(view);
    return middle_of(view)[axis] + (axis == v.across ? v.sign * off.x() : -off.y());
}

CloudPicture::Side CloudPicture::side_near(const QPointF& at) const {
    constexpr double reach_px = 7;
    Side best;
    double nearest = reach_px;
    for (int view = 0; view < 2; ++view) {
        const View v = views()[static_cast<std::size_t>(view)];
        if (!room(view).adjusted(-10, -10, 10, 10).contains(at)) continue;
        for (const bool high : {false, true}) {
            const QPointF corner = place_of(high ? box_.high : box_.low, view);
            if (const double off = std::abs(at.x() - corner.x()); off < nearest)
                nearest = off, best = {view, v.across, high};
            if (const double off = std::abs(at.y() - corner.y()); off < nearest)
                nearest = off, best = {view, v.up, high};
        }
    }
    return best;
}

void CloudPicture::draw_loops(bool on) {
    loops_ = on;
    setCursor(on ? Qt::CrossCursor : Qt::ArrowCursor);
}

void CloudPicture::mousePressEvent(QMouseEvent* event) {
    if (picks_) {
        const int view = event->position().x() < width() / 2.0 ? 0 : 1;
        if (const auto at = point_at(event->position(), view)) emit picked(*at);
        return;
    }
    if (loops_) {
        loop_view_ = event->position().x() < width() / 2.0 ? 0 : 1;
        loop_ = QPolygonF({event->position()});
        return;
    }
    held_ = side_near(event->position());
}

void CloudPicture::mouseReleaseEvent(QMouseEvent*) {
    held_ = {};
    if (loop_view_ >= 0) finish_loop();
}

void CloudPicture::finish_loop() {
    const int view = std::exchange(loop_view_, -1);
    const QPolygonF drawn = std::exchange(loop_, {});
    update();
    if (drawn.size() < 3) return;
    const View v = views()[static_cast<std::size_t>(view)];
    survey::CloudLoop loop{v.across, v.up, {}};
    for (const QPointF& at : drawn) loop.ring.emplace_back(mm_at(at, view, v.across), mm_at(at, view, v.up));
    emit looped(loop);
}

void CloudPicture::mouseMoveEvent(QMouseEvent* event) {
    if (picks_) return;
    if (loops_) {
        constexpr double apart_px = 2;
        if (loop_view_ < 0 || (event->position() - loop_.back()).manhattanLength() < apart_px) return;
        loop_ << event->position();
        return update();
    }
    if (held_.view < 0) {
        const Side side = side_near(event->position());
        const bool upright = side.view >= 0 && side.axis == views()[static_cast<std::size_t>(side.view)].across;
        return setCursor(side.view < 0 ? Qt::ArrowCursor : upright ? Qt::SizeHorCursor : Qt::SizeVerCursor);
    }
    const int k = held_.axis;
    const double mm =
        std::round(std::clamp(mm_at(event->position(), held_.view, k), extent_.low[k], extent_.high[k]));
    if (held_.high) box_.high[k] = std::max(mm, box_.low[k] + 1);
    else box_.low[k] = std::min(mm, box_.high[k] - 1);
    update();
    emit box_dragged(box_);
}

void CloudPicture::draw_marks(QPainter& p, int view) const {
    const auto& c = theme().colours();
    for (const auto& mark : marks_) {
        const QPointF at = place_of(mark.seen, view);
        p.setPen(QPen(c.accent, 1.6));
        p.setBrush(Qt::NoBrush);
        p.drawEllipse(at, 5, 5);
        // On a patch, for points lie everywhere; to the left where the picture ends.
        const QString name = QString::fromStdString(mark.name);
        const QFontMetricsF metrics(p.font());
        const double wide = metrics.horizontalAdvance(name) + 4;
        const bool left = at.x() + 8 + wide > room(view).right() + 6;
        const QRectF patch(left ? at.x() - 8 - wide : at.x() + 7, at.y() - 7, wide, 14);
        p.fillRect(patch, c.paper);
        p.setPen(c.ink);
        p.drawText(patch, Qt::AlignCenter, name);
    }
}

void CloudPicture::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const auto& c = theme().colours();
    p.fillRect(rect(), c.paper);
    if (all_.empty()) return;
    p.setFont(Theme::font(size::text_small));
    for (int view = 0; view < 2; ++view) {
        const auto dots = [&](const survey::Cloud& cloud, const QColor& colour) {
            for (const Vec3& at : cloud) p.fillRect(QRectF(place_of(at, view), QSizeF(1.3, 1.3)), colour);
        };
        p.save();
        p.setClipRect(room(view).adjusted(-6, -4, 6, 6));  // what lies alone may lie anywhere
        dots(all_, c.line);
        dots(lonely_, c.mind);
        dots(kept_, c.certain);
        p.restore();
        p.setPen(c.faint);
        p.drawText(QRectF(room(view).left() - 4, 4, room(view).width() + 8, 16), Qt::AlignLeft,
                   views()[static_cast<std::size_t>(view)].words);
        p.save();
        p.setClipRect(room(view).adjusted(-6, -4, 6, 6));
        draw_marks(p, view);
        p.setPen(QPen(c.accent, 1.4));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(place_of(box_.low, view), place_of(box_.high, view)).normalized());
        p.restore();
    }
    if (loop_view_ >= 0) p.drawPolyline(loop_);
}

}  // namespace bevelsmith::app
