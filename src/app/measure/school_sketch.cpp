#include "app/measure/school_sketch.h"

#include <QPainter>
#include <QPainterPath>
#include <cmath>

#include "app/look/theme.h"
#include "survey/instruments.h"

namespace bevelsmith::app {
namespace {

using survey::School;

/// A sheet of 320 x 150 on which all schools are drawn, the hull at right.
constexpr double sketch_wide = 320, sketch_high = 150;

class Sketcher {
  public:
    explicit Sketcher(QPainter& painter) : p(painter) { p.setFont(Theme::font(size::text_small)); }

    void hull() {
        QPainterPath path(QPointF(286, 8));
        path.cubicTo(268, 60, 250, 90, 200, 138);
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(c.certain, 2.4));
        p.drawPath(path);
        words({300, 22}, "hull", Qt::AlignHCenter);
    }
    /// Where the hull is, that far down (0 at the top, 1 at the foot).
    static QPointF on_hull(double t) {
        QPainterPath path(QPointF(286, 8));
        path.cubicTo(268, 60, 250, 90, 200, 138);
        return path.pointAtPercent(t);
    }
    void line(QPointF a, QPointF b, const QColor& colour, double width = 1.2, Qt::PenStyle style = Qt::SolidLine) {
        p.setPen(QPen(colour, width, style, Qt::RoundCap));
        p.drawLine(a, b);
    }
    void reading(QPointF at) {
        line(at - QPointF(4, 0), at + QPointF(4, 0), c.ink, 1.4);
        line(at - QPointF(0, 4), at + QPointF(0, 4), c.ink, 1.4);
    }
    void pin(QPointF at) {
        p.setBrush(c.paper);
        p.setPen(QPen(c.ink, 1.4));
        p.drawEllipse(at, 4, 4);
    }
    void arrow(QPointF from, QPointF to, const QColor& colour) {
        line(from, to, colour, 1.4);
        const QPointF way = (to - from) / std::hypot(to.x() - from.x(), to.y() - from.y()), side(-way.y(), way.x());
        line(to, to - 6 * way + 3 * side, colour, 1.4);
        line(to, to - 6 * way - 3 * side, colour, 1.4);
    }
    /// Words whose middle, left or right lies at a place, on a patch of paper.
    void words(QPointF at, const QString& text, Qt::Alignment where = Qt::AlignHCenter) {
        const double w = QFontMetricsF(p.font()).horizontalAdvance(text) + 4;
        const double x = where & Qt::AlignLeft ? at.x() : where & Qt::AlignRight ? at.x() - w : at.x() - w / 2;
        const QRectF box(x, at.y() - 7, w, 14);
        p.fillRect(box, c.paper);
        p.setPen(c.ink);
        p.drawText(box, Qt::AlignCenter, text);
    }
    void board(const QPolygonF& shape) {
        p.setPen(QPen(c.wood.darker(130), 1.2));
        p.setBrush(c.wood);
        p.drawPolygon(shape);
        p.setBrush(Qt::NoBrush);
    }
    /// The corner from which a pattern's points are counted.
    void corner(QPointF at) {
        arrow(at, at + QPointF(46, 0), c.accent);
        arrow(at, at - QPointF(0, 46), c.accent);
        words(at + QPointF(50, 0), "across", Qt::AlignLeft);
        words(at - QPointF(0, 54), "up");
        words(at + QPointF(-4, 10), "0, 0", Qt::AlignRight);
    }

    QPainter& p;
    const Colours& c = theme().colours();
};

void ordinates(Sketcher& s) {
    s.line({70, 8}, {70, 140}, s.c.ink, 1.4, Qt::DashDotLine);
    for (double t : {0.15, 0.4, 0.62, 0.82}) {
        const QPointF at = Sketcher::on_hull(t);
        s.line({70, at.y()}, at, s.c.accent);
        s.reading(at);
    }
    s.pin({70, 140});
    s.words({60, 140}, "zero", Qt::AlignRight);
    s.arrow({52, 124}, {52, 74}, s.c.accent);
    s.words({46, 96}, "along", Qt::AlignRight);
    s.words({160, Sketcher::on_hull(0.4).y() - 9}, "distance, square to the line");
    s.words({76, 12}, "batten, string or laser line", Qt::AlignLeft);
}

void strip_pattern(Sketcher& s) {
    s.board(QPolygonF{QPointF{150, 20}, QPointF{268, 20}, QPointF{256, 44}, QPointF{150, 44}});
    s.board(QPolygonF{QPointF{150, 20}, QPointF{168, 20}, QPointF{168, 132}, QPointF{150, 132}});
    s.board(QPolygonF{QPointF{168, 84}, QPointF{236, 84}, QPointF{222, 104}, QPointF{168, 104}});
    for (QPointF at : {QPointF(268, 20), QPointF(256, 44), QPointF(236, 84), QPointF(222, 104)}) s.reading(at);
    s.corner({60, 132});
    s.words({20, 24}, "points on the strips' ends", Qt::AlignLeft);
    s.line({142, 26}, {264, 22}, s.c.line);
}

void strip_edges(Sketcher& s) {
    s.board(QPolygonF{QPointF{190, 14}, QPointF{272, 14}, QPointF{252, 70}, QPointF{190, 70}});
    s.board(QPolygonF{QPointF{150, 78}, QPointF{236, 78}, QPointF{206, 120}, QPointF{150, 120}});
    for (QPointF at : {QPointF(272, 14), QPointF(252, 70), QPointF(236, 78), QPointF(206, 120)}) s.reading(at);
    s.words({184, 20}, "first point", Qt::AlignRight);
    s.line({186, 20}, {266, 16}, s.c.line);
    s.words({184, 60}, "and to", Qt::AlignRight);
    s.line({186, 60}, {246, 70}, s.c.line);
    s.corner({60, 132});
}

void tick_stick(Sketcher& s, bool angle) {
    s.board(QPolygonF{QPointF{84, 40}, QPointF{170, 40}, QPointF{170, 128}, QPointF{84, 128}});
    const QPointF tip = Sketcher::on_hull(0.45), tail(104, 96);
    const QPointF mark = tail + (tip - tail) * 0.42;
    s.line(tail, tip, s.c.wood.darker(140), 5);
    s.reading(tail + (tip - tail) * 0.08);
    s.reading(mark);
    s.words({84, 143}, "mark's number, and its place", Qt::AlignLeft);
    s.line({130, 136}, mark + QPointF(0, 5), s.c.line);
    if (angle) s.words({84, 12}, "towards the tip: degrees from across", Qt::AlignLeft);
    else s.words({2, 84}, "second point", Qt::AlignLeft), s.line({72, 86}, {106, 94}, s.c.line);
    s.words(tip + QPointF(-8, -12), "tip", Qt::AlignRight);
    s.words({88, 30}, "board, with 0, 0 at its corner", Qt::AlignLeft);
    s.pin({84, 128});
}

void fixed_points(Sketcher& s) {
    const QPointF one(60, 112), two(150, 112), at = Sketcher::on_hull(0.4);
    s.line(one, at, s.c.accent);
    s.line(two, at, s.c.accent);
    s.pin(one), s.pin(two);
    s.reading(at);
    s.words(one + QPointF(0, 15), "1");
    s.words(two + QPointF(0, 15), "2");
    s.words((one + at) / 2 - QPointF(20, 10), "from 1");
    s.words((two + at) / 2 + QPointF(24, 8), "from 2");
    s.words({105, 142}, "their places are known");
}

void compass_scribe(Sketcher& s) {
    s.board(QPolygonF{QPointF{110, 14}, QPointF{228, 14}, QPointF{196, 84}, QPointF{150, 134}, QPointF{110, 134}});
    for (double t : {0.12, 0.36, 0.6}) {
        const QPointF hull = Sketcher::on_hull(t), pencil = hull - QPointF(52, 0);
        s.arrow(pencil, hull, s.c.accent);
        s.reading(pencil);
    }
    s.words({150, 144}, "compass, always as open", Qt::AlignLeft);
    s.words({4, 40}, "pencil's line:", Qt::AlignLeft);
    s.words({4, 54}, "across, up", Qt::AlignLeft);
    s.corner({40, 138});
}

void traced(Sketcher& s) {
    QPainterPath card(QPointF(278, 16));
    card.cubicTo(262, 60, 244, 88, 200, 132);
    card.lineTo(120, 132);
    card.lineTo(120, 16);
    card.closeSubpath();
    s.p.setPen(QPen(s.c.wood.darker(130), 1.2));
    s.p.setBrush(s.c.wood);
    s.p.drawPath(card);
    s.p.setBrush(Qt::NoBrush);
    for (double t : {0.08, 0.2, 0.32}) s.reading(card.pointAtPercent(t));
    s.corner({60, 132});
    s.words({190, 60}, "card: points of its edge");
}

void laser_meter(Sketcher& s) {
    const QPointF stand(80, 112), at = Sketcher::on_hull(0.42);
    s.line(stand, stand + QPointF(110, 0), s.c.line, 1.2, Qt::DashLine);
    s.line(stand, at, s.c.accent, 1.6);
    s.p.setPen(QPen(s.c.ink, 1));
    s.p.drawArc(QRectF(stand - QPointF(56, 56), QSizeF(112, 112)), 0, 16 * 18);
    s.pin(stand);
    s.reading(at);
    s.words((stand + at) / 2 - QPointF(10, 12), "range");
    s.words(stand + QPointF(66, -10), "turn to the left, rise", Qt::AlignLeft);
    s.words(stand + QPointF(50, 14), "where it first looks", Qt::AlignLeft);
    s.words(stand + QPointF(0, 16), "stand point");
}

void bevel_gauge(Sketcher& s) {
    const QPointF at = Sketcher::on_hull(0.45);
    s.line(at - QPointF(150, 0), at, s.c.wood.darker(130), 5);
    s.line(at, at - QPointF(0, 58), s.c.line, 1.2, Qt::DashLine);
    s.p.setPen(QPen(s.c.accent, 1.6));
    s.p.drawArc(QRectF(at - QPointF(42, 42), QSizeF(84, 84)), 16 * 72, 16 * 18);
    s.reading(at);
    s.words(at + QPointF(-20, -56), "bevel", Qt::AlignRight);
    s.words(at - QPointF(96, 14), "the panel's plane");
    s.words(at + QPointF(-60, 26), "+ where the hull opens to face B", Qt::AlignHCenter);
}

void mirrored(Sketcher& s) {
    s.line({160, 6}, {160, 144}, s.c.ink, 1.2, Qt::DashDotLine);
    for (int side : {1, -1}) {
        QPainterPath path(QPointF(160 + side * 116, 12));
        path.cubicTo(160 + side * 98, 70, 160 + side * 80, 100, 160 + side * 16, 136);
        s.p.setPen(QPen(s.c.certain, 2.2, side > 0 ? Qt::DashLine : Qt::SolidLine));
        s.p.drawPath(path);
        for (double t : {0.2, 0.5})
            if (side < 0) s.reading(path.pointAtPercent(t));
    }
    s.arrow({120, 50}, {200, 50}, s.c.accent);
    s.words({112, 78}, "read here");
    s.words({204, 78}, "taken over here");
    s.words({160, 144}, "centre line");
}

void scan(Sketcher& s) {
    for (int k = 1; k < 24; ++k) {
        const QPointF at = Sketcher::on_hull(k / 24.0) - QPointF((k * 7) % 5 - 2, 0);
        s.p.fillRect(QRectF(at - QPointF(1, 1), QSizeF(2.4, 2.4)), s.c.ink);
    }
    const QPointF stand(90, 80);
    for (double dx : {-14.0, 0.0, 14.0}) s.line(stand, stand + QPointF(dx, 50), s.c.ink, 1.4);
    s.pin(stand);
    for (double t : {0.2, 0.5, 0.8}) s.line(stand, Sketcher::on_hull(t), s.c.line);
    s.words(stand - QPointF(0, 18), "where the scanner stood");
}

void direct(Sketcher& s) {
    const QPointF zero(80, 112);
    s.arrow(zero, zero + QPointF(0, -80), s.c.accent);
    s.arrow(zero, zero + QPointF(84, 0), s.c.accent);
    s.arrow(zero, zero + QPointF(-40, 26), s.c.accent);
    s.words(zero + QPointF(0, -90), "up");
    s.words(zero + QPointF(90, 0), "port", Qt::AlignLeft);
    s.words(zero + QPointF(-44, 30), "fwd", Qt::AlignRight);
    const QPointF at = Sketcher::on_hull(0.4);
    s.line({at.x(), at.y()}, {zero.x(), at.y()}, s.c.line, 1, Qt::DashLine);
    s.reading(at);
    s.words(zero + QPointF(4, 14), "the boat's zero", Qt::AlignLeft);
}

void draw(Sketcher& s, School school) {
    if (school != School::mirrored) s.hull();
    switch (school) {
        case School::ordinates: return ordinates(s);
        case School::strip_pattern: return strip_pattern(s);
        case School::direct: return direct(s);
        case School::strip_edges: return strip_edges(s);
        case School::tick_stick: return tick_stick(s, false);
        case School::tick_stick_angle: return tick_stick(s, true);
        case School::fixed_points: return fixed_points(s);
        case School::compass_scribe: return compass_scribe(s);
        case School::traced: return traced(s);
        case School::laser_meter: return laser_meter(s);
        case School::bevel_gauge: return bevel_gauge(s);
        case School::mirrored: return mirrored(s);
        case School::scan: return scan(s);
    }
}

}  // namespace

void draw_school(QPainter& painter, const QRectF& box, School school) {
    painter.save();
    const double scale = std::min(box.width() / sketch_wide, box.height() / sketch_high);
    painter.translate(box.center() - QPointF(sketch_wide, sketch_high) * scale / 2);
    painter.scale(scale, scale);
    Sketcher sketcher(painter);
    draw(sketcher, school);
    painter.restore();
}

SchoolSketch::SchoolSketch(QWidget* parent) : QWidget(parent) {
    setFixedHeight(172);
    setAccessibleName("how it is held");
}

void SchoolSketch::show_school(School school) {
    school_ = school;
    const auto words = survey::school_words(school);
    setAccessibleDescription(QString::fromUtf8(words.data(), static_cast<int>(words.size())));
    update();
}

void SchoolSketch::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), theme().colours().paper);
    draw_school(painter, QRectF(rect()).adjusted(8, 8, -8, -8), school_);
}

}  // namespace bevelsmith::app
