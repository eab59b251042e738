#include "paper/pdf.h"

#include <fmt/format.h>
#include <QPageLayout>
#include <QPagedPaintDevice>
#include <QPainter>
#include <QPainterPath>
#include <QPdfWriter>
#include <QSaveFile>

#include <algorithm>
#include <cmath>
#include <limits>
#include <set>
#include <utility>

#include "paper/fonts.h"

namespace bevelsmith::paper {
namespace {

using exchange::Drawing;

constexpr double margin_mm = 12, label_mm = 8;
constexpr int pdf_dots_per_inch = 1200;

/// The drawing has up upwards; a page has down downwards.
class Sheet {
  public:
    Sheet(QPagedPaintDevice& device, QPainter& painter)
        : device_(device), painter_(painter), dots_per_mm_(device.logicalDpiX() / 25.4) {
        painter_.scale(dots_per_mm_, dots_per_mm_);
    }

    void next_page() { device_.newPage(); }
    void pen(double width_mm, Qt::PenStyle style = Qt::SolidLine) {
        QPen p(Qt::black, width_mm, style, Qt::FlatCap, Qt::MiterJoin);
        painter_.setPen(p);
        painter_.setBrush(Qt::NoBrush);
    }
    void line(double x1, double y1, double x2, double y2) { painter_.drawLine(QPointF(x1, y1), QPointF(x2, y2)); }
    void text(double x, double y, double size_mm, const QString& words, bool strong = false,
              Qt::Alignment align = Qt::AlignLeft) {
        painter_.save();
        painter_.resetTransform();
        QFont font(bundled_family());
        // In dots, not in scaled millimetres, so that letters keep their true spacing.
        font.setPixelSize(static_cast<int>(size_mm * dots_per_mm_));
        font.setWeight(strong ? QFont::DemiBold : QFont::Normal);
        painter_.setFont(font);
        painter_.setPen(Qt::black);
        const double wide = 400 * dots_per_mm_;
        const double left = align & Qt::AlignRight     ? x * dots_per_mm_ - wide
                            : align & Qt::AlignHCenter ? x * dots_per_mm_ - wide / 2
                                                       : x * dots_per_mm_;
        painter_.drawText(QRectF(left, y * dots_per_mm_, wide, 2 * size_mm * dots_per_mm_),
                          static_cast<int>(align | Qt::AlignTop), words);
        painter_.restore();
    }
    QPainter& painter() { return painter_; }

  private:
    QPagedPaintDevice& device_;
    QPainter& painter_;
    double dots_per_mm_;
};

QSizeF page_mm(Size size) {
    return size == Size::a3 ? QSizeF(297, 420) : QSizeF(210, 297);
}
double roll_mm(const PdfOptions& options) {
    return std::clamp(options.roll_width_mm, least_roll_mm, most_roll_mm);
}
/// Of the table's pages, and of a tile: a roll is cut off where the drawing ends.
QSizeF table_page_mm(const PdfOptions& options) {
    return options.size == Size::roll
               ? QSizeF(std::max(roll_mm(options), page_mm(Size::a4).width()), page_mm(Size::a4).height())
               : page_mm(options.size);
}
QSizeF tile_page_mm(const Drawing& d, const PdfOptions& options) {
    if (options.size != Size::roll) return page_mm(options.size);
    constexpr double shortest_mm = 120;
    return {roll_mm(options), std::clamp(d.box.height() + 2 * margin_mm + label_mm, shortest_mm, longest_page_mm)};
}
void set_page(QPagedPaintDevice& device, const PdfOptions& options, const QSizeF& page) {
    if (options.size != Size::roll)
        device.setPageSize(QPageSize(options.size == Size::a4 ? QPageSize::A4 : QPageSize::A3));
    else device.setPageSize(QPageSize(page, QPageSize::Millimeter, {}, QPageSize::ExactMatch));
    device.setPageMargins(QMarginsF(0, 0, 0, 0));
}

QPainterPath path_of(const geometry::Polygon& p) {
    QPainterPath path;
    const auto ring = [&](const geometry::Ring& r) {
        for (std::size_t i = 0; i < r.size(); ++i)
            i ? path.lineTo(r[i].x(), -r[i].y()) : path.moveTo(r[i].x(), -r[i].y());
        path.closeSubpath();
    };
    ring(p.outer);
    for (const auto& h : p.holes) ring(h);
    return path;
}

/// Straight lines with a tick at each station, from which the edge can be pricked off.
void draw_base_lines(Sheet& s, const Drawing& d) {
    s.pen(0.12);
    for (const auto& base : d.bases) {
        const Vec2 along = (base.to - base.from).normalized(), across(along.y(), -along.x());
        s.line(base.from.x(), -base.from.y(), base.to.x(), -base.to.y());
        constexpr double tick_mm = 3;
        for (const auto& station : base.stations) {
            const Vec2 at = base.from + station.along_mm * along, a = at - tick_mm * across,
                       b = at + tick_mm * across;
            s.line(a.x(), -a.y(), b.x(), -b.y());
        }
    }
}

void draw_shapes(Sheet& s, const Drawing& d) {
    s.pen(0.25);
    s.painter().drawPath(path_of(d.face_a));
    s.pen(0.2, Qt::DashLine);
    s.painter().drawPath(path_of(d.face_b));
    s.pen(0.2);
    for (const auto& t : d.ticks) {
        const Vec2 end = t.at + 8 * t.outward;
        s.line(t.at.x(), -t.at.y(), end.x(), -end.y());
    }
    s.pen(0.2, Qt::DashDotLine);
    for (const auto& [a, b] : d.joint_lines) s.line(a.x(), -a.y(), b.x(), -b.y());
    for (const auto& relief : d.reliefs) {
        s.pen(0.15, relief.face == piece::Face::a ? Qt::DotLine : Qt::DashDotDotLine);
        for (std::size_t i = 0; i + 1 < relief.line.size(); ++i)
            s.line(relief.line[i].x(), -relief.line[i].y(), relief.line[i + 1].x(), -relief.line[i + 1].y());
    }
    draw_base_lines(s, d);
}

/// Bevels in figures, inside of the edge.
void draw_bevels(Sheet& s, const Drawing& d, double origin_x, double origin_y, const QRectF& window) {
    for (const auto& t : d.ticks) {
        const Vec2 at = t.at - 10 * t.outward;
        const QPointF on_page(origin_x + at.x(), origin_y - at.y());
        if (window.contains(on_page))
            s.text(on_page.x(), on_page.y() - 1.5, 3, QString::asprintf("%+.1f°", t.bevel_deg), false,
                   Qt::AlignHCenter);
    }
}

void registration_mark(Sheet& s, double x, double y) {
    s.pen(0.15);
    s.line(x - 4, y, x + 4, y);
    s.line(x, y - 4, x, y + 4);
    s.painter().drawEllipse(QPointF(x, y), 2, 2);
}

void draw_tile(Sheet& s, const Drawing& d, const Tiling& t, int column, int row) {
    const QRectF window(margin_mm, margin_mm, t.tile_width_mm, t.tile_height_mm);
    // Where the drawing's (0, 0) falls on this page; rows count from the top.
    const double origin_x = margin_mm - column * t.step_x_mm + t.shift_x_mm;
    const double origin_y = margin_mm + d.box.height() - row * t.step_y_mm + t.shift_y_mm;
    s.painter().save();
    s.painter().setClipRect(window);
    s.painter().translate(origin_x, origin_y);
    draw_shapes(s, d);
    s.painter().restore();
    draw_bevels(s, d, origin_x, origin_y, window);
    for (int c = std::max(0, column - 1); c <= std::min(t.columns, column + 1); ++c)
        for (int r = std::max(0, row - 1); r <= std::min(t.rows, row + 1); ++r) {
            // In the middle of the overlaps, so that each mark stands on every tile that shares it.
            const double x = margin_mm + (c - column) * t.step_x_mm + (t.tile_width_mm - t.step_x_mm) / 2;
            const double y = margin_mm + (r - row) * t.step_y_mm + (t.tile_height_mm - t.step_y_mm) / 2;
            if (window.adjusted(-0.1, -0.1, 0.1, 0.1).contains(QPointF(x, y))) registration_mark(s, x, y);
        }
    s.pen(0.1, Qt::DotLine);
    s.painter().drawRect(window);
    s.text(margin_mm, margin_mm + t.tile_height_mm + 1.5, 3.5,
           QString("%1 · %2 · row %3 of %4, column %5 of %6 · 1:1, do not scale")
               .arg(QString::fromStdString(d.id), QString::fromStdString(d.title))
               .arg(row + 1)
               .arg(t.rows)
               .arg(column + 1)
               .arg(t.columns));
}

void draw_check_line(Sheet& s, double x, double y) {
    s.pen(0.3);
    s.line(x, y, x + 100, y);
    s.line(x, y - 3, x, y + 3);
    s.line(x + 100, y - 3, x + 100, y + 3);
    s.text(x + 50, y + 2, 3, "measure this line: 100 mm", false, Qt::AlignHCenter);
}

void draw_key(Sheet& s, const Drawing& d, const Tiling& t, const QRectF& room) {
    const double w = t.columns * t.step_x_mm, h = t.rows * t.step_y_mm,
                 scale = std::min(room.width() / w, room.height() / h);
    s.painter().save();
    s.painter().translate(room.left(), room.top());
    s.painter().scale(scale, scale);
    s.pen(0.15 / scale);
    for (const Tile& tile : printed_tiles(d, t))
        s.painter().drawRect(QRectF(tile.column * t.step_x_mm, tile.row * t.step_y_mm, t.step_x_mm, t.step_y_mm));
    s.painter().translate(t.shift_x_mm, t.shift_y_mm + d.box.height());
    s.pen(0.4 / scale);
    s.painter().drawPath(path_of(d.face_a));
    s.painter().restore();
}

QString length(double mm, units::LengthUnit unit) {
    return QString::fromStdString(units::format_length(mm, unit));
}
QString unit_word(units::LengthUnit unit) {
    const auto symbol = units::symbol(unit);
    return QString::fromUtf8(symbol.data(), static_cast<int>(symbol.size()));
}
/// What is small: tenths of a millimetre, thousandths of an inch.
QString fine(double mm, units::LengthUnit unit) {
    return units::in_inches(unit) ? QString::number(mm / units::mm_per_inch, 'f', 3) : QString::number(mm, 'f', 1);
}

/// Rows of the table from `first` on that fit above `bottom`; gives the next row to draw.
std::size_t draw_table(Sheet& s, const Drawing& d, std::size_t first, double top, double bottom) {
    const char* heads[] = {"along", "A across", "A up", "B across", "B up", "bevel", "± 2 s.d."};
    const double right[] = {22, 46, 70, 94, 118, 138, 160};
    for (int k = 0; k < 7; ++k) s.text(margin_mm + right[k], top, 3, heads[k], true, Qt::AlignRight);
    double y = top + 6;
    std::size_t i = first;
    for (; i < d.rows.size() && y + 5 < bottom; ++i, y += 5) {
        const auto& r = d.rows[i];
        const double value[] = {r.arc_mm, r.across_a_mm, r.up_a_mm, r.across_b_mm, r.up_b_mm};
        for (int k = 0; k < 5; ++k)
            s.text(margin_mm + right[k], y, 3, QString::fromStdString(units::format_length_number(value[k], d.unit)),
                   false, Qt::AlignRight);
        s.text(margin_mm + right[5], y, 3, QString::asprintf("%+.1f°", r.bevel_deg), false, Qt::AlignRight);
        s.text(margin_mm + right[6], y, 3, fine(2 * r.sigma_mm, d.unit) + (r.in_survey ? "" : "  outside"), false,
               Qt::AlignRight);
    }
    return i;
}

/// Columns of a page, filled from the top; a new page where one is full.
class Rows {
  public:
    Rows(Sheet& sheet, double top, double bottom) : sheet_(sheet), top_(top), bottom_(bottom), y_(top) {}
    /// Room for so much; true where a page was turned for it.
    bool take(double height_mm) {
        if (y_ + height_mm <= bottom_) return false;
        sheet_.next_page();
        y_ = top_;
        return true;
    }
    double down(double height_mm) { return std::exchange(y_, y_ + height_mm); }

  private:
    Sheet& sheet_;
    double top_, bottom_, y_;
};

/// Behind the tiles: each base line with its stations.
void draw_base_tables(Sheet& s, const Drawing& d, const QSizeF& page) {
    if (d.bases.empty()) return;
    s.next_page();
    Rows rows(s, margin_mm, page.height() - margin_mm);
    constexpr double row_mm = 5, head_mm = 22;
    s.text(margin_mm, rows.down(8), 4.5, "From base lines", true);
    s.text(margin_mm, rows.down(10), 3,
           "Strike the line on face A, prick off each ordinate square to it (positive: out of the piece), spring a "
           "batten through.");
    const double right[] = {22, 46, 70, 94, 116};
    const auto heads = [&] {
        const char* words[] = {"along", "A out", "B out", "bevel", "± 2 s.d."};
        const double y = rows.down(row_mm);
        for (int k = 0; k < 5; ++k) s.text(margin_mm + right[k], y, 3, words[k], true, Qt::AlignRight);
    };
    const auto figure = [&](double mm) { return QString::fromStdString(units::format_length_number(mm, d.unit)); };
    for (std::size_t k = 0; k < d.bases.size(); ++k) {
        const auto& base = d.bases[k];
        rows.take(head_mm + row_mm);
        const auto place = [&](const Vec2& p) { return figure(p.x()) + ", " + figure(p.y()); };
        s.text(margin_mm, rows.down(6), 3.5,
               QString("%1 · %2: from %3 to %4, %5 long")
                   .arg(k + 1)
                   .arg(QString::fromStdString(d.edges[static_cast<std::size_t>(base.edge)]), place(base.from),
                        place(base.to), length((base.to - base.from).norm(), d.unit)),
               true);
        s.text(margin_mm, rows.down(6), 3,
               QString("A batten through these pins leaves the edge by at most %1 %2.")
                   .arg(fine(base.batten_error_mm, d.unit), unit_word(d.unit)));
        heads();
        for (const auto& station : base.stations) {
            if (rows.take(row_mm)) heads();
            const double y = rows.down(row_mm);
            const QString words[] = {figure(station.along_mm), figure(station.out_a_mm),
                                     station.out_b_mm ? figure(*station.out_b_mm) : QString("–"),
                                     QString::asprintf("%+.1f°", station.bevel_deg),
                                     fine(2 * station.sigma_mm, d.unit) + (station.in_survey ? "" : "  outside")};
            for (int c = 0; c < 5; ++c) s.text(margin_mm + right[c], y, 3, words[c], false, Qt::AlignRight);
        }
        rows.down(4);
    }
}

void draw_first_pages(Sheet& s, const Drawing& d, const Tiling& t, const QSizeF& page) {
    s.text(margin_mm, margin_mm, 6, QString::fromStdString(d.title), true);
    s.text(margin_mm, margin_mm + 10, 3.5,
           QString("%1 · %2 · %3 thick · %4 x %5 over both faces")
               .arg(QString::fromStdString(d.id), QString::fromStdString(d.material), length(d.thickness_mm, d.unit),
                    length(d.box.width(), d.unit), length(d.box.height(), d.unit)));
    draw_check_line(s, margin_mm, margin_mm + 24);
    s.text(margin_mm, margin_mm + 34, 3,
           "Face A solid, face B dashed, drawn as face A is seen. Positive bevel: open, face B reaches farther.");
    s.text(margin_mm, margin_mm + 39, 3,
           QString("Across from the left and up from the bottom of the larger outline. All in %1. Tiles join at the "
                   "round marks.")
               .arg(unit_word(d.unit)));
    s.text(margin_mm, margin_mm + 44, 3,
           "Cut outside the line and fit. Guard, push stick, eyes and dust mask at the saw; local codes come first.");
    const QRectF key(margin_mm, margin_mm + 52, page.width() - 2 * margin_mm, 60);
    draw_key(s, d, t, key);
    std::size_t row = draw_table(s, d, 0, key.bottom() + 6, page.height() - margin_mm);
    while (row < d.rows.size()) {
        s.next_page();
        row = draw_table(s, d, row, margin_mm, page.height() - margin_mm);
    }
}

}  // namespace

std::vector<Tile> printed_tiles(const Drawing& d, const Tiling& t) {
    std::set<std::pair<int, int>> touched;  // row, column
    // Neighbouring tiles overlap: what lies on a tile's frame is well within its neighbour, and prints no page there.
    constexpr double frame_mm = 0.5;
    const auto lies_on = [](double at, int k, int count, double step, double tile) {
        const double off = at - k * step;
        return off >= (k > 0 ? frame_mm : 0) && off <= (k + 1 < count ? tile - frame_mm : tile);
    };
    const auto take = [&](const Vec2& p) {
        const double x = p.x() + t.shift_x_mm, y = d.box.height() - p.y() + t.shift_y_mm;
        const int last_c = std::clamp(static_cast<int>(std::floor(x / t.step_x_mm)), 0, t.columns - 1);
        const int last_r = std::clamp(static_cast<int>(std::floor(y / t.step_y_mm)), 0, t.rows - 1);
        for (int c = last_c; c >= std::max(0, last_c - 1); --c)
            for (int r = last_r; r >= std::max(0, last_r - 1); --r)
                if (lies_on(x, c, t.columns, t.step_x_mm, t.tile_width_mm) &&
                    lies_on(y, r, t.rows, t.step_y_mm, t.tile_height_mm))
                    touched.emplace(r, c);
    };
    const auto take_ring = [&](const geometry::Ring& ring) {
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const Vec2 &a = ring[i], &b = ring[(i + 1) % ring.size()];
            // Points along the line, a millimetre apart, tell without a clipper.
            const int steps = 1 + static_cast<int>((b - a).norm());
            for (int k = 0; k <= steps; ++k) take(a + (b - a) * k / steps);
        }
    };
    for (const auto* face : {&d.face_a, &d.face_b}) {
        take_ring(face->outer);
        for (const auto& hole : face->holes) take_ring(hole);
    }
    std::vector<Tile> out;
    for (const auto& [row, column] : touched) out.push_back({column, row});
    return out;
}

std::optional<Error> too_many_pages(const Drawing& d, const PdfOptions& options) {
    const Drawing laid = laid_for(d, options);
    const auto pages = printed_tiles(laid, tiling_for(laid, options)).size();
    if (pages <= most_pages) return std::nullopt;
    return Error{
        fmt::format("it would take {} pages, and {} are the most: write a DXF for a cutter or a roll, or divide "
                    "the piece by joints",
                    pages, most_pages)};
}

namespace {

/// Shifts of the grid worth trying: what the tiles leave over, in some steps, the middle first.
std::vector<double> shifts(double spare_mm) {
    constexpr int steps = 8;
    std::vector<double> out{spare_mm / 2};
    for (int k = 0; k <= steps; ++k) out.push_back(spare_mm * k / steps);
    return out;
}

/// The grid so placed that fewest pages have something on them.
void place_grid(const Drawing& d, Tiling& t) {
    const double spare_x = (t.columns - 1) * t.step_x_mm + t.tile_width_mm - d.box.width();
    const double spare_y = (t.rows - 1) * t.step_y_mm + t.tile_height_mm - d.box.height();
    std::size_t fewest = std::numeric_limits<std::size_t>::max();
    Tiling best = t;
    for (double x : shifts(spare_x))
        for (double y : shifts(spare_y)) {
            t.shift_x_mm = x;
            t.shift_y_mm = y;
            if (const auto pages = printed_tiles(d, t).size(); pages < fewest) fewest = pages, best = t;
        }
    t = best;
}

}  // namespace

Tiling tiling_for(const Drawing& d, const PdfOptions& options) {
    const QSizeF page = tile_page_mm(d, options);
    Tiling t;
    t.tile_width_mm = page.width() - 2 * margin_mm;
    t.tile_height_mm = page.height() - 2 * margin_mm - label_mm;
    t.step_x_mm = t.tile_width_mm - options.overlap_mm;
    t.step_y_mm = t.tile_height_mm - options.overlap_mm;
    const auto count = [&](double length, double tile, double step) {
        return 1 + std::max(0, static_cast<int>(std::ceil((length - tile) / step)));
    };
    t.columns = count(d.box.width(), t.tile_width_mm, t.step_x_mm);
    t.rows = count(d.box.height(), t.tile_height_mm, t.step_y_mm);
    // What takes more paper than anybody prints need not be placed well.
    if (static_cast<std::size_t>(t.columns) * static_cast<std::size_t>(t.rows) <= most_pages) place_grid(d, t);
    return t;
}

Drawing laid_for(Drawing drawing, const PdfOptions& options) {
    if (options.size != Size::roll) return drawing;
    const auto paper = [&](const Drawing& d) {
        return static_cast<double>(printed_tiles(d, tiling_for(d, options)).size()) *
               tile_page_mm(d, options).height();
    };
    Drawing other = exchange::turned(drawing);
    return paper(other) < paper(drawing) - 1 ? other : drawing;
}

void paint_pages(const Drawing& drawing, const PdfOptions& options, QPagedPaintDevice& device) {
    const Drawing d = laid_for(drawing, options);
    set_page(device, options, table_page_mm(options));
    QPainter painter(&device);
    Sheet sheet(device, painter);
    const Tiling tiling = tiling_for(d, options);
    draw_first_pages(sheet, d, tiling, table_page_mm(options));
    set_page(device, options, tile_page_mm(d, options));
    for (const Tile& tile : printed_tiles(d, tiling)) {
        sheet.next_page();
        draw_tile(sheet, d, tiling, tile.column, tile.row);
    }
    set_page(device, options, table_page_mm(options));
    draw_base_tables(sheet, d, table_page_mm(options));
}

Result<bool> write_pdf(const Drawing& d, const PdfOptions& options, const std::string& path) {
    if (auto fault = too_many_pages(d, options)) return *fault;
    QSaveFile file(QString::fromStdString(path));
    if (!file.open(QIODevice::WriteOnly)) return Error{"cannot be written: " + file.errorString().toStdString()};
    {
        QPdfWriter writer(&file);
        writer.setResolution(pdf_dots_per_inch);
        writer.setTitle(QString::fromStdString(d.title));
        writer.setCreator("Bevelsmith");
        paint_pages(d, options, writer);
    }
    if (!file.commit()) return Error{"cannot be written: " + file.errorString().toStdString()};
    return true;
}

}  // namespace bevelsmith::paper
