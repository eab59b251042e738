// A page of a PDF in millimetres. For the papers' own files.
#pragma once

#include <QPainter>
#include <QPdfWriter>
#include <algorithm>
#include <string>

#include "paper/fonts.h"
#include "units/quantity.h"

namespace bevelsmith::paper {

/// A4, upright.
inline constexpr double page_w = 210, page_h = 297, margin = 12;

/// Millimetres on the page, down downwards.
class Paper {
  public:
    explicit Paper(QPdfWriter& writer) : writer_(writer), painter_(&writer), dots_(writer.logicalDpiX() / 25.4) {
        painter_.scale(dots_, dots_);
    }
    QPainter& painter() { return painter_; }
    void next_page() {
        if (begun_) writer_.newPage();
        begun_ = true;
    }
    void pen(double width_mm, Qt::PenStyle style = Qt::SolidLine) {
        painter_.setPen(QPen(Qt::black, width_mm, style, Qt::FlatCap, Qt::MiterJoin));
        painter_.setBrush(Qt::NoBrush);
    }
    /// In one line within a width; what is longer is cut off with an ellipsis.
    void text(const QRectF& box, double size_mm, const QString& words, bool strong = false,
              Qt::Alignment align = Qt::AlignLeft | Qt::AlignVCenter) {
        painter_.save();
        painter_.resetTransform();
        QFont font(bundled_family());
        font.setPixelSize(std::max(1, static_cast<int>(size_mm * dots_)));
        font.setWeight(strong ? QFont::DemiBold : QFont::Normal);
        painter_.setFont(font);
        painter_.setPen(Qt::black);
        const QRectF dots(box.x() * dots_, box.y() * dots_, box.width() * dots_, box.height() * dots_);
        painter_.drawText(dots, static_cast<int>(align),
                          painter_.fontMetrics().elidedText(words, Qt::ElideRight, static_cast<int>(dots.width())));
        painter_.restore();
    }

  private:
    QPdfWriter& writer_;
    QPainter painter_;
    double dots_;
    bool begun_ = false;
};

inline QString text_of(const std::string& words) {
    return QString::fromStdString(words);
}

inline QString length(double mm, units::LengthUnit unit) {
    return text_of(units::format_length_number(mm, unit));
}

}  // namespace bevelsmith::paper
