#include "app/shell/welcome.h"

#include <QFileInfo>
#include <QLabel>
#include <QLocale>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <QScrollArea>

#include "app/look/theme.h"
#include "app/shell/keeping_panels.h"
#include "app/widgets/silhouette.h"

namespace bevelsmith::app {

namespace {

/// Narrower, the doors' words would not stand on them.
constexpr int least_px = 460;

}  // namespace

Welcome::Welcome() {
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(0, 0, 0, 0);
    scroll_ = new QScrollArea;
    scroll_->setFrameShape(QFrame::NoFrame);
    scroll_->setWidgetResizable(true);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll_->viewport()->setAutoFillBackground(false);
    whole->addWidget(scroll_);
    auto* inside = new QWidget;
    auto* row = new QHBoxLayout(inside);
    row->setContentsMargins(0, size::pad, 0, size::pad);
    row->addStretch(11);
    words_ = new QWidget;
    words_->setMinimumWidth(least_px);
    auto* column = new QVBoxLayout(words_);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(size::gap);
    column->addStretch(2);
    auto* name = new QLabel("Bevelsmith");
    name->setObjectName("title");
    name->setStyleSheet("font-size: 40px;");
    column->addWidget(name);
    auto* words = new QLabel(
        "From what you read off the hull's inside to a panel that fits: both faces with their bevels, sheets, "
        "fixings, weight.");
    words->setStyleSheet("font-size: 15px;");
    words->setWordWrap(true);
    column->addWidget(words);
    column->addSpacing(24);
    kept_ = new QVBoxLayout;
    kept_->setSpacing(size::gap);
    column->addLayout(kept_);
    doors_ = new QVBoxLayout;
    doors_->setSpacing(size::gap);
    column->addLayout(doors_);
    add_doors();
    recent_ = new QVBoxLayout;
    recent_->setSpacing(size::unit);
    column->addLayout(recent_);
    column->addStretch(3);
    row->addWidget(words_, 45);
    row->addStretch(72);
    scroll_->setWidget(inside);
    inside->setAutoFillBackground(false);  // which setting it has turned on
}

/// What one may begin with, each with a line on what it is.
void Welcome::add_doors() {
    const auto door = [&](const QString& title, const QString& what, auto signal, bool main) {
        auto* button = new QPushButton(title);
        if (main) button->setObjectName("act");
        doors_->addWidget(button);
        auto* under = new QLabel(what);
        under->setObjectName("small");
        under->setWordWrap(true);
        under->setContentsMargins(4, 0, 0, 8);
        doors_->addWidget(under);
        connect(button, &QPushButton::clicked, this, signal);
    };
    door("Measure a first piece",
         "Guided: what it is, how you measure, where; then the readings, the piece, its papers. Five minutes.",
         &Welcome::guide_asked, true);
    door("Practise on a virtual hull",
         "Measure a boat that you have not seen, cut a bulkhead, and see how it truly fits.",
         &Welcome::practice_asked, false);
    door(
        "Open Ternlight", "A 10.8 m pilot launch in the middle of her fit-out: look around, change anything.",
        [this] { emit example_asked("ternlight"); }, false);
    auto* smaller = new QHBoxLayout;
    for (const auto& [text, file] : {std::pair("A timber ketch's forecabin", "ketch"),
                                     std::pair("An aluminium workboat's wheelhouse", "workboat")}) {
        auto* button = new QPushButton(text);
        smaller->addWidget(button);
        connect(button, &QPushButton::clicked, this, [this, name = QString(file)] { emit example_asked(name); });
    }
    doors_->addLayout(smaller);
    door("Open a job", "One that you saved before.", &Welcome::open_asked, false);
}

void Welcome::offer(const std::vector<KeptWork>& works) {
    while (auto* item = kept_->takeAt(0)) {
        if (item->widget()) item->widget()->hide(), item->widget()->deleteLater();
        delete item;
    }
    constexpr std::size_t shown = 2;
    if (works.empty()) return;
    auto* heading = new QLabel("Work that was not saved");
    heading->setObjectName("heading");
    kept_->addWidget(heading);
    for (std::size_t k = 0; k < works.size() && k < shown; ++k) {
        auto* card = new KeptCard(works[k]);
        kept_->addWidget(card);
        connect(card, &KeptCard::look_asked, this, &Welcome::look_asked);
        connect(card, &KeptCard::take_up_asked, this, &Welcome::take_up_asked);
        connect(card, &KeptCard::throw_away_asked, this, &Welcome::throw_away_asked);
    }
    if (works.size() > shown) {
        auto* more = new QPushButton(QString("%1 more").arg(works.size() - shown));
        more->setObjectName("quiet");
        kept_->addWidget(more, 0, Qt::AlignLeft);
        connect(more, &QPushButton::clicked, this, &Welcome::kept_asked);
    }
    kept_->addSpacing(size::pad);
}

void Welcome::offer_recent(const std::vector<RecentJob>& jobs) {
    constexpr std::size_t shown = 3;
    while (auto* item = recent_->takeAt(0)) {
        if (item->widget()) item->widget()->hide(), item->widget()->deleteLater();
        delete item;
    }
    for (std::size_t k = 0; k < jobs.size() && k < shown; ++k) {
        const RecentJob& job = jobs[k];
        auto* card = new QPushButton;
        card->setObjectName("card");
        card->setToolTip(job.path);
        const QString name = job.name.isEmpty() ? QFileInfo(job.path).fileName() : job.name;
        card->setAccessibleName("open " + name);
        auto* row = new QHBoxLayout(card);
        row->setContentsMargins(6, 2, 6, 2);
        auto* picture = new Silhouette(job.silhouette, {44, 34});
        const QString when = QLocale(QLocale::English).toString(job.changed, "d MMMM yyyy, HH:mm");
        auto* words = new QLabel(
            QString("<b>%1</b><br><small>%2%3</small>")
                .arg(name.toHtmlEscaped(), job.boat.isEmpty() ? QString() : job.boat.toHtmlEscaped() + " · ", when));
        for (QWidget* w : {static_cast<QWidget*>(picture), static_cast<QWidget*>(words)})
            w->setAttribute(Qt::WA_TransparentForMouseEvents);
        row->addWidget(picture);
        row->addWidget(words, 1);
        recent_->addWidget(card);
        connect(card, &QPushButton::clicked, this, [this, path = job.path] { emit recent_asked(path); });
    }
}

/// A hull's sections and one panel in it, in a few lines.
void Welcome::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto& c = theme().colours();
    p.fillRect(rect(), c.paper);
    // A picture behind words helps nobody.
    const double middle = width() * 0.74, widest = 278;
    if (words_->mapTo(this, QPoint(words_->width(), 0)).x() + size::pad > middle - widest) return;
    p.translate(middle, height() * 0.46);
    const auto section = [](double w, double d, double up) {
        QPainterPath path;
        path.moveTo(-w, -d * 0.62 - up);
        path.cubicTo(-w, d * 0.30 - up, -w * 0.55, d * 0.66 - up, 0, d * 0.66 - up);
        path.cubicTo(w * 0.55, d * 0.66 - up, w, d * 0.30 - up, w, -d * 0.62 - up);
        return path;
    };
    // Sections from the farthest to the nearest; the panel stands in the middle one.
    for (int k = 6; k >= 0; --k) {
        const double s = 1 - 0.09 * k, up = 13.0 * k;
        p.setBrush(Qt::NoBrush);
        if (k != 3) {
            p.setPen(QPen(k < 3 ? c.certain : c.line, 1.4));
            p.drawPath(section(270 * s, 320 * s, up));
            continue;
        }
        QPainterPath panel = section(270 * s, 320 * s, up), door;
        panel.closeSubpath();
        door.addRoundedRect(QRectF(-46, -130 - up, 92, 215), 16, 16);
        p.setPen(QPen(c.ink, 2));
        p.setBrush(c.wood);
        p.drawPath(panel.subtracted(door));
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(c.accent, 1.6, Qt::DashLine));
        p.drawPath(section(278 * s, 328 * s, up));
    }
}

}  // namespace bevelsmith::app
