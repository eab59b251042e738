#include "paper/labels.h"

#include <QPdfWriter>
#include <QSaveFile>

#include <algorithm>
#include <array>
#include <cmath>

#include "exchange/cut_list.h"
#include "exchange/drawing.h"
#include "paper/page.h"
#include "paper/ways.h"

namespace bevelsmith::paper {
namespace {

constexpr double inch = units::mm_per_inch;
constexpr int dots_per_inch = 600;

constexpr std::array sheets{
    LabelSheet{"a4-24", "A4, 24 of 70 x 37 mm", 210, 297, 3, 8, 70, 37, 0, 0.5},
    LabelSheet{"a4-21", "A4, 21 of 63.5 x 38.1 mm", 210, 297, 3, 7, 63.5, 38.1, 7.25, 15.15, 2.5},
    LabelSheet{"a4-14", "A4, 14 of 99.1 x 38.1 mm", 210, 297, 2, 7, 99.1, 38.1, 4.65, 15.15, 2.5},
    LabelSheet{"a4-10", "A4, 10 of 99.1 x 57 mm", 210, 297, 2, 5, 99.1, 57, 4.65, 6, 2.5},
    LabelSheet{"letter-30", "Letter, 30 of 2 5/8 x 1 in", 8.5 * inch, 11 * inch, 3, 10, 2.625 * inch, inch,
               0.1875 * inch, 0.5 * inch, 0.125 * inch},
    LabelSheet{"letter-10", "Letter, 10 of 4 x 2 in", 8.5 * inch, 11 * inch, 2, 5, 4 * inch, 2 * inch, 0.15625 * inch,
               0.5 * inch, 0.1875 * inch},
};

QString side(const exchange::CutRow& r) {
    return text_of(r.unit) + (r.unit.empty() ? "" : ", ") + text_of(r.hand);
}

QStringList words_of(const exchange::CutRow& r, const exchange::Drawing* d, units::LengthUnit unit) {
    const auto size = [&](double a, double b) { return length(a, unit) + " x " + length_with_unit(b, unit); };
    QStringList out{text_of(r.piece), side(r), text_of(r.material) + ", " + length_with_unit(r.thickness_mm, unit)};
    out << "cut " + size(r.sheet_along_mm, r.sheet_across_mm);
    if (d && d->cut_differs()) out.back() += "; finished " + size(r.finished_along_mm, r.finished_across_mm);
    out << "stick on face A; good face " + text_of(r.good_face);
    return out;
}

/// The part's outline in a square, heavy as cut and dashed as finished, with the boat's ways beside it.
void draw_shape(Paper& paper, const exchange::Drawing& d, const QRectF& room) {
    geometry::Box box = d.box;
    if (d.cut_differs()) {
        const auto finished = geometry::bounding_box(d.finished_a.outer);
        box = {box.min.cwiseMin(finished.min), box.max.cwiseMax(finished.max)};
    }
    const double scale = std::min(room.width() / box.width(), room.height() / box.height());
    const Vec2 middle = box.centre();
    QTransform place;
    place.translate(room.center().x() - middle.x() * scale, room.center().y() + middle.y() * scale);
    place.scale(scale, scale);
    if (d.cut_differs()) {
        paper.pen(0.15, Qt::DashLine);
        paper.painter().drawPath(place.map(path_of(d.finished_a)));
    }
    paper.pen(0.35);
    paper.painter().drawPath(place.map(path_of(d.face_a)));
}

void draw_label(Paper& paper, const QRectF& box, const exchange::CutRow& r, int copy, const exchange::Drawing* d,
                units::LengthUnit unit) {
    const QRectF inner = box.adjusted(3, 2, -3, -2);
    const double shape_w = std::min(0.3 * inner.width(), inner.height() * 0.9), words_w = inner.width() - shape_w - 2;
    const QStringList words = words_of(r, d, unit);
    const double head = 0.24 * inner.height(), row = (inner.height() - head) / static_cast<double>(words.size());
    paper.text({inner.left(), inner.top(), words_w, head}, std::min(6.5, 0.85 * head),
               text_of(r.part_id) + (r.quantity > 1 ? QString(" #%1").arg(copy) : QString()), true);
    for (int k = 0; k < words.size(); ++k)
        paper.text({inner.left(), inner.top() + head + k * row, words_w, row}, std::min(3.0, 0.8 * row), words[k]);
    if (!d) return;
    const QRectF right(inner.right() - shape_w, inner.top(), shape_w, inner.height());
    draw_shape(paper, *d, right.adjusted(0, 0, 0, -0.52 * right.height()));
    draw_ways(paper, *d, right.center() + QPointF(0, 0.36 * right.height()), 0.14 * right.height());
}

}  // namespace

std::span<const LabelSheet> label_sheets() {
    return sheets;
}

const LabelSheet* label_sheet(const std::string& id) {
    const auto at = std::find_if(sheets.begin(), sheets.end(), [&](const auto& s) { return id == s.id; });
    return at == sheets.end() ? nullptr : &*at;
}

void draw_labels(Paper& paper, const job::Job& job, const job::Results& results, const LabelSheet& sheet,
                 const KeepGoing& keep_going) {
    int number = 0;
    for (const auto& r : exchange::cut_list(job, results)) {
        const auto drawing = exchange::bare_drawing_of(job, results, r.part_id);
        for (int copy = 1; copy <= r.quantity; ++copy, ++number) {
            ask(keep_going);
            const int on_page = number % (sheet.columns * sheet.rows);
            if (on_page == 0) paper.begin_page(QSizeF(sheet.page_w_mm, sheet.page_h_mm));
            const QRectF box(sheet.left_mm + (on_page % sheet.columns) * (sheet.width_mm + sheet.apart_x_mm),
                             sheet.top_mm + (on_page / sheet.columns) * (sheet.height_mm + sheet.apart_y_mm),
                             sheet.width_mm, sheet.height_mm);
            paper.pen(0.05, Qt::DotLine, QColor(190, 190, 190));
            paper.painter().drawRect(box);
            draw_label(paper, box, r, copy, drawing.ok() ? &drawing.value() : nullptr, job.unit);
        }
    }
}

Result<bool> write_labels(const job::Job& job, const job::Results& results, const LabelSheet& sheet,
                          const std::string& path, const KeepGoing& keep_going) {
    if (exchange::cut_list(job, results).empty())
        return Error{"there is nothing to cut yet: no piece has an outline"};
    QSaveFile file(QString::fromStdString(path));
    if (!file.open(QIODevice::WriteOnly)) return Error{"cannot be written: " + file.errorString().toStdString()};
    {
        QPdfWriter writer(&file);
        writer.setResolution(dots_per_inch);
        writer.setTitle("Labels: " + text_of(job.name));
        writer.setCreator("Bevelsmith");
        Paper paper(writer, QSizeF(sheet.page_w_mm, sheet.page_h_mm));
        draw_labels(paper, job, results, sheet, keep_going);
    }
    if (!file.commit()) return Error{"cannot be written: " + file.errorString().toStdString()};
    return true;
}

}  // namespace bevelsmith::paper
