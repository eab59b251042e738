#include "paper/page.h"

#include <QPageLayout>
#include <QPageSize>

#include <algorithm>
#include <cmath>

#include "paper/fonts.h"
#include "units/figures.h"

namespace bevelsmith::paper {
namespace {

QPagedPaintDevice& with_page(QPagedPaintDevice& device, const QSizeF& mm) {
    // Common sizes by their names, so that printers and viewers know them; lying ones turned.
    const QSizeF upright(std::min(mm.width(), mm.height()), std::max(mm.width(), mm.height()));
    const QPageSize named(upright, QPageSize::Millimeter, {}, QPageSize::FuzzyMatch);
    const bool common = named.id() != QPageSize::Custom;
    const bool lies = common && mm.width() > mm.height();
    device.setPageLayout(QPageLayout(
        common ? QPageSize(named.id()) : QPageSize(mm, QPageSize::Millimeter, {}, QPageSize::ExactMatch),
        lies ? QPageLayout::Landscape : QPageLayout::Portrait, QMarginsF(0, 0, 0, 0), QPageLayout::Millimeter));
    return device;
}

}  // namespace

Paper::Paper(QPagedPaintDevice& device, const QSizeF& page_mm)
    : device_(device),
      size_(page_mm),
      painter_(&with_page(device, page_mm)),
      dots_(device.logicalDpiX() / units::mm_per_inch) {
    painter_.scale(dots_, dots_);
}

void Paper::next_page(const QSizeF& page_mm) {
    if (page_mm != size_) with_page(device_, page_mm);
    size_ = page_mm;
    device_.newPage();
    untouched_ = false;
}

void Paper::begin_page(const QSizeF& page_mm) {
    if (!untouched_ || page_mm != size_) next_page(page_mm);
    untouched_ = false;
}

void Paper::pen(double width_mm, Qt::PenStyle style, const QColor& colour) {
    painter_.setPen(QPen(colour, width_mm, style, Qt::FlatCap, Qt::MiterJoin));
    painter_.setBrush(Qt::NoBrush);
}

void Paper::arrow(const QPointF& from, const QPointF& to, double head_mm) {
    const QPointF way = to - from;
    const double length = std::hypot(way.x(), way.y());
    if (length < 1e-6) return;
    const QPointF d = way / length, side(-d.y(), d.x());
    line(from, to);
    line(to, to - head_mm * d + head_mm / 3 * side);
    line(to, to - head_mm * d - head_mm / 3 * side);
}

void Paper::leader(const QPointF& thing, const QPointF& middle, const QSizeF& words, double least_mm) {
    const QPointF way = thing - middle;
    const double x = std::abs(way.x()) / (words.width() / 2), y = std::abs(way.y()) / (words.height() / 2),
                 out = std::max(x, y);
    if (out <= 1 || (1 - 1 / out) * std::hypot(way.x(), way.y()) < least_mm) return;
    pen(0.08);
    line(middle + way / out, thing);
}

QFont Paper::font(double size_mm, bool strong) const {
    QFont out(bundled_family());
    // In dots, not in scaled millimetres, so that letters keep their true spacing.
    out.setPixelSize(std::max(1, static_cast<int>(std::lround(size_mm * dots_))));
    out.setWeight(strong ? QFont::DemiBold : QFont::Normal);
    // The face's own ligatures make one glyph of a sign between figures, which cannot be copied out of a PDF.
    out.setStyleStrategy(QFont::PreferNoShaping);
    return out;
}

QSizeF Paper::extent(double size_mm, const QString& words, bool strong) const {
    const QFontMetricsF metrics(font(size_mm, strong), &device_);
    return QSizeF(metrics.horizontalAdvance(words), metrics.ascent() + metrics.descent()) / dots_;
}

void Paper::write(const QRectF& box, double size_mm, const QString& words, bool strong, int flags) {
    painter_.save();
    painter_.resetTransform();
    painter_.setFont(font(size_mm, strong));
    painter_.setPen(Qt::black);
    painter_.drawText(QRectF(box.topLeft() * dots_, box.size() * dots_), flags, words);
    painter_.restore();
}

void Paper::text(const QRectF& box, double size_mm, const QString& words, bool strong, Qt::Alignment align) {
    const double wide = extent(size_mm, words, strong).width();
    const double fits = wide > box.width() ? size_mm * box.width() / wide * 0.99 : size_mm;
    write(box, fits, words, strong, static_cast<int>(align) | Qt::TextDontClip | Qt::TextSingleLine);
}

double Paper::lines(const QRectF& box, double size_mm, const QString& words, bool strong) {
    const QFontMetricsF metrics(font(size_mm, strong), &device_);
    constexpr int flags = Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap;
    const QRectF room(0, 0, box.width() * dots_, 1e6);
    const double height = metrics.boundingRect(room, flags, words).height() / dots_;
    write(QRectF(box.topLeft(), QSizeF(box.width(), height + 1)), size_mm, words, strong, flags);
    return height;
}

void Paper::label(const QPointF& middle, double size_mm, const QString& words, double turn_deg, bool strong) {
    const QSizeF size = extent(size_mm, words, strong);
    painter_.save();
    painter_.resetTransform();
    painter_.translate(middle * dots_);
    painter_.rotate(turn_deg);
    const QRectF box(-size.width() / 2 * dots_, -size.height() / 2 * dots_, size.width() * dots_,
                     size.height() * dots_);
    const double inset = 0.15 * size.height() * dots_;
    painter_.fillRect(box.adjusted(-inset, inset, inset, -inset), Qt::white);
    painter_.setFont(font(size_mm, strong));
    painter_.setPen(Qt::black);
    painter_.drawText(box, Qt::AlignCenter | Qt::TextDontClip | Qt::TextSingleLine, words);
    painter_.restore();
}

QString length(double mm, units::LengthUnit unit) {
    return text_of(units::figure(mm, unit));
}

QString length_with_unit(double mm, units::LengthUnit unit) {
    return text_of(units::figure_with_unit(mm, unit));
}

QString bevel_figure(double degrees) {
    const QString size = QString::number(std::abs(degrees), 'f', 1);
    if (size == "0.0") return size + QChar(0xb0);
    return (degrees < 0 ? QString(QChar(0x2212)) : QString("+")) + size + QChar(0xb0);
}

QPainterPath path_of(const geometry::Polygon& shape) {
    QPainterPath out;
    const auto ring = [&](const geometry::Ring& r) {
        for (std::size_t i = 0; i < r.size(); ++i)
            i ? out.lineTo(r[i].x(), -r[i].y()) : out.moveTo(r[i].x(), -r[i].y());
        out.closeSubpath();
    };
    ring(shape.outer);
    for (const auto& hole : shape.holes) ring(hole);
    return out;
}

void check_line(Paper& paper, const QPointF& from, bool upright, units::LengthUnit unit) {
    const double long_mm = units::check_length_mm(unit);
    constexpr double tick = 2;
    const QPointF to = from + (upright ? QPointF(0, long_mm) : QPointF(long_mm, 0));
    const QPointF across = upright ? QPointF(tick, 0) : QPointF(0, tick);
    paper.pen(0.3);
    paper.line(from, to);
    paper.line(from - across, from + across);
    paper.line(to - across, to + across);
    const QString words = "measure this line: " + (units::in_inches(unit) ? QString("4 in") : QString("100 mm"));
    paper.label((from + to) / 2, 2.6, words, upright ? -90 : 0);
}

void Room::take_line(const QPointF& a, const QPointF& b) {
    const double length = std::hypot(b.x() - a.x(), b.y() - a.y());
    const int n = std::max(1, static_cast<int>(length));
    for (int k = 0; k <= n; ++k) points_.push_back(a + (b - a) * k / n);
}

bool Room::is_free(const QRectF& box) const {
    return within_.contains(box) &&
           std::none_of(taken_.begin(), taken_.end(), [&](const QRectF& t) { return t.intersects(box); }) &&
           std::none_of(points_.begin(), points_.end(), [&](const QPointF& p) { return box.contains(p); });
}

std::optional<QPointF> Room::find(const std::vector<QPointF>& places, const QSizeF& size) {
    for (const QPointF& at : places) {
        const QRectF box(at - QPointF(size.width() / 2, size.height() / 2), size);
        if (!is_free(box)) continue;
        take(box);
        return at;
    }
    return std::nullopt;
}

}  // namespace bevelsmith::paper
