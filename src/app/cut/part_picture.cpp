#include "app/cut/part_picture.h"

#include <QHelpEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QToolTip>
#include <algorithm>

#include "app/look/theme.h"
#include "job/in_full.h"

namespace bevelsmith::app {
namespace {

/// Millimetres to pixels so that a box fills a pane, up upwards.
struct Fit {
    double scale = 1;
    QPointF origin;
    Fit(const geometry::Box& box, const QRectF& pane) {
        scale = std::min(pane.width() / std::max(1.0, box.width()), pane.height() / std::max(1.0, box.height()));
        const QPointF middle = pane.center();
        origin = {middle.x() - scale * box.centre().x(), middle.y() + scale * box.centre().y()};
    }
    QPointF at(const Vec2& mm) const { return {origin.x() + scale * mm.x(), origin.y() - scale * mm.y()}; }
};

geometry::Box around(const geometry::Box& a, const geometry::Box& b) {
    return {a.min.cwiseMin(b.min), a.max.cwiseMax(b.max)};
}

/// An outline as it is seen from starboard: forward to the right, up upwards.
geometry::Polygon from_the_side(const piece::Outline& shape, const geometry::Polygon& face) {
    const auto ring = [&](const geometry::Ring& r) {
        geometry::Ring out;
        for (const Vec2& p : r) {
            const Vec3 at = shape.frame.to_space(p);
            out.emplace_back(at.x(), at.z());
        }
        return out;
    };
    geometry::Polygon out{ring(face.outer), {}};
    for (const auto& hole : face.holes) out.holes.push_back(ring(hole));
    return out;
}

}  // namespace

PartPicture::PartPicture(Document& document) : document_(document) {
    setFixedHeight(height_px);
    setAccessibleName("the part in its piece and in the boat");
    setCursor(Qt::PointingHandCursor);
    connect(&document_, &Document::computed_changed, this, qOverload<>(&QWidget::update));
}

void PartPicture::show_part(const std::string& part_id) {
    part_id_ = part_id;
    setVisible(!part_id.empty());
    update();
}

QRectF PartPicture::pane(bool boat) const {
    const double wide = (width() - size::gap) / 2.0;
    return {boat ? wide + size::gap : 0, 0, wide, static_cast<double>(height())};
}

void PartPicture::paintEvent(QPaintEvent*) {
    if (part_id_.empty()) return;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto& c = theme().colours();
    p.setFont(Theme::font(size::text_small));
    for (const bool boat : {false, true}) {
        const QRectF box = pane(boat);
        p.setPen(Qt::NoPen);
        p.setBrush(c.paper);
        p.drawRoundedRect(box, size::radius, size::radius);
        p.setPen(c.faint);
        p.drawText(box.adjusted(6, 3, -6, 0), Qt::AlignLeft | Qt::AlignTop,
                   boat ? "in the boat, side" : "in its piece");
        const QRectF within = box.adjusted(8, 22, -8, -8);
        if (boat) draw_in_boat(p, within);
        else draw_in_piece(p, within);
    }
}

void PartPicture::draw_in_piece(QPainter& p, const QRectF& within) const {
    const auto& c = theme().colours();
    const std::string piece_id = job::piece_of_part(part_id_);
    for (const auto& result : document_.computed()->results.pieces) {
        const auto* shape = result.shape();
        if (result.id != piece_id || !shape) continue;
        const Fit fit(geometry::bounding_box(shape->face_a.outer), within);
        const auto to = [&](const Vec2& mm) { return fit.at(mm); };
        p.setPen(QPen(c.faint, 1));
        p.setBrush(Qt::NoBrush);
        p.drawPath(path_on_screen(shape->face_a, to));
        for (const auto& part : shape->parts) {
            if (part.id != part_id_ && shape->parts.size() > 1) continue;
            p.setPen(QPen(c.ink, 1.2));
            p.setBrush(c.wood);
            p.drawPath(path_on_screen(part.face_a, to));
        }
    }
}

void PartPicture::draw_in_boat(QPainter& p, const QRectF& within) const {
    const auto& c = theme().colours();
    const std::string piece_id = job::piece_of_part(part_id_);
    const auto& pieces = document_.computed()->results.pieces;
    geometry::Box all{Vec2::Constant(HUGE_VAL), Vec2::Constant(-HUGE_VAL)};
    for (const auto& result : pieces)
        if (const auto* shape = result.shape())
            all = around(all, geometry::bounding_box(from_the_side(*shape, shape->face_a).outer));
    if (all.max.x() < all.min.x()) return;
    const Fit fit(all, within);
    const auto to = [&](const Vec2& mm) { return fit.at(mm); };
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(c.line, 0.8));
    for (const auto& result : pieces)
        if (const auto* shape = result.shape(); shape && result.id != piece_id)
            p.drawPath(path_on_screen(from_the_side(*shape, shape->face_a), to));
    for (const auto& result : pieces) {
        const auto* shape = result.shape();
        if (!shape || result.id != piece_id) continue;
        for (const auto& part : shape->parts) {
            if (part.id != part_id_ && shape->parts.size() > 1) continue;
            // A piece across the boat is seen from its edge: a line that must still be seen.
            p.setPen(QPen(c.accent, 2.4, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
            p.setBrush(c.wood);
            p.drawPath(path_on_screen(from_the_side(*shape, part.face_a), to));
        }
    }
}

void PartPicture::mousePressEvent(QMouseEvent* event) {
    if (pane(true).contains(event->position())) emit boat_asked();
    else if (pane(false).contains(event->position())) emit piece_asked();
}

bool PartPicture::event(QEvent* event) {
    if (event->type() == QEvent::ToolTip) {
        auto* help = static_cast<QHelpEvent*>(event);
        QToolTip::showText(help->globalPos(), pane(true).contains(help->pos())
                                                  ? "Press to see it in the boat"
                                                  : "Press to see its piece on the bench");
        return true;
    }
    return QWidget::event(event);
}

}  // namespace bevelsmith::app
