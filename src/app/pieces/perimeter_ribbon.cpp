// The scribed edge unrolled: drawn by PerimeterRibbon.
#include <QMouseEvent>
#include <algorithm>
#include <cmath>

#include "app/look/theme.h"
#include "app/pieces/piece_drawing.h"
#include "units/quantity.h"

namespace bevelsmith::app {

PerimeterRibbon::PerimeterRibbon(PieceState& state, PieceDrawing::Shows shows) : state_(state), shows_(shows) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName("edge unrolled");
    connect(&state_, &PieceState::changed, this, qOverload<>(&QWidget::update));
    connect(&state_, &PieceState::pointed, this, qOverload<>(&QWidget::update));
}

std::pair<double, double> PerimeterRibbon::kept_mm() const {
    double low = HUGE_VAL, high = -HUGE_VAL;
    if (const auto* shape = state_.shape())
        for (const auto& m : shape->marks)
            if (m.kept) low = std::min(low, m.arc_mm), high = std::max(high, m.arc_mm);
    return low < high ? std::pair{low, high} : std::pair{0.0, 1.0};
}

double PerimeterRibbon::x_of(double arc_mm) const {
    const auto [low, high] = kept_mm();
    return 104 + (arc_mm - low) / (high - low) * (width() - 132.0);
}

double PerimeterRibbon::y_of(double bevel_rad) const {
    return middle() - units::degrees(bevel_rad) * per_degree_;
}

void PerimeterRibbon::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto& c = theme().colours();
    p.setFont(Theme::font(size::text_small));
    p.setPen(c.faint);
    const auto* shape = state_.shape();
    if (!shape)
        return void(
            p.drawText(rect(), Qt::AlignCenter, "Here the edge will lie unrolled, with its bevel from end to end."));
    if (shape->edge_length_mm <= 0)
        return void(p.drawText(rect(), Qt::AlignCenter,
                               "No edge of this piece is scribed: its straight edges' bevels stand "
                               "under \"showing\", edge by edge."));
    double most = 3;
    for (const auto& m : shape->marks)
        if (m.kept) most = std::max(most, std::abs(units::degrees(m.bevel_rad)));
    most = std::ceil(most * 1.2);
    per_degree_ = (height() / 2.0 - 22) / most;
    p.drawText(QRectF(12, 8, 84, 32), Qt::TextWordWrap, "bevel along the edge");
    p.drawText(QRectF(12, height() - 24.0, 84, 16), Qt::AlignLeft, QString("± %1°, open up").arg(most));
    p.setPen(QPen(c.line, 1));
    p.drawLine(QPointF(96, middle()), QPointF(width() - 20, middle()));
    draw_saw_settings(p, *shape);
    draw_bevel(p, *shape);
    if (shows_ == PieceDrawing::Shows::fixings && state_.hull_said()) draw_blocks(p);
    draw_joints(p, *shape);
    draw_pointed(p, *shape);
    if (!hasFocus()) return;
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(c.accent, 1));
    p.drawRect(QRectF(rect()).adjusted(1.5, 1.5, -1.5, -1.5));
}

/// Ends of the runs that one saw setting serves, with their mean.
void PerimeterRibbon::draw_saw_settings(QPainter& p, const piece::Outline& shape) {
    const auto& c = theme().colours();
    for (const auto& run : shape.bevel_runs) {
        const double x1 = x_of(shape.marks[static_cast<std::size_t>(run.first)].arc_mm);
        const double x2 = x_of(shape.marks[static_cast<std::size_t>(run.last)].arc_mm);
        p.fillRect(QRectF(QPointF(x1 + 1, y_of(run.most_rad) - 4), QPointF(x2 - 1, y_of(run.least_rad) + 4)), c.halo);
        if (x2 - x1 > 44) {
            p.setPen(c.ink);
            p.drawText(QRectF(x1, height() - 20.0, x2 - x1, 14), Qt::AlignHCenter,
                       "saw " + QString::fromStdString(units::format_angle(run.mean_rad)));
        }
        p.setPen(QPen(c.line, 1));
        p.drawLine(QPointF(x2, 14), QPointF(x2, height() - 22));
    }
}

void PerimeterRibbon::draw_bevel(QPainter& p, const piece::Outline& shape) {
    const auto& c = theme().colours();
    QPainterPath curve;
    bool down = false;
    for (const auto& m : shape.marks) {
        const QPointF at(x_of(m.arc_mm), y_of(m.bevel_rad));
        if (!m.kept) down = false;
        else if (!down) curve.moveTo(at), down = true;
        else curve.lineTo(at);
    }
    p.setPen(QPen(c.certain, 1.8));
    p.drawPath(curve);
    for (const auto& m : shape.marks)
        if (m.kept && !m.in_survey) p.fillRect(QRectF(x_of(m.arc_mm) - 1.5, middle() - 3, 3, 6), c.stop);
}

void PerimeterRibbon::draw_blocks(QPainter& p) {
    const auto& plan = state_.result()->fixing;
    if (plan.method != fixing::Method::bonded_blocks) return;
    const auto& c = theme().colours();
    int number = 0;
    for (const auto& block : plan.blocks.positions) {
        const QRectF box(x_of(block.arc_mm) - 7, middle() - 7, 14, 14);
        p.setPen(QPen(c.accent, 1.5));
        p.setBrush(c.wood);
        p.drawRect(box);
        p.setPen(c.ink);
        p.drawText(box, Qt::AlignCenter, QString::number(++number));
    }
}

void PerimeterRibbon::draw_joints(QPainter& p, const piece::Outline& shape) {
    const auto& c = theme().colours();
    for (std::size_t i = 1; i < shape.marks.size(); ++i)
        for (const auto& joint : shape.joints) {
            const auto along = [&](const Vec2& q) { return (joint.upright ? q.x() : q.y()) - joint.at_mm; };
            if (!shape.marks[i].kept || along(shape.marks[i].a) * along(shape.marks[i - 1].a) > 0) continue;
            const double x = x_of(shape.marks[i].arc_mm);
            p.setPen(QPen(c.accent, 1.4, Qt::DashDotLine));
            p.drawLine(QPointF(x, 14), QPointF(x, height() - 22));
            p.drawText(QRectF(x - 30, 1, 60, 13), Qt::AlignHCenter, "joint");
        }
}

void PerimeterRibbon::draw_pointed(QPainter& p, const piece::Outline& shape) {
    if (state_.mark() < 0) return;
    const auto& m = shape.marks[static_cast<std::size_t>(state_.mark())];
    const double x = x_of(m.arc_mm);
    p.setPen(QPen(theme().colours().accent, 2));
    p.drawLine(QPointF(x, 10), QPointF(x, height() - 20));
    p.drawText(QRectF(x + 4, 8, 150, 14), Qt::AlignLeft, QString::fromStdString(units::format_angle(m.bevel_rad)));
}

void PerimeterRibbon::mouseMoveEvent(QMouseEvent* event) {
    const auto* shape = state_.shape();
    if (!shape) return;
    const auto [low, high] = kept_mm();
    const double mm_per_pixel = (high - low) / (width() - 132.0),
                 arc = low + (event->position().x() - 104) * mm_per_pixel;
    int nearest = -1;
    double best = 12 * mm_per_pixel;
    for (std::size_t i = 0; i < shape->marks.size(); ++i)
        if (const double d = std::abs(shape->marks[i].arc_mm - arc); shape->marks[i].kept && d < best) {
            best = d;
            nearest = static_cast<int>(i);
        }
    state_.point_at(nearest);
}

void PerimeterRibbon::keyPressEvent(QKeyEvent* event) {
    const auto* shape = state_.shape();
    const int step = event->key() == Qt::Key_Left ? -1 : event->key() == Qt::Key_Right ? 1 : 0;
    if (!shape || step == 0) return QWidget::keyPressEvent(event);
    const int n = static_cast<int>(shape->marks.size());
    int i = state_.mark() < 0 ? (step > 0 ? -1 : n) : state_.mark();
    do i += step;
    while (i >= 0 && i < n && !shape->marks[static_cast<std::size_t>(i)].kept);
    if (i >= 0 && i < n) state_.point_at(i);
}

}  // namespace bevelsmith::app
