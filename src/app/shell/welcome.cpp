#include "app/shell/welcome.h"

#include <QLabel>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>

#include "app/look/theme.h"

namespace bevelsmith::app {

Welcome::Welcome() {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(110, 0, 60, 0);
    auto* column = new QVBoxLayout;
    column->setSpacing(size::gap);
    column->addStretch(2);
    auto* name = new QLabel("Bevelsmith");
    name->setObjectName("title");
    name->setStyleSheet("font-size: 40px;");
    column->addWidget(name);
    auto* words = new QLabel("From what you read off the hull's inside to a panel that fits:\nboth faces with their bevels, sheets, fixings, weight.");
    words->setStyleSheet("font-size: 15px;");
    column->addWidget(words);
    column->addSpacing(24);
    doors_ = new QVBoxLayout;
    doors_->setSpacing(size::gap);
    column->addLayout(doors_);
    const auto door = [&](const QString& title, const QString& what, auto signal, bool main) {
        auto* button = new QPushButton(title);
        button->setMinimumHeight(40);
        if (main) button->setObjectName("act");
        doors_->addWidget(button);
        auto* under = new QLabel(what);
        under->setObjectName("small");
        under->setWordWrap(true);
        under->setContentsMargins(4, 0, 0, 8);
        doors_->addWidget(under);
        connect(button, &QPushButton::clicked, this, signal);
    };
    door("Measure a first piece", "Make a set of readings, type them, and see the surface grow. Five minutes to an outline.", &Welcome::new_asked, true);
    door("Open Ternlight", "A 10.8 m pilot launch in the middle of her fit-out: look around, change anything.", &Welcome::demo_asked, false);
    door("Open a job", "One that you saved before.", &Welcome::open_asked, false);
    column->addStretch(3);
    row->addLayout(column, 2);
    row->addStretch(3);
}

void Welcome::offer(const QString& words, const std::function<void()>& act) {
    auto* button = new QPushButton(words);
    button->setMinimumHeight(40);
    doors_->insertWidget(0, button);
    connect(button, &QPushButton::clicked, this, act);
}

/// A hull's sections and one panel in it, in a few lines.
void Welcome::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto& c = theme().colours();
    p.fillRect(rect(), c.paper);
    p.translate(width() * 0.72, height() * 0.40);
    const auto section = [](double w, double d, double shift) {
        QPainterPath path;
        path.moveTo(-w + shift, -d * 0.62);
        path.cubicTo(-w + shift, d * 0.25, -w * 0.62 + shift, d * 0.62, shift, d * 0.66);
        path.cubicTo(w * 0.62 + shift, d * 0.62, w + shift, d * 0.25, w + shift, -d * 0.62);
        return path;
    };
    for (int k = 6; k >= 0; --k) {
        const double s = 1 - 0.075 * k;
        p.setPen(QPen(k == 3 ? c.ink : c.line, k == 3 ? 2 : 1.4));
        if (k == 3) {
            QPainterPath panel = section(240 * s, 300 * s, 12 * k);
            panel.closeSubpath();
            QPainterPath door;
            door.addRoundedRect(QRectF(12 * k - 48, -120, 96, 210), 16, 16);
            p.setBrush(c.wood);
            p.drawPath(panel.subtracted(door));
            p.setBrush(Qt::NoBrush);
            p.setPen(QPen(c.accent, 1.5, Qt::DashLine));
            p.drawPath(section(249 * s, 308 * s, 12 * k));
            continue;
        }
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(k < 3 ? c.certain : c.line, 1.4));
        p.drawPath(section(240 * s, 300 * s, 12 * k));
    }
}

}  // namespace bevelsmith::app
