#include "app/shell/cloud_picture.h"

#include <QPainter>

#include "app/look/theme.h"

namespace bevelsmith::app {
namespace {

/// More dots than this only make the picture slow.
survey::Cloud sparse(const survey::Cloud& cloud) {
    constexpr std::size_t most = 12000;
    const std::size_t step = cloud.size() / most + 1;
    survey::Cloud out;
    for (std::size_t i = 0; i < cloud.size(); i += step) out.push_back(cloud[i]);
    return out;
}

}  // namespace

CloudPicture::CloudPicture(QWidget* parent) : QWidget(parent) {
    setMinimumHeight(210);
    setAccessibleName("the scan from the side and from above");
}

void CloudPicture::show_clouds(const survey::Cloud& all, const survey::Cloud& kept) {
    all_ = sparse(all);
    kept_ = sparse(kept);
    update();
}

void CloudPicture::draw(QPainter& p, const QRectF& place, int across, int up, const QString& words) const {
    const auto& c = theme().colours();
    p.setPen(c.faint);
    p.setFont(Theme::font(size::text_small));
    p.drawText(place.adjusted(6, 4, 0, 0), Qt::AlignLeft | Qt::AlignTop, words);
    const auto box = survey::box_of(all_);
    const Vec3 wide = box.high - box.low;
    const double scale =
        std::min((place.width() - 16) / std::max(wide[across], 1.0), (place.height() - 28) / std::max(wide[up], 1.0));
    const auto dots = [&](const survey::Cloud& cloud, const QColor& colour) {
        for (const Vec3& at : cloud)
            p.fillRect(QRectF(place.left() + 8 + scale * (at[across] - box.low[across]),
                              place.bottom() - 6 - scale * (at[up] - box.low[up]), 1.3, 1.3),
                       colour);
    };
    dots(all_, c.line);
    dots(kept_, c.certain);
}

void CloudPicture::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), theme().colours().paper);
    if (all_.empty()) return;
    const double half = height() / 2.0;
    draw(p, QRectF(0, 0, width(), half), 0, 2, "from starboard");
    draw(p, QRectF(0, half, width(), half), 0, 1, "from above");
}

}  // namespace bevelsmith::app
