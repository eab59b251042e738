// Pages in millimetres, for a PDF or a printer. For the papers' own files.
#pragma once

#include <QPagedPaintDevice>
#include <QPainter>
#include <QPainterPath>
#include <optional>
#include <string>
#include <vector>

#include "geometry/polygon.h"
#include "units/quantity.h"

namespace bevelsmith::paper {

/// A4, upright.
inline constexpr double page_w = 210, page_h = 297, margin = 12;

/// Millimetres on the page from its top left corner, down downwards. Nothing is printed in the device's own margins.
class Paper {
  public:
    /// Begins with a page of this size.
    Paper(QPagedPaintDevice& device, const QSizeF& page_mm);
    QPainter& painter() { return painter_; }
    const QSizeF& size() const { return size_; }
    /// A new page, of this size from now on.
    void next_page(const QSizeF& page_mm);
    void next_page() { next_page(size_); }
    /// The first page where nothing has begun it yet, else a new one.
    void begin_page(const QSizeF& page_mm);
    void begin_page() { begin_page(size_); }

    void pen(double width_mm, Qt::PenStyle style = Qt::SolidLine, const QColor& colour = Qt::black);
    void line(const QPointF& a, const QPointF& b) { painter_.drawLine(a, b); }
    /// With a head at its end.
    void arrow(const QPointF& from, const QPointF& to, double head_mm = 1.6);

    /// In one line within a box, its letters smaller where it would not fit; never cut off.
    void text(const QRectF& box, double size_mm, const QString& words, bool strong = false,
              Qt::Alignment align = Qt::AlignLeft | Qt::AlignVCenter);
    /// In as many lines as a width needs; the height that they took.
    double lines(const QRectF& box, double size_mm, const QString& words, bool strong = false);
    /// About a middle, turned (degrees, clockwise on the page), on white so that it reads over hairlines.
    void label(const QPointF& middle, double size_mm, const QString& words, double turn_deg = 0, bool strong = false);
    /// A line from a thing to the edge of the words about it, where they stand off by more than `least_mm`.
    void leader(const QPointF& thing, const QPointF& middle, const QSizeF& words, double least_mm = 1.5);
    /// How wide and high words are (mm).
    QSizeF extent(double size_mm, const QString& words, bool strong = false) const;

  private:
    QFont font(double size_mm, bool strong) const;
    void write(const QRectF& box, double size_mm, const QString& words, bool strong, int flags);

    QPagedPaintDevice& device_;
    QSizeF size_;
    bool untouched_ = true;
    QPainter painter_;
    double dots_;
};

inline QString text_of(const std::string& words) {
    return QString::fromStdString(words);
}

/// A figure as it stands on papers.
QString length(double mm, units::LengthUnit unit);
/// The same with its unit.
QString length_with_unit(double mm, units::LengthUnit unit);
/// "+4.2°", "−0.5°", "0.0°".
QString bevel_figure(double degrees);

/// With up upwards in the shape: an outline and its holes.
QPainterPath path_of(const geometry::Polygon& shape);

/// A line of a round length in the job's unit with its figure, level or upright, from its left or upper end.
void check_line(Paper& paper, const QPointF& from, bool upright, units::LengthUnit unit);

/// Places for words that lie over none of what was taken before (mm on the page).
class Room {
  public:
    explicit Room(const QRectF& within) : within_(within) {}
    void take(const QRectF& box) { taken_.push_back(box); }
    /// A line: nothing may lie over it.
    void take_line(const QPointF& a, const QPointF& b);
    bool is_free(const QRectF& box) const;
    /// The first of `places` about which a box of this size lies free, and takes it; nothing where none does.
    std::optional<QPointF> find(const std::vector<QPointF>& places, const QSizeF& size);

  private:
    QRectF within_;
    std::vector<QRectF> taken_;
    std::vector<QPointF> points_;
};

}  // namespace bevelsmith::paper
