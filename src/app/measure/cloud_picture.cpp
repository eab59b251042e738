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
    all_ = sparse(all);
    kept_ = sparse(kept);
    lonely_ = sparse(lonely);
    extent_ = survey::box_of(all_);
    update();
}

void CloudPicture::show_box(const survey::CloudBox& box) {
    box_ = box;
    update();
}

std::array<CloudPicture::View, 2> CloudPicture::views() const {
    return {View{0, 1, 1, "from above, bow at right"}, View{1, 2, -1, "looking forward, starboard at right"}};
}

QRectF CloudPicture::room(int view) const {
    return QRectF(view * width() / 2.0 + 10, 26, width() / 2.0 - 20, height() - 36.0);
}

double CloudPicture::scale(int view) const {
    const View v = views()[static_cast<std::size_t>(view)];
    const Vec3 wide = extent_.high - extent_.low;
    return std::min(room(view).width() / std::max(wide[v.across], 1.0),
                    room(view).height() / std::max(wide[v.up], 1.0));
}

QPointF CloudPicture::place_of(const Vec3& at, int view) const {
    const View v = views()[static_cast<std::size_t>(view)];
    const Vec3 middle = (extent_.low + extent_.high) / 2, off = at - middle;
    return room(view).center() + scale(view) * QPointF(v.sign * off[v.across], -off[v.up]);
}

double CloudPicture::mm_at(const QPointF& at, int view, int axis) const {
    const View v = views()[static_cast<std::size_t>(view)];
    const QPointF off = (at - room(view).center()) / scale(view);
    const double middle = (extent_.low[axis] + extent_.high[axis]) / 2;
    return middle + (axis == v.across ? v.sign * off.x() : -off.y());
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
        p.setPen(QPen(c.accent, 1.4));
        p.drawRect(QRectF(place_of(box_.low, view), place_of(box_.high, view)).normalized());
    }
    if (loop_view_ >= 0) p.drawPolyline(loop_);
}

}  // namespace bevelsmith::app
