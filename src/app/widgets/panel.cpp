#include "app/widgets/panel.h"

#include <QApplication>
#include <QPainter>
#include <QScrollArea>
#include <QScrollBar>
#include <algorithm>
#include <cmath>
#include <tuple>

#include "app/document/document.h"
#include "app/look/theme.h"

namespace bevelsmith::app {
namespace {

QLabel* label(const QString& text, const char* kind) {
    auto* out = new QLabel(text);
    out->setTextFormat(Qt::PlainText);  // names are a person's: none of them is markup
    out->setObjectName(kind);
    out->setWordWrap(true);
    return out;
}

}  // namespace

Panel::Panel(QWidget* parent) : QWidget(parent) {
    outer_ = new QVBoxLayout(this);
    outer_->setContentsMargins(size::pad, size::pad, 0, size::pad);
    outer_->setSpacing(size::gap);
    scroll_ = new QScrollArea;
    scroll_->setObjectName("ground");
    scroll_->setFrameShape(QFrame::NoFrame);
    scroll_->setWidgetResizable(true);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll_->setFocusPolicy(Qt::NoFocus);
    auto* inside = new QWidget;
    column_ = new QVBoxLayout(inside);
    column_->setContentsMargins(0, 0, size::pad, 0);
    column_->setSpacing(6);
    scroll_->setWidget(inside);
    outer_->addWidget(scroll_, 1);
    inside->installEventFilter(this);
    connect(qApp, &QApplication::focusChanged, this, &Panel::note_field);
    connect(scroll_->verticalScrollBar(), &QScrollBar::valueChanged, this, &Panel::note_field);
}

void Panel::note_field() {
    QWidget* field = QApplication::focusWidget();
    held_ = field && scroll_->widget()->isAncestorOf(field) ? field : nullptr;
    if (held_) held_y_ = held_->mapTo(scroll_->widget(), QPoint()).y() - scroll_->verticalScrollBar()->value();
}

void Panel::hold_field() {
    if (!held_ || !held_->isVisible() || !scroll_->widget()->isAncestorOf(held_)) return;
    auto* bar = scroll_->verticalScrollBar();
    // note_field hears of this too, and takes down where it could not be held.
    bar->setValue(held_->mapTo(scroll_->widget(), QPoint()).y() - held_y_);
    note_field();
}

bool Panel::eventFilter(QObject* watched, QEvent* event) {
    // Behind the layout, before anything is painted.
    if (watched == scroll_->widget() && event->type() == QEvent::LayoutRequest)
        QMetaObject::invokeMethod(this, &Panel::hold_field, Qt::QueuedConnection);
    return QWidget::eventFilter(watched, event);
}

QLabel* Panel::heading(const QString& text) {
    auto* out = label(text, "heading");
    column_->addWidget(out);
    return out;
}

QLabel* Panel::words(const QString& text, bool faint) {
    auto* out = label(text, faint ? "small" : "words");
    column_->addWidget(out);
    return out;
}

FaultLine* Panel::fault() {
    auto* out = new FaultLine;
    column_->addWidget(out);
    return out;
}

void Panel::add_field(const QString& name, QWidget* widget) {
    if (widget->accessibleName().isEmpty()) widget->setAccessibleName(name);
    auto* row = new QHBoxLayout;
    row->setSpacing(size::gap);
    auto* title = new QLabel(name);
    title->setObjectName("small");
    title->setFixedWidth(98);
    title->setWordWrap(true);
    title->setBuddy(widget);
    row->addWidget(title);
    row->addWidget(widget, 1);
    column_->addLayout(row);
    if (auto* edit = qobject_cast<QuantityEdit*>(widget)) {
        connect(edit, &QuantityEdit::fault_changed, fault(), &FaultLine::say);
    }
}

QComboBox* Panel::choice(const QString& name, const QStringList& words) {
    auto* box = new QComboBox;
    box->addItems(words);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    add_field(name, box);
    return box;
}

QPushButton* Panel::quiet_button(const QString& text) {
    auto* out = new QPushButton(text);
    out->setObjectName("quiet");
    column_->addWidget(out, 0, Qt::AlignLeft);
    return out;
}

QPushButton* Panel::act(const QString& text) {
    auto* out = new QPushButton(text);
    out->setObjectName("act");
    auto* row = new QHBoxLayout;
    row->setContentsMargins(0, 0, size::pad, 0);
    row->addWidget(out);
    outer_->addLayout(row);
    return out;
}

std::vector<QWidget*> Panel::in_order() const {
    std::vector<QWidget*> out;
    for (QWidget* w : findChildren<QWidget*>())
        if ((w->focusPolicy() & Qt::TabFocus) == Qt::TabFocus && w->isVisible() && w->isEnabled() && !w->focusProxy())
            out.push_back(w);
    const auto place = [this](const QWidget* w) {
        const QPoint middle = w->mapTo(this, w->rect().center()), left = w->mapTo(this, QPoint());
        return std::tuple(w->property("reason").toBool(), middle.y() / 12, left.x());
    };
    std::stable_sort(out.begin(), out.end(), [&](const QWidget* a, const QWidget* b) { return place(a) < place(b); });
    return out;
}

void Panel::enter(bool at_first) {
    const auto order = in_order();
    if (order.empty()) return;
    QWidget* to = at_first ? order.front() : order.back();
    if (to != QApplication::focusWidget()) to->setFocus(at_first ? Qt::TabFocusReason : Qt::BacktabFocusReason);
}

bool Panel::focusNextPrevChild(bool next) {
    const auto order = in_order();
    const auto now = std::find(order.begin(), order.end(), focusWidget());
    if (now != order.end()) {
        const auto k = now - order.begin() + (next ? 1 : -1);
        if (k >= 0 && k < static_cast<std::ptrdiff_t>(order.size())) {
            order[static_cast<std::size_t>(k)]->setFocus(next ? Qt::TabFocusReason : Qt::BacktabFocusReason);
            return true;
        }
        // Out of the panel, to the first that is not of it.
        for (QWidget* w = next ? nextInFocusChain() : previousInFocusChain(); w && w != this;
             w = next ? w->nextInFocusChain() : w->previousInFocusChain())
            if (!isAncestorOf(w) && w->window() == window() && (w->focusPolicy() & Qt::TabFocus) == Qt::TabFocus &&
                w->isVisible() && w->isEnabled()) {
                w->setFocus(next ? Qt::TabFocusReason : Qt::BacktabFocusReason);
                return true;
            }
    }
    return QWidget::focusNextPrevChild(next);
}

Figure::Figure(const QString& name, QWidget* parent) : QWidget(parent) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 2);
    column->setSpacing(0);
    name_ = label(name, "small");
    column->addWidget(name_);
    auto* row = new QHBoxLayout;
    row->setSpacing(5);
    value_ = new QLabel("–");
    value_->setObjectName("figure");
    unit_ = new QLabel;
    unit_->setObjectName("unit");
    why_ = new QPushButton("why?");
    why_->setProperty("reason", true);
    why_->setObjectName("quiet");
    why_->setCheckable(true);
    row->addWidget(value_, 0, Qt::AlignBaseline);
    row->addWidget(unit_, 0, Qt::AlignBaseline);
    row->addStretch(1);
    row->addWidget(why_, 0, Qt::AlignBaseline);
    column->addLayout(row);
    reason_ = label({}, "small");
    reason_->hide();
    column->addWidget(reason_);
    connect(why_, &QPushButton::toggled, reason_, &QWidget::setVisible);
}

void Figure::show_value(const QString& value, const QString& unit, const QString& why) {
    // A long figure is set smaller rather than cut off: the column has room for about this much beside unit and why.
    constexpr int room = 178;
    int pixels = size::text_large;
    while (pixels > size::text && QFontMetrics(Theme::font(pixels, true)).horizontalAdvance(value) > room) --pixels;
    value_->setStyleSheet(pixels == size::text_large ? QString() : QString("font-size: %1px;").arg(pixels));
    value_->setText(value);
    unit_->setText(unit);
    reason_->setText(why);
    why_->setVisible(!why.isEmpty());
    if (why.isEmpty()) reason_->hide();
}

QPixmap severity_sign(review::Severity severity, int pixels) {
    const double scale = 2;  // drawn at twice the size, for dense screens
    QPixmap out(static_cast<int>(pixels * scale), static_cast<int>(pixels * scale));
    out.setDevicePixelRatio(scale);
    out.fill(Qt::transparent);
    QPainter p(&out);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(Qt::NoPen);
    p.setBrush(theme().severity(severity));
    const double r = pixels / 2.0;
    const int corners = severity == review::Severity::stop ? 8 : severity == review::Severity::mind ? 3 : 40;
    const double first = corners == 3 ? -M_PI / 2 : M_PI / 8, drop = corners == 3 ? r * 0.2 : 0;
    QPolygonF shape;
    for (int k = 0; k < corners; ++k)
        shape << QPointF(r + 0.95 * r * std::cos(first + 2 * M_PI * k / corners),
                         r + drop + 0.95 * r * std::sin(first + 2 * M_PI * k / corners));
    p.drawPolygon(shape);
    p.setPen(QPen(theme().colours().ground, 1.6, Qt::SolidLine, Qt::RoundCap));
    if (severity == review::Severity::stop) p.drawLine(QPointF(r * 0.6, r), QPointF(r * 1.4, r));
    else p.drawLine(QPointF(r, r * 0.75 + drop), QPointF(r, r * 1.1 + drop));
    if (severity != review::Severity::stop) p.drawPoint(QPointF(r, r * 1.45 + drop * 0.6));
    return out;
}

FoldOut::FoldOut(QWidget* content, int most_px) : most_px_(most_px) {
    setFrameShape(QFrame::NoFrame);
    setObjectName("ground");
    setWidgetResizable(true);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFocusPolicy(Qt::NoFocus);
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Maximum);
    setWidget(content);
    content->installEventFilter(this);
}

QSize FoldOut::sizeHint() const {
    const int wide = std::max(1, viewport()->width());
    const int high = widget()->hasHeightForWidth() ? widget()->heightForWidth(wide) : widget()->sizeHint().height();
    return {widget()->sizeHint().width(), std::min(most_px_, high + 2)};
}

bool FoldOut::eventFilter(QObject* watched, QEvent* event) {
    if (watched == widget() && event->type() == QEvent::LayoutRequest) updateGeometry();
    return QScrollArea::eventFilter(watched, event);
}

FindingRow::FindingRow(const review::Finding& f, Document* document, QWidget* parent) : QWidget(parent) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 2, 0, 4);
    row->setSpacing(size::gap);
    auto* sign = new QLabel;
    sign->setPixmap(severity_sign(f.severity, 16));
    sign->setAccessibleName(QString::fromUtf8(review::severity_word(f.severity).data()));
    row->addWidget(sign, 0, Qt::AlignTop);
    auto* text = new QVBoxLayout;
    text->setSpacing(1);
    const auto word = QString::fromUtf8(review::severity_word(f.severity).data());
    auto* title = label(word.left(1).toUpper() + word.mid(1) + ": " + QString::fromStdString(f.title), "heading");
    text->addWidget(title);
    text->addWidget(label(QString::fromStdString(f.evidence), "small"));
    auto* advice = label(QString::fromStdString(f.set_aside ? "Set aside: " + f.reason : f.advice), "words");
    text->addWidget(advice);
    for (const auto& mending : f.set_aside || !document ? std::vector<job::Mending>() : f.mendings) {
        auto* button = new QPushButton(QString::fromStdString(job::words(mending, document->built())));
        button->setObjectName("quiet");
        text->addWidget(button, 0, Qt::AlignLeft);
        // The row may be rebuilt by what its own button does.
        connect(
            button, &QPushButton::clicked, document, [document, mending] { document->mend(mending); },
            Qt::QueuedConnection);
    }
    row->addLayout(text, 1);
}

FindingsBox::FindingsBox(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
    column_ = new QVBoxLayout(this);
    column_->setContentsMargins(0, 0, 0, 0);
    column_->setSpacing(2);
}

void FindingsBox::show_findings(const std::vector<review::Finding>& findings) {
    if (findings == shown_) return;
    shown_ = findings;
    while (auto* item = column_->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    for (const auto& f : findings)
        if (!f.set_aside) column_->addWidget(new FindingRow(f, &document_));
}

}  // namespace bevelsmith::app
