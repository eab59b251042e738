#include "paper/cut_papers.h"

#include <QPageLayout>
#include <QPainter>
#include <QPainterPath>
#include <QPdfWriter>
#include <QSaveFile>

#include <algorithm>
#include <cmath>

#include "exchange/cut_list.h"
#include "job/in_full.h"
#include "paper/length_pages.h"
#include "paper/page.h"
#include "sheets/guillotine.h"

namespace bevelsmith::paper {
namespace {

constexpr double label_w = 70, label_h = 37;
constexpr int labels_across = 3, labels_down = 8;
constexpr int dots_per_inch = 600;

void list_page(Paper& paper, const job::Job& job, const std::vector<exchange::CutRow>& rows) {
    const std::vector<std::pair<const char*, double>> columns{{"part", 20},  {"piece", 40}, {"unit or place", 28},
                                                              {"sheet", 34}, {"qty", 9},    {"finished", 27},
                                                              {"blank", 28}};
    const auto unit = job.unit;
    double y = page_h;
    const auto head = [&] {
        paper.next_page();
        paper.text({margin, margin, page_w - 2 * margin, 8}, 5.5, "Cut list: " + text_of(job.name), true);
        paper.text({margin, margin + 8, page_w - 2 * margin, 6}, 3,
                   "Sizes along the grain x across it, in " + text_of(std::string(units::symbol(unit))) +
                       ". Finished: with lippings; blank: cut out first.");
        double x = margin;
        y = margin + 18;
        for (const auto& [name, width] : columns) {
            paper.text({x, y, width - 1, 5}, 3, name, true);
            x += width;
        }
        paper.pen(0.3);
        paper.painter().drawLine(QPointF(margin, y + 5.5), QPointF(page_w - margin, y + 5.5));
        y += 7;
    };
    for (const auto& r : rows) {
        if (y + 6 > page_h - margin) head();
        const QStringList cells{text_of(r.part_id),
                                text_of(r.piece),
                                text_of(r.unit),
                                text_of(r.material),
                                QString::number(r.quantity),
                                length(r.finished_along_mm, unit) + " x " + length(r.finished_across_mm, unit),
                                length(r.blank_along_mm, unit) + " x " + length(r.blank_across_mm, unit)};
        double x = margin;
        for (std::size_t k = 0; k < columns.size(); ++k) {
            paper.text({x, y, columns[k].second - 1, 5}, 2.9, cells[static_cast<int>(k)], k == 0);
            x += columns[k].second;
        }
        y += 5.6;
    }
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

/// Placements of a sheet in the order of cutting: from the left, so that what is cut off is carried away.
std::vector<const sheets::Placement*> in_order(const job::SheetResult& sheets, int sheet) {
    std::vector<const sheets::Placement*> out;
    for (const auto& at : sheets.layout->placements)
        if (at.sheet == sheet) out.push_back(&at);
    const auto left = [&](const sheets::Placement* at) {
        return geometry::bounding_box(sheets::placed(*sheets.problem, *at).outer).min;
    };
    std::stable_sort(out.begin(), out.end(), [&](const auto* a, const auto* b) {
        return std::pair(left(a).x(), left(a).y()) < std::pair(left(b).x(), left(b).y());
    });
    return out;
}

/// Edge to edge where that goes, else part by part.
QString order_in_words(const std::vector<sheets::SheetCut>& cuts, units::LengthUnit unit) {
    QString words = "Cut in this order, outside the line; what is left may be kept.";
    if (!cuts.empty()) {
        words = "From edge to edge: ";
        for (std::size_t k = 0; k < cuts.size() && k < 12; ++k)
            words += QString("%1%2 %3 at %4")
                         .arg(k ? "; " : "")
                         .arg(k + 1)
                         .arg(cuts[k].upright ? "across" : "along",
                              length(cuts[k].upright ? cuts[k].at_mm - cuts[k].panel.min.x()
                                                     : cuts[k].at_mm - cuts[k].panel.min.y(),
                                     unit));
        if (cuts.size() > 12) words += QString("; and %1 more").arg(cuts.size() - 12);
    }
    return words;
}

void sheet_page(Paper& paper, const job::Job& job, const job::SheetResult& sheets, int sheet) {
    const auto* material = job::find_material(job, sheets.material_id);
    const auto stock = static_cast<std::size_t>(sheets.layout->sheet_stock[static_cast<std::size_t>(sheet)]);
    const auto& shape = sheets.problem->stock[stock].shape;
    const auto box = geometry::bounding_box(shape.outer);
    const double scale = std::min((page_w - 2 * margin) / box.width(), 130 / box.height());
    paper.next_page();
    const auto& offcut = sheets.stock_names[stock];
    paper.text({margin, margin, page_w - 2 * margin, 8}, 5.5,
               (offcut.empty() ? QString("Sheet %1").arg(sheet + 1) : "Offcut " + text_of(offcut)) + " · " +
                   (material ? text_of(material->name) : QString()),
               true);
    paper.text({margin, margin + 8, page_w - 2 * margin, 6}, 3,
               QString("%1 x %2, grain along, good face up; scale 1:%3; %4 between parts")
                   .arg(length(box.width(), job.unit), length(box.height(), job.unit))
                   .arg(1 / scale, 0, 'f', 0)
                   .arg(text_of(units::format_length(sheets.problem->spacing_mm, job.unit))));
    QPainter& p = paper.painter();
    const QPointF corner(margin - box.min.x() * scale, margin + 18 + box.max.y() * scale);
    p.save();
    p.translate(corner);
    p.scale(scale, scale);
    paper.pen(0.3 / scale);
    p.drawPath(path_of(shape));
    const auto order = in_order(sheets, sheet);
    for (const auto* at : order) p.drawPath(path_of(sheets::placed(*sheets.problem, *at)));
    const auto cuts = sheets::cuts_of(*sheets.problem, *sheets.layout, sheet);
    paper.pen(0.2 / scale, Qt::DashLine);
    for (const auto& cut : cuts) {
        const QLineF line = cut.upright ? QLineF(cut.at_mm, -cut.panel.min.y(), cut.at_mm, -cut.panel.max.y())
                                        : QLineF(cut.panel.min.x(), -cut.at_mm, cut.panel.max.x(), -cut.at_mm);
        p.drawLine(line);
    }
    p.restore();
    double y = margin + 24 + box.height() * scale, x = margin;
    int number = 0;
    for (const auto* at : order) {
        const auto part = static_cast<std::size_t>(at->part);
        const auto placed = sheets::placed(*sheets.problem, *at);
        const Vec2 middle = geometry::centroid(placed);
        paper.text({corner.x() + middle.x() * scale - 12, corner.y() - middle.y() * scale - 2, 24, 4}, 2.6,
                   QString("%1 %2").arg(++number).arg(text_of(sheets.problem->parts[part].id)), true,
                   Qt::AlignCenter);
        if (y + 5 > page_h - margin - 14) {
            if (x > margin) continue;
            x = page_w / 2, y = margin + 24 + box.height() * scale;
        }
        paper.text({x, y, page_w / 2 - margin - 2, 4.6}, 3,
                   QString("%1   %2   %3")
                       .arg(number)
                       .arg(text_of(sheets.problem->parts[part].id), text_of(sheets.part_names[part])));
        y += 4.8;
    }
    const QString words = order_in_words(cuts, job.unit);
    paper.text({margin, page_h - margin - 12, page_w - 2 * margin, 5}, 3, words);
    paper.text({margin, page_h - margin - 6, page_w - 2 * margin, 5}, 3,
               "Guard, push stick, eyes and dust mask at the saw; local codes come first.");
}

/// Up and forward as an arrow each, in the part's drawing as face A is seen.
void direction(QPainter& p, const QPointF& from, const Vec2& way) {
    constexpr double long_mm = 7, head_mm = 1.6;
    if (way.norm() < 0.3) return;  // it points through the panel
    const QPointF d(way.normalized().x(), -way.normalized().y()), to = from + long_mm * d, side(-d.y(), d.x());
    p.drawLine(from, to);
    p.drawLine(to, to - head_mm * d + head_mm / 2 * side);
    p.drawLine(to, to - head_mm * d - head_mm / 2 * side);
}

void label_pages(Paper& paper, const job::Results& results, const std::vector<exchange::CutRow>& rows) {
    int number = 0;
    for (const auto& r : rows) {
        const auto* result = results.piece(job::piece_of_part(r.part_id));
        for (int copy = 1; copy <= r.quantity; ++copy, ++number) {
            const int on_page = number % (labels_across * labels_down);
            if (on_page == 0) paper.next_page();
            const double x = (on_page % labels_across) * label_w, y = 0.5 + (on_page / labels_across) * label_h;
            paper.pen(0.1, Qt::DotLine);
            paper.painter().drawRect(QRectF(x, y, label_w, label_h));
            const double w = label_w - 22;
            paper.text({x + 4, y + 4, w, 8}, 6.5,
                       text_of(r.part_id) + (r.quantity > 1 ? QString(" #%1").arg(copy) : QString()), true);
            paper.text({x + 4, y + 13, w, 5}, 3.2, text_of(r.piece));
            paper.text({x + 4, y + 18, w, 5}, 3.2, text_of(r.unit) + (r.unit.empty() ? "" : ", ") + text_of(r.hand));
            paper.text({x + 4, y + 23, w, 5}, 3, text_of(r.material));
            paper.text({x + 4, y + 28, w, 5}, 3, "on face A; good face " + text_of(r.good_face));
            if (!result || !result->shape()) continue;
            const auto& frame = result->shape()->frame;
            const Vec2 up(frame.u.z(), frame.v.z()), forward(frame.u.x(), frame.v.x());
            paper.pen(0.4);
            const QPointF middle(x + label_w - 12, y + 20);
            direction(paper.painter(), middle, up);
            if (up.norm() >= 0.3) paper.text({x + label_w - 21, y + 4, 18, 4}, 2.6, "up", false, Qt::AlignCenter);
            paper.pen(0.25, Qt::DashLine);
            direction(paper.painter(), middle, forward);
            paper.text({x + label_w - 21, y + 30, 18, 4}, 2.6,
                       forward.norm() >= 0.3  ? "dashed: forward"
                       : frame.normal.x() > 0 ? "face A aft"
                                              : "face A forward",
                       false, Qt::AlignCenter);
        }
    }
}

}  // namespace

Result<bool> write_cut_papers(const job::Job& job, const job::Results& results, const std::string& path) {
    const auto rows = exchange::cut_list(job, results);
    if (rows.empty()) return Error{"there is nothing to cut yet: no piece has an outline"};
    QSaveFile file(QString::fromStdString(path));
    if (!file.open(QIODevice::WriteOnly)) return Error{"cannot be written: " + file.errorString().toStdString()};
    {
        QPdfWriter writer(&file);
        writer.setResolution(dots_per_inch);
        writer.setTitle("Cut papers: " + text_of(job.name));
        writer.setCreator("Bevelsmith");
        writer.setPageSize(QPageSize(QPageSize::A4));
        writer.setPageMargins(QMarginsF(0, 0, 0, 0));
        Paper paper(writer);
        list_page(paper, job, rows);
        for (const auto& sheets : results.sheets)
            for (int s = 0; s < static_cast<int>(sheets.layout->sheet_stock.size()); ++s)
                sheet_page(paper, job, sheets, s);
        length_pages(paper, job, results);
        label_pages(paper, results, rows);
    }
    if (!file.commit()) return Error{"cannot be written: " + file.errorString().toStdString()};
    return true;
}

}  // namespace bevelsmith::paper
