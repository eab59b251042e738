#include "app/measure/cloud_picture.h"

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
    setAccessibleName("the scan from above and from ahead");
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
    const double half = width() / 2.0;
    draw(p, QRectF(0, 0, half, height()), 0, 1, "from above, fwd at right");
    draw(p, QRectF(half, 0, half, height()), 1, 2, "looking aft, port at right");
}

}  // namespace bevelsmith::app
