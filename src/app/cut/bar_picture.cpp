#include "app/cut/bar_picture.h"

#include <QPainter>
#include <algorithm>

#include "app/look/theme.h"

namespace bevelsmith::app {
namespace {

constexpr int bar_px = 18, between_px = 6, most_bars = 40;

/// Its near edge below.
QPolygonF shape_of(const sheets::LaidLength& lies, const QRectF& bar, double px_mm) {
    const auto at = [&](double mm, double y) { return QPointF(bar.left() + mm * px_mm, y); };
    return {{at(lies.near_from_mm, bar.bottom()), at(lies.near_to_mm, bar.bottom()), at(lies.far_to_mm, bar.top()),
             at(lies.far_from_mm, bar.top())}};
}

}  // namespace

BarPicture::BarPicture(Document& document) : document_(document) {
    setAccessibleName("bars as they are cut");
}

QSize BarPicture::sizeHint() const {
    int bars = 0;
    for (const auto& section : document_.computed()->results.lengths)
        bars += static_cast<int>(section.plan->bars.size());
    return {300, std::min(bars, most_bars) * (bar_px + between_px) + between_px};
}

void BarPicture::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto& c = theme().colours();
    p.setFont(Theme::font(size::text_small));
    double longest = 1;
    const auto& lengths = document_.computed()->results.lengths;
    for (const auto& section : lengths)
        for (const auto& bar : section.problem->bars) longest = std::max(longest, bar.length_mm);
    const double px_mm = (width() - 2.0) / longest;
    int row = 0;
    for (const auto& section : lengths)
        for (const auto& bar : section.plan->bars) {
            if (row >= most_bars) return;
            const double y = between_px + row++ * (bar_px + between_px);
            const QRectF whole(1, y, section.problem->bars[static_cast<std::size_t>(bar.bar)].length_mm * px_mm,
                               bar_px);
            p.fillRect(whole, QBrush(c.line, Qt::BDiagPattern));
            p.setPen(c.ink);
            for (const auto& cut : bar.lengths) {
                const double mm = section.problem->parts[static_cast<std::size_t>(cut.part)].length_mm;
                p.setBrush(c.wood);
                p.drawPolygon(shape_of(sheets::laid(*section.problem, cut), whole, px_mm));
                const QRectF box(1 + cut.from_mm * px_mm, y, mm * px_mm, bar_px);
                const QString words = document_.length_number(mm);
                if (p.fontMetrics().horizontalAdvance(words) + 4 < box.width())
                    p.drawText(box, Qt::AlignCenter, words);
            }
            p.setBrush(Qt::NoBrush);
            p.drawRect(whole);
        }
}

}  // namespace bevelsmith::app
